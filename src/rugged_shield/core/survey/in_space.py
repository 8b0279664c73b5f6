"""A plate on its bike seen at a slant, hidden edges solved: where plan and profile do not tell."""

from __future__ import annotations

from dataclasses import dataclass

from shapely import Polygon
from shapely.coords import CoordinateSequence

from rugged_shield.core.errors import InputError
from rugged_shield.core.mechanics.drawing import Circle, Drawing, Fill, Mark
from rugged_shield.core.mechanics.frames import Vec3
from rugged_shield.core.mechanics.in_space import Face, View, box_faces, seen_from, shows_at
from rugged_shield.core.survey.bike import Bike
from rugged_shield.core.survey.geometry import FoldedPlate
from rugged_shield.core.survey.panels import Panel

TURNS_DEG = tuple(20.0 + 30.0 * i for i in range(12))
"""Directions round the bike, from the front over the rider's right; none looks along a panel."""
RISES_DEG = (-62.0, -40.0, -18.0, 14.0, 36.0, 62.0)
"""Heights to look from, the lowest first."""
_MARGIN_MM = 60.0
_CLEAR_MM = 25.0
"""A mount's number shows where nothing stands before it by more than a plate and its spacer."""


@dataclass(frozen=True, kw_only=True)
class Spot:
    """Something on the plate to point at: a place in the bike frame, what it is, its word."""

    at_mm: Vec3
    text: str
    ref: str = ""


def _panel_faces(panel: Panel) -> list[Face]:
    """What is left of a panel's sheet; trims are off, doors are shut."""
    parts = getattr(panel.sheet, "geoms", [panel.sheet])
    return [
        Face(
            ring=_in_bike(panel, part.exterior.coords),
            holes=tuple(_in_bike(panel, ring.coords) for ring in part.interiors),
            fill="plate",
            ref=f"panel:{panel.name}",
            shows_hidden=True,
            weight="section",
        )
        for part in parts
        if isinstance(part, Polygon)
    ]


def _in_bike(panel: Panel, ring: CoordinateSequence) -> tuple[Vec3, ...]:
    return tuple(panel.to_bike((c[0], c[1])) for c in list(ring)[:-1])


def _heading(view: View) -> str:
    sides = (
        "the front",
        "the front, right",
        "the right",
        "behind, right",
        "behind",
        "behind, left",
        "the left",
        "the front, left",
    )
    side = sides[round(view.turn_deg / 45) % 8]
    return f"from {side}, {'below' if view.rise_deg < 0 else 'above'}"


def space_view(turn: int, rise: int) -> View:
    """The view of that number in ``TURNS_DEG`` and ``RISES_DEG``.

    Raises InputError for a number that is not there.
    """
    for name, value, count in (("turn", turn, len(TURNS_DEG)), ("rise", rise, len(RISES_DEG))):
        if not 0 <= value < count:
            raise InputError(name, value, f"from 0 to {count - 1}")
    return View(TURNS_DEG[turn], RISES_DEG[rise])


def space_drawing(
    bike: Bike | None,
    folded: FoldedPlate,
    view: View,
    spots: tuple[Spot, ...] = (),
) -> Drawing:
    """The plate, on its bike or (None) alone, with what is pointed at where it can be seen."""
    faces: list[Face] = []
    marks: list[Mark] = []
    if bike is not None:
        for part in bike.parts:
            low = (part.x_min_mm, part.y_min_mm, part.z_min_mm)
            high = (part.x_max_mm, part.y_max_mm, part.z_max_mm)
            fill: Fill = "part" if part.kind == "vital" else "screw"
            faces += box_faces(low, high, fill, part.key)
    faces += [face for panel in folded.panels for face in _panel_faces(panel)]
    solid = tuple(faces)
    paths = seen_from(solid, view)
    corners = [point for path in paths for point in path.points]
    circles: list[Circle] = []
    for spot in spots:
        if shows_at(solid, view, spot.at_mm, _CLEAR_MM):
            x, y = view.at(spot.at_mm)
            circles.append(Circle(x, y, 6.0, "outline", "hole", spot.ref))
            marks.append(Mark(x, y - 14.0, spot.text, "mount", spot.ref))
    marks += _piece_names(folded, view, solid)
    x0, x1 = min(p[0] for p in corners), max(p[0] for p in corners)
    y0, y1 = min(p[1] for p in corners), max(p[1] for p in corners)
    return Drawing(
        title=f"The plate in space, {_heading(view)}",
        x=x0 - _MARGIN_MM,
        y=y0 - _MARGIN_MM,
        width=x1 - x0 + 2 * _MARGIN_MM,
        height=y1 - y0 + 2 * _MARGIN_MM,
        paths=paths,
        circles=tuple(circles),
        marks=tuple(marks),
        scale_bar_mm=100.0,
    )


def _piece_names(folded: FoldedPlate, view: View, faces: tuple[Face, ...]) -> list[Mark]:
    """Names of panels and pieces in their middle, where that is seen."""
    found = []
    for panel in folded.panels:
        inside = panel.sheet.representative_point()
        middle = panel.to_bike((inside.x, inside.y))
        if shows_at(faces, view, middle, 1.0):
            x, y = view.at(middle)
            found.append(Mark(x, y, panel.name, "word", f"panel:{panel.name}"))
    return found
