"""What happens while a plate is kept: torque found at a re-check, the counter read."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Annotated, Literal

from rugged_shield.core.event import Happened, OnPlate, PlateRecord
from rugged_shield.core.quantity import Range


@dataclass(frozen=True, kw_only=True)
class FoundTorque(OnPlate):
    """The torque found on a joint at a re-check."""

    joint: str
    torque_nm: Annotated[float, Range(0.0, 1e6, "N·m")]
    kind: Literal["found torque"] = "found torque"


@dataclass(frozen=True, kw_only=True)
class CounterRead(Happened):
    """The bike's own counter as it was read, km."""

    km: Annotated[float, Range(0.0, 1e6, "km")]
    kind: Literal["counter"] = "counter"


def last_found(record: PlateRecord) -> dict[str, FoundTorque]:
    """The last torque found on every joint that was re-checked."""
    return {e.joint: e for e in record if isinstance(e, FoundTorque)}


def last_counter_km(record: Iterable[Happened]) -> float | None:
    """The counter as it was last read, km; None when it never was."""
    read = [e.km for e in record if isinstance(e, CounterRead)]
    return read[-1] if read else None
