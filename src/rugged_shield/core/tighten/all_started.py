"""Where each joint stands by the record, and the check that all were started by hand first."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from rugged_shield.core.event import Happened
from rugged_shield.core.tighten.events import Reading, Started, TakenBack


@dataclass(frozen=True)
class JointState:
    """Where a joint stands: started, its standing reading, every reading and taking back."""

    joint: str
    started: bool
    reading: Reading | None
    history: tuple[Reading | TakenBack, ...]


@dataclass(frozen=True)
class StartedCheck:
    """Whether every joint of a stage is started, and which it waits for."""

    stage: str
    open: bool
    waiting_for: tuple[str, ...]


def joint_states(record: Iterable[Happened], joints: tuple[str, ...]) -> dict[str, JointState]:
    """State of every joint from the record; a reading taken back stays, but does not stand."""
    lines = tuple(record)
    taken_back = {e.ref for e in lines if isinstance(e, TakenBack)}
    started = {e.joint for e in lines if isinstance(e, Started)}
    history: dict[str, list[Reading | TakenBack]] = {joint: [] for joint in joints}
    for line in lines:
        if isinstance(line, Reading | TakenBack) and line.joint in history:
            history[line.joint].append(line)
    states = {}
    for joint, own in history.items():
        standing = [e for e in own if isinstance(e, Reading) and e.seq not in taken_back]
        states[joint] = JointState(
            joint, joint in started, standing[-1] if standing else None, tuple(own)
        )
    return states


def started_check(
    stage: str, stages: Mapping[str, str], states: dict[str, JointState]
) -> StartedCheck:
    """The check of a stage; ``stages`` maps joint key to stage."""
    waiting = tuple(j for j, s in stages.items() if s == stage and not states[j].started)
    return StartedCheck(stage, not waiting, waiting)


def started_refusal(
    joint: str, stages: Mapping[str, str], states: dict[str, JointState], numbers: dict[str, int]
) -> str | None:
    """Why a reading on this joint is refused now, or None when all of its stage are started."""
    check = started_check(stages[joint], stages, states)
    if check.open:
        return None
    names = ", ".join(str(numbers[j]) for j in check.waiting_for)
    word = "joint" if len(check.waiting_for) == 1 else "joints"
    return (
        f"Not yet: {word} {names} of this stage are not started. Start every screw by hand "
        "first, or the last holes will not line up."
    )
