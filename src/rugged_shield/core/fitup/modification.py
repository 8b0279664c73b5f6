"""A change made to a plate on the bench: what it is, why, what of the plate it made."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from rugged_shield.core.amounts import amount
from rugged_shield.core.errors import InputError
from rugged_shield.core.quantity import Range, Ranged

ChangeKind = Literal[
    "trim",
    "hole",
    "slot",
    "vent field",
    "spacer",
    "bend",
    "other side",
    "sleeve cut",
    "neighbour trimmed",
]
WORDS_ONLY: tuple[ChangeKind, ...] = ("bend", "other side", "sleeve cut", "neighbour trimmed")
"""Changes of which only the words are kept: their numbers are entered where they belong."""
MAX_CHANGES = 60
Area = Annotated[float, Range(0.0, 5e6, "mm²")]


@dataclass(frozen=True, kw_only=True)
class UncutMass(Ranged):
    """A plate's mass before anything was cut off it: claimed, weighed, and over the computed."""

    claimed_mass_kg: Annotated[float | None, Range(0.05, 40.0, "kg")] = None
    weighed_mass_kg: Annotated[float | None, Range(0.05, 40.0, "kg")] = None
    mass_ratio: Annotated[float, Range(0.001, 1000.0)] = 1.0


@dataclass(frozen=True, kw_only=True)
class Modification(Ranged):
    """One change of a plate against its maker's sheet.

    ``where`` names panels or joints; sizes mm: of a hole or slot, a spacer; ``area_mm2`` what went.
    ``made`` are the keys of trims, openings and layers (``joint/layer``) that it brought, taken
    out again with it. ``near``: what lies behind the place, for its caution. ``uncut``: what was
    known of the plate's mass before its first cut. ``done``: it was carried out.
    """

    key: str
    kind: ChangeKind
    where: str = ""
    what: str = ""
    count: Annotated[int, Range(0, 4000)] = 1
    wide_mm: Annotated[float | None, Range(0.1, 300.0, "mm")] = None
    long_mm: Annotated[float | None, Range(2.0, 600.0, "mm")] = None
    area_mm2: Area = 0.0
    why: str = ""
    near: tuple[str, ...] = ()
    made: tuple[str, ...] = ()
    uncut: UncutMass | None = None
    done: bool = False

    def __post_init__(self) -> None:
        super().__post_init__()
        if self.kind in WORDS_ONLY and not self.what.strip():
            raise InputError("what", self.what, "what is done, in words", "nothing was entered")


def change_words(change: Modification) -> str:
    """A change in one line, its sizes in both systems."""
    wide = "" if change.wide_mm is None else amount(change.wide_mm, "mm")
    area = amount(change.area_mm2 / 100.0, "cm²", 0)
    if change.kind == "trim":
        return f"trim the {change.where}: {area} off"
    if change.kind == "hole":
        return f"hole of {wide} in the {change.where}"
    if change.kind == "slot":
        return f"slot of {wide}, {amount(change.long_mm or 0.0, 'mm')} long, in the {change.where}"
    if change.kind == "vent field":
        return f"{change.count} vents of {wide} in the {change.where}, {area} open"
    if change.kind == "spacer":
        return f"spacer of {wide} at {change.where}"
    return f"{change.kind}: {change.what}"
