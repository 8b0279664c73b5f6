"""What is due on a fitted plate, from the record alone."""

from __future__ import annotations

from dataclasses import dataclass

from rugged_shield.core.assess.fitup import assess_joint
from rugged_shield.core.assess.tighten import card_of, plan_of
from rugged_shield.core.event import of_plate
from rugged_shield.core.figures import figure
from rugged_shield.core.fitup import clamped
from rugged_shield.core.job import Job, MountedJoint, Record, mounted
from rugged_shield.core.keep import (
    DueState,
    FittedJoint,
    FoundTorque,
    first_check,
    last_counter_km,
    last_found,
)
from rugged_shield.core.result import Figure, Input, Verdict
from rugged_shield.core.tables.friction import CONDITIONS
from rugged_shield.core.tighten import WrenchTool, joint_states


def _fitted(
    joints: tuple[MountedJoint, ...], wrench: WrenchTool, found: dict[str, FoundTorque]
) -> tuple[FittedJoint, ...]:
    fitted = []
    for joint, mount in ((m.joint, m.mount) for m in joints):
        layers = clamped(assess_joint(joint, mount).joint)
        last = found.get(joint.key)
        fitted.append(
            FittedJoint(
                key=joint.key,
                number=joint.number,
                name=joint.name,
                target_nm=card_of(joint, mount, wrench).result.target_nm,
                found_nm=last.torque_nm if last else None,
                has_plastic=any(layer.is_plastic for layer in layers),
                has_rubber=any(layer.is_soft for layer in layers),
                greased=CONDITIONS[joint.treatment].is_lubricant,
            )
        )
    return tuple(fitted)


def due_of(job: Job, record: Record) -> tuple[DueState, tuple[FittedJoint, ...]]:
    """When the first re-check of the picked plate is due, from the record alone."""
    joints = mounted(job.bike, job.in_hand)
    lines = of_plate(record, job.in_hand.key)
    states = joint_states(lines, plan_of(job, job.in_hand.key).built)
    fitted = _fitted(joints, job.wrench, last_found(lines))
    all_torqued = bool(states) and all(s.reading is not None for s in states.values())
    due = first_check(
        fitted, job.odometer_km, last_counter_km(record), bool(job.picked) and all_torqued
    )
    return due, fitted


@dataclass(frozen=True)
class Recheck:
    """A joint at the re-check: what it should hold, what was found, and what that means."""

    joint: FittedJoint
    target: Figure
    found: Figure | None
    verdict: Verdict
    words: str


def _recheck(at: MountedJoint, joint: FittedJoint, wrench: WrenchTool, lost: str) -> Recheck:
    card = card_of(at.joint, at.mount, wrench)
    target = figure(
        "target",
        "Target",
        joint.target_nm,
        "N·m",
        inputs=card.inputs,
        reasons=card.reasons,
        assumptions=card.assumptions,
        sources=card.sources,
    )
    if joint.found_nm is None:
        return Recheck(joint, target, None, "not known", "not re-checked yet")
    found = figure(
        "found",
        "Found at the re-check",
        joint.found_nm,
        "N·m",
        inputs=(Input("Target", joint.target_nm, "N·m"),),
        reasons=("A loss is what is found below 80 % of the target.",),
    )
    return Recheck(joint, target, found, "mind" if lost else "sound", lost or "holds")


def rechecks(job: Job, record: Record) -> tuple[DueState, tuple[Recheck, ...]]:
    """What is due, and every joint of the plate in hand as the last re-check left it."""
    due, fitted = due_of(job, record)
    losses = {f.where: f.text for f in due.findings if f.code == "loss found"}
    joints = mounted(job.bike, job.in_hand)
    return due, tuple(
        _recheck(at, joint, job.wrench, losses.get(joint.key, ""))
        for at, joint in zip(joints, fitted, strict=True)
    )
