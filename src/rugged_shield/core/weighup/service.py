"""What an oil change costs with a plate on: the way in, its screws, and minutes a year."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from rugged_shield.core.computation import computation
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.result import Input, Outcome, Source
from rugged_shield.core.survey.oil import Way

SERVICE_SOURCE = Source("own estimate of minutes for each act, to be corrected by a clock", "low")
SCREW_MINUTES = 1.5
HANDLING_MINUTES: dict[Way, float] = {
    "open holes": 0.0,
    "closed doors": 2.0,
    "removable pieces": 3.0,
    "plate off": 6.0,
}
MUD_MINUTES: dict[Way, float] = {
    "open holes": 4.0,
    "closed doors": 0.0,
    "removable pieces": 2.0,
    "plate off": 5.0,
}
"""Washing out what has collected: through holes it is poked, with the plate off it is all seen."""
OIL_MINUTES = 6.0


@dataclass(frozen=True)
class ServiceInput(Ranged):
    """How drain and filter are reached, and how often."""

    way: Way
    screws: Annotated[int, Range(0, 100)]
    oil_on_plate: bool = False
    km_per_year: Annotated[float, Range(100.0, 100000.0, "km")] = 5000.0
    oil_interval_km: Annotated[float, Range(500.0, 50000.0, "km")] = 4000.0


@dataclass(frozen=True)
class ServiceResult:
    """Oil changes a year, minutes that the plate adds to one, minutes a year."""

    changes_per_year: float
    minutes_each: float
    minutes_per_year: float


@computation(
    "service",
    page="ownership",
    check="test_minutes_grow_with_screws_and_kilometres",
)
def service(given: ServiceInput) -> Outcome[ServiceResult]:
    """Minutes that a plate adds to oil changes, each and over a year."""
    changes = given.km_per_year / given.oil_interval_km
    parts = {
        "screws out and in": given.screws * SCREW_MINUTES,
        "handling": HANDLING_MINUTES[given.way],
        "washing out mud and stones": MUD_MINUTES[given.way],
        "wiping oil off the plate": OIL_MINUTES if given.oil_on_plate else 0.0,
    }
    each = sum(parts.values())
    return Outcome(
        result=ServiceResult(changes, each, each * changes),
        inputs=(
            Input("Way to drain and filter", given.way),
            Input("Screws", given.screws),
            Input("Oil changes a year", round(changes, 2)),
            *(Input(name[:1].upper() + name[1:], value, "min") for name, value in parts.items()),
        ),
        reasons=("Minutes that the plate adds to one oil change, times changes a year.",),
        assumptions=("At least the mud is washed out at every oil change.",),
        sources=(SERVICE_SOURCE,),
    )
