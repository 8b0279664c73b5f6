"""Wear of a plate's pieces: readings of the record, and the km that are left."""

from __future__ import annotations

from dataclasses import dataclass

from rugged_shield.core.amounts import amount
from rugged_shield.core.event import PlateRecord, of_kind
from rugged_shield.core.job.model import Job
from rugged_shield.core.keep.distance import Odometer
from rugged_shield.core.keep.dues import Due, State
from rugged_shield.core.keep.events import WearRead
from rugged_shield.core.keep.wear_left import (
    WEAR_SOURCE,
    WearLeftInput,
    WearLeftResult,
    WearReading,
    wear_left,
)
from rugged_shield.core.result import FindingCode, Outcome, verdict_of

READ_U_MM = 0.1
"""Standard uncertainty of a calliper on a scraped edge."""
LIMIT_SHARE = 0.4
"""A wear piece is changed when so much of its first thickness is left."""
SOON_KM = 300.0


@dataclass(frozen=True)
class WornPlace:
    """One place that is read: its readings, its limit mm, and what is left; None: read once."""

    place: str
    readings: tuple[WearRead, ...]
    limit_mm: float
    left: Outcome[WearLeftResult] | None


def wear_places(job: Job) -> dict[str, float]:
    """Places that wear, with their thickness when new, mm."""
    plate = job.in_hand.plate
    if plate.slider_material and plate.slider_thickness_mm:
        return {"slider": plate.slider_thickness_mm}
    return {"belly of the plate": plate.thickness_mm}


def worn_places(job: Job, lines: PlateRecord) -> tuple[WornPlace, ...]:
    """Every place that was read or that is known to wear."""
    new = wear_places(job)
    read: dict[str, list[WearRead]] = {place: [] for place in new}
    for event in of_kind(lines, WearRead):
        read.setdefault(event.place, []).append(event)
    out = []
    for place, readings in read.items():
        first = new.get(place) or max((r.thickness_mm for r in readings), default=0.0)
        limit = LIMIT_SHARE * first
        left = None
        if len({r.km for r in readings}) >= 2:
            asked = tuple(WearReading(km=r.km, thickness_mm=r.thickness_mm) for r in readings)
            left = wear_left(WearLeftInput(readings=asked, reading_u_mm=READ_U_MM, limit_mm=limit))
        out.append(WornPlace(place, tuple(readings), limit, left))
    return tuple(out)


def wear_dues(job: Job, lines: PlateRecord, axis: Odometer, km_per_day: float | None) -> list[Due]:
    """When each worn place comes to its limit, by the early end of its rate's band."""
    out = []
    for worn in worn_places(job, lines):
        if not worn.readings and not job.in_hand.plate.slider_material:
            continue
        out.append(_due(worn, axis, km_per_day))
    return out


def _due(worn: WornPlace, axis: Odometer, km_per_day: float | None) -> Due:
    label = f"Wear of the {worn.place}"
    if worn.left is None:
        words = (
            "read its thickness once more after some rides"
            if worn.readings
            else ("read its thickness once: nobody knows how fast it goes")
        )
        return _said(worn, label, words, "when you can", "unread", None, None)
    found = worn.left.result
    if axis.counter_km is None:
        words = "note the counter: how far it went since the last reading is not known"
        return _said(worn, label, words, "when you can", "unread", None, None)
    ridden = max(0.0, axis.counter_km - max(r.km for r in worn.readings))
    if found.km_left_low is None:
        return _said(
            worn, label, "does not wear that it could be told", "later", "later", None, None
        )
    left = found.km_left_low - ridden
    days = left / km_per_day if km_per_day else None
    state: State = "now" if left <= 0.0 else "soon" if left < SOON_KM else "later"
    words = f"down to {amount(worn.limit_mm, 'mm', 1)}, then a new one"
    when = "now" if left <= 0.0 else f"in {amount(left, 'km', 0)} at the earliest"
    return _said(worn, label, words, when, state, left, days)


_SAYS: dict[State, FindingCode] = {"unread": "nothing told", "now": "due now"}


def _said(
    worn: WornPlace,
    label: str,
    words: str,
    left: str,
    state: State,
    km_left: float | None,
    in_days: float | None,
) -> Due:
    limit = amount(worn.limit_mm, "mm", 1)
    return Due(
        key=f"wear:{worn.place}",
        label=label,
        words=words,
        state=state,
        verdict=verdict_of(_SAYS.get(state)),
        left=left,
        share=1.0 if state == "now" else 0.85 if state == "soon" else 0.0,
        km_left=km_left,
        in_days=in_days,
        is_forecast=in_days is not None,
        reasons=(f"Changed at {limit}, {100 * LIMIT_SHARE:.0f} % of its first thickness.",),
        source=WEAR_SOURCE,
    )
