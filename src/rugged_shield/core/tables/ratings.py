"""What a recess, and nuts that are held by a thin sheet, bear of torque."""

from __future__ import annotations

from typing import Literal

from rugged_shield.core.result import Source

RECESS_SOURCE = Source(
    "ISO 2936:2014 and ISO 10664, test torques of hexagon and six-lobe keys", "medium"
)
RECESS_NM: dict[str, float] = {
    "2 mm": 1.9,
    "2.5 mm": 3.8,
    "3 mm": 6.6,
    "4 mm": 16.0,
    "5 mm": 30.0,
    "6 mm": 52.0,
    "8 mm": 120.0,
    "10 mm": 220.0,
    "T20": 10.5,
    "T25": 15.9,
    "T27": 22.5,
    "T30": 31.1,
    "T40": 54.1,
    "T45": 86.0,
    "T50": 132.0,
    "T55": 218.0,
}
"""By the size that is stamped on the key: past it key or recess rounds."""

THIN_NUT_SOURCE = Source("typical ratings of sheet-metal nuts, steel; own estimate", "low")
THIN_NUT_NM: dict[str, dict[str, float]] = {
    "clip_nut": {"M4": 2.5, "M5": 5.0, "M6": 8.5, "M8": 18.0},
    "cage_nut": {"M4": 2.5, "M5": 5.5, "M6": 9.0, "M8": 20.0},
    "rivet_nut": {"M4": 4.0, "M5": 7.0, "M6": 12.0, "M8": 25.0, "M10": 45.0},
}
"""By kind and size: past it a clip opens, a cage turns, a rivet nut spins in its hole."""
THIN_NUT_NAMES = {"clip_nut": "clip nut", "cage_nut": "cage nut", "rivet_nut": "rivet nut"}

NutClass = Literal["", "5", "6", "8", "10", "12", "A2-50", "A2-70", "A4-80"]
NUT_CLASS_SOURCE = Source("ISO 898-2:2012, proof loads of nuts of style 1; ISO 3506-2", "medium")
NUT_PROOF_MPA: dict[str, float] = {
    "5": 580.0,
    "6": 670.0,
    "8": 855.0,
    "10": 1040.0,
    "12": 1150.0,
    "A2-50": 500.0,
    "A2-70": 700.0,
    "A4-80": 800.0,
}
"""Stress in the screw that a nut of a class is proved to, M5 to M10."""

RATED_BY: dict[str, Source] = {
    "recess": RECESS_SOURCE,
    "nut": NUT_CLASS_SOURCE,
    **dict.fromkeys(THIN_NUT_NAMES.values(), THIN_NUT_SOURCE),
}
"""Where each rating is from, by the name of its limit."""
