"""The plate laid flat: panels developed about their folds, fold lines, loose pieces beside.

Bends are sharp on the outer face: no bend allowance (it depends on the tool).
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np
from shapely import Point, Polygon, get_coordinates, get_parts, union_all

from rugged_shield.core.mechanics.drawing import Drawing, Mark, Path, Weight, dimension
from rugged_shield.core.mechanics.frames import Vec2
from rugged_shield.core.survey.geometry import fold, sheet_place
from rugged_shield.core.survey.panels import Panel, flat_panels
from rugged_shield.core.survey.plate import EDGES, Piece, Plate

BESIDE_MM = 60.0
_HAIR_MM = 1e-4


@dataclass(frozen=True)
class Fold:
    """A bend line in the flat pattern, mm, and how far it is bent, degrees."""

    panel: str
    start_mm: Vec2
    end_mm: Vec2
    angle_deg: float

    @property
    def length_mm(self) -> float:
        """Length of the bend line."""
        return math.dist(self.start_mm, self.end_mm)


@dataclass(frozen=True)
class FlatPanel:
    """One panel laid flat: outline and cutouts by key, mm.

    ``piece``: the further piece that it belongs to, which lies beside; empty: the main one.
    """

    name: str
    outline_mm: tuple[Vec2, ...]
    cutouts_mm: tuple[tuple[str, tuple[Vec2, ...]], ...]
    piece: str


def _edges(sheet: list[Polygon]) -> list[tuple[Vec2, ...]]:
    """The outer edges of panels that are one sheet."""
    # Panels meet in edges that agree to rounding only: a hair over, and back again.
    joined = union_all([p.buffer(_HAIR_MM, join_style="mitre") for p in sheet])
    edge = joined.buffer(-_HAIR_MM, join_style="mitre").simplify(_HAIR_MM)
    return [
        tuple((x, y) for x, y in get_coordinates(ring)[:-1].tolist())
        for body in get_parts(edge).tolist()
        for ring in (body.exterior, *body.interiors)
    ]


@dataclass(frozen=True)
class FlatPattern:
    """Panels and folds in one plane: x rearward, y to the rider's right, mm."""

    panels: tuple[FlatPanel, ...]
    folds: tuple[Fold, ...]

    def cuts_mm(self) -> tuple[tuple[Vec2, ...], ...]:
        """Every ring to cut: the edge of each piece without its folds, and the openings."""
        sheets: dict[str, list[Polygon]] = {}
        for panel in self.panels:
            sheets.setdefault(panel.piece, []).append(Polygon(panel.outline_mm))
        rings = [ring for sheet in sheets.values() for ring in _edges(sheet)]
        rings += [ring for p in self.panels for _, ring in p.cutouts_mm]
        return tuple(rings)


@dataclass(frozen=True)
class FlatPlace:
    """Where a panel's own u, v go in the flat: origin and the two unit vectors."""

    origin: Vec2
    u: Vec2
    v: Vec2

    def back(self, point: Vec2) -> Vec2:
        """A point of the flat in the panel's own u, v."""
        x, y = point[0] - self.origin[0], point[1] - self.origin[1]
        return (x * self.u[0] + y * self.u[1], x * self.v[0] + y * self.v[1])

    def at(self, point: Vec2) -> Vec2:
        """A point of the panel in the flat."""
        return (
            self.origin[0] + point[0] * self.u[0] + point[1] * self.v[0],
            self.origin[1] + point[0] * self.u[1] + point[1] * self.v[1],
        )


