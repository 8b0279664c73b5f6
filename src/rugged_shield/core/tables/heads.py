"""Screw heads by standard: height, diameters, drive and thread length.

A field that the standard does not give is derived, and says so in the family's
``notes``; ``confidence`` grades how sure each printed column is.
"""

import math
from dataclasses import dataclass

from rugged_shield.core.result import Source


@dataclass(frozen=True)
class HeadRow:
    """One size of a head. Lengths in mm; ``thread_length_b_mm`` 0 means threaded to the head."""

    height_mm: float
    diameter_mm: float
    bearing_diameter_mm: float
    drive_size: str
    thread_length_b_mm: float = 0.0
    fully_threaded_up_to_mm: float = 0.0


@dataclass(frozen=True, kw_only=True)
class HeadFamily:
    """A head standard with its rows by nominal thread size."""

    name: str
    form: str
    drive: str
    loadability: float
    source: Source
    notes: tuple[str, ...]
    rows: dict[str, HeadRow]


HEADS: dict[str, HeadFamily] = {
    "ISO 4762": HeadFamily(
        name="socket cap",
        form="cylinder",
        drive="hex key",
        loadability=1.0,
        source=Source("ISO 4762", "medium"),
        notes=(),
        rows={
            "M4": HeadRow(4, 7, 6.53, "3 mm", 20, 25),
            "M5": HeadRow(5, 8.5, 8.03, "4 mm", 22, 25),
            "M6": HeadRow(6, 10, 9.38, "5 mm", 24, 30),
            "M8": HeadRow(8, 13, 12.33, "6 mm", 28, 35),
            "M10": HeadRow(10, 16, 15.33, "8 mm", 32, 40),
            "M12": HeadRow(12, 18, 17.23, "10 mm", 36, 50),
        },
    ),
    "ISO 10642": HeadFamily(
        name="countersunk socket",
        form="countersunk",
        drive="hex key",
        loadability=0.8,
        source=Source("ISO 10642", "medium"),
        notes=(
            "length up to which the screw is fully threaded: taken as for ISO 4762",
            "the nominal length includes the head",
            "reduced loadability: about 80 % of the full minimum tensile load (ISO 898-1)",
        ),
        rows={
            "M4": HeadRow(2.48, 7.53, 7.53, "2.5 mm", 20, 25),
            "M5": HeadRow(3.1, 9.43, 9.43, "3 mm", 22, 25),
            "M6": HeadRow(3.72, 11.34, 11.34, "4 mm", 24, 30),
            "M8": HeadRow(4.96, 15.24, 15.24, "5 mm", 28, 35),
            "M10": HeadRow(6.2, 19.22, 19.22, "6 mm", 32, 40),
            "M12": HeadRow(7.44, 23.12, 23.12, "8 mm", 36, 50),
        },
    ),
    "DIN 7991": HeadFamily(
        name="countersunk socket, old standard",
        form="countersunk",
        drive="hex key",
        loadability=0.8,
        source=Source("DIN 7991", "high"),
        notes=(
            "longer than its thread: 2 d + 6 mm of thread up to 125 mm long (medium confidence)",
            "the nominal length includes the head",
            "reduced loadability: about 80 % of the full minimum tensile load (ISO 898-1)",
        ),
        rows={
            "M4": HeadRow(2.3, 8, 8, "2.5 mm", 14),
            "M5": HeadRow(2.8, 10, 10, "3 mm", 16),
            "M6": HeadRow(3.3, 12, 12, "4 mm", 18),
            "M8": HeadRow(4.4, 16, 16, "5 mm", 22),
            "M10": HeadRow(5.5, 20, 20, "6 mm", 26),
            "M12": HeadRow(6.5, 24, 24, "8 mm", 30),
        },
    ),
    "ISO 7380-1": HeadFamily(
        name="button",
        form="button",
        drive="hex key",
        loadability=0.8,
        source=Source("ISO 7380-1", "low"),
        notes=(
            "longer than its thread: thread length as for ISO 4762, which is in doubt: measure it",
            "bearing diameter is not printed: taken as 0.9 of the head or flange diameter",
            "reduced loadability: about 80 % of the full minimum tensile load (ISO 898-1)",
        ),
        rows={
            "M4": HeadRow(2.2, 7.6, 6.84, "2.5 mm", 20, 25),
            "M5": HeadRow(2.75, 9.5, 8.55, "3 mm", 22, 25),
            "M6": HeadRow(3.3, 10.5, 9.45, "4 mm", 24, 30),
            "M8": HeadRow(4.4, 14, 12.6, "5 mm", 28, 35),
            "M10": HeadRow(5.5, 17.5, 15.75, "6 mm", 32, 40),
            "M12": HeadRow(6.6, 21, 18.9, "8 mm", 36, 50),
        },
    ),
    "ISO 7380-2": HeadFamily(
        name="flanged button",
        form="flanged button",
        drive="hex key",
        loadability=0.8,
        source=Source("ISO 7380-2", "low"),
        notes=(
            "longer than its thread: thread length as for ISO 4762, which is in doubt: measure it",
            "bearing diameter is not printed: taken as 0.9 of the head or flange diameter",
            "reduced loadability: about 80 % of the full minimum tensile load (ISO 898-1)",
        ),
        rows={
            "M4": HeadRow(2.2, 9.4, 8.46, "2.5 mm", 20, 25),
            "M5": HeadRow(2.75, 11.8, 10.62, "3 mm", 22, 25),
            "M6": HeadRow(3.3, 13.6, 12.24, "4 mm", 24, 30),
            "M8": HeadRow(4.4, 17.8, 16.02, "5 mm", 28, 35),
            "M10": HeadRow(5.5, 21.9, 19.71, "6 mm", 32, 40),
            "M12": HeadRow(6.6, 26.0, 23.4, "8 mm", 36, 50),
        },
    ),
    "ISO 4017": HeadFamily(
        name="hexagon, full thread",
        form="hexagon",
        drive="socket",
        loadability=1.0,
        source=Source("ISO 4017", "medium"),
        notes=(),
        rows={
            "M4": HeadRow(2.925, 8.08, 5.88, "7 mm"),
            "M5": HeadRow(3.65, 9.24, 6.88, "8 mm"),
            "M6": HeadRow(4.15, 11.55, 8.88, "10 mm"),
            "M8": HeadRow(5.45, 15.01, 11.63, "13 mm"),
            "M10": HeadRow(6.58, 18.48, 14.63, "16 mm"),
            "M12": HeadRow(7.68, 20.79, 16.63, "18 mm"),
        },
    ),
    "ISO 4014": HeadFamily(
        name="hexagon with shank",
        form="hexagon",
        drive="socket",
        loadability=1.0,
        source=Source("ISO 4014", "medium"),
        notes=(),
        rows={
            "M4": HeadRow(2.925, 8.08, 5.88, "7 mm", 14, 0),
            "M5": HeadRow(3.65, 9.24, 6.88, "8 mm", 16, 0),
            "M6": HeadRow(4.15, 11.55, 8.88, "10 mm", 18, 0),
            "M8": HeadRow(5.45, 15.01, 11.63, "13 mm", 22, 0),
            "M10": HeadRow(6.58, 18.48, 14.63, "16 mm", 26, 0),
            "M12": HeadRow(7.68, 20.79, 16.63, "18 mm", 30, 0),
        },
    ),
    "EN 1665": HeadFamily(
        name="flanged hexagon, heavy",
        form="flanged hexagon",
        drive="socket",
        loadability=1.0,
        source=Source("EN 1665", "medium"),
        notes=(
            "longer than its thread: 2 d + 6 mm of thread up to 125 mm long (medium confidence)",
        ),
        rows={
            "M5": HeadRow(5.8, 11.8, 9.8, "8 mm", 16),
            "M6": HeadRow(6.6, 14.2, 12.2, "10 mm", 18),
            "M8": HeadRow(8.1, 18.0, 15.8, "13 mm", 22),
            "M10": HeadRow(10.4, 22.3, 19.6, "16 mm", 26),
            "M12": HeadRow(11.8, 26.6, 23.8, "18 mm", 30),
        },
    ),
    "EN 1662": HeadFamily(
        name="flanged hexagon, small",
        form="flanged hexagon",
        drive="socket",
        loadability=1.0,
        source=Source("EN 1662", "low"),
        notes=(
            "longer than its thread: 2 d + 6 mm of thread up to 125 mm long (medium confidence)",
        ),
        rows={
            "M5": HeadRow(5.6, 11.4, 9.4, "7 mm", 16),
            "M6": HeadRow(6.9, 13.6, 11.6, "8 mm", 18),
            "M8": HeadRow(8.5, 17.0, 14.9, "10 mm", 22),
            "M10": HeadRow(9.7, 20.8, 18.7, "13 mm", 26),
            "M12": HeadRow(12.1, 24.7, 22.5, "16 mm", 30),
        },
    ),
    "ISO 14579": HeadFamily(
        name="six-lobe cap",
        form="cylinder",
        drive="six-lobe",
        loadability=1.0,
        source=Source("ISO 14579", "high"),
        notes=("bearing diameter and thread length taken as for ISO 4762",),
        rows={
            "M4": HeadRow(4, 7, 6.53, "T20", 20, 25),
            "M5": HeadRow(5, 8.5, 8.03, "T25", 22, 25),
            "M6": HeadRow(6, 10, 9.38, "T30", 24, 30),
            "M8": HeadRow(8, 13, 12.33, "T45", 28, 35),
            "M10": HeadRow(10, 16, 15.33, "T50", 32, 40),
            "M12": HeadRow(12, 18, 17.23, "T55", 36, 50),
        },
    ),
    "ISO 14583": HeadFamily(
        name="six-lobe pan",
        form="button",
        drive="six-lobe",
        loadability=0.8,
        source=Source("ISO 14583", "low"),
        notes=(
            "bearing diameter is not printed: taken as 0.9 of the head or flange diameter",
            "reduced loadability: about 80 % of the full minimum tensile load (ISO 898-1)",
        ),
        rows={
            "M4": HeadRow(3.1, 8, 7.2, "T20"),
            "M5": HeadRow(3.7, 9.5, 8.55, "T25"),
            "M6": HeadRow(4.6, 12, 10.8, "T30"),
            "M8": HeadRow(6.0, 16, 14.4, "T45"),
            "M10": HeadRow(7.5, 20, 18.0, "T50"),
        },
    ),
    "ISO 14581": HeadFamily(
        name="six-lobe countersunk",
        form="countersunk",
        drive="six-lobe",
        loadability=0.8,
        source=Source("ISO 14581", "medium"),
        notes=(
            "the nominal length includes the head",
            "reduced loadability: about 80 % of the full minimum tensile load (ISO 898-1)",
        ),
        rows={
            "M4": HeadRow(2.7, 8.4, 8.4, "T20"),
            "M5": HeadRow(2.7, 9.3, 9.3, "T25"),
            "M6": HeadRow(3.3, 11.3, 11.3, "T30"),
            "M8": HeadRow(4.65, 15.8, 15.8, "T45"),
            "M10": HeadRow(5.0, 18.3, 18.3, "T50"),
        },
    ),
    "ASME B18.2.1": HeadFamily(
        name="inch hexagon",
        form="hexagon",
        drive="in spanner",
        loadability=1.0,
        source=Source("ASME B18.2.1 hex cap screws", "medium"),
        notes=("bearing face taken as 0.95 of the width across flats",),
        rows={
            "1/4": HeadRow(4.14, 12.83, 10.55, "7/16", 19.05, 19.05),
            "5/16": HeadRow(5.36, 14.66, 12.07, "1/2", 22.23, 22.23),
            "3/8": HeadRow(6.17, 16.51, 13.58, "9/16", 25.4, 25.4),
        },
    ),
    "ASME B18.3": HeadFamily(
        name="inch socket cap",
        form="cylinder",
        drive="in hex key",
        loadability=1.0,
        source=Source("ASME B18.3 socket head cap screws", "medium"),
        notes=("bearing face taken as 0.93 of the head's diameter",),
        rows={
            "1/4": HeadRow(6.35, 9.53, 8.86, "3/16", 25.4, 31.75),
            "5/16": HeadRow(7.94, 11.91, 11.08, "1/4", 28.58, 34.93),
            "3/8": HeadRow(9.53, 14.29, 13.29, "5/16", 31.75, 41.28),
        },
    ),
    "ASME B18.3 button": HeadFamily(
        name="inch button",
        form="button",
        drive="in hex key",
        loadability=0.8,
        source=Source("ASME B18.3 button head cap screws", "medium"),
        notes=(
            "bearing face taken as 0.9 of the head's diameter",
            "reduced loadability taken as that of ISO 7380-1",
        ),
        rows={
            "1/4": HeadRow(3.35, 11.1, 9.99, "5/32"),
            "5/16": HeadRow(4.22, 13.89, 12.5, "3/16"),
            "3/8": HeadRow(5.05, 16.66, 14.99, "7/32"),
        },
    ),
    "DIN 603": HeadFamily(
        name="carriage, square neck",
        form="button",
        drive="",
        loadability=1.0,
        source=Source("DIN 603 cup square neck (ISO 8677)", "medium"),
        notes=("bearing face taken as 0.9 of the head's diameter; the neck must find a square",),
        rows={
            "M5": HeadRow(3.3, 13.55, 12.2, "", 16),
            "M6": HeadRow(3.88, 16.55, 14.9, "", 18),
            "M8": HeadRow(4.88, 20.65, 18.6, "", 22),
            "M10": HeadRow(5.38, 24.65, 22.2, "", 26),
            "M12": HeadRow(6.95, 30.65, 27.6, "", 30),
        },
    ),
    "DIN 186": HeadFamily(
        name="T-head, square neck",
        form="hexagon",
        drive="",
        loadability=1.0,
        source=Source("DIN 186 T-head with square neck", "low"),
        notes=(
            "a hammer head bears on two wings only: counted as a ring across its narrow side",
            "the slot on its end shows how the head lies: across the slot of the rail, 90° turned",
        ),
        rows={
            "M6": HeadRow(4.5, 16.0, 8.0, "", 18),
            "M8": HeadRow(5.0, 18.0, 10.4, "", 22),
            "M10": HeadRow(6.0, 21.0, 12.6, "", 26),
            "M12": HeadRow(7.0, 26.0, 15.0, "", 30),
        },
    ),
}

