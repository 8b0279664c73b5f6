"""From joints to the order of work, and from the record to what is due."""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache

from rugged_shield.core.assess.fitup.covered import covered_by
from rugged_shield.core.assess.fitup.joints import JointAssessment, assess_joint
from rugged_shield.core.assess.tighten.cards import card_of, far_cards
from rugged_shield.core.assess.tighten.settling import turn_from_snug_deg
from rugged_shield.core.assess.tighten.tasks import CLOSES, OPENS, plan_around
from rugged_shield.core.event import LoosensJoints, PlateRecord, of_kind
from rugged_shield.core.fitup.joint import as_built
from rugged_shield.core.fitup.layer import LOOSE_KINDS
from rugged_shield.core.job.model import Job, MountedJoint, mounted
from rugged_shield.core.mechanics.frames import side_words
from rugged_shield.core.mechanics.threads import screw_size
from rugged_shield.core.remembered import ByIdentity
from rugged_shield.core.tables.friction import CONDITIONS
from rugged_shield.core.tighten.all_started import joint_states
from rugged_shield.core.tighten.events import (
    BikeJointClosed,
    BikeJointOpened,
    JointRenewed,
    Reading,
    StepDone,
    StepReopened,
    TakenBack,
    ThreadDamaged,
)
from rugged_shield.core.tighten.faces import drive_tool, nut_tool
from rugged_shield.core.tighten.order import PlanJoint, PlanNut
from rugged_shield.core.tighten.plan import Plan, PlanAround, make_plan
from rugged_shield.core.tighten.torque import WrenchTool
from rugged_shield.core.tighten.wrench import LEAST_SHARE


def hardware_words(assessed: JointAssessment) -> str:
    """Screw and what goes with it, as one says it."""
    joint = assessed.joint
    parts = [f"{screw_size(joint.thread, assessed.length_mm)} {joint.head} {joint.grade}"]
    if joint.is_stud:
        parts = []
    parts += [layer.name for layer in joint.present() if layer.kind in LOOSE_KINDS]
    if joint.nut:
        parts.append(f"nut {joint.nut}")
    return " + ".join(parts)


def _caution(joint_assessed: JointAssessment) -> str:
    joint = joint_assessed.joint
    if joint.nut == "ISO 7040" and joint.treatment == "medium locker":
        return "No locker on a nylon-insert nut: it eats the insert."
    if CONDITIONS[joint.treatment].is_locker:
        return "Locker on this thread: let it cure before riding."
    if joint.is_stud:
        return "If the stud turns with its nut, stop: seat it anew before you go on."
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


def _far_nuts(at: MountedJoint, wrench: WrenchTool) -> tuple[PlanNut, ...]:
    """Nuts on the end of a joint's screw as steps of their own."""
    held = "the nut before it" if at.joint.is_stud else "the head"
    return tuple(
        PlanNut(
            key=far.engagement.key,
            name=far.engagement.name,
            tool=f"{card.result.tool}, {held} held with {card.result.counter_tool}",
            hardware=f"nut {far.engagement.nut}{' + washer' if far.engagement.washer else ''}",
            treatment=CONDITIONS[far.engagement.treatment].label,
            torque_nm=card.result.target_nm,
            setting_nm=card.result.setting_nm,
            caution=" ".join(f.text for f in (*far.findings, *card.findings)),
        )
        for far, card in far_cards(at.joint, at.mount, wrench)
    )


@lru_cache(maxsize=512)
def _plan_joint(at: MountedJoint, wrench: WrenchTool) -> PlanJoint:
    joint = at.joint
    assessed = assess_joint(joint, at.mount)
    card = card_of(joint, at.mount, wrench).result
    half_n = (card.preload_min_n + card.preload_max_n) / 4
    return PlanJoint(
        key=joint.key,
        number=joint.number,
        name=joint.name,
        stage=joint.stage,
        x_mm=at.x_mm,
        y_mm=at.y_mm,
        where=_where(joint.name, at.y_mm) if at.is_placed else joint.name,
        tool=nut_tool(joint) if joint.is_stud else drive_tool(joint),
        on_stud=joint.is_stud,
        sheets=joint.sheets,
        hardware=hardware_words(assessed),
        treatment=CONDITIONS[joint.treatment].label,
        torque_nm=card.target_nm,
        setting_nm=card.setting_nm,
        caution=_caution(assessed),
        as_built=as_built(joint),
        band_nm=(card.low_nm, card.high_nm),
        rank=at.rank,
        start_rank=at.start_rank,
        screw_mm=assessed.length_mm,
        far=_far_nuts(at, wrench),
        is_lockered=CONDITIONS[joint.treatment].is_locker,
        held_loose=joint.held_loose,
        least_setting_nm=LEAST_SHARE * wrench.scale_max_nm,
        half_turn_deg=turn_from_snug_deg(joint, at.mount, half_n) if half_n > 1.0 else None,
    )


