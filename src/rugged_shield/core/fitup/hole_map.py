"""A plate's holes from below with what is off in them magnified; mm of the bike."""

from __future__ import annotations

import math
from dataclasses import dataclass

from rugged_shield.core.mechanics.drawing import Circle, Drawing, Mark, Path, dimension
from rugged_shield.core.mechanics.frames import Vec2, from_below

MAGNIFIED = (2.0, 5.0, 10.0, 20.0)
_ROOM_MM = 34.0
"""The farthest screw of a map is drawn no farther from its hole than this."""
_LEAST_RING_MM = 5.0
_CROSS_MM = 9.0
_MARGIN_MM = 70.0


@dataclass(frozen=True, kw_only=True)
class MappedHole:
    """One hole: its place on the bike, the room in it, its screw now and after the move, mm.

    ``now_mm`` and ``then_mm`` are to the rider's right and forward; None: not seen.
    """

    number: int
    ref: str
    x_mm: float
    y_mm: float
    clearance_mm: float
    now_mm: Vec2 | None
    then_mm: Vec2 | None


def magnified(holes: tuple[MappedHole, ...]) -> float:
    """How many times larger the errors are drawn: as much as there is room for."""
    reach = max(
        [h.clearance_mm for h in holes] + [math.hypot(*h.now_mm) for h in holes if h.now_mm],
        default=1.0,
    )
    fitting = [m for m in MAGNIFIED if m * max(reach, 1e-9) <= _ROOM_MM]
    return fitting[-1] if fitting else MAGNIFIED[0]


def _screw(centre: Vec2, off: Vec2, times: float) -> Vec2:
    """Where a screw that stands off (right, forward) is drawn."""
    return centre[0] - off[0] * times, centre[1] - off[1] * times


def _cross(at: Vec2, ref: str) -> list[Path]:
    x, y = at
    return [
        Path(((x - _CROSS_MM, y - _CROSS_MM), (x + _CROSS_MM, y + _CROSS_MM)), False, "section"),
        Path(((x - _CROSS_MM, y + _CROSS_MM), (x + _CROSS_MM, y - _CROSS_MM)), False, "section"),
    ]


def _hole(hole: MappedHole, times: float) -> tuple[list[Path], list[Circle], Mark]:
    centre = from_below(hole.x_mm, hole.y_mm)
    ring = max(hole.clearance_mm * times, _LEAST_RING_MM)
    circles = [Circle(*centre, ring, "outline", "paper", hole.ref)]
    paths: list[Path] = []
    if hole.now_mm is not None:
        paths += _cross(_screw(centre, hole.now_mm, times), hole.ref)
    if hole.now_mm is not None and hole.then_mm is not None:
        start, end = _screw(centre, hole.now_mm, times), _screw(centre, hole.then_mm, times)
        circles.append(Circle(*end, _CROSS_MM / 2, "outline", "none", hole.ref))
        if math.dist(start, end) > _CROSS_MM:
            paths.append(Path((start, end), weight="thin"))
    side = 1.0 if centre[0] >= 0 else -1.0
    at = (centre[0] + side * (_ROOM_MM + 18.0), centre[1] - _ROOM_MM)
    return paths, circles, Mark(*at, str(hole.number), "mount", hole.ref)


def hole_map(
    name: str, outlines: tuple[tuple[Vec2, ...], ...], holes: tuple[MappedHole, ...]
) -> Drawing:
    """Rings are the room in each hole, crosses the screws as seen, small rings after the move.

    ``outlines`` are the plate's panels from below. A cross inside its ring starts.
    """
    times = magnified(holes)
    paths = [Path(ring, True, "thin", "plate") for ring in outlines]
    circles: list[Circle] = []
    marks: list[Mark] = []
    for hole in holes:
        own, rings, mark = _hole(hole, times)
        paths += own
        circles += rings
        marks.append(mark)
    points = [p for ring in outlines for p in ring] + [(m.x, m.y) for m in marks]
    x0, x1 = min(p[0] for p in points), max(p[0] for p in points)
    y0, y1 = min(p[1] for p in points), max(p[1] for p in points)
    one = ((x1 - times, y1 + _MARGIN_MM * 0.45), (x1, y1 + _MARGIN_MM * 0.45))
    return Drawing(
        title=f"Holes of the {name} from below, errors drawn {times:g} times as large",
        x=x0 - _MARGIN_MM,
        y=y0 - _MARGIN_MM,
        width=x1 - x0 + 2 * _MARGIN_MM,
        height=y1 - y0 + 2.2 * _MARGIN_MM,
        paths=tuple(paths),
        circles=tuple(circles),
        marks=(
            *marks,
            Mark(
                x0 - _MARGIN_MM / 2,
                y0 - _MARGIN_MM / 2,
                "right · throttle side",
                "side",
                "side right",
            ),
            Mark(
                x1 + _MARGIN_MM / 2, y0 - _MARGIN_MM / 2, "left · clutch side", "side", "side left"
            ),
            Mark(0.0, y0 - _MARGIN_MM * 0.15, "front", "word", "front"),
        ),
        dimensions=(dimension(*one, 14.0, "error of", 1.0),),
        scale_bar_mm=100.0,
    )
