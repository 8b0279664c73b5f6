"""Riding profiles: from where stones come and how hard, for one kind of riding."""

from __future__ import annotations

from dataclasses import dataclass

from rugged_shield.core.result import Source


@dataclass(frozen=True)
class Profile:
    """Share of the strikes from each direction (sum 1) and what a hard one carries, J.

    ``energy_j`` is what plates are compared at, unless the rider types another.
    """

    shares: dict[str, float]
    energy_j: float
    words: str


@dataclass(frozen=True)
class EnergyClass:
    """What usually carries such an energy, J."""

    words: str
    least_j: float
    most_j: float


ENERGY_CLASSES = (
    EnergyClass("thrown stone", 5.0, 15.0),
    EnergyClass("rolling onto a set rock", 40.0, 80.0),
    EnergyClass("a drop onto a log or ledge", 100.0, 400.0),
)

PROFILE_SOURCE = Source("own estimate for each kind of riding; shares sum to 1", "low")

PROFILES: dict[str, Profile] = {
    "gravel roads": Profile(
        {
            "from below": 0.20,
            "from ahead 20° upward": 0.35,
            "from ahead 40° upward": 0.20,
            "from the left 35° upward": 0.05,
            "from the right 35° upward": 0.05,
            "level from ahead": 0.15,
        },
        15.0,
        "stones thrown up by the front wheel",
    ),
    "forest trail": Profile(
        {
            "from below": 0.35,
            "from ahead 20° upward": 0.20,
            "from ahead 40° upward": 0.25,
            "from the left 35° upward": 0.08,
            "from the right 35° upward": 0.08,
            "level from ahead": 0.04,
        },
        60.0,
        "roots and set rocks, rolled onto",
    ),
    "rock and ledges": Profile(
        {
            "from below": 0.40,
            "from ahead 20° upward": 0.10,
            "from ahead 40° upward": 0.26,
            "from the left 35° upward": 0.11,
            "from the right 35° upward": 0.11,
            "level from ahead": 0.02,
        },
        150.0,
        "ledges and drops onto edges",
    ),
    "logs and drops": Profile(
        {
            "from below": 0.50,
            "from ahead 20° upward": 0.10,
            "from ahead 40° upward": 0.30,
            "from the left 35° upward": 0.05,
            "from the right 35° upward": 0.05,
            "level from ahead": 0.0,
        },
        300.0,
        "logs and ledges with the bike's weight on them",
    ),
}
