"""Commands on the record of a fitted plate: what was ridden, struck, found, changed, voided."""

from __future__ import annotations

import re

from rugged_shield.core.amounts import amount, entered
from rugged_shield.core.assess.keep.blows import struck_place
from rugged_shield.core.assess.keep.due import kept
from rugged_shield.core.assess.weighup.scorecard import weigh
from rugged_shield.core.errors import InputError, choose
from rugged_shield.core.event import OnPlate, Voided, of_plate
from rugged_shield.core.job.edits.readings import check_picked
from rugged_shield.core.job.events import Entry, Event, Record
from rugged_shield.core.job.model import Job
from rugged_shield.core.keep.distance import odometer
from rugged_shield.core.keep.events import (
    KEPT,
    CounterRead,
    DidNotMove,
    FoundTorque,
    LockNuts,
    LookedOver,
    Noted,
    OilChanged,
    PartReplaced,
    PlateStruck,
    Ridden,
    RunsWarm,
    Snoozed,
    WearRead,
    counting,
    voided_lines,
)
from rugged_shield.core.tables.dues import LOOKS
from rugged_shield.core.text import check_text

_DAY = re.compile(r"^\d{4}-\d{2}-\d{2}\Z", re.ASCII)


def _words(field: str, said: str, least: int = 0) -> str:
    words = " ".join(said.split())
    check_text(field, words)
    if len(words) < least:
        raise InputError(field, said, "words", "nothing was entered")
    return words


def _joint_number(job: Job, record: Record, key: str) -> int:
    """Number of a joint of a fitted plate; raises InputError for any other."""
    now = kept(job, record)
    number = next((j.number for j in now.joints if j.key == key), None)
    if number is None:
        raise InputError("joint", key, "a joint of this plate")
    if now.fitted_at is None:
        raise InputError(
            "joint", key, "a fitted plate", "the plate is not fitted yet", f"{now.state.words}"
        )
    return number


def note_found(
    job: Job, record: Record, key: str, torque_nm: float, tightened_nm: float | None = None
) -> Entry:
    """The torque found on a joint of a fitted plate, and what it was tightened to after."""
    number = _joint_number(job, record, key)
    event = FoundTorque(
        plate=job.in_hand.key, joint=key, torque_nm=torque_nm, tightened_nm=tightened_nm
    )
    words = f"joint {number} found at {amount(torque_nm, 'N·m')}"
    if tightened_nm is not None:
        words += f", tightened to {amount(tightened_nm, 'N·m')}"
    return Entry(event, words)


def note_held(job: Job, record: Record, key: str) -> Entry:
    """A joint did not move at its target: the wrench was set for it and clicked at once."""
    number = _joint_number(job, record, key)
    target = next(j.target_nm for j in kept(job, record).joints if j.key == key)
    event = DidNotMove(plate=job.in_hand.key, joint=key, torque_nm=target)
    return Entry(event, f"joint {number} did not move at {amount(target, 'N·m')}")


def note_counter(job: Job, record: Record, km: float) -> Entry:
    """The bike's counter now; it never runs backwards."""
    axis = odometer(counting(of_plate(record, job.in_hand.key)), job.odometer_km)
    if axis.counter_km is not None and km < axis.counter_km:
        raise InputError(
            "km",
            entered(km, "km"),
            f"at least {entered(axis.counter_km, 'km')}, where it stood",
            "the counter would run backwards",
            "Void the line that was wrong, or read it again.",
        )
    return Entry(CounterRead(km=km), f"counter at {amount(km, 'km')}")


def note_ride(km: float | None, hours: float | None) -> Entry:
    """A ride of so many km, so many hours, or both."""
    if km is None and hours is None:
        raise InputError("km", "", "km, hours, or both", "nothing was entered")
    said = [amount(km, "km", 0)] if km is not None else []
    said += [amount(hours, "h", 1)] if hours is not None else []
    return Entry(Ridden(km=km, hours=hours), f"ridden {', '.join(said)}")


def note_strike(
    job: Job, x_mm: float, y_mm: float, felt: str, dent_mm: float | None, note: str
) -> Entry:
    """A blow where the plate was tapped, seen from below."""
    check_picked(job)
    place = struck_place(job, x_mm, y_mm)
    event = PlateStruck(
        plate=job.in_hand.key,
        x_mm=round(place.at_mm[0], 1),
        y_mm=round(place.at_mm[1], 1),
        felt=felt,  # type: ignore[arg-type]
        dent_mm=dent_mm,
        note=_words("note", note),
    )
    dent = "" if not dent_mm else f", a dent of {amount(dent_mm, 'mm', 1)}"
    return Entry(event, f"struck: {felt}{dent}")


def note_look(job: Job, looked: tuple[str, ...], found: str) -> Entry:
    """What was looked at and is well, and what was found."""
    check_picked(job)
    for item in looked:
        choose("looked", item, LOOKS, "thing to look at")
    words = _words("found", found)
    if not looked and not words:
        raise InputError("looked", "", "what was looked at", "nothing was entered")
    event = LookedOver(plate=job.in_hand.key, looked=looked, found=words)
    return Entry(event, f"looked over: {words or 'all well'}")


