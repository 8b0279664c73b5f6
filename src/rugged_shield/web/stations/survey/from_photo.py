"""A plate's outline and the bike's mounts from a photograph beside a sheet of paper."""

from __future__ import annotations

from flask import Blueprint

from rugged_shield.core.errors import InputError, choose
from rugged_shield.core.figures import figure
from rugged_shield.core.job.edits.photo import mounts_from_photo, traced_from_photo
from rugged_shield.core.job.edits.plates import traced_belly, traced_piece
from rugged_shield.core.job.model import Job
from rugged_shield.core.result import Figure
from rugged_shield.core.survey.photo_outline import (
    HolePx,
    PhotoOutlineInput,
    PhotoPlacesInput,
    outline_drawing,
    photo_outline,
    photo_places,
)
from rugged_shield.core.survey.photo_scale import SHEETS_MM
from rugged_shield.web.api import route
from rugged_shield.web.jobs import row_of, write
from rugged_shield.web.stations.survey.views import (
    PhotoMount,
    PhotoMountsAsk,
    PhotoMountsView,
    PhotoMountsWrite,
    PhotoOutlineAsk,
    PhotoOutlineView,
    PhotoOutlineWrite,
    PhotoSheets,
)
from rugged_shield.web.views import SavedView

blueprint = Blueprint("from_photo", __name__, url_prefix="/api/jobs/<job_id>/survey/photo")


def _outline(body: PhotoOutlineAsk) -> PhotoOutlineInput:
    return PhotoOutlineInput(
        sheet=body.sheet,
        corners_px=body.corners,
        outline_px=body.outline,
        holes_px=tuple(HolePx(h.middle, h.rim) for h in body.holes),
        seen_from=body.seen_from,
        click_u_px=body.click_u_px,
        lens=body.lens(),
    )


@route(blueprint, "GET", "", PhotoSheets)
def sheets(job_id: str) -> PhotoSheets:
    """What may lie in a photograph, and what can be tapped in it."""
    mounts = row_of(job_id).job.bike.mounts
    return PhotoSheets(tuple(SHEETS_MM), {m.key: f"{m.number} {m.name}" for m in mounts})


@route(blueprint, "POST", "/outline", PhotoOutlineView, PhotoOutlineAsk)
def outline_from_photo(job_id: str, body: PhotoOutlineAsk) -> PhotoOutlineView:
    """A plate's outline in millimetres from taps; nothing is saved."""
    row_of(job_id)
    outcome = photo_outline(_outline(body))
    found = outcome.result

    def said(key: str, label: str, value: float, unit: str = "mm") -> Figure:
        return figure(
            key,
            label,
            value,
            unit,
            inputs=outcome.inputs,
            reasons=outcome.reasons,
            assumptions=outcome.assumptions,
            sources=outcome.sources,
        )

    return PhotoOutlineView(
        drawing=outline_drawing(found),
        figures=(
            said("length", "Along the bike", found.length_mm),
            said("width", "Across", found.width_mm),
            said("unsure", "A corner is off by (one u)", found.u_mm),
            *(
                said(f"hole:{i}", f"Hole {i}, across", h.diameter_mm)
                for i, h in enumerate(found.holes, start=1)
            ),
        ),
    )


@route(blueprint, "POST", "/outline/<key>/take", SavedView, PhotoOutlineWrite)
def take_outline_from_photo(job_id: str, key: str, body: PhotoOutlineWrite) -> SavedView:
    """The outline becomes the plate's belly or a further piece."""
    outline, holes = traced_from_photo(_outline(body.asked))
    take = traced_belly if body.becomes == "belly" else traced_piece
    return write(job_id, body, lambda job: take(job, key, outline, holes))


def _places(job: Job, body: PhotoMountsAsk) -> PhotoPlacesInput:
    mounts = {m.key: m for m in job.bike.mounts}
    for tap in (body.known, *body.mounts):
        choose("mount", tap.mount, mounts, "mount of this bike")
    if not body.mounts:
        raise InputError("mounts", 0, "one mount or more", "nothing was tapped yet")
    known = mounts[body.known.mount]
    return PhotoPlacesInput(
        sheet=body.sheet,
        corners_px=body.corners,
        known_px=body.known.at,
        known_mm=(known.x_mm, known.y_mm),
        points_px=tuple(tap.at for tap in body.mounts),
        seen_from=body.seen_from,
        click_u_px=body.click_u_px,
        lens=body.lens(),
    )


@route(blueprint, "POST", "/mounts", PhotoMountsView, PhotoMountsAsk)
def mounts_in_photo(job_id: str, body: PhotoMountsAsk) -> PhotoMountsView:
    """Where a photograph has the mounts; nothing is saved."""
    job = row_of(job_id).job
    numbers = {m.key: m.number for m in job.bike.mounts}
    places = photo_places(_places(job, body)).result
    return PhotoMountsView(
        tuple(
            PhotoMount(
                mount=tap.mount,
                number=numbers[tap.mount],
                x=figure("x", "Behind the front axle", at.x_mm, "mm"),
                y=figure("y", "To the rider's right", at.y_mm, "mm"),
                unsure=figure("unsure", "give or take (one u)", at.u_mm, "mm"),
            )
            for tap, at in zip(body.mounts, places, strict=True)
        )
    )


@route(blueprint, "POST", "/mounts/take", SavedView, PhotoMountsWrite)
def take_mounts_from_photo(job_id: str, body: PhotoMountsWrite) -> SavedView:
    """The mounts move to where the photograph has them."""
    asked = body.asked
    tapped = tuple(tap.mount for tap in asked.mounts)
    return write(
        job_id,
        body,
        lambda job: mounts_from_photo(job, asked.known.mount, _places(job, asked), tapped),
    )
