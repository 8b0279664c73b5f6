"""The work list: heads of all jobs, what is shown of each; put away, binned, gone for good."""

from __future__ import annotations

import secrets
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any, Literal, get_args

from sqlalchemy import Text, delete, select, type_coerce, update

from rugged_shield.core.errors import InputError
from rugged_shield.store.database import Database
from rugged_shield.store.models import EditModel, EventModel, JobModel, PhotoModel
from rugged_shield.store.repository import JobRow, NotFoundError, add_job, load_job

Place = Literal["", "archived", "bin"]
"""Where a job lies: on the list, put away, or in the bin from where it can be taken back."""


@dataclass(frozen=True, kw_only=True)
class JobHead:
    """A job without its facts: ``shown`` is what the list showed of version ``shown_of``, JSON."""

    id: str
    title: str
    version: int
    place: Place
    changed: str
    shown: str | None
    shown_of: str


def job_heads(db: Database) -> tuple[JobHead, ...]:
    """Every job's head, oldest first; no facts are read."""
    columns = (
        JobModel.id,
        JobModel.title,
        JobModel.version,
        JobModel.place,
        JobModel.updated_at,
        # As it is stored: whoever read this text once does not read it again.
        type_coerce(JobModel.shown, Text).label("shown"),
        JobModel.shown_of,
    )
    with db.reading() as session:
        rows = session.execute(select(*columns).order_by(JobModel.created_at, JobModel.id))
        return tuple(
            JobHead(
                id=row.id,
                title=row.title,
                version=row.version,
                place=row.place,
                changed=row.updated_at.isoformat(timespec="seconds"),
                shown=row.shown,
                shown_of=row.shown_of,
            )
            for row in rows
        )


def keep_shown(db: Database, shown: Mapping[str, tuple[int, str, Any]]) -> None:
    """Keep what the list shows of jobs: version, of what it is, and the thing itself.

    A job that has changed meanwhile is left as it is.
    """
    with db.writing() as session:
        for job_id, (version, of, content) in shown.items():
            session.execute(
                update(JobModel)
                .where(JobModel.id == job_id, JobModel.version == version)
                .values(shown=content, shown_of=of, updated_at=JobModel.updated_at)
            )


def put(db: Database, job_id: str, place: str) -> None:
    """Put a job away, into the bin, or back on the list; raises NotFoundError, InputError."""
    if place not in get_args(Place):
        raise InputError("place", place, "the list, “archived” or “bin”")
    with db.writing() as session:
        done = session.execute(
            update(JobModel)
            .where(JobModel.id == job_id)
            .values(place=place, updated_at=JobModel.updated_at)
        )
        if not done.rowcount:  # type: ignore[attr-defined]
            raise NotFoundError(job_id)


def forget(db: Database, job_id: str) -> None:
    """Take a job out of the bin for good, with its record and pictures."""
    with db.writing() as session:
        model = session.get(JobModel, job_id)
        if model is None:
            raise NotFoundError(job_id)
        if model.place != "bin":
            raise InputError("job", job_id, "a job in the bin", "only what is in the bin can go")
        for other in (EventModel, EditModel, PhotoModel):
            session.execute(delete(other).where(other.job_id == job_id))
        session.delete(model)


def copy_job(db: Database, job_id: str) -> JobRow:
    """The facts of a job as a new one, with an empty record: the same plate for the next bike."""
    facts = load_job(db, job_id).job
    title = f"{facts.title} (copy)"[:120]
    return add_job(db, f"job-{secrets.token_hex(4)}", replace(facts, title=title), ())
