"""Clocks of the locker on the joints of the plate in hand."""

from __future__ import annotations

from rugged_shield.core.assess.tighten.plan import done_steps, plan_of
from rugged_shield.core.event import PlateRecord
from rugged_shield.core.job.model import Job
from rugged_shield.core.tables.friction import CONDITIONS
from rugged_shield.core.tables.lockers import ASSUMED_C
from rugged_shield.core.tighten.curing import LockerClock, far_nut_clocks, locker_clocks


def clocks_of(job: Job, lines: PlateRecord) -> tuple[LockerClock, ...]:
    """Clocks of every joint of the plate in hand that has locker on its thread."""
    plan = plan_of(job, job.in_hand.key)
    lockered = {j.key: j.number for j in job.in_hand.joints if CONDITIONS[j.treatment].is_locker}
    celsius = ASSUMED_C if job.use.garage_c is None else job.use.garage_c
    done = done_steps(plan, lines)
    far = {
        f"far:{j.key}:{e.key}": (j.key, j.number)
        for j in job.in_hand.joints
        for e in j.beyond
        if CONDITIONS[e.treatment].is_locker
    }
    return (
        *locker_clocks(lines, plan.built, lockered, celsius),
        *far_nut_clocks(lines, {k: v for k, v in far.items() if k in done}, celsius),
    )
