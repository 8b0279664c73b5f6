"""Sag: wheel rates from a rider's own sag readings, and what added mass does to the ride."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from rugged_shield.core.amounts import entered
from rugged_shield.core.computation import computation
from rugged_shield.core.errors import InputError
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.result import Input, Outcome, Source

G_M_S2 = 9.80665
SAG_SOURCE = Source("statics of two wheels; rates are at the wheel, not of the spring", "high")

WheelRate = Annotated[float, Range(1.0, 200.0, "N/mm")]
SagReading = Annotated[float, Range(0.0, 300.0, "mm")]


@dataclass(frozen=True, kw_only=True)
class SagInput(Ranged):
    """Added mass kg and its place, and wheel rates N/mm or the readings that give them.

    ``added_mass_from_front_axle_mm`` rearward from the front axle. Readings: sag
    of each wheel with the rider aboard and without; ``rider_mass_kg`` with gear,
    ``rider_front_share`` of it on the front wheel.
    """

    wheelbase_mm: Annotated[float, Range(800.0, 2200.0, "mm")]
    added_mass_kg: Annotated[float, Range(-100.0, 300.0, "kg")]
    added_mass_from_front_axle_mm: Annotated[float, Range(-2000.0, 4000.0, "mm")]
    front_wheel_rate_n_per_mm: WheelRate | None = None
    rear_wheel_rate_n_per_mm: WheelRate | None = None
    rider_mass_kg: Annotated[float | None, Range(20.0, 250.0, "kg")] = None
    rider_front_share: Annotated[float, Range(0.05, 0.95)] = 0.4
    front_sag_with_rider_mm: SagReading | None = None
    front_sag_without_rider_mm: SagReading | None = None
    rear_sag_with_rider_mm: SagReading | None = None
    rear_sag_without_rider_mm: SagReading | None = None


@dataclass(frozen=True)
class SagResult:
    """Rates N/mm, loads N, sags mm (negative: the wheel's end rises)."""

    front_wheel_rate_n_per_mm: float
    rear_wheel_rate_n_per_mm: float
    front_load_added_n: float
    rear_load_added_n: float
    front_sag_mm: float
    rear_sag_mm: float


@dataclass(frozen=True)
class Ride:
    """Two wheels and their rates: what a mass does, anywhere between or behind them."""

    wheelbase_mm: float
    front_rate_n_per_mm: float
    rear_rate_n_per_mm: float

    def loads_n(self, mass_kg: float, x_mm: float) -> tuple[float, float]:
        """Load added to front and rear wheel, N; x rearward from the front axle."""
        weight = mass_kg * G_M_S2
        return weight * (1 - x_mm / self.wheelbase_mm), weight * x_mm / self.wheelbase_mm

    def sags_mm(self, mass_kg: float, x_mm: float) -> tuple[float, float]:
        """How far both wheels sink in, mm."""
        front, rear = self.loads_n(mass_kg, x_mm)
        return front / self.front_rate_n_per_mm, rear / self.rear_rate_n_per_mm

    def sag_at(self, sags_mm: tuple[float, float], x_mm: float) -> float:
        """Sag interpolated along the wheelbase, mm."""
        front, rear = sags_mm
        return front + (rear - front) * x_mm / self.wheelbase_mm


def wheel_rate(
    mass_kg: float, share: float, with_mm: float, without_mm: float, field: str = "sag"
) -> float:
    """Rate at the wheel: k = load share · g / (sag with rider − sag without), N/mm."""
    travel = with_mm - without_mm
    if travel < 1.0:
        raise InputError(
            f"{field}_with_rider_mm",
            entered(with_mm, "mm"),
            f"more than {entered(without_mm + 1, 'mm')}",
            "the wheel must sink by at least 1 mm when the rider gets on",
            "Measure both again, the bike upright, bounced once before each reading.",
        )
    return share * mass_kg * G_M_S2 / travel


def _rate(given: SagInput, end: str, share: float) -> tuple[float, str]:
    """A wheel's rate as given or from its two readings, and where it is from."""
    rate = getattr(given, f"{end}_wheel_rate_n_per_mm")
    if rate is not None:
        return float(rate), "as given"
    needed = {
        name: getattr(given, name)
        for name in ("rider_mass_kg", f"{end}_sag_with_rider_mm", f"{end}_sag_without_rider_mm")
    }
    for name, value in needed.items():
        if value is None:
            raise InputError(
                name,
                None,
                f"a number, or {end}_wheel_rate_n_per_mm",
                f"the {end} wheel's rate is not known",
            )
    mass, with_mm, without_mm = needed.values()
    return wheel_rate(mass, share, with_mm, without_mm, f"{end}_sag"), "from the sag readings"


@computation(
    "sag",
    page="survey",
    check="test_loads_are_in_balance",
)
def sag(given: SagInput) -> Outcome[SagResult]:
    """How far each wheel sinks under an added mass.

    Front share 1 − a/L, rear a/L (a mass behind the rear axle lifts the front);
    sag = share · m · g / wheel rate.
    """
    front, front_from = _rate(given, "front", given.rider_front_share)
    rear, rear_from = _rate(given, "rear", 1 - given.rider_front_share)
    ride = Ride(given.wheelbase_mm, front, rear)
    place = given.added_mass_from_front_axle_mm
    loads = ride.loads_n(given.added_mass_kg, place)
    sags = ride.sags_mm(given.added_mass_kg, place)
    return Outcome(
        result=SagResult(front, rear, *loads, *sags),
        inputs=(
            Input("Added mass", given.added_mass_kg, "kg"),
            Input("Behind the front axle", place, "mm"),
            Input(f"Front wheel rate, {front_from}", front, "N/mm"),
            Input(f"Rear wheel rate, {rear_from}", rear, "N/mm"),
        ),
        reasons=("Sag = share of the weight on that wheel ÷ rate at the wheel.",),
        assumptions=("Rates are constant near the ride height; preload is left as it is.",),
        sources=(SAG_SOURCE,),
    )
