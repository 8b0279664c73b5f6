"""The underside (seen from below) and the side profile, to scale, from the bike's numbers."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Literal

from rugged_shield.core.mechanics.drawing import (
    STOPS,
    Circle,
    Dimension,
    Drawing,
    Fill,
    Mark,
    Path,
    dimension,
)
from rugged_shield.core.mechanics.frames import Vec2, from_below, profile
from rugged_shield.core.survey.bike import Bike, Part
from rugged_shield.core.survey.clearance import LowPoint
from rugged_shield.core.survey.front_wheel import axle_at, travel_of
from rugged_shield.core.survey.geometry import FoldedPlate, slider_ring
from rugged_shield.core.survey.shapes import DrawnBox, box_below, draw_part, stadium

TYRE_HALF_WIDTH_MM = 55.0
CALL_OUT_PITCH_MM = 68.0
MARKS_APART_MM = 44.0
"""Marks of the underside stay so far apart that both can be read and tapped."""
_DRAW_ORDER = {"low": 0, "neighbour": 1, "vital": 2}


@dataclass(frozen=True)
class Air:
    """What stays open between a joint's stack and its mount: where, mm."""

    x_mm: float
    y_mm: float
    size_mm: float


@dataclass(frozen=True)
class OrderMark:
    """A joint's place in the order of work: position, rank, and its own number."""

    x_mm: float
    y_mm: float
    text: str
    ref: str
    joint_number: str = ""


def _letter(index: int) -> str:
    return chr(ord("A") + index) if index < 26 else f"A{index - 25}"


def part_letters(bike: Bike) -> dict[str, str]:
    """The letter each part carries in drawings and tables."""
    return {part.key: _letter(i) for i, part in enumerate(bike.parts)}


def _beside(part: Part) -> DrawnBox:
    x0, y0 = profile(part.x_min_mm, part.z_max_mm)
    x1, y1 = profile(part.x_max_mm, part.z_min_mm)
    return DrawnBox(x0, y0, x1, y1)


def _part_fill(part: Part, bare: frozenset[str]) -> Fill:
    return "part bare" if part.key in bare else "part" if part.kind == "vital" else "none"


def _plate_paths(
    folded: FoldedPlate, fill: Fill, is_stock: bool, below: bool
) -> tuple[list[Path], list[Vec2]]:
    paths: list[Path] = []
    corners: list[Vec2] = []
    for panel in folded.panels:
        outline = [
            from_below(c[0], c[1]) if below else profile(c[0], c[2]) for c in panel.corners()
        ]
        corners += outline
        weight: Literal["hidden", "section"] = "hidden" if is_stock else "section"
        paths.append(Path(tuple(outline), True, weight, fill, f"panel:{panel.name}"))
        if not below:
            continue
        for cutout, opening in panel.openings:
            ring = [panel.to_bike((c[0], c[1])) for c in opening.exterior.coords]
            paths.append(
                Path(
                    tuple(from_below(p[0], p[1]) for p in ring),
                    True,
                    "thin",
                    "none" if is_stock else "hole",
                    f"cutout:{cutout.key}",
                )
            )
    if not below and folded.slider_mm:
        section = tuple(profile(c[0], c[2]) for c in slider_ring(folded))
        paths.append(Path(section, True, "hidden" if is_stock else "thin", "plastic", "slider"))
    return paths, corners


