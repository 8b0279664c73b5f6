"""The work list: every job, where it stands, what is due; put away, copied, binned, gone."""

from __future__ import annotations

import logging
import time
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Any

from flask import Blueprint, Response
from sqlalchemy.exc import DBAPIError

from rugged_shield import __version__
from rugged_shield.core.assess.fitup.pose import plate_pose
from rugged_shield.core.assess.frame.next_act import next_act
from rugged_shield.core.assess.frame.stations import StationState, station_states
from rugged_shield.core.assess.frame.stations import standing as standing_of
from rugged_shield.core.assess.keep.due import due_of
from rugged_shield.core.assess.tighten.clocks import clocks_of
from rugged_shield.core.event import of_plate
from rugged_shield.core.mechanics.drawing import Drawing
from rugged_shield.core.moments import seconds_of
from rugged_shield.core.result import Verdict, verdict_of
from rugged_shield.core.survey.small_drawings import small_underside
from rugged_shield.core.tighten.curing import has_passed
from rugged_shield.store.care import plain_words
from rugged_shield.store.repository import JobRow, load_job, raw_job
from rugged_shield.store.worklist import (
    JobHead,
    Place,
    copy_job,
    forget,
    job_heads,
    keep_shown,
    put,
)
from rugged_shield.web.api import adapter, file_route, route
from rugged_shield.web.downloads import download
from rugged_shield.web.jobs import Brought, database, now_iso, row_of

log = logging.getLogger("rugged_shield")

blueprint = Blueprint("worklist", __name__, url_prefix="/api/jobs")

FORM = 6
"""Grows whenever what is shown of a job, or how it is judged, changes."""
BUDGET_S = 0.2
"""How long one look at the list may work out jobs that have changed since the last one."""


NOTHING_TOLD = verdict_of("nothing told")


@dataclass(frozen=True, kw_only=True)
class JobSummary:
    """One line of the work list; ``act_at`` is where what is due next is done.

    ``cures_until``: when the last locker that still cures holds (ISO); empty: none does.
    ``pending``: it is still being worked out, ask again. ``trouble``: it cannot be read, and why.
    """

    id: str
    version: int
    title: str
    place: Place
    changed: str
    bike: str = ""
    customer: str = ""
    plate: str = ""
    stands: str = ""
    station: str = "survey"
    due: str = ""
    act_at: str = "survey"
    due_verdict: Verdict = NOTHING_TOLD
    stations: tuple[StationState, ...] = ()
    cures_until: str = ""
    pending: bool = False
    trouble: str = ""


@dataclass(frozen=True)
class JobList:
    """The work list; ``pending`` are still being worked out."""

    jobs: tuple[JobSummary, ...]
    pending: int


@dataclass(frozen=True)
class PlaceWrite:
    """Where a job is put."""

    place: str


@dataclass(frozen=True)
class Done:
    """What was done, in words."""

    words: str


def _bare(head: JobHead) -> JobSummary:
    return JobSummary(
        id=head.id,
        version=head.version,
        title=head.title,
        place=head.place,
        changed=head.changed,
    )


def _worked_out(head: JobHead, row: JobRow) -> JobSummary:
    stations = station_states(row.job, row.records)
    stands = standing_of(row.job, stations)
    now = now_iso()
    due = due_of(row.job, row.records, now)
    clocks = clocks_of(row.job, of_plate(row.records, row.job.in_hand.key))
    cures = [c.until for c in clocks if c.kind == "cure" and not has_passed(c.until, now)]
    act = next_act(row.job, row.records)
    return replace(
        _bare(head),
        bike=row.job.bike.name,
        customer=row.job.customer,
        plate=row.job.in_hand.plate.name if row.job.picked else "",
        stands=stands.words,
        station=stands.station,
        due=act.words,
        act_at=act.at,
        due_verdict=due.verdict,
        stations=stations,
        cures_until=max(cures, key=lambda at: seconds_of(at) or 0, default=""),
    )


