"""The torque card of a joint of the job, at the screw length it is judged at."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

from rugged_shield.core.assess.fitup import assess_joint
from rugged_shield.core.figures import figure
from rugged_shield.core.fitup import (
    Joint,
)
from rugged_shield.core.quantity import show_both
from rugged_shield.core.result import (
    Figure,
    Outcome,
    finding,
)
from rugged_shield.core.survey import Mount
from rugged_shield.core.tighten import Reading, TakenBack, TorqueCard, WrenchTool, torque_card


@lru_cache(maxsize=2048)
def card_of(joint: Joint, mount: Mount | None, wrench: WrenchTool) -> Outcome[TorqueCard]:
    """The torque card of a joint at the screw length it is judged at."""
    return torque_card(joint, mount, assess_joint(joint, mount).stack.result, wrench)


def reading_figure(reading: Reading | None, card: TorqueCard) -> Figure | None:
    """A standing reading beside its card: outside the band and skipped checks are findings."""
    if reading is None:
        return None
    found = []
    if not card.low_nm <= reading.torque_nm <= card.high_nm:
        low, high = show_both(card.low_nm, "N·m"), show_both(card.high_nm, "N·m")
        found.append(finding("outside band", f"Outside {low} to {high}."))
    if reading.overridden:
        found.append(finding("not all were started", reading.reason))
    return figure("reading", "Reading", reading.torque_nm, "N·m", findings=tuple(found))


@dataclass(frozen=True)
class HistoryLine:
    """A reading or its taking back as it stands in the record."""

    seq: int
    at: str
    kind: Literal["reading", "taken back"]
    torque: Figure
    overridden: bool
    reason: str


def history_lines(history: tuple[Reading | TakenBack, ...]) -> tuple[HistoryLine, ...]:
    """Every reading of a joint and what became of it, in order."""
    return tuple(
        HistoryLine(
            line.seq,
            line.at,
            line.kind,
            figure("reading", "Reading", line.torque_nm, "N·m"),
            isinstance(line, Reading) and line.overridden,
            line.reason,
        )
        for line in history
    )
