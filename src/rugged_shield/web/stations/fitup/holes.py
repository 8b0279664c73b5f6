"""Holes as seen, by number or from a photograph: which screws start, what to move or open."""

from __future__ import annotations

from flask import Blueprint, Response

from rugged_shield.core.assess.fitup.holes import HoleJudged, HolesJudged, holes_judged
from rugged_shield.core.errors import InputError
from rugged_shield.core.figures import figure
from rugged_shield.core.job.edits.clearances import SeenPlace, note_holes
from rugged_shield.core.job.edits.plates import plate_path
from rugged_shield.core.job.model import Job, mounted
from rugged_shield.core.result import Figure, Source
from rugged_shield.core.survey.photo_outline import on_bike, scaled
from rugged_shield.core.survey.photo_scale import SHEETS_MM
from rugged_shield.core.tables.cautions import CAUTIONS, CHANGE_CAUTIONS
from rugged_shield.formats.checksheet import check_sheet
from rugged_shield.web.api import file_route, route
from rugged_shield.web.downloads import download
from rugged_shield.web.fields import field_views
from rugged_shield.web.jobs import row_of, write
from rugged_shield.web.stations.fitup.views import (
    FloatView,
    HoleRowView,
    HolesView,
    PhotoAsk,
    PhotoPlace,
    PhotoView,
    PhotoWrite,
    RemedyView,
)
from rugged_shield.web.views import SavedView

blueprint = Blueprint("holes", __name__, url_prefix="/api/jobs/<job_id>/fit-up/holes")

_MEASURED = ("right_mm", "forward_mm", "off_u_mm")
_GIVES = (
    "slot_half_travel_mm",
    "slot_angle_deg",
    "nut_gives_mm",
    "bracket",
    "bracket_half_travel_mm",
    "bracket_angle_deg",
    "bracket_loose",
)
_SOURCE = Source(
    "hole fit as on its method page: greatest least margin, uncertainty at 2 u", "high"
)


def _mm(key: str, label: str, value: float | None, text: str = "") -> Figure:
    return figure(key, label, value, "mm", text=text, sources=(_SOURCE,))


def _row(job: Job, prefix: str, row: HoleJudged) -> HoleRowView:
    joint = next(j for j in job.as_entered(job.in_hand.key).joints if j.key == row.key)
    at = f"{prefix}.{row.key}.seen"
    return HoleRowView(
        key=row.key,
        number=row.number,
        name=row.name,
        verdict=row.verdict,
        words=row.words,
        clearance=_mm("clearance", "Room around the screw", row.clearance_mm),
        moved=_mm("moved", "Left after the move", row.then_mm),
        seen=row.seen,
        measured=field_views(joint.seen, _MEASURED, at),
        gives=field_views(joint.seen, _GIVES, at),
    )


def _view(job: Job, judged: HolesJudged) -> HolesView:
    prefix = f"{plate_path(job, job.in_hand.key)}.joints"
    opens = any(r.diameter_mm is not None for r in judged.remedies)
    return HolesView(
        plate=job.in_hand.plate.name,
        material=job.in_hand.plate.material,
        drawing=judged.drawing,
        rows=tuple(_row(job, prefix, row) for row in judged.holes),
        verdict=judged.verdict,
        findings=judged.findings,
        margin=_mm("margin", "Least margin after the move", judged.margin_mm),
        unsure=_mm("unsure", "give or take", judged.margin_u_mm),
        move=judged.move,
        remedies=tuple(RemedyView(r.kind, r.joints, r.words) for r in judged.remedies),
        located=judged.located,
        growing=tuple(
            FloatView(
                number=g.number,
                cold=_mm("cold", "Cold", g.cold_mm),
                hot=_mm("hot", "Hot", g.hot_mm),
                needed=_mm("needed", "Hole it needs", g.needed_mm),
                now=_mm("now", "Hole it has", g.now_mm),
                floats=g.floats,
            )
            for g in judged.growing
        ),
        sheets=tuple(SHEETS_MM),
        cautions=(*CAUTIONS["strip"], *((CHANGE_CAUTIONS["hole"],) if opens else ())),
    )


@route(blueprint, "GET", "", HolesView)
def holes(job_id: str) -> HolesView:
    """Every hole of the plate in hand against its thread."""
    job = row_of(job_id).job
    return _view(job, holes_judged(job.in_hand.plate, mounted(job.bike, job.in_hand)))


def _places(body: PhotoAsk) -> tuple[PhotoPlace, ...]:
    """What a photograph says: by joint, where its thread stands from the middle of its hole."""
    points = [p for pair in body.pairs for p in (pair.hole, pair.thread)]
    if not points:
        raise InputError("pairs", 0, "one hole and its thread, or more", "nothing was tapped yet")
    apart = tuple((2 * i, 2 * i + 1) for i, p in enumerate(body.pairs) if p.hole != p.thread)
    found = scaled(body.sheet, body.corners, tuple(points), body.click_u_px, apart, body.lens())
    spread = iter(found.distances)
    places = [on_bike(body.seen_from, p) for p in found.points_mm]
    out = []
    for i, pair in enumerate(body.pairs):
        hole, thread = places[2 * i], places[2 * i + 1]
        unsure = next(spread).u_mm if pair.hole != pair.thread else found.u_mm[2 * i]
        out.append(
            PhotoPlace(
                joint=pair.joint,
                right=_mm("right", "To the rider's right", thread[1] - hole[1]),
                forward=_mm("forward", "Forward", hole[0] - thread[0]),
                unsure=_mm("unsure", "give or take (one u)", unsure),
            )
        )
    return tuple(out)


@route(blueprint, "POST", "/photo", PhotoView, PhotoAsk)
def from_photo(job_id: str, body: PhotoAsk) -> PhotoView:
    """Millimetres from taps in a photograph beside a sheet; nothing is saved."""
    row_of(job_id)
    return PhotoView(_places(body))


@route(blueprint, "POST", "/photo/take", SavedView, PhotoWrite)
def take_photo(job_id: str, body: PhotoWrite) -> SavedView:
    """What the photograph says becomes what was seen at each hole."""
    seen = tuple(
        SeenPlace(p.joint, p.right.value or 0.0, p.forward.value or 0.0, p.unsure.value or 0.0)
        for p in _places(body.asked)
    )
    return write(job_id, body, lambda job: note_holes(job, job.in_hand.key, seen))


def _check_sheet(paper: str) -> Response:
    return download(check_sheet(paper), "application/pdf", f"check-sheet-{paper}.pdf", inline=True)


@file_route(blueprint, "/check-sheet-a4.pdf", "application/pdf")
def check_sheet_a4(job_id: str) -> Response:
    """The sheet that lies in a photograph, on A4."""
    row_of(job_id)
    return _check_sheet("a4")


@file_route(blueprint, "/check-sheet-letter.pdf", "application/pdf")
def check_sheet_letter(job_id: str) -> Response:
    """The sheet that lies in a photograph, on Letter."""
    row_of(job_id)
    return _check_sheet("letter")
