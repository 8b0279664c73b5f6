"""The torque card of a joint of the job, at the screw length it is judged at."""

from __future__ import annotations

from functools import lru_cache

from rugged_shield.core.assess.fitup import assess_joint
from rugged_shield.core.figures import figure
from rugged_shield.core.fitup import (
    Joint,
)
from rugged_shield.core.result import (
    Figure,
    Outcome,
    finding,
)
from rugged_shield.core.survey import Mount
from rugged_shield.core.tighten import Reading, TorqueCard, WrenchTool, torque_card


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
        found.append(finding("outside band", f"Outside {card.low_nm:.1f}–{card.high_nm:.1f} N·m."))
    if reading.overridden:
        found.append(finding("not all were started", reading.reason))
    return figure("reading", "Reading", reading.torque_nm, "N·m", findings=tuple(found))
