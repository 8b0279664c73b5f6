"""What a place of a joint asks of the kit: a screw, a nut, a washer, a spacer."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

LineKind = Literal[
    "screw", "washer", "nut", "clip nut", "spacer", "sleeve", "bracket", "isolator", "pad", "other"
]
"""What a line of the list is, and what a place of a joint asks for."""


@dataclass(frozen=True, kw_only=True)
class Need:
    """One part that one place of a joint asks for; mm.

    ``part`` names the place: ``screw``, ``nut``, or the key of a layer. ``length_mm`` is a screw's
    length, else how thick the layer is. ``also_mm``: other lengths that the stack accepts.
    """

    joint: int
    joint_key: str
    part: str
    kind: LineKind
    name: str
    thread: str
    length_mm: float | None = None
    head: str = ""
    grade: str = ""
    outer_mm: float | None = None
    also_mm: tuple[float, ...] = ()
