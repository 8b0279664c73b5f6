"""What is due next on a job, in words."""

from __future__ import annotations

from rugged_shield.core.assess.keep import due_of
from rugged_shield.core.assess.tighten import done_steps, plan_of
from rugged_shield.core.event import of_plate
from rugged_shield.core.job import Job, Record


def next_act(job: Job, record: Record) -> str:
    """What is due next on a job, in words: a choice, a count, a step or a re-check."""
    if not job.picked:
        return f"weigh {len(job.candidates)} plates and pick one"
    due, _ = due_of(job, record)
    if due.state != "not fitted":
        return due.words
    plan = plan_of(job, job.in_hand.key)
    lines = of_plate(record, job.in_hand.key)
    done = done_steps(plan, lines)
    step = next((s for s in plan.steps if s.key not in done), None)
    if step is None or (step.number == 1 and len(job.counted(job.in_hand)) < len(job.in_hand.kit)):
        return "count the kit on the bench" if step else "enter the counter's km in Keep"
    return f"step {step.number}: {step.title[0].lower()}{step.title[1:]}"
