"""Flat panels of a plate: built from tape numbers, with frames, outlines and openings.

Panels are the outer face; the inner face lies one thickness along ``inward``.
Every panel has an origin and unit vectors u, v in the bike frame and a polygon in u, v.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache
from threading import get_ident

import numpy as np
from numpy.typing import NDArray
from shapely import Polygon, box, buffer, from_wkb, prepare, to_wkb, union_all
from shapely.geometry.base import BaseGeometry

from rugged_shield.core.amounts import amount, entered
from rugged_shield.core.errors import InputError
from rugged_shield.core.mechanics.frames import Vec2, Vec3, add, cross, dot, unit
from rugged_shield.core.survey.plate import (
    EDGES,
    Apron,
    Belly,
    Cutout,
    Edge,
    Piece,
    Plate,
    Tail,
    Trim,
    Wing,
)

TOUCH_MM = 1e-6
LEAST_LEFT_MM2 = 400.0
"""No panel is trimmed to less than this."""
HEART_ABOVE_MM = 200.0
"""The inner side of every panel is the one that looks at a point this far above the belly."""


@dataclass(frozen=True, eq=False, kw_only=True)
class Panel:
    """A flat panel: frame in the bike's axes, outline and openings in u, v (mm).

    ``inward`` is the unit normal toward the engine; ``piece`` is empty for the
    main piece.
    """

    name: str
    origin: Vec3
    u: Vec3
    v: Vec3
    outline: Polygon
    openings: tuple[tuple[Cutout, Polygon], ...]
    inward: Vec3
    thickness_mm: float
    material: str
    sheet: BaseGeometry
    piece: str = ""

    @property
    def normal(self) -> Vec3:
        """Unit normal u × v."""
        return cross(self.u, self.v)

    def to_bike(self, uv: Vec2) -> Vec3:
        """A point of the sheet in the bike frame."""
        return add(add(self.origin, self.u, uv[0]), self.v, uv[1])

    def corners(self) -> tuple[Vec3, ...]:
        """Corners of the outline in the bike frame."""
        return tuple(self.to_bike((c[0], c[1])) for c in list(self.outline.exterior.coords)[:-1])

    def net(self, stone_radius_mm: float = 0.0) -> BaseGeometry:
        """The sheet less its open cutouts, each shrunk by the stone's radius; doors are shut."""
        if stone_radius_mm == 0.0:
            return self.sheet
        return _net(self, stone_radius_mm)

    def net_to_ask(self, stone_radius_mm: float = 0.0) -> BaseGeometry:
        """The net to ask which points are in it: indexed, and one for each thread.

        GEOS keeps what it learns in the geometry, without a lock: two threads that ask one
        and the same where a point is corrupt the heap.
        """
        return _net_to_ask(self, stone_radius_mm, get_ident())

    def allowed(self) -> BaseGeometry:
        """The outline grown by rounding, to ask what lies on it; one for each thread."""
        return _grown(self, get_ident())


@lru_cache(maxsize=4096)
def _net(panel: Panel, stone_radius_mm: float) -> BaseGeometry:
    return _less(panel.outline, panel.openings, stone_radius_mm)


@lru_cache(maxsize=4096)
def _net_to_ask(panel: Panel, stone_radius_mm: float, thread: int) -> BaseGeometry:
    del thread  # only keeps the threads' copies apart
    own = from_wkb(to_wkb(panel.net(stone_radius_mm)))
    prepare(own)
    return own


@lru_cache(maxsize=4096)
def _grown(panel: Panel, thread: int) -> BaseGeometry:
    del thread
    grown = panel.outline.buffer(TOUCH_MM)
    prepare(grown)
    return grown


def _less(
    outline: Polygon, openings: tuple[tuple[Cutout, Polygon], ...], shrink_mm: float = 0.0
) -> BaseGeometry:
    """An outline less its open cutouts, in one step, so that the cost is linear in them."""
    open_ones = [opening for cutout, opening in openings if not cutout.closed_door]
    if not open_ones:
        return outline
    if shrink_mm:
        open_ones = [o for o in buffer(open_ones, -shrink_mm) if not o.is_empty]
    rings = [o.exterior for o in open_ones if o.geom_type == "Polygon"]
    holed = Polygon(outline.exterior, rings)
    if len(rings) == len(open_ones) and holed.is_valid:
        return holed
    return outline.difference(union_all(open_ones))  # cutouts that touch each other or the edge


