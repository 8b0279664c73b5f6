"""A struck point drawn: its force–deflection curve, and the loads on the mounts as arrows."""

from __future__ import annotations

import math

from rugged_shield.core.amounts import amount, entered
from rugged_shield.core.mechanics.drawing import Circle, Drawing, Mark, Path
from rugged_shield.core.mechanics.frames import Vec2, Vec3
from rugged_shield.core.survey.geometry import fold
from rugged_shield.core.weighup.strike_field import StrikeMapInput
from rugged_shield.core.weighup.strike_point import StrikePointResult

_WIDE, _HIGH = 300.0, 180.0
_SLANT = (0.42, 0.26)
"""Oblique view from ahead: how far rearward goes to the right and up, per mm."""
_LONGEST_MM = 170.0


def curve_drawing(result: StrikePointResult, energy_j: float) -> Drawing:
    """Force over deflection: the work up to the energy is shaded, what is behind is a wall.

    Both axes are scaled to the frame; the numbers stand at their ends.
    """
    deepest = max(result.curve[-1][0], result.standoff_mm or 0.0)
    shown = min(deepest, 2.2 * result.deflection_mm)
    way = [p for p in result.curve if p[0] <= shown] or list(result.curve)
    hardest = max(p[1] for p in way)

    def at(deflection: float, force: float) -> Vec2:
        return (_WIDE * deflection / shown, -_HIGH * force / hardest)

    till = [p for p in way if p[0] < result.deflection_mm]
    end = (result.deflection_mm, result.peak_force_n)
    under = (*(at(*p) for p in till), at(*end), at(result.deflection_mm, 0.0), at(0.0, 0.0))
    paths = [
        Path(under, True, "none", "band 5", "work"),
        Path(tuple(at(*p) for p in way), False, "section", "none", "curve"),
        Path(((0.0, -_HIGH - 10), (0.0, 0.0), (_WIDE + 10, 0.0)), weight="outline"),
        Path((at(*end), at(result.deflection_mm, 0.0)), weight="centre"),
    ]
    marks = [
        Mark(at(*end)[0], at(*end)[1] - 14, entered(energy_j, "J"), "word", "energy"),
        Mark(
            at(result.deflection_mm, 0)[0],
            16,
            amount(result.deflection_mm, "mm", 1),
            "word",
            "deep",
        ),
        Mark(
            _WIDE * 0.3,  # words stand on their middle: at the axis the first letters would go
            -_HIGH - 18,
            f"force, up to {amount(hardest / 1000, 'kN', 1)}",
            "word",
            "force",
        ),
    ]
    if result.standoff_mm is not None and result.standoff_mm <= shown:
        x = at(result.standoff_mm, 0.0)[0]
        paths.append(Path(((x, 0.0), (x, -_HIGH)), weight="hidden", ref="behind"))
        marks.append(Mark(x, 34, f"room {amount(result.standoff_mm, 'mm', 1)}", "word", "behind"))
    return Drawing(
        title="Force over deflection at the struck place",
        x=-30.0,
        y=-_HIGH - 40,
        width=_WIDE + 80,
        height=_HIGH + 90,
        paths=tuple(paths),
        circles=(),
        marks=tuple(marks),
    )


def _oblique(place: Vec3, origin_x: float) -> Vec2:
    """A place seen from ahead and a little above: rearward goes right and up."""
    back = place[0] - origin_x
    return (-place[1] + _SLANT[0] * back, -place[2] - _SLANT[1] * back)


def _arrow(start: Vec2, end: Vec2, ref: str) -> list[Path]:
    length = math.dist(start, end)
    if length < 2.0:
        return []
    ux, uy = (end[0] - start[0]) / length, (end[1] - start[1]) / length
    head = min(14.0, length / 2)
    base = (end[0] - ux * head, end[1] - uy * head)
    side = (-uy * head / 2.6, ux * head / 2.6)
    tip = (end, (base[0] + side[0], base[1] + side[1]), (base[0] - side[0], base[1] - side[1]))
    return [Path((start, base), weight="section", ref=ref), Path(tip, True, "none", "screw", ref)]


def loads_drawing(asked: StrikeMapInput, result: StrikePointResult) -> Drawing:
    """The plate seen obliquely, the blow, and the force that each mount puts on the bike."""
    folded = fold(asked.plate)
    first = min(c[0] for panel in folded.panels for c in panel.corners())
    paths: list[Path] = []
    for panel in folded.panels:
        if panel.piece == "":
            ring = tuple(_oblique(c, first) for c in panel.corners())
            paths.append(Path(ring, True, "outline", "plate", panel.name))
    largest = max((math.hypot(*m.force_n) for m in result.loads), default=1.0)
    scale = _LONGEST_MM / max(largest, 1.0)
    marks, circles = [], []
    for load in result.loads:
        fx, fy, fz = load.force_n
        x, y, z = load.at_mm
        start = _oblique(load.at_mm, first)
        end = _oblique((x + fx * scale, y + fy * scale, z + fz * scale), first)
        paths += _arrow(start, end, load.name)
        marks.append(Mark(*start, load.name.removeprefix("joint "), "mount", load.name))
    struck = _oblique(result.place_mm, first)
    below = (struck[0], struck[1] + 70.0)
    paths += _arrow(below, struck, "the blow")
    circles.append(
        Circle(
            below[0],
            below[1] + asked.contact_radius_mm,
            asked.contact_radius_mm,
            "outline",
            "wheel",
            "stone",
        )
    )
    points = [p for path in paths for p in path.points]
    low = (min(p[0] for p in points) - 40, min(p[1] for p in points) - 40)
    high = (max(p[0] for p in points) + 40, max(p[1] for p in points) + 70)
    return Drawing(
        title=f"Forces on the mounts of the {asked.plate.name}",
        x=low[0],
        y=low[1],
        width=high[0] - low[0],
        height=high[1] - low[1],
        paths=tuple(paths),
        circles=tuple(circles),
        marks=tuple(marks),
    )
