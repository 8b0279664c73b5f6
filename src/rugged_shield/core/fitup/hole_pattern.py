"""How well a set of screws holds a sheet: what the worst one takes of a pull at the worst place."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from rugged_shield.core.errors import InputError
from rugged_shield.core.mechanics.frames import Vec2
from rugged_shield.core.result import Input, Outcome, Source

PATTERN_SOURCE = Source(
    "elastic bolt group under an eccentric load: a rigid sheet on equal springs "
    "(Shigley, Mechanical Engineering Design, joints loaded in eccentric tension)",
    "medium",
)
MAX_SCREWS = 99
_HELD = 1e-6
_SCALE_MM = 100.0


@dataclass(frozen=True)
class PatternInput:
    """Screws and the places where the sheet can be pulled, mm, seen from above; pull in N."""

    screws_mm: tuple[Vec2, ...]
    pulled_at_mm: tuple[Vec2, ...]
    pull_n: float = 100.0

    def __post_init__(self) -> None:
        for name, points, most in (
            ("screws_mm", self.screws_mm, MAX_SCREWS),
            ("pulled_at_mm", self.pulled_at_mm, 10_000),
        ):
            if not 1 <= len(points) <= most:
                raise InputError(name, len(points), f"1 to {most} places")
            if not all(math.isfinite(v) and abs(v) <= 5000.0 for p in points for v in p):
                raise InputError(name, "a place", "places within 5000 mm")
        if not (math.isfinite(self.pull_n) and 0.0 < self.pull_n <= 100_000.0):
            raise InputError("pull_n", self.pull_n, "above 0 up to 100 000 N")


@dataclass(frozen=True, kw_only=True)
class PatternResult:
    """``worst_n`` on screw ``worst_screw`` for a pull at ``worst_at_mm``; None: it tilts freely.

    ``spread_mm``: root mean square distance of the screws from their middle, across the way in
    which they lie closest together.
    """

    worst_n: float | None
    worst_screw: int | None
    worst_at_mm: Vec2
    spread_mm: float


def _rows(points: NDArray[np.float64], middle: NDArray[np.float64]) -> NDArray[np.float64]:
    """1, x, y of each place about the screws' middle, scaled so that all three are alike."""
    return np.column_stack((np.ones(len(points)), (points - middle) / _SCALE_MM))


def hole_pattern(given: PatternInput) -> Outcome[PatternResult]:
    """What the worst screw takes when the sheet is pulled off at its worst place.

    With rows a = (1, x, y) and equal springs the reactions to a unit pull at p are
    R = A (AᵀA)⁻¹ a(p). Screws on one line (or one screw) leave the sheet free to tilt about it
    unless every pull lies on that line. Raises InputError for empty or endless lists.
    """
    screws = np.array(given.screws_mm, dtype=float)
    pulled = np.array(given.pulled_at_mm, dtype=float)
    middle = screws.mean(axis=0)
    rows, loads = _rows(screws, middle), _rows(pulled, middle)
    spread = np.linalg.eigvalsh(np.cov((screws - middle).T, bias=True))
    inverse = np.linalg.pinv(rows.T @ rows, rcond=_HELD, hermitian=True)
    held = inverse @ (rows.T @ rows) @ loads.T
    free = np.abs(held - loads.T).max(axis=0) > 1e-3
    reactions = given.pull_n * rows @ inverse @ loads.T
    if free.any():
        at = int(np.argmax(free))
        worst_n, screw = None, None
    else:
        screw, at = (int(i) for i in np.unravel_index(np.abs(reactions).argmax(), reactions.shape))
        worst_n = float(abs(reactions[screw, at]))
    result = PatternResult(
        worst_n=worst_n,
        worst_screw=screw,
        worst_at_mm=(float(pulled[at, 0]), float(pulled[at, 1])),
        spread_mm=math.sqrt(max(0.0, float(spread[0]))),
    )
    return Outcome(
        result=result,
        inputs=(Input("Screws", len(screws)), Input("Pull", given.pull_n, "N")),
        assumptions=("The sheet is stiff beside its screws, and all screws give alike.",),
        sources=(PATTERN_SOURCE,),
    )