_HALF_TURN = np.linspace(-np.pi / 2, np.pi / 2, 33)
_HALF_CIRCLE = np.column_stack([np.cos(_HALF_TURN), np.sin(_HALF_TURN)])
"""Corners on the circle, 64 for a whole one: 0.16 % less area than the circle itself."""


def _stadium(width: float, height: float) -> NDArray[np.float64]:
    """Corners of a circle, or of a slot as long as the larger size, about the origin."""
    right = _HALF_CIRCLE * (min(width, height) / 2)
    right[:, 0] += abs(width - height) / 2
    ring = np.vstack([right, -right]) if width != height else np.vstack([right[1:], -right[1:]])
    return ring if width >= height else ring[:, ::-1]


def _opening(cutout: Cutout) -> Polygon:
    """A cutout's polygon in u, v; names it when its outline crosses itself."""
    u, v, w, h = cutout.u_mm, cutout.v_mm, cutout.width_mm, cutout.height_mm
    if cutout.shape == "rectangle":
        return box(u - w / 2, v - h / 2, u + w / 2, v + h / 2)
    if cutout.shape in ("round", "slot"):
        across = (w, w) if cutout.shape == "round" else (w, h)
        return Polygon(_stadium(*across) + np.array([u, v]))
    if len(cutout.points_mm) < 3:
        raise InputError(
            f"cutouts.{cutout.key}.points_mm", len(cutout.points_mm), "three corners or more"
        )
    shape = Polygon([(u + a, v + b) for a, b in cutout.points_mm])
    if not shape.is_valid or shape.area <= 0:
        raise InputError(
            f"cutouts.{cutout.key}.points_mm",
            cutout.key,
            "an outline that does not cross itself",
            f"the outline of cutout “{cutout.key}” crosses itself",
        )
    return shape


@dataclass(frozen=True)
class _Frame:
    """Where a panel lies: its name, origin, unit vectors, and the further piece it belongs to."""

    name: str
    origin: Vec3
    u: Vec3
    v: Vec3
    piece: Piece | None = None


def _heart(belly: Belly) -> Vec3:
    """A point inside the engine, over the middle of the belly."""
    top = max(belly.z_front_mm, belly.z_rear_mm) + HEART_ABOVE_MM
    return (belly.start_x_mm + belly.length_mm / 2, 0.0, top)


def _outline(name: str, corners: list[Vec2], field: str) -> Polygon:
    polygon = Polygon(corners) if len(corners) >= 3 else Polygon()
    if not polygon.is_valid or polygon.area <= 1:
        raise InputError(
            field,
            name,
            "an outline that does not cross itself",
            f"the outline of the {name} crosses itself or encloses nothing",
        )
    return polygon


def _trimmed(outline: Polygon, trims: tuple[Trim, ...], name: str) -> Polygon:
    """The outline less what was cut off it; refuses a cut that leaves two parts, or nothing."""
    left = outline
    for trim in trims:
        if trim.panel != name:
            continue
        region = Polygon(trim.points_mm)
        if not region.is_valid or region.area <= 0:
            raise InputError(
                f"trims.{trim.key}.points_mm", trim.key, "a region that does not cross itself"
            )
        rest = left.difference(region)
        if not isinstance(rest, Polygon) or rest.area < LEAST_LEFT_MM2 or rest.interiors:
            raise InputError(
                f"trims.{trim.key}",
                name,
                "a cut from edge to edge that leaves one part",
                f"this cut leaves the {name} in parts, or nothing of it",
                "An opening inside a panel is a hole or slot.",
            )
        left = rest
    return left


def _panel(plate: Plate, frame: _Frame, corners: list[Vec2]) -> Panel:
    name, own = frame.name, frame.piece
    polygon = _trimmed(_outline(name, corners, name), plate.trims, name)
    openings = []
    allowed = polygon.buffer(TOUCH_MM)
    for cutout in plate.cutouts:
        if cutout.panel != name:
            continue
        opening = _opening(cutout)
        if plate.trims and not opening.intersects(polygon):
            continue  # it lay in what was cut off
        if not allowed.covers(opening):
            raise InputError(
                f"cutouts.{cutout.key}",
                cutout.key,
                f"inside the {name}",
                f"cutout “{cutout.key}” reaches outside its panel, the {name}",
                "Move or shrink the cutout, or make the panel larger; one that crosses a fold "
                "is entered as two, one on each panel.",
            )
        openings.append((cutout, opening))
    normal = cross(frame.u, frame.v)
    middle = add(add(frame.origin, frame.u, polygon.centroid.x), frame.v, polygon.centroid.y)
    toward = add(_heart(plate.belly), middle, -1.0)
    inward = normal if dot(normal, toward) >= 0 else (-normal[0], -normal[1], -normal[2])
    thickness_mm, material = plate.sheet(own.key if own else "")
    return Panel(
        name=name,
        origin=frame.origin,
        u=frame.u,
        v=frame.v,
        outline=polygon,
        openings=tuple(openings),
        inward=inward,
        thickness_mm=thickness_mm,
        material=material,
        sheet=_less(polygon, tuple(openings)),
        piece=own.key if own else "",
    )


