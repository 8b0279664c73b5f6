"""How far the bike leans before the plate grounds, against its foot pegs."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass

from rugged_shield.core.result import Source
from rugged_shield.core.survey.bike import Bike
from rugged_shield.core.survey.clearance import LowPoint

LEAN_SOURCE = Source(
    "own geometry: leaning about the tyres' middle line, upright springs", "medium"
)
LEAST_LEAN_DEG = 45.0
"""What a plate should let the bike lean, where no foot peg says more."""


@dataclass(frozen=True)
class Lean:
    """Lean at which the plate grounds and where; that of the pegs, None where none is entered."""

    plate_deg: float
    at: LowPoint
    pegs_deg: float | None

    @property
    def grounds_first(self) -> bool:
        """Whether hard plate touches before a peg, which folds, has warned."""
        wanted = LEAST_LEAN_DEG if self.pegs_deg is None else self.pegs_deg
        return self.plate_deg < wanted


def lean_deg(y_mm: float, z_mm: float) -> float:
    """Lean at which a point beside the middle line comes to the ground: atan(z/|y|), degrees."""
    return math.degrees(math.atan2(z_mm, abs(y_mm)))


def lean_of(bike: Bike, own: Iterable[LowPoint]) -> Lean:
    """Least lean over the plate's own points, and over the outer ends of the pegs."""
    at = min(own, key=lambda p: lean_deg(p.y_mm, p.z_mm))
    pegs = [
        lean_deg(max(abs(p.y_min_mm), abs(p.y_max_mm)), p.z_min_mm)
        for p in bike.parts
        if p.shape == "peg"
    ]
    return Lean(lean_deg(at.y_mm, at.z_mm), at, min(pegs, default=None))
