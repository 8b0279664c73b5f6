"""What was seen at one joint's hole with the plate held up: how far off, how sure, what gives."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from rugged_shield.core.fitup.hole_fit import Angle, Offset, Travel
from rugged_shield.core.quantity import Range, Ranged

SeenBy = Literal["rule", "calliper", "photograph"]


@dataclass(frozen=True, kw_only=True)
class SeenHole(Ranged):
    """Where the thread stands from the middle of its hole, seen from above, mm; None: not seen.

    ``right_mm`` to the rider's right, ``forward_mm`` to the front; ``off_u_mm`` the standard
    uncertainty of each. ``gap_mm`` is what stays open there while the plate is held up lightly.
    A slot lets the screw lie anywhere along it; ``bracket`` names a bracket that can be loosened
    and then moves its thread by ``bracket_half_travel_mm`` either way. Angles are from the
    rider's right toward the front. ``nut_gives_mm``: how far a clip or cage nut moves by itself.
    """

    right_mm: Offset | None = None
    forward_mm: Offset | None = None
    off_u_mm: Annotated[float, Range(0.0, 10.0, "mm")] = 0.3
    seen_by: SeenBy = "rule"
    gap_mm: Annotated[float | None, Range(0.0, 60.0, "mm")] = None
    gap_u_mm: Annotated[float, Range(0.0, 10.0, "mm")] = 0.3
    slot_half_travel_mm: Travel = 0.0
    slot_angle_deg: Angle = 0.0
    bracket: str = ""
    bracket_half_travel_mm: Travel = 0.0
    bracket_angle_deg: Angle = 0.0
    bracket_loose: bool = False
    nut_gives_mm: Annotated[float, Range(0.0, 2.0, "mm")] = 0.0

    @property
    def offset_mm(self) -> tuple[float, float] | None:
        """Right and forward, where both were seen."""
        if self.right_mm is None or self.forward_mm is None:
            return None
        return self.right_mm, self.forward_mm


NOT_SEEN = SeenHole()
