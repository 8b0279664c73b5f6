"""A mesh of triangles on folded panels: conforming to outlines and holes, stitched at folds."""

from __future__ import annotations

import itertools
import math
from dataclasses import dataclass
from typing import Annotated, Literal

import numpy as np
import numpy.typing as npt
import shapely
from shapely import Point, Polygon

from rugged_shield.core.amounts import place_words
from rugged_shield.core.errors import InputError
from rugged_shield.core.mechanics.frames import Vec2, Vec3
from rugged_shield.core.quantity import Range, Ranged

Array = npt.NDArray[np.float64]
Index = npt.NDArray[np.int64]

TOUCH_MM = 1e-3
"""Points of two panels nearer than this are one node; places nearer to a panel lie on it."""
_APART = 0.55
_ROUNDS = 30


@dataclass(frozen=True, kw_only=True)
class ShellHole(Ranged):
    """A hole in a panel's u, v: a circle, a slot turned by an angle, or a polygon."""

    kind: Literal["circle", "slot", "polygon"]
    centre_mm: tuple[float, float] = (0.0, 0.0)
    radius_mm: Annotated[float, Range(0.0, 500.0, "mm")] = 0.0
    length_mm: Annotated[float, Range(0.0, 1000.0, "mm")] = 0.0
    width_mm: Annotated[float, Range(0.0, 500.0, "mm")] = 0.0
    angle_deg: Annotated[float, Range(-360.0, 360.0, "°")] = 0.0
    points_mm: tuple[tuple[float, float], ...] = ()


@dataclass(frozen=True)
class ShellPanel:
    """A flat panel: outline in u, v, and its plane. Panels that share an edge are folded there."""

    name: str
    outline_mm: tuple[Vec2, ...]
    origin_mm: Vec3
    u_axis: Vec3
    v_axis: Vec3
    holes: tuple[ShellHole, ...] = ()


@dataclass(frozen=True, eq=False)
class Mesh:
    """Nodes (n, 3) mm, triangles (m, 3), the panel of each; places asked for as node numbers."""

    nodes: Array
    triangles: Index
    panel_of: Index
    placed: Index
    outer: tuple[Index, ...]
    panels: tuple[ShellPanel, ...]

    def normal(self, panel: int) -> Array:
        """Unit normal u × v of a panel."""
        return np.asarray(axes_of(self.panels[panel])[2])


@dataclass(frozen=True)
class Place:
    """A point that must be a node: in a panel's u, v."""

    panel: int
    at_mm: Vec2


def axes_of(panel: ShellPanel) -> Array:
    """Unit axes u, v and normal as rows, (3, 3)."""
    (a, b, c), (d, e, f) = panel.u_axis, panel.v_axis
    if (
        abs(a * a + b * b + c * c - 1) > 2e-6
        or abs(d * d + e * e + f * f - 1) > 2e-6
        or abs(a * d + b * e + c * f) > 1e-6
    ):
        raise InputError(
            f"panels.{panel.name}.u_axis",
            panel.u_axis,
            "unit vectors at right angles",
        )
    return np.array([[a, b, c], [d, e, f], [b * f - c * e, c * d - a * f, a * e - b * d]])


