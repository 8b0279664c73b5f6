"""Commands on the record that ask the plan: a step ticked or opened again."""

from __future__ import annotations

from rugged_shield.core.amounts import amount, entered
from rugged_shield.core.assess.tighten.plan import plan_of
from rugged_shield.core.assess.tighten.tasks import CHANGES, CLOSES, OPENS
from rugged_shield.core.errors import InputError, choose
from rugged_shield.core.event import of_kind, of_plate
from rugged_shield.core.job.edits.readings import check_picked
from rugged_shield.core.job.events import Entry, Record
from rugged_shield.core.job.model import Job
from rugged_shield.core.text import check_text
from rugged_shield.core.tighten.all_started import joint_states
from rugged_shield.core.tighten.events import (
    BikeJointClosed,
    BikeJointOpened,
    Loosened,
    RiddenAnyway,
    StageReopened,
    StepDone,
    StepReopened,
)
from rugged_shield.core.tighten.order import STAGE_LABELS
from rugged_shield.core.tighten.register import open_on_bike

MANUAL_SHARE = 0.10
"""A bike joint is closed when its torque lies within so much of its manual's."""


def _tick_bike_joint(job: Job, record: Record, kind: str, key: str, done: bool) -> Entry:
    """A joint of the bike goes into the register; it leaves it with its torque, not by a tick."""
    name = next(j.name for j in job.bike.joints if j.key == key)
    if kind == OPENS and done:
        return loosen(job, record, name, "screw")
    raise InputError(
        "step",
        f"{kind}:{key}",
        "its torque, or what was done instead, in the register",
        f"the {name} is closed in the register of what is open, not by a tick",
        "Enter its torque there.",
    )


def change_to_tick(job: Job, step: str, done: bool) -> str:
    """The change of the plate whose own tick this is; empty where the record is told.

    A change is ticked as a fact. Earlier records have ticks of changes: the record opens those.
    """
    kind, _, key = step.partition(":")
    change = next((c for c in job.in_hand.changes if c.key == key), None)
    return key if kind == CHANGES and change is not None and (done or change.done) else ""


def tick_step(job: Job, record: Record, key: str, done: bool) -> Entry:
    """A step of the plan done or open again; what the record tells by itself is not ticked."""
    check_picked(job)
    plate = job.in_hand.key
    plan = plan_of(job, plate)
    step = next((s for s in plan.steps if s.key == key), None)
    if step is None or step.kind in ("start", "full"):
        raise InputError("step", key, "a step of this plan that is only ticked")
    kind, _, joint = key.partition(":")
    if kind in (OPENS, CLOSES):
        return _tick_bike_joint(job, record, kind, joint, done)
    if done:
        return Entry(StepDone(plate=plate, step=key), f"{step.title}: done")
    return Entry(StepReopened(plate=plate, step=key), f"{step.title}: open again")


def reopen_stage(job: Job, record: Record, stage: str, reason: str) -> Entry:
    """A stage comes loose again: “rear first blocked the front: back out”. Its joints start anew.

    Raises InputError for a stage of which nothing is started, and without a reason.
    """
    check_picked(job)
    key = job.in_hand.key
    joints = tuple(j.key for j in job.in_hand.joints if j.stage == stage)
    choose("stage", stage, {j.stage for j in job.in_hand.joints}, "stage of this plate")
    words = " ".join(reason.split())
    check_text("reason", words)
    if len(words) < 3:
        raise InputError("reason", reason, "a reason in words", "nothing was entered")
    states = joint_states(of_plate(record, key), plan_of(job, key).built)
    if not any(states[j].started or states[j].reading for j in joints):
        raise InputError("stage", stage, "a stage that is begun", "nothing of it is started")
    event = StageReopened(plate=key, stage=stage, joints=joints, reason=words)
    return Entry(event, f"{STAGE_LABELS[stage].lower()}: loose again, {words}")


def loosen(job: Job, record: Record, name: str, what: Loosened) -> Entry:
    """Something of the bike is open from now on; a joint of the bike's list goes by its name.

    Raises InputError without a name, or where it is open already.
    """
    words = " ".join(name.split())
    check_text("name", words)
    if not words:
        raise InputError("name", name, "what was loosened", "nothing was entered")
    listed = next((j for j in job.bike.joints if j.name.casefold() == words.casefold()), None)
    opened = open_on_bike(record)
    if any(o.name.casefold() == words.casefold() for o in opened):
        raise InputError("name", words, "something that is closed", f"{words} is open already")
    count = len(of_kind(record, BikeJointOpened))
    key = listed.key if listed is not None else f"bike-{count + 1}"
    return Entry(BikeJointOpened(joint=key, name=words, what=what), f"{words} is open")


def close_bike_joint(
    job: Job, record: Record, key: str, torque_nm: float | None, how: str
) -> Entry:
    """It is closed again. A screw wants its torque, or in words what was done instead.

    Raises InputError where a torque is not that of its manual and nobody says why it stands.
    """
    opened = {o.joint: o for o in open_on_bike(record)}
    choose("joint", key, list(opened), "joint that is open on the bike")
    one, said = opened[key], " ".join(how.split())
    check_text("how", said)
    manual = next((j.manual_torque_nm for j in job.bike.joints if j.key == key), None)
    if one.what == "screw" and torque_nm is None and len(said) < 3:
        raise InputError("torque_nm", "", "its torque, or what was done instead", "say how")
    if torque_nm is not None and manual is not None and len(said) < 3:
        _check_manual(torque_nm, manual)
    closed = BikeJointClosed(joint=key, torque_nm=torque_nm, how=said)
    with_it = "" if torque_nm is None else f" with {amount(torque_nm, 'N·m')}"
    return Entry(closed, f"{one.name} is closed{with_it}")


def ride_anyway(job: Job, missing: tuple[str, ...], reason: str) -> Entry:
    """Rides though something is missing; the reason and all that was missing are kept."""
    check_picked(job)
    words = " ".join(reason.split())
    check_text("reason", words)
    if len(words) < 3:
        raise InputError("reason", reason, "a reason in words", "nothing was entered")
    if not missing:
        raise InputError("reason", reason, "nothing: all is there", "nothing is missing")
    event = RiddenAnyway(plate=job.in_hand.key, reason=words, missing=missing)
    return Entry(event, f"ridden though {len(missing)} things are missing: {words}")


def _check_manual(torque_nm: float, manual_nm: float) -> None:
    """Refuses a torque that is not the manual's."""
    if abs(torque_nm - manual_nm) <= MANUAL_SHARE * manual_nm:
        return
    raise InputError(
        "torque_nm",
        entered(torque_nm, "N·m"),
        f"{amount(manual_nm, 'N·m')} by its manual",
        f"this is not the torque of the manual, {amount(manual_nm, 'N·m')}",
        "Torque it again, or say why it stands.",
    )
