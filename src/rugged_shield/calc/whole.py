"""A whole job file judged: the same answer on the command line and over HTTP."""

from __future__ import annotations

import multiprocessing
import os
from functools import partial
from typing import Any

from pydantic import TypeAdapter

from rugged_shield.core.assess.frame import Assessment, PlateSaid, assessment, plate_said
from rugged_shield.core.job import Job
from rugged_shield.formats.jobfile import JobFile, read_job_file

_ASSESSMENT = TypeAdapter(Assessment)


def assessed(file: JobFile, quick: bool = False, processes: int = 1) -> Assessment:
    """Everything judged of a job file.

    ``quick`` leaves the strikes out. Plates do not know each other: with ``processes`` above
    one they are judged side by side.
    """
    plates = _plates(file.job, not quick, processes)
    return assessment(file.job, file.records, plates)


def assess(text: bytes, quick: bool = False, processes: int = 1) -> dict[str, Any]:
    """A job file of any version judged, as plain JSON values; InputError for what is none."""
    found = assessed(read_job_file(text), quick, processes)
    out: dict[str, Any] = _ASSESSMENT.dump_python(found, mode="json")
    return out


def cores() -> int:
    """How many plates can be judged side by side on this machine."""
    return os.cpu_count() or 1


def _plates(job: Job, strikes: bool, processes: int) -> dict[str, PlateSaid]:
    keys = [c.key for c in (job.stock, *job.candidates)]
    judge = partial(plate_said, job, strikes=strikes)
    if not strikes or processes < 2 or len(keys) < 2:
        return {key: judge(key) for key in keys}
    # A fork starts with everything imported; only the command line asks, which has no threads.
    with multiprocessing.get_context("fork").Pool(min(processes, len(keys))) as pool:
        return dict(zip(keys, pool.map(judge, keys, chunksize=1), strict=True))
