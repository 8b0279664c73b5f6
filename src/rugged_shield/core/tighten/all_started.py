"""The record of tightening, and the loose gate that guards it.

The record is only ever added to: a reading taken back stays, marked.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

RecordKind = Literal[
    "started", "reading", "taken back", "step done", "step reopened", "found", "km"
]


@dataclass(frozen=True, kw_only=True)
class Record:
    """One line of the record. Torque N·m; ``ref`` is the line a taking-back refers to."""

    seq: int
    kind: RecordKind
    at: str
    joint: str = ""
    step: str = ""
    torque_nm: float | None = None
    km: float | None = None
    ref: int | None = None
    reason: str = ""
    overridden: bool = False


@dataclass(frozen=True)
class JointState:
    """Where a joint stands: started, its standing reading, all readings ever taken."""

    joint: str
    started: bool
    reading: Record | None
    history: tuple[Record, ...]
    found: Record | None


@dataclass(frozen=True)
class GateState:
    """A stage's gate: open when every joint of it is started."""

    stage: str
    open: bool
    waiting_for: tuple[str, ...]


def joint_states(records: tuple[Record, ...], joints: tuple[str, ...]) -> dict[str, JointState]:
    """State of every joint from the record."""
    taken_back = {r.ref for r in records if r.kind == "taken back"}
    states = {}
    for joint in joints:
        own = tuple(r for r in records if r.joint == joint)
        standing = [r for r in own if r.kind == "reading" and r.seq not in taken_back]
        found = [r for r in own if r.kind == "found"]
        states[joint] = JointState(
            joint,
            any(r.kind == "started" for r in own),
            standing[-1] if standing else None,
            tuple(r for r in own if r.kind in ("reading", "taken back")),
            found[-1] if found else None,
        )
    return states


def gate_of(stage: str, stages: Mapping[str, str], states: dict[str, JointState]) -> GateState:
    """The gate of a stage; ``stages`` maps joint key to stage."""
    waiting = tuple(j for j, s in stages.items() if s == stage and not states[j].started)
    return GateState(stage, not waiting, waiting)


def gate_refusal(
    joint: str, stages: Mapping[str, str], states: dict[str, JointState], numbers: dict[str, int]
) -> str | None:
    """Why a reading on this joint is refused now, or None when the gate is open."""
    gate = gate_of(stages[joint], stages, states)
    if gate.open:
        return None
    names = ", ".join(str(numbers[j]) for j in gate.waiting_for)
    word = "joint" if len(gate.waiting_for) == 1 else "joints"
    return (
        f"Not yet: {word} {names} of this stage are not started. Start every screw by hand "
        "first, or the last holes will not line up."
    )
