"""Screws to carry for a plate: the fewest that put any of its joints right on the trail."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass

from rugged_shield.core.amounts import entered
from rugged_shield.core.assess.fitup.joints import JointAssessment, assess_joints
from rugged_shield.core.fitup.beyond import far_joints
from rugged_shield.core.fitup.layer import LOOSE_KINDS
from rugged_shield.core.job.model import Job, MountedJoint, mounted
from rugged_shield.core.keep.spares import Spare, SpareJoint, SparesInput, spares
from rugged_shield.core.mechanics.threads import nominal_size
from rugged_shield.core.result import Source, merge_sources
from rugged_shield.core.tighten.faces import drive_tool


@dataclass(frozen=True)
class SpareScrew:
    """A screw to carry: its head's standard, its size, how many, for which joints."""

    head: str
    spare: Spare


@dataclass(frozen=True)
class LoosePart:
    """A loose part to carry: what it is, how many, for which joints."""

    what: str
    count: int
    joints: tuple[int, ...]


@dataclass(frozen=True)
class Carry:
    """What to carry; ``none_fits``: numbers of joints for which no length does.

    ``loose``: nuts, washers, spacers and the like, so many of each as any one joint has.
    """

    screws: tuple[SpareScrew, ...]
    loose: tuple[LoosePart, ...]
    none_fits: tuple[int, ...]
    sources: tuple[Source, ...]


def _lengths(assessed: JointAssessment) -> tuple[float, ...]:
    """Lengths that its stack accepts, the one in hand among them where it is right."""
    own = assessed.joint.length_mm
    lengths = set(assessed.stack.result.acceptable_lengths_mm)
    if own is not None and not assessed.evaluation.issues:
        lengths.add(own)
    return tuple(sorted(lengths))


_FALLS_OUT = (*LOOSE_KINDS, "isolator")


def _loose_of(at: MountedJoint) -> Counter[str]:
    """Loose parts of one joint and of the nuts beyond it, in words, each as often as it is there.

    What is in the stack and falls on the ground when the screw comes out.
    """
    joint = at.joint
    size = nominal_size(joint.thread)
    layers = [layer for layer in joint.present() if layer.kind in _FALLS_OUT]
    nuts: list[str] = [joint.nut] if joint.nut else []
    for far, _, own in far_joints(joint, at.mount):
        layers += [layer for layer in own.layers[1:] if layer.kind in _FALLS_OUT]
        nuts.append(far.nut)
    parts = Counter(
        f"{layer.name} {entered(layer.thickness_mm, 'mm')} for {size}, {layer.material}"
        for layer in layers
    )
    parts.update(f"nut {nut}, {joint.thread}" for nut in nuts)
    return parts


def _loose_parts(joints: tuple[MountedJoint, ...]) -> tuple[LoosePart, ...]:
    """Enough of each for whichever joint loses its own; of several joints one at a time."""
    found: dict[str, tuple[int, list[int]]] = {}
    for at in joints:
        for what, count in _loose_of(at).items():
            most, numbers = found.get(what, (0, []))
            found[what] = (max(most, count), [*numbers, at.joint.number])
    return tuple(LoosePart(what, n, tuple(at)) for what, (n, at) in sorted(found.items()))


def carry_of(job: Job) -> Carry:
    """Spare screws for the plate in hand, each joint by the lengths that its stack accepts.

    A head does not stand for another one: each kind is covered on its own.
    """
    by_head: dict[str, list[SpareJoint]] = {}
    without = []
    for a in assess_joints(mounted(job.bike, job.in_hand)):
        if a.joint.is_stud:
            continue  # it stays in the bike; its nut is among the loose parts
        lengths = _lengths(a)
        if not lengths:
            without.append(a.joint.number)
            continue
        by_head.setdefault(a.joint.head, []).append(
            SpareJoint(
                key=str(a.joint.number),
                thread=a.joint.thread,
                drive=drive_tool(a.joint),
                lengths_mm=lengths,
            )
        )
    found = {head: spares(SparesInput(tuple(joints))) for head, joints in by_head.items()}
    return Carry(
        screws=tuple(
            SpareScrew(head, spare) for head, o in found.items() for spare in o.result.carry
        ),
        loose=_loose_parts(mounted(job.bike, job.in_hand)),
        none_fits=tuple(without),
        sources=merge_sources(*(o.sources for o in found.values())),
    )
