"""A bracket pulled over by its screw, or bent by hand: force, yield, spring back."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated

from rugged_shield.core.computation import computation
from rugged_shield.core.errors import InputError
from rugged_shield.core.mechanics.roots import bracketed_root
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.result import Input, Outcome, Source

BRACKET_SOURCE = Source(
    "elastic-plastic cantilever strap, no hardening; springback of a bent strip (Gardiner 1957)",
    "medium",
)
CROSS_THREAD_DEG = 2.0
"""A screw that is led in at more than this starts across its thread."""


@dataclass(frozen=True, kw_only=True)
class BracketBendInput(Ranged):
    """A strap held at one end, mm and MPa; ``gap_mm`` to pull, or ``bend_deg`` to bend it by."""

    width_mm: Annotated[float, Range(3.0, 200.0, "mm")]
    thickness_mm: Annotated[float, Range(0.5, 20.0, "mm")]
    free_length_mm: Annotated[float, Range(5.0, 500.0, "mm")]
    e_mpa: Annotated[float, Range(100.0, 250_000.0, "MPa")]
    yield_mpa: Annotated[float, Range(1.0, 2000.0, "MPa")]
    gap_mm: Annotated[float | None, Range(0.0, 100.0, "mm")] = None
    bend_deg: Annotated[float | None, Range(0.1, 150.0, "°")] = None
    inside_radius_mm: Annotated[float, Range(0.0, 200.0, "mm")] = 5.0
    lever_mm: Annotated[float, Range(20.0, 2000.0, "mm")] = 300.0

    def __post_init__(self) -> None:
        super().__post_init__()
        if self.gap_mm is None and self.bend_deg is None:
            raise InputError("gap_mm", None, "a gap to pull, or an angle to bend by")


@dataclass(frozen=True, kw_only=True)
class BracketBendResult:
    """Pulled: force N, gap at which it yields mm, slope of its end. Bent: tool, angle, hand force.

    None where it was not asked. ``collapses``: the force is that of a full hinge, and the gap is
    closed by bending it there.
    """

    force_n: float | None
    gap_at_yield_mm: float
    force_at_yield_n: float
    yields: bool | None
    collapses: bool | None
    tip_slope_deg: float | None
    crosses_thread: bool | None
    tool_inside_radius_mm: float | None
    bend_to_deg: float | None
    hand_force_n: float | None


def _force_share(gap_share: float) -> float:
    """F/F_y at a gap of ``gap_share`` times that at yield, up to the full hinge of 1.5."""
    if gap_share <= 1.0:
        return gap_share

    def off(share: float) -> float:
        root = math.sqrt(max(0.0, 3.0 - 2.0 * share))
        return (5.0 - (3.0 + share) * root) / share**2 - gap_share

    if off(1.5) <= 0.0:
        return 1.5
    return bracketed_root(off, 1.0, 1.5, 1e-12)


def _springback(final_mm: float, stress_mpa: float, e_mpa: float, thickness_mm: float) -> float:
    """Neutral radius to bend over, mm, so that ``final_mm`` is left when it springs back.

    Raises InputError where the strap springs back all of the way.
    """

    def off(bent_mm: float) -> float:
        share = bent_mm * stress_mpa / (e_mpa * thickness_mm)
        return bent_mm - final_mm * (4.0 * share**3 - 3.0 * share + 1.0)

    most = 0.5 * e_mpa * thickness_mm / stress_mpa
    if off(most) < 0.0 or final_mm >= most:
        raise InputError(
            "inside_radius_mm",
            final_mm - thickness_mm / 2,
            f"less than {most - thickness_mm / 2:.0f} mm for this strap",
            "a strap bent so gently springs back all of the way",
        )
    return bracketed_root(off, 1e-9, most, 1e-12)


@computation("bracket-bend", page="bracket-bend", check="bracket-bend-01")
def bracket_bend(given: BracketBendInput) -> Outcome[BracketBendResult]:
    """What pulling or bending a bracket takes: F_y = σ b t²/6L, g_y = F_y L³/3EI, 1.5 F_y at most.

    Raises InputError outside the ranges, or where a bend would not stay.
    """
    b, t, length = given.width_mm, given.thickness_mm, given.free_length_mm
    stress, e = given.yield_mpa, given.e_mpa
    force_y = stress * b * t**2 / (6.0 * length)
    gap_y = force_y * length**3 / (3.0 * e * b * t**3 / 12.0)
    force = slope = tool = bend_to = hand = None
    yields = collapses = crosses = None
    if given.gap_mm is not None:
        share = _force_share(given.gap_mm / gap_y)
        force, yields, collapses = share * force_y, given.gap_mm > gap_y, share >= 1.5
        slope = math.degrees(1.5 * given.gap_mm / length)
        crosses = slope > CROSS_THREAD_DEG
    if given.bend_deg is not None:
        final = given.inside_radius_mm + t / 2.0
        bent = _springback(final, stress, e, t)
        tool, bend_to = bent - t / 2.0, given.bend_deg * final / bent
        hand = stress * b * t**2 / 4.0 / given.lever_mm
    return Outcome(
        result=BracketBendResult(
            force_n=force,
            gap_at_yield_mm=gap_y,
            force_at_yield_n=force_y,
            yields=yields,
            collapses=collapses,
            tip_slope_deg=slope,
            crosses_thread=crosses,
            tool_inside_radius_mm=tool,
            bend_to_deg=bend_to,
            hand_force_n=hand,
        ),
        inputs=(
            Input("Width", b, "mm"),
            Input("Thickness", t, "mm"),
            Input("Free length", length, "mm"),
            Input("Yield stress", stress, "MPa"),
        ),
        reasons=("Beyond yield it gives more than it pulls, up to a full hinge at 1.5 times.",),
        assumptions=("The strap is held stiffly, and its metal does not harden.",),
        sources=(BRACKET_SOURCE,),
    )
