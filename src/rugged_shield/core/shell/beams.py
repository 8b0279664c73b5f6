"""A bracket as a chain of straight beams: bending about both axes, shear, stretch and twist.

Timoshenko's beam of a rectangular section (Przemieniecki 1968, eq. 5.116), bends rigid, torsion
constant by Roark, table 10.1. Freedoms of a node: x, y, z, and turning about them.
"""

from __future__ import annotations

import itertools
import math
from dataclasses import dataclass
from typing import Annotated

import numpy as np

from rugged_shield.core.errors import InputError
from rugged_shield.core.mechanics.frames import Vec3
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.shell.elements import Array, Index

SHEAR_FACTOR = 5 / 6
SAME_NODE_MM = 0.01
MOST_POINTS = 40


@dataclass(frozen=True, kw_only=True)
class BeamPart(Ranged):
    """A bracket, brace, arm or rail: the line its middle runs along and its flat section.

    ``width_mm`` lies along ``width_axis``, made square to each straight; ``thickness_mm`` across.
    """

    name: str
    points_mm: tuple[Vec3, ...]
    width_mm: Annotated[float, Range(1.0, 300.0, "mm")]
    thickness_mm: Annotated[float, Range(0.5, 100.0, "mm")]
    width_axis: Vec3
    youngs_modulus_mpa: Annotated[float, Range(100.0, 300_000.0, "MPa")]
    poisson: Annotated[float, Range(0.0, 0.49)]

    def __post_init__(self) -> None:
        super().__post_init__()
        if not 2 <= len(self.points_mm) <= MOST_POINTS:
            raise InputError(
                f"parts.{self.name}.points_mm", len(self.points_mm), f"2 to {MOST_POINTS} points"
            )
        for start, end in itertools.pairwise(self.points_mm):
            if math.dist(start, end) < SAME_NODE_MM:
                raise InputError(f"parts.{self.name}.points_mm", start, "points that lie apart")
            self._axes(np.subtract(end, start))

    def _axes(self, along: Array) -> Array:
        """Unit axes along, across the width and through the thickness as rows, (3, 3)."""
        x = along / np.linalg.norm(along)
        wide = np.array(self.width_axis, dtype=float)
        size = float(np.linalg.norm(wide))
        across = wide - (wide @ x) * x
        if size < 1e-9 or np.linalg.norm(across) < 0.02 * size:
            raise InputError(
                f"parts.{self.name}.width_axis", self.width_axis, "a direction across the part"
            )
        y = across / np.linalg.norm(across)
        return np.array([x, y, np.cross(x, y)])

    @property
    def torsion_mm4(self) -> float:
        """J = b t³/3 (1 − 0.63 t/b (1 − t⁴/(12 b⁴))), b the longer side."""
        t, b = sorted((self.thickness_mm, self.width_mm))
        return b * t**3 / 3 * (1 - 0.63 * t / b * (1 - t**4 / (12 * b**4)))

    def stiffness(self, start: Array, end: Array) -> Array:
        """A straight's stiffness (12, 12) in the axes of space, N and mm."""
        length = float(np.linalg.norm(end - start))
        turn = np.kron(np.eye(4), self._axes(end - start))
        return np.asarray(turn.T @ _straight(self, length) @ turn)

    def stress_mpa(self, start: Array, end: Array, moved: Array) -> float:
        """Greatest normal stress at either end of a straight whose ends moved by (12,)."""
        axes = self._axes(end - start)
        length = float(np.linalg.norm(end - start))
        forces = _straight(self, length) @ (np.kron(np.eye(4), axes) @ moved)
        b, t = self.width_mm, self.thickness_mm
        return max(
            float(abs(n[0]) / (b * t) + 6 * abs(n[4]) / (b * t**2) + 6 * abs(n[5]) / (t * b**2))
            for n in (forces[:6], forces[6:])
        )


def _straight(part: BeamPart, length: float) -> Array:
    """A straight's stiffness in its own axes: along, across the width, through the thickness."""
    e, b, t = part.youngs_modulus_mpa, part.width_mm, part.thickness_mm
    shear = e / (2 * (1 + part.poisson))
    k = np.zeros((12, 12))
    for first, value in ((0, e * b * t / length), (3, shear * part.torsion_mm4 / length)):
        pair = np.ix_((first, first + 6), (first, first + 6))
        k[pair] = value * np.array([[1, -1], [-1, 1]])
    # Bending along y turns about +z, along z about −y.
    for shift, turn, sign, inertia in ((1, 5, 1, t * b**3 / 12), (2, 4, -1, b * t**3 / 12)):
        phi = 12 * e * inertia / (SHEAR_FACTOR * shear * b * t * length**2)
        half = 6 * sign * length
        near, far = (4 + phi) * length**2, (2 - phi) * length**2
        block = np.array(
            [
                [12, half, -12, half],
                [half, near, -half, far],
                [-12, -half, 12, -half],
                [half, far, -half, near],
            ]
        )
        where: Index = np.array([shift, turn, shift + 6, turn + 6])
        k[np.ix_(where, where)] = e * inertia / ((1 + phi) * length**3) * block
    return k


@dataclass(frozen=True, eq=False)
class BeamChain:
    """A part cut at every place something holds it: nodes (n, 3) in order, and which is whose."""

    part: BeamPart
    nodes: Array
    held: tuple[int, ...]

    def stiffness(self) -> Array:
        """Of the whole chain, (6 n, 6 n)."""
        total = np.zeros((6 * len(self.nodes),) * 2)
        for i, (start, end) in enumerate(itertools.pairwise(self.nodes)):
            own = slice(6 * i, 6 * i + 12)
            total[own, own] += self.part.stiffness(start, end)
        return total

    def stress_mpa(self, moved: Array) -> float:
        """Greatest normal stress of all its straights for the shifts of its nodes, (6 n,)."""
        pairs = enumerate(itertools.pairwise(self.nodes))
        return max(
            self.part.stress_mpa(start, end, moved[6 * i : 6 * i + 12]) for i, (start, end) in pairs
        )


def chain(part: BeamPart, places_mm: tuple[Vec3, ...]) -> BeamChain:
    """The part with a node at the point of its axis that is nearest to each place."""
    points = [np.array(p, dtype=float) for p in part.points_mm]
    along: list[float] = [float(i) for i in range(len(points))]
    found = [_nearest(points, np.array(place, dtype=float)) for place in places_mm]
    nodes = sorted({*along, *found})
    kept: list[float] = []
    for s in nodes:
        # A bend or an end stays where it is; what lies on it joins it.
        if kept and math.dist(_point(points, kept[-1]), _point(points, s)) < SAME_NODE_MM:
            kept[-1] = s if s in along else kept[-1]
        else:
            kept.append(s)
    held = tuple(
        min(range(len(kept)), key=lambda i: math.dist(_point(points, kept[i]), _point(points, s)))
        for s in found
    )
    return BeamChain(part, np.array([_point(points, s) for s in kept]), held)


def _point(points: list[Array], s: float) -> Array:
    """The point of the chain at ``s``: its straight's number and the share of it."""
    i = min(int(s), len(points) - 2)
    return np.asarray(points[i] + (s - i) * (points[i + 1] - points[i]))


def _nearest(points: list[Array], place: Array) -> float:
    best, least = 0.0, math.inf
    for i, (start, end) in enumerate(itertools.pairwise(points)):
        way = end - start
        share = float(np.clip((place - start) @ way / (way @ way), 0.0, 1.0))
        off = float(np.linalg.norm(place - start - share * way))
        if off < least - 1e-9:
            best, least = i + share, off
    return best
