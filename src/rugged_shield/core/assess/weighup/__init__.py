"""Weigh-up applied to a job: every plate against stock, struck, ranked."""

from rugged_shield.core.assess.weighup.coverage import MIX, STONE_MM, cover, mixed
from rugged_shield.core.assess.weighup.gates import Gate
from rugged_shield.core.assess.weighup.mass_budget import BudgetLine
from rugged_shield.core.assess.weighup.mount_springs import held_by, joint_springs
from rugged_shield.core.assess.weighup.protection import figures_of, protection
from rugged_shield.core.assess.weighup.ranking import (
    best_plate,
    choice_of,
    criteria_of,
    open_to,
    order_of,
    quantities_of,
    something_matters,
)
from rugged_shield.core.assess.weighup.schools import School, schools_of
from rugged_shield.core.assess.weighup.scorecard import Weighed, against, budget_of, weigh
from rugged_shield.core.assess.weighup.strike import (
    no_map,
    scars_said,
    strike_asked,
    strike_figures,
    strike_of,
)

__all__ = [
    "MIX",
    "STONE_MM",
    "BudgetLine",
    "Gate",
    "School",
    "Weighed",
    "against",
    "best_plate",
    "budget_of",
    "choice_of",
    "cover",
    "criteria_of",
    "figures_of",
    "held_by",
    "joint_springs",
    "mixed",
    "no_map",
    "open_to",
    "order_of",
    "protection",
    "quantities_of",
    "scars_said",
    "schools_of",
    "something_matters",
    "strike_asked",
    "strike_figures",
    "strike_of",
    "weigh",
]
