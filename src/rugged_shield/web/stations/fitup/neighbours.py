"""Neighbours of the plate: computed or looked at, each in the state that is worst."""

from __future__ import annotations

from flask import Blueprint

from rugged_shield.core.assess.fitup.neighbours import NeighbourJudged, neighbours_judged
from rugged_shield.core.figures import figure
from rugged_shield.core.fitup.gap_seen import PENCIL_MM, GapSeen
from rugged_shield.core.job.edits.clearances import (
    forget_gap,
    note_gap,
    usual_left,
    usual_neighbours,
)
from rugged_shield.core.job.edits.path import read_field
from rugged_shield.core.job.model import Job
from rugged_shield.core.judgement.codes import RANK
from rugged_shield.core.result import verdict_of, worst
from rugged_shield.core.tables.cautions import CAUTIONS
from rugged_shield.web.api import route
from rugged_shield.web.fields import field_view, field_views
from rugged_shield.web.jobs import row_of, write
from rugged_shield.web.stations.fitup.views import LookWrite, NeighboursView, NeighbourView
from rugged_shield.web.views import FieldView, SavedView, Write

blueprint = Blueprint("neighbours", __name__, url_prefix="/api/jobs/<job_id>/fit-up/neighbours")

_FIELDS = (
    "name",
    "state",
    "kind",
    "boot",
    "glove",
    "least_mm",
    "turns_about",
    "from_deg",
    "to_deg",
    "half_thick_mm",
    "pivot_x_mm",
    "pivot_y_mm",
    "pivot_z_mm",
    "tip_x_mm",
    "tip_y_mm",
    "tip_z_mm",
    "known",
)


def _fields(job: Job, key: str) -> tuple[FieldView, ...]:
    for neighbour in job.bike.neighbours:
        if neighbour.key == key:
            return field_views(neighbour, _FIELDS, f"bike.neighbours.{key}")
    return ()


def _view(job: Job, judged: NeighbourJudged, looked: frozenset[str]) -> NeighbourView:
    return NeighbourView(
        key=judged.key,
        name=judged.name,
        state=judged.state,
        gap=figure(
            "gap",
            "Least gap",
            judged.gap_mm,
            "mm",
            text="" if judged.gap_mm is not None else "not looked at",
        ),
        wanted=figure("wanted", "Wanted", judged.wanted_mm, "mm"),
        how=judged.how,
        verdict=judged.verdict,
        findings=judged.findings,
        film=judged.film,
        looked=judged.key in looked,
        fields=_fields(job, judged.key),
    )


@route(blueprint, "GET", "", NeighboursView)
def neighbours(job_id: str) -> NeighboursView:
    """Every neighbour of the plate in hand in its worst state."""
    job = row_of(job_id).job
    judged = sorted(neighbours_judged(job, job.in_hand), key=lambda n: -RANK[n.verdict])
    looked = frozenset(g.key for g in job.in_hand.gaps)
    return NeighboursView(
        plate=job.in_hand.plate.name,
        rows=tuple(_view(job, n, looked) for n in judged),
        listed=len(job.bike.neighbours),
        more_usual=bool(usual_left(job.bike)),
        verdict=worst(n.verdict for n in judged)
        if job.bike.neighbours
        else verdict_of("nothing near it looked at"),
        boot=field_view(job.use, "boot_toe_mm", "use", label="height of your boot over its toe"),
        glove=field_view(job.use, "glove_finger_mm", "use", label="a finger in your glove, thick"),
        cautions=CAUTIONS["sweep"],
    )


@route(blueprint, "POST", "/usual", SavedView, Write)
def usual(job_id: str, body: Write) -> SavedView:
    """Put on the list what is always looked at."""
    return write(job_id, body, usual_neighbours)


@route(blueprint, "POST", "/<key>/look", SavedView, LookWrite)
def look(job_id: str, key: str, body: LookWrite) -> SavedView:
    """Note how close a neighbour comes, by a feeler, a pencil, or that it touches."""
    gap = PENCIL_MM if body.looked_with == "a pencil passes" else 0.0
    if body.looked_with == "feeler or rule":
        gap = read_field(GapSeen, "gap_mm", body.text, "gap_mm", body.system)
    seen = GapSeen(key=key, gap_mm=gap, looked_with=body.looked_with)
    return write(job_id, body, lambda job: note_gap(job, job.in_hand.key, seen))


@route(blueprint, "POST", "/<key>/forget", SavedView, Write)
def forget(job_id: str, key: str, body: Write) -> SavedView:
    """Take a look back."""
    return write(job_id, body, lambda job: forget_gap(job, job.in_hand.key, key))
