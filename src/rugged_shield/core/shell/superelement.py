"""A sheet condensed to where it meets other things: rigid discs under washers, single points.

Static condensation (Guyan 1965), exact for linear statics. A joint holds the sheet over a disc:
one node's turning stiffness falls without end as the mesh is refined, a disc's does not.
"""

from __future__ import annotations

import dataclasses
import math
from dataclasses import dataclass
from typing import Any

import numpy as np
import shapely
from shapely import Point, Polygon
from shapely.geometry.base import BaseGeometry

from rugged_shield.core.errors import InputError
from rugged_shield.core.mechanics.frames import Vec3
from rugged_shield.core.shell.elements import Array, Index
from rugged_shield.core.shell.mesh import (
    TOUCH_MM,
    Mesh,
    Place,
    ShellPanel,
    axes_of,
    hole_ring,
    mesh_panels,
)
from rugged_shield.core.shell.solve import factored, shell_model

DISC_RADIUS_MM = 6.0
FARTHEST_MM = 120.0
"""How far a joint may lie from the sheet that it holds: the longest spacer on sale."""
ARM_MM = 100.0
"""A radian weighs as much as this many mm, so that shifts and turnings can be held side by side."""
_RINGS = (1.0, 1.35, 1.9, 2.8)
_ROUND = 16
_CLEAR_MM = 1.2


@dataclass(frozen=True)
class Hold:
    """Where a sheet is held or pushed: over a disc in six freedoms, or at a point in three."""

    place: Place
    disc: bool


@dataclass(frozen=True, eq=False)
class CondensedSheet:
    """A sheet's stiffness on its own freedoms (n, n), and how each hold moves with them.

    ``moves``: of every hold (6, n) for a disc, (3, n) for a point: its shift, then its turning.
    ``turning``: which of the freedoms turn, (n,). ``centres``: where each hold lies, mm.
    """

    stiffness: Array
    moves: tuple[Array, ...]
    turning: Array
    centres: Array
    nodes: int
    triangles: int


def skew(arm: Array) -> Array:
    """S with S·θ = θ × arm: what a turning moves a point that lies ``arm`` away."""
    x, y, z = arm
    return np.array([[0, z, -y], [-z, 0, x], [y, -x, 0]], dtype=float)


def carried(arm: Array) -> Array:
    """Shift and turning (6, 6) of a point rigidly carried by another that lies −``arm`` away."""
    link = np.eye(6)
    link[:3, 3:] = skew(arm)
    return link


def dropped(panels: tuple[ShellPanel, ...], at_mm: Vec3, field: str) -> Place:
    """The point of the nearest panel square under or over a point in space.

    Raises InputError where no panel lies within ``FARTHEST_MM``, or a hole wider than a disc
    does.
    """
    best: tuple[float, Place] | None = None
    for i, panel in enumerate(panels):
        relative = np.array(at_mm) - np.array(panel.origin_mm)
        u, v, off = (float(c) for c in axes_of(panel) @ relative)
        outline = Polygon(panel.outline_mm)
        near = shapely.ops.nearest_points(outline, Point(u, v))[0]
        gap = math.hypot(off, near.distance(Point(u, v)))
        if gap <= FARTHEST_MM and (best is None or gap < best[0] - 1e-9):
            best = (gap, Place(i, (near.x, near.y)))
    if best is None:
        raise InputError(
            field, at_mm, f"a place within {FARTHEST_MM:g} mm of the sheet", "it is off the sheet"
        )
    place = best[1]
    for hole in panels[place.panel].holes:
        ring = Polygon(hole_ring(hole, DISC_RADIUS_MM))
        at = Point(*place.at_mm)
        if ring.contains(at) and ring.boundary.distance(at) > DISC_RADIUS_MM:
            raise InputError(field, at_mm, "a place on the sheet", "it is over a hole")
    return place


def space_of(panels: tuple[ShellPanel, ...], place: Place) -> Array:
    """A place of a panel as a point in space, mm."""
    panel = panels[place.panel]
    return np.array(panel.origin_mm) + np.array(place.at_mm) @ axes_of(panel)[:2]


