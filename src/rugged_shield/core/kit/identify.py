"""Which line of the kit a screw in the hand is, from what was read on it, or what to read next."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated, Literal

import numpy as np

from rugged_shield.core.amounts import amount, entered
from rugged_shield.core.computation import computation
from rugged_shield.core.errors import InputError, choose
from rugged_shield.core.mechanics.threads import length_limits_mm, nominal_size
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.result import Input, Outcome, Source
from rugged_shield.core.tables.heads import HEADS, SCREW_HEADS, head_limits_mm
from rugged_shield.core.tables.threads import THREADS, allowance_mm

Attribute = Literal["length_mm", "pitch_mm", "head_form", "head_diameter_mm"]
Number = Literal["diameter_mm", "pitch_mm", "length_mm", "head_diameter_mm"]

NUMBERS: tuple[Number, ...] = ("diameter_mm", "pitch_mm", "length_mm", "head_diameter_mm")
ORDER: tuple[Attribute, ...] = ("length_mm", "pitch_mm", "head_form", "head_diameter_mm")
"""What is asked for next, in this order where two tell as much."""
BANDS_MM: dict[Number, float] = {
    "diameter_mm": 0.05,
    "pitch_mm": 0.05,
    "length_mm": 0.3,
    "head_diameter_mm": 0.1,
}
"""How far a reading is off by a calliper, a pitch gauge or a rule, where it is not said."""
_WAYS = 2
"""A hexagon may be met across its corners or its flats."""
MAX_LINES = 300
IDENTIFY_SOURCE = Source(
    "ISO 965-1 6g (ASME B1.1 2A) for diameters, ISO 4759-1 js15 (ASME B18.2.1) for lengths, "
    "tables of heads",
    "medium",
)

Band = Annotated[float | None, Range(0.0, 5.0, "mm")]


@dataclass(frozen=True, kw_only=True)
class Measured(Ranged):
    """What was read on a screw, mm; None: not read. The head's form by its word in the tables."""

    diameter_mm: Annotated[float | None, Range(1.0, 40.0, "mm")] = None
    pitch_mm: Annotated[float | None, Range(0.2, 5.0, "mm")] = None
    length_mm: Annotated[float | None, Range(1.0, 250.0, "mm")] = None
    head_diameter_mm: Annotated[float | None, Range(1.0, 80.0, "mm")] = None
    head_form: str = ""
    diameter_band_mm: Band = None
    pitch_band_mm: Band = None
    length_band_mm: Band = None
    head_diameter_band_mm: Band = None

    def __post_init__(self) -> None:
        super().__post_init__()
        if self.head_form:
            choose("head_form", self.head_form, FORMS, "form of a head")
        if not self.head_form and all(getattr(self, name) is None for name in NUMBERS):
            raise InputError("measured", "", "at least one reading", "nothing was read yet")

    def band_mm(self, number: Number) -> float:
        """Half width of a reading's band, mm."""
        own: float | None = getattr(self, f"{number.removesuffix('_mm')}_band_mm")
        return BANDS_MM[number] if own is None else own


@dataclass(frozen=True)
class Listed(Ranged):
    """A screw of a list; empty text and None: the list does not say it."""

    key: str
    thread: str
    length_mm: Annotated[float | None, Range(0.5, 250.0, "mm")] = None
    head: str = ""

    def __post_init__(self) -> None:
        super().__post_init__()
        choose("thread", self.thread, THREADS, "thread")
        if self.head:
            choose("head", self.head, SCREW_HEADS, "screw head")


FORMS: tuple[str, ...] = tuple(sorted({HEADS[name].form for name in SCREW_HEADS}))


@dataclass(frozen=True, kw_only=True)
class IdentifyInput:
    """Readings on one screw, and the lines that it may be."""

    measured: Measured
    lines: tuple[Listed, ...]

    def __post_init__(self) -> None:
        if len(self.lines) > MAX_LINES:
            raise InputError("lines", len(self.lines), f"at most {MAX_LINES} lines")
        keys = [line.key for line in self.lines]
        if len(set(keys)) != len(keys):
            raise InputError("lines", len(keys), "each key once")


@dataclass(frozen=True, kw_only=True)
class IdentifyResult:
    """Lines that agree, nearest first; how far each is; what to read next.

    ``foreign``: threads of the tables that the readings agree with and no line has.
    """

    agree: tuple[str, ...]
    told_apart: bool
    measure_next: Attribute | None
    distances: dict[str, float]
    foreign: tuple[str, ...]


def expected_mm(line: Listed, number: Number) -> tuple[tuple[float, float], ...]:
    """What a number of a listed screw may read, and its half tolerance, mm; empty: not said.

    Diameter d − es − Td/2 ± Td/2 (ISO 965-1, 6g); pitch ± 0; length ± half of js15
    (ISO 4759-1), inch between its limits (ASME B18.2.1); head diameter between the limits of
    its standard, of a hexagon across corners or across flats.
    """
    row = THREADS[line.thread]
    if number == "diameter_mm":
        largest = row.d_mm - allowance_mm(line.thread)
        half = (largest - row.d_min_mm) / 2
        return ((largest - half, half),)
    if number == "pitch_mm":
        return ((row.pitch_mm, 0.0),)
    if number == "length_mm":
        if line.length_mm is None:
            return ()
        low, high = length_limits_mm(line.thread, line.length_mm)
        return (((low + high) / 2, (high - low) / 2),)
    limits = head_limits_mm(line.head, nominal_size(line.thread)) if line.head else ()
    return tuple(((low + high) / 2, (high - low) / 2) for low, high in limits)


