"""Tighten applied to a job: cards, the order of work, where it stands."""

from rugged_shield.core.assess.tighten.cards import (
    HistoryLine,
    card_of,
    history_lines,
    reading_figure,
    standing_word,
)
from rugged_shield.core.assess.tighten.commands import tick_step
from rugged_shield.core.assess.tighten.plan import done_steps, plan_for, plan_of, step_at
from rugged_shield.core.assess.tighten.ready import Ready, ready_of
from rugged_shield.core.assess.tighten.settling import settled_figure

__all__ = [
    "HistoryLine",
    "Ready",
    "card_of",
    "done_steps",
    "history_lines",
    "plan_for",
    "plan_of",
    "reading_figure",
    "ready_of",
    "settled_figure",
    "standing_word",
    "step_at",
    "tick_step",
]
