"""How a stiff plate rests on what lies between it and its mounts, and what does not close."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import combinations

import numpy as np
from numpy.typing import NDArray

from rugged_shield.core.mechanics.frames import Vec3, dot
from rugged_shield.core.survey.pose import Pose

Array = NDArray[np.float64]

_ROUNDS = 6
_REACH_MM = 100.0
_SETTLED = 1e-9
_CLOSED_MM = 1e-6
_SPREAD = 0.1
"""Without the stack that is too long, the others close to this share of the air they had."""


@dataclass(frozen=True, kw_only=True)
class Contact:
    """One joint of a plate: its outer face at ``point`` as drawn, ``normal`` into the bike.

    ``face``: a point of the mount's face; the stack of ``stack_mm`` from the outer face on has to
    reach it. None: only ``offset_mm`` is known, how much less lies between than was drawn.
    """

    key: str
    point: Vec3
    normal: Vec3
    stack_mm: float
    face: Vec3 | None
    offset_mm: float = 0.0

    def air_mm(self, pose: Pose) -> float:
        """Room left between stack and mount, mm; negative where the stack is too much."""
        at, way = pose.lift(self.point), pose.turn(self.normal)
        if self.face is None:
            moved = (at[0] - self.point[0], at[1] - self.point[1], at[2] - self.point[2])
            return self.offset_mm - dot(moved, way)
        gap = (self.face[0] - at[0], self.face[1] - at[1], self.face[2] - at[2])
        return dot(gap, way) - self.stack_mm


@dataclass(frozen=True)
class Rest:
    """Where the plate comes to rest; the air left at each contact in its order, mm.

    ``too_long``: the one contact whose stack alone keeps others from closing, and by how much.
    """

    pose: Pose
    air_mm: tuple[float, ...]
    too_long: tuple[str, float] | None = None


def _rows(contacts: tuple[Contact, ...], pose: Pose) -> Array:
    """How each contact closes for 1 mm of lift and for slopes of 1 over ``_REACH_MM``."""
    rows = []
    for c in contacts:
        at, n = pose.lift(c.point), pose.turn(c.normal)
        x, y, z = (at[i] - pose.about_mm[i] for i in range(3))
        rows.append([n[2], (n[2] * x - n[0] * z) / _REACH_MM, (n[2] * y - n[1] * z) / _REACH_MM])
    return np.array(rows)


def _touching(rows: Array, air: Array) -> Array:
    """The step after which no contact is pressed into its mount and the least air is left, (3,).

    A linear programme in three unknowns: its answer is a corner, where three contacts touch.
    """
    free, *_ = np.linalg.lstsq(rows, air, rcond=1e-6)
    left = air - rows @ free
    if np.abs(left).max() < _CLOSED_MM:
        return np.asarray(free)
    if len(rows) < 3 or np.linalg.matrix_rank(rows, tol=1e-3) < 3:
        lift = np.array([float(left.min()), 0.0, 0.0])
        return np.asarray(free + lift)
    three = np.array(list(combinations(range(len(rows)), 3)))
    corners, want = rows[three], air[three]
    sound = np.abs(np.linalg.det(corners)) > 1e-4
    steps = np.linalg.solve(corners[sound], want[sound][..., None])[..., 0]
    after = air - steps @ rows.T
    after[(after < -_CLOSED_MM).any(axis=1)] = np.inf
    return np.asarray(steps[after.sum(axis=1).argmin()])


def _rested(contacts: tuple[Contact, ...]) -> tuple[Pose, tuple[float, ...]]:
    points = np.array([c.point for c in contacts])
    x, y, z = (float(v) for v in points.mean(axis=0))
    pose = Pose(about_mm=(x, y, z))
    for _ in range(_ROUNDS):
        gaps = np.array([c.air_mm(pose) for c in contacts])
        step = _touching(_rows(contacts, pose), gaps)
        pose = Pose(
            pose.dz_mm + float(step[0]),
            pose.slope_x + float(step[1]) / _REACH_MM,
            pose.slope_y + float(step[2]) / _REACH_MM,
            pose.about_mm,
        )
        if np.abs(step).max() < _SETTLED:
            break
    air = (c.air_mm(pose) for c in contacts)
    return _clean(pose), tuple(0.0 if abs(a) < _CLOSED_MM * 10 else a for a in air)


def rest(contacts: tuple[Contact, ...]) -> Rest:
    """The rigid pose in which nothing is pressed into a mount and the least air is left.

    The plate before its screws pull it: three contacts carry it, the others show what they lack.
    Two contacts, or a line of them, leave the turn about that line as drawn.
    """
    if not contacts:
        return Rest(Pose(), ())
    pose, air = _rested(contacts)
    if max(air) < _CLOSED_MM or len(contacts) < 4:
        return Rest(pose, air)
    for i, one in enumerate(contacts):
        others = (*contacts[:i], *contacts[i + 1 :])
        without, left = _rested(others)
        if max(left) < _SPREAD * max(air) and one.air_mm(without) < 0:
            return Rest(pose, air, (one.key, -one.air_mm(without)))
    return Rest(pose, air)


def _clean(pose: Pose) -> Pose:
    """Without the dust of rounding, so that a plate as drawn hangs exactly as drawn."""
    parts = (pose.dz_mm, pose.slope_x * _REACH_MM, pose.slope_y * _REACH_MM)
    dz, sx, sy = (0.0 if abs(p) < 1e-7 else p for p in parts)
    if dz == sx == sy == 0.0:
        return Pose()
    return Pose(dz, sx / _REACH_MM, sy / _REACH_MM, pose.about_mm)
