"""Where each joint stands by the record, and the check that all were started by hand first."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from rugged_shield.core.event import PlateRecord
from rugged_shield.core.tighten.events import Reading, StageReopened, Started, TakenBack


@dataclass(frozen=True)
class JointState:
    """Where a joint stands: started, its standing reading, every reading and taking back.

    ``before_change``: the last reading of a joint that is not made as it was then: it is loose.
    """

    joint: str
    started: bool
    reading: Reading | None
    history: tuple[Reading | TakenBack, ...]
    before_change: Reading | None = None


@dataclass(frozen=True)
class StartedCheck:
    """Whether every joint of a stage is started, and which it waits for."""

    stage: str
    open: bool
    waiting_for: tuple[str, ...]


def joint_states(lines: PlateRecord, built: Mapping[str, str]) -> dict[str, JointState]:
    """State of every joint from the record; a reading taken back stays, but does not stand.

    ``built`` says by joint what it is made of now. A joint that was changed after its reading is
    loose again: not torqued, and not started unless it was since. So is one whose stage was opened.
    """
    opened = {j: e.seq for e in lines if isinstance(e, StageReopened) for j in e.joints}
    taken_back = {e.ref for e in lines if isinstance(e, TakenBack)}
    started = {e.joint: e.seq for e in lines if isinstance(e, Started)}
    history: dict[str, list[Reading | TakenBack]] = {joint: [] for joint in built}
    for line in lines:
        if isinstance(line, Reading | TakenBack) and line.joint in history:
            history[line.joint].append(line)
    states = {}
    for joint, own in history.items():
        loose_at = opened.get(joint, -1)
        standing = [
            e
            for e in own
            if isinstance(e, Reading) and e.seq not in taken_back and e.seq > loose_at
        ]
        last = standing[-1] if standing else None
        changed = last is not None and last.as_built not in ("", built[joint])
        since = max(loose_at, last.seq if changed and last is not None else -1)
        states[joint] = JointState(
            joint,
            started.get(joint, -1) > since,
            None if changed else last,
            tuple(own),
            last if changed else None,
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
