"""A moving part past fixed ones: the least gap over its whole travel."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Annotated, Literal

import numpy as np
from numpy.typing import NDArray

from rugged_shield.core.computation import computation
from rugged_shield.core.errors import InputError
from rugged_shield.core.mechanics.frames import Vec3
from rugged_shield.core.mechanics.nearness import (
    segment_to_box_mm,
    segment_to_panel_mm,
    segment_to_segment_mm,
)
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.result import Input, Outcome, Source

SWEEP_SOURCE = Source(
    "capsules turned or shifted; least gap by bisection of the travel with a bound on the speed",
    "high",
)
MAX_THINGS = 200
CLOSE_MM = 0.01
"""How near the least gap that is found is to the true one."""
_FIRST = 65
_MOST_PARTS = 200_000
_FLAT_MM = 0.5

Metres = Annotated[float, Range(0.0, 500.0, "mm")]


def _check_point(field: str, point: tuple[float, ...]) -> None:
    if not all(math.isfinite(v) and abs(v) <= 5000.0 for v in point):
        raise InputError(field, str(point)[:80], "finite places within 5000 mm")


@dataclass(frozen=True, kw_only=True)
class Capsule(Ranged):
    """A rod with round ends: its two ends and its radius, mm."""

    a: Vec3
    b: Vec3
    radius_mm: Metres

    def __post_init__(self) -> None:
        super().__post_init__()
        _check_point("moving.a", self.a)
        _check_point("moving.b", self.b)


@dataclass(frozen=True, kw_only=True)
class Motion(Ranged):
    """A turn about an axis from one angle to another, or a shift by a vector (mm)."""

    kind: Literal["rotate", "translate"]
    origin: Vec3 = (0.0, 0.0, 0.0)
    axis: Vec3 = (0.0, 1.0, 0.0)
    from_deg: Annotated[float, Range(-360.0, 360.0, "°")] = 0.0
    to_deg: Annotated[float, Range(-360.0, 360.0, "°")] = 0.0
    vector: Vec3 = (0.0, 0.0, 0.0)

    def __post_init__(self) -> None:
        super().__post_init__()
        for field in ("origin", "axis", "vector"):
            _check_point(f"motion.{field}", getattr(self, field))
        if self.kind == "rotate" and math.hypot(*self.axis) < 1e-9:
            raise InputError("motion.axis", str(self.axis), "an axis with a direction")


@dataclass(frozen=True, kw_only=True)
class FixedThing(Ranged):
    """What stands still: a box by two corners, a capsule, or a flat convex panel; mm."""

    name: str
    kind: Literal["box", "capsule", "panel"]
    polygon: tuple[Vec3, ...] = ()
    min: Vec3 = (0.0, 0.0, 0.0)
    max: Vec3 = (0.0, 0.0, 0.0)
    a: Vec3 = (0.0, 0.0, 0.0)
    b: Vec3 = (0.0, 0.0, 0.0)
    radius_mm: Metres = 0.0
    thickness_mm: Annotated[float, Range(0.0, 50.0, "mm")] = 0.0

    def __post_init__(self) -> None:
        super().__post_init__()
        for point in (self.min, self.max, self.a, self.b, *self.polygon):
            _check_point(f"fixed.{self.name}", point)
        if self.kind == "panel":
            self._check_panel()
        if self.kind == "box" and any(
            low > high for low, high in zip(self.min, self.max, strict=True)
        ):
            raise InputError(f"fixed.{self.name}.min", str(self.min), "no corner beyond max")

    def _check_panel(self) -> None:
        field, corners = f"fixed.{self.name}.polygon", np.array(self.polygon)
        if len(corners) < 3:
            raise InputError(field, len(corners), "three corners or more")
        middle = corners - corners.mean(axis=0)
        _, sizes, ways = np.linalg.svd(middle)
        if sizes[1] < 1e-6 * max(sizes[0], 1.0):
            raise InputError(field, "on one line", "corners that span a face")
        if np.abs(middle @ ways[2]).max() > _FLAT_MM:
            raise InputError(field, "not flat", f"corners within {_FLAT_MM} mm of one plane")
        flat = middle @ ways[:2].T
        along = np.roll(flat, -1, axis=0) - flat
        ahead = np.roll(along, -1, axis=0)
        turns = along[:, 0] * ahead[:, 1] - along[:, 1] * ahead[:, 0]
        if (turns < -1e-6).any() and (turns > 1e-6).any():
            raise InputError(field, "not convex", "a convex panel: cut it into convex pieces")


@dataclass(frozen=True, kw_only=True)
class SweepInput(Ranged):
    """What moves, how, and past what."""

    moving: tuple[Capsule, ...]
    motion: Motion
    fixed: tuple[FixedThing, ...]

    def __post_init__(self) -> None:
        super().__post_init__()
        for field in ("moving", "fixed"):
            if not 1 <= len(getattr(self, field)) <= MAX_THINGS:
                raise InputError(field, len(getattr(self, field)), f"1 to {MAX_THINGS}")


@dataclass(frozen=True, kw_only=True)
class Gap:
    """The least gap to one fixed thing, mm, and where in the travel (0 to 1) it is."""

    name: str
    gap_mm: float
    touches: bool
    at_share: float


@dataclass(frozen=True, kw_only=True)
class SweepResult:
    """The gap to each thing in the order given, and the least of all, mm."""

    gaps: tuple[Gap, ...]
    least_mm: float


Ends = tuple[NDArray[np.float64], NDArray[np.float64]]


def placed(motion: Motion, capsule: Capsule, shares: NDArray[np.float64]) -> Ends:
    """Both ends of a capsule at these shares of the travel (Rodrigues' turn)."""
    a, b = np.array(capsule.a), np.array(capsule.b)
    if motion.kind == "translate":
        shift = shares[:, None] * np.array(motion.vector)
        return a + shift, b + shift
    axis = np.array(motion.axis) / math.hypot(*motion.axis)
    origin = np.array(motion.origin)
    angle = np.radians(motion.from_deg + shares * (motion.to_deg - motion.from_deg))
    sin, cos = np.sin(angle)[:, None], np.cos(angle)[:, None]

    def turned(point: NDArray[np.float64]) -> NDArray[np.float64]:
        v = point - origin
        out: NDArray[np.float64] = (
            v * cos + np.cross(axis, v) * sin + axis * (axis @ v) * (1 - cos) + origin
        )
        return out

    return turned(a), turned(b)


def _speed_mm(motion: Motion, capsule: Capsule) -> float:
    """How far any of its points moves over the whole travel at most, mm."""
    if motion.kind == "translate":
        return math.hypot(*motion.vector)
    axis = np.array(motion.axis) / math.hypot(*motion.axis)
    arms = [
        float(np.linalg.norm(np.cross(axis, np.array(end) - np.array(motion.origin))))
        for end in (capsule.a, capsule.b)
    ]
    return max(arms) * abs(math.radians(motion.to_deg - motion.from_deg))


def _distance_to(
    thing: FixedThing,
) -> Callable[[NDArray[np.float64], NDArray[np.float64]], NDArray[np.float64]]:
    """Distance of axis segments to a thing's surface, less what the thing is thick, mm."""
    if thing.kind == "box":
        low, high = np.array(thing.min), np.array(thing.max)
        return lambda a, b: segment_to_box_mm(a, b, low, high)
    if thing.kind == "capsule":
        start, end = np.array([thing.a]), np.array([thing.b])
        return lambda a, b: segment_to_segment_mm(a, b, start, end) - thing.radius_mm
    corners = np.array(thing.polygon)
    return lambda a, b: segment_to_panel_mm(a, b, corners) - thing.thickness_mm / 2


def _least(motion: Motion, capsule: Capsule, thing: FixedThing) -> tuple[float, float]:
    """Least gap over the travel, mm, and its share: parts that cannot be nearer are dropped."""
    distance = _distance_to(thing)
    speed = _speed_mm(motion, capsule)
    half = 0.5 / _FIRST
    middles = (np.arange(_FIRST) + 0.5) / _FIRST
    ends = np.array([0.0, 1.0])
    gaps = distance(*placed(motion, capsule, ends))
    at = int(np.argmin(gaps))
    best, where = float(gaps[at]), float(ends[at])
    while len(middles):
        gaps = distance(*placed(motion, capsule, middles))
        at = int(np.argmin(gaps))
        if gaps[at] < best:
            best, where = float(gaps[at]), float(middles[at])
        if best <= capsule.radius_mm or speed * half < CLOSE_MM:
            break
        near = middles[gaps - speed * half < best - CLOSE_MM]
        half /= 2
        middles = np.concatenate([near - half, near + half])
        if len(middles) > _MOST_PARTS:
            raise InputError("motion", thing.name, "a motion whose gap changes along it")
    return best - capsule.radius_mm, where


@computation("sweep", page="sweep", check="sweep-01")
def sweep(given: SweepInput) -> Outcome[SweepResult]:
    """Least gap of moving capsules to each fixed thing over the whole motion; 0 where it strikes.

    Found to 0.01 mm: a stretch of the travel is left only when no point of it can be nearer.
    Raises InputError for a panel that is not flat or not convex.
    """
    gaps = []
    for thing in given.fixed:
        gap, where = min(_least(given.motion, capsule, thing) for capsule in given.moving)
        gaps.append(Gap(name=thing.name, gap_mm=max(0.0, gap), touches=gap <= 0.0, at_share=where))
    return Outcome(
        result=SweepResult(gaps=tuple(gaps), least_mm=min(g.gap_mm for g in gaps)),
        inputs=(
            Input("Moving", len(given.moving)),
            Input("Fixed", len(given.fixed)),
            Input("Motion", given.motion.kind),
        ),
        reasons=("The whole travel is looked at, not some places of it.",),
        assumptions=("Panels are as thin as said, and nothing bends.",),
        sources=(SWEEP_SOURCE,),
    )
