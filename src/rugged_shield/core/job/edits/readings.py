"""Commands on the record while a plate is fitted: screws started, torque read, taken back."""

from __future__ import annotations

from rugged_shield.core.amounts import amount
from rugged_shield.core.errors import InputError
from rugged_shield.core.event import of_kind, of_plate
from rugged_shield.core.fitup.joint import as_built
from rugged_shield.core.job.events import Entry, Record
from rugged_shield.core.job.model import Job
from rugged_shield.core.text import check_text
from rugged_shield.core.tighten.all_started import joint_states, started_refusal
from rugged_shield.core.tighten.events import (
    JointRenewed,
    Reading,
    Started,
    TakenBack,
    ThreadDamaged,
)

LEAST_REASON = 3
"""Letters of a reason to go on all the same."""


def check_picked(job: Job) -> None:
    """Work is recorded on a picked plate only."""
    if not job.picked:
        raise InputError(
            "picked", "", "a picked plate", "no plate is picked yet", "Pick one in Weigh-up first."
        )


def joint_number(job: Job, key: str) -> int:
    """Number of a joint of the plate in hand; raises InputError."""
    for joint in job.in_hand.joints:
        if joint.key == key:
            return joint.number
    raise InputError("joint", key, "a joint of this plate", f"there is no joint “{key}”")


def start_joint(job: Job, joint: str) -> Entry:
    """A screw was started by hand."""
    check_picked(job)
    number = joint_number(job, joint)
    event = Started(plate=job.in_hand.key, joint=joint)
    return Entry(event, f"joint {number} started by hand")


def take_reading(
    job: Job,
    record: Record,
    joint: str,
    torque_nm: float,
    override: str = "",
    accepted: str = "",
    limit_nm: float | None = None,
) -> Entry:
    """A torque reading; refused while screws of its stage are not started, unless with a reason.

    ``accepted``: why it stands although it is above the joint's limit, which is ``limit_nm`` as
    the joint is made now. Refused on a damaged thread.
    """
    check_picked(job)
    number = joint_number(job, joint)
    joints = job.in_hand.settled_joints()
    built = {j.key: as_built(j) for j in joints}
    states = joint_states(of_plate(record, job.in_hand.key), built)
    refusal = started_refusal(
        joint, {j.key: j.gate for j in joints}, states, {j.key: j.number for j in joints}
    )
    if states[joint].damaged is not None:
        raise InputError(
            "joint",
            joint,
            "a joint that was made good",
            f"the thread of joint {number} is damaged: nothing is torqued on it",
            "Say first what was done: a new screw, a new nut, an insert.",
        )
    reason = " ".join(override.split())
    if refusal and len(reason) < LEAST_REASON:
        raise InputError(
            "override",
            reason,
            "a reason of three letters or more",
            refusal,
            "Start the missing joints, or say why you go on without them.",
        )
    kept = " ".join(accepted.split())
    if kept and len(kept) < LEAST_REASON:
        raise InputError("accepted", kept, "a reason of three letters or more")
    words = f"joint {number} torqued to {amount(torque_nm, 'N·m')}"
    if refusal:
        words += f", not all started: {reason}"
    if kept:
        words += f", kept: {kept}"
    event = Reading(
        plate=job.in_hand.key,
        joint=joint,
        torque_nm=torque_nm,
        overridden=bool(refusal),
        reason=reason if refusal else "",
        as_built=built[joint],
        accepted=kept,
        limit_nm=limit_nm,
    )
    return Entry(event, words)


def _said(field: str, words: str, least: int = LEAST_REASON) -> str:
    said = " ".join(words.split())
    check_text(field, said)
    if len(said) < least:
        raise InputError(field, words, "what was seen or done, in words", "nothing was entered")
    return said


def damage_thread(job: Job, joint: str, what: str) -> Entry:
    """The thread of a joint is damaged: it stays open until it is made good."""
    check_picked(job)
    number = joint_number(job, joint)
    event = ThreadDamaged(plate=job.in_hand.key, joint=joint, what=_said("what", what, 0))
    return Entry(event, f"the thread of joint {number} is damaged")


def renew_joint(job: Job, joint: str, how: str) -> Entry:
    """A joint was made good, and how: it is loose until it is torqued again."""
    check_picked(job)
    number = joint_number(job, joint)
    event = JointRenewed(plate=job.in_hand.key, joint=joint, how=_said("how", how))
    return Entry(event, f"joint {number} made good: {event.how}")


def take_reading_back(job: Job, record: Record, seq: int, reason: str) -> Entry:
    """Take a standing reading back; both lines stay in the record."""
    gone = {e.ref for e in of_kind(record, TakenBack)}
    target = next((e for e in of_kind(record, Reading) if e.seq == seq), None)
    if target is None or seq in gone or target.plate != job.in_hand.key:
        raise InputError("seq", seq, "a standing reading of this plate")
    event = TakenBack(
        plate=target.plate,
        joint=target.joint,
        ref=seq,
        torque_nm=target.torque_nm,
        reason=" ".join(reason.split()),
    )
    return Entry(event, f"reading of joint {joint_number(job, target.joint)} taken back")