def _place(plate: Plate, panel: Panel) -> FlatPlace:
    """A folded panel turned down into the plane of the belly about its fold line."""
    b = plate.belly
    if panel.name == "apron":
        return FlatPlace((0.0, 0.0), (-1.0, 0.0), (0.0, 1.0))
    if panel.name == "tail":
        return FlatPlace((b.length_mm, 0.0), (1.0, 0.0), (0.0, 1.0))
    wing = {"wing left": plate.wing_left, "wing right": plate.wing_right}.get(panel.name)
    if wing is None:
        return FlatPlace((0.0, 0.0), (1.0, 0.0), (0.0, 1.0))
    sign = 1.0 if panel.name == "wing right" else -1.0
    run, spread = b.length_mm, (b.rear_width_mm - b.front_width_mm) / 2 * sign
    size = math.hypot(run, spread)
    u = (run / size, spread / size)
    out = (-u[1] * sign, u[0] * sign)
    front = (0.0, sign * b.front_width_mm / 2)
    start = (front[0] + u[0] * wing.start_mm, front[1] + u[1] * wing.start_mm)
    return FlatPlace(start, u, out)


def _rings(polygons: list[Polygon], place: FlatPlace) -> list[tuple[Vec2, ...]]:
    """Outer rings of polygons laid in the flat, all of them in one step."""
    uv, which = get_coordinates([p.exterior for p in polygons], return_index=True)
    flat = np.array(place.origin) + uv @ np.array([place.u, place.v])
    apart = np.split(flat, np.flatnonzero(np.diff(which)) + 1)
    return [tuple((x, y) for x, y in ring[:-1].tolist()) for ring in apart]


def _flat(panel: Panel, place: FlatPlace) -> FlatPanel:
    outline, *rings = _rings([panel.outline, *(o for _, o in panel.openings)], place)
    keys = (cutout.key for cutout, _ in panel.openings)
    return FlatPanel(panel.name, outline, tuple(zip(keys, rings, strict=True)), panel.piece)


def _folds(plate: Plate, places: dict[str, FlatPlace]) -> tuple[Fold, ...]:
    folds = []
    b = plate.belly
    if plate.apron:
        half = b.front_width_mm / 2
        drop = math.degrees(math.asin((b.z_rear_mm - b.z_front_mm) / b.length_mm))
        folds.append(Fold("apron", (0.0, -half), (0.0, half), plate.apron.rise_deg + drop))
    if plate.tail:
        half = min(plate.tail.width_mm, b.rear_width_mm) / 2
        rise = math.degrees(math.asin(plate.tail.rise_mm / plate.tail.length_mm))
        drop = math.degrees(math.asin((b.z_rear_mm - b.z_front_mm) / b.length_mm))
        folds.append(Fold("tail", (b.length_mm, -half), (b.length_mm, half), rise - drop))
    for name, wing in (("wing left", plate.wing_left), ("wing right", plate.wing_right)):
        if wing:
            place = places[name]
            folds.append(
                Fold(name, place.at((0.0, 0.0)), place.at((wing.length_mm, 0.0)), wing.dihedral_deg)
            )
    return tuple(folds)


def flat_places(plate: Plate) -> dict[str, FlatPlace]:
    """Where each panel of the main piece lies in the flat pattern."""
    return {p.name: _place(plate, p) for p in flat_panels(plate) if not p.piece}


def _beside(pattern: list[FlatPanel]) -> float:
    return max(y for panel in pattern for _, y in panel.outline_mm) + BESIDE_MM


def _piece_places(piece: Piece) -> dict[str, FlatPlace]:
    """Where the panels of a piece lie about its own front edge."""
    places = {piece.key: FlatPlace((0.0, 0.0), (1.0, 0.0), (0.0, 1.0))}
    for edge in EDGES:
        if piece.bend(edge) is not None:
            line = piece.bend_line(edge)
            places[f"{piece.key} {edge}"] = FlatPlace(line.start, line.along, line.out)
    return places


def _laid(piece: Piece, panels: list[Panel], beside_mm: float) -> dict[str, FlatPlace]:
    """A piece's places moved behind a line, its frontmost and leftmost point on the edges there."""
    places = _piece_places(piece)
    corners = np.vstack([r for p in panels for r in _rings([p.outline], places[p.name])])
    left, low = corners.min(axis=0).tolist()
    return {
        name: replace(at, origin=(at.origin[0] - left, at.origin[1] + beside_mm - low))
        for name, at in places.items()
    }


