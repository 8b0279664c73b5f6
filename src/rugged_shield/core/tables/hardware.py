"""Nuts, washers, clearance holes, stock lengths and length tolerances."""

from dataclasses import dataclass

from rugged_shield.core.result import Source


@dataclass(frozen=True)
class NutRow:
    """Across flats, overall height and height of full thread, mm (least and most)."""

    across_flats_mm: float
    height_min_mm: float
    height_max_mm: float
    thread_min_mm: float


@dataclass(frozen=True)
class WasherRow:
    """Hole, outer diameter, thickness and its tolerance, mm."""

    hole_mm: float
    outer_mm: float
    thickness_mm: float
    tol_mm: float


@dataclass(frozen=True)
class HoleRow:
    """Clearance holes by series, mm."""

    fine_mm: float
    medium_mm: float
    coarse_mm: float


NUT_SOURCES = {
    "ISO 4032": Source("ISO 4032 hexagon nut, style 1", "high"),
    "ISO 7040": Source("ISO 7040 prevailing torque nut with non-metallic insert", "medium"),
    "ASME B18.2.2": Source("ASME B18.2.2 hex nut", "high"),
    "ISO 7042": Source("ISO 7042 prevailing torque nut, all metal", "medium"),
}

NUTS: dict[str, dict[str, NutRow]] = {
    "ISO 4032": {
        "M4": NutRow(7, 2.9, 3.2, 2.9),
        "M5": NutRow(8, 4.4, 4.7, 4.4),
        "M6": NutRow(10, 4.9, 5.2, 4.9),
        "M8": NutRow(13, 6.44, 6.8, 6.44),
        "M10": NutRow(16, 8.04, 8.4, 8.04),
        "M12": NutRow(18, 10.37, 10.8, 10.37),
    },
    "ISO 7040": {
        "M4": NutRow(7, 5.52, 6.0, 2.9),
        "M5": NutRow(8, 6.22, 6.8, 4.4),
        "M6": NutRow(10, 7.42, 8.0, 4.9),
        "M8": NutRow(13, 8.92, 9.5, 6.44),
        "M10": NutRow(16, 11.2, 11.9, 8.04),
        "M12": NutRow(18, 14.2, 14.9, 10.37),
    },
    "ASME B18.2.2": {
        "1/4": NutRow(11.11, 5.38, 5.74, 5.38),
        "5/16": NutRow(12.7, 6.55, 6.93, 6.55),
        "3/8": NutRow(14.29, 8.13, 8.56, 8.13),
    },
    "ISO 7042": {
        "M5": NutRow(8, 4.8, 5.1, 4.8),
        "M6": NutRow(10, 5.4, 6.0, 5.4),
        "M8": NutRow(13, 7.14, 8.0, 7.14),
        "M10": NutRow(16, 8.94, 10.0, 8.94),
        "M12": NutRow(18, 11.57, 12.0, 11.57),
    },
}

WASHER_SOURCE = Source("ISO 7089 normal and ISO 7093-1 large washers", "high")

WASHERS: dict[str, dict[str, WasherRow]] = {
    "ISO 7089": {
        "M4": WasherRow(4.3, 9, 0.8, 0.1),
        "M5": WasherRow(5.3, 10, 1.0, 0.1),
        "M6": WasherRow(6.4, 12, 1.6, 0.2),
        "M8": WasherRow(8.4, 16, 1.6, 0.2),
        "M10": WasherRow(10.5, 20, 2.0, 0.2),
        "M12": WasherRow(13.0, 24, 2.5, 0.2),
    },
    "ISO 7093-1": {
        "M4": WasherRow(4.3, 12, 1.0, 0.1),
        "M5": WasherRow(5.3, 15, 1.0, 0.1),
        "M6": WasherRow(6.4, 18, 1.6, 0.2),
        "M8": WasherRow(8.4, 24, 2.0, 0.2),
        "M10": WasherRow(10.5, 30, 2.5, 0.2),
        "M12": WasherRow(13.0, 37, 3.0, 0.3),
    },
    "ASME B18.21.1": {
        "1/4": WasherRow(7.14, 15.88, 1.65, 0.4),
        "5/16": WasherRow(8.74, 17.48, 1.65, 0.4),
        "3/8": WasherRow(10.31, 20.62, 1.65, 0.4),
    },
}

