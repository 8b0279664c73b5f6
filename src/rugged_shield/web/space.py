"""The plate in hand in space, on its bike or alone, from a side and a height by number."""

from __future__ import annotations

from dataclasses import dataclass

from flask import Blueprint

from rugged_shield.core.amounts import amount
from rugged_shield.core.assess.fitup.pose import plate_pose
from rugged_shield.core.errors import InputError, choose
from rugged_shield.core.event import of_kind, of_plate
from rugged_shield.core.job.events import Record
from rugged_shield.core.job.model import Candidate, Job, place_of
from rugged_shield.core.keep.events import PlateStruck, counting
from rugged_shield.core.mechanics.drawing import Drawing
from rugged_shield.core.survey.geometry import FoldedPlate, sheet_normal_point
from rugged_shield.core.survey.in_space import RISES_DEG, TURNS_DEG, Spot, space_drawing, space_view
from rugged_shield.web.api import route
from rugged_shield.web.jobs import row_of

blueprint = Blueprint("space", __name__, url_prefix="/api/jobs/<job_id>/space")
ON_BIKE, ALONE = "on the bike", "alone"


@dataclass(frozen=True, kw_only=True)
class SpaceView:
    """The drawing, how many turns and heights there are, and which way each piece goes."""

    plate: str
    drawing: Drawing
    turns: int
    heights: int
    ways: tuple[str, ...]


def _joint_spots(job: Job, folded: FoldedPlate) -> list[Spot]:
    found = []
    for joint in job.in_hand.joints:
        place = place_of(job.bike, joint)
        at = place and sheet_normal_point(folded, *place, with_pieces=True)
        if at is not None:
            found.append(Spot(at_mm=at[0], text=str(joint.number), ref=joint.key))
    return found


def _blow_spots(job: Job, record: Record, folded: FoldedPlate) -> list[Spot]:
    """Blows on the plate in hand that still count, each with how it felt or its dent."""
    found = []
    for event in of_kind(counting(of_plate(record, job.in_hand.key)), PlateStruck):
        at = sheet_normal_point(folded, event.x_mm, event.y_mm, with_pieces=True)
        if at is not None:
            dent = amount(event.dent_mm, "mm", 1) if event.dent_mm else event.felt
            found.append(Spot(at_mm=at[0], text=f"blow: {dent}", ref=f"blow:{event.seq}"))
    return found


def _scar_spots(job: Job, candidate: Candidate, folded: FoldedPlate) -> list[Spot]:
    """Scars of the stock plate, where that is the one in hand."""
    if candidate.key != job.stock.key:
        return []
    panels = {panel.name: panel for panel in folded.panels}
    return [
        Spot(
            at_mm=panels[scar.panel].to_bike((scar.u_mm, scar.v_mm)),
            text=scar.kind,
            ref=scar.key,
        )
        for scar in job.scars
        if scar.panel in panels
    ]


def _place(name: str, said: str, count: int) -> int:
    """A number of a list, from 0 on; raises InputError for any other text."""
    if said not in [str(i) for i in range(count)]:
        raise InputError(name, said, f"from 0 to {count - 1}")
    return int(said)


@route(blueprint, "GET", "/<turn>/<height>/<what>", SpaceView)
def space(job_id: str, turn: str, height: str, what: str) -> SpaceView:
    """The plate in hand from one of twelve sides and six heights; hidden edges are solved."""
    choose("what", what, (ON_BIKE, ALONE), "way to show it")
    view = space_view(
        _place("turn", turn, len(TURNS_DEG)), _place("height", height, len(RISES_DEG))
    )
    row = row_of(job_id)
    job = row.job
    folded = plate_pose(job.bike, job.in_hand).folded
    spots = (
        *_joint_spots(job, folded),
        *_blow_spots(job, row.records, folded),
        *_scar_spots(job, job.in_hand, folded),
    )
    bike = job.bike if what == ON_BIKE else None
    return SpaceView(
        plate=job.in_hand.plate.name,
        drawing=space_drawing(bike, folded, view, spots),
        turns=len(TURNS_DEG),
        heights=len(RISES_DEG),
        ways=job.in_hand.plate.ways,
    )