def _form(line: Listed) -> str:
    return HEADS[line.head].form if line.head else ""


def _off(line: Listed, number: Number, read_mm: float, band_mm: float) -> float | None:
    """(Measured − expected) over band + tolerance; at most 1 agrees. None: the line is silent."""
    said = [(read_mm - at) / (band_mm + half) for at, half in expected_mm(line, number)]
    return min(said, key=abs) if said else None


def _offs(line: Listed, measured: Measured) -> list[float]:
    offs = []
    for number in NUMBERS:
        read: float | None = getattr(measured, number)
        if read is not None:
            off = _off(line, number, read, measured.band_mm(number))
            if off is not None:
                offs.append(off)
    return offs


def _agrees(line: Listed, measured: Measured) -> bool:
    """No reading speaks against the line; what the line does not say cannot."""
    own = _form(line)
    if measured.head_form and own and own != measured.head_form:
        return False
    return all(abs(off) <= 1.0 for off in _offs(line, measured))


def _left_by_form(lines: list[Listed]) -> float:
    """How many still agree on average once the head's form was seen, each line as truth."""
    forms = np.array([_form(line) for line in lines])
    silent = forms == ""
    same = (forms[:, None] == forms[None, :]) | silent[:, None] | silent[None, :]
    return float(same.sum(axis=1).mean())


def _left_by_number(lines: list[Listed], number: Number) -> float:
    """The same once a number was read at what the true line expects."""
    true = [(expected_mm(line, number) or ((math.nan, 0.0),))[0][0] for line in lines]
    off = np.ones((len(lines), len(lines)), dtype=bool)
    for way in range(_WAYS):
        said = [
            (*expected_mm(line, number), *[(math.nan, math.nan)] * _WAYS)[way] for line in lines
        ]
        at, half = np.array(said).T
        off &= ~(np.abs(np.array(true)[:, None] - at[None, :]) <= BANDS_MM[number] + half + 1e-12)
    silent = np.array([not expected_mm(line, number) for line in lines])
    # A silent line cannot speak against anything, whichever of the two it is.
    off &= ~(silent[:, None] | silent[None, :])
    return float((~off).sum(axis=1).mean())


def _next(lines: list[Listed], measured: Measured) -> Attribute | None:
    """What leaves fewest on average; nothing where all of it leaves as many as there are."""
    best: tuple[float, Attribute] | None = None
    for attribute in ORDER:
        if getattr(measured, attribute) not in (None, ""):
            continue
        if attribute == "head_form":
            left = _left_by_form(lines)
        else:
            left = _left_by_number(lines, attribute)
        if left < len(lines) - 1e-9 and (best is None or left < best[0] - 1e-9):
            best = (left, attribute)
    return best[1] if best else None


def _foreign(measured: Measured, lines: tuple[Listed, ...]) -> tuple[str, ...]:
    """Threads that diameter and pitch agree with and that no line has."""
    if measured.diameter_mm is None:
        return ()
    own = {line.thread for line in lines}
    bare = Measured(
        diameter_mm=measured.diameter_mm,
        pitch_mm=measured.pitch_mm,
        diameter_band_mm=measured.diameter_band_mm,
        pitch_band_mm=measured.pitch_band_mm,
    )
    return tuple(t for t in THREADS if t not in own and _agrees(Listed("", t), bare))


@computation("identify", page="identify", check="identify-01")
def identify(given: IdentifyInput) -> Outcome[IdentifyResult]:
    """Which lines a screw agrees with; the root mean square of its deviations orders them.

    A line agrees when every number read lies within the reading's band plus the line's own
    tolerance, and the form of the head, if seen, is its own.
    """
    measured, distances = given.measured, {}
    for line in given.lines:
        offs = _offs(line, measured)
        distances[line.key] = math.sqrt(sum(o * o for o in offs) / len(offs)) if offs else 0.0
    agreeing = [line for line in given.lines if _agrees(line, measured)]
    agreeing.sort(key=lambda line: (distances[line.key], line.key))
    told = len(agreeing) == 1
    result = IdentifyResult(
        agree=tuple(line.key for line in agreeing),
        told_apart=told,
        measure_next=None if told or not agreeing else _next(agreeing, measured),
        distances=distances,
        foreign=_foreign(measured, given.lines),
    )
    return Outcome(
        result=result,
        inputs=tuple(
            Input(name.removesuffix("_mm").replace("_", " "), getattr(measured, name), "mm")
            for name in NUMBERS
            if getattr(measured, name) is not None
        ),
        reasons=(
            "A line agrees when each reading is within its own band plus the line's tolerance.",
        ),
        assumptions=tuple(
            f"The {name.removesuffix('_mm').replace('_', ' ')} was read to "
            f"± {entered(measured.band_mm(name), 'mm')}."
            for name in NUMBERS
            if getattr(measured, name) is not None
        ),
        sources=(IDENTIFY_SOURCE,),
    )


def difference_words(first: Listed, second: Listed) -> str:
    """What tells two listed screws apart, in words with its size; empty: nothing on the list."""
    told = []
    if first.thread != second.thread:
        told.append(f"{first.thread} against {second.thread}")
    if None not in (first.length_mm, second.length_mm) and first.length_mm != second.length_mm:
        longer = (first.length_mm or 0.0) - (second.length_mm or 0.0)
        told.append(f"{amount(abs(longer), 'mm', 1)} {'longer' if longer > 0 else 'shorter'}")
    if _form(first) != _form(second) and _form(first) and _form(second):
        told.append(f"{_form(first)} head against {_form(second)}")
    return ", ".join(told)
