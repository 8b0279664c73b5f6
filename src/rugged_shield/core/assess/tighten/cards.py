"""The torque card of a joint of the job, at the screw length it is judged at."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

from rugged_shield.core.amounts import amount
from rugged_shield.core.assess.fitup.joints import FarNut, assess_joint
from rugged_shield.core.figures import figure
from rugged_shield.core.fitup.joint import Joint
from rugged_shield.core.job.model import Job, mounted
from rugged_shield.core.result import (
    Figure,
    Finding,
    Outcome,
    finding,
    from_table,
)
from rugged_shield.core.survey.bike import Mount
from rugged_shield.core.tighten.all_started import JointState
from rugged_shield.core.tighten.events import Reading, StageReopened, TakenBack
from rugged_shield.core.tighten.torque import TorqueCard, WrenchTool, torque_card


@lru_cache(maxsize=2048)
def card_of(joint: Joint, mount: Mount | None, wrench: WrenchTool) -> Outcome[TorqueCard]:
    """The torque card of a joint at the screw length it is judged at."""
    return torque_card(joint, mount, assess_joint(joint, mount).stack.result, wrench)


@lru_cache(maxsize=512)
def far_cards(
    joint: Joint, mount: Mount | None, wrench: WrenchTool
) -> tuple[tuple[FarNut, Outcome[TorqueCard]], ...]:
    """The torque card of every nut beyond the first thread, by what it clamps itself."""
    found = assess_joint(joint, mount).far
    return tuple((far, torque_card(far.own, None, far.stack.result, wrench)) for far in found)


def _damage(card: TorqueCard) -> str:
    """What a torque above the limit may have done."""
    if card.governing == "bolt":
        return "the screw may be stretched: fit a new one"
    if "strip" in card.governing:
        return "the thread may be pulled: take the screw out and look at it"
    return f"what bears it may have given way ({card.governing}): take it apart and look"


def over_nm(card: TorqueCard) -> float:
    """A torque above this leaves its mark, N·m."""
    return max(card.limit_nm, card.high_nm)


def limit_of(job: Job, joint: str) -> float | None:
    """What a joint of the plate in hand bears as it is made now, N·m; None for another."""
    for at in mounted(job.bike, job.in_hand):
        if at.joint.key == joint:
            return over_nm(card_of(at.joint, at.mount, job.wrench).result)
    return None


def _borne_nm(reading: Reading, state: JointState, card: TorqueCard) -> float:
    """What the joint bore when it was read, N·m; without end where that was not written down."""
    if reading.limit_nm is not None:
        return reading.limit_nm
    return over_nm(card) if reading.as_built in ("", state.built) else math.inf


def readings_over(state: JointState, card: TorqueCard) -> tuple[Reading, ...]:
    """Torques above what the joint bore since its screw was new, that nobody said a reason for."""
    return tuple(r for r in _unaccepted(state, card) if not _is_kept(r, state))


def _is_kept(reading: Reading, state: JointState) -> bool:
    """Whether somebody said after it why it stands."""
    return state.kept_over is not None and state.kept_over.seq > reading.seq


def _unaccepted(state: JointState, card: TorqueCard) -> tuple[Reading, ...]:
    """Torques above what the joint bore that were not accepted as they were read.

    A reason with a later reading that is as high stands for those before it too.
    """
    accepted = [r for r in state.since_renewed if r.accepted]
    return tuple(
        r
        for r in state.since_renewed
        if r.torque_nm > _borne_nm(r, state, card)
        and not any(a.seq >= r.seq and a.torque_nm >= r.torque_nm for a in accepted)
    )


def over_findings(state: JointState, card: TorqueCard) -> tuple[Finding, ...]:
    """Torques above the limit since the screw was new.

    A later reading clears none: what was stretched stays so. “I mistyped” takes the line back,
    and a reason given after lets it stand.
    """
    found = []
    for reading in _unaccepted(state, card):
        over, why = _borne_nm(reading, state, card), state.kept_over
        if why is not None and _is_kept(reading, state):
            text = f"Joint {card.number} was above {amount(over, 'N·m')}, kept: {why.reason}"
            found.append(finding("torqued above its limit, accepted", text, card.joint))
            continue
        was = "is" if reading is state.reading else "was read before, and is"
        text = (
            f"Joint {card.number}: {amount(reading.torque_nm, 'N·m')} {was} above "
            f"{amount(over, 'N·m')}: "
            f"{_damage(card)}, or say why it stands."
        )
        found.append(finding("torqued above its limit", text, card.joint))
    return tuple(found)


def state_findings(state: JointState, card: TorqueCard) -> tuple[Finding, ...]:
    """What the record says against a joint beside its standing reading: why it is not torqued."""
    number = str(card.number)
    if state.damaged is not None:
        what = state.damaged.what or "as it was told"
        return (from_table("thread damaged", card.joint, number=number, what=what),)
    if state.reading is not None or state.before_change is not None:
        return ()
    if state.loosened is not None and not isinstance(state.loosened, StageReopened):
        day = state.loosened.at[:10] or "a day that was not said"
        return (from_table("loose since the oil change", card.joint, number=number, day=day),)
    return (from_table("not torqued", card.joint, number=number),)


def reading_findings(reading: Reading, card: TorqueCard) -> tuple[Finding, ...]:
    """What a standing reading says against itself beside its card, but for its limit."""
    found = []
    low, high = amount(card.low_nm, "N·m"), amount(card.high_nm, "N·m")
    is_over = reading.torque_nm > over_nm(card)
    if reading.torque_nm > card.high_nm and reading.accepted:
        text = f"Joint {card.number} is above {high}, kept: {reading.accepted}"
        found.append(finding("torqued above its limit, accepted", text, card.joint))
    elif reading.torque_nm < card.low_nm:
        found.append(
            finding(
                "outside band", f"Joint {card.number} is below {low}: torque it again.", card.joint
            )
        )
    elif reading.torque_nm > card.high_nm and not is_over:
        # one above the limit itself is said by ``over_findings``, as are those before it
        found.append(
            finding("outside band", f"Joint {card.number} is outside {low} to {high}.", card.joint)
        )
    if reading.overridden:
        text = f"Joint {card.number}, torqued though not all were started: {reading.reason}"
        found.append(finding("not all were started", text, card.joint))
    return tuple(found)


def reading_figure(state: JointState, card: TorqueCard) -> Figure | None:
    """A standing reading beside its card; one of a joint that was changed since stands no more."""
    if state.before_change is not None:
        was = state.before_change
        text = (
            f"Joint {card.number} was changed since it was torqued: it is loose again. "
            f"It was {was.as_built}."
        )
        found = finding("changed since it was torqued", text, card.joint)
        return figure("reading", "Reading before", was.torque_nm, "N·m", findings=(found,))
    over = over_findings(state, card)
    if state.reading is None:
        if not over:
            return None
        last = state.since_renewed[-1]
        return figure("reading", "Reading before", last.torque_nm, "N·m", findings=over)
    found_now = (*over, *reading_findings(state.reading, card))
    return figure("reading", "Reading", state.reading.torque_nm, "N·m", findings=found_now)


def standing_word(state: JointState, reading: Figure | None) -> str:
    """Where a joint stands in a word; a reading that speaks against itself is not “torqued”."""
    if state.damaged is not None:
        return "thread damaged"
    if state.before_change is not None:
        return "changed since it was torqued"
    if reading is not None:
        codes = {f.code for f in reading.findings}
        if "torqued above its limit" in codes:
            return "above its limit"
        return "outside its band" if "outside band" in codes else "torqued"
    if state.loosened is not None and not state.started:
        return "loose again"
    return "started" if state.started else "not started"


@dataclass(frozen=True, kw_only=True)
class HistoryLine:
    """A reading or its taking back as it stands in the record."""

    seq: int
    at: str
    kind: Literal["reading", "taken back"]
    torque: Figure
    overridden: bool
    reason: str
    by: str = ""


def history_lines(history: tuple[Reading | TakenBack, ...]) -> tuple[HistoryLine, ...]:
    """Every reading of a joint and what became of it, in order."""
    return tuple(
        HistoryLine(
            seq=line.seq,
            at=line.at,
            kind=line.kind,
            torque=figure("reading", "Reading", line.torque_nm, "N·m"),
            overridden=isinstance(line, Reading) and line.overridden,
            reason=line.reason,
            by=line.by,
        )
        for line in history
    )
