"""Whether what holds a plate holds all of it: its middle lies within its joints, from below."""

from __future__ import annotations

import numpy as np
from shapely import MultiPoint, Point, Polygon

from rugged_shield.core.amounts import amount
from rugged_shield.core.job.model import MountedJoint
from rugged_shield.core.result import Finding, from_table
from rugged_shield.core.survey.geometry import FoldedPlate

OVERHANG_SHARE = 0.10
"""The middle may hang outside of the joints by so much of the plate's longer side: a joint has
some width, and a place is known to some millimetres. Workshop practice, low confidence."""
LINE_SHARE = 0.05
"""Joints that stand within so much of the plate's longer side of one line are a hinge."""


def bearing_pieces(joints: tuple[MountedJoint, ...]) -> frozenset[str]:
    """Further pieces that are screwed to the bike themselves, by key."""
    return frozenset(
        piece
        for at in joints
        if at.joint.is_to_bike and at.is_placed and not at.joint.clamps_plate
        for piece in at.joint.sheets
        if piece
    )


def plate_supports(joints: tuple[MountedJoint, ...]) -> tuple[MountedJoint, ...]:
    """Joints by which the plate's own sheet hangs on the bike, straight or through a piece.

    One of the bench, or to a piece that hangs on nothing but the plate, is none.
    """
    bearing = bearing_pieces(joints)
    return tuple(
        at for at in joints if at.is_in_sheet and (at.joint.is_to_bike or at.joint.joins in bearing)
    )


def _middle(folded: FoldedPlate) -> tuple[np.ndarray, float]:
    """Centre of the main piece's sheet on the bike (x, y mm), and its longer side, mm."""
    own = [p for p in folded.panels if not p.piece]
    areas = np.array([p.net().area * p.thickness_mm for p in own])
    places = np.array([p.to_bike((p.net().centroid.x, p.net().centroid.y))[:2] for p in own])
    corners = np.array([c[:2] for p in own for c in p.corners()])
    size = float((corners.max(axis=0) - corners.min(axis=0)).max())
    return (areas[:, None] * places).sum(axis=0) / areas.sum(), size


def _side(held: list[MountedJoint], middle: np.ndarray) -> str:
    """In which half all joints are, as words; empty where they are on both sides."""
    halves = (
        ("front", all(at.x_mm < middle[0] for at in held)),
        ("rear", all(at.x_mm > middle[0] for at in held)),
        ("left", all(at.y_mm < middle[1] for at in held)),
        ("right", all(at.y_mm > middle[1] for at in held)),
    )
    names = [name for name, is_so in halves if is_so]
    return f", all in its {' and '.join(names)} half" if names else ""


def _width_mm(held: list[MountedJoint]) -> float:
    """How wide the joints stand across the line that they come nearest to, mm."""
    box = MultiPoint([(at.x_mm, at.y_mm) for at in held]).minimum_rotated_rectangle
    if not isinstance(box, Polygon):
        return 0.0
    ring = np.array(box.exterior.coords)
    return float(np.linalg.norm(np.diff(ring[:3], axis=0), axis=1).min())


def support_findings(folded: FoldedPlate, joints: tuple[MountedJoint, ...]) -> tuple[Finding, ...]:
    """Said where the plate's middle hangs outside of all its joints, or where these stand in one
    half or on one line, so that it turns about them; nothing without joints.

    One screw holds no plate, wherever it is.
    """
    held = list(plate_supports(joints))
    if not held:
        return ()
    middle, size = _middle(folded)
    hull = MultiPoint([(at.x_mm, at.y_mm) for at in held]).convex_hull
    over = float(hull.distance(Point(middle)))
    side, count = _side(held, middle), str(len(held))
    if len(held) == 1 or over > OVERHANG_SHARE * size:
        far = amount(over, "mm", 0)
        return (from_table("held at too few places", count=count, side=side, over=far),)
    wide = _width_mm(held)
    if side or wide < LINE_SHARE * size:
        return (
            from_table(
                "turns about its joints", count=count, side=side, wide=amount(wide, "mm", 0)
            ),
        )
    return ()
