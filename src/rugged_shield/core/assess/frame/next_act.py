"""What is due next on a job, in words, and where it is done."""

from __future__ import annotations

from dataclasses import dataclass

from rugged_shield.core.assess.keep.due import due_of
from rugged_shield.core.assess.tighten.plan import done_steps, plan_of
from rugged_shield.core.event import of_plate
from rugged_shield.core.job.events import Record
from rugged_shield.core.job.model import Job


@dataclass(frozen=True)
class NextAct:
    """What is due next in words, and the address within the job where it is done."""

    words: str
    at: str


def _choosing(job: Job) -> NextAct:
    """Before a pick: joints that wait to be confirmed, a kit to count, else the choice."""
    proposed = sum(1 for j in job.in_hand.joints if j.proposed)
    if proposed and job.in_hand.kit:
        return NextAct(f"look at {proposed} joints proposed from the list", "kit")
    if len(job.candidates) == 1 and job.in_hand.kit:
        return NextAct("count the kit on the bench", "kit")
    if not job.candidates:
        return NextAct("add the plates to weigh", "first")
    if len(job.candidates) == 1:
        return NextAct("add another plate to weigh it against, or pick it", "first")
    return NextAct(f"weigh {len(job.candidates)} plates and pick one", "weigh-up")


def next_act(job: Job, record: Record) -> NextAct:
    """What is due next on a job: a choice, a count, a step or a re-check."""
    if not job.picked:
        return _choosing(job)
    due = due_of(job, record)
    if due.state != "not fitted":
        return NextAct(due.words, "keep")
    plan = plan_of(job, job.in_hand.key)
    lines = of_plate(record, job.in_hand.key)
    done = done_steps(plan, lines)
    step = next((s for s in plan.steps if s.key not in done), None)
    if step is None:
        return NextAct(due.words, "keep")
    if step.number == 1 and len(job.counted(job.in_hand)) < len(job.in_hand.kit):
        return NextAct("count the kit on the bench", "kit")
    return NextAct(f"step {step.number}: {step.title[0].lower()}{step.title[1:]}", "garage")
