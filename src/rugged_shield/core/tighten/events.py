"""What happens while a plate is fitted: screws started, torque read, steps done."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from rugged_shield.core.event import OnPlate
from rugged_shield.core.quantity import Range

Torque = Annotated[float, Range(0.0, 1e6, "N·m")]


@dataclass(frozen=True, kw_only=True)
class Started(OnPlate):
    """A screw was started by hand."""

    joint: str
    kind: Literal["started"] = "started"


@dataclass(frozen=True, kw_only=True)
class Reading(OnPlate):
    """A torque reading on a joint; ``overridden``: taken though not all were started, with why.

    ``as_built``: what the joint was made of then; empty in lines older than this field.
    ``accepted``: why a reading above the joint's limit is kept; empty: nobody has said.
    """

    joint: str
    torque_nm: Torque
    overridden: bool = False
    reason: str = ""
    as_built: str = ""
    accepted: str = ""
    kind: Literal["reading"] = "reading"


@dataclass(frozen=True, kw_only=True)
class TakenBack(OnPlate):
    """A reading taken back: ``ref`` is its line, which stays."""

    joint: str
    ref: Annotated[int, Range(1, 10_000_000)]
    torque_nm: Torque | None = None
    reason: str = ""
    kind: Literal["taken back"] = "taken back"


@dataclass(frozen=True, kw_only=True)
class StepDone(OnPlate):
    """A step of the plan was done."""

    step: str
    kind: Literal["step done"] = "step done"


@dataclass(frozen=True, kw_only=True)
class StepReopened(OnPlate):
    """A step of the plan is open again."""

    step: str
    kind: Literal["step reopened"] = "step reopened"
