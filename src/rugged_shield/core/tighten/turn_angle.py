"""How far a screw turns from snug to a preload: for what a wrench cannot read."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from rugged_shield.core.computation import computation
from rugged_shield.core.mechanics import threads
from rugged_shield.core.quantity import Range
from rugged_shield.core.result import Input, Outcome, Source
from rugged_shield.core.tighten.preload_loss import (
    PreloadLossInput,
    PreloadLossResult,
    preload_loss,
)

ANGLE_SOURCE = Source("VDI 2230-1:2015, 5.1 and 5.4.3: ϑ = 360°/P · F (δ_S + δ_P)", "medium")
QUARTER_DEG = 90.0
QUARTER_WITHIN = 0.3


@dataclass(frozen=True, kw_only=True)
class TurnAngleInput(PreloadLossInput):
    """A joint as for ``preload-loss``, and the gap that the screw closes first, mm."""

    gap_mm: Annotated[float, Range(0.0, 50.0, "mm")] = 0.0


@dataclass(frozen=True, kw_only=True)
class TurnAngleResult:
    """Degrees from snug of a closed joint, what the gap adds, and both together."""

    angle_deg: float
    gap_deg: float
    total_deg: float
    is_quarter_turn: bool


def stretch_deg(thread: str, preload_n: float, loss: PreloadLossResult) -> float:
    """Angle from snug that stretches a closed joint to a preload, degrees."""
    stretch = preload_n * (loss.delta_s_mm_per_n + loss.delta_p_mm_per_n)
    return 360.0 / threads.row_of(thread).pitch_mm * stretch


@computation(
    "turn-angle",
    page="faces-and-angles",
    check="test_the_angle_is_what_stretches_and_what_closes",
)
def turn_angle(given: TurnAngleInput) -> Outcome[TurnAngleResult]:
    """Angle from snug for a preload: 360/P · F (δ_S + δ_P), and 360/P of each mm of gap.

    Snug is where all faces touch. A quarter turn is one only within 30 % of 90°.
    """
    loss = preload_loss(given)
    pitch = threads.row_of(given.thread).pitch_mm
    angle = stretch_deg(given.thread, given.preload_n, loss.result)
    gap = 360.0 / pitch * given.gap_mm
    total = angle + gap
    return Outcome(
        result=TurnAngleResult(
            angle_deg=angle,
            gap_deg=gap,
            total_deg=total,
            is_quarter_turn=abs(total - QUARTER_DEG) <= QUARTER_WITHIN * QUARTER_DEG,
        ),
        inputs=(
            Input("Preload", given.preload_n, "N"),
            Input("Pitch", pitch, "mm"),
            Input("Gap that it closes first", given.gap_mm, "mm"),
        ),
        reasons=(f"{total:.0f}° from snug; {gap:.0f}° of it close the gap.",),
        assumptions=("Snug: every face touches and nothing is stretched yet.",),
        sources=(ANGLE_SOURCE, *loss.sources),
    )
