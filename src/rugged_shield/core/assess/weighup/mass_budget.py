"""Everything added to the bike against stock: mass, where it hangs, how far the bike sinks."""

from __future__ import annotations

from dataclasses import dataclass

from rugged_shield.core.amounts import amount
from rugged_shield.core.assess.fitup.pose import PlatePose
from rugged_shield.core.result import Finding, finding, from_table
from rugged_shield.core.survey.bike import Bike
from rugged_shield.core.survey.clearance import LowPoint
from rugged_shield.core.survey.ride import ride_of

HEAVY_KG = 10.0
"""So much more sinks springs by about a centimetre; own estimate."""


@dataclass(frozen=True)
class BudgetLine:
    """One thing added (or taken off, negative): mass kg, place rearward of the front axle mm."""

    name: str
    mass_kg: float
    x_mm: float


@dataclass(frozen=True)
class MassBudget:
    """All that was added; sags mm are None while a wheel's rate is not known."""

    lines: tuple[BudgetLine, ...]
    total_kg: float
    front_sag_mm: float | None
    rear_sag_mm: float | None
    findings: tuple[Finding, ...]

    def sag_at(self, bike: Bike, x_mm: float) -> float:
        """How far the bike sinks at a place, mm; 0 while not known."""
        if self.front_sag_mm is None or self.rear_sag_mm is None:
            return 0.0
        share = x_mm / bike.wheelbase_mm
        return self.front_sag_mm + (self.rear_sag_mm - self.front_sag_mm) * share


def sunk_points(
    bike: Bike, points: tuple[LowPoint, ...], budget: MassBudget
) -> tuple[LowPoint, ...]:
    """Low points as the springs give under all that was added."""
    at_front = budget.sag_at(bike, 0.0)
    slope = (budget.sag_at(bike, bike.wheelbase_mm) - at_front) / bike.wheelbase_mm
    if at_front == 0 and slope == 0:
        return points
    return tuple(
        LowPoint(p.name, p.x_mm, p.y_mm, p.z_mm - (at_front + slope * p.x_mm)) for p in points
    )


def mass_budget(
    bike: Bike,
    plate_kg: float,
    posed: PlatePose,
    stock_kg: float,
    base: PlatePose,
    is_stock: bool,
    bought: tuple[BudgetLine, ...] = (),
    over_stock: bool = False,
) -> MassBudget:
    """The plate for the stock one, what is bought with it, and all else that was added."""
    lines = [*bought, *(BudgetLine(a.name, a.mass_kg, a.x_mm) for a in bike.added)]
    if not is_stock:
        at, was_at = posed.folded.centre_of_gravity_mm[0], base.folded.centre_of_gravity_mm[0]
        lines = [
            BudgetLine("the plate with its hardware", plate_kg, at),
            *([] if over_stock else [BudgetLine("the stock plate, off", -stock_kg, was_at)]),
            *lines,
        ]
    total = sum(line.mass_kg for line in lines)
    ride = ride_of(bike)
    if ride is None:
        found: tuple[Finding, ...] = ()
        if lines:
            found = (
                finding(
                    "sag not known",
                    "How far the springs give under the added mass is not known: take the sag "
                    "with and without rider at both wheels.",
                ),
            )
        if total >= HEAVY_KG:
            found += (from_table("heavy, sag not known", mass=amount(total, "kg", 0)),)
        return MassBudget(tuple(lines), total, None, None, found)
    sags = [ride.sags_mm(line.mass_kg, line.x_mm) for line in lines]
    return MassBudget(tuple(lines), total, sum(s[0] for s in sags), sum(s[1] for s in sags), ())
