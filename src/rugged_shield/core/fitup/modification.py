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
WORDS_ONLY: tuple[ChangeKind, ...] = ("neighbour trimmed",)
"""Changes of which only the words are kept: what they cut is not the plate."""
UNDONE_BY_HAND: tuple[ChangeKind, ...] = ("spacer", "other side")
"""Changes that can be taken back when they are carried out: nothing was cut or bent."""
_TOLD: tuple[ChangeKind, ...] = (*WORDS_ONLY, "bend", "other side", "sleeve cut")
"""Changes that may be told in words; those of earlier records have nothing else."""
MAX_CHANGES = 60
Area = Annotated[float, Range(0.0, 5e6, "mm²")]


@dataclass(frozen=True, kw_only=True)
class UncutMass(Ranged):
    """A plate's mass before anything was cut off it: claimed, weighed, and over the computed."""

    claimed_mass_kg: Annotated[float | None, Range(0.05, 40.0, "kg")] = None
    weighed_mass_kg: Annotated[float | None, Range(0.05, 40.0, "kg")] = None
    mass_ratio: Annotated[float, Range(0.001, 1000.0)] = 1.0


@dataclass(frozen=True)
class Altered:
    """A number of the plate or of its joints that a change put in another's place.

    ``path`` from the candidate down. ``became`` None: it is chosen anew after the change.
    """

    path: str
    was: float | None
    became: float | None


@dataclass(frozen=True, kw_only=True)
class Modification(Ranged):
    """One change of a plate against its maker's sheet.

    ``where`` names panels or joints; sizes mm: of a hole or slot, a spacer, a sleeve; ``area_mm2``
    what went; ``turn_deg``: how far a fold is bent on, up above zero. ``made`` are the keys of
    trims, openings and layers (``joint/layer``) that it brought, taken out again with it;
    ``altered`` the numbers that it changed, put back with it. ``near``: what lies behind the
    place, for its caution. ``uncut``: what was known of the plate's mass before its first cut.
    ``done``: it was carried out.
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
    altered: tuple[Altered, ...] = ()
    turn_deg: Annotated[float | None, Range(-60.0, 60.0, "°")] = None
    uncut: UncutMass | None = None
    done: bool = False

    def __post_init__(self) -> None:
        super().__post_init__()
        has_numbers = bool(self.altered or self.where)
        if self.kind in _TOLD and not has_numbers and not self.what.strip():
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
    if change.kind == "bend" and change.turn_deg is not None:
        way = "up" if change.turn_deg > 0 else "down"
        return f"bend the {change.where} {way} by {amount(abs(change.turn_deg), '°', 1)}"
    if change.kind == "other side" and change.where:
        return f"{change.where} to the other side"
    if change.kind == "sleeve cut" and change.altered:
        return f"sleeve cut to {wide} at {change.where}"
    return f"{change.kind}: {change.what}"
