"""How a lens bends lines: one number from the straight edges of a sheet, and how sure it is."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from rugged_shield.core.errors import InputError
from rugged_shield.core.mechanics.frames import Vec2
from rugged_shield.core.quantity import Ranged
from rugged_shield.core.result import Source

LENS_SOURCE = Source(
    "radial distortion by one number (Brown 1971), from lines that are straight (Devernay and "
    "Faugeras 2001); prior 0 ± 0.08 at the picture's corner: own estimate",
    "medium",
)
USUAL_K = 0.08
"""Standard deviation of a lens's number over cameras of phones, at the corner of the picture."""
MOST_K = 0.3
"""Beyond this the map folds over itself within the picture."""
STAYS_BENT_CLICKS = 5.0
_STEP_K = 1e-4
_MOST_STEPS = 30
_SAME_K = 1e-11

Array = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True)
class LensSeen(Ranged):
    """Width and height of the whole picture, px, and a tap on each edge of the sheet.

    ``edges_px``: near the middle of its top, right, bottom and left edge; empty: nobody looked,
    and what lenses of phones usually do is part of the uncertainty.
    """

    picture_px: Vec2
    edges_px: tuple[Vec2, ...] = ()

    def __post_init__(self) -> None:
        super().__post_init__()
        if not all(math.isfinite(v) and 16.0 <= v <= 1e5 for v in self.picture_px):
            raise InputError("picture_px", str(self.picture_px), "sides of 16 to 100 000 px")
        if len(self.edges_px) not in (0, 4):
            raise InputError("edges_px", len(self.edges_px), "none, or one on each of four edges")
        for point in self.edges_px:
            if not all(math.isfinite(v) and abs(v) <= 1e5 for v in point):
                raise InputError("edges_px", str(point), "finite pixels within 100 000")


def straightened(points: Array, k: float, lens: LensSeen) -> Array:
    """Where points (n, 2) of a picture would be without the lens's bend.

    seen = middle + (true − middle)(1 + k r²), r from the middle in half diagonals, of the true
    place; solved for it by Newton's steps. |k| ≤ 0.3 within the picture.
    """
    middle = np.array(lens.picture_px) / 2
    away = (points - middle) / float(np.hypot(*middle))
    seen = np.hypot(away[:, 0], away[:, 1])
    true = seen.copy()
    for _ in range(6):
        true -= (true + k * true**3 - seen) / np.maximum(1 + 3 * k * true**2, 0.05)
    scale = np.divide(true, seen, out=np.ones_like(seen), where=seen > 1e-12)
    return np.asarray(middle + (points - middle) * scale[:, None])


def _bends(k: float, corners: Array, edges: Array, lens: LensSeen) -> Array:
    """How far each edge's tap stands off the straight line between its corners, px."""
    at, on = straightened(corners, k, lens), straightened(edges, k, lens)
    along = np.roll(at, -1, axis=0) - at
    beside = on - at
    across = along[:, 0] * beside[:, 1] - along[:, 1] * beside[:, 0]
    return np.asarray(across / np.hypot(along[:, 0], along[:, 1]))


def _slope(k: float, corners: Array, edges: Array, lens: LensSeen) -> Array:
    """How each edge's bend goes with the lens's number, px."""
    either = _bends(k + _STEP_K, corners, edges, lens) - _bends(k - _STEP_K, corners, edges, lens)
    return np.asarray(either / (2 * _STEP_K))


def lens_number(
    corners: Array, edges: Array, lens: LensSeen, click_u_px: float, start: float = 0.0
) -> float:
    """The number of a lens by the edges of the sheet, by steps of Gauss and Newton
    drawn towards what is usual.

    Raises InputError where it lies beyond what a picture can show.
    """
    variance, k = max(click_u_px, 0.1) ** 2, start
    for _ in range(_MOST_STEPS):
        slope = _slope(k, corners, edges, lens)
        bends = _bends(k, corners, edges, lens)
        step = float(bends @ slope) / variance + k / USUAL_K**2
        step /= float(slope @ slope) / variance + 1 / USUAL_K**2
        k -= step
        if abs(k) > MOST_K:
            break
        if abs(step) < _SAME_K:
            return k
    raise InputError(
        "edges_px",
        "bent too much",
        "edges that a lens can have bent",
        "no lens bends a sheet like this: a tap is beside its edge, or out of turn",
        "Tap the top edge, then the right, the bottom and the left one.",
    )


def usual_share(k: float, corners: Array, lens: LensSeen, click_u_px: float) -> float:
    """How much of what is usual a number rests on: 1 where no edge was tapped, 0 where all is
    seen.
    """
    if not lens.edges_px:
        return 1.0
    slope = _slope(k, corners, np.array(lens.edges_px), lens)
    seen = float(slope @ slope) / max(click_u_px, 0.1) ** 2
    return (1 / USUAL_K**2) / (1 / USUAL_K**2 + seen)


def check_straight(k: float, corners: Array, lens: LensSeen, click_u_px: float) -> None:
    """Refuse edges that no lens of one number makes straight."""
    left = float(np.abs(_bends(k, corners, np.array(lens.edges_px), lens)).max())
    most = STAYS_BENT_CLICKS * max(click_u_px, 1.0)
    if left > most:
        raise InputError(
            "edges_px",
            f"{left:.0f} px off a straight line",
            f"at most {most:.0f} px",
            "an edge of the sheet stays bent: a tap is beside it, or the sheet does not lie flat",
            "Tap the edges again, or lay the sheet flat and take the picture from farther away.",
        )


def number_of(lens: LensSeen, corners: Array, click_u_px: float) -> Callable[[Array], float]:
    """What finds a lens's number from corners and edges in one list, near those that were tapped;
    0 where no edge was.
    """
    if not lens.edges_px:
        return lambda sheet: 0.0
    start = lens_number(corners, np.array(lens.edges_px), lens, click_u_px)
    return lambda sheet: lens_number(sheet[:4], sheet[4:], lens, click_u_px, start)
