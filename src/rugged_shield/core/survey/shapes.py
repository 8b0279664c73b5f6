"""Parts drawn as the things they are: outlines inside a view's box, in mm."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

from rugged_shield.core.mechanics.drawing import Circle, Fill, Path, arc, rounded
from rugged_shield.core.mechanics.frames import Vec2, from_below
from rugged_shield.core.survey.bike import Part


@dataclass(frozen=True)
class DrawnBox:
    """A part's rectangle in a view, mm; x0 < x1, y0 < y1."""

    x0: float
    y0: float
    x1: float
    y1: float

    @property
    def width(self) -> float:
        """Across the screen."""
        return self.x1 - self.x0

    @property
    def height(self) -> float:
        """Down the screen."""
        return self.y1 - self.y0

    @property
    def cx(self) -> float:
        """Middle, across."""
        return (self.x0 + self.x1) / 2

    @property
    def cy(self) -> float:
        """Middle, down."""
        return (self.y0 + self.y1) / 2

    @property
    def small(self) -> float:
        """The shorter side."""
        return min(self.width, self.height)

    @property
    def is_wide(self) -> bool:
        """Whether the long side lies across."""
        return self.width >= self.height

    def at(self, along: float, across: float) -> Vec2:
        """A place by shares along the long and across the short side, 0–1 each."""
        if self.is_wide:
            return (self.x0 + along * self.width, self.y0 + across * self.height)
        return (self.x0 + across * self.width, self.y0 + along * self.height)


def box_below(part: Part) -> DrawnBox:
    """A part's rectangle seen from below, mm."""
    x0, y0 = from_below(part.x_min_mm, part.y_max_mm)
    x1, y1 = from_below(part.x_max_mm, part.y_min_mm)
    return DrawnBox(x0, y0, x1, y1)


Shape = tuple[list[Path], list[Circle]]


def _line(box: DrawnBox, along: float, a: float = 0.0, b: float = 1.0) -> Path:
    """A thin line across the box at a share of its long side."""
    return Path((box.at(along, a), box.at(along, b)), weight="thin")


def _body(box: DrawnBox, fill: Fill, ref: str, radius: float = 0.18) -> Path:
    points = rounded(box.x0, box.y0, box.x1, box.y1, radius * box.small)
    return Path(points, True, "outline", fill, ref)


def _case(box: DrawnBox, fill: Fill, ref: str) -> Shape:
    inset = 0.1 * box.small
    inner = rounded(box.x0 + inset, box.y0 + inset, box.x1 - inset, box.y1 - inset, inset)
    bolts = [
        Circle(x, y, 0.035 * box.small, "thin", "none", ref)
        for x in (box.x0 + inset, box.x1 - inset)
        for y in (box.y0 + inset, box.y1 - inset)
    ]
    return [_body(box, fill, ref), Path(inner, True, "thin")], bolts


def _sump(box: DrawnBox, fill: Fill, ref: str) -> Shape:
    paths, bolts = _case(box, fill, ref)
    ribs = [_line(box, 0.15 + 0.14 * i, 0.14, 0.86) for i in range(6)]
    return paths + ribs, bolts


def _filter(box: DrawnBox, fill: Fill, ref: str) -> Shape:
    if abs(box.width - box.height) < 0.25 * box.small:
        r = box.small / 2
        flutes = [
            Path(
                (
                    (box.cx + 0.78 * r * math.cos(a), box.cy + 0.78 * r * math.sin(a)),
                    (box.cx + r * math.cos(a), box.cy + r * math.sin(a)),
                )
            )
            for a in (i * math.pi / 8 for i in range(16))
        ]
        rings = [Circle(box.cx, box.cy, r, "outline", fill, ref)]
        rings += [Circle(box.cx, box.cy, k * r, "thin") for k in (0.78, 0.2)]
        return flutes, rings
    return [_body(box, fill, ref), *(_line(box, 0.12 + 0.095 * i) for i in range(9))], []


def _drain(box: DrawnBox, fill: Fill, ref: str) -> Shape:
    r = box.small / 2
    hexagon = tuple(
        (box.cx + 0.72 * r * math.cos(a), box.cy + 0.72 * r * math.sin(a))
        for a in (math.pi / 6 + i * math.pi / 3 for i in range(6))
    )
    return [Path(hexagon, True, "thin")], [Circle(box.cx, box.cy, r, "outline", fill, ref)]


