"""How each number is known, and within which band: measured, from a sheet, or assumed."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Annotated, Any, Literal, Protocol

from rugged_shield.core.quantity import Range, Ranged

Known = Literal["assumed", "guessed", "printed", "measured", "tried"]
"""Put there by the program; by eye or from memory; on a sheet or in a manual; with a tape,
calliper, scale or photograph; on the bike, by hand."""
ENTERED: tuple[Known, ...] = ("printed", "measured", "tried")
"""What a verdict may rest on without a word of doubt."""

# field -> half width of the band when assumed, guessed, printed, measured; tried: as measured
_PLACE = (20.0, 10.0, 5.0, 1.0)
_SMALL = (2.0, 1.0, 0.5, 0.2)
BANDS: dict[str, tuple[float, float, float, float]] = {
    **{f"{axis}_{end}_mm": _PLACE for axis in "xyz" for end in ("min", "max")},
    **{f"{axis}_mm": _PLACE for axis in "xyz"},
    "z_front_mm": _PLACE,
    "z_rear_mm": _PLACE,
    "surface_c": (40.0, 30.0, 20.0, 10.0),
    "wheelbase_mm": (25.0, 10.0, 5.0, 3.0),
    "front_wheel_radius_mm": (12.0, 8.0, 6.0, 2.0),
    "rear_wheel_radius_mm": (12.0, 8.0, 6.0, 2.0),
    "front_travel_mm": (60.0, 20.0, 5.0, 5.0),
    "rake_deg": (3.0, 2.0, 0.5, 1.0),
    "thread_start_mm": _SMALL,
    "thread_end_mm": _SMALL,
    "overall_height_mm": _SMALL,
    "free_space_mm": (5.0, 3.0, 2.0, 0.5),
    "thickness_mm": (0.5, 0.3, 0.2, 0.1),
    "claimed_mass_kg": (0.5, 0.3, 0.15, 0.02),
}
"""Typical half widths of what a layout, an eye, a sheet and a tape or calliper tell."""
LAYER_BAND_MM: dict[Known, float] = {
    "assumed": 1.0,
    "guessed": 0.5,
    "printed": 0.0,
    "measured": 0.0,
    "tried": 0.0,
}
"""Half width of a layer's thickness beyond its own tolerance."""

_COLUMN: dict[Known, int] = {"assumed": 0, "guessed": 1, "printed": 2, "measured": 3, "tried": 3}


@dataclass(frozen=True)
class Fact(Ranged):
    """How one number (``key`` is its field) is known.

    ``band`` is its half width in the field's unit; None takes the typical one.
    A reading keeps the instrument, its resolution and the time it was taken.
    """

    key: str
    known: Known
    band: Annotated[float | None, Range(0.0, 500.0)] = None
    instrument: str = ""
    resolution: Annotated[float | None, Range(0.0, 100.0)] = None
    at: str = ""


class _Owner(Protocol):
    @property
    def known(self) -> Known: ...

    @property
    def facts(self) -> tuple[Fact, ...]: ...


def fact_of(owner: _Owner, field: str) -> Fact:
    """What is known of one field: its own fact, else how the whole thing is known."""
    return next((f for f in owner.facts if f.key == field), Fact(field, owner.known))


def typical_band(field: str, known: Known) -> float:
    """Half width of the band of a field that is known so, in its unit; 0 for what has no band."""
    return BANDS[field][_COLUMN[known]] if field in BANDS else 0.0


def band_of(owner: _Owner, field: str) -> float:
    """Half width of a field's band, in the field's unit; 0 for what has no band."""
    fact = fact_of(owner, field)
    return typical_band(field, fact.known) if fact.band is None else fact.band


def banded(owner: _Owner) -> tuple[str, ...]:
    """Fields of a thing that have a value and a band, in the order of the table."""
    return tuple(name for name in BANDS if getattr(owner, name, None) is not None)


def with_fact(owner: Any, fact: Fact) -> Any:
    """The thing with one fact put or exchanged."""
    others = tuple(f for f in owner.facts if f.key != fact.key)
    return replace(owner, facts=(*others, fact))


def doubted(owner: _Owner, *names: str) -> tuple[str, ...]:
    """Which of these numbers of a thing are only assumed or guessed; one without a value is not."""
    return tuple(
        name
        for name in names
        if getattr(owner, name, None) is not None and fact_of(owner, name).known not in ENTERED
    )


def overall(owner: _Owner) -> tuple[int, int]:
    """How many of a thing's banded numbers are better than assumed, and of how many."""
    names = banded(owner)
    return sum(1 for n in names if fact_of(owner, n).known in ENTERED), len(names)