def _belly_axes(belly: Belly) -> tuple[Vec3, Vec3]:
    """Origin at the middle of the front edge, u rearward along the sheet."""
    drop = belly.z_rear_mm - belly.z_front_mm
    if abs(drop) >= belly.length_mm:
        raise InputError(
            "belly.z_rear_mm",
            entered(belly.z_rear_mm, "mm"),
            f"within {entered(belly.length_mm, 'mm')} of the front edge's height",
            "the belly would stand upright",
        )
    sine = drop / belly.length_mm
    return (belly.start_x_mm, 0.0, belly.z_front_mm), (math.sqrt(1 - sine**2), 0.0, sine)


def _wing(plate: Plate, wing: Wing, right: bool, belly: Panel) -> Panel:
    """A wing on the belly's left or right edge, folded up by its dihedral."""
    b = plate.belly
    sign = 1.0 if right else -1.0
    edge_length = math.hypot(b.length_mm, (b.rear_width_mm - b.front_width_mm) / 2)
    name = "wing right" if right else "wing left"
    if wing.start_mm + wing.length_mm > edge_length + 0.5:
        raise InputError(
            f"{name.replace(' ', '_')}.length_mm",
            entered(wing.length_mm, "mm"),
            f"at most {amount(edge_length, 'mm', 0)} together with its start",
            f"the {name} reaches past the belly's edge",
        )
    front = belly.to_bike((0.0, sign * b.front_width_mm / 2))
    rear = belly.to_bike((b.length_mm, sign * b.rear_width_mm / 2))
    along = unit(add(rear, front, -1.0))
    up = belly.normal
    if up[2] < 0:
        up = (-up[0], -up[1], -up[2])
    outward = cross(along, up)
    if outward[1] * sign < 0:
        outward = (-outward[0], -outward[1], -outward[2])
    angle = math.radians(wing.dihedral_deg)
    slant = unit(
        add(
            (
                outward[0] * math.cos(angle),
                outward[1] * math.cos(angle),
                outward[2] * math.cos(angle),
            ),
            up,
            math.sin(angle),
        )
    )
    origin = add(front, along, wing.start_mm)
    length, height = wing.length_mm, wing.slant_height_mm
    corners: list[Vec2] = [(0, 0), (length, 0), (length, height), (0, height)]
    return _panel(plate, _Frame(name, origin, along, slant), corners)


def _belly(plate: Plate) -> Panel:
    b = plate.belly
    origin, u = _belly_axes(b)
    corners = list(b.points_mm) or _trapezoid(b.front_width_mm, b.rear_width_mm, b.length_mm)
    return _panel(plate, _Frame("belly", origin, u, (0.0, 1.0, 0.0)), corners)


def _trapezoid(front_mm: float, rear_mm: float, length_mm: float) -> list[Vec2]:
    """Four corners: u along, v across, the front edge at u = 0."""
    return [
        (0, -front_mm / 2),
        (length_mm, -rear_mm / 2),
        (length_mm, rear_mm / 2),
        (0, front_mm / 2),
    ]


def _apron(plate: Plate, apron: Apron, belly: Panel) -> Panel:
    angle = math.radians(apron.rise_deg)
    slope: Vec3 = (-math.cos(angle), 0.0, math.sin(angle))
    corners = _trapezoid(plate.belly.front_width_mm, apron.top_width_mm, apron.slope_height_mm)
    return _panel(plate, _Frame("apron", belly.origin, slope, (0.0, 1.0, 0.0)), corners)


