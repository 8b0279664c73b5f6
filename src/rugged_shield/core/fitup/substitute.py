"""A part used instead of the one that a joint asks for: its own sizes, and until when."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Annotated

from rugged_shield.core.errors import InputError, choose
from rugged_shield.core.fitup.engagement import Nut
from rugged_shield.core.fitup.joint import Joint
from rugged_shield.core.fitup.presets import with_nut
from rugged_shield.core.mechanics import threads
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.tables.grades import GRADES
from rugged_shield.core.tables.materials import LAYER_MATERIALS

MAX_SUBSTITUTES = 100


@dataclass(frozen=True, kw_only=True)
class Substitute(Ranged):
    """What stands in a joint instead of its own part, mm; what is not said is as it was.

    ``part`` names the place: ``screw``, ``nut``, or the key of a layer. ``for_good``: it stays
    and is no debt. ``replace_by``: until when, as a date or a word. ``paid``: the joint has its
    own part again.
    """

    key: str
    joint: str
    part: str
    name: str
    length_mm: Annotated[float | None, Range(5.0, 180.0, "mm")] = None
    head: str = ""
    grade: str = ""
    nut: Nut = ""
    material: str = ""
    thickness_mm: Annotated[float | None, Range(0.1, 120.0, "mm")] = None
    outer_mm: Annotated[float | None, Range(4.0, 120.0, "mm")] = None
    hole_mm: Annotated[float | None, Range(3.0, 60.0, "mm")] = None
    for_good: bool = False
    replace_by: str = ""
    note: str = ""
    paid: bool = False

    def __post_init__(self) -> None:
        super().__post_init__()
        if not self.name.strip():
            raise InputError("name", self.name, "a name", "say what is used instead")
        if self.grade:
            choose("grade", self.grade, GRADES, "property class")
        if self.material:
            choose("material", self.material, LAYER_MATERIALS, "layer material")

    @property
    def is_debt(self) -> bool:
        """Whether the right part is still owed."""
        return not self.paid and not self.for_good


def _sized(joint: Joint, sub: Substitute) -> Joint:
    """The joint with another washer, spacer or other layer in a layer's place."""
    if all(layer.key != sub.part for layer in joint.layers):
        return joint
    sizes = ("thickness_mm", "outer_mm", "hole_mm", "material")
    said = {name: getattr(sub, name) for name in sizes if getattr(sub, name)}
    layers = tuple(
        replace(layer, name=sub.name, **said) if layer.key == sub.part else layer
        for layer in joint.layers
    )
    return replace(joint, layers=layers)


def with_substitute(joint: Joint, sub: Substitute) -> Joint:
    """The joint as it is with this part in it; unchanged when paid, or when its place is gone.

    Raises InputError where the part cannot stand there: a head that the thread does not have, a
    hole smaller than the screw.
    """
    if sub.paid or sub.joint != joint.key:
        return joint
    if sub.part == "screw":
        head = sub.head or joint.head
        threads.head_of(head, joint.thread)
        length = joint.length_mm if sub.length_mm is None else sub.length_mm
        return replace(joint, length_mm=length, head=head, grade=sub.grade or joint.grade)
    if sub.part == "nut":
        return with_nut(joint, sub.nut) if sub.nut and joint.nut else joint
    return _sized(joint, sub)
