"""Coverage: which share of each vital a plate shields from a stone.

A stone comes along parallel rays from a named direction. A sample point of a
vital counts when its face looks toward the stone; it is shielded when the ray
from it back toward the stone meets a panel outside its open cutouts.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Annotated, Literal, Protocol

import numpy as np
import numpy.typing as npt

from rugged_shield.core.amounts import percent
from rugged_shield.core.computation import computation
from rugged_shield.core.errors import InputError
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.result import Input, Outcome, Source
from rugged_shield.core.survey.bike import Part
from rugged_shield.core.survey.geometry import FoldedPlate, fold
from rugged_shield.core.survey.plate import Plate
from rugged_shield.core.survey.rays import blocked

COVERAGE_SOURCE = Source(
    "parallel rays from box faces to folded panels, spacing up to 12 mm", "high"
)
SPACING_MM = 12.0
LEAST_POINTS = 512
_GOLDEN = (math.sqrt(5) - 1) / 2

Direction = Literal[
    "from below",
    "from ahead 20° upward",
    "from ahead 40° upward",
    "from the left 35° upward",
    "from the right 35° upward",
    "level from ahead",
]


def _toward(ahead: float, right: float, up_deg: float) -> tuple[float, float, float]:
    """Unit vector from the vital toward the stone for a stone that rises by ``up_deg``."""
    level, down = math.cos(math.radians(up_deg)), math.sin(math.radians(up_deg))
    return (-ahead * level, right * level, -down)


DIRECTIONS: dict[str, tuple[float, float, float]] = {
    "from below": (0.0, 0.0, -1.0),
    "from ahead 20° upward": _toward(1, 0, 20),
    "from ahead 40° upward": _toward(1, 0, 40),
    "from the left 35° upward": _toward(0, -1, 35),
    "from the right 35° upward": _toward(0, 1, 35),
    "level from ahead": _toward(1, 0, 0),
}

FIRST_DIRECTIONS: tuple[Direction, ...] = ("from below", "from ahead 20° upward")


@dataclass(frozen=True)
class CoverageInput(Ranged):
    """Parts, a plate and the directions asked for; ``stone_radius_mm`` 0 is a point."""

    parts: tuple[Part, ...]
    plate: Plate
    directions: tuple[Direction, ...] = FIRST_DIRECTIONS
    stone_radius_mm: Annotated[float, Range(0.0, 100.0, "mm")] = 0.0
    spacing_mm: Annotated[float, Range(1.0, SPACING_MM, "mm")] = SPACING_MM

    def __post_init__(self) -> None:
        super().__post_init__()
        if not self.parts:
            raise InputError("parts", "", "one part or more", "there is nothing to shield")


@dataclass(frozen=True)
class VitalCoverage:
    """One vital from one direction: share shielded 0–1, rays that count.

    ``share`` is None when no face of the vital looks that way.
    """

    vital: str
    direction: str
    share: float | None
    rays: int


@dataclass(frozen=True)
class CoverageResult:
    """All pairs, and per direction the share weighted by consequence."""

    shares: tuple[VitalCoverage, ...]
    weighted: dict[str, float]
    rays: int


def _faces(
    part: Box, toward: tuple[float, float, float], spacing_mm: float
) -> list[tuple[int, int, float]]:
    """Faces that look toward the stone: (axis, number of points, projected area mm²)."""
    sizes = (
        part.x_max_mm - part.x_min_mm,
        part.y_max_mm - part.y_min_mm,
        part.z_max_mm - part.z_min_mm,
    )
    faces = []
    for axis in range(3):
        if abs(toward[axis]) < 1e-9:
            continue
        a, b = (sizes[i] for i in range(3) if i != axis)
        count = max(LEAST_POINTS, math.ceil(a / spacing_mm) * math.ceil(b / spacing_mm))
        faces.append((axis, count, a * b * abs(toward[axis])))
    return faces


@lru_cache(maxsize=256)
def _lattice(count: int) -> npt.NDArray[np.float64]:
    """Even points in the unit square, at least ``count``; shape (n, 2).

    A golden-ratio lattice in one quarter, mirrored into the others: an edge
    along a grid would hide or bare a whole row of it, these points resolve it to
    0.6 % at 512, and a mirrored bike has exactly the mirrored points.
    """
    quarter = math.ceil(count / 4)
    steps = np.arange(quarter)
    base = np.column_stack([(steps + 0.5) / quarter, (0.5 + steps * _GOLDEN) % 1.0]) / 2
    points: npt.NDArray[np.float64] = np.vstack(
        [np.abs(np.array(corner) - base) for corner in ((0, 0), (0, 1), (1, 0), (1, 1))]
    )
    return points


class Box(Protocol):
    """What coverage asks of a vital: its key, its box, how much its loss would cost."""

    def __hash__(self) -> int: ...

    @property
    def key(self) -> str: ...  # noqa: D102
    @property
    def x_min_mm(self) -> float: ...  # noqa: D102
    @property
    def x_max_mm(self) -> float: ...  # noqa: D102
    @property
    def y_min_mm(self) -> float: ...  # noqa: D102
    @property
    def y_max_mm(self) -> float: ...  # noqa: D102
    @property
    def z_min_mm(self) -> float: ...  # noqa: D102
    @property
    def z_max_mm(self) -> float: ...  # noqa: D102
    @property
    def consequence(self) -> int: ...  # noqa: D102


@dataclass(frozen=True, kw_only=True)
class Vital:
    """A vital as coverage sees it: nothing of its heat, its name or how it is known."""

    key: str
    x_min_mm: float
    x_max_mm: float
    y_min_mm: float
    y_max_mm: float
    z_min_mm: float
    z_max_mm: float
    consequence: int


def vital_of(part: Part) -> Vital:
    """The part as coverage sees it."""
    return Vital(
        key=part.key,
        x_min_mm=part.x_min_mm,
        x_max_mm=part.x_max_mm,
        y_min_mm=part.y_min_mm,
        y_max_mm=part.y_max_mm,
        z_min_mm=part.z_min_mm,
        z_max_mm=part.z_max_mm,
        consequence=part.consequence,
    )


@lru_cache(maxsize=128)
def face_points(
    part: Box, toward: tuple[float, float, float], spacing_mm: float
) -> tuple[npt.NDArray[np.float64], npt.NDArray[np.float64]]:
    """Points (n, 3) on the faces that look toward the stone, and their weights (n,), mm².

    The same for every plate that is held before them; some 50 kB each, not to be written to.
    """
    low = np.array([part.x_min_mm, part.y_min_mm, part.z_min_mm])
    high = np.array([part.x_max_mm, part.y_max_mm, part.z_max_mm])
    groups, weights = [], []
    for axis, count, area in _faces(part, toward, spacing_mm):
        others = [i for i in range(3) if i != axis]
        unit = _lattice(count)
        points = np.empty((len(unit), 3))
        points[:, others] = low[others] + unit * (high - low)[others]
        points[:, axis] = high[axis] if toward[axis] > 0 else low[axis]
        groups.append(points)
        weights.append(np.full(len(points), area / len(points)))
    found = np.vstack(groups), np.concatenate(weights)
    for array in found:
        array.setflags(write=False)
    return found


def weighted_share(parts: Sequence[Box], shares: tuple[VitalCoverage, ...]) -> float:
    """Share of all vitals from one direction, weighted by consequence; ``shares`` in order."""
    total = sum(part.consequence for part in parts)
    score = sum(p.consequence * (s.share or 0.0) for p, s in zip(parts, shares, strict=True))
    return score / total


@dataclass(frozen=True)
class _Cast:
    """Rays of one part in one direction: weights (n,) and hits (n,) per stone."""

    weights: npt.NDArray[np.float64]
    hits: tuple[npt.NDArray[np.bool_], ...]

    def share(self, stone: int) -> float:
        return float(np.sum(self.weights * self.hits[stone]) / np.sum(self.weights))


def _result(
    parts: Sequence[Box], directions: tuple[str, ...], cast: list[_Cast], index: int
) -> CoverageResult:
    """Shares from cast rays, by direction and then by part; ``index`` picks the stone."""
    shares: list[VitalCoverage] = []
    weighted = {}
    for i, name in enumerate(directions):
        groups = cast[i * len(parts) : (i + 1) * len(parts)]
        own = tuple(
            VitalCoverage(part.key, name, group.share(index), len(group.weights))
            for part, group in zip(parts, groups, strict=True)
        )
        shares += own
        weighted[name] = weighted_share(parts, own)
    return CoverageResult(tuple(shares), weighted, sum(s.rays for s in shares))


def _cast(
    parts: Sequence[Box],
    folded: FoldedPlate,
    directions: tuple[str, ...],
    stones_mm: tuple[float, ...],
    spacing_mm: float,
) -> list[_Cast]:
    """One vectorised pass over all parts and directions; a larger stone retries open rays."""
    groups, weights, toward = [], [], []
    for name in directions:
        for part in parts:
            points, own = face_points(part, DIRECTIONS[name], spacing_mm)
            groups.append(points)
            weights.append(own)
            toward.append(np.broadcast_to(np.array(DIRECTIONS[name]), points.shape))
    points, ahead = np.vstack(groups), np.vstack(toward)
    cuts = np.cumsum([len(g) for g in groups])[:-1]
    hit = blocked(points, ahead, folded, stones_mm[0])
    layers = [hit]
    for stone in stones_mm[1:]:
        hit = hit.copy()
        still = ~hit
        hit[still] = blocked(points[still], ahead[still], folded, stone)
        layers.append(hit)
    split = [np.split(layer, cuts) for layer in layers]
    return [_Cast(own, tuple(layer[i] for layer in split)) for i, own in enumerate(weights)]


def coverage_by_stone(
    parts: Sequence[Box],
    folded: FoldedPlate,
    directions: tuple[str, ...],
    stones_mm: tuple[float, ...],
    spacing_mm: float = SPACING_MM,
) -> tuple[CoverageResult, ...]:
    """Coverage for several stone radii, smallest first, at little more than the cost of one."""
    if list(stones_mm) != sorted(stones_mm):
        raise InputError("stones_mm", stones_mm, "radii from small to large")
    cast = _cast(parts, folded, directions, stones_mm, spacing_mm)
    return tuple(_result(parts, directions, cast, i) for i in range(len(stones_mm)))


def coverage_of(
    parts: Sequence[Box],
    folded: FoldedPlate,
    directions: tuple[str, ...],
    stone_mm: float = 0.0,
    spacing_mm: float = SPACING_MM,
) -> CoverageResult:
    """Coverage of folded panels for one stone radius, mm."""
    return coverage_by_stone(parts, folded, directions, (stone_mm,), spacing_mm)[0]


@computation(
    "coverage",
    page="coverage",
    check="test_agrees_with_an_independent_ray_caster",
)
def coverage(given: CoverageInput) -> Outcome[CoverageResult]:
    """Share of each vital shielded per direction, weighted by its projected area.

    The vital itself hides its far faces; wheels, rails and other vitals do not
    shield. A cutout is open to a stone of radius r only where it still fits
    (the cutout shrunk by r); closed doors shield. Checked against closed forms.
    """
    result = coverage_of(
        given.parts, fold(given.plate), given.directions, given.stone_radius_mm, given.spacing_mm
    )
    names = {part.key: part.name for part in given.parts}
    bare = [
        f"{names[s.vital]} {s.direction}: {percent(1 - (s.share or 0))} bare"
        for s in result.shares
        if s.share is not None and s.share < 0.995
    ]
    return Outcome(
        result=result,
        inputs=(
            Input("Vitals", len(given.parts)),
            Input("Rays", result.rays),
            Input("Stone radius", given.stone_radius_mm, "mm"),
            Input("Spacing of rays", given.spacing_mm, "mm"),
        ),
        reasons=tuple(bare) or ("Nothing is bare from these directions.",),
        assumptions=(
            "Vitals are boxes; wheels, rails and other vitals do not shield.",
            "Outer edges are not enlarged by the stone's size.",
        ),
        sources=(COVERAGE_SOURCE,),
    )
