"""What all stations share: loading a job, its frame, and the one way to write."""

from __future__ import annotations

import secrets
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any
from urllib.parse import unquote

from flask import Blueprint, Response, current_app, g, request

from rugged_shield.core.amounts import in_system
from rugged_shield.core.assess.frame.ledger import ledger, marked
from rugged_shield.core.assess.frame.next_act import next_act
from rugged_shield.core.assess.frame.stations import station_states
from rugged_shield.core.errors import InputError
from rugged_shield.core.job.edits.path import Change, Taken, set_text
from rugged_shield.core.job.events import Entry, spent_keys
from rugged_shield.core.job.model import Job
from rugged_shield.core.text import check_text
from rugged_shield.core.tighten.register import open_on_bike
from rugged_shield.formats.bundle import MAX_BUNDLE_BYTES, read_brought, write_bundle
from rugged_shield.formats.guarded import BRINGING, within
from rugged_shield.formats.jobfile import MAX_BYTES as MAX_JOB_BYTES
from rugged_shield.formats.jobfile import write_job_file
from rugged_shield.store.database import Database
from rugged_shield.store.repository import (
    JobRow,
    Saved,
    Standing,
    add_job,
    append_record,
    edit_job,
    load_job,
    standing,
    step_back,
    step_forward,
)
from rugged_shield.store.shelf import photos
from rugged_shield.web.access import ZIP, takes_files
from rugged_shield.web.api import asked_system, file_route, route
from rugged_shield.web.clock import Clock
from rugged_shield.web.downloads import download
from rugged_shield.web.phones import LONGEST_NAME
from rugged_shield.web.views import FieldWrite, Frame, PlateName, SavedView, Write

blueprint = Blueprint("jobs", __name__, url_prefix="/api/jobs")


@dataclass(frozen=True)
class Brought:
    """A job that came in as a file."""

    id: str
    title: str


def database() -> Database:
    """The database of the running application."""
    db: Database = current_app.extensions["rugged_shield_db"]
    return db


def frame_of(stands: Standing) -> Frame:
    """The frame around every screen of a job, all of it seen at one moment."""
    row, job = stands.row, stands.row.job
    lines = ledger(job)
    if stands.before is not None:
        lines = marked(lines, ledger(stands.before))
    return Frame(
        id=row.id,
        version=row.version,
        title=job.title,
        bike=job.bike.name,
        plate=job.in_hand.plate.name,
        plate_key=job.in_hand.key,
        plates=tuple(PlateName(c.key, c.plate.name) for c in job.candidates),
        picked=bool(job.picked),
        ledger=lines,
        stations=station_states(job, row.records),
        last_act=stands.last_act,
        undo=stands.history.undo,
        redo=stands.history.redo,
        open_on_bike=tuple(o.name for o in open_on_bike(row.records)),
        next=next_act(job, row.records),
    )


def saved(result: Saved) -> SavedView:
    """The answer to a write."""
    return SavedView(result.row.version, result.words, frame_of(result.standing))


def write(job_id: str, body: Write, change: Callable[[Job], Change]) -> SavedView:
    """Carry out a change of facts."""
    return saved(edit_job(database(), job_id, body.version, body.key, change))


def record(job_id: str, body: Write, make: Callable[[JobRow], Entry]) -> SavedView:
    """Add a line to the record."""
    made = append_record(
        database(), job_id, body.version, body.key, make, body.late_s, device_name()
    )
    return saved(made)


def now_iso() -> str:
    """The clock at the edge, with this computer's own offset; the core asks none."""
    clock: Clock = current_app.extensions["rugged_shield_clock"]
    return clock.now_iso()


def device_name() -> str:
    """Whose device asks: a phone's by its pairing, a computer's as it was typed there once.

    A header holds no letters beyond Latin: the name comes percent-encoded.
    """
    paired: str = g.get("phone_name", "")
    said = " ".join((paired or unquote(request.headers.get("Device", ""))).split())
    check_text("device", said)
    if len(said) > LONGEST_NAME:
        raise InputError("device", said[:80], f"at most {LONGEST_NAME} letters")
    return said


def row_of(job_id: str) -> JobRow:
    """The stored job."""
    return load_job(database(), job_id)


def spent(job_id: str) -> frozenset[str]:
    """Keys that the job's record speaks of, which nothing new may bear."""
    return spent_keys(row_of(job_id).records)


takes_files("jobs.bring_in", ZIP)


@route(blueprint, "POST", "", Brought, dict[str, Any], unread=True)
def bring_in() -> Brought:
    """Bring in a job file, or a zip with one and its photos; the request's body is the file."""
    if request.mimetype in ZIP:
        request.max_content_length = MAX_BUNDLE_BYTES + 1000
    else:
        request.max_content_length = MAX_JOB_BYTES + 1000
    file, pictures = within(BRINGING, read_brought, request.get_data())
    row = add_job(database(), f"job-{secrets.token_hex(4)}", file.job, file.records, pictures)
    return Brought(row.id, row.job.title)


@file_route(blueprint, "/<job_id>/file", "application/json")
def job_file(job_id: str) -> Response:
    """The job as a job file to keep or hand on."""
    row = row_of(job_id)
    return download(write_job_file(row.job, row.records), "application/json", "job.json")


@file_route(blueprint, "/<job_id>/bundle", "application/zip")
def bundle(job_id: str) -> Response:
    """The job file with the job's photos, as one zip."""
    row = row_of(job_id)
    text = in_system(write_job_file(row.job, row.records), asked_system())
    whole = write_bundle(text, photos(database(), job_id))
    return download(whole, "application/zip", "job.zip")


@route(blueprint, "GET", "/<job_id>", Frame)
def frame(job_id: str) -> Frame:
    """The frame of a job: ledger against stock, stations, last act."""
    return frame_of(standing(database(), job_id))


@route(blueprint, "PATCH", "/<job_id>/field", SavedView, FieldWrite)
def set_field(job_id: str, body: FieldWrite) -> SavedView:
    """Set one fact of a job from typed text."""
    taken = Taken(body.instrument, body.resolution, body.at) if body.instrument else None
    return write(
        job_id,
        body,
        lambda job: set_text(job, body.path, body.text, body.system, taken, body.known),
    )


@route(blueprint, "POST", "/<job_id>/undo", SavedView, Write)
def undo(job_id: str, body: Write) -> SavedView:
    """Take back the last edit that stands."""
    return saved(step_back(database(), job_id, body.version, body.key))


@route(blueprint, "POST", "/<job_id>/redo", SavedView, Write)
def redo(job_id: str, body: Write) -> SavedView:
    """Do again the last edit that was taken back."""
    return saved(step_forward(database(), job_id, body.version, body.key))
