"""Which screws to carry: the fewest that put any of the joints right on the trail."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

import numpy as np
from numpy.typing import NDArray

from rugged_shield.core.computation import computation
from rugged_shield.core.errors import InputError
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.result import Input, Outcome, Source

SPARES_SOURCE = Source("least cover by mixed-integer programme (HiGHS)", "high")
MAX_JOINTS = 80
ONE_SERVES = 4
"""Joints that one spare of a size is enough for; two above."""

Length = Annotated[float, Range(3.0, 200.0, "mm")]


@dataclass(frozen=True, kw_only=True)
class SpareJoint(Ranged):
    """A joint: thread, drive, and the lengths its stack accepts, mm."""

    key: str
    thread: str
    drive: str
    lengths_mm: tuple[float, ...]

    def __post_init__(self) -> None:
        super().__post_init__()
        if not self.lengths_mm or not all(3.0 <= x <= 200.0 for x in self.lengths_mm):
            raise InputError(
                f"joints.{self.key}.lengths_mm",
                str(self.lengths_mm)[:80],
                "one length or more, from 3 to 200 mm",
            )


@dataclass(frozen=True)
class SparesInput(Ranged):
    """The joints that spares are carried for."""

    joints: tuple[SpareJoint, ...]

    def __post_init__(self) -> None:
        super().__post_init__()
        if not 1 <= len(self.joints) <= MAX_JOINTS:
            raise InputError("joints", len(self.joints), f"1 to {MAX_JOINTS} joints")
        keys = [j.key for j in self.joints]
        if len(set(keys)) != len(keys):
            raise InputError("joints", ", ".join(keys)[:80], "each key once")


@dataclass(frozen=True, kw_only=True)
class Spare:
    """One size to carry, how many, and for which joints."""

    thread: str
    drive: str
    length_mm: float
    count: int
    joints: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class SparesResult:
    """How many screws of how many sizes, their length in all mm, and which."""

    screws: int
    sizes: int
    total_length_mm: float
    carry: tuple[Spare, ...]


Pairs = list[tuple[int, int]]


def _cost(lengths: list[float], pairs: Pairs) -> NDArray[np.float64]:
    """Fewest screws, then sizes, then length, by weights that cannot mix."""
    m = len(lengths)
    by_length = np.array(lengths) / (8.0 * sum(lengths) * m)
    first = 1.0 + 1.0 / (2.0 * m) + by_length
    return np.concatenate([first, 1.0 + by_length, np.zeros(len(pairs))])


Rule = tuple[NDArray[np.float64], float, float]


def _rules(joints: int, lengths: int, pairs: Pairs) -> list[Rule]:
    """Each joint takes one length; what is carried serves so many; twice only what is carried.

    Rows with what they come to at least and at most.
    """
    unknowns = 2 * lengths + len(pairs)
    each, room = np.zeros((joints, unknowns)), np.zeros((lengths, unknowns))
    twice = np.zeros((lengths, unknowns))
    for column, (i, k) in enumerate(pairs, start=2 * lengths):
        each[i, column] = 1.0
        room[k, column] = 1.0
    for k in range(lengths):
        room[k, k], room[k, lengths + k] = -ONE_SERVES, -joints
        twice[k, lengths + k], twice[k, k] = 1.0, -1.0
    return [(each, 1.0, 1.0), (room, -np.inf, 0.0), (twice, -np.inf, 0.0)]


def _cover(joints: tuple[SpareJoint, ...]) -> tuple[Spare, ...]:
    """Least cover of joints of one thread and drive.

    Unknowns: for each length whether it is carried and whether twice, for each joint which of its
    lengths it takes.
    """
    lengths = sorted({mm for j in joints for mm in j.lengths_mm})
    m = len(lengths)
    pairs = [(i, k) for i, j in enumerate(joints) for k in range(m) if lengths[k] in j.lengths_mm]
    cost = _cost(lengths, pairs)
    from scipy.optimize import Bounds, LinearConstraint, milp  # late, as everywhere

    found = milp(
        cost,
        constraints=[LinearConstraint(*rule) for rule in _rules(len(joints), m, pairs)],
        integrality=np.ones(len(cost), dtype=int),
        bounds=Bounds(0.0, 1.0),
        options={"mip_rel_gap": 0.0},
    )
    if found.x is None:
        raise InputError("joints", found.message, "joints that a cover is found for")
    x = np.round(found.x)
    return tuple(
        Spare(
            thread=joints[0].thread,
            drive=joints[0].drive,
            length_mm=lengths[k],
            count=int(x[k] + x[m + k]),
            joints=tuple(
                joints[i].key
                for column, (i, length) in enumerate(pairs, start=2 * m)
                if length == k and x[column] == 1.0
            ),
        )
        for k in range(m)
        if x[k] == 1.0
    )


@computation("spares", page="spares", check="spares-01")
def spares(given: SparesInput) -> Outcome[SparesResult]:
    """The screws to carry so that every joint finds one that its stack accepts.

    For each thread and drive: fewest screws (one of a size serves four joints, two any number),
    then fewest sizes, then least length. Raises InputError for a joint without a length.
    """
    kinds = sorted({(j.thread, j.drive) for j in given.joints})
    carry = tuple(
        spare
        for kind in kinds
        for spare in _cover(tuple(j for j in given.joints if (j.thread, j.drive) == kind))
    )
    return Outcome(
        result=SparesResult(
            screws=sum(s.count for s in carry),
            sizes=len(carry),
            total_length_mm=sum(s.count * s.length_mm for s in carry),
            carry=carry,
        ),
        inputs=(Input("Joints", len(given.joints)),),
        reasons=("One screw of a size is carried for up to four joints, two for more.",),
        sources=(SPARES_SOURCE,),
    )
