"""Loading and changing jobs: one transaction a write, version checked, edit kept."""

from __future__ import annotations

import json
from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from datetime import UTC, datetime, timedelta
from functools import lru_cache
from itertools import islice
from typing import Any

from sqlalchemy import func, insert, select
from sqlalchemy.orm import Session

from rugged_shield.core.errors import InputError
from rugged_shield.core.event import MAX_RECORD
from rugged_shield.core.job.edits.path import Change
from rugged_shield.core.job.events import Entry, Event, Record
from rugged_shield.core.job.model import Job
from rugged_shield.core.job.upgrade import VERSION
from rugged_shield.formats.codec import event_to_json, job_from_json, job_to_json
from rugged_shield.store.database import Database
from rugged_shield.store.diff import diff, inverse, revert
from rugged_shield.store.models import EditModel, EventModel, JobModel, PhotoModel
from rugged_shield.store.records import records_of

AT_ONCE = 1000
"""Lines of a record that are written together: all of fifty thousand would fill the memory."""


class NotFoundError(Exception):
    """There is no job of that id."""


class StaleError(Exception):
    """The write was based on an older version than the stored one."""

    def __init__(self, newer: JobRow, words: str) -> None:
        super().__init__(f"version {newer.version} is newer")
        self.newer = newer
        self.words = words


@dataclass(frozen=True)
class JobRow:
    """A job as stored, with its record."""

    id: str
    version: int
    job: Job
    records: Record


@dataclass(frozen=True)
class History:
    """What can be taken back and done again next, in words; empty for nothing."""

    undo: str
    redo: str


@dataclass(frozen=True)
class Standing:
    """A job as one transaction sees it: the row, its last act, the facts before it, undo.

    ``before`` is None when the last act changed no fact.
    """

    row: JobRow
    last_act: str
    before: Job | None
    history: History


@dataclass(frozen=True)
class Saved:
    """The answer to a write: what was done, and how the job stands after it."""

    standing: Standing
    words: str

    @property
    def row(self) -> JobRow:
        """The job after the write."""
        return self.standing.row


@lru_cache(maxsize=64)
def _job_of(facts: str) -> Job:
    """The job of a row's facts."""
    return job_from_json(json.loads(facts))


@lru_cache(maxsize=32)
def _facts_before(facts: str, changes: str) -> str:
    """The facts before these changes: a text that was most likely read already."""
    return json.dumps(revert(json.loads(facts), json.loads(changes)))


def _row(session: Session, model: JobModel) -> JobRow:
    return JobRow(model.id, model.version, _job_of(model.facts), records_of(session, model.id))


def _model(session: Session, job_id: str) -> JobModel:
    model = session.get(JobModel, job_id)
    if model is None:
        raise NotFoundError(job_id)
    return model


def job_ids(db: Database) -> tuple[str, ...]:
    """Ids of all jobs, oldest first."""
    with db.reading() as session:
        return tuple(
            session.scalars(select(JobModel.id).order_by(JobModel.created_at, JobModel.id))
        )


def unreadable_jobs(db: Database) -> dict[str, str]:
    """Jobs that cannot be read, by their id, and what is wrong with each."""
    found = {}
    with db.reading() as session:
        for job_id in session.scalars(select(JobModel.id).order_by(JobModel.id)):
            try:
                _row(session, _model(session, job_id))
            except (ValueError, LookupError, TypeError) as error:
                found[job_id] = str(error)[:300]
    return found


def load_job(db: Database, job_id: str) -> JobRow:
    """One job; raises NotFoundError."""
    with db.reading() as session:
        return _row(session, _model(session, job_id))


def version_of(db: Database, job_id: str) -> int:
    """The version that a job stands at, without reading it; raises NotFoundError."""
    with db.reading() as session:
        version = session.scalar(select(JobModel.version).where(JobModel.id == job_id))
    if version is None:
        raise NotFoundError(job_id)
    return version


