"""How long a thread locker can be worked, and until it holds, by temperature."""

from __future__ import annotations

from itertools import pairwise

from rugged_shield.core.result import Source

LOCKER_SOURCE = Source(
    "typical data of medium anaerobic lockers on steel; the bottle's own sheet comes first", "low"
)
COLDEST_C, WARMEST_C = 5.0, 40.0
ASSUMED_C = 10.0
"""A cold garage: what is taken where nobody said, so that no locker is called cured early."""
_OPEN_MIN = ((5.0, 30.0), (10.0, 25.0), (22.0, 15.0), (40.0, 8.0))
_CURE_H = ((5.0, 72.0), (10.0, 48.0), (22.0, 24.0), (40.0, 12.0))


def _between(table: tuple[tuple[float, float], ...], celsius: float) -> float:
    if celsius >= table[-1][0]:
        return table[-1][1]
    for (a, low), (b, high) in pairwise(table):
        if celsius <= b:
            return low + (high - low) * (celsius - a) / (b - a)
    return table[-1][1]


def open_minutes(celsius: float) -> float | None:
    """Minutes from the first drop until it sets; None below 5 °C, where it is not known."""
    return None if celsius < COLDEST_C else _between(_OPEN_MIN, celsius)


def cure_hours(celsius: float) -> float | None:
    """Hours until it holds in full; None below 5 °C, where it may never."""
    return None if celsius < COLDEST_C else _between(_CURE_H, celsius)
