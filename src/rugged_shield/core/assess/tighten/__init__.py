"""Tighten applied to a job: cards, the order of work, where it stands."""

from rugged_shield.core.assess.tighten.cards import card_of
from rugged_shield.core.assess.tighten.plan import (
    done_steps,
    mounts_only,
    plan_for,
    plan_of,
    step_at,
)

__all__ = ["card_of", "done_steps", "mounts_only", "plan_for", "plan_of", "step_at"]
