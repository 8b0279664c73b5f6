"""What happens while a plate is kept: rides, strikes, oil changes, re-checks, wear, parts, notes.

Nothing is ever rewritten: a mistake is voided, with its reason, and stays in the record.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from rugged_shield.core.event import Happened, LoosensJoints, OnPlate, PlateRecord, Voided, of_kind
from rugged_shield.core.quantity import Range
from rugged_shield.core.remembered import ByIdentity

Km = Annotated[float, Range(0.0, 1e6, "km")]
Torque = Annotated[float, Range(0.0, 1e6, "N·m")]
Along = Annotated[float, Range(-3000.0, 3000.0, "mm")]
Felt = Literal["thrown stone", "rolling onto a set rock", "a drop onto a log or ledge", "not felt"]

Mended = Literal["replaced", "straightened", "turned"]
LockNuts = Literal["not said", "new", "used again"]


@dataclass(frozen=True, kw_only=True)
class FoundTorque(OnPlate):
    """The torque found on a joint at a re-check, and what it was tightened to after."""

    joint: str
    torque_nm: Torque
    tightened_nm: Torque | None = None
    kind: Literal["found torque"] = "found torque"


@dataclass(frozen=True, kw_only=True)
class DidNotMove(OnPlate):
    """A joint that did not turn at its target, N·m: it holds at least that much."""

    joint: str
    torque_nm: Torque
    kind: Literal["did not move"] = "did not move"


@dataclass(frozen=True, kw_only=True)
class CounterRead(Happened):
    """The bike's own counter as it was read, km."""

    km: Km
    kind: Literal["counter"] = "counter"


@dataclass(frozen=True, kw_only=True)
class Ridden(Happened):
    """A ride: km, hours in the saddle, or both."""

    km: Annotated[float | None, Range(0.0, 5000.0, "km")] = None
    hours: Annotated[float | None, Range(0.0, 200.0, "h")] = None
    kind: Literal["ridden"] = "ridden"


@dataclass(frozen=True, kw_only=True)
class PlateStruck(OnPlate):
    """A blow: where on the bike (behind the front axle, to the right), how it felt, its dent."""

    x_mm: Along
    y_mm: Along
    felt: Felt = "not felt"
    dent_mm: Annotated[float | None, Range(0.0, 80.0, "mm")] = None
    note: str = ""
    kind: Literal["strike"] = "strike"


@dataclass(frozen=True, kw_only=True)
class LookedOver(OnPlate):
    """What was looked at and is well, and what was found."""

    looked: tuple[str, ...] = ()
    found: str = ""
    kind: Literal["looked over"] = "looked over"


@dataclass(frozen=True, kw_only=True)
class OilChanged(LoosensJoints):
    """An oil change: minutes, what came off for it.

    ``joints``: which joints of the plate came off, and are loose until they are torqued again;
    ``nuts``: what became of their lock nuts.
    """

    minutes: Annotated[float | None, Range(0.0, 1000.0, "min")] = None
    came_off: str = ""
    nuts: LockNuts = "not said"
    kind: Literal["oil change"] = "oil change"


@dataclass(frozen=True, kw_only=True)
class WearRead(OnPlate):
    """Thickness of a wear piece or of the sheet at a named place, at a counter."""

    place: str
    thickness_mm: Annotated[float, Range(0.0, 60.0, "mm")]
    km: Km
    kind: Literal["wear"] = "wear"


@dataclass(frozen=True, kw_only=True)
class PartReplaced(OnPlate):
    """A part that was replaced, straightened or turned."""

    what: str
    done: Mended = "replaced"
    cost: Annotated[float | None, Range(0.0, 1e6)] = None
    kind: Literal["part replaced"] = "part replaced"


@dataclass(frozen=True, kw_only=True)
class RunsWarm(Happened):
    """How warm it runs on a ride with a name: air and running °C, minutes of fan."""

    with_plate: bool
    air_c: Annotated[float, Range(-40.0, 55.0, "°C")]
    running_c: Annotated[float, Range(20.0, 150.0, "°C")]
    fan_min: Annotated[float | None, Range(0.0, 600.0, "min")] = None
    ride: str = ""
    kind: Literal["warmth"] = "warmth"


@dataclass(frozen=True, kw_only=True)
class Noted(Happened):
    """A note in words, with a picture beside the job, at a step of the plan; empty: none."""

    text: str
    photo: str = ""
    step: str = ""
    kind: Literal["note"] = "note"


@dataclass(frozen=True, kw_only=True)
class Snoozed(OnPlate):
    """Something due is put off, until a counter or a day, with its reason."""

    due: str
    until_km: Km | None = None
    until: str = ""
    reason: str
    kind: Literal["snoozed"] = "snoozed"


KEPT = (
    FoundTorque,
    DidNotMove,
    CounterRead,
    Ridden,
    PlateStruck,
    LookedOver,
    OilChanged,
    WearRead,
    PartReplaced,
    RunsWarm,
    Noted,
    Snoozed,
)
"""Lines that Keep writes and may void."""


def voided_lines(record: tuple[Happened, ...]) -> dict[int, str]:
    """Numbers of the lines that do not count, with their reasons."""
    return {e.ref: e.reason for e in of_kind(record, Voided)}


def _counting(record: PlateRecord) -> PlateRecord:
    void = voided_lines(record)
    if not void:
        return record
    return PlateRecord(tuple(e for e in record if e.seq not in void or not isinstance(e, KEPT)))


_THAT_COUNT = ByIdentity[PlateRecord, PlateRecord](_counting, 32)


def counting(record: PlateRecord) -> PlateRecord:
    """The record without the lines of Keep that were voided."""
    return _THAT_COUNT(record)


def last_oil(record: PlateRecord, joint: str) -> OilChanged | None:
    """The last oil change that counts and for which a joint came off."""
    done = (e for e in of_kind(counting(record), OilChanged) if joint in e.joints)
    return max(done, key=lambda e: e.seq, default=None)


def last_found(record: PlateRecord) -> dict[str, FoundTorque | DidNotMove]:
    """How every joint that was re-checked was found last."""
    return {e.joint: e for e in of_kind(counting(record), FoundTorque, DidNotMove)}
