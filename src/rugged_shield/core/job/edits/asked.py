"""A change of a plate as it is asked for, and what every maker of one needs."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated, Any

from rugged_shield.core.errors import InputError
from rugged_shield.core.fitup.modification import ChangeKind, Modification
from rugged_shield.core.job.model import Candidate
from rugged_shield.core.mechanics.frames import Vec2
from rugged_shield.core.quantity import Range, Ranged

CHANGE_KEY = "change"
Flat = Annotated[float, Range(-3000.0, 3000.0, "mm")]


@dataclass(frozen=True)
class FlatPlace(Ranged):
    """A place in the flat pattern, mm: x rearward, y to the rider's right."""

    x_mm: Flat
    y_mm: Flat


@dataclass(frozen=True, kw_only=True)
class Modify(Ranged):
    """A change asked for. Places are in the flat pattern, mm: x rearward, y to the rider's right.

    trim: two ends of a straight line (each panel it is drawn across is cut all along it, and the
    side away from the middle of the plate goes), or three corners and more of what goes.
    hole, slot: one place, ``wide_mm`` and, of a slot, ``long_mm`` along the bike or across it.
    vent field: on ``panel``. spacer, sleeve cut: ``thick_mm`` at ``joints``. bend: ``panel`` by
    ``turn_deg``, up above zero. other side: ``panel``, a wing with screws of its own or a piece.
    """

    kind: ChangeKind
    panel: str = ""
    points_mm: tuple[tuple[float, float], ...] = ()
    wide_mm: Annotated[float | None, Range(2.0, 300.0, "mm")] = None
    long_mm: Annotated[float | None, Range(2.0, 600.0, "mm")] = None
    lengthwise: bool = True
    pitch_mm: Annotated[float | None, Range(3.0, 300.0, "mm")] = None
    staggered: bool = True
    thick_mm: Annotated[float | None, Range(0.1, 60.0, "mm")] = None
    turn_deg: Annotated[float | None, Range(-60.0, 60.0, "°")] = None
    joints: tuple[str, ...] = ()
    what: str = ""
    why: str = ""

    def __post_init__(self) -> None:
        super().__post_init__()
        for point in self.points_mm:
            if not all(math.isfinite(v) and abs(v) <= 3000.0 for v in point):
                raise InputError("points_mm", str(point)[:80], "places within 3000 mm")


@dataclass(frozen=True)
class Made:
    """What a change makes of a candidate, what it says of itself, and its places in the flat."""

    candidate: Candidate
    change: Modification
    places: tuple[Vec2, ...] = ()


def named(kind: ChangeKind, **facts: Any) -> Modification:
    """A change before it has its own key, reason and neighbours."""
    return Modification(key=CHANGE_KEY, kind=kind, **facts)


def taken_keys(candidate: Candidate) -> set[str]:
    """Keys that a new opening, trim or change may not have."""
    plate = candidate.plate
    taken = {c.key for c in plate.cutouts} | {p.key for p in plate.pieces}
    return taken | {t.key for t in plate.trims} | {c.key for c in candidate.changes}


def number(value: float | None, field: str) -> float:
    """A size that the change needs; raises InputError where none was entered."""
    if value is None:
        raise InputError(field, "", "a size in mm", "nothing was entered")
    return value
