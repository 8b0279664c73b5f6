"""A motion past a plate as a strip of its places, seen along the axis that it turns about; mm."""

from __future__ import annotations

import math

from rugged_shield.core.mechanics.drawing import Circle, Drawing, Fill, Path
from rugged_shield.core.mechanics.frames import Vec2, Vec3, from_below, front, profile

_MARGIN_MM = 45.0


def _flat(axis: Vec3, place: Vec3) -> Vec2:
    """A place seen along the axis."""
    if axis[1]:
        return profile(place[0], place[2])
    if axis[0]:
        return front(place[1], place[2])
    return from_below(place[0], place[1])


def _rod(start: Vec2, end: Vec2, half: float) -> tuple[Vec2, ...]:
    """The outline of a rod with flat ends; its round ends are circles."""
    size = math.dist(start, end) or 1.0
    across = (-(end[1] - start[1]) / size * half, (end[0] - start[0]) / size * half)
    return (
        (start[0] + across[0], start[1] + across[1]),
        (end[0] + across[0], end[1] + across[1]),
        (end[0] - across[0], end[1] - across[1]),
        (start[0] - across[0], start[1] - across[1]),
    )


def film_strip(
    title: str,
    axis: Vec3,
    panels: tuple[tuple[Vec3, ...], ...],
    places: tuple[tuple[Vec3, Vec3], ...],
    nearest: int,
    half_mm: float,
) -> Drawing:
    """``places``: pivot and tip over the motion; the one at its least gap is drawn solid."""
    paths = [Path(tuple(_flat(axis, c) for c in ring), True, "section", "plate") for ring in panels]
    circles: list[Circle] = []
    for i, (pivot, tip) in enumerate(places):
        a, b = _flat(axis, pivot), _flat(axis, tip)
        here = i == nearest
        fill: Fill = "steel" if here else "none"
        paths.append(Path(_rod(a, b, half_mm), True, "section" if here else "hidden", fill))
        circles.append(Circle(*b, half_mm, "section" if here else "hidden", fill))
    pivot_at = _flat(axis, places[0][0])
    circles.append(Circle(*pivot_at, half_mm / 2, "section", "paper"))
    points = [p for path in paths for p in path.points]
    x0, x1 = min(p[0] for p in points), max(p[0] for p in points)
    y0, y1 = min(p[1] for p in points), max(p[1] for p in points)
    return Drawing(
        title=title,
        x=x0 - _MARGIN_MM,
        y=y0 - _MARGIN_MM,
        width=x1 - x0 + 2 * _MARGIN_MM,
        height=y1 - y0 + 2 * _MARGIN_MM,
        paths=tuple(paths),
        circles=tuple(circles),
        scale_bar_mm=100.0,
    )