def _pipe(box: DrawnBox, fill: Fill, ref: str) -> Shape:
    body = _body(box, fill, ref, 0.5)
    centre = Path((box.at(-0.02, 0.5), box.at(1.02, 0.5)), weight="centre")
    clamps = [_line(box, s) for s in (0.16, 0.2, 0.8, 0.84)]
    return [body, centre, *clamps], []


def _catalyst(box: DrawnBox, fill: Fill, ref: str) -> Shape:
    outline = tuple(
        box.at(a, c)
        for a, c in (
            (0, 0.3),
            (0.16, 0),
            (0.84, 0),
            (1, 0.3),
            (1, 0.7),
            (0.84, 1),
            (0.16, 1),
            (0, 0.7),
        )
    )
    return [Path(outline, True, "outline", fill, ref), _line(box, 0.16), _line(box, 0.84)], []


def _pivot(box: DrawnBox, fill: Fill, ref: str) -> Shape:
    if box.width > 2 * box.height or box.height > 2 * box.width:
        return [_body(box, fill, ref, 0.3), _line(box, 0.1), _line(box, 0.9)], []
    r = box.small / 2
    return [], [
        Circle(box.cx, box.cy, r, "outline", fill, ref),
        Circle(box.cx, box.cy, 0.5 * r, "thin"),
        Circle(box.cx, box.cy, 0.15 * r, "thin"),
    ]


def _linkage(box: DrawnBox, fill: Fill, ref: str) -> Shape:
    waist = tuple(
        box.at(a, c)
        for a, c in (
            (0, 0.15),
            (0.1, 0),
            (0.22, 0),
            (0.4, 0.28),
            (0.6, 0.28),
            (0.78, 0),
            (0.9, 0),
            (1, 0.15),
            (1, 0.85),
            (0.9, 1),
            (0.78, 1),
            (0.6, 0.72),
            (0.4, 0.72),
            (0.22, 1),
            (0.1, 1),
            (0, 0.85),
        )
    )
    eyes = [Circle(*box.at(s, 0.5), 0.16 * box.small, "thin") for s in (0.14, 0.86)]
    return [Path(waist, True, "outline", fill, ref)], eyes


def _hose(box: DrawnBox, fill: Fill, ref: str) -> Shape:
    ribs = [_line(box, 0.05 + 0.09 * i, 0.1, 0.9) for i in range(11)]
    return [_body(box, fill, ref, 0.5), *ribs], []


def _pump(box: DrawnBox, fill: Fill, ref: str) -> Shape:
    r = 0.36 * box.small
    return [_body(box, fill, ref, 0.4)], [
        Circle(box.cx, box.cy, r, "thin"),
        Circle(box.cx, box.cy, 0.4 * r, "thin"),
    ]


def _rail(box: DrawnBox, fill: Fill, ref: str) -> Shape:
    centre = Path((box.at(0, 0.5), box.at(1, 0.5)), weight="centre")
    return [_body(box, fill, ref, 0.5), centre], []


def _stand(box: DrawnBox, fill: Fill, ref: str) -> Shape:
    leg = tuple(
        box.at(a, c) for a, c in ((0, 0.2), (0.86, 0.36), (0.86, 0), (1, 0), (1, 1), (0, 0.8))
    )
    return [Path(leg, True, "outline", fill, ref)], [
        Circle(*box.at(0.06, 0.5), 0.16 * box.small, "thin")
    ]


def _peg(box: DrawnBox, fill: Fill, ref: str) -> Shape:
    return [_body(box, fill, ref, 0.15), *(_line(box, 0.1 + 0.1 * i) for i in range(9))], []


_DRAWERS: dict[str, Callable[[DrawnBox, Fill, str], Shape]] = {
    "case": _case,
    "sump": _sump,
    "filter": _filter,
    "drain": _drain,
    "pipe": _pipe,
    "catalyst": _catalyst,
    "pivot": _pivot,
    "linkage": _linkage,
    "hose": _hose,
    "pump": _pump,
    "rail": _rail,
    "stand": _stand,
    "peg": _peg,
}


def draw_part(shape: str, box: DrawnBox, fill: Fill, ref: str) -> Shape:
    """Outline and inner lines of a part in a view."""
    return _DRAWERS[shape](box, fill, ref)


def stadium(cx: float, y0: float, y1: float, half: float) -> tuple[Vec2, ...]:
    """A wheel seen from below: straight sides, round ends (mm)."""
    return tuple(arc(cx, y0 + half, half, 180, 360, 32) + arc(cx, y1 - half, half, 0, 180, 32))
