"""Where the brackets and strips of a plate's joints stand, for what moves past them."""

from __future__ import annotations

import math
from dataclasses import dataclass

from rugged_shield.core.assess.fitup.heads import round_of
from rugged_shield.core.fitup.layer import Layer
from rugged_shield.core.fitup.sweep import FixedThing
from rugged_shield.core.job.model import Candidate, MountedJoint, mounted
from rugged_shield.core.mechanics.frames import Vec3
from rugged_shield.core.survey.bike import Bike
from rugged_shield.core.survey.geometry import FoldedPlate, sheet_point


@dataclass(frozen=True)
class Bracket:
    """A bracket as a flat strap, level as the sheet under it is nearly.

    ``placed``: which way it runs is entered; else ``thing`` is all that it could reach, a disc.
    """

    thing: FixedThing
    placed: bool


def _middle_mm(at: MountedJoint, layer: Layer) -> float:
    """Height of a layer's middle above the plate's outer face, mm; below zero under the plate."""
    stack = at.joint.from_below()
    own = next(i for i, other in enumerate(stack) if other.key == layer.key)
    plate = next((i for i, other in enumerate(stack) if other.clamps_plate), own)
    if own < plate:
        between = sum(other.thickness_mm for other in stack[own + 1 : plate])
        return -between - layer.thickness_mm / 2
    return sum(other.thickness_mm for other in stack[plate:own]) + layer.thickness_mm / 2


def _strap(start: Vec3, layer: Layer, runs_deg: float) -> tuple[Vec3, ...]:
    """The four corners of a strap from its screw on; straight ahead is toward the front axle."""
    angle = math.radians(runs_deg)
    ahead, right = -math.cos(angle), math.sin(angle)
    span, half = layer.span_mm or 0.0, layer.outer_mm / 2
    x, y, z = start
    return tuple(
        (x + along * ahead - across * right, y + along * right + across * ahead, z)
        for along, across in ((0.0, -half), (span, -half), (span, half), (0.0, half))
    )


def _disc(start: Vec3, layer: Layer) -> tuple[Vec3, ...]:
    """All that a strap could reach whichever way it runs."""
    return round_of(start, math.hypot(layer.span_mm or 0.0, layer.outer_mm / 2))


def brackets_of(bike: Bike, candidate: Candidate, folded: FoldedPlate) -> tuple[Bracket, ...]:
    """Every bracket and strip with a free length, at the height that its stack gives it."""
    found = []
    for at in mounted(bike, candidate):
        for layer in at.joint.present():
            if not layer.can_bend:
                continue
            under = sheet_point(folded, at.x_mm, at.y_mm, every=True)
            z = under[2] if under is not None else at.mount.z_mm if at.mount else None
            if z is None:
                continue
            start = (at.x_mm, at.y_mm, z + _middle_mm(at, layer))
            way = layer.runs_deg
            thing = FixedThing(
                name=f"{layer.name} of joint {at.joint.number}",
                kind="panel",
                polygon=_disc(start, layer) if way is None else _strap(start, layer, way),
                thickness_mm=layer.thickness_mm,
            )
            found.append(Bracket(thing, way is not None))
    return tuple(found)
