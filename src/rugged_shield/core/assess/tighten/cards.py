"""The torque card of a joint of the job, at the screw length it is judged at."""

from __future__ import annotations

from functools import lru_cache

from rugged_shield.core.assess.fitup import assess_joint
from rugged_shield.core.fitup import (
    Joint,
)
from rugged_shield.core.result import (
    Outcome,
)
from rugged_shield.core.survey import Mount
from rugged_shield.core.tighten import TorqueCard, WrenchTool, torque_card


@lru_cache(maxsize=2048)
def card_of(joint: Joint, mount: Mount | None, wrench: WrenchTool) -> Outcome[TorqueCard]:
    """The torque card of a joint at the screw length it is judged at."""
    return torque_card(joint, mount, assess_joint(joint, mount).stack.result, wrench)
