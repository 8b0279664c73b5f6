"""Conditions on a sheet's lines: with or without stand or bars, model, market, years.

``bars, no centre stand`` means both. Words are few and checked, so that a
condition that is not understood is refused instead of never applying.
"""

from __future__ import annotations

import re
from dataclasses import dataclass

from rugged_shield.core.errors import InputError
from rugged_shield.core.survey.bike import Bike

CONDITION_WORDS = (
    "bars",
    "no bars",
    "centre stand",
    "no centre stand",
    "side stand",
    "no side stand",
    "variant NAME",
    "market NAME",
    "year 2019-2022",
)
_FITTED = {"bars": "has_bars", "centre stand": "has_centre_stand", "side stand": "has_side_stand"}
_YEARS = re.compile(r"^year (\d{4})(?:\s*[-–]\s*(\d{4}))?$")
_NAMED = re.compile(r"^(variant|market) (\S.{0,60})$")


def _phrases(when: str) -> list[str]:
    return [" ".join(part.split()) for part in when.split(",") if part.strip()]


def check_condition(when: str, field: str = "when") -> None:
    """Refuse a condition that is not understood, naming the phrase."""
    for phrase in _phrases(when):
        bare = phrase.removeprefix("no ")
        if bare not in _FITTED and not _YEARS.match(phrase) and not _NAMED.match(phrase):
            raise InputError(
                field,
                phrase,
                "phrases such as " + "; ".join(CONDITION_WORDS),
                f"“{phrase}” is not understood as a condition",
            )


@dataclass(frozen=True)
class Traits:
    """What a condition can ask of a bike."""

    year: int
    variant: str
    market: str
    has_bars: bool
    has_centre_stand: bool
    has_side_stand: bool


def traits_of(bike: Bike) -> Traits:
    """The traits of a bike."""
    return Traits(
        bike.year,
        bike.variant,
        bike.market,
        bike.has_bars,
        bike.has_centre_stand,
        bike.has_side_stand,
    )


def _holds(phrase: str, bike: Bike | Traits) -> bool:
    years, named = _YEARS.match(phrase), _NAMED.match(phrase)
    if years:
        first, last = int(years[1]), int(years[2] or years[1])
        return first <= bike.year <= last
    if named:
        own: str = getattr(bike, named[1])
        return own.casefold() == named[2].casefold()
    fitted: bool = getattr(bike, _FITTED[phrase.removeprefix("no ")])
    return fitted != phrase.startswith("no ")


def applies(when: str, bike: Bike | Traits) -> bool:
    """Whether every phrase of a condition holds for this bike; an empty one always does."""
    return all(_holds(phrase, bike) for phrase in _phrases(when))
