"""The job file: one JSON document with a job and its record, version inside.

It is the one door for demo data and for anything a person brings along.
"""

from __future__ import annotations

import json
from dataclasses import dataclass
from typing import Any, Literal

from pydantic import TypeAdapter, ValidationError

from rugged_shield.core.assess import Job
from rugged_shield.core.errors import InputError
from rugged_shield.core.tighten import Record

FORMAT: Literal["rugged-shield job"] = "rugged-shield job"
VERSION: Literal[1] = 1
MAX_BYTES = 5_000_000


@dataclass(frozen=True)
class JobFile:
    """What a job file holds."""

    format: Literal["rugged-shield job"]
    version: Literal[1]
    job: Job
    records: tuple[Record, ...] = ()


JOB = TypeAdapter(Job)
_FILE = TypeAdapter(JobFile)


def job_to_json(job: Job) -> Any:
    """A job as plain JSON values."""
    return JOB.dump_python(job, mode="json")


def job_from_json(data: Any) -> Job:
    """A job from plain JSON values, checked on the way in."""
    try:
        return JOB.validate_python(data)
    except ValidationError as error:
        raise first_error(error) from error


def first_error(error: ValidationError) -> InputError:
    """The first thing wrong, in the one error shape."""
    first = error.errors(include_url=False)[0]
    cause = (first.get("ctx") or {}).get("error")
    place = ".".join(str(part) for part in first["loc"])
    if isinstance(cause, InputError):
        return cause.at(place) if place else cause
    value = first.get("input")
    shown = "" if isinstance(value, dict | list) else value
    return InputError(place or "body", shown, first["msg"], first["msg"])


def read_job_file(text: str | bytes) -> JobFile:
    """Read a job file; refuses what is too large, foreign or damaged, with the place."""
    if len(text) > MAX_BYTES:
        raise InputError("file", f"{len(text)} bytes", f"at most {MAX_BYTES} bytes")
    try:
        return _FILE.validate_json(text)
    except ValidationError as error:
        raise first_error(error) from error


def write_job_file(job: Job, records: tuple[Record, ...]) -> str:
    """A job and its record as a job file."""
    data = _FILE.dump_python(JobFile(FORMAT, VERSION, job, records), mode="json")
    return json.dumps(data, indent=1, ensure_ascii=False) + "\n"
