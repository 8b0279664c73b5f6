"""The demo scenario as job files, loaded through the door of any job file."""

from __future__ import annotations

from importlib.resources import files

from rugged_shield.formats.jobfile import JobFile, read_job_file
from rugged_shield.store.database import Database
from rugged_shield.store.repository import add_job, job_ids

EXAMPLE = "choosing"
"""The job that is offered to look at where there is none yet."""
DEMO_JOBS = (
    "choosing",
    "kit_open",
    "half_fitted",
    "in_service",
    "holes_off",
    "wing_in_the_way",
)


def demo_job(name: str) -> JobFile:
    """One job of the demo scenario."""
    return read_job_file((files("rugged_shield.demo") / f"{name}.json").read_bytes())


def load_demo(db: Database) -> int:
    """Add the demo jobs to an empty database; returns how many were added."""
    if job_ids(db):
        return 0
    for name in DEMO_JOBS:
        file = demo_job(name)
        add_job(db, name.replace("_", "-"), file.job, file.records)
    return len(DEMO_JOBS)
