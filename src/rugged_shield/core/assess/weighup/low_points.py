"""How low a plate hangs on its bike: clearance, breakover and lean, each against stock."""

from __future__ import annotations

from rugged_shield.core.amounts import amount
from rugged_shield.core.assess.fitup.pose import PlatePose
from rugged_shield.core.assess.weighup.mass_budget import MassBudget, sunk_points
from rugged_shield.core.figures import figure
from rugged_shield.core.result import Figure, Finding, Input, finding
from rugged_shield.core.survey.bike import Bike
from rugged_shield.core.survey.clearance import (
    CLEARANCE_SOURCE,
    LowPoint,
    governing_breakover,
    lowest,
)
from rugged_shield.core.survey.lean import LEAN_SOURCE, LEAST_LEAN_DEG, lean_of

LOW_CLEARANCE_MM = 15.0


def _drop_mm(posed: PlatePose, low: LowPoint) -> float:
    """How much lower than drawn the sheet is at a point (0, never minus 0)."""
    return low.z_mm - posed.pose.lift((low.x_mm, low.y_mm, low.z_mm))[2] + 0.0


def low_figures(bike: Bike, posed: PlatePose, base: PlatePose, budget: MassBudget) -> list[Figure]:
    """Lowest point, what was lost against the base plate, breakover and lean, as it hangs."""
    points = sunk_points(bike, posed.points, budget)
    low = lowest(list(points))
    sunk = budget.sag_at(bike, low.x_mm)
    height = low.z_mm
    lost = base.low.z_mm - height
    found: tuple[Finding, ...] = ()
    if lost > LOW_CLEARANCE_MM:
        found = (
            finding(
                "low clearance", f"{amount(lost, 'mm', 0)} of ground clearance lost against stock."
            ),
        )
    inputs = (
        Input("Lowest with this plate, springs as they stand", height + sunk, "mm"),
        Input("It is", low.name),
        Input("Lowest with stock", base.low.z_mm, "mm"),
        Input("It was", base.low.name),
        Input("Plate hangs lower there by", _drop_mm(posed, low), "mm"),
        Input("Bike sinks there by", sunk, "mm"),
    )
    assumptions = (
        ("Springs as they stand: sag is not known yet.",)
        if budget.front_sag_mm is None
        else ("Sag of all that was added, with constant wheel rates.",)
    )
    return [
        figure(
            "clearance",
            "Ground clearance",
            height,
            "mm",
            findings=found,
            inputs=inputs,
            reasons=("Lowest of plate corners, screw heads and every other low part.",),
            assumptions=assumptions,
            sources=(CLEARANCE_SOURCE,),
        ),
        figure(
            "clearance_lost",
            "Clearance lost",
            lost,
            "mm",
            findings=found,
            inputs=inputs,
            reasons=("Lowest point with stock less lowest point with this plate.",),
            assumptions=assumptions,
            sources=(CLEARANCE_SOURCE,),
        ),
        _breakover_figure(bike, points, assumptions),
        _lean_figure(bike, sunk_points(bike, posed.own, budget), assumptions),
    ]


def _lean_figure(bike: Bike, own: tuple[LowPoint, ...], assumptions: tuple[str, ...]) -> Figure:
    lean = lean_of(bike, own)
    found: tuple[Finding, ...] = ()
    pegs = lean.pegs_deg
    if lean.grounds_first:
        before = f"the pegs at {pegs:.0f}°" if pegs else f"{LEAST_LEAN_DEG:.0f}°"
        text = f"Leant over by {lean.plate_deg:.0f}° the {lean.at.name} grounds, before {before}."
        found = (finding("grounds in a lean", text),)
    return figure(
        "lean",
        "Lean until it grounds",
        lean.plate_deg,
        "°",
        findings=found,
        inputs=(
            Input("Touches first", lean.at.name),
            Input("Beside the middle line", abs(lean.at.y_mm), "mm"),
            Input("Above the ground", lean.at.z_mm, "mm"),
            Input("Foot pegs touch at", pegs or "not entered", "°" if pegs else ""),
        ),
        reasons=("atan(height over distance from the middle line), least over the plate.",),
        assumptions=assumptions,
        sources=(LEAN_SOURCE,),
    )


def _breakover_figure(
    bike: Bike, points: tuple[LowPoint, ...], assumptions: tuple[str, ...]
) -> Figure:
    angle, at = governing_breakover(bike, list(points))
    return figure(
        "breakover",
        "Breakover angle",
        angle,
        "°",
        inputs=(
            Input("Point that governs", at.name),
            Input("Behind the front axle", at.x_mm, "mm"),
            Input("Above the ground", at.z_mm, "mm"),
            Input("Wheelbase", bike.wheelbase_mm, "mm"),
        ),
        reasons=("Sum over both wheels of asin(R/√(x²+(h−R)²)) − atan2(R−h, x).",),
        assumptions=assumptions,
        sources=(CLEARANCE_SOURCE,),
    )