_STUD_D_MM = {"M4": 4.0, "M5": 5.0, "M6": 6.0, "M8": 8.0, "M10": 10.0, "M12": 12.0}
_STUD_D_MM |= {"1/4": 6.35, "5/16": 7.94, "3/8": 9.53}
_HEXAGONS = HEADS["ISO 4017"].rows | HEADS["ASME B18.2.1"].rows
STUD = "stud"
"""What stands for a head where a stud is in the bike."""

HEADS[STUD] = HeadFamily(
    name="stud that stands in the bike",
    form="stud",
    drive="",
    loadability=1.0,
    source=Source("its nut bears as ISO 4017 and ASME B18.2.1 print for a hexagon", "medium"),
    notes=(
        "a stud has no head: its nut turns, and bears as a hexagon of its size does",
        "what stands out of the bike is measured; its tolerance is taken as a screw's",
    ),
    rows={
        size: HeadRow(0.0, d_mm, _HEXAGONS[size].bearing_diameter_mm, "")
        for size, d_mm in _STUD_D_MM.items()
    },
)

SCREW_HEADS = tuple(name for name in HEADS if name != STUD)
"""Heads that a screw of a kit can have: a stud is part of the bike."""

OTHER_HEADS = ("DIN 931", "DIN 933", "DIN 6921", "ISO 14580", "ISO 8677")
"""Heads that a stack may name though no drawing data is held for them."""