HOLE_SOURCE = Source("ISO 273 clearance holes", "high")
INCH_HOLE_SOURCE = Source("ASME B18.2.8 clearance holes: close, normal, loose", "medium")

HOLES: dict[str, HoleRow] = {
    "M4": HoleRow(4.3, 4.5, 4.8),
    "M5": HoleRow(5.3, 5.5, 5.8),
    "M6": HoleRow(6.4, 6.6, 7.0),
    "M8": HoleRow(8.4, 9.0, 10.0),
    "M10": HoleRow(10.5, 11.0, 12.0),
    "M12": HoleRow(13.0, 13.5, 14.5),
    "1/4": HoleRow(6.76, 7.14, 7.54),
    "5/16": HoleRow(8.33, 8.74, 9.13),
    "3/8": HoleRow(9.93, 10.31, 10.72),
}

LENGTH_SOURCE = Source("ISO 888 nominal lengths", "high")

STOCK_LENGTHS_MM: tuple[float, ...] = (
    5,
    6,
    8,
    10,
    12,
    16,
    20,
    25,
    30,
    35,
    40,
    45,
    50,
    55,
    60,
    65,
    70,
    80,
    90,
    100,
    110,
    120,
)
"""Preferred lengths; after 70 comes 80."""

INCH_MM = 25.4
STOCK_LENGTHS_INCH_MM: tuple[float, ...] = tuple(
    round(INCH_MM * eighths / 8, 3)
    for eighths in (3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 14, 16, 18, 20, 22, 24, 28, 32, 36, 40)
)
"""Preferred lengths of inch screws, 3/8 in to 5 in (ASME B18.2.1)."""

TOLERANCE_SOURCE = Source("ISO 4759-1 product grade A (js15) and B (js17)", "high")

JS15_HALF_MM: tuple[tuple[float, float], ...] = (
    (3, 0.2),
    (6, 0.24),
    (10, 0.29),
    (18, 0.35),
    (30, 0.42),
    (50, 0.5),
    (80, 0.6),
    (120, 0.7),
    (180, 0.8),
)
"""(up to and including this length, half tolerance), mm."""

JS17_HALF_MM: tuple[tuple[float, float], ...] = (
    (3, 0.5),
    (6, 0.6),
    (10, 0.75),
    (18, 0.9),
    (30, 1.05),
    (50, 1.25),
    (80, 1.5),
    (120, 1.75),
    (180, 2.0),
)
"""(up to and including this length, half tolerance), mm."""

INCH_LENGTH_SOURCE = Source("ASME B18.2.1-2012, length tolerances, 1/4 to 3/8", "medium")

INCH_LENGTH_LESS_MM: tuple[tuple[float, float], ...] = (
    (1.0 * INCH_MM, 0.03 * INCH_MM),
    (2.5 * INCH_MM, 0.04 * INCH_MM),
    (4.0 * INCH_MM, 0.06 * INCH_MM),
    (6.0 * INCH_MM, 0.10 * INCH_MM),
    (10.0 * INCH_MM, 0.18 * INCH_MM),
)
"""(up to and including this length, by how much it may be shorter), mm; it is never longer."""

PREVAILING_SOURCE = Source("ISO 2320, nuts of class 5, 6 and 8, first assembly", "high")

PREVAILING_MAX_NM: dict[str, float] = {
    "M4": 0.9,
    "M5": 1.6,
    "M6": 3.0,
    "M8": 6.0,
    "M10": 10.5,
    "M12": 15.5,
}

LOCKING_NUTS = ("ISO 7040", "ISO 7042")
"""Prevailing-torque nuts: with a nylon insert, and all of metal."""
