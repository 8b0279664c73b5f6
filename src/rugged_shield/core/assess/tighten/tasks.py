"""Work on a plate before it hangs: changes to carry out, and which way each piece goes."""

from __future__ import annotations

from functools import lru_cache

from rugged_shield.core.fitup import ChangeKind, Modification, change_words
from rugged_shield.core.job import Candidate
from rugged_shield.core.tables.cautions import CHANGE_CAUTIONS, NEAR_CAUTION
from rugged_shield.core.tighten import PlanTask

_MINUTES: dict[ChangeKind, float] = {
    "trim": 15.0,
    "hole": 8.0,
    "slot": 12.0,
    "vent field": 20.0,
    "spacer": 2.0,
    "bend": 10.0,
    "other side": 5.0,
    "sleeve cut": 8.0,
    "neighbour trimmed": 15.0,
}
"""Bench time at a home workshop, medium confidence; of a vent field to start with."""
_VENT_MINUTES = 0.7


def change_caution(change: Modification) -> str:
    """What to mind with a change: its tool, and what lies near its place."""
    words = CHANGE_CAUTIONS.get(change.kind, "")
    if change.near and change.kind in ("trim", "hole", "slot", "vent field"):
        words = f"{words} {NEAR_CAUTION.format(near=', '.join(change.near))}"
    return words.strip()


def _change_task(change: Modification) -> PlanTask:
    minutes = _MINUTES[change.kind]
    if change.kind == "vent field":
        minutes += _VENT_MINUTES * change.count
    words = change_words(change)
    return PlanTask(
        key=f"change:{change.key}",
        title=f"{words[:1].upper()}{words[1:]}",
        text=f"With the 1:1 template. {change.why}".strip(),
        caution=change_caution(change),
        minutes=minutes,
    )


def _way_task(candidate: Candidate) -> list[PlanTask]:
    """One look before it hangs: what makes each piece unmistakable."""
    plate = candidate.plate
    said = [(plate.name, plate.orientation)] + [(p.name, p.orientation) for p in plate.pieces]
    words = [f"{name}: {way}." for name, way in said if way]
    words += [f"Joint {j.number}: {j.orientation}." for j in candidate.joints if j.orientation]
    if not words:
        return []
    return [
        PlanTask(
            key="way",
            title="Look which way each piece goes",
            text=" ".join(words),
            caution="",
            minutes=1.0,
        )
    ]


@lru_cache(maxsize=256)
def plate_tasks(candidate: Candidate) -> tuple[PlanTask, ...]:
    """Changes still to carry out, in their order, then the look at which way the pieces go."""
    return (*(_change_task(c) for c in candidate.changes if not c.done), *_way_task(candidate))
