"""A line of the kit as it lies on the bench, to scale: mm from its left end, axis at y = 0."""

from __future__ import annotations

import math

from rugged_shield.core.kit.hardware import KitLine
from rugged_shield.core.mechanics import threads
from rugged_shield.core.mechanics.drawing import Circle, Drawing, Path
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
    paths = [*screw_paths(shape), *head_paths(shape)]
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
    paths, rings = _seen_flat(row.outer_mm, row.hole_mm, row.thickness_mm)
    r = row.outer_mm / 2
    return _drawn(line, paths, rings, (-r, r + _APART_MM + row.thickness_mm, r))


def _nut(line: KitLine) -> Drawing | None:
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
    hole = HOLES[threads.nominal_size(line.thread)].medium_mm / 2
    outer, length = 2 * hole, line.length_mm
    paths = [
        Path(((0, a), (length, a), (length, b), (0, b)), True, "section", "steel")
        for a, b in ((hole, outer), (-hole, -outer))
    ]
    return _drawn(line, paths, (), (0.0, length, outer))


def line_drawing(line: KitLine) -> Drawing | None:
    """What a line is, drawn to scale; None where the list does not say what would be drawn.

    A washer, nut or spacer is drawn by the standard of its thread (ISO 7089, 7093-1, 4032, 273;
    ASME for inch threads), a spacer's outside as twice its hole: assumed until it is measured.
    """
    if not line.thread:
        return None
    kinds = {"screw": _screw, "washer": _washer, "nut": _nut, "spacer": _tube, "sleeve": _tube}
    drawn = kinds.get(line.kind)
    return None if drawn is None else drawn(line)
