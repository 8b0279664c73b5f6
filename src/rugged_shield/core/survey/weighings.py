"""Weighings of a job: pairs of readings on a holder, and what was weighed with the plate."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from rugged_shield.core.errors import InputError
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.result import Outcome
from rugged_shield.core.survey.weighing import WeighInput, WeighResult, weigh_difference

Reading = Annotated[float, Range(0.0, 500.0, "kg")]
Axle = Literal["whole", "front axle", "rear axle"]
MAX_PAIRS = 50


@dataclass(frozen=True)
class Pair(Ranged):
    """One reading with the plate and one without, kg, and the instrument they came from."""

    key: str
    with_kg: Reading
    without_kg: Reading
    instrument: str = ""
    at: str = ""


@dataclass(frozen=True, kw_only=True)
class Weighing(Ranged):
    """Pairs on one scale; ``hardware_with`` and ``_without`` say what hung on the holder.

    ``plate`` and ``against`` are keys of the job; no ``against``: the plate alone.
    """

    key: str
    plate: str
    holder: str
    resolution_kg: Annotated[float, Range(0.0001, 5.0, "kg")]
    against: str = ""
    axle: Axle = "whole"
    hardware_with: bool = False
    hardware_without: bool = False
    scale_error: Annotated[float, Range(0.0, 0.1)] = 0.0
    pairs: tuple[Pair, ...] = ()

    def __post_init__(self) -> None:
        super().__post_init__()
        if len(self.pairs) > MAX_PAIRS:
            raise InputError("pairs", len(self.pairs), f"at most {MAX_PAIRS} pairs")
        if not self.holder.strip():
            raise InputError("holder", self.holder, "who or what held the plate")


def weighing_result(weighing: Weighing, reference_kg: float = 0.0) -> Outcome[WeighResult] | None:
    """Mean and uncertainty of a weighing, kg; None before the first pair.

    A single pair takes one scale step as its scatter.
    """
    if not weighing.pairs:
        return None
    return weigh_difference(
        WeighInput(
            with_part=tuple(p.with_kg for p in weighing.pairs),
            without_part=tuple(p.without_kg for p in weighing.pairs),
            resolution=weighing.resolution_kg,
            unit="kg",
            reference_difference=reference_kg,
            scale_factor_rel_std_uncertainty=weighing.scale_error,
            assumed_std_of_one_difference=weighing.resolution_kg
            if len(weighing.pairs) == 1
            else 0.0,
        )
    )