def oil_joints(job: Job) -> tuple[str, ...]:
    """Joints of the plate in hand that come off for the oil, as the weighing counts its screws."""
    screws = weigh(job, job.in_hand.key).figures["oil_screws"].value
    if not screws:
        return ()
    return tuple(j.key for j in job.in_hand.joints if j.is_off_for_oil)


def note_oil(
    job: Job,
    minutes: float | None,
    came_off: str,
    joints: tuple[str, ...] | None = None,
    nuts: LockNuts = "not said",
) -> Entry:
    """An oil change: how long it took, what came off for it.

    ``joints`` that came off are loose until they are torqued again; None, nobody said: those that
    this plate drops for the oil. Raises InputError for a joint that the plate does not have.
    """
    check_picked(job)
    for key in joints or ():
        choose("joints", key, {j.key for j in job.in_hand.joints}, "joint of this plate")
    off = oil_joints(job) if joints is None else joints
    event = OilChanged(
        plate=job.in_hand.key,
        minutes=minutes,
        came_off=_words("came_off", came_off),
        joints=off,
        nuts=nuts,
    )
    took = "" if minutes is None else f" in {minutes:.0f} min"
    loose = f"; {len(off)} joints are to be torqued again" if off else ""
    return Entry(event, f"oil changed{took}{loose}")


def note_wear(job: Job, record: Record, place: str, thickness_mm: float) -> Entry:
    """The thickness of a worn place at the counter as it stands."""
    check_picked(job)
    axis = odometer(counting(of_plate(record, job.in_hand.key)), job.odometer_km)
    if axis.counter_km is None:
        raise InputError(
            "km",
            "",
            "the bike's counter",
            "wear is told by km, and the counter was never said",
            "Note the counter first.",
        )
    where = _words("place", place, 2)
    event = WearRead(
        plate=job.in_hand.key, place=where, thickness_mm=thickness_mm, km=axis.counter_km
    )
    return Entry(event, f"{where} at {amount(thickness_mm, 'mm', 1)}")


def note_part(job: Job, what: str, done: str, cost: float | None) -> Entry:
    """A part replaced, straightened or turned."""
    check_picked(job)
    words = _words("what", what, 2)
    event = PartReplaced(plate=job.in_hand.key, what=words, done=done, cost=cost)  # type: ignore[arg-type]
    return Entry(event, f"{words} {done}")


def note_warmth(
    with_plate: bool, air_c: float, running_c: float, fan_min: float | None, ride: str
) -> Entry:
    """How warm it ran: the air, the coolant, minutes of fan, on a ride with a name."""
    event = RunsWarm(
        with_plate=with_plate,
        air_c=air_c,
        running_c=running_c,
        fan_min=fan_min,
        ride=_words("ride", ride, 2),
    )
    return Entry(event, f"runs at {amount(running_c, '°C', 0)} in {amount(air_c, '°C', 0)} air")


def note_words(text: str, photo: str = "", step: str = "") -> Entry:
    """A note in words, with a picture or without, at a step of the work or at none."""
    words = _words("text", text, 0 if photo else 2) or "picture"
    check_text("step", step)
    return Entry(Noted(text=words, photo=photo, step=step), f"note: {words[:60]}")


def snooze(
    job: Job, record: Record, key: str, until_km: float | None, until: str, reason: str
) -> Entry:
    """Puts off what is due, until a counter or a day; never without either, never unsaid why."""
    dues = {d.key: d for d in kept(job, record).dues}
    choose("due", key, dues, "thing that is due")
    if not dues[key].may_put_off:
        raise InputError(
            "due", key, "a thing that comes round", "this is not put off", dues[key].words
        )
    if until and not _DAY.match(until):
        raise InputError("until", until, "a day as 2027-03-31")
    if until_km is None and not until:
        raise InputError("until", "", "a day or a counter", "until when was not said")
    event = Snoozed(
        plate=job.in_hand.key,
        due=key,
        until_km=until_km,
        until=until,
        reason=_words("reason", reason, 3),
    )
    return Entry(event, f"{dues[key].label.lower()} put off: {event.reason}")


def void(job: Job, record: Record, seq: int, reason: str) -> Entry:
    """An earlier line of Keep does not count; it stays in the record with the reason."""
    said: dict[int, Event] = {e.seq: e for e in record if isinstance(e, KEPT)}
    if seq not in said or seq in voided_lines(record):
        raise InputError("ref", seq, "a line of Keep that counts", "there is no such line")
    line = said[seq]
    if isinstance(line, OnPlate) and line.plate != job.in_hand.key:
        raise InputError("ref", seq, "a line of the plate in hand", "it is another plate's")
    return Entry(Voided(ref=seq, reason=_words("reason", reason, 3)), f"{line.kind} voided")
