"""What happens while a plate is fitted: screws started, torque read, steps done."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from rugged_shield.core.event import Happened, LoosensJoints, OnPlate
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
    ``limit_nm``: what the joint bore as it was made then; None in lines older than this field.
    """

    joint: str
    torque_nm: Torque
    overridden: bool = False
    reason: str = ""
    as_built: str = ""
    accepted: str = ""
    limit_nm: Torque | None = None
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


@dataclass(frozen=True, kw_only=True)
class StageReopened(LoosensJoints):
    """A stage came loose again: its joints are neither started nor torqued since, and why."""

    stage: str
    joints: tuple[str, ...]
    reason: str
    kind: Literal["stage reopened"] = "stage reopened"


Loosened = Literal["screw", "spring", "strap", "hose", "cap"]


@dataclass(frozen=True, kw_only=True)
class BikeJointOpened(Happened):
    """Something of the bike was loosened: a screw, a spring, a hose; open until it is closed."""

    joint: str
    name: str
    what: Loosened = "screw"
    kind: Literal["bike joint opened"] = "bike joint opened"


@dataclass(frozen=True, kw_only=True)
class BikeJointClosed(Happened):
    """It is closed again: a screw by torque or with what was done instead, the rest by hand."""

    joint: str
    torque_nm: Torque | None = None
    how: str = ""
    kind: Literal["bike joint closed"] = "bike joint closed"


@dataclass(frozen=True, kw_only=True)
class ThreadDamaged(OnPlate):
    """A joint's thread is damaged, and what was seen: nothing is torqued before it is mended."""

    joint: str
    what: str = ""
    kind: Literal["thread damaged"] = "thread damaged"


@dataclass(frozen=True, kw_only=True)
class JointRenewed(OnPlate):
    """A joint was made good (a new screw or nut, an insert), and its screw is in by hand."""

    joint: str
    how: str
    kind: Literal["joint renewed"] = "joint renewed"


@dataclass(frozen=True, kw_only=True)
class FindingPassed(OnPlate):
    """Somebody goes past one finding and says why: what it was in words, and what it was about."""

    code: str
    about: str
    reason: str
    words: str = ""
    kind: Literal["finding passed"] = "finding passed"


@dataclass(frozen=True, kw_only=True)
class RiddenAnyway(OnPlate):
    """Somebody rides though this was missing, and says why."""

    reason: str
    missing: tuple[str, ...] = ()
    kind: Literal["ridden anyway"] = "ridden anyway"
