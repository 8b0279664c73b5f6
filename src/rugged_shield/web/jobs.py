"""What all stations share: loading a job, its frame, and the one way to write."""

from __future__ import annotations

import secrets
from collections.abc import Callable
from typing import Any

from flask import Blueprint, Response, current_app, request

from rugged_shield.core.assess.frame import StationState, ledger, marked, next_act, station_states
from rugged_shield.core.assess.keep import due_of
from rugged_shield.core.assess.tighten import done_steps, plan_of, step_at
from rugged_shield.core.job import Job
from rugged_shield.core.job.edits import Change, Taken, set_text
from rugged_shield.core.tighten import Record, joint_states
from rugged_shield.formats.jobfile import read_job_file, write_job_file
from rugged_shield.store import (
    Database,
    JobRow,
    Saved,
    add_job,
    append_record,
    edit_job,
    history,
    last_edit,
    list_jobs,
    load_job,
    step_back,
    step_forward,
)
from rugged_shield.web.api import route
from rugged_shield.web.views import (
    Brought,
    FieldWrite,
    Frame,
    JobList,
    JobSummary,
    SavedView,
    Write,
)

blueprint = Blueprint("jobs", __name__, url_prefix="/api/jobs")


def database() -> Database:
    """The database of the running application."""
    db: Database = current_app.extensions["rugged_shield_db"]
    return db


def stations_of(row: JobRow) -> tuple[StationState, ...]:
    """Where each station of a job stands, record included."""
    job = row.job
    plan = plan_of(job, job.in_hand.key)
    states = joint_states(row.records, plan.joint_order)
    torqued = sum(1 for s in states.values() if s.reading is not None)
    due, _ = due_of(job, row.records)
    at = step_at(plan, done_steps(plan, row.records))
    return station_states(job, torqued, at, len(plan.steps), due.short, due.verdict)


def frame_of(row: JobRow) -> Frame:
    """The frame around every screen of a job."""
    job = row.job
    words, before = last_edit(database(), row.id)
    lines = ledger(job)
    if before is not None:
        lines = marked(lines, ledger(before))
    turns = history(database(), row.id)
    return Frame(
        id=row.id,
        version=row.version,
        title=job.title,
        bike=job.bike.name,
        plate=job.in_hand.plate.name,
        plate_key=job.in_hand.key,
        picked=bool(job.picked),
        ledger=lines,
        stations=stations_of(row),
        last_act=words,
        undo=turns.undo,
        redo=turns.redo,
    )


def saved(result: Saved) -> SavedView:
    """The answer to a write."""
    return SavedView(result.row.version, result.words, frame_of(result.row))


def write(job_id: str, body: Write, change: Callable[[Job], Change]) -> SavedView:
    """Carry out a change of facts."""
    return saved(edit_job(database(), job_id, body.version, body.key, change))


def record(job_id: str, body: Write, make: Callable[[JobRow], tuple[Record, str]]) -> SavedView:
    """Add a line to the record."""
    return saved(append_record(database(), job_id, body.version, body.key, make))


def new_record(kind: str, **rest: object) -> Record:
    """A line of the record; the store sets its number and time."""
    return Record(seq=0, kind=kind, at="", **rest)  # type: ignore[arg-type]


def row_of(job_id: str) -> JobRow:
    """The stored job."""
    return load_job(database(), job_id)


def _standing(job: Job, stations: tuple[StationState, ...]) -> tuple[str, str]:
    """Where a job stands in words, and the station to go to."""
    by_key = {s.key: s for s in stations}
    tighten, fit = by_key["tighten"], by_key["fit-up"]
    if not job.picked:
        return "choosing a plate", "weigh-up"
    if tighten.settled == tighten.of and tighten.of:
        return "fitted", "keep"
    if tighten.settled:
        return f"half fitted: {tighten.words}", "tighten"
    if fit.verdict == "blocked":
        return f"picked, a joint is blocked: {fit.words}", "fit-up"
    return f"picked: {by_key['kit'].words}", "kit"


@route(blueprint, "GET", "", JobList)
def jobs() -> JobList:
    """The work list: every job, where it stands, what is due next."""
    out = []
    for row in list_jobs(database()):
        stations = stations_of(row)
        due, _ = due_of(row.job, row.records)
        stands, station = _standing(row.job, stations)
        out.append(
            JobSummary(
                id=row.id,
                title=row.job.title,
                bike=row.job.bike.name,
                plate=row.job.in_hand.plate.name if row.job.picked else "",
                stands=stands,
                station=station,
                due=next_act(row.job, row.records),
                due_verdict=due.verdict,
                stations=stations,
            )
        )
    return JobList(tuple(out))


@route(blueprint, "POST", "", Brought, dict[str, Any])
def bring_in(body: dict[str, Any]) -> Brought:
    """Bring in a job file as a new job; the request's body is the file."""
    del body  # read again below: the file's own reader sees doubled fields, this dict does not
    file = read_job_file(request.get_data())
    row = add_job(database(), f"job-{secrets.token_hex(4)}", file.job, file.records)
    return Brought(row.id, row.job.title)


@blueprint.get("/<job_id>/file")
def job_file(job_id: str) -> Response:
    """The job as a job file to keep or hand on."""
    row = row_of(job_id)
    answer = Response(write_job_file(row.job, row.records), mimetype="application/json")
    answer.headers["Content-Disposition"] = 'attachment; filename="job.json"'
    return answer


@route(blueprint, "GET", "/<job_id>", Frame)
def frame(job_id: str) -> Frame:
    """The frame of a job: ledger against stock, stations, last act."""
    return frame_of(row_of(job_id))


@route(blueprint, "PATCH", "/<job_id>/field", SavedView, FieldWrite)
def set_field(job_id: str, body: FieldWrite) -> SavedView:
    """Set one fact of a job from typed text."""
    taken = Taken(body.instrument, body.resolution, body.at) if body.instrument else None
    return write(job_id, body, lambda job: set_text(job, body.path, body.text, body.system, taken))


@route(blueprint, "POST", "/<job_id>/undo", SavedView, Write)
def undo(job_id: str, body: Write) -> SavedView:
    """Take back the last edit that stands."""
    return saved(step_back(database(), job_id, body.version, body.key))


@route(blueprint, "POST", "/<job_id>/redo", SavedView, Write)
def redo(job_id: str, body: Write) -> SavedView:
    """Do again the last edit that was taken back."""
    return saved(step_forward(database(), job_id, body.version, body.key))
