"""A whole job file judged: the same answer on the command line and over HTTP."""

from __future__ import annotations

from typing import Any

from pydantic import TypeAdapter

from rugged_shield.core.assess.frame import Assessment, assessment
from rugged_shield.formats.jobfile import read_job_file

_ASSESSMENT = TypeAdapter(Assessment)


def assess(text: bytes, quick: bool = False) -> dict[str, Any]:
    """Everything judged of a job file of any version, as plain JSON values.

    ``quick`` leaves the strikes out. Raises InputError for what is no job file.
    """
    file = read_job_file(text)
    found = assessment(file.job, file.records, strikes=not quick)
    out: dict[str, Any] = _ASSESSMENT.dump_python(found, mode="json")
    return out
