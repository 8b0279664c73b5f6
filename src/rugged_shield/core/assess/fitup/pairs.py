"""Joints that stand opposite each other: how they differ, and whether they should."""

from __future__ import annotations

from dataclasses import dataclass

from rugged_shield.core.amounts import amount, entered
from rugged_shield.core.assess.fitup.joints import JointAssessment
from rugged_shield.core.fitup.joint import Joint
from rugged_shield.core.fitup.layer import Layer
from rugged_shield.core.job.model import MountedJoint
from rugged_shield.core.survey.bike import Mount

OPPOSITE_MM = 30.0
"""Two joints whose places mirror each other within this are one pair."""
ALIKE_MM = 0.5
"""Mounts that differ by less than this may well have the same stack."""


@dataclass(frozen=True, kw_only=True)
class Pair:
    """The joint on the other side: its differences in words, and what is odd about the two."""

    key: str
    number: int
    name: str
    differences: tuple[str, ...]
    odd: str


def opposite(at: MountedJoint, joints: tuple[MountedJoint, ...]) -> MountedJoint | None:
    """The joint that stands where this one's mirror image would; None on the centre line."""
    if abs(at.y_mm) <= 1.0 or not at.is_placed:
        return None
    found = [
        other
        for other in joints
        if other.joint.key != at.joint.key
        and other.is_placed
        and abs(other.x_mm - at.x_mm) <= OPPOSITE_MM
        and abs(other.y_mm + at.y_mm) <= OPPOSITE_MM
    ]
    return min(
        found,
        key=lambda o: abs(o.x_mm - at.x_mm) + abs(o.y_mm + at.y_mm),
        default=None,
    )


def _layers(joint: Joint) -> list[Layer]:
    return list(joint.present())


def _said(layer: Layer) -> str:
    return f"{layer.kind} of {entered(layer.thickness_mm, 'mm')} {layer.material}"


def _stack_words(mine: Joint, theirs: Joint) -> list[str]:
    """Layers that one has and the other lacks, the same ones taken off each other."""
    left = [_said(x) for x in _layers(theirs)]
    only_mine = []
    for layer in _layers(mine):
        words = _said(layer)
        if words in left:
            left.remove(words)
        else:
            only_mine.append(words)
    out = [f"{words} here, not on the other side" for words in only_mine]
    return out + [f"{words} on the other side, not here" for words in left]


def _turned(joint: Joint) -> str:
    return "nut" if joint.turns_nut else "head"


def _differences(mine: JointAssessment, theirs: JointAssessment) -> list[str]:
    a, b = mine.joint, theirs.joint
    out = []
    if mine.length_mm != theirs.length_mm:
        here, there = entered(mine.length_mm, "mm"), entered(theirs.length_mm, "mm")
        out.append(f"screw {here} here, {there} on the other side")
    for what, one, other in (
        ("thread", a.thread, b.thread),
        ("head", a.head, b.head),
        ("class", a.grade, b.grade),
        ("nut", a.nut or "none", b.nut or "none"),
        ("treatment", a.treatment, b.treatment),
        ("turned side", _turned(a), _turned(b)),
        ("way it faces", a.orientation or "not said", b.orientation or "not said"),
    ):
        if one != other:
            out.append(f"{what}: {one} here, {other} on the other side")
    return out + _stack_words(a, b)


def _mounts_differ(mine: Mount | None, theirs: Mount | None) -> str:
    """How the two mounts differ in what a stack depends on; empty: they do not, or one is none."""
    if mine is None or theirs is None:
        return ""
    for what, one, other in (
        ("height", mine.z_mm, theirs.z_mm),
        ("depth of thread", mine.thread_end_mm, theirs.thread_end_mm),
        ("lead before the thread", mine.thread_start_mm, theirs.thread_start_mm),
    ):
        if abs(one - other) > ALIKE_MM:
            here, there = amount(one, "mm", 1), amount(other, "mm", 1)
            return f"{what} {here} here, {there} on the other side"
    return ""


def pair_of(
    key: str, judged: tuple[JointAssessment, ...], joints: tuple[MountedJoint, ...]
) -> Pair | None:
    """The opposite joint of one, with all that differs; the same on both sides of mounts that are
    not alike is said as odd."""
    at = next((m for m in joints if m.joint.key == key), None)
    other = None if at is None else opposite(at, joints)
    if at is None or other is None:
        return None
    by_key = {a.joint.key: a for a in judged}
    found = _differences(by_key[key], by_key[other.joint.key])
    unlike = _mounts_differ(at.mount, other.mount)
    odd = ""
    if unlike and not found:
        odd = f"Both sides were given the same, though their mounts differ: {unlike}."
    return Pair(
        key=other.joint.key,
        number=other.joint.number,
        name=other.joint.name,
        differences=tuple(found),
        odd=odd,
    )
