"""What hangs lowest, and the crest the bike can pass over."""

from __future__ import annotations

import math
from dataclasses import dataclass

from rugged_shield.core.amounts import entered
from rugged_shield.core.errors import InputError
from rugged_shield.core.result import Source
from rugged_shield.core.survey.bike import Bike
from rugged_shield.core.survey.geometry import FoldedPlate

CLEARANCE_SOURCE = Source(
    "ISO 612 ground clearance and ramp angle; both tyres on the ground", "high"
)


@dataclass(frozen=True)
class LowPoint:
    """A point near the ground: where, on what."""

    name: str
    x_mm: float
    y_mm: float
    z_mm: float


def wheel_angle_deg(radius_mm: float, away_mm: float, height_mm: float) -> float:
    """Angle of one wheel's tangent to a low point: asin(R/hypot(x, h−R)) − atan2(R−h, x).

    ``away_mm`` from the axle, level; ``height_mm`` above the ground. Raises
    InputError for a point inside the tyre.
    """
    reach = math.hypot(away_mm, height_mm - radius_mm)
    if reach <= radius_mm:
        raise InputError("x_mm", away_mm, "a place outside both tyres", "that place is in a tyre")
    return math.degrees(math.asin(radius_mm / reach) - math.atan2(radius_mm - height_mm, away_mm))


def breakover_deg(bike: Bike, x_mm: float, z_mm: float) -> float:
    """Ramp angle at a low point: asin(R/hypot(x, h−R)) − atan2(R−h, x) over both wheels.

    ``x_mm`` rearward from the front axle, strictly between the axles.
    """
    if not 0 < x_mm < bike.wheelbase_mm:
        raise InputError(
            "x_mm", x_mm, f"a place between the axles, 0 to {entered(bike.wheelbase_mm, 'mm')}"
        )
    return wheel_angle_deg(bike.front_wheel_radius_mm, x_mm, z_mm) + wheel_angle_deg(
        bike.rear_wheel_radius_mm, bike.wheelbase_mm - x_mm, z_mm
    )


def sheet_points(folded: FoldedPlate) -> tuple[LowPoint, ...]:
    """Every corner of a plate's lowest face, named by its panel."""
    return tuple(LowPoint(f"plate, {name}", *corner) for corner, name in folded.underside())


def low_points(
    bike: Bike, folded: FoldedPlate | None, heads: tuple[LowPoint, ...]
) -> list[LowPoint]:
    """Every point that can touch: sheet corners, screw heads, other low parts, vitals."""
    points = list(heads)
    if folded is not None:
        points += sheet_points(folded)
    for part in bike.parts:
        y = (part.y_min_mm + part.y_max_mm) / 2
        points += [LowPoint(part.name, x, y, part.z_min_mm) for x in (part.x_min_mm, part.x_max_mm)]
    return points


def lowest(points: list[LowPoint]) -> LowPoint:
    """The lowest of all; the foremost of equals."""
    return min(points, key=lambda p: (round(p.z_mm, 6), p.x_mm))


def governing_breakover(bike: Bike, points: list[LowPoint]) -> tuple[float, LowPoint]:
    """Least ramp angle over all points between the axles and outside the tyres, degrees."""
    found: list[tuple[float, LowPoint]] = []
    for point in points:
        if 0 < point.x_mm < bike.wheelbase_mm and not in_tyre(bike, point):
            found.append((breakover_deg(bike, point.x_mm, point.z_mm), point))
    if not found:
        raise InputError("points", "", "a low point between the axles", "nothing hangs between")
    return min(found, key=lambda pair: pair[0])


def in_tyre(bike: Bike, point: LowPoint) -> bool:
    """Whether a point lies inside a tyre, seen from the side."""
    front = math.hypot(point.x_mm, point.z_mm - bike.front_wheel_radius_mm)
    rear = math.hypot(bike.wheelbase_mm - point.x_mm, point.z_mm - bike.rear_wheel_radius_mm)
    return front <= bike.front_wheel_radius_mm or rear <= bike.rear_wheel_radius_mm
