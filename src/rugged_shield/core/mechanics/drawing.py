"""A drawing as data: true millimetres, line weights and fills by name.

Screens, prints and files draw the same primitives; nothing is scaled here.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

from rugged_shield.core.amounts import show
from rugged_shield.core.mechanics.frames import Vec2

Weight = Literal[
    "outline", "section", "thin", "hidden", "centre", "dimension", "fold", "ground", "none"
]
Fill = Literal[
    "none",
    "part",
    "part bare",
    "plate",
    "stock",
    "hole",
    "wheel",
    "paper",
    "aluminium",
    "steel",
    "plastic",
    "rubber",
    "cast",
    "screw",
    "air",
    "band 1",
    "band 2",
    "band 3",
    "band 4",
    "band 5",
    "band 6",
]


@dataclass(frozen=True)
class Path:
    """A polyline or closed polygon in mm."""

    points: tuple[Vec2, ...]
    closed: bool = False
    weight: Weight = "thin"
    fill: Fill = "none"
    ref: str = ""


@dataclass(frozen=True)
class Circle:
    """A circle in mm."""

    cx: float
    cy: float
    r: float
    weight: Weight = "thin"
    fill: Fill = "none"
    ref: str = ""


@dataclass(frozen=True)
class Mark:
    """A short text at a place: a mount's number, a part's letter, a word.

    An ``order`` mark carries its joint's own number in ``alt``.
    """

    x: float
    y: float
    text: str
    kind: Literal["mount", "part", "word", "side", "order"]
    ref: str = ""
    alt: str = ""


@dataclass(frozen=True, kw_only=True)
class Dimension:
    """A dimension line; ``offset`` moves it sideways off the part, mm."""

    x1: float
    y1: float
    x2: float
    y2: float
    offset: float
    label: str
    metric: str
    us: str
    verdict: str = ""


@dataclass(frozen=True, kw_only=True)
class Drawing:
    """One view: its frame in mm and what is in it, back to front."""

    title: str
    x: float
    y: float
    width: float
    height: float
    paths: tuple[Path, ...]
    circles: tuple[Circle, ...] = ()
    marks: tuple[Mark, ...] = ()
    dimensions: tuple[Dimension, ...] = ()
    scale_bar_mm: float = 0.0


STOPS = "blocked"
"""How a dimension is drawn that nothing may pass: as what is blocked."""


def dimension(
    start: Vec2, end: Vec2, offset: float, label: str, value_mm: float, verdict: str = ""
) -> Dimension:
    """A dimension line that shows ``value_mm`` in both systems."""
    return Dimension(
        x1=start[0],
        y1=start[1],
        x2=end[0],
        y2=end[1],
        offset=offset,
        label=label,
        metric=show(value_mm, "mm"),
        us=show(value_mm, "mm", "us"),
        verdict=verdict,
    )


def rectangle(x0: float, y0: float, x1: float, y1: float) -> tuple[Vec2, ...]:
    """Corners of a rectangle."""
    return ((x0, y0), (x1, y0), (x1, y1), (x0, y1))


def arc(cx: float, cy: float, r: float, start_deg: float, end_deg: float, n: int = 8) -> list[Vec2]:
    """Points on an arc, ends included."""
    return [
        (
            cx + r * math.cos(math.radians(start_deg + (end_deg - start_deg) * i / n)),
            cy + r * math.sin(math.radians(start_deg + (end_deg - start_deg) * i / n)),
        )
        for i in range(n + 1)
    ]


def rounded(x0: float, y0: float, x1: float, y1: float, r: float) -> tuple[Vec2, ...]:
    """A rectangle with round corners (radius limited to half the shorter side)."""
    r = min(r, abs(x1 - x0) / 2, abs(y1 - y0) / 2)
    return tuple(
        arc(x0 + r, y0 + r, r, 180, 270)
        + arc(x1 - r, y0 + r, r, 270, 360)
        + arc(x1 - r, y1 - r, r, 0, 90)
        + arc(x0 + r, y1 - r, r, 90, 180)
    )
