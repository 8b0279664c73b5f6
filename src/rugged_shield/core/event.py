"""Something that happened: what every line of a job's record begins with."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Annotated, Literal, NewType

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
    return PlateRecord(tuple(e for e in record if not isinstance(e, OnPlate) or e.plate == plate))


_ITS_LINES = ByIdentity[tuple[Happened, ...], PlateRecord](_of_plate, 32)


def of_plate(record: Iterable[Happened], plate: str) -> PlateRecord:
    """The lines that hold for this plate: its own, and those that are about none (a counter)."""
    return _ITS_LINES(record if isinstance(record, tuple) else tuple(record), plate)
