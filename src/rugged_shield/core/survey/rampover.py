"""Clearance and breakover of one low point, before and after added mass; gap budgets.

Measured from the rear axle, forward positive, as a person does with a tape.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated, Literal

from rugged_shield.core.amounts import amount, entered
from rugged_shield.core.computation import computation
from rugged_shield.core.errors import InputError
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.result import Finding, Input, Outcome, Source, finding
from rugged_shield.core.survey.clearance import CLEARANCE_SOURCE, wheel_angle_deg
from rugged_shield.core.survey.sag import SAG_SOURCE, Ride, WheelRate

WheelRadius = Annotated[float, Range(150.0, 450.0, "mm")]
BUDGET_SOURCE = Source("worst case: sum of tolerances; RSS: root of their squares", "high")
MAX_PARTS = 50


@dataclass(frozen=True, kw_only=True)
class ClearanceInput(Ranged):
    """A low point, both wheels, and mass added; lengths mm, rates N/mm at the wheel.

    ``plate_below_low_point_mm``: how far the new plate hangs below the old low point.
    """

    wheelbase_mm: Annotated[float, Range(800.0, 2200.0, "mm")]
    low_point_from_rear_axle_mm: Annotated[float, Range(1.0, 2199.0, "mm")]
    low_point_height_mm: Annotated[float, Range(20.0, 1000.0, "mm")]
    rear_wheel_radius_mm: WheelRadius
    front_wheel_radius_mm: WheelRadius
    added_mass_kg: Annotated[float, Range(-100.0, 300.0, "kg")] = 0.0
    added_mass_from_rear_axle_mm: Annotated[float, Range(-2000.0, 4000.0, "mm")] = 0.0
    front_wheel_rate_n_per_mm: WheelRate | None = None
    rear_wheel_rate_n_per_mm: WheelRate | None = None
    plate_below_low_point_mm: Annotated[float, Range(-300.0, 300.0, "mm")] = 0.0

    def __post_init__(self) -> None:
        super().__post_init__()
        if self.low_point_from_rear_axle_mm >= self.wheelbase_mm:
            raise InputError(
                "low_point_from_rear_axle_mm",
                self.low_point_from_rear_axle_mm,
                f"less than the wheelbase, {entered(self.wheelbase_mm, 'mm')}",
            )
        if self.added_mass_kg:
            for field in ("front_wheel_rate_n_per_mm", "rear_wheel_rate_n_per_mm"):
                if getattr(self, field) is None:
                    raise InputError(
                        field,
                        None,
                        "a rate from 1 to 200 N/mm",
                        "added mass needs wheel rates",
                        "Take the sag with and without rider; `sag` gives the rates from it.",
                    )


@dataclass(frozen=True, kw_only=True)
class ClearanceResult:
    """Angles °, loads N, heights and sags mm; narrow log and step that pass, mm."""

    rear_side_deg: float
    front_side_deg: float
    breakover_deg: float
    front_load_added_n: float
    rear_load_added_n: float
    front_sag_mm: float
    rear_sag_mm: float
    low_point_sag_mm: float
    new_low_point_height_mm: float
    new_breakover_deg: float
    breakover_lost_deg: float
    log_height_mm: float
    step_height_mm: float


def _sides(given: ClearanceInput, height_mm: float) -> tuple[float, float]:
    """Angle of the rear and of the front wheel's tangent to the low point, degrees."""
    rear = given.low_point_from_rear_axle_mm
    return (
        wheel_angle_deg(given.rear_wheel_radius_mm, rear, height_mm),
        wheel_angle_deg(given.front_wheel_radius_mm, given.wheelbase_mm - rear, height_mm),
    )


def step_height_mm(given: ClearanceInput, height_mm: float) -> float:
    """Highest step whose edge passes the low point, front wheel up, both tyres on ground.

    With the front wheel raised by s the frame turns about the rear contact by
    asin(s/L); the edge stands under the low point, which has come up by s·x/L.
    So the edge passes while s ≤ h + s·x/L (small angles: x along the wheelbase).
    Valid up to the front wheel's radius: over that no wheel rolls onto it (``_step_words``).
    """
    share = given.low_point_from_rear_axle_mm / given.wheelbase_mm
    return height_mm / (1 - share)


def _step_words(given: ClearanceInput, step_mm: float) -> str:
    """How far the highest step is to be believed."""
    radius = entered(given.front_wheel_radius_mm, "mm")
    if step_mm <= given.front_wheel_radius_mm:
        return f"The step is for small angles, valid up to the front wheel's radius of {radius}."
    return (
        f"The step of {amount(step_mm, 'mm', 0)} is beyond the form: above the front wheel's "
        f"radius of {radius} no wheel rolls onto it."
    )