def _tail(plate: Plate, tail: Tail, belly: Panel) -> Panel:
    if abs(tail.rise_mm) >= tail.length_mm:
        raise InputError(
            "tail.rise_mm",
            entered(tail.rise_mm, "mm"),
            f"between {entered(-tail.length_mm, 'mm')} and {entered(tail.length_mm, 'mm')}",
            "the tail would stand upright",
        )
    sine = tail.rise_mm / tail.length_mm
    back: Vec3 = (math.sqrt(1 - sine**2), 0.0, sine)
    start = belly.to_bike((plate.belly.length_mm, 0.0))
    front = min(tail.width_mm, plate.belly.rear_width_mm)
    corners = _trapezoid(front, tail.width_mm, tail.length_mm)
    return _panel(plate, _Frame("tail", start, back, (0.0, 1.0, 0.0)), corners)


def _piece(plate: Plate, piece: Piece) -> list[Panel]:
    """A further piece, turned by its pitch about y and its roll about its own u, and its bends."""
    pitch, roll = math.radians(piece.pitch_deg), math.radians(piece.roll_deg)
    u: Vec3 = (math.cos(pitch), 0.0, math.sin(pitch))
    level: Vec3 = (-math.sin(pitch), 0.0, math.cos(pitch))
    v = add((0.0, math.cos(roll), 0.0), level, math.sin(roll))
    corners = list(piece.points_mm) or _trapezoid(
        piece.front_width_mm, piece.rear_width_mm, piece.length_mm
    )
    origin = (piece.x_mm, piece.y_mm, piece.z_mm)
    main = _panel(plate, _Frame(piece.key, origin, u, v, piece), corners)
    return [main, *(_bent(plate, piece, edge, main) for edge in EDGES if piece.bend(edge))]


def _bent(plate: Plate, piece: Piece, edge: Edge, main: Panel) -> Panel:
    """The strip of a piece beyond a bent edge, as long as the edge."""
    bend = piece.bend(edge)
    assert bend is not None
    height, angle = bend[0], math.radians(bend[1])
    line = piece.bend_line(edge)

    def turned(way: Vec2) -> Vec3:
        return add(add((0.0, 0.0, 0.0), main.u, way[0]), main.v, way[1])

    flat = turned(line.out)
    slant = add(add((0.0, 0.0, 0.0), flat, math.cos(angle)), main.normal, math.sin(angle))
    frame = _Frame(
        f"{piece.key} {edge}", main.to_bike(line.start), turned(line.along), slant, piece
    )
    length = line.length_mm
    return _panel(plate, frame, [(0, 0), (length, 0), (length, height), (0, height)])


def _check_traced(plate: Plate) -> None:
    """A traced belly has no straight edges that the numbers of wing or apron refer to."""
    if plate.belly.points_mm and (plate.wing_left or plate.wing_right or plate.apron or plate.tail):
        raise InputError(
            "belly.points_mm",
            "a traced outline",
            "a plate without apron, wings and tail",
            "a traced belly has no edge that another panel could be folded from",
            "Enter the other panels as pieces, or the belly by its widths.",
        )


@lru_cache(maxsize=512)
def flat_panels(plate: Plate) -> tuple[Panel, ...]:
    """All panels as drawn, the belly first, then the folded ones, then further pieces."""
    _check_traced(plate)
    belly = _belly(plate)
    panels = [belly]
    if plate.apron:
        panels.append(_apron(plate, plate.apron, belly))
    if plate.tail:
        panels.append(_tail(plate, plate.tail, belly))
    if plate.wing_left:
        panels.append(_wing(plate, plate.wing_left, right=False, belly=belly))
    if plate.wing_right:
        panels.append(_wing(plate, plate.wing_right, right=True, belly=belly))
    for piece in sorted(plate.pieces, key=lambda p: p.order):
        panels += _piece(plate, piece)
    _check_cutout_panels(plate, {p.name for p in panels})
    return tuple(panels)


def _check_cutout_panels(plate: Plate, names: set[str]) -> None:
    for trim in plate.trims:
        if trim.panel not in names:
            raise InputError(
                f"trims.{trim.key}.panel",
                trim.panel,
                "one of " + ", ".join(sorted(names)),
                f"{trim.panel} was trimmed, and this plate does not have it",
            )
    for cutout in plate.cutouts:
        if cutout.panel not in names:
            raise InputError(
                f"cutouts.{cutout.key}.panel",
                cutout.panel,
                "one of " + ", ".join(sorted(names)),
                f"cutout “{cutout.key}” is on a panel this plate does not have",
            )