THEORETICAL_MM: dict[str, dict[str, float]] = {
    "ISO 10642": {
        "M4": 8.96,
        "M5": 11.2,
        "M6": 13.44,
        "M8": 17.92,
        "M10": 22.4,
        "M12": 26.88,
    },
}
"""Diameter to the theoretical sharp edge of a countersunk head: no real one is wider."""

_IT13_MM = ((6.0, 0.18), (10.0, 0.22), (18.0, 0.27), (30.0, 0.33), (50.0, 0.39))
_IT14_MM = ((6.0, 0.30), (10.0, 0.36), (18.0, 0.43), (30.0, 0.52), (50.0, 0.62))
"""(Up to and including this size, the tolerance of ISO 286-1), mm."""
CORNERS_OVER_FLATS = 1.13
"""Least width across corners over the least across flats (ISO 4759-1)."""
_KNURL_MM = 0.27
"""A knurled cylinder is so much wider than a smooth one (ISO 4762)."""
_CARRIAGE_MM = 1.3


def _tolerance(bands: tuple[tuple[float, float], ...], size_mm: float) -> float:
    return next(tol for up_to, tol in bands if size_mm <= up_to)


def head_limits_mm(head: str, size: str) -> tuple[tuple[float, float], ...]:
    """Least and most that a head may measure across, mm, each way that a calliper meets it.

    A hexagon across its corners or its flats; a flange from its least bearing circle; a countersunk
    head from its least to its sharp edge; others by ISO 286-1 (h13 of flats and cylinders, h14 of
    domes). Empty where the size is not held.
    """
    family = HEADS[head]
    if size not in family.rows:
        return ()
    row, form = family.rows[size], family.form
    if form == "hexagon" and family.drive:
        flats = round(row.diameter_mm * math.sqrt(3) / 2, 1)
        least = flats - _tolerance(_IT13_MM, flats)
        return (CORNERS_OVER_FLATS * least, row.diameter_mm + 0.05), (least, flats + 0.05)
    if form == "flanged hexagon":
        return ((row.bearing_diameter_mm, row.diameter_mm),)
    sharp = THEORETICAL_MM.get(head, {}).get(size)
    if sharp is not None:
        return ((row.diameter_mm, sharp),)
    if form == "cylinder":
        return (
            (row.diameter_mm - _tolerance(_IT13_MM, row.diameter_mm), row.diameter_mm + _KNURL_MM),
        )
    loose = _CARRIAGE_MM if not family.drive else _tolerance(_IT14_MM, row.diameter_mm)
    return ((row.diameter_mm - loose, row.diameter_mm),)
