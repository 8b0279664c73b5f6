"""Holes of a sheet against its edges and openings: what is left to carry the screw.

Edge distance and ligaments as sheet-metal practice has them (EN 1993-1-8:2005 table 3.3 asks for
1.2 d0 to an edge; 1.5 d here, since a stone pulls any way).
"""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache

from shapely import LineString, Point
from shapely.geometry.base import BaseGeometry

from rugged_shield.core.amounts import amount
from rugged_shield.core.fitup.joint import Joint, clearance_hole_mm
from rugged_shield.core.job.model import MountedJoint
from rugged_shield.core.judgement.known import ENTERED, doubted
from rugged_shield.core.mechanics import threads
from rugged_shield.core.mechanics.frames import add, dot
from rugged_shield.core.result import Finding, from_table
from rugged_shield.core.survey.geometry import FoldedPlate, panel_under
from rugged_shield.core.survey.panels import Panel
from rugged_shield.core.survey.plate import Plate

EDGE_D = 1.5
LIGAMENT_D = 1.0
LIGAMENT_T = 2.0
IN_PLANE_MM = 2.0
"""Corners of another panel so near to the plane are its fold."""


def _hole_mm(joint: Joint) -> float:
    """The hole in the sheet; a sleeve's is that of the sheet around it."""
    own = [layer.hole_mm for layer in joint.present() if layer.kind == "plate"]
    return max(own, default=clearance_hole_mm(joint.thread))


def _head_mm(joint: Joint) -> float:
    """How far from the screw's middle its washer or head needs sheet under it, mm."""
    return threads.head_of(joint.head, joint.thread).bearing_diameter_mm / 2


@lru_cache(maxsize=256)
def _rim(panel: Panel, folded: FoldedPlate) -> BaseGeometry:
    """The free edge of a panel in its own u, v: its outline less the folds it shares."""
    rim: BaseGeometry = panel.outline.exterior
    for other in folded.panels:
        if other is panel or other.piece != panel.piece:
            continue
        shared = [
            (dot(relative, panel.u), dot(relative, panel.v))
            for relative in (add(corner, panel.origin, -1.0) for corner in other.corners())
            if abs(dot(relative, panel.normal)) < IN_PLANE_MM
        ]
        if len(shared) > 1:
            rim = rim.difference(LineString(shared).buffer(IN_PLANE_MM))
    return rim


def _at_edge(
    at: MountedJoint, panel: Panel, where: Point, folded: FoldedPlate
) -> Iterator[Finding]:
    joint, d_mm = at.joint, threads.row_of(at.joint.thread).d_mm
    rim = _rim(panel, folded)
    if rim.is_empty:
        return
    free = rim.distance(where)
    if free < max(_hole_mm(joint) / 2, _head_mm(joint)):
        yield from_table(
            "hole breaks the edge",
            joint.key,
            number=str(joint.number),
            free=amount(free, "mm", 1),
            panel=panel.name,
        )
    elif free < EDGE_D * d_mm:
        yield from_table(
            "hole near an edge",
            joint.key,
            number=str(joint.number),
            free=amount(free, "mm", 1),
            what=f"the edge of the {panel.name}",
            wanted=amount(EDGE_D * d_mm, "mm", 1),
        )


def _at_openings(at: MountedJoint, panel: Panel, where: Point) -> Iterator[Finding]:
    joint, d_mm = at.joint, threads.row_of(at.joint.thread).d_mm
    wanted = max(LIGAMENT_D * d_mm, LIGAMENT_T * panel.thickness_mm)
    for cutout, opening in panel.openings:
        if cutout.purpose == "mount" or cutout.closed_door:
            continue
        left = opening.distance(where) - _hole_mm(joint) / 2
        if left <= 0:
            yield from_table(
                "hole breaks the edge",
                joint.key,
                number=str(joint.number),
                free=amount(opening.distance(where), "mm", 1),
                panel=f"opening for the {cutout.purpose}",
            )
        elif left < wanted:
            yield from_table(
                "hole near an edge",
                joint.key,
                number=str(joint.number),
                free=amount(left, "mm", 1),
                what=f"the opening for the {cutout.purpose}",
                wanted=amount(wanted, "mm", 1),
            )


def _place_doubted(at: MountedJoint) -> bool:
    """Whether nobody entered where a joint's hole is: its own place, else its mount's."""
    own = at.joint.x_mm is not None and at.joint.y_mm is not None
    return not own and at.mount is not None and bool(doubted(at.mount, "x_mm", "y_mm"))


def edge_findings(
    plate: Plate, folded: FoldedPlate, joints: tuple[MountedJoint, ...]
) -> tuple[Finding, ...]:
    """Joints whose hole has too little sheet around it, or whose head hangs over a rim.

    What the bike came with was drawn by its maker, tabs and all: it is not asked.
    """
    found: list[Finding] = []
    assumed: list[str] = []
    if plate.role == "stock":
        return ()
    for at in joints:
        under = panel_under(folded, at.x_mm, at.y_mm) if at.is_in_sheet else None
        if under is None:
            continue
        panel, uv = under
        near = (*_at_edge(at, panel, Point(uv), folded), *_at_openings(at, panel, Point(uv)))
        if not near:
            continue
        if plate.known not in ENTERED:
            assumed.append(f"joint {at.joint.number}")
        elif _place_doubted(at):
            found.append(
                from_table("hole's place not known", at.joint.key, number=str(at.joint.number))
            )
        else:
            found += near
    if assumed:
        found.append(from_table("edge not known", plate.key, joints=", ".join(assumed)))
    return tuple(found)
