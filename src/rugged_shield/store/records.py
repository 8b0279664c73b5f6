"""A job's record as it is stored: lines are only added, so none is read twice."""

from __future__ import annotations

import json
from collections import OrderedDict
from dataclasses import dataclass
from functools import lru_cache
from threading import Lock
from typing import Any
from weakref import WeakKeyDictionary

from sqlalchemy import event, func, select
from sqlalchemy.orm import Session

from rugged_shield.core.job.events import Event, Record
from rugged_shield.formats.codec import event_from_json
from rugged_shield.store.database import is_writing
from rugged_shield.store.models import EventModel

MOST_JOBS = 8
MOST_LINES = 30_000
"""Of all records that are kept, about a kilobyte each; a longer one is read at every look."""


@dataclass(frozen=True)
class _Mark:
    """What tells one state of a record from another: lines, the last one's id, how many voided.

    Lines are never changed or taken away one by one, and undo voids the last that stands: for
    one last id the number of the voided says which they are. When the first and the last were
    told and how much they hold tells a record that was put in its place from another's file.
    """

    lines: int
    last: int
    voided: int
    first_at: str
    letters: int


@dataclass(frozen=True)
class _Known:
    mark: _Mark
    record: Record


class _Kept:
    """Records of the jobs that were looked at last, of one database."""

    def __init__(self) -> None:
        self._lock = Lock()
        self._jobs: OrderedDict[str, _Known] = OrderedDict()

    def get(self, job_id: str) -> _Known | None:
        with self._lock:
            known = self._jobs.get(job_id)
            if known is not None:
                self._jobs.move_to_end(job_id)
            return known

    def put(self, job_id: str, known: _Known) -> None:
        if len(known.record) > MOST_LINES:
            return
        with self._lock:
            self._jobs[job_id] = known
            while len(self._jobs) > MOST_JOBS or self._lines() > MOST_LINES:
                self._jobs.popitem(last=False)

    def _lines(self) -> int:
        return sum(len(known.record) for known in self._jobs.values())


_OF_DATABASE: WeakKeyDictionary[Any, _Kept] = WeakKeyDictionary()
"""By the pool that a database's engines share."""


@lru_cache(maxsize=2048)
def _line_of(seq: int, at: str, kind: str, payload: str) -> Event:
    return event_from_json({"seq": seq, "at": at, "kind": kind, **json.loads(payload)})


def _mark(session: Session, job_id: str) -> _Mark:
    lines, last, voided, first_at, letters = session.execute(
        select(
            func.count(EventModel.id),
            func.coalesce(func.max(EventModel.id), 0),
            # Counted, not summed: a sum of booleans would come back as one.
            func.count(EventModel.id).filter(EventModel.voided.is_(True)),
            func.coalesce(func.min(EventModel.at), ""),
            func.coalesce(func.sum(func.length(EventModel.payload)), 0),
        ).where(EventModel.job_id == job_id)
    ).one()
    return _Mark(int(lines), int(last), int(voided), str(first_at), int(letters))


def _has_grown(before: _Mark, now: _Mark) -> bool:
    """Whether lines were added to this very record, and nothing else."""
    same = before.voided == now.voided and before.first_at == now.first_at
    return same and now.lines > before.lines and now.last > before.last


def _read(session: Session, job_id: str, after: int) -> Record:
    found = session.execute(
        select(EventModel.seq, EventModel.at, EventModel.kind, EventModel.payload)
        .where(EventModel.job_id == job_id, EventModel.voided.is_(False), EventModel.id > after)
        .order_by(EventModel.seq)
    )
    return tuple(_line_of(*line) for line in found)


def records_of(session: Session, job_id: str) -> Record:
    """The lines of a job's record that stand, in their order.

    What a write saw is kept once it stands: one that is taken back may give its numbers again.
    """
    engine: Any = session.get_bind()
    kept = _OF_DATABASE.setdefault(engine.pool, _Kept())
    mark, known = _mark(session, job_id), kept.get(job_id)
    if known is not None and known.mark == mark:
        return known.record
    if known is not None and _has_grown(known.mark, mark):
        record = (*known.record, *_read(session, job_id, known.mark.last))
    else:
        record = _read(session, job_id, 0)
    now = _Known(mark, record)
    if is_writing(engine):
        event.listen(session, "after_commit", lambda _: kept.put(job_id, now), once=True)
    else:
        kept.put(job_id, now)
    return record
