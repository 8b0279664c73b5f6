"""Minutes that the work took, from when each step of it was told."""

from __future__ import annotations

from itertools import pairwise

from rugged_shield.core.event import PlateRecord
from rugged_shield.core.moments import seconds_of
from rugged_shield.core.tighten.events import Reading, Started, StepDone

PAUSE_S = 30 * 60
"""A gap longer than this is a pause: nobody knows how much of it was work."""


def minutes_taken(lines: PlateRecord) -> dict[str, float]:
    """Minutes by step, from the step told before it; steps after a pause are not there.

    Steps that are told together share nothing: the first of them has the minutes. A record whose
    times cannot be read tells nothing.
    """
    told: list[tuple[int, str]] = []
    for event in lines:
        match event:
            case StepDone():
                key = event.step
            case Started():
                key = f"start:{event.joint}"
            case Reading():
                key = f"full:{event.joint}"
            case _:
                continue
        at = seconds_of(event.at)
        if at is not None:
            told.append((at, key))
    told.sort(key=lambda pair: pair[0])
    found: dict[str, float] = {}
    for (before, _), (at, key) in pairwise(told):
        gap = at - before
        if gap <= PAUSE_S:
            found[key] = found.get(key, 0.0) + gap / 60.0
    return found
