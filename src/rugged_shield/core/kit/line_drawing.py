"""A line of the kit as it lies on the bench, to scale: mm from its left end, axis at y = 0."""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Iterable
from dataclasses import replace

from rugged_shield.core.kit.hardware import KitLine
from rugged_shield.core.kit.needs import Need
from rugged_shield.core.mechanics import threads
from rugged_shield.core.mechanics.drawing import Circle, Drawing, Fill, Path, dimension
from rugged_shield.core.mechanics.screw_shape import ScrewShape, head_paths, screw_paths
from rugged_shield.core.tables.hardware import HOLES, NUTS, WASHERS
from rugged_shield.core.tables.heads import HEADS

_MARGIN_MM = 3.0
_APART_MM = 6.0


def _drawn(
    line: KitLine,
    paths: list[Path],
    circles: tuple[Circle, ...],
    span: tuple[float, float, float],
) -> Drawing:
    """The frame around what lies there; ``span``: its left and right end and half its height."""
    left, right, half = span
    return Drawing(
        title=f"{line.name} {line.size}".strip(),
        x=left - _MARGIN_MM,
        y=-half - _MARGIN_MM,
        width=right - left + 2 * _MARGIN_MM,
        height=2 * (half + _MARGIN_MM),
        paths=tuple(paths),
        circles=circles,
        marks=(),
        dimensions=(),
        scale_bar_mm=0.0,
    )


def _screw(line: KitLine) -> Drawing | None:
    size = threads.nominal_size(line.thread)
    if line.length_mm is None or not line.head or size not in HEADS[line.head].rows:
        return None
    row = HEADS[line.head].rows[size]
    shape = ScrewShape(line.thread, line.head, line.length_mm)
    half = max(row.diameter_mm / 2, shape.radius_mm)
    left = 0.0 if shape.is_countersunk else -row.height_mm
    # dashes would fall apart at the size a list has room for
    paths = [
        replace(p, weight="thin") if p.weight == "hidden" else p
        for p in (*screw_paths(shape), *head_paths(shape))
    ]
    return _drawn(line, paths, (), (left, shape.tip_mm, half))


def _seen_flat(outer: float, hole: float, thick: float) -> tuple[list[Path], tuple[Circle, ...]]:
    """A ring on its flat side, and its edge beside it."""
    edge = outer / 2 + _APART_MM
    r = outer / 2
    side = ((edge, -r), (edge + thick, -r), (edge + thick, r), (edge, r))
    rings = (
        Circle(0.0, 0.0, r, "section", "steel"),
        Circle(0.0, 0.0, hole / 2, "section", "paper"),
    )
    return [Path(side, True, "section", "steel")], rings


def _washer(line: KitLine) -> Drawing | None:
    size = threads.nominal_size(line.thread)
    standard = "ASME B18.21.1" if threads.is_inch(line.thread) else "ISO 7089"
    if "large" in line.name and not threads.is_inch(line.thread):
        standard = "ISO 7093-1"
    row = WASHERS[standard].get(size)
    if row is None:
        return None
    outer, hole = line.outer_mm or row.outer_mm, line.hole_mm or row.hole_mm
    thick = line.length_mm or row.thickness_mm
    paths, rings = _seen_flat(outer, hole, thick)
    r = outer / 2
    return _drawn(line, paths, rings, (-r, r + _APART_MM + thick, r))


_CAGED = re.compile(r"clip|cage|u-nut", re.IGNORECASE)
_LEAF_MM, _LEAF_WIDE_D, _LEAF_LONG_D, _PANEL_MM = 0.8, 2.0, 3.0, 3.0
"""A usual sheet-metal clip: its leaf, its width and length in diameters, the sheet it takes."""


def _clip_nut(line: KitLine) -> Drawing:
    """A clip nut from above and from the side: two leaves over a sheet, a collar on one.

    Drawn as is usual for its thread: low confidence until its outer size is measured.
    """
    d = threads.row_of(line.thread).d_mm
    wide, long = line.outer_mm or _LEAF_WIDE_D * d, _LEAF_LONG_D * d
    half = wide / 2
    leaf = ((-long / 2, -half), (long / 2, -half), (long / 2, half), (-long / 2, half))
    edge = long / 2 + _APART_MM
    deep = _PANEL_MM + 2 * _LEAF_MM
    outer = ((edge, 0.0), (edge + long, 0.0), (edge + long, deep), (edge, deep))
    gap = (
        (edge + _LEAF_MM, _LEAF_MM),
        (edge + long, _LEAF_MM),
        (edge + long, deep - _LEAF_MM),
        (edge + _LEAF_MM, deep - _LEAF_MM),
    )
    middle, collar = edge + long / 2, d
    nut = (
        (middle - d * 0.8, deep),
        (middle + d * 0.8, deep),
        (middle + d * 0.8, deep + collar),
        (middle - d * 0.8, deep + collar),
    )
    paths = [
        Path(leaf, True, "section", "steel"),
        Path(outer, True, "section", "steel"),
        Path(gap, True, "section", "paper"),
        Path(nut, True, "section", "steel"),
    ]
    bore = Circle(0.0, 0.0, threads.geometry_of(line.thread).d1_mm / 2, "section", "paper")
    return _drawn(line, paths, (bore,), (-long / 2, edge + long, max(half, deep + collar)))


