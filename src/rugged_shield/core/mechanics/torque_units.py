"""Torques from one unit to another, exactly."""

from __future__ import annotations

from dataclasses import dataclass

from rugged_shield.core.computation import computation
from rugged_shield.core.errors import InputError
from rugged_shield.core.quantity import convert_torque
from rugged_shield.core.result import Input, Outcome, Source

MAX_ITEMS = 1000


@dataclass(frozen=True)
class TorqueItem:
    """One torque to convert."""

    value: float
    unit_from: str
    unit_to: str


@dataclass(frozen=True)
class ConvertInput:
    """Torques to convert, up to 1000 at once."""

    items: tuple[TorqueItem, ...]


@dataclass(frozen=True)
class ConvertResult:
    """Converted values in the order given."""

    results: tuple[float, ...]


@computation("convert-torque", page="preload-and-torque", check="torque-09")
def convert_torques(given: ConvertInput) -> Outcome[ConvertResult]:
    """Exact conversion between N.m, lbf.ft, lbf.in, kgf.m and kgf.cm."""
    if not 1 <= len(given.items) <= MAX_ITEMS:
        raise InputError("items", len(given.items), f"1 to {MAX_ITEMS} items")
    results = []
    for i, item in enumerate(given.items):
        try:
            results.append(convert_torque(item.value, item.unit_from, item.unit_to))
        except InputError as error:
            raise error.at(f"items.{i}") from error
    return Outcome(
        result=ConvertResult(tuple(results)),
        inputs=(Input("Items", len(results)),),
        reasons=("Exact factors: 0.45359237 kg, 0.3048 m, 9.80665 m/s².",),
        sources=(Source("ISO 80000-4; international yard and pound (1959)", "high"),),
    )