def plan_joints(
    joints: tuple[MountedJoint, ...], wrench: WrenchTool, hidden: frozenset[str] = frozenset()
) -> tuple[PlanJoint, ...]:
    """The joints of one plate as the order of work needs them; ``hidden`` ones by key."""
    of_plan = (_plan_joint(m, wrench) for m in joints)
    return tuple(replace(j, hidden=True) if j.key in hidden else j for j in of_plan)


@lru_cache(maxsize=512)
def plan_for(
    joints: tuple[MountedJoint, ...],
    wrench: WrenchTool,
    around: PlanAround = PlanAround(),
    hidden: frozenset[str] = frozenset(),
) -> Plan:
    """The order of work for the joints of one plate, with the rider's wrench."""
    return make_plan(plan_joints(joints, wrench, hidden), around)


def plan_of(job: Job, key: str) -> Plan:
    """The order of work for one plate of the job."""
    candidate = job.candidate(key)
    return plan_for(
        mounted(job.bike, candidate),
        job.wrench,
        plan_around(job.bike, candidate),
        frozenset(covered_by(candidate.plate, mounted(job.bike, candidate))),
    )


def next_to_torque(plan: Plan, done: frozenset[str]) -> str:
    """The joint whose final torque comes next in the plan; empty where all have theirs."""
    return next((s.joint for s in plan.steps if s.kind == "full" and s.key not in done), "")


def _without_far(done: set[str], joints: tuple[str, ...]) -> set[str]:
    """Ticks without those of the nuts on the ends of these joints."""
    starts = tuple(f"far:{joint}:" for joint in joints)
    return {step for step in done if not step.startswith(starts)}


def _of_the_bike(plan: Plan, done: set[str], opened: set[str], closed: set[str]) -> set[str]:
    """Steps on the bike's own joints, by the register; what the work went past was not needed."""
    found = set[str]()
    for step in plan.steps:
        kind, _, joint = step.key.partition(":")
        if kind == OPENS and (joint in opened or "hang" in done):
            found.add(step.key)
        if kind == CLOSES and (joint in closed or (joint not in opened and "sweep" in done)):
            found.add(step.key)
    return found


_OF_STEPS = (
    BikeJointOpened, BikeJointClosed, StepDone, StepReopened, LoosensJoints, JointRenewed,
    ThreadDamaged, Reading, TakenBack,
)  # fmt: skip


def _told_of_steps(record: PlateRecord) -> PlateRecord:
    return PlateRecord(of_kind(record, *_OF_STEPS))


_OF_PLAN = ByIdentity[PlateRecord, PlateRecord](_told_of_steps, 32)


def done_steps(plan: Plan, record: PlateRecord) -> frozenset[str]:
    """Steps the record holds as done: ticked, started, or with a reading within its band."""
    done: set[str] = set()
    opened, closed = set[str](), set[str]()
    for event in _OF_PLAN(record):
        if isinstance(event, BikeJointOpened):
            opened.add(event.joint)
            closed.discard(event.joint)
        elif isinstance(event, BikeJointClosed):
            closed.add(event.joint)
        elif isinstance(event, StepDone):
            done.add(event.step)
        elif isinstance(event, StepReopened):
            done.discard(event.step)
        elif isinstance(event, LoosensJoints):
            done -= {f"{kind}:{joint}" for kind in ("half", "verify") for joint in event.joints}
            done = _without_far(done, event.joints)
        elif isinstance(event, JointRenewed | ThreadDamaged):
            done -= {f"{kind}:{event.joint}" for kind in ("half", "verify")}
            done = _without_far(done, (event.joint,))
        elif isinstance(event, Reading | TakenBack):
            # the screw was turned: the nut on its end is to be tightened after that
            done = _without_far(done, (event.joint,))
    for key, state in joint_states(record, plan.built).items():
        if state.started:
            done.add(f"start:{key}")
        done.discard(f"full:{key}")
        if state.reading is not None:
            done.add(f"half:{key}")
            low, high = plan.bands_nm[key]
            if low <= state.reading.torque_nm and (
                state.reading.torque_nm <= high or state.reading.accepted
            ):
                done.add(f"full:{key}")
        if state.before_change is not None:
            done -= {f"half:{key}", f"verify:{key}"}
        if f"full:{key}" not in done:
            done = _without_far(done, (key,))
    done |= _of_the_bike(plan, done, opened, closed)
    if "sweep" in done:  # a piece that was not ticked hangs, when all was looked over
        done |= {s.key for s in plan.steps if s.piece}
    done |= plan.carried_out  # of the plate's changes, which are ticked as facts
    return frozenset(done & {s.key for s in plan.steps})