def raw_job(db: Database, job_id: str) -> str:
    """A job exactly as it is stored, as JSON, whether it can be read or not; NotFoundError."""
    with db.reading() as session:
        model = _model(session, job_id)
        lines = session.scalars(
            select(EventModel).where(EventModel.job_id == job_id).order_by(EventModel.seq)
        )
        stored = {
            "id": model.id,
            "version": model.version,
            "facts_version": model.facts_version,
            "facts": json.loads(model.facts),
            "record": [
                {"seq": e.seq, "at": e.at, "kind": e.kind, "voided": e.voided}
                | json.loads(e.payload)
                for e in lines
            ],
        }
        return json.dumps(stored, indent=1, ensure_ascii=False) + "\n"


def add_job(
    db: Database,
    job_id: str,
    job: Job,
    records: Record,
    photos: Mapping[str, bytes] | None = None,
) -> JobRow:
    """Store a new job with its record and pictures, all or nothing; an edit says so.

    Asked again under an id that is there, it is answered with what is there.
    """
    now = datetime.now(UTC)
    with db.writing() as session:
        there = session.get(JobModel, job_id)
        if there is not None:
            return _row(session, there)
        model = JobModel(
            id=job_id,
            title=job.title,
            facts=json.dumps(job_to_json(job)),
            facts_version=VERSION,
            version=1,
            created_at=now,
            updated_at=now,
        )
        session.add(model)
        session.flush()
        lines = iter(records)
        while some := [_event_row(job_id, event) for event in islice(lines, AT_ONCE)]:
            session.execute(insert(EventModel), some)
        session.add(
            EditModel(
                job_id=job_id,
                key=f"added:{job_id}",
                version=1,
                at=now,
                words=f"job “{job.title}” added",
                changes=[],
            )
        )
        for key, jpeg in (photos or {}).items():
            session.add(PhotoModel(id=key, job_id=job_id, jpeg=jpeg, at=now))
    return JobRow(job_id, 1, job, tuple(records))


def _event_row(job_id: str, event: Event) -> dict[str, Any]:
    data = event_to_json(event)
    beside = {name: data.pop(name) for name in ("seq", "kind", "at")}
    return {"job_id": job_id, "payload": json.dumps(data), "voided": False, **beside}


def _repeated(session: Session, job_id: str, key: str) -> EditModel | None:
    return session.scalar(select(EditModel).where(EditModel.job_id == job_id, EditModel.key == key))


def _begin(session: Session, job_id: str, version: int, key: str) -> tuple[JobModel, Saved | None]:
    """The job's row for a write; a repeated key is answered, a stale version refused."""
    model = _model(session, job_id)
    repeat = _repeated(session, job_id, key)
    if repeat is not None:
        return model, Saved(_standing(session, model), repeat.words)
    if model.version != version:
        latest = _latest(session, job_id)
        raise StaleError(_row(session, model), latest.words if latest else "")
    return model, None


def _finish(
    session: Session,
    model: JobModel,
    key: str,
    words: str,
    changes: Any,
    kind: str = "edit",
    ref: int | None = None,
) -> Saved:
    now = datetime.now(UTC)
    model.version += 1
    model.updated_at = now
    session.add(
        EditModel(
            job_id=model.id,
            key=key,
            version=model.version,
            at=now,
            words=words[:400],
            changes=changes,
            kind=kind,
            ref=ref,
        )
    )
    session.flush()
    return Saved(_standing(session, model), words)


def edit_job(
    db: Database, job_id: str, version: int, key: str, change: Callable[[Job], Change]
) -> Saved:
    """Change a job's facts in one transaction.

    ``version`` is what the write was based on; ``key`` makes a repeat harmless.
    Raises StaleError, NotFoundError, or whatever ``change`` refuses.
    """
    with db.writing() as session:
        model, repeat = _begin(session, job_id, version, key)
        if repeat is not None:
            return repeat
        done = change(_job_of(model.facts))
        facts = job_to_json(done.job)
        changes = diff(json.loads(model.facts), facts)
        if not changes:
            return Saved(_standing(session, model), done.words)
        model.facts, model.title = json.dumps(facts), done.job.title
        return _finish(session, model, key, done.words, changes)


