"""Things of the bike that must stay clear of a plate, and how they move."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from rugged_shield.core.judgement.known import Known
from rugged_shield.core.mechanics.frames import Vec3
from rugged_shield.core.quantity import Range, Ranged

NeighbourState = Literal[
    "standing", "full bump", "full lock", "through its travel", "hot and moved", "bent"
]
NeighbourKind = Literal["static", "moving", "hose", "hot"]
TurnsAbout = Literal["across the bike", "along the bike", "upright"]

LEAST_MM: dict[NeighbourKind, float] = {"static": 3.0, "moving": 6.0, "hose": 5.0, "hot": 10.0}
"""Least gaps where nothing else is said, mm: workshop practice, medium confidence."""
_AXES: dict[TurnsAbout, Vec3] = {
    "across the bike": (0.0, 1.0, 0.0),
    "along the bike": (1.0, 0.0, 0.0),
    "upright": (0.0, 0.0, 1.0),
}

Along = Annotated[float | None, Range(-600.0, 2600.0, "mm")]
Across = Annotated[float | None, Range(-700.0, 700.0, "mm")]
Above = Annotated[float | None, Range(20.0, 1600.0, "mm")]
Degrees = Annotated[float, Range(-180.0, 180.0, "°")]


@dataclass(frozen=True, kw_only=True)
class Neighbour(Ranged):
    """A neighbour in one state; ``least_mm`` None takes that of its kind.

    Where it turns: its pivot and its tip at 0° in the bike frame, mm, the axis, the angles it
    goes through, half its thickness. ``boot``: the rider's boot is on it, ``glove``: fingers in a
    glove go round it. Without pivot and tip it is measured, not computed.
    """

    key: str
    name: str
    state: NeighbourState = "standing"
    kind: NeighbourKind = "static"
    boot: bool = False
    glove: bool = False
    least_mm: Annotated[float | None, Range(0.0, 100.0, "mm")] = None
    pivot_x_mm: Along = None
    pivot_y_mm: Across = None
    pivot_z_mm: Above = None
    tip_x_mm: Along = None
    tip_y_mm: Across = None
    tip_z_mm: Above = None
    turns_about: TurnsAbout = "across the bike"
    from_deg: Degrees = 0.0
    to_deg: Degrees = 0.0
    half_thick_mm: Annotated[float, Range(1.0, 80.0, "mm")] = 8.0
    known: Known = "assumed"

    @property
    def wanted_mm(self) -> float:
        """The least gap it wants."""
        return LEAST_MM[self.kind] if self.least_mm is None else self.least_mm

    @property
    def axis(self) -> Vec3:
        """The axis it turns about."""
        return _AXES[self.turns_about]

    def ends(self) -> tuple[Vec3, Vec3] | None:
        """Pivot and tip, where all of both is entered."""
        numbers = (
            self.pivot_x_mm,
            self.pivot_y_mm,
            self.pivot_z_mm,
            self.tip_x_mm,
            self.tip_y_mm,
            self.tip_z_mm,
        )
        x, y, z, a, b, c = numbers
        if x is None or y is None or z is None or a is None or b is None or c is None:
            return None
        return (x, y, z), (a, b, c)
