"""The plate folded in space: panels, area, mass, centre of gravity, lowest points.

Panels are the outer face; the inner face is one thickness in. Every panel has
an origin and unit vectors u, v in the bike frame and a polygon in u, v.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

from shapely import Point, Polygon, affinity, box
from shapely.geometry.base import BaseGeometry

from rugged_shield.core.errors import InputError
from rugged_shield.core.mechanics.frames import Vec2, Vec3, add, cross, dot, unit
from rugged_shield.core.survey.plate import Belly, Cutout, Plate, Wing

_TOUCH_MM = 1e-6


@dataclass(frozen=True)
class Pose:
    """How far the plate hangs off its drawn place: z shift mm, slopes along x and y."""

    dz_mm: float = 0.0
    slope_x: float = 0.0
    slope_y: float = 0.0

    def lift(self, p: Vec3) -> Vec3:
        """A point moved with the plate (small slopes)."""
        return (p[0], p[1], p[2] + self.dz_mm + self.slope_x * p[0] + self.slope_y * p[1])

    def turn(self, direction: Vec3) -> Vec3:
        """A direction turned with the plate (small slopes)."""
        x, y, z = direction
        return unit((x, y, z + self.slope_x * x + self.slope_y * y))


@dataclass(frozen=True)
class Panel:
    """A flat panel: frame in the bike's axes, outline and openings in u, v (mm)."""

    name: str
    origin: Vec3
    u: Vec3
    v: Vec3
    outline: Polygon
    openings: tuple[tuple[Cutout, Polygon], ...]

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
        """The sheet less its open cutouts, each shrunk by the stone's radius."""
        solid: BaseGeometry = self.outline
        for cutout, opening in self.openings:
            if not cutout.closed_door:
                solid = solid.difference(opening.buffer(-stone_radius_mm))
        return solid


@dataclass(frozen=True)
class FoldedPlate:
    """All panels of a plate in one pose."""

    panels: tuple[Panel, ...]
    area_mm2: float
    centre_of_gravity_mm: Vec3

    def lowest_mm(self) -> tuple[Vec3, str]:
        """Lowest corner of the sheet and the panel it is on."""
        return min(
            ((corner, panel.name) for panel in self.panels for corner in panel.corners()),
            key=lambda found: found[0][2],
        )

    def panel(self, name: str) -> Panel | None:
        """The panel of that name."""
        return next((p for p in self.panels if p.name == name), None)


def _opening(cutout: Cutout) -> Polygon:
    """A cutout's polygon in u, v; names it when its outline crosses itself."""
    u, v, w, h = cutout.u_mm, cutout.v_mm, cutout.width_mm, cutout.height_mm
    shape: Polygon
    if cutout.shape == "round":
        shape = Point(u, v).buffer(w / 2, quad_segs=16)
    elif cutout.shape == "rectangle":
        shape = box(u - w / 2, v - h / 2, u + w / 2, v + h / 2)
    elif cutout.shape == "slot":
        r, half = min(w, h) / 2, max(w, h) / 2 - min(w, h) / 2
        core = box(u - half, v - _TOUCH_MM, u + half, v + _TOUCH_MM)
        shape = (core if half > 0 else Point(u, v)).buffer(r, quad_segs=16)
        if h > w:
            shape = affinity.rotate(shape, 90, origin=(u, v))
    else:
        if len(cutout.points_mm) < 3:
            raise InputError(
                f"cutouts.{cutout.key}.points_mm", len(cutout.points_mm), "three corners or more"
            )
        shape = Polygon([(u + a, v + b) for a, b in cutout.points_mm])
    if not shape.is_valid or shape.area <= 0:
        raise InputError(
            f"cutouts.{cutout.key}.points_mm", cutout.key, "an outline that does not cross itself",
            f"the outline of cutout “{cutout.key}” crosses itself",
        )  # fmt: skip
    return shape


def _panel(plate: Plate, name: str, origin: Vec3, u: Vec3, v: Vec3, outline: list[Vec2]) -> Panel:
    polygon = Polygon(outline)
    if not polygon.is_valid or polygon.area <= 1:
        raise InputError(
            name, name, "an outline that does not cross itself",
            f"the outline of the {name} crosses itself",
        )  # fmt: skip
    openings = []
    for cutout in plate.cutouts:
        if cutout.panel != name:
            continue
        opening = _opening(cutout)
        if not polygon.buffer(_TOUCH_MM).covers(opening):
            raise InputError(
                f"cutouts.{cutout.key}", cutout.key, f"inside the {name}",
                f"cutout “{cutout.key}” reaches outside its panel, the {name}",
                "Move or shrink the cutout, or make the panel larger.",
            )  # fmt: skip
        openings.append((cutout, opening))
    return Panel(name, origin, u, v, polygon, tuple(openings))


