"""How each number is known, and within which band: measured, from a sheet, or assumed."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Annotated, Any, Literal, Protocol

from rugged_shield.core.quantity import Range, Ranged

Known = Literal["measured", "from sheet", "assumed"]

# field ending or name -> half width of the band when assumed, from a sheet, measured
_PLACE = (20.0, 5.0, 1.0)
_SMALL = (2.0, 0.5, 0.2)
BANDS: dict[str, tuple[float, float, float]] = {
    **{f"{axis}_{end}_mm": _PLACE for axis in "xyz" for end in ("min", "max")},
    **{f"{axis}_mm": _PLACE for axis in "xyz"},
    "surface_c": (40.0, 20.0, 10.0),
    "wheelbase_mm": (25.0, 5.0, 3.0),
    "front_wheel_radius_mm": (12.0, 6.0, 2.0),
    "rear_wheel_radius_mm": (12.0, 6.0, 2.0),
    "thread_start_mm": _SMALL,
    "thread_end_mm": _SMALL,
    "overall_height_mm": _SMALL,
    "free_space_mm": (5.0, 2.0, 0.5),
    "thickness_mm": (0.5, 0.2, 0.1),
    "claimed_mass_kg": (0.5, 0.15, 0.02),
}
"""Typical half widths of what a layout, a sheet and a tape or calliper tell."""

_COLUMN: dict[str, int] = {"assumed": 0, "from sheet": 1, "measured": 2}


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


def band_of(owner: _Owner, field: str) -> float:
    """Half width of a field's band, in the field's unit; 0 for what has no band."""
    fact = fact_of(owner, field)
    if fact.band is not None:
        return fact.band
    if field not in BANDS:
        return 0.0
    return BANDS[field][_COLUMN[fact.known]]


def banded(owner: _Owner) -> tuple[str, ...]:
    """Fields of a thing that have a value and a band, in the order of the table."""
    return tuple(name for name in BANDS if getattr(owner, name, None) is not None)


def with_fact(owner: Any, fact: Fact) -> Any:
    """The thing with one fact put or exchanged."""
    others = tuple(f for f in owner.facts if f.key != fact.key)
    return replace(owner, facts=(*others, fact))


def overall(owner: _Owner) -> tuple[int, int]:
    """How many of a thing's banded numbers are better than assumed, and of how many."""
    names = banded(owner)
    return sum(1 for n in names if fact_of(owner, n).known != "assumed"), len(names)
