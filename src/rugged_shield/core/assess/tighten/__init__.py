"""Tighten applied to a job: cards, the order of work, where it stands."""

from rugged_shield.core.assess.tighten.cards import card_of, reading_figure
from rugged_shield.core.assess.tighten.commands import tick_step
from rugged_shield.core.assess.tighten.plan import done_steps, plan_for, plan_of, step_at

__all__ = ["card_of", "done_steps", "plan_for", "plan_of", "reading_figure", "step_at", "tick_step"]