def hole_ring(hole: ShellHole, mesh_mm: float) -> Array:
    """A hole's corners in u, v; circles keep their area."""
    centre = np.array(hole.centre_mm)
    if hole.kind == "polygon":
        if len(hole.points_mm) < 3:
            raise InputError("holes.points_mm", len(hole.points_mm), "three corners or more")
        return np.array(hole.points_mm, dtype=float)
    radius = hole.radius_mm if hole.kind == "circle" else hole.width_mm / 2
    if radius <= 0:
        raise InputError("holes.radius_mm", radius, "a size above 0 mm")
    half = 0.0 if hole.kind == "circle" else max(hole.length_mm / 2 - radius, 0.0)
    count = max(8, 2 * math.ceil(math.pi * radius / mesh_mm))
    step = 2 * math.pi / count
    # Drawn outward so far that the polygon takes as much sheet as the round shape does:
    # n/2 sin(step) g² + 4 half g = π r² + 4 half r.
    square, straight = count / 2 * math.sin(step), 4 * half
    area = math.pi * radius**2 + straight * radius
    grown = (math.sqrt(straight**2 + 4 * square * area) - straight) / (2 * square)
    angles = np.arange(count + 1) * step - math.pi / 2
    arc = np.column_stack([np.cos(angles), np.sin(angles)]) * grown
    apart = np.array([half, 0.0])
    right, left = arc[: count // 2 + 1] + apart, arc[count // 2 :] - apart
    ring = np.vstack([right, left[1:] if half == 0 else left])
    if half == 0:
        ring = ring[:-1]
    turn = math.radians(hole.angle_deg)
    rotate = np.array([[math.cos(turn), math.sin(turn)], [-math.sin(turn), math.cos(turn)]])
    return np.asarray(ring @ rotate + centre)


class _Nodes:
    """Nodes as they come; a place asked for again gives the node that is there."""

    def __init__(self) -> None:
        self.at: list[Array] = []
        self._grid: dict[tuple[int, ...], list[int]] = {}

    def put(self, point: Array) -> int:
        x, y, z = (float(c) for c in point)
        around = (range(math.floor(c - TOUCH_MM), math.floor(c + TOUCH_MM) + 1) for c in (x, y, z))
        for cell in itertools.product(*around):
            for known in self._grid.get(cell, ()):
                if np.linalg.norm(self.at[known] - point) < TOUCH_MM:
                    return known
        self.at.append(np.asarray(point, dtype=float))
        own = (math.floor(x), math.floor(y), math.floor(z))
        self._grid.setdefault(own, []).append(len(self.at) - 1)
        return len(self.at) - 1


def _lift(panel: ShellPanel, uv: Array) -> Array:
    return np.array(panel.origin_mm) + uv @ axes_of(panel)[:2]


def _with_corners(ring: Array, corners: Array) -> list[Array]:
    """A closed ring in space with every corner of other panels that lies on one of its sides."""
    out: list[Array] = []
    for start, end in zip(ring, np.roll(ring, -1, axis=0), strict=True):
        out.append(start)
        along = end - start
        length = float(np.linalg.norm(along))
        t = (corners - start) @ along / length**2
        off = np.linalg.norm(corners - start - np.outer(t, along), axis=1)
        inside = (off < TOUCH_MM) & (t * length > TOUCH_MM) & ((1 - t) * length > TOUCH_MM)
        out += [corners[i] for i in np.flatnonzero(inside)[np.argsort(t[inside])]]
    return out


def _sampled(ring: list[Array], mesh_mm: float, nodes: _Nodes) -> list[int]:
    """Node numbers round a ring, its sides cut into equal lengths up to the mesh size."""
    loop: list[int] = []
    for start, end in zip(ring, [*ring[1:], ring[0]], strict=True):
        pieces = max(1, math.ceil(float(np.linalg.norm(end - start)) / mesh_mm - 1e-9))
        for i in range(pieces):
            node = nodes.put(start + (end - start) * (i / pieces))
            if not loop or loop[-1] != node:
                loop.append(node)
    return loop if loop[0] != loop[-1] else loop[:-1]


def _lattice(polygon: Polygon, fixed: Array, mesh_mm: float) -> Array:
    """Hexagonal inner points, clear of the boundary and of the points that are there already."""
    u0, v0, u1, v1 = polygon.bounds
    rise = mesh_mm * math.sqrt(3) / 2
    rows = []
    for j, v in enumerate(np.arange(v0 + rise / 2, v1, rise)):
        us = np.arange(u0 + (mesh_mm / 2 if j % 2 else mesh_mm / 4), u1, mesh_mm)
        rows.append(np.column_stack([us, np.full_like(us, v)]))
    if not rows:
        return np.zeros((0, 2))
    points = np.vstack(rows)
    inner = polygon.buffer(-_APART * mesh_mm)
    points = points[shapely.contains_xy(inner, points[:, 0], points[:, 1])]
    if len(fixed) and len(points):
        near = np.linalg.norm(points[:, None, :] - fixed[None, :, :], axis=2).min(axis=1)
        points = points[near > _APART * mesh_mm]
    return np.asarray(points)


class _Panel:
    """One panel while it is being meshed: loops of nodes, inner nodes, its polygon."""

    def __init__(self, number: int, panel: ShellPanel, loops: list[list[int]]) -> None:
        self.number, self.panel, self.loops = number, panel, loops
        self.inner: list[int] = []
        self.axes = axes_of(panel)
        self.origin = np.array(panel.origin_mm, dtype=float)

    def flat(self, nodes: _Nodes, which: list[int]) -> Array:
        points = np.array([nodes.at[i] for i in which]).reshape(-1, 3)
        return np.asarray((points - self.origin) @ self.axes[:2].T)

    def polygon(self, nodes: _Nodes) -> Polygon:
        outer, *holes = (self.flat(nodes, loop) for loop in self.loops)
        polygon = Polygon(outer, holes)
        if not polygon.is_valid:
            raise InputError(
                f"panels.{self.panel.name}",
                self.panel.name,
                "holes inside an outline that does not cross itself",
                f"the outline or the holes of {self.panel.name} cross",
            )
        return polygon

    def triangles(self, nodes: _Nodes) -> tuple[Index, list[tuple[int, int]]]:
        """Triangles as node numbers, and sides of the boundary that are no edge of any."""
        from scipy.spatial import Delaunay  # late: small commands do without SciPy

        which = list(dict.fromkeys([*(n for loop in self.loops for n in loop), *self.inner]))
        uv = self.flat(nodes, which)
        simplices = Delaunay(uv).simplices
        a, b, c = (uv[simplices[:, i]] for i in range(3))
        ab, ac = b - a, c - a
        twice = ab[:, 0] * ac[:, 1] - ab[:, 1] * ac[:, 0]
        middle = (a + b + c) / 3
        inside = shapely.contains_xy(self.polygon(nodes), middle[:, 0], middle[:, 1])
        keep = inside & (np.abs(twice) > 1e-7)
        simplices = np.where(twice[:, None] < 0, simplices[:, ::-1], simplices)[keep]
        found = np.array(which)[simplices]
        edges = {frozenset(e) for t in found.tolist() for e in zip(t, [*t[1:], t[0]], strict=True)}
        lost = [
            (p, q)
            for loop in self.loops
            for p, q in zip(loop, [*loop[1:], loop[0]], strict=True)
            if frozenset((p, q)) not in edges
        ]
        return np.asarray(found, dtype=np.int64), lost


def _split(panels: list[_Panel], nodes: _Nodes, side: tuple[int, int]) -> None:
    """A new node in the middle of a side, in every loop that runs along it."""
    middle = nodes.put((nodes.at[side[0]] + nodes.at[side[1]]) / 2)
    for panel in panels:
        for loop in panel.loops:
            for i, node in enumerate(loop):
                if {node, loop[(i + 1) % len(loop)]} == set(side):
                    loop.insert(i + 1, middle)
                    break


def _put_places(panels: list[_Panel], nodes: _Nodes, places: tuple[Place, ...]) -> Index:
    """Nodes at the places asked for: on a side they cut it, elsewhere they are inner nodes."""
    out = []
    for place in places:
        panel = panels[place.panel]
        at = np.array(place.at_mm, dtype=float)
        space = _lift(panel.panel, at)
        polygon = panel.polygon(nodes)
        if polygon.distance(Point(*at)) > TOUCH_MM:
            raise InputError(
                f"panels.{panel.panel.name}",
                f"{at[0]:g}, {at[1]:g}",
                "a place on the panel",
                f"there is no sheet of {panel.panel.name} at {place_words(at[0], at[1])}",
            )
        node = nodes.put(space)
        out.append(node)
        on_side = polygon.boundary.distance(Point(*at)) < TOUCH_MM
        if not on_side:
            panel.inner.append(node)
            continue
        for other in panels:
            for loop in other.loops:
                _cut_at(loop, nodes, node)
    return np.array(out, dtype=np.int64)


def _cut_at(loop: list[int], nodes: _Nodes, node: int) -> None:
    if node in loop:
        return
    point = nodes.at[node]
    for i, start in enumerate(loop):
        a, b = nodes.at[start], nodes.at[loop[(i + 1) % len(loop)]]
        along = b - a
        t = float((point - a) @ along / (along @ along))
        if 0 < t < 1 and float(np.linalg.norm(a + t * along - point)) < TOUCH_MM:
            loop.insert(i + 1, node)
            return


def mesh_panels(
    panels: tuple[ShellPanel, ...], mesh_mm: float, places: tuple[Place, ...] = ()
) -> Mesh:
    """A conforming mesh of all panels with a node at every place.

    Outlines and holes are sampled at the mesh size, inner points are hexagonal, Delaunay
    joins them; a side that is no edge gets a middle until every one is. Raises InputError.
    """
    if not panels:
        raise InputError("panels", 0, "one panel or more")
    nodes = _Nodes()
    rings = [_lift(p, np.array(p.outline_mm, dtype=float)) for p in panels]
    work: list[_Panel] = []
    for i, panel in enumerate(panels):
        others = [r for j, r in enumerate(rings) if j != i]
        corners = np.vstack(others) if others else np.zeros((0, 3))
        loops = [_sampled(_with_corners(rings[i], corners), mesh_mm, nodes)]
        for hole in panel.holes:
            ring = list(_lift(panel, hole_ring(hole, mesh_mm)))
            loops.append(_sampled(ring, mesh_mm, nodes))
        work.append(_Panel(i, panel, loops))
    placed = _put_places(work, nodes, places)
    for part in work:
        fixed = part.flat(nodes, part.inner)
        inner = _lift(part.panel, _lattice(part.polygon(nodes), fixed, mesh_mm))
        part.inner += [nodes.put(point) for point in inner]
    found = _conforming(work, nodes)
    mesh = Mesh(
        np.array(nodes.at),
        np.vstack(found),
        np.concatenate([np.full(len(t), i) for i, t in enumerate(found)]),
        placed,
        tuple(np.array(part.loops[0]) for part in work),
        panels,
    )
    _check(mesh, work, nodes)
    return mesh


def _conforming(work: list[_Panel], nodes: _Nodes) -> list[Index]:
    for _ in range(_ROUNDS):
        made = [part.triangles(nodes) for part in work]
        lost = {frozenset(side): side for _, sides in made for side in sides}
        if not lost:
            return [triangles for triangles, _ in made]
        for side in lost.values():
            _split(work, nodes, side)
    raise InputError("mesh_mm", "", "panels that can be meshed", "the outline is too jagged")


def fold_length_mm(mesh: Mesh) -> float:
    """Length of the edges that triangles of two panels share."""
    sides = np.sort(np.stack([mesh.triangles, np.roll(mesh.triangles, -1, axis=1)], axis=2))
    edges, which = np.unique(sides.reshape(-1, 2), axis=0, return_inverse=True)
    panel, which = np.repeat(mesh.panel_of, 3), which.ravel()
    first, last = np.full(len(edges), len(mesh.panels)), np.full(len(edges), -1)
    np.minimum.at(first, which, panel)
    np.maximum.at(last, which, panel)
    shared = mesh.nodes[edges[first != last]]
    return float(np.linalg.norm(shared[:, 0] - shared[:, 1], axis=1).sum())


def design_fold_length_mm(panels: tuple[ShellPanel, ...]) -> float:
    """Length over which sides of two panels lie on each other, from the outlines alone."""
    total = 0.0
    rings = [_lift(p, np.array(p.outline_mm, dtype=float)) for p in panels]
    for i, first in enumerate(rings):
        for second in rings[i + 1 :]:
            for a, b in zip(first, np.roll(first, -1, axis=0), strict=True):
                for c, d in zip(second, np.roll(second, -1, axis=0), strict=True):
                    total += _overlap(a, b, c, d)
    return total


def _overlap(a: Array, b: Array, c: Array, d: Array) -> float:
    along = (b - a) / np.linalg.norm(b - a)
    off = [np.linalg.norm(p - a - ((p - a) @ along) * along) for p in (c, d)]
    if max(off) > TOUCH_MM:
        return 0.0
    ends = sorted(float((p - a) @ along) for p in (c, d))
    return max(0.0, min(ends[1], float(np.linalg.norm(b - a))) - max(ends[0], 0.0))


def areas_of(mesh: Mesh) -> Array:
    """Area of every triangle, mm²."""
    p1, p2, p3 = (mesh.nodes[mesh.triangles[:, i]] for i in range(3))
    return np.asarray(np.linalg.norm(np.cross(p2 - p1, p3 - p1), axis=1) / 2)


def _check(mesh: Mesh, work: list[_Panel], nodes: _Nodes) -> None:
    """An unstitched fold or a lost corner would look fine and be badly wrong: never go on."""
    areas = areas_of(mesh)
    for part in work:
        meshed = float(areas[mesh.panel_of == part.number].sum())
        wanted = part.polygon(nodes).area
        assert abs(meshed - wanted) <= 1e-6 * wanted, f"{part.panel.name}: area not meshed"
    stitched, wanted = fold_length_mm(mesh), design_fold_length_mm(mesh.panels)
    assert abs(stitched - wanted) <= 1e-6 * wanted + TOUCH_MM, "a fold is not stitched"