def _bridged(panels: tuple[ShellPanel, ...], holds: tuple[Hold, ...]) -> tuple[ShellPanel, ...]:
    """The panels without the holes that a disc covers whole: it is rigid there anyway."""
    discs = [h.place for h in holds if h.disc]

    def covered(panel: int, ring: Array) -> bool:
        return any(
            d.panel == panel and np.linalg.norm(ring - d.at_mm, axis=1).max() < DISC_RADIUS_MM
            for d in discs
        )

    return tuple(
        dataclasses.replace(
            p, holes=tuple(h for h in p.holes if not covered(i, hole_ring(h, DISC_RADIUS_MM)))
        )
        for i, p in enumerate(panels)
    )


def _sheets(panels: tuple[ShellPanel, ...]) -> list[BaseGeometry]:
    """Each panel without its holes."""
    return [
        Polygon(p.outline_mm).difference(
            shapely.union_all([Polygon(hole_ring(h, DISC_RADIUS_MM)) for h in p.holes])
        )
        for p in panels
    ]


def _seeds(
    panels: tuple[ShellPanel, ...], sheets: list[BaseGeometry], holds: tuple[Hold, ...]
) -> list[Place]:
    """Nodes at every disc, where there is sheet: its middle, its rim, rings to soften the mesh."""
    found = [
        h.place
        for h in holds
        if h.disc and sheets[h.place.panel].distance(Point(*h.place.at_mm)) < TOUCH_MM
    ]
    taken = [space_of(panels, h.place) for h in holds if not h.disc]
    taken += [space_of(panels, p) for p in found]
    for hold in (h for h in holds if h.disc):
        inner = sheets[hold.place.panel].buffer(-_CLEAR_MM)
        for number, ring in enumerate(_RINGS):
            radius = ring * DISC_RADIUS_MM
            for i in range(_ROUND):
                angle = 2 * math.pi * (i + number / 2) / _ROUND
                at = (
                    hold.place.at_mm[0] + radius * math.cos(angle),
                    hold.place.at_mm[1] + radius * math.sin(angle),
                )
                place = Place(hold.place.panel, at)
                space = space_of(panels, place)
                apart = min((float(np.linalg.norm(space - t)) for t in taken), default=math.inf)
                if inner.contains(Point(*at)) and apart > 2 * _CLEAR_MM:
                    found.append(place)
                    taken.append(space)
    return found


def _bodies(centres: Array, discs: list[int]) -> dict[int, int]:
    """Which disc leads each: discs that overlap are one rigid piece."""
    lead: dict[int, int] = {i: i for i in discs}
    for i in discs:
        for j in discs:
            if j < i and np.linalg.norm(centres[i] - centres[j]) < 2 * DISC_RADIUS_MM:
                old, new = lead[i], lead[j]
                lead = {k: new if v == old else v for k, v in lead.items()}
    return lead


def _check_rim(mesh: Mesh, centre: Array, nodes: list[int]) -> None:
    """A disc on fewer than three nodes would turn freely: there is no sheet under the washer."""
    spread = np.linalg.svd(mesh.nodes[nodes] - centre, compute_uv=False) if nodes else np.zeros(3)
    if len(nodes) < 3 or spread[1] < _CLEAR_MM:
        raise InputError("at_mm", tuple(centre.tolist()), "sheet under the whole washer")