@computation("clearance", page="survey", check="clear-01")
def clearance(given: ClearanceInput) -> Outcome[ClearanceResult]:
    """Breakover now and after sag and a lower plate; what log and step pass.

    ISO 612 ramp angle; sag splits by the lever law and is interpolated at the low
    point. A narrow log under the bike passes up to the low point's height.
    """
    before = _sides(given, given.low_point_height_mm)
    ride = Ride(
        given.wheelbase_mm,
        given.front_wheel_rate_n_per_mm or math.inf,
        given.rear_wheel_rate_n_per_mm or math.inf,
    )
    mass_at = given.wheelbase_mm - given.added_mass_from_rear_axle_mm
    loads = ride.loads_n(given.added_mass_kg, mass_at) if given.added_mass_kg else (0.0, 0.0)
    sags = ride.sags_mm(given.added_mass_kg, mass_at) if given.added_mass_kg else (0.0, 0.0)
    sunk = ride.sag_at(sags, given.wheelbase_mm - given.low_point_from_rear_axle_mm)
    height = given.low_point_height_mm - sunk - given.plate_below_low_point_mm
    if height <= 0:
        raise InputError(
            "plate_below_low_point_mm",
            given.plate_below_low_point_mm,
            f"less than {amount(given.low_point_height_mm - sunk, 'mm', 1)}",
            "the low point would be on the ground",
        )
    after = _sides(given, height)
    return Outcome(
        result=ClearanceResult(
            rear_side_deg=before[0],
            front_side_deg=before[1],
            breakover_deg=sum(before),
            front_load_added_n=loads[0],
            rear_load_added_n=loads[1],
            front_sag_mm=sags[0],
            rear_sag_mm=sags[1],
            low_point_sag_mm=sunk,
            new_low_point_height_mm=height,
            new_breakover_deg=sum(after),
            breakover_lost_deg=sum(before) - sum(after),
            log_height_mm=height,
            step_height_mm=step_height_mm(given, height),
        ),
        inputs=(
            Input("Low point ahead of the rear axle", given.low_point_from_rear_axle_mm, "mm"),
            Input("Its height", given.low_point_height_mm, "mm"),
            Input("Added mass", given.added_mass_kg, "kg"),
            Input("Plate hangs lower by", given.plate_below_low_point_mm, "mm"),
        ),
        reasons=(
            "Breakover: sum over both wheels of asin(R/√(x²+(h−R)²)) − atan2(R−h, x).",
            "New height = old height − sag there − how far the plate hangs lower.",
        ),
        assumptions=(
            "Both tyres on the ground, undeformed; sag with constant wheel rates.",
            _step_words(given, step_height_mm(given, height)),
        ),
        sources=(CLEARANCE_SOURCE, SAG_SOURCE),
    )


@dataclass(frozen=True)
class BudgetPart(Ranged):
    """Something that eats into a gap: its size and half tolerance, mm."""

    name: str
    value_mm: Annotated[float, Range(-500.0, 500.0, "mm")]
    tol_mm: Annotated[float, Range(0.0, 100.0, "mm")] = 0.0


@dataclass(frozen=True)
class BudgetInput(Ranged):
    """A gap with its half tolerance, what eats into it, and what must be left; mm."""

    gap_mm: Annotated[float, Range(-100.0, 1000.0, "mm")]
    parts: tuple[BudgetPart, ...]
    gap_tol_mm: Annotated[float, Range(0.0, 100.0, "mm")] = 0.0
    required_mm: Annotated[float, Range(0.0, 500.0, "mm")] = 0.0

    def __post_init__(self) -> None:
        super().__post_init__()
        if len(self.parts) > MAX_PARTS:
            raise InputError("parts", len(self.parts), f"at most {MAX_PARTS} parts")


@dataclass(frozen=True)
class BudgetResult:
    """What is left of the gap, mm: nominal, worst case, root sum of squares."""

    nominal_mm: float
    worst_mm: float
    rss_mm: float
    verdict_worst: Literal["ok", "not enough"]
    verdict_rss: Literal["ok", "not enough"]


def _budget_findings(result: BudgetResult, required_mm: float) -> tuple[Finding, ...]:
    if result.nominal_mm < required_mm:
        words = (
            f"{amount(result.nominal_mm, 'mm', 1)} left, {entered(required_mm, 'mm')} "
            "wanted, tolerances aside."
        )
        return (finding("gap too small", words),)
    if result.verdict_worst == "not enough":
        words = (
            f"{amount(result.worst_mm, 'mm', 1)} left in the worst case, "
            f"{entered(required_mm, 'mm')} wanted."
        )
        return (finding("gap small in the worst case", words),)
    return ()


@computation("clearance-budget", page="survey", check="clear-04")
def clearance_budget(given: BudgetInput) -> Outcome[BudgetResult]:
    """Gap less all that eats into it; the worst case decides, RSS is shown beside it."""
    nominal = given.gap_mm - sum(p.value_mm for p in given.parts)
    tolerances = [given.gap_tol_mm, *(p.tol_mm for p in given.parts)]
    worst_mm, rss_mm = nominal - sum(tolerances), nominal - math.hypot(*tolerances)

    def judged(left: float) -> Literal["ok", "not enough"]:
        return "ok" if left >= given.required_mm else "not enough"

    result = BudgetResult(nominal, worst_mm, rss_mm, judged(worst_mm), judged(rss_mm))
    return Outcome(
        result=result,
        inputs=(
            Input("Gap", given.gap_mm, "mm"),
            *(Input(p.name, p.value_mm, "mm") for p in given.parts),
            Input("Must be left", given.required_mm, "mm"),
        ),
        findings=_budget_findings(result, given.required_mm),
        reasons=("Gap less the sum of the parts; worst case less all half tolerances.",),
        sources=(BUDGET_SOURCE,),
    )
