"""What is due on a fitted plate, from the record alone."""

from __future__ import annotations

from rugged_shield.core.assess.fitup import assess_joint
from rugged_shield.core.assess.tighten import card_of, plan_of
from rugged_shield.core.fitup import clamped
from rugged_shield.core.job import Candidate, Job
from rugged_shield.core.keep import DueState, FittedJoint, first_check
from rugged_shield.core.tables.friction import CONDITIONS
from rugged_shield.core.tables.materials import SHEET_MATERIALS
from rugged_shield.core.tighten import (
    JointState,
    Record,
    joint_states,
)


def _fitted(
    job: Job, candidate: Candidate, states: dict[str, JointState]
) -> tuple[FittedJoint, ...]:
    fitted = []
    for joint in candidate.settled_joints():
        assessed = assess_joint(joint, job.mount_of(joint))
        card = card_of(joint, job.mount_of(joint), job.wrench).result
        layers = clamped(assessed.joint)
        found = states[joint.key].found
        fitted.append(
            FittedJoint(
                key=joint.key,
                number=joint.number,
                name=joint.name,
                target_nm=card.target_nm,
                found_nm=found.torque_nm if found else None,
                has_plastic=any(
                    SHEET_MATERIALS[k.material].family == "plastic"
                    for k in layers
                    if k.material in SHEET_MATERIALS
                ),
                has_rubber=any(k.material == "rubber" for k in layers),
                greased=CONDITIONS[joint.treatment].is_lubricant,
            )
        )
    return tuple(fitted)


def due_of(job: Job, records: tuple[Record, ...]) -> tuple[DueState, tuple[FittedJoint, ...]]:
    """When the first re-check of the picked plate is due, from the record alone."""
    candidate = job.in_hand
    plan = plan_of(job, candidate.key)
    states = joint_states(records, plan.joint_order)
    fitted = _fitted(job, candidate, states)
    all_torqued = bool(states) and all(s.reading is not None for s in states.values())
    last_km = [r.km for r in records if r.kind == "km" and r.km is not None]
    due = first_check(
        fitted, job.odometer_km, last_km[-1] if last_km else None, bool(job.picked) and all_torqued
    )
    return due, fitted
