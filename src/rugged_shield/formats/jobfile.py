"""The job file: one JSON document with a job and its record, version inside.

It is the one door for demo data and for anything a person brings along. A file of an older
version is read through the same upgrades as the store.
"""

from __future__ import annotations

import json
from dataclasses import dataclass
from typing import Any, Literal

from pydantic import TypeAdapter, ValidationError

from rugged_shield.core.errors import InputError
from rugged_shield.core.job.events import Record, check_record
from rugged_shield.core.job.model import Job
from rugged_shield.core.job.upgrade import VERSION, upgrade
from rugged_shield.formats.codec import StoredEvent, refuse_unknown
from rugged_shield.formats.jsontext import check_shape, first_error, in_single_lines, read_json

FORMAT: Literal["rugged-shield job"] = "rugged-shield job"
MAX_BYTES = 40_000_000
"""A record of as many lines as are taken, each of as many letters, beside the largest job."""


@dataclass(frozen=True)
class JobFile:
    """What a job file of today's version holds."""

    format: Literal["rugged-shield job"]
    version: Literal[4]
    job: Job
    records: tuple[StoredEvent, ...] = ()


_FILE = TypeAdapter(JobFile)


def _upgraded(data: Any) -> Any:
    """The document as today's version has it; what is no job file at all is left to be refused."""
    if not isinstance(data, dict) or data.get("format") != FORMAT:
        return data
    version = data.get("version")
    if type(version) is not int:
        raise InputError("version", version, f"a whole number from 1 to {VERSION}")
    return {**upgrade(data, version), "version": VERSION}


def read_job_file(text: bytes) -> JobFile:
    """Read a job file; refuses what is too large, foreign or damaged, with the place.

    Types are strict: a number must be a number, in the unit its name ends in.
    """
    if len(text) > MAX_BYTES:
        raise InputError("file", f"more than {MAX_BYTES} bytes", f"at most {MAX_BYTES} bytes")
    data = read_json(text)
    check_shape(data)
    data = _upgraded(in_single_lines(data))
    try:
        file = _FILE.validate_json(json.dumps(data), strict=True)
    except ValidationError as error:
        raise first_error(error) from error
    refuse_unknown(data, _FILE.dump_python(file, mode="json"))
    check_record(file.records)
    return file


def job_file_schema() -> dict[str, Any]:
    """JSON Schema of the job file, version inside."""
    schema = _FILE.json_schema(mode="validation")
    schema["$schema"] = "https://json-schema.org/draft/2020-12/schema"
    schema["title"] = f"{FORMAT}, version {VERSION}"
    return schema


def write_job_file(job: Job, records: Record) -> str:
    """A job and its record as a job file."""
    data = _FILE.dump_python(JobFile(FORMAT, VERSION, job, records), mode="json")
    return json.dumps(data, indent=1, ensure_ascii=False) + "\n"
