"""The gap to a neighbour as it was looked at on the bike, with the plate on."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from rugged_shield.core.quantity import Range, Ranged

LookedWith = Literal["feeler or rule", "a pencil passes", "it touches"]
PENCIL_MM = 7.0
"""A pencil is about as thick: what it passes is no closer."""


@dataclass(frozen=True, kw_only=True)
class GapSeen(Ranged):
    """What was found at a neighbour (``key``): least gap over its whole motion mm, and how sure.

    Where a pencil passed the gap is at least that of a pencil; where it touched it is none.
    """

    key: str
    gap_mm: Annotated[float, Range(0.0, 500.0, "mm")]
    gap_u_mm: Annotated[float, Range(0.0, 20.0, "mm")] = 0.5
    looked_with: LookedWith = "feeler or rule"
