"""Weigh-up: candidates beside stock, each with its verdict; one of them is picked."""

from __future__ import annotations

from dataclasses import fields

from flask import Blueprint

from rugged_shield.core.assess.fitup.pose import open_airs, plate_pose
from rugged_shield.core.assess.weighup.scorecard import Weighed, shared_findings, weigh
from rugged_shield.core.assess.weighup.table import quantity_rows
from rugged_shield.core.job.edits.bundles import add_need, remove_need
from rugged_shield.core.job.edits.choice import pick, show_in_ledger, take_pick_back
from rugged_shield.core.job.model import Candidate, Job, Use
from rugged_shield.core.result import Finding
from rugged_shield.core.survey.drawings import underside_drawing
from rugged_shield.core.survey.geometry import fold
from rugged_shield.core.survey.small_drawings import small_plate
from rugged_shield.core.tables.materials import SHEET_MATERIALS
from rugged_shield.web.api import route
from rugged_shield.web.fields import field_view, field_views
from rugged_shield.web.jobs import row_of, write
from rugged_shield.web.stations.weighup.views import (
    BundleWrite,
    PickWrite,
    PlateColumn,
    WeighupView,
)
from rugged_shield.web.views import FieldView, SavedView

blueprint = Blueprint("weigh_up", __name__, url_prefix="/api/jobs/<job_id>/weigh-up")


def _column(
    job: Job, candidate: Candidate, weighed: Weighed, shared: tuple[Finding, ...]
) -> PlateColumn:
    plate = candidate.plate
    at = "stock" if plate.role == "stock" else f"candidates.{candidate.key}"
    prefix = f"{at}.plate"
    fields: tuple[FieldView, ...] = (
        field_view(plate, "thickness_mm", prefix),
        field_view(plate, "material", prefix, choices=tuple(SHEET_MATERIALS)),
        field_view(plate, "claimed_mass_kg", prefix),
        field_view(plate, "price", prefix),
        field_view(plate, "weighed_mass_kg", prefix),
        field_view(plate, "heat_foil", prefix),
        *(
            field_view(extra, name, f"{at}.extras.{extra.key}", label=f"{extra.name}: {words}")
            for extra in candidate.extras
            for name, words in (("price", "price"), ("mass_kg", "mass"), ("fit_minutes", "minutes"))
        ),
    )
    return PlateColumn(
        key=candidate.key,
        name=plate.name,
        role=plate.role,
        material=plate.material,
        form=plate.form,
        mounting=plate.mounting,
        verdict=weighed.verdict,
        reason=weighed.reason,
        findings=tuple(f for f in weighed.findings if f not in shared),
        picked=job.picked == candidate.key,
        in_hand=job.in_hand.key == candidate.key,
        fields=fields,
        gates=weighed.gates,
        bought=tuple(e.gives or e.name for e in candidate.extras),
        picture=small_plate(plate.name, fold(plate)),
    )


@route(blueprint, "GET", "", WeighupView)
def weigh_up(job_id: str) -> WeighupView:
    """Plates in columns, stock first; quantities in rows; verdict and reason for each."""
    job = row_of(job_id).job
    plates = (job.stock, *job.candidates)
    weighed = [weigh(job, c.key) for c in plates]
    posed = plate_pose(job.bike, job.in_hand)
    mine = weigh(job, job.in_hand.key)
    stock = plate_pose(job.bike, job.stock).folded
    airs = open_airs(job.bike, job.in_hand)
    shared = shared_findings(weighed[1:])
    return WeighupView(
        columns=tuple(_column(job, c, w, shared) for c, w in zip(plates, weighed, strict=True)),
        shared=shared,
        rows=quantity_rows(job.bike.vitals(), weighed),
        underside=underside_drawing(job.bike, stock, posed.folded, mine.bare, airs=airs),
        bare=tuple(f.text for f in mine.findings if f.code == "bare vital"),
        pick_reason=field_view(job, "pick_reason", "", label="Why this one"),
        use=(
            *field_views(job.use, tuple(f.name for f in fields(Use)), "use"),
            field_view(job, "currency", "", label="currency of prices"),
        ),
    )


@route(blueprint, "POST", "/pick", SavedView, PickWrite)
def pick_plate(job_id: str, body: PickWrite) -> SavedView:
    """Make a plate the job's plate, or take the pick back."""
    if not body.plate:
        return write(job_id, body, take_pick_back)
    return write(job_id, body, lambda job: pick(job, body.plate, body.reason))


@route(blueprint, "POST", "/look", SavedView, PickWrite)
def look(job_id: str, body: PickWrite) -> SavedView:
    """Put a plate in the ledger without picking it."""
    return write(job_id, body, lambda job: show_in_ledger(job, body.plate))


@route(blueprint, "POST", "/bundle", SavedView, BundleWrite)
def bundle(job_id: str, body: BundleWrite) -> SavedView:
    """Weigh a plate together with bars or isolators that it needs, or without them again."""
    change = add_need if body.add else remove_need
    return write(job_id, body, lambda job: change(job, body.plate, body.needs))
