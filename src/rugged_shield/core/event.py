"""Something that happened: what every line of a job's record begins with."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass
from itertools import chain
from typing import Annotated, Literal, NewType, TypeVar, overload

from rugged_shield.core.errors import InputError
from rugged_shield.core.moments import seconds_of
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.remembered import ByIdentity

MAX_RECORD = 50_000
"""Lines of one job's record: a line an hour, ten hours a day, for thirteen years."""


@dataclass(frozen=True, kw_only=True)
class Happened(Ranged):
    """A line of the record: its number, when (ISO 8601 text), and on whose device it was told.

    All are set where the line is stored; before that the number is 0 and the texts are empty.
    """

    seq: Annotated[int, Range(0, 10_000_000)] = 0
    at: str = ""
    by: str = ""

    def __post_init__(self) -> None:
        super().__post_init__()
        if self.at and seconds_of(self.at) is None:
            raise InputError("at", self.at, "a moment as 2026-11-22T10:00:00+01:00")


@dataclass(frozen=True, kw_only=True)
class OnPlate(Happened):
    """A line that is about one plate: it says nothing of another, whatever its joints are called.

    Empty in lines that are older than this field where no plate was picked: they stand for none.
    """

    plate: str = ""


@dataclass(frozen=True, kw_only=True)
class LoosensJoints(OnPlate):
    """A line after which joints of a plate are loose: neither started nor torqued any more."""

    joints: tuple[str, ...] = ()


@dataclass(frozen=True, kw_only=True)
class Voided(Happened):
    """An earlier line of Keep does not count, and why; the line itself stays."""

    ref: Annotated[int, Range(0, 10_000_000)]
    reason: str
    kind: Literal["voided"] = "voided"


PlateRecord = NewType("PlateRecord", tuple[Happened, ...])
"""What holds for one plate: a type of its own, so that none is judged by the lines of another."""


def _of_plate(record: tuple[Happened, ...], plate: str) -> PlateRecord:
    if all(e.plate == plate for e in of_kind(record, OnPlate)):
        return PlateRecord(record)
    return PlateRecord(tuple(e for e in record if not isinstance(e, OnPlate) or e.plate == plate))


_ITS_LINES = ByIdentity[tuple[Happened, ...], PlateRecord](_of_plate, 32)


def of_plate(record: Iterable[Happened], plate: str) -> PlateRecord:
    """The lines that hold for this plate: its own, and those that are about none (a counter)."""
    return _ITS_LINES(record if isinstance(record, tuple) else tuple(record), plate)


def _by_kind(lines: tuple[Happened, ...]) -> dict[type[Happened], list[int]]:
    found = defaultdict[type[Happened], list[int]](list)
    for place, kind in enumerate(map(type, lines)):
        found[kind].append(place)
    return dict(found)


_BY_KIND = ByIdentity["tuple[Happened, ...]", "dict[type[Happened], list[int]]"](_by_kind, 32)

A = TypeVar("A", bound=Happened)
B = TypeVar("B", bound=Happened)
C = TypeVar("C", bound=Happened)
D = TypeVar("D", bound=Happened)


@overload
def of_kind(lines: tuple[Happened, ...], a: type[A], /) -> tuple[A, ...]: ...
@overload
def of_kind(lines: tuple[Happened, ...], a: type[A], b: type[B], /) -> tuple[A | B, ...]: ...
@overload
def of_kind(
    lines: tuple[Happened, ...], a: type[A], b: type[B], c: type[C], d: type[D], /
) -> tuple[A | B | C | D, ...]: ...
@overload
def of_kind(lines: tuple[Happened, ...], /, *kinds: type[A]) -> tuple[A, ...]: ...
def of_kind(lines: tuple[Happened, ...], /, *kinds: type[Happened]) -> tuple[Happened, ...]:
    """The lines of these kinds, in their order.

    A record of thousands of lines, most of them rides, is sorted by kind once: whoever asks for
    the few of a kind does not go through all.
    """
    own = [places for kind, places in _BY_KIND(lines).items() if issubclass(kind, kinds)]
    places = own[0] if len(own) == 1 else sorted(chain.from_iterable(own))
    return tuple(map(lines.__getitem__, places))
