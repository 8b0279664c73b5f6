"""The record as it is looked back on: torque over time by joint, and one line of moments."""

from __future__ import annotations

from dataclasses import dataclass

from rugged_shield.core.amounts import amount
from rugged_shield.core.assess.keep.due import kept
from rugged_shield.core.event import Happened, of_kind, of_plate
from rugged_shield.core.job.events import Record
from rugged_shield.core.job.model import Job, mounted
from rugged_shield.core.keep.distance import odometer
from rugged_shield.core.keep.events import (
    KEPT,
    CounterRead,
    DidNotMove,
    FoundTorque,
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
from rugged_shield.core.moments import seconds_of
from rugged_shield.core.tighten.events import (
    FindingPassed,
    JointRenewed,
    Reading,
    RiddenAnyway,
    TakenBack,
    ThreadDamaged,
)


@dataclass(frozen=True, kw_only=True)
class Moment:
    """One line of Keep: when, at which counter (None: not known), what, on whose device."""

    seq: int
    at: str
    km: float | None
    kind: str
    words: str
    by: str = ""
    voided: str = ""
    may_void: bool = True
    photo: str = ""


def line_words(event: Happened, numbers: dict[str, int]) -> str:
    """A line of Keep in words; joints by their numbers."""
    match event:
        case FoundTorque():
            then = event.tightened_nm
            more = "" if then is None else f", tightened to {amount(then, 'N·m')}"
            at = numbers.get(event.joint, event.joint)
            return f"joint {at} found at {amount(event.torque_nm, 'N·m')}{more}"
        case DidNotMove():
            at = numbers.get(event.joint, event.joint)
            return f"joint {at} did not move at {amount(event.torque_nm, 'N·m')}"
        case CounterRead():
            return f"counter at {amount(event.km, 'km', 0)}"
        case Ridden():
            said = [amount(event.km, "km", 0)] if event.km is not None else []
            said += [amount(event.hours, "h", 1)] if event.hours is not None else []
            return f"ridden {', '.join(said)}"
        case PlateStruck():
            dent = "" if not event.dent_mm else f", dent {amount(event.dent_mm, 'mm', 1)}"
            return f"struck: {event.felt}{dent}{_more(event.note)}"
        case LookedOver():
            return f"looked over: {event.found or 'all well'}"
        case OilChanged():
            took = "" if event.minutes is None else f", {event.minutes:.0f} min"
            off = ", ".join(str(numbers.get(key, key)) for key in event.joints)
            loose = f", joint {off} came off" if off else ""
            nuts = "" if event.nuts == "not said" else f", lock nuts {event.nuts}"
            return f"oil changed{took}{_more(event.came_off)}{loose}{nuts}"
        case RiddenAnyway():
            return f"ridden though {len(event.missing)} things were missing: {event.reason}"
        case ThreadDamaged():
            at = numbers.get(event.joint, event.joint)
            return f"the thread of joint {at} is damaged{_more(event.what)}"
        case JointRenewed():
            return f"joint {numbers.get(event.joint, event.joint)} made good: {event.how}"
        case FindingPassed():
            return f"passed for a reason: {event.words} ({event.reason})"
        case WearRead():
            return f"{event.place} {amount(event.thickness_mm, 'mm', 1)}"
        case PartReplaced():
            return f"{event.what} {event.done}"
        case RunsWarm():
            which = "with the plate" if event.with_plate else "without the plate"
            return (
                f"runs at {amount(event.running_c, '°C', 0)} in {amount(event.air_c, '°C', 0)} "
                f"air, {which}"
            )
        case Snoozed():
            return f"{event.due} put off: {event.reason}"
        case Noted():
            return event.text
    return event.at


def _more(words: str) -> str:
    return f", {words}" if words else ""


def moments(job: Job, record: Record) -> tuple[Moment, ...]:
    """What happened to the plate in hand since it was fitted, the newest last.

    Voided lines stay, with their reasons. The fitting itself is one moment.
    """
    lines = of_plate(record, job.in_hand.key)
    axis, void = odometer(counting(lines), job.odometer_km), voided_lines(lines)
    start = axis.counter_km
    numbers = {j.key: j.number for j in job.in_hand.joints}

    def km_at(seq: int) -> float | None:
        if start is None or seq not in axis.at_line:
            return None
        return start - axis.since(seq)[0]

    out = [
        Moment(
            seq=e.seq,
            at=e.at,
            km=km_at(e.seq),
            kind=e.kind,
            words=line_words(e, numbers),
            by=e.by,
            voided=void.get(e.seq, ""),
            may_void=e.seq not in void,
            photo=e.photo if isinstance(e, Noted) else "",
        )
        for e in lines
        if isinstance(e, KEPT)
    ]
    out += [
        Moment(
            seq=e.seq,
            at=e.at,
            km=km_at(e.seq),
            kind=e.kind,
            words=line_words(e, numbers),
            by=e.by,
            may_void=False,
        )
        for e in of_kind(lines, RiddenAnyway, ThreadDamaged, JointRenewed, FindingPassed)
    ]
    fitted = kept(job, record).fitted_at
    if fitted is not None:
        words = f"{job.in_hand.plate.name} fitted"
        km = km_at(fitted.seq)
        out.append(
            Moment(seq=fitted.seq, at=fitted.at, km=km, kind="fitted", words=words, may_void=False)
        )
    return tuple(sorted(out, key=lambda m: (seconds_of(m.at) or 0, m.seq)))


def torque_history(job: Job, record: Record) -> dict[str, tuple[tuple[str, float, str], ...]]:
    """By joint: when, N·m and what: set, found, tightened, held. Lines that count only."""
    lines = counting(of_plate(record, job.in_hand.key))
    back = {e.ref for e in of_kind(lines, TakenBack)}
    out: dict[str, list[tuple[str, float, str]]] = {
        at.joint.key: [] for at in mounted(job.bike, job.in_hand)
    }
    for event in lines:
        key = getattr(event, "joint", "")
        if key not in out:
            continue
        if isinstance(event, Reading) and event.seq not in back:
            out[key].append((event.at, event.torque_nm, "set"))
        elif isinstance(event, FoundTorque):
            out[key].append((event.at, event.torque_nm, "found"))
            if event.tightened_nm is not None:
                out[key].append((event.at, event.tightened_nm, "tightened"))
        elif isinstance(event, DidNotMove):
            out[key].append((event.at, event.torque_nm, "held"))
    return {key: tuple(points) for key, points in out.items()}
