"""Clocks of a thread locker: its open time from the first drop, its cure from the torque."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from rugged_shield.core.event import PlateRecord, of_kind
from rugged_shield.core.moments import later, seconds_of
from rugged_shield.core.tables.lockers import cure_hours, open_minutes
from rugged_shield.core.tighten.all_started import joint_states
from rugged_shield.core.tighten.events import Started, StepDone, StepReopened


@dataclass(frozen=True, kw_only=True)
class LockerClock:
    """A joint's locker: open until it sets, curing until it holds; times ISO, empty: not known.

    ``set_before``: it had set when the joint was torqued: it was broken, and holds nothing.
    """

    joint: str
    number: int
    kind: Literal["open", "cure"]
    since: str
    until: str
    set_before: bool = False


def _later(at: str, hours: float | None) -> str:
    """The time so much later, to the next second; empty where either is not known."""
    return "" if hours is None else later(at, math.ceil(hours * 3600.0))


def locker_clocks(
    lines: PlateRecord, built: Mapping[str, str], lockered: Mapping[str, int], celsius: float
) -> tuple[LockerClock, ...]:
    """Clocks of the joints in ``lockered`` (by key, with their number), as the record stands.

    A screw that was started has the first drop on it; its cure runs from the torque that stands.
    """
    minutes, hours = open_minutes(celsius), cure_hours(celsius)
    states = joint_states(lines, built)
    started = {e.joint: e.at for e in of_kind(lines, Started)}

    def had_set(joint: str, torqued_at: str) -> bool:
        """Whether its open time was over; a drop or a time that is not known says no."""
        sets = _later(started.get(joint, ""), None if minutes is None else minutes / 60.0)
        return has_passed(sets, torqued_at)

    found = []
    for joint, number in lockered.items():
        state = states.get(joint)
        if state is None:
            continue
        if state.reading is not None:
            since, until = state.reading.at, _later(state.reading.at, hours)
            found.append(
                LockerClock(
                    joint=joint,
                    number=number,
                    kind="cure",
                    since=since,
                    until=until,
                    set_before=had_set(joint, since),
                )
            )
        elif state.started:
            since = started.get(joint, "")
            until = _later(since, None if minutes is None else minutes / 60.0)
            found.append(
                LockerClock(joint=joint, number=number, kind="open", since=since, until=until)
            )
    return tuple(found)


def far_nut_clocks(
    lines: PlateRecord, lockered: Mapping[str, tuple[str, int]], celsius: float
) -> tuple[LockerClock, ...]:
    """Cure of locker under nuts beyond the first thread; by step, with joint and number.

    It runs from when the step was ticked last; one that is not done has no clock.
    """
    ticked: dict[str, str] = {}
    for event in of_kind(lines, StepDone, StepReopened):
        if isinstance(event, StepDone):
            ticked[event.step] = event.at
        else:
            ticked.pop(event.step, None)
    hours = cure_hours(celsius)
    return tuple(
        LockerClock(
            joint=joint,
            number=number,
            kind="cure",
            since=ticked[step],
            until=_later(ticked[step], hours),
        )
        for step, (joint, number) in lockered.items()
        if step in ticked
    )


AHEAD_S = 300.0
"""Two clocks may go apart so far before one of them is wrong."""


def lies_ahead(at: str, now: str) -> bool:
    """Whether a time that was told is still to come: a clock was set since, or before."""
    told, here = seconds_of(at), seconds_of(now)
    return told is not None and here is not None and told > here + AHEAD_S


def has_passed(until: str, now: str) -> bool:
    """Whether a time is over; one that is not known never is."""
    end, at = seconds_of(until), seconds_of(now)
    return end is not None and at is not None and at >= end
