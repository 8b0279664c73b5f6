"""How long a wear piece lasts: thickness over km, and how sure its rate is."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated

import numpy as np

from rugged_shield.core.computation import computation
from rugged_shield.core.errors import InputError
from rugged_shield.core.mechanics.spread import student_95
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.result import Input, Outcome, Source

WEAR_SOURCE = Source(
    "least squares; Student t at 95 % (JCGM 100:2008, annex G); the crossing's ends by Fieller "
    "(Draper and Smith 1998, 3.2)",
    "high",
)
MAX_READINGS = 500
NORMAL_95 = 1.96


@dataclass(frozen=True, kw_only=True)
class WearReading(Ranged):
    """A thickness as it was read at a counter: km, mm."""

    km: Annotated[float, Range(0.0, 1e6, "km")]
    thickness_mm: Annotated[float, Range(0.0, 60.0, "mm")]


@dataclass(frozen=True, kw_only=True)
class WearLeftInput(Ranged):
    """Readings of one place, the standard uncertainty of one of them mm, the limit mm."""

    readings: tuple[WearReading, ...]
    reading_u_mm: Annotated[float, Range(0.001, 5.0, "mm")]
    limit_mm: Annotated[float, Range(0.0, 50.0, "mm")]

    def __post_init__(self) -> None:
        super().__post_init__()
        if len({r.km for r in self.readings}) < 2:
            raise InputError(
                "readings",
                len(self.readings),
                f"2 to {MAX_READINGS} readings at different km",
                "one reading tells how thick it is, not how fast it wears",
                "Read it once more after some rides.",
            )
        if len(self.readings) > MAX_READINGS:
            raise InputError("readings", len(self.readings), f"at most {MAX_READINGS} readings")


@dataclass(frozen=True, kw_only=True)
class WearLeftResult:
    """Rate and its standard uncertainty, mm in 1000 km; thickness now mm; km left, and its ends.

    None: no end in sight. Its ends hold the error of today's thickness and that of the rate.
    """

    rate_mm_per_1000km: float
    rate_u_mm_per_1000km: float
    thickness_now_mm: float
    km_left: float | None
    km_left_low: float | None
    km_left_high: float | None


def _left_km(room_mm: float, rate_per_km: float) -> float | None:
    """km until the room is worn away; 0 where there is none, None where it does not wear."""
    if room_mm <= 0.0:
        return 0.0
    return room_mm / rate_per_km if rate_per_km > 0.0 else None


def _ends_km(
    room_mm: float, rate_per_km: float, reach: float, count: int, spread: float
) -> tuple[float, float]:
    """First and last km, from the middle of the readings, at which the line may be at the limit.

    room_mm at the middle; ``reach``: factor times the standard uncertainty of one reading, mm.
    Fieller: (room − rate·x)² = reach² (1/n + x²/spread).
    """
    a = rate_per_km**2 - reach**2 / spread
    b = room_mm * rate_per_km
    c = room_mm**2 - reach**2 / count
    if c > 0.0 and room_mm < 0.0:
        return -math.inf, -math.inf
    if c <= 0.0:
        near = -math.inf
    elif a > 0.0 and rate_per_km < 0.0:
        return math.inf, math.inf
    else:
        near = c / (b + math.sqrt(max(b * b - a * c, 0.0)))
    # where the rate itself is not sure the far end is nowhere
    far = (b + math.sqrt(max(b * b - a * c, 0.0))) / a if a > 0.0 else math.inf
    return near, far


def _ahead(km: float) -> float | None:
    """km from the last reading on: none where it is behind, None where no end is in sight."""
    return max(km, 0.0) if math.isfinite(km) or km < 0.0 else None


@computation("wear-left", page="wear-left", check="wear-left-01")
def wear_left(given: WearLeftInput) -> Outcome[WearLeftResult]:
    """km until a wear piece is at its limit, from the fitted thickness at the last reading.

    The rate's error is that of the residuals with Student's t (three readings or more), never
    below that of the readings themselves with 1.96; the ends of what is left hold today's
    thickness in doubt as well. One reading is refused with what to do.
    """
    km = np.array([r.km for r in given.readings])
    mm = np.array([r.thickness_mm for r in given.readings])
    away = km - km.mean()
    spread = float(away @ away)
    slope = float(away @ mm) / spread
    error, factor = given.reading_u_mm / math.sqrt(spread), NORMAL_95
    free = len(km) - 2
    if free >= 1:
        residuals = mm - mm.mean() - slope * away
        scatter = math.sqrt(float(residuals @ residuals) / free / spread)
        if scatter > error:
            error, factor = scatter, student_95(free)
    now = float(mm.mean() + slope * (km.max() - km.mean()))
    room, rate = now - given.limit_mm, -slope
    ahead_km = float(km.max() - km.mean())
    reach = factor * error * math.sqrt(spread)
    near, far = _ends_km(float(mm.mean()) - given.limit_mm, rate, reach, len(km), spread)
    return Outcome(
        result=WearLeftResult(
            rate_mm_per_1000km=rate * 1000.0,
            rate_u_mm_per_1000km=error * 1000.0,
            thickness_now_mm=now,
            km_left=_left_km(room, rate),
            km_left_low=_ahead(near - ahead_km),
            km_left_high=_ahead(far - ahead_km),
        ),
        inputs=(
            Input("Readings", len(km)),
            Input("A reading is off by", given.reading_u_mm, "mm"),
            Input("Limit", given.limit_mm, "mm"),
        ),
        reasons=("What is left is counted from the fitted thickness, not from the last reading.",),
        assumptions=("It goes on wearing as it did.",),
        sources=(WEAR_SOURCE,),
    )
