"""Parts that stand in for others: whether their joint allows them, and what is still owed."""

from __future__ import annotations

from dataclasses import dataclass, replace

from rugged_shield.core.assess.fitup.joints import assess_joint
from rugged_shield.core.assess.fitup.metals import metal_pairs
from rugged_shield.core.assess.kit.lines import need_words, needs_of
from rugged_shield.core.fitup.joint import Joint
from rugged_shield.core.fitup.substitute import Substitute
from rugged_shield.core.job.model import Job, MountedJoint, mounted
from rugged_shield.core.result import Finding, Outcome, Verdict, finding, worst
from rugged_shield.core.survey.bike import Mount
from rugged_shield.core.tables.grades import GRADES, NOT_READ
from rugged_shield.core.tighten.torque import TorqueCard, torque_card
from rugged_shield.core.weighup.corrosion import CorrosionInput, corrosion


@dataclass(frozen=True, kw_only=True)
class Debt:
    """One substitute as judged: what is used, instead of what, whether its joint allows it.

    ``limit_nm``: the torque that the joint stands with it; ``was_nm`` with its own part.
    """

    key: str
    joint: int
    joint_key: str
    joint_name: str
    part: str
    used: str
    instead_of: str
    owed: bool
    paid: bool
    for_good: bool
    replace_by: str
    note: str
    verdict: Verdict
    findings: tuple[Finding, ...]
    limit_nm: float | None
    was_nm: float | None


def own_joints(job: Job) -> tuple[MountedJoint, ...]:
    """The joints of the plate in hand with their own parts in them."""
    entered = job.as_entered(job.in_hand.key)
    bare = job.with_candidate(replace(entered, substitutes=()))
    return mounted(bare.bike, bare.candidate(entered.key))


def _new_pairs(with_it: Joint, own: Joint, mount: Mount | None) -> tuple[Finding, ...]:
    """Metals that corrode with the substitute and did not with the part it stands for."""
    before = {f.text for f in corrosion(CorrosionInput(tuple(metal_pairs(own, mount)))).findings}
    now = corrosion(CorrosionInput(tuple(metal_pairs(with_it, mount)))).findings
    return tuple(f for f in now if f.text not in before)


def _card(joint: Joint, mount: Mount | None, job: Job) -> Outcome[TorqueCard]:
    return torque_card(joint, mount, assess_joint(joint, mount).stack.result, job.wrench)


def _grade_words(with_it: Joint, own: Joint) -> tuple[Finding, ...]:
    """A weaker screw is said, and one whose class nobody read is not known."""
    if with_it.grade == own.grade:
        return ()
    if with_it.grade == NOT_READ:
        return (finding("screw's class not read", "Read the class on the head before it is used."),)
    if own.grade != NOT_READ and GRADES[with_it.grade].rp02_mpa < GRADES[own.grade].rp02_mpa:
        words = f"A {with_it.grade} screw holds less than the {own.grade} that belongs here."
        return (finding("owed", words),)
    return ()


def _judged(job: Job, sub: Substitute, joint: Joint, own: Joint) -> Debt:
    mount = job.mount_of(joint)
    need = next((n for n in needs_of(assess_joint(own, mount)) if n.part == sub.part), None)
    now, before = _card(joint, mount, job).result, _card(own, mount, job).result
    found = [
        *assess_joint(joint, mount).findings,
        *_grade_words(joint, own),
        *_new_pairs(joint, own, mount),
    ]
    if need is None:
        found.append(finding("owed", "The place it stood in is gone from this joint."))
    if sub.is_debt:
        until = f" by {sub.replace_by}" if sub.replace_by else ""
        found.append(finding("owed", f"Stands in until its own part is there{until}."))
    return Debt(
        key=sub.key,
        joint=joint.number,
        joint_key=joint.key,
        joint_name=joint.name,
        part=sub.part,
        used=sub.name,
        instead_of=need_words(need) if need else "",
        owed=sub.is_debt,
        paid=sub.paid,
        for_good=sub.for_good,
        replace_by=sub.replace_by,
        note=sub.note,
        verdict=worst(() if sub.paid else (f.verdict for f in found)),
        findings=() if sub.paid else tuple(found),
        limit_nm=now.limit_nm,
        was_nm=before.limit_nm,
    )


def debts_of(job: Job) -> tuple[Debt, ...]:
    """Every substitute of the plate in hand; those whose joint is gone are left out."""
    if not job.in_hand.substitutes:
        return ()
    settled = {j.key: j for j in job.in_hand.settled_joints()}
    own = {m.joint.key: m.joint for m in own_joints(job)}
    return tuple(
        _judged(job, sub, settled[sub.joint], own[sub.joint])
        for sub in job.in_hand.substitutes
        if sub.joint in settled
    )


def owed(job: Job) -> tuple[Substitute, ...]:
    """Substitutes of the plate in hand that are still debts."""
    return tuple(sub for sub in job.in_hand.substitutes if sub.is_debt)
