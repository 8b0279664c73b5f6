"""Coverage: which share of each vital a plate shields from a stone.

A stone comes along parallel rays from a named direction. A sample point of a
vital counts when its face looks toward the stone; it is shielded when the ray
from it back toward the stone meets a panel outside its open cutouts.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated, Literal

import numpy as np
import shapely

from rugged_shield.core.errors import InputError
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.result import Input, Outcome, Source
from rugged_shield.core.survey import FoldedPlate, Part, Plate, fold

COVERAGE_SOURCE = Source(
    "parallel rays from box faces to folded panels, spacing up to 12 mm", "high"
)
SPACING_MM = 12.0

Direction = Literal[
    "from below", "from ahead 20° upward", "from ahead 40° upward", "from the left 35° upward",
    "from the right 35° upward", "level from ahead",
]  # fmt: skip


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


def _axis(low: float, high: float, spacing: float) -> np.ndarray:
    count = max(1, math.ceil((high - low) / spacing))
    return low + (np.arange(count) + 0.5) * (high - low) / count


def face_points(part: Part, toward: tuple[float, float, float], spacing_mm: float) -> np.ndarray:
    """Middles of equal cells on the faces that look toward the stone; shape (n, 3)."""
    low = (part.x_min_mm, part.y_min_mm, part.z_min_mm)
    high = (part.x_max_mm, part.y_max_mm, part.z_max_mm)
    faces = []
    for axis in range(3):
        if abs(toward[axis]) < 1e-9:
            continue
        others = [i for i in range(3) if i != axis]
        a, b = (_axis(low[i], high[i], spacing_mm) for i in others)
        grid = np.empty((len(a) * len(b), 3))
        mesh = np.meshgrid(a, b, indexing="ij")
        grid[:, others[0]], grid[:, others[1]] = mesh[0].ravel(), mesh[1].ravel()
        grid[:, axis] = high[axis] if toward[axis] > 0 else low[axis]
        faces.append(grid)
    return np.vstack(faces)


def blocked(
    points: np.ndarray, toward: tuple[float, float, float], folded: FoldedPlate, stone_mm: float
) -> np.ndarray:
    """Which rays from ``points`` toward the stone meet the plate; shape (n,), bool."""
    hit = np.zeros(len(points), dtype=bool)
    direction = np.array(toward)
    for panel in folded.panels:
        normal, origin = np.array(panel.normal), np.array(panel.origin)
        slope = float(direction @ normal)
        if abs(slope) < 1e-9:
            continue
        along = ((origin - points) @ normal) / slope
        at = points + along[:, None] * direction - origin
        u, v = at @ np.array(panel.u), at @ np.array(panel.v)
        net = panel.net(stone_mm)
        shapely.prepare(net)
        hit |= (along > 1e-6) & shapely.intersects_xy(net, u, v)
    return hit


def coverage_of(
    parts: tuple[Part, ...], folded: FoldedPlate, directions: tuple[str, ...],
    stone_mm: float = 0.0, spacing_mm: float = SPACING_MM,
) -> CoverageResult:  # fmt: skip
    """Coverage of folded panels: one vectorised pass a direction over all parts."""
    shares: list[VitalCoverage] = []
    weighted: dict[str, float] = {}
    rays = 0
    for name in directions:
        toward = DIRECTIONS[name]
        groups = [face_points(part, toward, spacing_mm) for part in parts]
        weights = [_cell_weights(part, toward, spacing_mm) for part in parts]
        hits = blocked(np.vstack(groups), toward, folded, stone_mm)
        rays += len(hits)
        total = score = 0.0
        for part, group, weight, hit in zip(
            parts, groups, weights, np.split(hits, np.cumsum([len(g) for g in groups])[:-1]),
            strict=True,
        ):  # fmt: skip
            share = float(np.sum(weight * hit) / np.sum(weight))
            shares.append(VitalCoverage(part.key, name, share, len(group)))
            total += part.consequence
            score += part.consequence * share
        weighted[name] = score / total
    return CoverageResult(tuple(shares), weighted, rays)


def _cell_weights(part: Part, toward: tuple[float, float, float], spacing: float) -> np.ndarray:
    """Projected area of each cell that ``face_points`` gives; shape (n,)."""
    sizes = (
        part.x_max_mm - part.x_min_mm,
        part.y_max_mm - part.y_min_mm,
        part.z_max_mm - part.z_min_mm,
    )
    counts = [max(1, math.ceil(s / spacing)) for s in sizes]
    weights = []
    for axis in range(3):
        if abs(toward[axis]) < 1e-9:
            continue
        a, b = (i for i in range(3) if i != axis)
        cells = counts[a] * counts[b]
        weights.append(np.full(cells, sizes[a] * sizes[b] / cells * abs(toward[axis])))
    return np.concatenate(weights)


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
        f"{names[s.vital]} {s.direction}: {1 - (s.share or 0):.0%} bare"
        for s in result.shares
        if s.share is not None and s.share < 0.995
    ]
    return Outcome(
        result,
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
