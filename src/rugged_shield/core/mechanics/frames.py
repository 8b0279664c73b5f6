"""Frames of reference, in one place.

Bike: x rearward from the front axle, y to the rider's right, z up from the
ground at normal laden ride height (right-handed: x × y = z).
Creeper view: looks up; front at the top, the rider's right at the left of the
screen. Profile: seen from the rider's left, front at the left, z up.
Both views are in mm with the screen's y downward.
"""

from __future__ import annotations

import math

Vec3 = tuple[float, float, float]
Vec2 = tuple[float, float]


def from_below(x_mm: float, y_mm: float) -> Vec2:
    """Bike x, y to the drawing of the underside."""
    return (-y_mm, x_mm)


def profile(x_mm: float, z_mm: float) -> Vec2:
    """Bike x, z to the side profile."""
    return (x_mm, -z_mm)


def add(a: Vec3, b: Vec3, scale: float = 1.0) -> Vec3:
    """a + scale·b."""
    return (a[0] + scale * b[0], a[1] + scale * b[1], a[2] + scale * b[2])


def dot(a: Vec3, b: Vec3) -> float:
    """Scalar product."""
    return a[0] * b[0] + a[1] * b[1] + a[2] * b[2]


def cross(a: Vec3, b: Vec3) -> Vec3:
    """Vector product, right-handed."""
    return (
        a[1] * b[2] - a[2] * b[1],
        a[2] * b[0] - a[0] * b[2],
        a[0] * b[1] - a[1] * b[0],
    )


def unit(a: Vec3) -> Vec3:
    """Unit vector along ``a`` (not the zero vector)."""
    size = math.sqrt(dot(a, a))
    return (a[0] / size, a[1] / size, a[2] / size)


def down_of(nose_up_deg: float) -> Vec3:
    """Where down is in the bike's frame when its nose is up: also a little rearward."""
    angle = math.radians(nose_up_deg)
    return (math.sin(angle), 0.0, -math.cos(angle))


def side_words(y_mm: float) -> str:
    """Left and right in the rider's words."""
    if y_mm < -1:
        return "left · clutch side"
    if y_mm > 1:
        return "right · throttle side"
    return "centre line"


def front(y_mm: float, z_mm: float) -> Vec2:
    """Bike y, z to the view from ahead: the rider's right at the left of the screen."""
    return (-y_mm, -z_mm)
