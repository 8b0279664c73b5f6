"""What the table says of a kind of finding."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from rugged_shield.core.judgement.codes import Verdict

Station = Literal["survey", "weigh-up", "kit", "fit-up", "tighten", "keep"]
StepKind = Literal["strip", "hang", "start", "torque", "sweep", "last"]
"""Kinds of steps in the order of hands: off with the old, hang, start, torque, sweep, the last."""


@dataclass(frozen=True, kw_only=True)
class FindingKind:
    """A row of the table: how grave, whether it holds from riding, where it bites, what clears it.

    ``sentence`` has named amounts in braces; empty where the rule that finds it still writes its
    own words. ``steps``: where in the work a hand can still act on it.
    """

    verdict: Verdict
    gates: bool
    station: Station
    remedy: str
    steps: tuple[StepKind, ...] = ()
    sentence: str = ""
    caution: str = ""
    decides: tuple[str, ...] = ()
    """Fields that decide it, by what they belong to: ``mount.z_mm``, ``layer.thickness_mm``."""
