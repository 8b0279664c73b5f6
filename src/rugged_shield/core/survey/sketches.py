"""A small sketch for each number: from where to where to hold the tape."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, cast

from rugged_shield.core.errors import InputError
from rugged_shield.core.mechanics.drawing import Circle, Drawing, Path, dimension
from rugged_shield.core.mechanics.frames import Vec2, from_below, profile
from rugged_shield.core.survey.bike import Bike, Mount, Part
from rugged_shield.core.survey.shapes import DrawnBox, draw_part
from rugged_shield.core.survey.thread_sketch import DEPTHS, thread_sketch

MARGIN_MM = 70.0


@dataclass(frozen=True)
class Sketch:
    """The sketch and what to do in words."""

    drawing: Drawing
    words: str


Axis = Literal["x", "y", "z"]
_EDGE = {
    "x_min": "front edge",
    "x_max": "rear edge",
    "y_min": "left edge",
    "y_max": "right edge",
    "z_min": "underside",
    "z_max": "top",
    "x": "middle",
    "y": "middle",
    "z": "face",
}
PLACE_AXES: dict[str, Axis] = {f"{bare}_mm": cast(Axis, bare[0]) for bare in _EDGE}
"""Fields that are places, and the axis of the bike that each is measured along."""


def _box(thing: Part | Mount) -> tuple[float, float, float, float, float, float]:
    if isinstance(thing, Part):
        return (
            thing.x_min_mm,
            thing.x_max_mm,
            thing.y_min_mm,
            thing.y_max_mm,
            thing.z_min_mm,
            thing.z_max_mm,
        )
    x, y, z = thing.x_mm, thing.y_mm, thing.z_mm
    return (x - 14, x + 14, y - 14, y + 14, z, z + 20)


def _framed(
    title: str,
    points: list[Vec2],
    paths: list[Path],
    circles: list[Circle],
    line: tuple[Vec2, Vec2],
    value_mm: float,
) -> Drawing:
    points = [*points, *line]
    x0, x1 = min(p[0] for p in points) - MARGIN_MM, max(p[0] for p in points) + MARGIN_MM
    y0, y1 = min(p[1] for p in points) - MARGIN_MM, max(p[1] for p in points) + MARGIN_MM
    return Drawing(
        title=title,
        x=x0,
        y=y0,
        width=x1 - x0,
        height=y1 - y0,
        paths=tuple(paths),
        circles=tuple(circles),
        marks=(),
        dimensions=(dimension(line[0], line[1], 0.0, "", value_mm),),
        scale_bar_mm=0.0,
    )


def _beside(bike: Bike, thing: Part | Mount, axis: str, value: float) -> tuple[Drawing, str]:
    """Seen from the left: x from the front axle, z from the ground."""
    x0, x1, _, _, z0, z1 = _box(thing)
    box = DrawnBox(*profile(x0, z1), *profile(x1, z0))
    paths, circles = draw_part(getattr(thing, "shape", "pivot"), box, "part", thing.key)
    ground = Path((profile(min(0.0, x0) - 40, 0), profile(x1 + 60, 0)), weight="ground")
    axle = profile(0, bike.front_wheel_radius_mm)
    if axis == "z":
        place = (x0 + x1) / 2
        line = (profile(place, 0), profile(place, value))
        near = [profile(x0 - 60, 0), profile(x1 + 60, z1)]
        words = "Straight up from the ground, the bike upright at its ride height,"
        return _framed("from the left", near, [*paths, ground], circles, line, value), words
    height = (z0 + z1) / 2
    line = (profile(0, height), profile(value, height))
    wheel = Circle(*axle, bike.front_wheel_radius_mm, "thin", "wheel", "wheel")
    hub = Circle(*axle, 18, "outline", "paper", "axle")
    drop = Path((axle, profile(0, height)), weight="centre")
    near = [profile(-bike.front_wheel_radius_mm, 0), profile(x1 + 40, z1), axle]
    return (
        _framed("from the left", near, [*paths, ground, drop], [wheel, hub, *circles], line, value),
        "Level, from below the front axle (a plumb line helps),",
    )


def _below(thing: Part | Mount, value: float) -> tuple[Drawing, str]:
    """Seen from below: y from the centre line."""
    x0, x1, y0, y1, _, _ = _box(thing)
    box = DrawnBox(*from_below(x0, y1), *from_below(x1, y0))
    paths, circles = draw_part(getattr(thing, "shape", "pivot"), box, "part", thing.key)
    axis = Path((from_below(x0 - 60, 0), from_below(x1 + 60, 0)), weight="centre")
    place = (x0 + x1) / 2
    line = (from_below(place, 0), from_below(place, value))
    near = [from_below(x0 - 60, 0), from_below(x1 + 60, 0), from_below(x0, y0), from_below(x1, y1)]
    return (
        _framed("from below", near, [*paths, axis], circles, line, value),
        "Square from the centre line (a string from front to rear tyre); minus is left,",
    )


_DEPTH_WORDS = {
    "thread_start_mm": "From the face to where the thread begins: a chamfer, a counterbore.",
    "thread_end_mm": "From the face to the end of full thread: turn a screw in to its stop.",
    "overall_height_mm": "From the face to the bottom of the hole, or to the far side of the nut.",
    "free_space_mm": "From the far side to whatever stands next behind it.",
}


def tape_sketch(bike: Bike, thing: Part | Mount, field: str) -> Sketch:
    """From where to where a number of a part or mount is measured; raises InputError for others."""
    if isinstance(thing, Mount) and field in DEPTHS:
        return Sketch(thread_sketch(thing), f"{_DEPTH_WORDS[field]} A wire or depth gauge does it.")
    bare = field.removesuffix("_mm")
    if bare not in _EDGE:
        raise InputError("field", field, "a place x, y or z, or a depth of a mount's thread")
    value = float(getattr(thing, field))
    axis = bare[0]
    drawing, words = _below(thing, value) if axis == "y" else _beside(bike, thing, axis, value)
    return Sketch(drawing, f"{words} to the {_EDGE[bare]} of the {thing.name}.")