class _Freedoms:
    """The sheet's own freedoms while they are gathered: columns on the mesh's freedoms."""

    def __init__(self, mesh: Mesh, centres: Array, holds: tuple[Hold, ...]) -> None:
        self.mesh, self.centres, self.holds = mesh, centres, holds
        self.lead = _bodies(centres, [i for i, h in enumerate(holds) if h.disc])
        self.owner: dict[int, int] = {}
        for i, lead in self.lead.items():
            apart = np.linalg.norm(mesh.nodes - centres[i], axis=1)
            for node in np.flatnonzero(apart <= DISC_RADIUS_MM + _CLEAR_MM / 2):
                self.owner[int(node)] = lead
        leads: list[int] = sorted(set(self.lead.values()))
        for body in leads:
            _check_rim(mesh, centres[body], [n for n, own in self.owner.items() if own == body])
        self.first = {body: 6 * k for k, body in enumerate(leads)}
        self.count = 6 * len(leads)
        self.node = dict(
            zip((i for i, h in enumerate(holds) if not h.disc), mesh.placed.tolist(), strict=False)
        )
        self.points: dict[int, int] = {}
        for node in self.node.values():
            if node not in self.owner and node not in self.points:
                self.points[node] = self.count
                self.count += 3

    def of_node(self, node: int) -> Array:
        """Shift and turning (6, n) of a node of a disc; shift alone (3, n) of a point."""
        if node in self.owner:
            body = self.owner[node]
            out = np.zeros((6, self.count))
            first = self.first[body]
            arm = self.mesh.nodes[node] - self.centres[body]
            out[:, first : first + 6] = carried(arm)
            return out
        out = np.zeros((3, self.count))
        out[:, self.points[node] : self.points[node] + 3] = np.eye(3)
        return out

    def of_hold(self, i: int) -> Array:
        """How the hold moves with the sheet's freedoms."""
        if not self.holds[i].disc:
            return self.of_node(self.node[i])[:3]
        body = self.lead[i]
        out = np.zeros((6, self.count))
        first = self.first[body]
        out[:, first : first + 6] = carried(self.centres[i] - self.centres[body])
        return out

    def ties(self) -> tuple[Index, Array]:
        """The mesh's freedoms that are held (h,), and each as a row of the sheet's own (h, n)."""
        where: list[int] = []
        rows: list[Array] = []
        for node in sorted({*self.owner, *self.points}):
            move = self.of_node(node)
            where += [6 * node + k for k in range(len(move))]
            rows.append(move)
        return np.array(where, dtype=np.int64), np.vstack(rows)

    def turning(self) -> Array:
        """Which of the sheet's own freedoms turn, (n,) of bool."""
        out = np.zeros(self.count, dtype=bool)
        for first in self.first.values():
            out[first + 3 : first + 6] = True
        return out

    def rigid(self) -> Array:
        """The sheet's own freedoms in its six motions as a whole, (n, 6)."""
        out = np.zeros((self.count, 6))
        middle = self.centres.mean(axis=0)
        for body, first in self.first.items():
            out[first : first + 6] = carried(self.centres[body] - middle)
        for node, first in self.points.items():
            out[first : first + 3] = carried(self.mesh.nodes[node] - middle)[:3]
        return out


def _free_of_strain(stiffness: Array, rigid: Array) -> Array:
    """The stiffness without what rounding made of motions that strain nothing."""
    scale = np.linalg.norm(rigid, axis=0)
    ways, sizes, _ = np.linalg.svd(rigid / scale, full_matrices=False)
    ways = ways[:, sizes > 1e-9 * sizes[0]]
    keep = np.eye(len(stiffness)) - ways @ ways.T
    return np.asarray(keep @ stiffness @ keep)


def condensed(
    panels: tuple[ShellPanel, ...],
    holds: tuple[Hold, ...],
    *,
    thickness_mm: float,
    youngs_modulus_mpa: float,
    poisson: float,
    mesh_mm: float,
) -> CondensedSheet:
    """A sheet by its stiffness where it is held and pushed; what lies between costs nothing more.

    Raises InputError for a sheet that cannot be meshed. Holds: one disc or three points not in
    one line at least, or the sheet turns about them (the caller sees it: a singular stiffness).
    """
    panels = _bridged(panels, holds)
    sheets = _sheets(panels)
    points = tuple(h.place for h in holds if not h.disc)
    mesh = mesh_panels(panels, mesh_mm, (*points, *_seeds(panels, sheets, holds)))
    centres = np.array([space_of(panels, h.place) for h in holds])
    freedoms = _Freedoms(mesh, centres, holds)
    held, ties = freedoms.ties()
    whole: Any = shell_model(mesh, poisson).stiffness(youngs_modulus_mpa, thickness_mm).tocsr()
    acting = np.asarray(whole[:, held] @ ties)
    moved = factored(whole, held).solve(acting)
    stiffness = ties.T @ acting[held] - acting.T @ moved
    stiffness = (stiffness + stiffness.T) / 2
    return CondensedSheet(
        _free_of_strain(stiffness, freedoms.rigid()),
        tuple(freedoms.of_hold(i) for i in range(len(holds))),
        freedoms.turning(),
        centres,
        len(mesh.nodes),
        len(mesh.triangles),
    )