def append_record(
    db: Database,
    job_id: str,
    version: int,
    key: str,
    make: Callable[[JobRow], Entry],
    late_s: int = 0,
    by: str = "",
) -> Saved:
    """Add one line to a job's record; its number and time are set here.

    ``late_s`` is how long ago it happened, where it was told later; ``by`` whose device told it.
    """
    with db.writing() as session:
        model, repeat = _begin(session, job_id, version, key)
        if repeat is not None:
            return repeat
        row = _row(session, model)
        if len(row.records) >= MAX_RECORD:
            raise InputError(
                "record",
                len(row.records),
                f"at most {MAX_RECORD} lines",
                "this record is full",
                "Export the job; go on in a new one for the same bike.",
            )
        entry = make(row)
        last = session.scalar(select(func.max(EventModel.seq)).where(EventModel.job_id == job_id))
        # With the computer's own offset: the day of a line is the rider's day, wherever it is read.
        at = (datetime.now(UTC) - timedelta(seconds=late_s)).astimezone()
        numbered = replace(
            entry.event, seq=(last or 0) + 1, at=at.isoformat(timespec="seconds"), by=by
        )
        session.add(EventModel(**_event_row(job_id, numbered)))
        return _finish(session, model, key, entry.words, [{"record": numbered.seq}])


def _latest(session: Session, job_id: str) -> EditModel | None:
    return session.scalar(
        select(EditModel).where(EditModel.job_id == job_id).order_by(EditModel.id.desc()).limit(1)
    )


def _stacks(session: Session, job_id: str) -> tuple[list[int], list[int]]:
    """Ids of edits that stand, and of those undone, each with the next one last."""
    done: list[int] = []
    undone: list[int] = []
    rows = session.execute(
        select(EditModel.id, EditModel.kind, EditModel.version)
        .where(EditModel.job_id == job_id)
        .order_by(EditModel.id)
    )
    for edit_id, kind, version in rows:
        if kind == "undo":
            undone.append(done.pop())
        elif kind == "redo":
            done.append(undone.pop())
        elif version > 1:
            done.append(edit_id)
            undone.clear()
    return done, undone


def _words_of(session: Session, stack: list[int]) -> str:
    edit = session.get(EditModel, stack[-1]) if stack else None
    return edit.words if edit else ""


def _standing(session: Session, model: JobModel) -> Standing:
    latest = _latest(session, model.id)
    facts = [c for c in latest.changes if "path" in c] if latest else []
    done, undone = _stacks(session, model.id)
    return Standing(
        _row(session, model),
        latest.words if latest else "",
        _job_of(_facts_before(model.facts, json.dumps(facts))) if facts else None,
        History(_words_of(session, done), _words_of(session, undone)),
    )


def standing(db: Database, job_id: str) -> Standing:
    """How a job stands, all of it seen at one moment; raises NotFoundError."""
    with db.reading() as session:
        return _standing(session, _model(session, job_id))


def step_back(db: Database, job_id: str, version: int, key: str) -> Saved:
    """Undo the last standing edit, record lines included. Raises InputError for none."""
    return _turn(db, job_id, version, key, "undo")


def step_forward(db: Database, job_id: str, version: int, key: str) -> Saved:
    """Do the last undone edit again. Raises InputError for none."""
    return _turn(db, job_id, version, key, "redo")


def _turn(db: Database, job_id: str, version: int, key: str, kind: str) -> Saved:
    with db.writing() as session:
        model, repeat = _begin(session, job_id, version, key)
        if repeat is not None:
            return repeat
        done, undone = _stacks(session, job_id)
        stack = done if kind == "undo" else undone
        if not stack:
            raise InputError(kind, "", "an edit to take back or do again", f"nothing to {kind}")
        edit = session.get_one(EditModel, stack[-1])
        changes = inverse(edit.changes) if kind == "undo" else edit.changes
        edits = inverse([c for c in changes if "path" in c])
        model.facts = json.dumps(revert(json.loads(model.facts), edits))
        model.title = _job_of(model.facts).title
        for change in changes:
            if "record" in change:
                line = session.scalars(
                    select(EventModel).where(
                        EventModel.job_id == job_id, EventModel.seq == change["record"]
                    )
                ).one()
                line.voided = kind == "undo"
        words = f"{'undone' if kind == 'undo' else 'done again'}: {edit.words}"
        return _finish(session, model, key, words, changes, kind, edit.id)
