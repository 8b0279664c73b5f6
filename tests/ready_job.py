"""A job that is ready to ride in every way: what each way to hurt bike or rider starts from."""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache

from rugged_shield.core.assess.tighten.cards import card_of, limit_of
from rugged_shield.core.assess.tighten.plan import done_steps, plan_of
from rugged_shield.core.event import of_plate
from rugged_shield.core.fitup.gap_seen import GapSeen
from rugged_shield.core.job.edits.clearances import usual_neighbours
from rugged_shield.core.job.edits.readings import take_reading
from rugged_shield.core.job.events import Event, Record
from rugged_shield.core.job.model import Job
from rugged_shield.core.tighten.events import Reading, StepDone
from tests.conftest import demo_file

NOW = "2027-03-01T12:00:00+00:00"
"""Long after the last locker holds."""
PLATE = "alu5"


def _measured(job: Job) -> Job:
    """The demo's half fitted bike with nothing left to look at."""
    bike = replace(
        job.bike,
        front_travel_mm=60.0,
        rake_deg=26.0,
        front_mudguard_mm=0.0,
        parts=tuple(
            replace(p, known="measured", facts=(), required_gap_mm=min(p.required_gap_mm, 2.0))
            for p in job.bike.parts
        ),
        mounts=tuple(replace(m, known="measured", facts=()) for m in job.bike.mounts),
        neighbours=(),
    )
    use = replace(job.use, boot_toe_mm=90.0, glove_finger_mm=20.0, garage_c=20.0)
    job = usual_neighbours(replace(job, bike=bike, use=use)).job
    own = job.as_entered(PLATE)
    gaps = tuple(GapSeen(key=n.key, gap_mm=40.0) for n in job.bike.neighbours)
    joints = []
    for joint in own.joints:
        torque_nm = 8.0 if joint.thread == "M6" else 18.0
        joints.append(
            replace(
                joint,
                grade="10.9",
                treatment="dry zinc",
                sheet_torque_nm=torque_nm,
                manual_torque_nm=torque_nm,
            )
        )
    return job.with_candidate(replace(own, gaps=gaps, joints=tuple(joints)))


def told(record: Record, *events: Event) -> Record:
    """The record with lines added, numbered on."""
    out = list(record)
    for event in events:
        seq = (out[-1].seq if out else 0) + 1
        out.append(replace(event, seq=seq, at=event.at or "2026-11-22T10:00:00+00:00"))
    return tuple(out)


def torqued(job: Job, record: Record, joint: str, nm: float | None = None) -> Record:
    """A joint read at its target, or at what is told."""
    own = next(j for j in job.in_hand.settled_joints() if j.key == joint)
    target = card_of(own, job.mount_of(own), job.wrench).result.target_nm
    event = take_reading(
        job, record, joint, target if nm is None else nm, override="by hand, one by one",
        limit_nm=limit_of(job, joint),
    ).event  # fmt: skip
    assert isinstance(event, Reading)
    return told(record, replace(event, overridden=False, reason=""))


@lru_cache(maxsize=1)
def ready_job() -> tuple[Job, Record]:
    """Everything measured, fitted, torqued, swept and cured."""
    file = demo_file("half_fitted")
    job = _measured(file.job)
    # Started by hand as the demo tells it; torqued anew, with the screws that are in now.
    record: Record = tuple(e for e in file.records if not isinstance(e, Reading))
    for joint in job.in_hand.joints:
        record = torqued(job, record, joint.key)
    return job, finished(job, record)


def finished(job: Job, record: Record) -> Record:
    """Every step of the plan that is only ticked, ticked."""
    plan = plan_of(job, job.in_hand.key)
    done = done_steps(plan, of_plate(record, job.in_hand.key))
    left = [s for s in plan.steps if s.key not in done and s.kind in ("task", "half", "verify")]
    return told(record, *(StepDone(plate=job.in_hand.key, step=s.key) for s in left))
