"""The holes of a plate as the question for ``hole_fit``, from what was seen at each joint."""

from __future__ import annotations

from rugged_shield.core.fitup.hole_fit import HoleFitInput, PlateHole
from rugged_shield.core.fitup.joint import Joint
from rugged_shield.core.job.model import MountedJoint
from rugged_shield.core.mechanics import threads


def hole_mm(joint: Joint) -> float:
    """The hole that the screw has to meet: of the sleeve through the plate, else of the sheet."""
    own = [layer for layer in joint.present() if layer.clamps_plate]
    return min(layer.hole_mm for layer in own)


def clearance_mm(joint: Joint) -> float:
    """How far a screw may stand off the middle of its hole, mm: half the play, and the nut's."""
    play = hole_mm(joint) - threads.row_of(joint.thread).d_mm
    return play / 2 + joint.seen.nut_gives_mm


def _plate_hole(at: MountedJoint, loose: frozenset[str]) -> PlateHole:
    seen = at.joint.seen
    right, forward = seen.offset_mm or (0.0, 0.0)
    gives = seen.bracket_loose or (seen.bracket != "" and seen.bracket in loose)
    return PlateHole(
        name=at.joint.key,
        x_mm=at.y_mm,
        y_mm=-at.x_mm,
        radial_clearance_mm=clearance_mm(at.joint),
        dx_mm=right,
        dy_mm=forward,
        slot_half_travel_mm=seen.slot_half_travel_mm,
        slot_angle_deg=seen.slot_angle_deg,
        bracket_half_travel_mm=seen.bracket_half_travel_mm if gives else 0.0,
        bracket_angle_deg=seen.bracket_angle_deg,
        bracket=seen.bracket,
    )


def hole_question(
    joints: tuple[MountedJoint, ...], loose: frozenset[str] = frozenset()
) -> HoleFitInput:
    """The holes of these joints about their middle; brackets named in ``loose`` may slide."""
    return HoleFitInput(
        holes=tuple(_plate_hole(at, loose) for at in joints),
        origin_x_mm=sum(at.y_mm for at in joints) / len(joints),
        origin_y_mm=-sum(at.x_mm for at in joints) / len(joints),
    )
