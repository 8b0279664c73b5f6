"""The torque card of a joint of the job, at the screw length it is judged at."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

from rugged_shield.core.amounts import amount
from rugged_shield.core.assess.fitup import FarNut, assess_joint
from rugged_shield.core.figures import figure
from rugged_shield.core.fitup import (
    Joint,
)
from rugged_shield.core.result import (
    Figure,
    Finding,
    Outcome,
    finding,
)
from rugged_shield.core.survey import Mount
from rugged_shield.core.tighten import (
    JointState,
    Reading,
    TakenBack,
    TorqueCard,
    WrenchTool,
    torque_card,
)


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


def reading_findings(reading: Reading, card: TorqueCard) -> tuple[Finding, ...]:
    """What a standing reading says against itself beside its card."""
    found = []
    low, high = amount(card.low_nm, "N·m"), amount(card.high_nm, "N·m")
    over = max(card.limit_nm, card.high_nm)
    if reading.torque_nm > over and not reading.accepted:
        text = (
            f"{amount(reading.torque_nm, 'N·m')} is above {amount(over, 'N·m')}: "
            f"{_damage(card)}, or say why it stands."
        )
        found.append(finding("torqued above its limit", text, card.joint))
    elif reading.torque_nm > card.high_nm and reading.accepted:
        text = f"Above {high}, kept: {reading.accepted}"
        found.append(finding("torqued above its limit, accepted", text, card.joint))
    elif reading.torque_nm < card.low_nm:
        found.append(finding("outside band", f"Below {low}: torque it again.", card.joint))
    elif reading.torque_nm > card.high_nm:
        found.append(finding("outside band", f"Outside {low} to {high}.", card.joint))
    if reading.overridden:
        found.append(finding("not all were started", reading.reason))
    return tuple(found)


def reading_figure(state: JointState, card: TorqueCard) -> Figure | None:
    """A standing reading beside its card; one of a joint that was changed since stands no more."""
    if state.before_change is not None:
        was = state.before_change
        text = f"Changed since it was torqued: it is loose again. It was {was.as_built}."
        found = finding("changed since it was torqued", text, card.joint)
        return figure("reading", "Reading before", was.torque_nm, "N·m", findings=(found,))
    if state.reading is None:
        return None
    found_now = reading_findings(state.reading, card)
    return figure("reading", "Reading", state.reading.torque_nm, "N·m", findings=found_now)


def standing_word(state: JointState, reading: Figure | None) -> str:
    """Where a joint stands in a word; a reading that speaks against itself is not “torqued”."""
    if state.before_change is not None:
        return "changed since it was torqued"
    if reading is not None:
        codes = {f.code for f in reading.findings}
        if "torqued above its limit" in codes:
            return "above its limit"
        return "outside its band" if "outside band" in codes else "torqued"
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
