"""Weigh-up applied to a job: every plate against stock, struck, ranked."""

from rugged_shield.core.assess.weighup.coverage import MIX, STONE_MM, cover, mixed
from rugged_shield.core.assess.weighup.effect import (
    WhatIfRow,
    changed_joints,
    changed_rows,
    new_findings,
    what_if_row,
)
from rugged_shield.core.assess.weighup.gates import Gate
from rugged_shield.core.assess.weighup.mass_budget import BudgetLine, sunk_points
from rugged_shield.core.assess.weighup.mount_springs import joint_springs, mount_supports
from rugged_shield.core.assess.weighup.protection import (
    figures_of,
    protected_bounds,
    protection,
    solve_beside,
)
from rugged_shield.core.assess.weighup.ranking import (
    Bounds,
    Values,
    best_by,
    bounds_of,
    choice_of,
    criteria_of,
    open_by,
    open_to,
    order_of,
    place_if_cleared,
    quantities_of,
    rivals,
    something_matters,
    values_of,
)
from rugged_shield.core.assess.weighup.schools import School, schools_of
from rugged_shield.core.assess.weighup.scorecard import (
    Weighed,
    against,
    budget_of,
    hardware_kg,
    weigh,
)
from rugged_shield.core.assess.weighup.strike import (
    StruckPlate,
    no_map,
    scars_said,
    strike_asked,
    strike_figures,
    strike_found,
    strike_of,
    struck_plates,
)
from rugged_shield.core.assess.weighup.table import (
    QuantityRow,
    change_word,
    quantity_rows,
    strike_rows,
)

__all__ = [
    "MIX",
    "STONE_MM",
    "Bounds",
    "BudgetLine",
    "Gate",
    "QuantityRow",
    "School",
    "StruckPlate",
    "Values",
    "Weighed",
    "WhatIfRow",
    "against",
    "best_by",
    "bounds_of",
    "budget_of",
    "change_word",
    "changed_joints",
    "changed_rows",
    "choice_of",
    "cover",
    "criteria_of",
    "figures_of",
    "hardware_kg",
    "joint_springs",
    "mixed",
    "mount_supports",
    "new_findings",
    "no_map",
    "open_by",
    "open_to",
    "order_of",
    "place_if_cleared",
    "protected_bounds",
    "protection",
    "quantities_of",
    "quantity_rows",
    "rivals",
    "scars_said",
    "schools_of",
    "solve_beside",
    "something_matters",
    "strike_asked",
    "strike_figures",
    "strike_found",
    "strike_of",
    "strike_rows",
    "struck_plates",
    "sunk_points",
    "values_of",
    "weigh",
    "what_if_row",
]
