"""Flat faces in space seen from a side: hidden surfaces and edges solved exactly.

Parallel projection. Where one face stands before another is a half-plane of the picture, for the
depth of a plane is linear in it; so faces that cross are cut where they cross.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from shapely import LineString, Point, Polygon, STRtree, box
from shapely.geometry.base import BaseGeometry

from rugged_shield.core.mechanics.drawing import Fill, Path, Weight
from rugged_shield.core.mechanics.frames import Vec2, Vec3, cross, dot, unit

Array = NDArray[np.float64]
LEAST_MM2 = 0.5
"""Slivers of a face smaller than this are not drawn."""
NEARER_MM = 0.05
"""Faces closer than this to one plane are taken as in one."""
_EDGE_ON = 1e-6
_GROWN_MM = 0.02
_SLIVER_MM = 0.4


@dataclass(frozen=True, kw_only=True)
class Face:
    """A flat face: outer ring and holes, mm, in order round; ``solid``: only one side shows.

    The outside of a solid face is the side from which its ring turns left.
    """

    ring: tuple[Vec3, ...]
    holes: tuple[tuple[Vec3, ...], ...] = ()
    fill: Fill = "part"
    ref: str = ""
    solid: bool = False
    shows_hidden: bool = False
    weight: Weight = "outline"


@dataclass(frozen=True)
class View:
    """From where one looks: ``turn_deg`` about the vertical, 0 from the front, 90 from the right
    of the rider; ``rise_deg`` above the level, below it negative. Never straight up or down.
    """

    turn_deg: float
    rise_deg: float

    @property
    def axes(self) -> tuple[Vec3, Vec3, Vec3]:
        """Unit vectors: to the right of the picture, up in it, and into it."""
        # An angle that no picture shows makes numbers so small that nothing divides by them.
        turn, rise = (math.radians(round(a, 12)) for a in (self.turn_deg, self.rise_deg))
        level = math.cos(rise)
        into: Vec3 = (level * math.cos(turn), -level * math.sin(turn), -math.sin(rise))
        right = unit(cross(into, (0.0, 0.0, 1.0)))
        return right, cross(right, into), into

    def at(self, point: Vec3) -> Vec2:
        """Where a point lies in the picture, mm: x to the right, y down."""
        right, up, _ = self.axes
        return dot(right, point), -dot(up, point)

    def depth(self, point: Vec3) -> float:
        """How deep a point lies in the picture, mm; less is nearer."""
        return dot(self.axes[2], point)


@dataclass(frozen=True)
class _Seen:
    """A face in the picture: its outline, and its depth as a x + b y + c."""

    face: Face
    shape: Polygon
    plane: tuple[float, float, float]


def _plane(face: Face, view: View) -> tuple[float, float, float] | None:
    """Depth over the picture; None where the face is seen edge on, or from behind if solid."""
    points = np.asarray(face.ring)
    middle = points.mean(axis=0)
    normal = _newell(points)
    right, up, into = view.axes
    facing = float(normal @ np.asarray(into))
    if abs(facing) < _EDGE_ON or (face.solid and facing > 0):
        return None
    x, y = float(normal @ np.asarray(right)), float(normal @ np.asarray(up))
    return -x / facing, y / facing, float(normal @ middle) / facing


def _newell(points: Array) -> Array:
    """Unit normal of a flat ring (Newell 1972)."""
    normal = np.cross(points, np.roll(points, -1, axis=0)).sum(axis=0)
    return np.asarray(normal / np.linalg.norm(normal))


def _seen(face: Face, view: View) -> _Seen | None:
    plane = _plane(face, view)
    if plane is None:
        return None
    ring = [view.at(p) for p in face.ring]
    shape = Polygon(ring, [[view.at(p) for p in hole] for hole in face.holes])
    if not shape.is_valid:
        shape = shape.buffer(0)
    if not isinstance(shape, Polygon) or shape.area < LEAST_MM2:
        return None
    return _Seen(face, shape, plane)


def _before(front: _Seen, back: _Seen, over: BaseGeometry, by_mm: float) -> BaseGeometry | None:
    """Where of ``over`` one face is nearer than another by so much; None where it is nowhere."""
    a, b, c = (q - p for p, q in zip(front.plane, back.plane, strict=True))
    x0, y0, x1, y1 = over.bounds
    corners = np.array([(x0, y0), (x1, y0), (x1, y1), (x0, y1)])
    ahead = corners @ np.array([a, b]) + c - by_mm
    if ahead.max() <= 0:
        return None
    if ahead.min() >= 0:
        return over
    kept = over.intersection(_half_plane(a, b, c - by_mm, over.bounds))
    return None if kept.area < LEAST_MM2 / 10 else kept


def _half_plane(a: float, b: float, c: float, bounds: tuple[float, ...]) -> Polygon:
    """The part of a picture where a x + b y + c is above zero, as a polygon around its bounds."""
    x0, y0, x1, y1 = bounds
    reach = 4.0 * (math.hypot(x1 - x0, y1 - y0) + 1.0)
    middle = np.array([(x0 + x1) / 2, (y0 + y1) / 2])
    normal = np.array([a, b])
    length = float(np.linalg.norm(normal))
    along = np.array([-b, a]) / length
    foot = middle - normal * (normal @ middle + c) / length**2
    ahead = normal / length
    corners = (
        foot - reach * along,
        foot + reach * along,
        foot + reach * along + reach * ahead,
        foot - reach * along + reach * ahead,
    )
    return Polygon([tuple(p) for p in corners])


def _visible(seen: list[_Seen]) -> list[BaseGeometry]:
    """What shows of each face, those before it taken off."""
    tree = STRtree([s.shape for s in seen])
    found = []
    for i, own in enumerate(seen):
        left: BaseGeometry = own.shape
        for j in tree.query(own.shape):
            if j == i or left.is_empty:
                continue
            over = own.shape.intersection(seen[j].shape)
            if over.area < LEAST_MM2 / 10:
                continue
            # Of two in one plane the later one shows, and only that.
            hides = _before(seen[j], own, over, NEARER_MM if j < i else -NEARER_MM)
            if hides is not None:
                left = left.difference(hides)
        found.append(left)
    return found


def _polygons(shape: BaseGeometry) -> list[Polygon]:
    parts = getattr(shape, "geoms", [shape])
    return [p for p in parts if isinstance(p, Polygon) and p.area >= LEAST_MM2]


def _without_holes(shape: Polygon) -> list[Polygon]:
    """The polygon in parts that have no holes, cut upright through each."""
    if not shape.interiors:
        return [shape]
    x0, y0, x1, y1 = shape.bounds
    cut = Polygon(shape.interiors[0]).representative_point().x
    halves = (box(x0 - 1, y0 - 1, cut, y1 + 1), box(cut, y0 - 1, x1 + 1, y1 + 1))
    return [
        simple
        for half in halves
        for part in _polygons(shape.intersection(half))
        for simple in _without_holes(part)
    ]


def _ring(shape: Polygon) -> tuple[Vec2, ...]:
    return tuple((x, y) for x, y in list(shape.exterior.coords)[:-1])


def _lines(shape: BaseGeometry) -> list[tuple[Vec2, ...]]:
    parts = getattr(shape, "geoms", [shape])
    return [
        tuple((x, y) for x, y in part.coords)
        for part in parts
        if isinstance(part, LineString) and part.length > 0.2
    ]


def seen_from(faces: tuple[Face, ...], view: View) -> tuple[Path, ...]:
    """The faces as one picture: what shows of each, its edges, and dashed what is hidden of it.

    Hidden edges are drawn of faces that ask for it.
    """
    seen = [s for s in (_seen(face, view) for face in faces) if s is not None]
    shows = _visible(seen)
    fills: list[Path] = []
    edges: list[Path] = []
    hidden: list[Path] = []
    for own, shape in zip(seen, shows, strict=True):
        face = own.face
        for part in _polygons(shape):
            fills += [
                Path(_ring(simple), True, "none", face.fill, face.ref)
                for simple in _without_holes(part)
            ]
        # Slivers that two almost equal planes leave of each other are no edge to be seen.
        grown = shape.buffer(-_SLIVER_MM, join_style="mitre").buffer(
            _SLIVER_MM + _GROWN_MM, join_style="mitre"
        )
        for ring in (own.shape.exterior, *own.shape.interiors):
            line = LineString(ring.coords)
            edges += [
                Path(points, False, face.weight, "none", face.ref)
                for points in _lines(line.intersection(grown))
            ]
            if face.shows_hidden:
                covered = line.difference(grown)
                hidden += [Path(p, False, "hidden", "none", face.ref) for p in _lines(covered)]
    return (*fills, *hidden, *edges)


def shows_at(faces: tuple[Face, ...], view: View, point: Vec3, clear_mm: float) -> bool:
    """Whether a point is seen: no face stands before it by more than ``clear_mm``."""
    x, y = view.at(point)
    depth = view.depth(point)
    for face in faces:
        one = _seen(face, view)
        if one is None or not one.shape.contains(Point(x, y)):
            continue
        a, b, c = one.plane
        if a * x + b * y + c < depth - clear_mm:
            return False
    return True


def box_faces(low: Vec3, high: Vec3, fill: Fill = "part", ref: str = "") -> tuple[Face, ...]:
    """The six faces of an upright box, each turning left as seen from outside."""
    (x0, y0, z0), (x1, y1, z1) = low, high
    rings: tuple[tuple[Vec3, ...], ...] = (
        ((x0, y0, z0), (x0, y1, z0), (x1, y1, z0), (x1, y0, z0)),
        ((x0, y0, z1), (x1, y0, z1), (x1, y1, z1), (x0, y1, z1)),
        ((x0, y0, z0), (x1, y0, z0), (x1, y0, z1), (x0, y0, z1)),
        ((x0, y1, z0), (x0, y1, z1), (x1, y1, z1), (x1, y1, z0)),
        ((x0, y0, z0), (x0, y0, z1), (x0, y1, z1), (x0, y1, z0)),
        ((x1, y0, z0), (x1, y1, z0), (x1, y1, z1), (x1, y0, z1)),
    )
    return tuple(Face(ring=ring, fill=fill, ref=ref, solid=True) for ring in rings)