def _nut(line: KitLine) -> Drawing | None:
    if _CAGED.search(line.name):
        return _clip_nut(line)
    standard = "ASME B18.2.2" if threads.is_inch(line.thread) else "ISO 4032"
    row = NUTS[standard].get(threads.nominal_size(line.thread))
    if row is None:
        return None
    corner = row.across_flats_mm / math.sqrt(3)
    flat = row.across_flats_mm / 2
    hexagon = tuple(
        (corner * math.cos(math.radians(60 * i)), corner * math.sin(math.radians(60 * i)))
        for i in range(6)
    )
    edge = corner + _APART_MM
    high = row.height_max_mm
    side = ((edge, -flat), (edge + high, -flat), (edge + high, flat), (edge, flat))
    paths = [Path(hexagon, True, "section", "steel"), Path(side, True, "section", "steel")]
    bore = Circle(0.0, 0.0, threads.geometry_of(line.thread).d1_mm / 2, "section", "paper")
    return _drawn(line, paths, (bore,), (-corner, edge + high, flat))


def _tube(line: KitLine) -> Drawing | None:
    """A spacer or sleeve, cut: as long as listed, about a clearance hole."""
    if line.length_mm is None or threads.nominal_size(line.thread) not in HOLES:
        return None
    hole = (line.hole_mm or HOLES[threads.nominal_size(line.thread)].medium_mm) / 2
    outer, length = line.outer_mm or 4 * hole, line.length_mm
    fill: Fill = "rubber" if line.kind == "isolator" else "steel"
    paths = [
        Path(((0, a), (length, a), (length, b), (0, b)), True, "section", fill)
        for a, b in ((hole, outer / 2), (-hole, -outer / 2))
    ]
    return _drawn(line, paths, (), (0.0, length, outer / 2))


def _strap(line: KitLine) -> Drawing | None:
    """A bracket from above: a strap as long and wide as listed, a hole near each end."""
    if line.length_mm is None or line.outer_mm is None:
        return None
    long, half = line.length_mm, line.outer_mm / 2
    outline = ((0.0, -half), (long, -half), (long, half), (0.0, half))
    holes: tuple[Circle, ...] = ()
    if line.thread and threads.nominal_size(line.thread) in HOLES:
        r = (line.hole_mm or HOLES[threads.nominal_size(line.thread)].medium_mm) / 2
        at = min(half, long / 4)
        holes = tuple(Circle(x, 0.0, r, "section", "paper") for x in (at, long - at))
    return _drawn(line, [Path(outline, True, "section", "steel")], holes, (0.0, long, half))


def line_drawing(line: KitLine) -> Drawing | None:
    """What a line is, drawn to scale; None where the list does not say what would be drawn.

    What the list leaves out of a washer, nut or spacer is drawn by the standard of its thread
    (ISO 7089, 7093-1, 4032, 273; ASME for inch threads), a spacer's outside as twice its hole:
    assumed until it is measured. A bracket is drawn where its length and width are said.
    """
    if line.kind == "bracket":
        return _strap(line)
    drawn = _KINDS.get(line.kind)
    return None if drawn is None or not line.thread else drawn(line)


_KINDS: dict[str, Callable[[KitLine], Drawing | None]] = {
    "screw": _screw,
    "washer": _washer,
    "nut": _nut,
    "spacer": _tube,
    "sleeve": _tube,
    "isolator": _tube,
}


_ROOM_MM = 12.0
"""What a dimension takes below a part."""


def with_difference(line: KitLine, others: Iterable[KitLine]) -> Drawing | None:
    """A screw with its length dimensioned where that is what tells it from others.

    Another head is seen in the drawing itself; a pitch is told in words.
    """
    drawn = line_drawing(line)
    if drawn is None or line.kind != "screw" or line.length_mm is None:
        return drawn
    if all(other.length_mm in (None, line.length_mm) for other in others):
        return drawn
    bottom = drawn.y + drawn.height - _MARGIN_MM
    ends = ((0.0, bottom), (line.length_mm, bottom))
    told = dimension(*ends, _ROOM_MM / 2, "", line.length_mm)
    return replace(drawn, height=drawn.height + _ROOM_MM, dimensions=(told,))


def need_drawing(need: Need) -> Drawing | None:
    """What a joint asks for, drawn as a line of the kit would be."""
    if need.kind == "screw" and not need.head:
        return None
    return line_drawing(
        KitLine(
            key="need",
            kind=need.kind,
            name=need.name,
            thread=need.thread,
            length_mm=need.length_mm,
            head=need.head,
            outer_mm=need.outer_mm,
        )
    )
