"""Screws to carry for a plate: the fewest that put any of its joints right on the trail."""

from __future__ import annotations

from dataclasses import dataclass

from rugged_shield.core.assess.fitup import JointAssessment, assess_joints
from rugged_shield.core.job import Job, mounted
from rugged_shield.core.keep import Spare, SpareJoint, SparesInput, spares
from rugged_shield.core.result import Source, merge_sources
from rugged_shield.core.tighten import drive_tool


@dataclass(frozen=True)
class SpareScrew:
    """A screw to carry: its head's standard, its size, how many, for which joints."""

    head: str
    spare: Spare


@dataclass(frozen=True)
class Carry:
    """What to carry; ``none_fits``: numbers of joints for which no length does."""

    screws: tuple[SpareScrew, ...]
    none_fits: tuple[int, ...]
    sources: tuple[Source, ...]


def _lengths(assessed: JointAssessment) -> tuple[float, ...]:
    """Lengths that its stack accepts, the one in hand among them where it is right."""
    own = assessed.joint.length_mm
    lengths = set(assessed.stack.result.acceptable_lengths_mm)
    if own is not None and not assessed.evaluation.issues:
        lengths.add(own)
    return tuple(sorted(lengths))


def carry_of(job: Job) -> Carry:
    """Spare screws for the plate in hand, each joint by the lengths that its stack accepts.

    A head does not stand for another one: each kind is covered on its own.
    """
    by_head: dict[str, list[SpareJoint]] = {}
    without = []
    for a in assess_joints(mounted(job.bike, job.in_hand)):
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
        none_fits=tuple(without),
        sources=merge_sources(*(o.sources for o in found.values())),
    )
