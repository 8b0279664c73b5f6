"""A whole job file judged: the same answer on the command line and over HTTP."""

from __future__ import annotations

from functools import partial
from typing import Any

from pydantic_core import to_jsonable_python

from rugged_shield.core.assess.frame.assessment import Assessment, assessment, plate_said
from rugged_shield.core.remembered import Beside
from rugged_shield.formats.jobfile import JobFile, read_job_file


def assessed(file: JobFile, quick: bool = False, beside: Beside | None = None) -> Assessment:
    """Everything judged of a job file.

    ``quick`` leaves the strikes out. Plates do not know each other: ``beside`` may judge them
    side by side.
    """
    job = file.job
    keys = [c.key for c in (job.stock, *job.candidates)]
    judge = partial(plate_said, job, strikes=not quick)
    # Without strikes a plate is judged sooner than a fork is there.
    said = map(judge, keys) if beside is None else beside(judge, keys)
    plates = dict(zip(keys, said, strict=True))
    return assessment(job, file.records, plates)


def assess(text: bytes, quick: bool = False, beside: Beside | None = None) -> dict[str, Any]:
    """A job file of any version judged, as plain JSON values; InputError for what is none."""
    found = assessed(read_job_file(text), quick, beside)
    out: dict[str, Any] = to_jsonable_python(found)
    return out
