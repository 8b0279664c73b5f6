"""Where the tape goes for the first sizes of a bike, on a quiet outline of one from its left."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

from rugged_shield.core.mechanics.drawing import Circle, Drawing, Path, dimension
from rugged_shield.core.mechanics.frames import Vec2, profile
from rugged_shield.core.survey.bike import Bike

FirstSize = Literal["wheelbase", "clearance"]
_FRAME: tuple[tuple[tuple[float, float], ...], ...] = (
    ((0.0, 0.0), (0.2, 0.43), (0.23, 0.52), (0.29, 0.54)),
    ((0.2, 0.4), (0.3, 0.47), (0.42, 0.44), (0.47, 0.37), (0.23, 0.34), (0.2, 0.4)),
    ((0.46, 0.4), (0.78, 0.45), (0.92, 0.46), (0.9, 0.42), (0.56, 0.35), (0.47, 0.37)),
    ((0.19, 0.36), (0.27, 0.02), (0.32, -0.03), (0.62, -0.03), (0.66, 0.06), (0.58, 0.35)),
    ((1.0, 0.0), (0.66, 0.06)),
    ((0.6, 0.25), (0.86, 0.43)),
)
"""Fork and bar, tank, seat, cradle, swing arm, rear frame: rearward and above the axles, in shares
of the wheelbase."""
_ENGINE = ((0.3, 0.0), (0.34, -0.02), (0.58, -0.02), (0.62, 0.03), (0.58, 0.12), (0.47, 0.14))
_CYLINDER = ((0.44, 0.3), (0.32, 0.3), (0.33, 0.1))
_MARGIN_MM = 60.0


def _outline(bike: Bike) -> tuple[list[Path], list[Circle]]:
    """Wheels, frame and engine as a quiet outline: where things are, not what they measure."""
    long, front, rear = bike.wheelbase_mm, bike.front_wheel_radius_mm, bike.rear_wheel_radius_mm

    def at(x: float, z: float) -> Vec2:
        return profile(x * long, front + (rear - front) * x + z * long)

    paths = [Path(tuple(at(*p) for p in line), False, "thin") for line in _FRAME]
    engine = tuple(at(*p) for p in (*_ENGINE, *_CYLINDER))
    paths.append(Path(engine, True, "thin", "part"))
    wheels = ((0.0, front), (long, rear))
    circles = [Circle(*profile(x, r), r, "outline", "wheel") for x, r in wheels]
    circles += [Circle(*profile(x, r), 12.0, "outline", "paper") for x, r in wheels]
    return paths, circles


def first_sketch(bike: Bike, size: FirstSize, value_mm: float) -> Drawing:
    """The bike from its left with the one length that is asked for, mm."""
    paths, circles = _outline(bike)
    long = bike.wheelbase_mm
    x0, x1 = -bike.front_wheel_radius_mm, long + bike.rear_wheel_radius_mm
    paths.append(Path((profile(x0 - 40, 0.0), profile(x1 + 40, 0.0)), False, "ground"))
    front, rear = profile(0.0, bike.front_wheel_radius_mm), profile(long, bike.rear_wheel_radius_mm)
    low = profile(0.45 * long, value_mm)
    start, end = (front, rear) if size == "wheelbase" else ((low[0], 0.0), low)
    # Without a number: it is the rider's own that is asked for.
    line = replace(dimension(start, end, 0.0, size, value_mm), metric="", us="")
    top = -(bike.front_wheel_radius_mm + 0.6 * long)
    return Drawing(
        title=f"where the {size} is measured",
        x=x0 - _MARGIN_MM,
        y=top,
        width=x1 - x0 + 2 * _MARGIN_MM,
        height=-top + _MARGIN_MM,
        paths=tuple(paths),
        circles=tuple(circles),
        dimensions=(line,),
    )
