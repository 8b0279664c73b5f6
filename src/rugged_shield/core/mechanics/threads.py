"""Thread geometry: diameters, stress area and lookups by designation."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from fractions import Fraction

from rugged_shield.core.amounts import entered
from rugged_shield.core.errors import InputError, choose
from rugged_shield.core.result import Source
from rugged_shield.core.tables.grades import GRADES, Grade
from rugged_shield.core.tables.hardware import (
    INCH_LENGTH_LESS_MM,
    INCH_LENGTH_SOURCE,
    INCH_MM,
    JS15_HALF_MM,
    JS17_HALF_MM,
    STOCK_LENGTHS_INCH_MM,
    STOCK_LENGTHS_MM,
    TOLERANCE_SOURCE,
)
from rugged_shield.core.tables.heads import HEADS, HeadRow
from rugged_shield.core.tables.threads import (
    INCH_SOURCE,
    INCH_THREADS,
    THREAD_SOURCE,
    THREADS,
    ThreadRow,
)

_EIGHTH_TOL = 0.02


@dataclass(frozen=True)
class ThreadGeometry:
    """Basic profile of a thread; lengths mm, area mm²."""

    d_mm: float
    pitch_mm: float
    d2_mm: float
    d1_mm: float
    d3_mm: float
    stress_area_mm2: float


def geometry(d_mm: float, pitch_mm: float) -> ThreadGeometry:
    """Diameters of the ISO metric profile.

    d2 = d − 0.6495 P, D1 = d − 1.0825 P, d3 = d − 1.2269 P (ISO 724);
    As = π/4 ((d2+d3)/2)² (ISO 898-1). Valid for 0 < P < d/2; raises InputError.
    """
    if not 0 < pitch_mm < d_mm / 2:
        raise InputError("pitch_mm", pitch_mm, f"a pitch between 0 and {entered(d_mm / 2, 'mm')}")
    height = math.sqrt(3) / 2 * pitch_mm
    d2 = d_mm - 0.75 * height
    d3 = d_mm - 17 / 12 * height
    d1 = d_mm - 1.25 * height
    return ThreadGeometry(d_mm, pitch_mm, d2, d1, d3, math.pi / 4 * ((d2 + d3) / 2) ** 2)


def row_of(thread: str, field: str = "thread") -> ThreadRow:
    """The table row of a designation such as ``M8`` or ``M10x1.25``."""
    choose(field, thread, THREADS, "thread")
    return THREADS[thread]


def geometry_of(thread: str, field: str = "thread") -> ThreadGeometry:
    """Geometry by designation; inch threads have the stress area of their own standard.

    As = π/4 (d − 0.9743 P)² (ASME B1.1-2003, appendix B), up to 2 % below the metric formula.
    """
    row = row_of(thread, field)
    metric = geometry(row.d_mm, row.pitch_mm)
    if not is_inch(thread):
        return metric
    area = math.pi / 4 * (row.d_mm - 0.9743 * row.pitch_mm) ** 2
    return replace(metric, stress_area_mm2=area)


def limits_source(thread: str) -> Source:
    """Where the limits of a thread are from."""
    return INCH_SOURCE if is_inch(thread) else THREAD_SOURCE


def nominal_size(thread: str) -> str:
    """What head, nut and washer tables go by (M8x1 → M8, 1/4-28 UNF → 1/4)."""
    return thread.split("-")[0] if is_inch(thread) else thread.split("x")[0]


def washer_standard(thread: str, large: bool = False) -> str:
    """The standard whose washers go with a thread: ISO 7089 or, large, 7093-1; inch: B18.21.1."""
    if is_inch(thread):
        return "ASME B18.21.1"
    return "ISO 7093-1" if large else "ISO 7089"


def is_inch(thread: str) -> bool:
    """Whether a designation is of an inch thread."""
    return thread in INCH_THREADS


def stock_lengths_mm(thread: str) -> tuple[float, ...]:
    """Preferred lengths of screws with that thread, mm."""
    return STOCK_LENGTHS_INCH_MM if is_inch(thread) else STOCK_LENGTHS_MM


def screw_size(thread: str, length_mm: float | None) -> str:
    """A screw as one asks for it: ``M8 × 30``, ``1/4-20 UNC × 1 1/4 in``."""
    if length_mm is None:
        return thread
    if not is_inch(thread):
        return f"{thread} × {length_mm:g}"
    eighths = length_mm / INCH_MM * 8
    if abs(eighths - round(eighths)) > _EIGHTH_TOL:
        return f"{thread} × {length_mm / INCH_MM:.3g} in"
    whole, part = divmod(round(eighths), 8)
    fraction = str(Fraction(part, 8)) if part else ""
    return f"{thread} × {' '.join(x for x in (str(whole) if whole else '', fraction) if x)} in"


def grade_of(grade: str, field: str = "grade") -> Grade:
    """Strengths of a property class such as ``8.8`` or ``A2-70``."""
    choose(field, grade, GRADES, "property class")
    return GRADES[grade]


def head_of(head: str, thread: str, field: str = "head") -> HeadRow:
    """Head dimensions for a standard and a thread."""
    choose(field, head, HEADS, "screw head")
    rows = HEADS[head].rows
    size = nominal_size(thread)
    if size not in rows:
        raise InputError(
            field,
            f"{head} {size}",
            f"{head} in " + ", ".join(rows),
            f"{head} is not held in size {size}",
        )
    return rows[size]


def hexagon_of(thread: str) -> str:
    """Standard of a hexagon with that thread: of a screw's head, and of what its nut bears on."""
    return "ASME B18.2.1" if is_inch(thread) else "ISO 4017"


def length_tolerance(length_mm: float, tolerance_class: str = "ISO 4759-1 A js15") -> float:
    """Half tolerance of a nominal screw length, mm (ISO 4759-1, js15 or js17)."""
    bands = JS17_HALF_MM if "17" in tolerance_class else JS15_HALF_MM
    for up_to, half in bands:
        if length_mm <= up_to:
            return half
    raise InputError("length_mm", length_mm, f"a length up to {entered(bands[-1][0], 'mm')}")


def length_limits_mm(
    thread: str, length_mm: float, tolerance_class: str = "ISO 4759-1 A js15"
) -> tuple[float, float]:
    """Least and most length of a screw of a nominal length, mm.

    Metric: both ways about it (ISO 4759-1). Inch: never longer (ASME B18.2.1-2012, length
    tolerances of hex cap screws 1/4 to 3/8). Raises InputError beyond the tables.
    """
    if not is_inch(thread):
        half = length_tolerance(length_mm, tolerance_class)
        return length_mm - half, length_mm + half
    for up_to, less in INCH_LENGTH_LESS_MM:
        if length_mm <= up_to:
            return length_mm - less, length_mm
    limit = entered(INCH_LENGTH_LESS_MM[-1][0], "mm")
    raise InputError("length_mm", length_mm, f"a length up to {limit}")


def length_source(thread: str) -> Source:
    """Where the tolerance of a screw's length is from."""
    return INCH_LENGTH_SOURCE if is_inch(thread) else TOLERANCE_SOURCE