@lru_cache(maxsize=6000)
def _kept(shown: str) -> JobSummary:
    """A line as it was kept."""
    found: JobSummary = adapter(JobSummary).validate_json(shown)
    return found


def _as_kept(head: JobHead, shown: JobSummary, now: str) -> JobSummary:
    """A line as it was kept, with what has moved since: cures that are over, where it lies."""
    cures = "" if has_passed(shown.cures_until, now) else shown.cures_until
    if (shown.place, shown.changed, shown.cures_until) == (head.place, head.changed, cures):
        return shown
    return replace(shown, place=head.place, changed=head.changed, cures_until=cures)


def _summary(head: JobHead) -> JobSummary:
    """Worked out from the job; one that cannot be read says so and hides no other."""
    try:
        return _worked_out(head, load_job(database(), head.id))
    except (ValueError, LookupError, TypeError, ArithmeticError) as error:
        return replace(_bare(head), trouble=str(error)[:300] or type(error).__name__)


def _listed(heads: tuple[JobHead, ...]) -> tuple[JobSummary, ...]:
    """What is kept beside each job, and as many of the changed ones as the budget allows."""
    kept, now = adapter(JobSummary), now_iso()
    # What a line was made from; what is due moves on with the days.
    made = f"{__version__}/{FORM}/{now[:10]}"
    until = time.monotonic() + BUDGET_S
    fresh: dict[str, tuple[int, str, Any]] = {}
    found = []
    for head in heads:
        of = f"{head.version}/{made}"
        if head.shown is not None and head.shown_of == of:
            found.append(_as_kept(head, _kept(head.shown), now))
        elif fresh and time.monotonic() > until:
            found.append(replace(_bare(head), pending=True))
        else:
            summary = _summary(head)
            if not summary.trouble:
                fresh[head.id] = (head.version, of, kept.dump_python(summary, mode="json"))
            found.append(summary)
    if fresh:
        try:
            keep_shown(database(), fresh)
        except DBAPIError as error:
            # Only kept to be quicker the next time: a full disk must not hide the list.
            log.warning("what the work list shows was not kept: %s", plain_words(error).message)
    return tuple(found)


@route(blueprint, "GET", "", JobList)
def jobs() -> JobList:
    """The work list: every job, where it stands, what is due next."""
    listed = _listed(job_heads(database()))
    return JobList(listed, sum(1 for job in listed if job.pending))


@route(blueprint, "GET", "/<job_id>/picture", Drawing)
def picture(job_id: str) -> Drawing:
    """The job's bike from below with the plate in hand, small."""
    job = row_of(job_id).job
    return small_underside(job.bike, plate_pose(job.bike, job.in_hand).folded)


@route(blueprint, "POST", "/<job_id>/place", Done, PlaceWrite)
def place(job_id: str, body: PlaceWrite) -> Done:
    """Put a job away, into the bin, or back on the list."""
    put(database(), job_id, body.place)
    words = {"": "back on the list", "archived": "put away", "bin": "in the bin"}
    return Done(words[body.place])


@route(blueprint, "POST", "/<job_id>/forget", Done, dict[str, Any])
def gone(job_id: str, body: dict[str, Any]) -> Done:
    """Take a job out of the bin for good, with its record and pictures."""
    del body
    forget(database(), job_id)
    return Done("gone for good")


@route(blueprint, "POST", "/<job_id>/copy", Brought, dict[str, Any])
def copied(job_id: str, body: dict[str, Any]) -> Brought:
    """The facts of a job as a new one, with an empty record."""
    del body
    row = copy_job(database(), job_id)
    return Brought(row.id, row.job.title)


@file_route(blueprint, "/<job_id>/raw", "application/json")
def raw(job_id: str) -> Response:
    """A job as it is stored, readable or not, for someone who can mend it."""
    return download(raw_job(database(), job_id), "application/json", "job-as-stored.json")
