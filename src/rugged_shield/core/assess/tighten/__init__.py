"""Tighten applied to a job: cards, the order of work, where it stands."""

from rugged_shield.core.assess.tighten.cards import (
    HistoryLine,
    card_of,
    far_cards,
    history_lines,
    limit_of,
    reading_figure,
    readings_over,
    standing_word,
    state_findings,
)
from rugged_shield.core.assess.tighten.clocks import clocks_of
from rugged_shield.core.assess.tighten.commands import (
    change_to_tick,
    close_bike_joint,
    loosen,
    reopen_stage,
    ride_anyway,
    tick_step,
)
from rugged_shield.core.assess.tighten.draw_home import (
    DrawHome,
    GapAt,
    OrderJudged,
    Turn,
    draw_home,
)
from rugged_shield.core.assess.tighten.near_heat import heat_at_joints, joint_temperature_c
from rugged_shield.core.assess.tighten.plan import (
    done_steps,
    hardware_words,
    next_to_torque,
    plan_for,
    plan_joints,
    plan_of,
    step_at,
)
from rugged_shield.core.assess.tighten.settling import settled_figure, settling_cures
from rugged_shield.core.assess.tighten.tasks import change_caution, plan_around

__all__ = [
    "DrawHome",
    "GapAt",
    "HistoryLine",
    "OrderJudged",
    "Turn",
    "card_of",
    "change_caution",
    "change_to_tick",
    "clocks_of",
    "close_bike_joint",
    "done_steps",
    "draw_home",
    "far_cards",
    "hardware_words",
    "heat_at_joints",
    "history_lines",
    "joint_temperature_c",
    "limit_of",
    "loosen",
    "next_to_torque",
    "plan_around",
    "plan_for",
    "plan_joints",
    "plan_of",
    "reading_figure",
    "readings_over",
    "reopen_stage",
    "ride_anyway",
    "settled_figure",
    "settling_cures",
    "standing_word",
    "state_findings",
    "step_at",
    "tick_step",
]
