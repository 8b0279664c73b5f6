"""Keep's entries: everything that is logged, by a tap or a few figures; nothing is rewritten."""

from __future__ import annotations

from typing import get_args

from flask import Blueprint

from rugged_shield.core.amounts import System
from rugged_shield.core.assess.keep.log import (
    note_counter,
    note_found,
    note_held,
    note_look,
    note_oil,
    note_part,
    note_ride,
    note_strike,
    note_warmth,
    note_wear,
    note_words,
    snooze,
    void,
)
from rugged_shield.core.errors import InputError, choose
from rugged_shield.core.job.edits.path import read_field
from rugged_shield.core.job.model import Job
from rugged_shield.core.keep.events import (
    Felt,
    FoundTorque,
    Mended,
    OilChanged,
    PartReplaced,
    PlateStruck,
    Ridden,
    RunsWarm,
    WearRead,
)
from rugged_shield.store.shelf import photo
from rugged_shield.web.api import route
from rugged_shield.web.jobs import database, record
from rugged_shield.web.stations.keep.views import (
    BlowWrite,
    FoundWrite,
    KmWrite,
    LookedOverWrite,
    NoteWrite,
    OilWrite,
    PartWrite,
    RideWrite,
    SnoozeWrite,
    VoidWrite,
    WarmthWrite,
    WearWrite,
)
from rugged_shield.web.views import SavedView

blueprint = Blueprint("keep_entries", __name__, url_prefix="/api/jobs/<job_id>/keep")


def _number(kind: type, field: str, text: str, name: str, system: System) -> float | None:
    """A figure as typed; None where nothing was."""
    return None if not text.strip() else read_field(kind, field, text, name, system)


def _needed(kind: type, field: str, text: str, name: str, system: System) -> float:
    value = _number(kind, field, text, name, system)
    if value is None:
        raise InputError(name, "", "a figure", "nothing was entered")
    return value


@route(blueprint, "POST", "/found", SavedView, FoundWrite)
def found(job_id: str, body: FoundWrite) -> SavedView:
    """Record how a joint was found at a re-check, and what it was tightened to."""
    if body.held:
        return record(job_id, body, lambda row: note_held(row.job, row.records, body.joint))
    value = _needed(FoundTorque, "torque_nm", body.text, "torque_nm", body.system)
    then = _number(FoundTorque, "torque_nm", body.tightened, "tightened_nm", body.system)
    return record(
        job_id, body, lambda row: note_found(row.job, row.records, body.joint, value, then)
    )


@route(blueprint, "POST", "/km", SavedView, KmWrite)
def km(job_id: str, body: KmWrite) -> SavedView:
    """Note the bike's counter now."""
    value = _needed(Job, "odometer_km", body.text, "km", body.system)
    return record(job_id, body, lambda row: note_counter(row.job, row.records, value))


@route(blueprint, "POST", "/ride", SavedView, RideWrite)
def ride(job_id: str, body: RideWrite) -> SavedView:
    """Note a ride by km, hours, or both."""
    far = _number(Ridden, "km", body.km, "km", body.system)
    hours = _number(Ridden, "hours", body.hours, "hours", body.system)
    return record(job_id, body, lambda _: note_ride(far, hours))


@route(blueprint, "POST", "/strike", SavedView, BlowWrite)
def strike(job_id: str, body: BlowWrite) -> SavedView:
    """Note a blow where the plate was tapped on the drawing from below."""
    choose("felt", body.felt, get_args(Felt), "way it felt")
    dent = _number(PlateStruck, "dent_mm", body.dent, "dent_mm", body.system)
    return record(
        job_id,
        body,
        lambda row: note_strike(row.job, body.y_drawn, -body.x_drawn, body.felt, dent, body.note),
    )


@route(blueprint, "POST", "/look", SavedView, LookedOverWrite)
def look(job_id: str, body: LookedOverWrite) -> SavedView:
    """Note what was looked at and what was found."""
    return record(job_id, body, lambda row: note_look(row.job, body.looked, body.found))


@route(blueprint, "POST", "/oil", SavedView, OilWrite)
def oil(job_id: str, body: OilWrite) -> SavedView:
    """Note an oil change."""
    minutes = _number(OilChanged, "minutes", body.minutes, "minutes", "metric")
    return record(
        job_id, body, lambda row: note_oil(row.job, minutes, body.came_off, body.joints, body.nuts)
    )


@route(blueprint, "POST", "/wear", SavedView, WearWrite)
def wear(job_id: str, body: WearWrite) -> SavedView:
    """Note the thickness of a worn place."""
    value = _needed(WearRead, "thickness_mm", body.text, "thickness_mm", body.system)
    return record(job_id, body, lambda row: note_wear(row.job, row.records, body.place, value))


@route(blueprint, "POST", "/part", SavedView, PartWrite)
def part(job_id: str, body: PartWrite) -> SavedView:
    """Note a part replaced, straightened or turned."""
    choose("done", body.done, get_args(Mended), "thing to do with a part")
    cost = _number(PartReplaced, "cost", body.cost, "cost", "metric")
    return record(job_id, body, lambda row: note_part(row.job, body.what, body.done, cost))


@route(blueprint, "POST", "/warmth", SavedView, WarmthWrite)
def warmth(job_id: str, body: WarmthWrite) -> SavedView:
    """Note how warm it ran, with the plate or without."""
    air = _needed(RunsWarm, "air_c", body.air, "air_c", body.system)
    running = _needed(RunsWarm, "running_c", body.running, "running_c", body.system)
    fan = _number(RunsWarm, "fan_min", body.fan, "fan_min", body.system)
    return record(
        job_id, body, lambda _: note_warmth(body.with_plate, air, running, fan, body.ride)
    )


@route(blueprint, "POST", "/note", SavedView, NoteWrite)
def note(job_id: str, body: NoteWrite) -> SavedView:
    """Note something in words, with a picture that was kept or without."""
    if body.photo:
        photo(database(), job_id, body.photo)
    return record(job_id, body, lambda _: note_words(body.text, body.photo, body.step))


@route(blueprint, "POST", "/snooze", SavedView, SnoozeWrite)
def put_off(job_id: str, body: SnoozeWrite) -> SavedView:
    """Put off what is due, with a reason."""
    until = _number(Job, "odometer_km", body.until_km, "until_km", body.system)
    return record(
        job_id,
        body,
        lambda row: snooze(row.job, row.records, body.due, until, body.until, body.reason),
    )


@route(blueprint, "POST", "/void", SavedView, VoidWrite)
def voided(job_id: str, body: VoidWrite) -> SavedView:
    """A line of Keep does not count; it stays in the record with the reason."""
    return record(job_id, body, lambda row: void(row.job, row.records, body.seq, body.reason))
