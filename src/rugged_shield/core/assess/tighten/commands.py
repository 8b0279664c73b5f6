"""Commands on the record that ask the plan: a step ticked or opened again."""

from __future__ import annotations

from rugged_shield.core.assess.tighten.plan import plan_of
from rugged_shield.core.errors import InputError
from rugged_shield.core.job import Entry, Job
from rugged_shield.core.job.edits import check_picked
from rugged_shield.core.tighten import StepDone, StepReopened


def tick_step(job: Job, key: str, done: bool) -> Entry:
    """A step of the plan done or open again; what the record tells by itself is not ticked."""
    check_picked(job)
    plate = job.in_hand.key
    plan = plan_of(job, plate)
    step = next((s for s in plan.steps if s.key == key), None)
    if step is None or step.kind in ("start", "full"):
        raise InputError("step", key, "a step of this plan that is only ticked")
    if done:
        return Entry(StepDone(plate=plate, step=key), f"{step.title}: done")
    return Entry(StepReopened(plate=plate, step=key), f"{step.title}: open again")