def underside_drawing(
    bike: Bike,
    stock: FoldedPlate | None,
    plate: FoldedPlate | None,
    bare: frozenset[str] = frozenset(),
    order: tuple[OrderMark, ...] = (),
    airs: tuple[Air, ...] = (),
) -> Drawing:
    """The bike from below: front at the top, the rider's right at the left of the screen.

    ``bare`` marks vitals to be filled as bare; ``order`` replaces mount numbers
    by the order of work; ``airs`` writes beside a mount what is open there.
    """
    letters = part_letters(bike)
    paths: list[Path] = []
    circles: list[Circle] = []
    marks: list[Mark] = []
    extent: list[Vec2] = []
    boxes: dict[str, DrawnBox] = {}
    for part in sorted(bike.parts, key=lambda p: (_DRAW_ORDER[p.kind], -p.z_min_mm)):
        box = box_below(part)
        shape_paths, shape_circles = draw_part(part.shape, box, _part_fill(part, bare), part.key)
        paths += shape_paths
        circles += shape_circles
        boxes[part.key] = box
        extent += [(box.x0, box.y0), (box.x1, box.y1)]
    fixed = [from_below(m.x_mm, m.y_mm) for m in bike.mounts]
    for key, place in mark_places(boxes, fixed).items():
        marks.append(Mark(*place, letters[key], "part", key))
    over: list[Path] = []
    layers: tuple[tuple[FoldedPlate | None, Fill, bool], ...] = (
        (plate, "plate", False),
        (stock, "none", True),
    )
    for folded, fill, is_stock in layers:
        if folded is not None:
            drawn, corners = _plate_paths(folded, fill, is_stock, below=True)
            over += drawn
            extent += corners
    if order:
        marks += [
            Mark(*from_below(m.x_mm, m.y_mm), m.text, "order", m.ref, m.joint_number) for m in order
        ]
    else:
        for mount in bike.mounts:
            marks.append(
                Mark(*from_below(mount.x_mm, mount.y_mm), str(mount.number), "mount", mount.key)
            )
    extent += fixed
    half = max(abs(p[0]) for p in extent) + 60
    top, bottom = min(p[1] for p in extent) - 130, max(p[1] for p in extent) + 60
    arrow, words = _bearings(half, top)
    axis = Path(((0, top), (0, bottom)), weight="centre")
    return Drawing(
        title="Creeper view: the bike from below, front at the top",
        x=-half,
        y=top,
        width=2 * half,
        height=bottom - top,
        paths=(*_wheels_below(bike), axis, *paths, *over, arrow),
        circles=tuple(circles),
        marks=(*marks, *words),
        dimensions=tuple(_air_line(air) for air in airs),
        scale_bar_mm=100.0,
    )


def _air_line(air: Air) -> Dimension:
    """A leader outward from the mount, with the room that the stack leaves to it."""
    out = 70.0 if air.y_mm >= 0 else -70.0
    start, end = from_below(air.x_mm, air.y_mm), from_below(air.x_mm, air.y_mm + out)
    return dimension(start, end, 0.0, "air", air.size_mm, STOPS)


def _bearings(half: float, top: float) -> tuple[Path, tuple[Mark, ...]]:
    """The front arrow and the words for both sides."""
    y = top + 95
    arrow = (
        (-16.0, y),
        (-16.0, y - 40),
        (-32.0, y - 40),
        (0.0, y - 80),
        (32.0, y - 40),
        (16.0, y - 40),
        (16.0, y),
    )
    return Path(arrow, True, "outline", "paper", "front arrow"), (
        Mark(0, y - 30, "front", "word", "front"),
        Mark(-half + 10, y - 30, "right · throttle side", "side", "side right"),
        Mark(half - 10, y - 30, "left · clutch side", "side", "side left"),
    )


def mark_places(boxes: dict[str, DrawnBox], fixed: list[Vec2]) -> dict[str, Vec2]:
    """A place inside each part for its letter, clear of the others and of the mounts.

    Small parts have the first choice: a drain in the middle of its sump keeps its
    middle, and the sump's letter moves aside.
    """
    taken, places = list(fixed), {}

    def room(at: Vec2) -> float:
        return min((math.dist(at, other) for other in taken), default=math.inf)

    def area(key: str) -> float:
        return (boxes[key].x1 - boxes[key].x0) * (boxes[key].y1 - boxes[key].y0)

    for key in sorted(boxes, key=area):
        box = boxes[key]
        shares = (
            (0.5, 0.5),
            (0.5, 0.22),
            (0.5, 0.78),
            (0.22, 0.5),
            (0.78, 0.5),
            (0.22, 0.22),
            (0.78, 0.22),
            (0.22, 0.78),
            (0.78, 0.78),
        )
        spots = [
            (box.x0 + u * (box.x1 - box.x0), box.y0 + v * (box.y1 - box.y0)) for u, v in shares
        ]
        place = next((s for s in spots if room(s) >= MARKS_APART_MM), max(spots, key=room))
        taken.append(place)
        places[key] = place
    return places


def _call_outs(
    boxes: dict[str, DrawnBox], letters: dict[str, str]
) -> tuple[list[Path], list[Mark]]:
    """Letters in one row above the parts, each with a leader down to its part."""
    keys = sorted(boxes, key=lambda key: boxes[key].cx)
    row = min(box.y0 for box in boxes.values()) - 90
    middle = sum(boxes[key].cx for key in keys) / len(keys)
    paths, marks = [], []
    for i, key in enumerate(keys):
        x = middle + (i - (len(keys) - 1) / 2) * CALL_OUT_PITCH_MM
        box = boxes[key]
        paths.append(Path(((x, row), (box.cx, box.cy)), weight="centre"))
        marks.append(Mark(x, row, letters[key], "part", key))
    return paths, marks


