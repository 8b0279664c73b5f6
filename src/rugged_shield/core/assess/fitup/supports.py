"""Whether what holds a plate holds all of it: its middle lies within its joints, from below."""

from __future__ import annotations

import numpy as np
from shapely import MultiPoint, Point

from rugged_shield.core.amounts import amount
from rugged_shield.core.job import MountedJoint
from rugged_shield.core.result import Finding, from_table
from rugged_shield.core.survey import FoldedPlate

OVERHANG_SHARE = 0.10
"""The middle may hang outside of the joints by so much of the plate's longer side: a joint has
some width, and a place is known to some millimetres. Workshop practice, low confidence."""


def _middle(folded: FoldedPlate) -> tuple[np.ndarray, float]:
    """Centre of the main piece's sheet on the bike (x, y mm), and its longer side, mm."""
    own = [p for p in folded.panels if not p.piece]
    areas = np.array([p.net().area * p.thickness_mm for p in own])
    places = np.array([p.to_bike((p.net().centroid.x, p.net().centroid.y))[:2] for p in own])
    corners = np.array([c[:2] for p in own for c in p.corners()])
    size = float((corners.max(axis=0) - corners.min(axis=0)).max())
    return (areas[:, None] * places).sum(axis=0) / areas.sum(), size


def support_findings(folded: FoldedPlate, joints: tuple[MountedJoint, ...]) -> tuple[Finding, ...]:
    """Said where the plate's middle hangs outside of all its joints; nothing without joints.

    One screw holds no plate, wherever it is.
    """
    held = [at for at in joints if at.joint.clamps_plate]
    if not held:
        return ()
    middle, size = _middle(folded)
    hull = MultiPoint([(at.x_mm, at.y_mm) for at in held]).convex_hull
    over = float(hull.distance(Point(middle)))
    if len(held) > 1 and over <= OVERHANG_SHARE * size:
        return ()
    ways = {at.x_mm < middle[0] for at in held}
    side = (
        ""
        if len(ways) > 1
        else ", all in its front half"
        if ways == {True}
        else (", all in its rear half")
    )
    return (
        from_table(
            "held at too few places", count=str(len(held)), side=side, over=amount(over, "mm", 0)
        ),
    )