def _belly_axes(belly: Belly) -> tuple[Vec3, Vec3]:
    """Origin at the middle of the front edge, u rearward along the sheet."""
    drop = belly.z_rear_mm - belly.z_front_mm
    if abs(drop) >= belly.length_mm:
        raise InputError(
            "belly.z_rear_mm", f"{belly.z_rear_mm:g} mm",
            f"within {belly.length_mm:g} mm of the front edge's height",
            "the belly would stand upright",
        )  # fmt: skip
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
            f"{name.replace(' ', '_').split('_')[0]}_{name.split()[1]}.length_mm",
            f"{wing.length_mm:g} mm",
            f"at most {edge_length - wing.start_mm:.0f} mm from its start",
            f"the {name} is longer than the belly's edge",
        )  # fmt: skip
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
    return _panel(
        plate, name, origin, along, slant, [(0, 0), (length, 0), (length, height), (0, height)]
    )


def _flat_panels(plate: Plate) -> list[Panel]:
    b = plate.belly
    origin, u = _belly_axes(b)
    right: Vec3 = (0.0, 1.0, 0.0)
    wf, wr, length = b.front_width_mm / 2, b.rear_width_mm / 2, b.length_mm
    belly = _panel(
        plate, "belly", origin, u, right, [(0, -wf), (length, -wr), (length, wr), (0, wf)]
    )
    panels = [belly]
    if plate.apron:
        a = plate.apron
        angle = math.radians(a.rise_deg)
        slope: Vec3 = (-math.cos(angle), 0.0, math.sin(angle))
        h, wt = a.slope_height_mm, a.top_width_mm / 2
        panels.append(
            _panel(plate, "apron", origin, slope, right, [(0, -wf), (h, -wt), (h, wt), (0, wf)])
        )
    if plate.tail:
        t = plate.tail
        if abs(t.rise_mm) >= t.length_mm:
            raise InputError("tail.rise_mm", f"{t.rise_mm:g} mm", f"below {t.length_mm:g} mm")
        sine = t.rise_mm / t.length_mm
        back: Vec3 = (math.sqrt(1 - sine**2), 0.0, sine)
        w = t.width_mm / 2
        start = belly.to_bike((length, 0.0))
        panels.append(
            _panel(
                plate, "tail", start, back, right,
                [(0, -min(w, wr)), (t.length_mm, -w), (t.length_mm, w), (0, min(w, wr))],
            )
        )  # fmt: skip
    if plate.wing_left:
        panels.append(_wing(plate, plate.wing_left, right=False, belly=belly))
    if plate.wing_right:
        panels.append(_wing(plate, plate.wing_right, right=True, belly=belly))
    return panels


def _check_cutout_panels(plate: Plate, names: set[str]) -> None:
    for cutout in plate.cutouts:
        if cutout.panel not in names:
            raise InputError(
                f"cutouts.{cutout.key}.panel", cutout.panel, "one of " + ", ".join(sorted(names)),
                f"cutout “{cutout.key}” is on a panel this plate does not have",
            )  # fmt: skip


@lru_cache(maxsize=512)
def fold(plate: Plate, pose: Pose = Pose()) -> FoldedPlate:
    """Fold a plate from its numbers; areas mm², centre of gravity in the bike frame.

    Raises InputError naming a cutout outside its panel, a crossing outline, a
    wing longer than its edge or a belly that would stand upright.
    """
    flat = _flat_panels(plate)
    _check_cutout_panels(plate, {p.name for p in flat})
    panels = tuple(
        Panel(p.name, pose.lift(p.origin), pose.turn(p.u), pose.turn(p.v), p.outline, p.openings)
        for p in flat
    )
    area = 0.0
    moment: Vec3 = (0.0, 0.0, 0.0)
    for panel in panels:
        cut: BaseGeometry = panel.outline
        for _, opening in panel.openings:
            cut = cut.difference(opening)
        area += cut.area
        centre = panel.to_bike((cut.centroid.x, cut.centroid.y))
        moment = add(moment, centre, cut.area)
    return FoldedPlate(panels, area, (moment[0] / area, moment[1] / area, moment[2] / area))


def sheet_point(folded: FoldedPlate, x_mm: float, y_mm: float) -> Vec3 | None:
    """The point of the belly straight above or below (x, y), or None off the sheet."""
    for panel in folded.panels:
        if panel.name not in ("belly", "tail", "apron"):
            continue
        n = panel.normal
        if abs(n[2]) < 1e-9:
            continue
        o = panel.origin
        z = o[2] - (n[0] * (x_mm - o[0]) + n[1] * (y_mm - o[1])) / n[2]
        relative = (x_mm - o[0], y_mm - o[1], z - o[2])
        uv = (dot(relative, panel.u), dot(relative, panel.v))
        if panel.outline.buffer(_TOUCH_MM).covers(Point(uv)):
            return (x_mm, y_mm, z)
    return None