def _wheels_below(bike: Bike) -> list[Path]:
    paths = []
    for axle, radius in (
        (0.0, bike.front_wheel_radius_mm),
        (bike.wheelbase_mm, bike.rear_wheel_radius_mm),
    ):
        points = stadium(0.0, axle - radius, axle + radius, TYRE_HALF_WIDTH_MM)
        paths.append(Path(points, True, "thin", "wheel", "wheel"))
    return paths


def _wheel(axle_mm: float, radius_mm: float) -> list[Circle]:
    centre = profile(axle_mm, radius_mm)
    return [
        Circle(*centre, radius_mm, "outline", "wheel", "wheel"),
        Circle(*centre, radius_mm - 75, "thin"),
        Circle(*centre, 28, "thin"),
    ]


def _pressed_wheel(bike: Bike) -> Path:
    """The front tyre with the fork pressed in, where it comes near a plate: below and behind."""
    travel, rake, _ = travel_of(bike)
    x, z = axle_at(bike, travel, rake)
    radius = bike.front_wheel_radius_mm
    turns = (math.radians(a) for a in range(-100, 11, 5))
    arc = tuple(profile(x + radius * math.cos(t), z + radius * math.sin(t)) for t in turns)
    return Path(arc, weight="hidden", ref="front tyre, fork pressed in")


def profile_drawing(
    bike: Bike, stock: FoldedPlate | None, plate: FoldedPlate | None, low: LowPoint
) -> Drawing:
    """The bike from its left side: wheels, ground, parts, plate, lowest point."""
    letters = part_letters(bike)
    paths: list[Path] = []
    circles: list[Circle] = []
    marks: list[Mark] = []
    top = 0.0
    for axle, radius in (
        (0.0, bike.front_wheel_radius_mm),
        (bike.wheelbase_mm, bike.rear_wheel_radius_mm),
    ):
        circles += _wheel(axle, radius)
        top = min(top, profile(axle, radius)[1] - radius)
    paths.append(_pressed_wheel(bike))
    boxes = {part.key: _beside(part) for part in bike.parts}
    for part in sorted(bike.parts, key=lambda p: _DRAW_ORDER[p.kind]):
        fill = _part_fill(part, frozenset())
        shape_paths, shape_circles = draw_part(part.shape, boxes[part.key], fill, part.key)
        paths += shape_paths
        circles += shape_circles
    leaders, called = _call_outs(boxes, letters)
    paths += leaders
    marks += called
    top = min(top, min(m.y for m in called) - 30)
    layers: tuple[tuple[FoldedPlate | None, Fill, bool], ...] = (
        (stock, "none", True),
        (plate, "plate", False),
    )
    for folded, fill, is_stock in layers:
        if folded is not None:
            paths += _plate_paths(folded, fill, is_stock, below=False)[0]
    left = -bike.front_wheel_radius_mm - 60
    right = bike.wheelbase_mm + bike.rear_wheel_radius_mm + 60
    paths.append(Path(((left, 0.0), (right, 0.0)), weight="ground", ref="ground"))
    foot, point = profile(low.x_mm, 0.0), profile(low.x_mm, low.z_mm)
    marks += [
        Mark(left + 20, top - 10, "front", "word", "front of the bike"),
        Mark(right - 20, top - 10, "seen from the left · clutch side", "side", "side left"),
    ]
    return Drawing(
        title="Profile: the bike from its left side",
        x=left,
        y=top - 50,
        width=right - left,
        height=-top + 190,
        paths=tuple(paths),
        circles=tuple(circles),
        marks=tuple(marks),
        dimensions=(dimension(foot, point, 0.0, "lowest point", low.z_mm),),
        scale_bar_mm=200.0,
    )


FAULT_RING_MM = 20.0


def with_faults(
    drawing: Drawing, places: tuple[tuple[str, float, float, str], ...], word: str = "fault"
) -> Drawing:
    """The underside with a ring and a number where faults were found: key, x, y mm, number.

    ``word`` tells what they are; it is written beside the number of a fault.
    """
    circles = list(drawing.circles)
    marks = list(drawing.marks)
    for key, x_mm, y_mm, number in places:
        x, y = from_below(x_mm, y_mm)
        circles.append(Circle(x, y, FAULT_RING_MM, "section", "none", f"{word}:{key}"))
        said = f"fault {number}" if word == "fault" else number
        marks.append(Mark(x + FAULT_RING_MM + 12.0, y, said, "word", key))
    return replace(drawing, circles=tuple(circles), marks=tuple(marks))
