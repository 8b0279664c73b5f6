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
    "upper bars",
    "no upper bars",
    "lower bars",
    "no lower bars",
    "centre stand",
    "no centre stand",
    "side stand",
    "no side stand",
    "model NAME",
    "variant NAME",
    "market NAME",
    "year 2019-2022",
)
_FITTED = {
    "bars": "has_bars",
    "lower bars": "has_bars",
    "upper bars": "has_upper_bars",
    "centre stand": "has_centre_stand",
    "side stand": "has_side_stand",
}
_YEARS = re.compile(r"^year (\d{4})(?:\s*[-–]\s*(\d{4}))?\Z")
_NAMED = re.compile(r"^(model|variant|market) (\S.{0,60})\Z")


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


_OR = re.compile(r"\s*(?:/|;| or )\s*", re.IGNORECASE)


def is_one_of(own: str, asked: str) -> bool:
    """Whether a bike's own name is one of those that a sheet names: siblings stand side by side."""
    return own.casefold() in {name.casefold() for name in _OR.split(asked.strip())}


@dataclass(frozen=True, kw_only=True)
class Traits:
    """What a condition can ask of a bike."""

    year: int
    model: str
    variant: str
    market: str
    has_bars: bool
    has_upper_bars: bool
    has_centre_stand: bool
    has_side_stand: bool


def traits_of(bike: Bike) -> Traits:
    """The traits of a bike."""
    return Traits(
        year=bike.year,
        model=bike.model,
        variant=bike.variant,
        market=bike.market,
        has_bars=bike.has_bars,
        has_upper_bars=bike.has_upper_bars,
        has_centre_stand=bike.has_centre_stand,
        has_side_stand=bike.has_side_stand,
    )


def _holds(phrase: str, bike: Bike | Traits) -> bool:
    years, named = _YEARS.match(phrase), _NAMED.match(phrase)
    if years:
        first, last = int(years[1]), int(years[2] or years[1])
        return first <= bike.year <= last
    if named:
        own: str = getattr(bike, named[1])
        return is_one_of(own, named[2])
    fitted: bool = getattr(bike, _FITTED[phrase.removeprefix("no ")])
    return fitted != phrase.startswith("no ")


def applies(when: str, bike: Bike | Traits) -> bool:
    """Whether every phrase of a condition holds for this bike; an empty one always does."""
    return all(_holds(phrase, bike) for phrase in _phrases(when))
