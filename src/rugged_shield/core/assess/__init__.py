"""Joins the stations into a whole job: job in, ledger, verdicts, plan and dues out."""

from rugged_shield.core.assess.edits import (
    Change,
    drop_item,
    label_of,
    put_item,
    set_text,
    value_at,
)
from rugged_shield.core.assess.gaps import Gap, GapsInput, GapsResult, gaps, what_to_measure
from rugged_shield.core.assess.hang import Hang, hang
from rugged_shield.core.assess.job import Candidate, Job, KitCount, place_of
from rugged_shield.core.assess.ledger import (
    LedgerLine,
    StationState,
    ledger,
    marked,
    station_states,
)
from rugged_shield.core.assess.stacks import (
    JointAssessment,
    LengthMark,
    assess_joint,
    assess_joints,
    card_of,
    screw_needs,
)
from rugged_shield.core.assess.weigh import Weighed, figure, weigh
from rugged_shield.core.assess.work import (
    done_steps,
    due_of,
    hardware_words,
    next_act,
    plan_of,
    step_at,
)

__all__ = [
    "Candidate",
    "Change",
    "Gap",
    "GapsInput",
    "GapsResult",
    "Hang",
    "Job",
    "JointAssessment",
    "KitCount",
    "LedgerLine",
    "LengthMark",
    "StationState",
    "Weighed",
    "assess_joint",
    "assess_joints",
    "card_of",
    "done_steps",
    "drop_item",
    "due_of",
    "figure",
    "gaps",
    "hang",
    "hardware_words",
    "label_of",
    "ledger",
    "marked",
    "next_act",
    "place_of",
    "plan_of",
    "put_item",
    "screw_needs",
    "set_text",
    "station_states",
    "step_at",
    "value_at",
    "weigh",
    "what_to_measure",
]
