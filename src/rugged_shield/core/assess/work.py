"""From joints to the order of work, and from the record to what is due."""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache

from rugged_shield.core.assess.job import Candidate, Job, place_of
from rugged_shield.core.assess.stacks import JointAssessment, assess_joint, assess_joints, card_of
from rugged_shield.core.fitup import clamped
from rugged_shield.core.keep import DueState, FittedJoint, first_check
from rugged_shield.core.mechanics.frames import side_words
from rugged_shield.core.survey import Bike, SagReadings
from rugged_shield.core.tables.friction import CONDITIONS
from rugged_shield.core.tables.materials import SHEET_MATERIALS
from rugged_shield.core.tighten import (
    JointState,
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


def next_act(job: Job, records: tuple[Record, ...]) -> str:
    """What is due next on a job, in words: a choice, a count, a step or a re-check."""
    if not job.picked:
        return f"weigh {len(job.candidates)} plates and pick one"
    due, _ = due_of(job, records)
    if due.state != "not fitted":
        return due.words
    plan = plan_of(job, job.in_hand.key)
    done = done_steps(plan, records)
    step = next((s for s in plan.steps if s.key not in done), None)
    if step is None or (step.number == 1 and len(job.counted(job.in_hand)) < len(job.in_hand.kit)):
        return "count the kit on the bench" if step else "enter the counter's km in Keep"
    return f"step {step.number}: {step.title[0].lower()}{step.title[1:]}"


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
