"""The job file: one JSON document with a job and its record, version inside.

It is the one door for demo data and for anything a person brings along.
"""

from __future__ import annotations

import json
from dataclasses import dataclass
from pathlib import Path
from typing import Any, Literal

from pydantic import TypeAdapter, ValidationError

from rugged_shield.core.errors import InputError
from rugged_shield.core.job import Candidate, Job
from rugged_shield.core.survey import Bike
from rugged_shield.core.tighten import Record
from rugged_shield.formats.jsontext import (
    check_depth,
    first_error,
    read_json,
    unknown_field,
)

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
BIKE = TypeAdapter(Bike)
CANDIDATE = TypeAdapter(Candidate)
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


def read_job_file(text: bytes) -> JobFile:
    """Read a job file; refuses what is too large, foreign or damaged, with the place.

    Types are strict: a number must be a number, in the unit its name ends in.
    """
    if len(text) > MAX_BYTES:
        raise InputError("file", f"more than {MAX_BYTES} bytes", f"at most {MAX_BYTES} bytes")
    data = read_json(text)
    check_depth(data)
    try:
        file = _FILE.validate_json(text, strict=True)
    except ValidationError as error:
        raise first_error(error) from error
    extra = unknown_field(data, _FILE.dump_python(file, mode="json"))
    if extra is not None:
        raise InputError(extra, extra.split(".")[-1], "a field of the schema", "unknown field")
    _check_records(file.records)
    return file


def _check_records(records: tuple[Record, ...]) -> None:
    """Lines are numbered upward, and what is taken back stands before it."""
    seen: set[int] = set()
    for i, record in enumerate(records):
        if record.seq in seen or (seen and record.seq < max(seen)):
            raise InputError(f"records.{i}.seq", record.seq, "numbers that go up")
        seen.add(record.seq)
        if record.ref is not None and record.ref not in seen:
            raise InputError(f"records.{i}.ref", record.ref, "an earlier line of the record")
        for field in ("torque_nm", "km"):
            value = getattr(record, field)
            if value is not None and not 0 <= value <= 1e6:
                raise InputError(f"records.{i}.{field}", value, "a number from 0 to 1000000")


def load_job_file(path: Path) -> JobFile:
    """Read a job file from disk, never more of it than a job file may have."""
    with path.open("rb") as file:
        return read_job_file(file.read(MAX_BYTES + 1))


def job_file_schema() -> dict[str, Any]:
    """JSON Schema of the job file, version inside."""
    schema = _FILE.json_schema(mode="validation")
    schema["$schema"] = "https://json-schema.org/draft/2020-12/schema"
    schema["title"] = f"{FORMAT}, version {VERSION}"
    return schema


def write_job_file(job: Job, records: tuple[Record, ...]) -> str:
    """A job and its record as a job file."""
    data = _FILE.dump_python(JobFile(FORMAT, VERSION, job, records), mode="json")
    return json.dumps(data, indent=1, ensure_ascii=False) + "\n"
