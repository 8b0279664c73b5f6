"""Where each joint stands by the record, and the check that all were started by hand first."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from rugged_shield.core.event import LoosensJoints, PlateRecord, Voided, of_kind
from rugged_shield.core.judgement.codes import FindingCode
from rugged_shield.core.remembered import ByIdentity
from rugged_shield.core.tighten.events import (
    FindingPassed,
    JointRenewed,
    Reading,
    Started,
    TakenBack,
    ThreadDamaged,
)

OVER: FindingCode = "torqued above its limit"


@dataclass(frozen=True, kw_only=True)
class JointState:
    """Where a joint stands: started, its standing reading, every reading and taking back.

    ``before_change``: the last reading of a joint that is not made as it was then: it is loose.
    ``loosened``: what loosened it since it was read last. ``since_renewed``: every reading that
    was not taken back since its screw was new: a torque above the limit leaves its mark until
    then. ``damaged``: its thread, until it is made good. ``kept_over``: why a
    torque above its limit stands, as it was told after. ``built``: what it is made of now.
    """

    joint: str
    started: bool
    reading: Reading | None
    history: tuple[Reading | TakenBack, ...]
    before_change: Reading | None = None
    loosened: LoosensJoints | None = None
    since_renewed: tuple[Reading, ...] = ()
    damaged: ThreadDamaged | None = None
    kept_over: FindingPassed | None = None
    built: str = ""


@dataclass(frozen=True)
class StartedCheck:
    """Whether every joint of a stage is started, and which it waits for."""

    stage: str
    open: bool
    waiting_for: tuple[str, ...]


@dataclass(frozen=True)
class _Marks:
    """What the record says of joints beside readings, by joint: the last line of each kind."""

    loosened: dict[str, LoosensJoints]
    renewed: dict[str, int]
    damaged: dict[str, ThreadDamaged]
    kept_over: dict[str, FindingPassed]
    started: dict[str, int]


def _marks(lines: PlateRecord) -> _Marks:
    void = {e.ref for e in of_kind(lines, Voided)}
    marks = _Marks({}, {}, {}, {}, {})
    for line in lines:
        if isinstance(line, LoosensJoints) and line.seq not in void:
            marks.loosened.update(dict.fromkeys(line.joints, line))
        elif isinstance(line, ThreadDamaged):
            marks.damaged[line.joint] = line
        elif isinstance(line, JointRenewed):
            marks.renewed[line.joint] = marks.started[line.joint] = line.seq
            marks.damaged.pop(line.joint, None)
        elif isinstance(line, FindingPassed) and line.code == OVER:
            marks.kept_over[line.about] = line
        elif isinstance(line, Started):
            marks.started[line.joint] = line.seq
    return marks


def _state(
    joint: str, own: list[Reading | TakenBack], taken_back: set[int], marks: _Marks, built: str
) -> JointState:
    loosened, damaged = marks.loosened.get(joint), marks.damaged.get(joint)
    renewed = marks.renewed.get(joint, -1)
    loose = max(line.seq if line is not None else -1 for line in (loosened, damaged))
    valid = [e for e in own if isinstance(e, Reading) and e.seq not in taken_back]
    standing = [e for e in valid if e.seq > max(loose, renewed)]
    last = standing[-1] if standing else None
    changed = last is not None and last.as_built not in ("", built)
    # who made it good put its screw in by hand: it is to be torqued, not to be started
    since = max(loose, last.seq if changed and last is not None else -1)
    return JointState(
        joint=joint,
        started=marks.started.get(joint, -1) > since,
        reading=None if changed else last,
        history=tuple(own),
        before_change=last if changed else None,
        loosened=loosened if last is None and valid else None,
        built=built,
        since_renewed=tuple(e for e in valid if e.seq > renewed),
        damaged=damaged,
        kept_over=marks.kept_over.get(joint),
    )


_OF_WORK = (
    Reading, TakenBack, LoosensJoints, ThreadDamaged, JointRenewed, FindingPassed, Started, Voided,
)  # fmt: skip


def _work_of(lines: PlateRecord) -> PlateRecord:
    return PlateRecord(of_kind(lines, *_OF_WORK))


_WORK = ByIdentity[PlateRecord, PlateRecord](_work_of, 32)
"""A year's rides say nothing of how a joint stands."""


def joint_states(lines: PlateRecord, built: Mapping[str, str]) -> dict[str, JointState]:
    """State of every joint from the record; a reading taken back stays, but does not stand.

    ``built`` says by joint what it is made of now. A joint that was changed after its reading is
    loose again: not torqued, and not started unless it was since. So is one whose stage was
    opened, that came off for the oil, or whose thread is damaged; one that was made good is
    started, and to be torqued.
    """
    lines = _WORK(lines)
    taken_back = {e.ref for e in of_kind(lines, TakenBack)}
    history: dict[str, list[Reading | TakenBack]] = {joint: [] for joint in built}
    for line in lines:
        if isinstance(line, Reading | TakenBack) and line.joint in history:
            history[line.joint].append(line)
    marks = _marks(lines)
    return {
        joint: _state(joint, own, taken_back, marks, built[joint]) for joint, own in history.items()
    }


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
