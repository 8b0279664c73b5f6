"""Kit applied to a job: what the joints ask for, what stands in, what is to buy, the tools."""

from rugged_shield.core.assess.kit.buying import ToBuy, to_buy
from rugged_shield.core.assess.kit.carry import Carry, LoosePart, carry_of
from rugged_shield.core.assess.kit.debts import Debt, debts_of, owed
from rugged_shield.core.assess.kit.lines import KitCheck, kit_check, need_words, needs_of
from rugged_shield.core.assess.kit.tools import JointTools, Tools, ToolSum, tools_of

__all__ = [
    "Carry",
    "Debt",
    "JointTools",
    "KitCheck",
    "LoosePart",
    "ToBuy",
    "ToolSum",
    "Tools",
    "carry_of",
    "debts_of",
    "kit_check",
    "need_words",
    "needs_of",
    "owed",
    "to_buy",
    "tools_of",
]