def _piece_folds(piece: Piece, places: dict[str, FlatPlace]) -> list[Fold]:
    folds = []
    for edge in EDGES:
        bend = piece.bend(edge)
        if bend is not None:
            name, size = f"{piece.key} {edge}", piece.bend_line(edge).length_mm
            at = places[name]
            folds.append(Fold(name, at.at((0.0, 0.0)), at.at((size, 0.0)), bend[1]))
    return folds


@lru_cache(maxsize=64)
def flat_pattern(plate: Plate) -> FlatPattern:
    """The plate unfolded about its belly; further pieces lie beside it, not overlapping."""
    panels = flat_panels(plate)
    places = flat_places(plate)
    out = [_flat(p, places[p.name]) for p in panels if not p.piece]
    folds = list(_folds(plate, places))
    for piece in sorted(plate.pieces, key=lambda p: p.order):
        own = [p for p in panels if p.piece == piece.key]
        laid = _laid(piece, own, _beside(out))
        out += [_flat(p, laid[p.name]) for p in own]
        folds += _piece_folds(piece, laid)
    return FlatPattern(tuple(out), tuple(folds))


def flat_place(plate: Plate, x_mm: float, y_mm: float) -> Vec2 | None:
    """Where the sheet of the main piece at bike x, y lies in the flat pattern; None off it."""
    found = sheet_place(fold(plate), x_mm, y_mm)
    return None if found is None else _place(plate, found[0]).at(found[1])


OWN_HOLE_MM = 20.0
"""A ring that encloses a screw's place and is no wider than this is the screw's own hole."""


def edge_left_mm(pattern: FlatPattern, at_mm: Vec2, opened_mm: float) -> float:
    """Sheet left between a hole of this diameter and the nearest cut edge or opening, mm.

    Folds are no edges, and the hole that is there already is not one either.
    """
    here, nearest = Point(at_mm), math.inf
    for ring in pattern.cuts_mm():
        outline = Polygon(ring)
        x0, y0, x1, y1 = outline.bounds
        own = max(x1 - x0, y1 - y0) <= OWN_HOLE_MM and outline.covers(here)
        if not own:
            nearest = min(nearest, outline.exterior.distance(here))
    return nearest - opened_mm / 2


def on_the_bench(p: Vec2) -> Vec2:
    """A point of the flat on its drawing: outer face up, front at the top."""
    return (-p[1], p[0])


def flat_drawing(pattern: FlatPattern) -> Drawing:
    """The flat pattern as a person lays it on the bench: outer face up, front at the top."""
    paths: list[Path] = []
    marks: list[Mark] = []
    points: list[Vec2] = []
    for panel in pattern.panels:
        ring = tuple(on_the_bench(p) for p in panel.outline_mm)
        points += ring
        paths.append(Path(ring, True, "section", "plate", f"panel:{panel.name}"))
        for key, cutout in panel.cutouts_mm:
            paths.append(
                Path(
                    tuple(on_the_bench(p) for p in cutout), True, "outline", "hole", f"cutout:{key}"
                )
            )
    fold_weight: Weight = "fold"
    for bend in pattern.folds:
        a, b = on_the_bench(bend.start_mm), on_the_bench(bend.end_mm)
        paths.append(Path((a, b), weight=fold_weight, ref=f"fold:{bend.panel}"))
        marks.append(
            Mark((a[0] + b[0]) / 2, (a[1] + b[1]) / 2, f"{bend.angle_deg:.0f}°", "word", "fold")
        )
    x0, x1 = min(p[0] for p in points), max(p[0] for p in points)
    y0, y1 = min(p[1] for p in points), max(p[1] for p in points)
    return Drawing(
        title="Flat pattern, outer face up, front at the top",
        x=x0 - 60,
        y=y0 - 60,
        width=x1 - x0 + 190,
        height=y1 - y0 + 150,
        paths=tuple(paths),
        circles=(),
        marks=tuple(marks),
        dimensions=(
            dimension((x0, y1), (x1, y1), 40.0, "across", x1 - x0),
            dimension((x1, y0), (x1, y1), 40.0, "along", y1 - y0),
        ),
        scale_bar_mm=100.0,
    )
