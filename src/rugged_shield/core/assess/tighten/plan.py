"""From joints to the order of work, and from the record to what is due."""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache

from rugged_shield.core.assess.fitup import JointAssessment, assess_joints
from rugged_shield.core.assess.tighten.cards import card_of
from rugged_shield.core.job import Candidate, Job, place_of
from rugged_shield.core.mechanics.frames import side_words
from rugged_shield.core.survey import Bike, SagReadings
from rugged_shield.core.tables.friction import CONDITIONS
from rugged_shield.core.tighten import (
    Plan,
    PlanJoint,
    Record,
    WrenchTool,
    drive_tool,
    joint_states,
    make_plan,
)


def hardware_words(assessed: JointAssessment) -> str:
    """Screw and what goes with it, as one says it."""
    joint = assessed.joint
    parts = [f"{joint.thread} × {assessed.length_mm:g} {joint.head} {joint.grade}"]
    parts += [
        layer.name
        for layer in joint.present()
        if layer.kind in ("washer", "spacer", "sleeve", "shim")
    ]
    if joint.nut:
        parts.append(f"nut {joint.nut}")
    return " + ".join(parts)


def _caution(joint_assessed: JointAssessment) -> str:
    joint = joint_assessed.joint
    if joint.nut == "ISO 7040" and joint.treatment == "medium locker":
        return "No locker on a nylon-insert nut: it eats the insert."
    if CONDITIONS[joint.treatment].is_locker:
        return "Locker on this thread: let it cure before riding."
    if joint.thread_owner == "bike" and not joint.nut:
        return "The thread is in the bike: a stripped boss costs far more than a screw."
    return ""


def _where(name: str, y_mm: float) -> str:
    """Name and side, without saying left or right twice."""
    side = side_words(y_mm)
    if "left" in name or "right" in name:
        side = side.split(" · ")[-1]
    return f"{name} · {side}"


def step_at(plan: Plan, done: frozenset[str]) -> int:
    """Number of the first step that is not done; one past the last when all are."""
    return next((s.number for s in plan.steps if s.key not in done), len(plan.steps) + 1)


def _plan_joint(bike: Bike, joint_assessed: JointAssessment, wrench: WrenchTool) -> PlanJoint:
    joint = joint_assessed.joint
    x, y = place_of(bike, joint)
    card = card_of(joint, bike.mount(joint.mount), wrench).result
    return PlanJoint(
        key=joint.key,
        number=joint.number,
        name=joint.name,
        stage=joint.stage,
        x_mm=x,
        y_mm=y,
        where=_where(joint.name, y),
        tool=drive_tool(joint),
        hardware=hardware_words(joint_assessed),
        treatment=CONDITIONS[joint.treatment].label,
        torque_nm=card.target_nm,
        setting_nm=card.setting_nm,
        caution=_caution(joint_assessed),
    )


def plan_for(bike: Bike, candidate: Candidate, wrench: WrenchTool) -> Plan:
    """The order of work for one plate on a bike, with the rider's wrench."""
    return _plan_for(mounts_only(bike), candidate, wrench)


@lru_cache(maxsize=256)
def mounts_only(bike: Bike) -> Bike:
    """The bike with its mounts alone: what joints and plan depend on, whatever is behind."""
    return replace(bike, parts=(), joints=(), added=(), facts=(), sag=SagReadings())


@lru_cache(maxsize=512)
def _plan_for(bike: Bike, candidate: Candidate, wrench: WrenchTool) -> Plan:
    return make_plan(tuple(_plan_joint(bike, a, wrench) for a in assess_joints(bike, candidate)))


def plan_of(job: Job, key: str) -> Plan:
    """The order of work for one plate of the job."""
    return plan_for(job.bike, job.candidate(key), job.wrench)


def done_steps(plan: Plan, records: tuple[Record, ...]) -> frozenset[str]:
    """Steps the record holds as done: ticked, started, or with a standing reading."""
    done: set[str] = set()
    for record in records:
        if record.kind == "step done":
            done.add(record.step)
        elif record.kind == "step reopened":
            done.discard(record.step)
    states = joint_states(records, plan.joint_order)
    for key, state in states.items():
        if state.started:
            done.add(f"start:{key}")
        if state.reading is not None:
            done |= {f"half:{key}", f"full:{key}"}
        else:
            done.discard(f"full:{key}")
    return frozenset(done & {s.key for s in plan.steps})
