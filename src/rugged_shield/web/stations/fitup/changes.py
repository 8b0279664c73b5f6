"""Changes of the plate on the bench: their price first, then a fact, a step and a deviation."""

from __future__ import annotations

from flask import Blueprint, Response

from rugged_shield.core.amounts import plain_number
from rugged_shield.core.assess.fitup.template import OUTLINE_ASSUMED, outline_assumed, template_of
from rugged_shield.core.assess.tighten.tasks import change_caution
from rugged_shield.core.assess.weighup.effect import (
    WhatIfRow,
    changed_joints,
    changed_rows,
    new_findings,
    what_if_row,
)
from rugged_shield.core.assess.weighup.scorecard import weigh
from rugged_shield.core.assess.weighup.strike import strike_figures
from rugged_shield.core.errors import InputError
from rugged_shield.core.fitup.modification import WORDS_ONLY, Modification, change_words
from rugged_shield.core.job.edits.asked import FlatPlace, Modify
from rugged_shield.core.job.edits.modify import modify, tick_change, tried_on, unmake
from rugged_shield.core.job.edits.path import read_field
from rugged_shield.core.job.edits.reshape import folds_of, sides_of, sleeve_of
from rugged_shield.core.job.model import Job
from rugged_shield.core.mechanics.drawing import Drawing
from rugged_shield.core.survey.flat import flat_drawing, flat_pattern, flat_places
from rugged_shield.core.survey.geometry import fold
from rugged_shield.core.survey.plate import Plate
from rugged_shield.core.survey.plate_drawings import plate_drawing
from rugged_shield.core.tables.cautions import LAW_CAUTION
from rugged_shield.web.api import file_route, route
from rugged_shield.web.downloads import download
from rugged_shield.web.jobs import row_of, write
from rugged_shield.web.runs import newest, worker
from rugged_shield.web.stations.fitup.views import (
    ChangeAsk,
    ChangeLine,
    ChangesView,
    ChangeWrite,
    DoneWrite,
    EffectStrikeView,
    EffectView,
    FlatPlaceView,
    PlaceAsk,
)
from rugged_shield.web.views import SavedView, Write

blueprint = Blueprint("changes", __name__, url_prefix="/api/jobs/<job_id>/fit-up/changes")

_SHOWN = (
    "mass",
    "coverage",
    "clearance",
    "breakover",
    "lean",
    "standoff",
    "stiffness_ratio",
    "heat_idling",
    "heat_moving",
    "heat_stopped",
    "air",
    "oil_screws",
    "effort",
)


def _asked(body: ChangeAsk) -> Modify:
    def number(field: str, text: str) -> float | None:
        if not text.strip():
            return None
        value: float | None = read_field(Modify, field, text, field, body.system)
        return value

    points = tuple((_place(p.x, "x_mm", body), _place(p.y, "y_mm", body)) for p in body.points)
    return Modify(
        kind=body.kind,
        panel=body.panel,
        points_mm=points,
        wide_mm=number("wide_mm", body.wide),
        long_mm=number("long_mm", body.long),
        lengthwise=body.lengthwise,
        pitch_mm=number("pitch_mm", body.pitch),
        staggered=body.staggered,
        thick_mm=number("thick_mm", body.thick),
        turn_deg=number("turn_deg", body.turn),
        joints=body.joints,
        what=body.what,
        why=body.why,
    )


def _place(text: str, field: str, body: ChangeAsk) -> float:
    value: float | None = read_field(FlatPlace, field, text, field, body.system)
    if value is None:
        raise InputError(field, "", "a place in mm", "nothing was entered")
    return value


@route(blueprint, "GET", "", ChangesView)
def changes(job_id: str) -> ChangesView:
    """The flat pattern of the plate in hand, and what was changed on it."""
    job = row_of(job_id).job
    plate, joints = job.in_hand.plate, job.in_hand.settled_joints()
    return ChangesView(
        plate=plate.name,
        outline=OUTLINE_ASSUMED if outline_assumed(plate) else "",
        drawing=flat_drawing(flat_pattern(plate)),
        panels=tuple(flat_places(plate)),
        joints={j.key: f"{j.number} {j.name}" for j in joints},
        bends={name: f"{name}, now {angle:.1f}°" for name, (_, angle) in folds_of(plate).items()},
        sides=sides_of(plate),
        sleeves={
            j.key: f"{j.number} {j.name}, {sleeve.name}"
            for j in joints
            if (sleeve := sleeve_of(j.layers)) is not None
        },
        changes=tuple(
            ChangeLine(
                key=c.key,
                words=change_words(c),
                why=c.why,
                caution=change_caution(c),
                done=c.done,
            )
            for c in job.as_entered(job.in_hand.key).changes
        ),
        words_only=WORDS_ONLY,
        law=LAW_CAUTION,
    )


@route(blueprint, "POST", "/place", FlatPlaceView, PlaceAsk)
def place(job_id: str, body: PlaceAsk) -> FlatPlaceView:
    """A tap on the flat drawing as a place in the flat, in both systems."""
    row_of(job_id)
    x, y = body.y_drawn, -body.x_drawn
    return FlatPlaceView(
        x_metric=plain_number(round(x, 1), "mm", "metric"),
        y_metric=plain_number(round(y, 1), "mm", "metric"),
        x_us=plain_number(x, "mm", "us"),
        y_us=plain_number(y, "mm", "us"),
    )


def _drawn(plate: Plate, change: Modification) -> Drawing:
    """The plate where the change shows: laid flat, or folded where only that shows it."""
    if change.kind not in ("bend", "other side"):
        return flat_drawing(flat_pattern(plate))
    ends = {f"{p.key} {edge}" for p in plate.pieces for edge in ("front", "rear")}
    along = change.where in {"apron", "tail", *ends}
    return plate_drawing(fold(plate), "from the left" if along else "from ahead")


@route(blueprint, "POST", "/try", EffectView, ChangeAsk)
def try_change(job_id: str, body: ChangeAsk) -> EffectView:
    """What a change does before it is taken; nothing is saved."""
    job = row_of(job_id).job
    key = job.in_hand.key
    there, change = tried_on(job, key, _asked(body))
    before, after = weigh(job, key), weigh(there, key)
    return EffectView(
        words=change_words(change),
        drawing=_drawn(there.candidate(key).plate, change),
        rows=changed_rows(before, after, _SHOWN),
        joints=changed_joints(job, there, key),
        findings=new_findings(before, after),
        caution=change_caution(change),
        law=LAW_CAUTION,
        verdict=after.verdict,
    )


@route(blueprint, "POST", "/strike", EffectStrikeView, ChangeAsk)
def try_strike(job_id: str, body: ChangeAsk) -> EffectStrikeView:
    """What a blow does before and after the change."""
    job = row_of(job_id).job
    there, _ = tried_on(job, job.in_hand.key, _asked(body))
    with newest().turn(job_id):
        return worker().call(_struck, job, there, job.in_hand.key)


def _struck(job: Job, there: Job, key: str) -> EffectStrikeView:
    rows: tuple[WhatIfRow, ...] = ()
    trouble = ""
    try:
        pairs = zip(strike_figures(job, key), strike_figures(there, key), strict=True)
        rows = tuple(what_if_row(a, b) for a, b in pairs)
    except InputError as error:
        trouble = f"No map of the blow: {error.message}."
    return EffectStrikeView(rows, trouble)


@route(blueprint, "POST", "", SavedView, ChangeWrite)
def make(job_id: str, body: ChangeWrite) -> SavedView:
    """The change becomes a fact of the plate, a step of the plan, a deviation."""
    asked = _asked(body.asked)
    return write(job_id, body, lambda job: modify(job, job.in_hand.key, asked))


@route(blueprint, "POST", "/<key>/remove", SavedView, Write)
def take_back(job_id: str, key: str, body: Write) -> SavedView:
    """Take a change back with all that it brought."""
    return write(job_id, body, lambda job: unmake(job, job.in_hand.key, key))


@route(blueprint, "POST", "/<key>/done", SavedView, DoneWrite)
def done(job_id: str, key: str, body: DoneWrite) -> SavedView:
    """The change is carried out, or is not after all."""
    return write(job_id, body, lambda job: tick_change(job, job.in_hand.key, key, body.done))


def _template(job_id: str, paper: str) -> Response:
    from rugged_shield.formats.template import template_pdf

    job = row_of(job_id).job
    found = template_of(job, job.in_hand.key)
    return download(template_pdf(found, paper), "application/pdf", f"template-{paper}.pdf", True)


@file_route(blueprint, "/template-a4.pdf", "application/pdf")
def template_a4(job_id: str) -> Response:
    """The plate at 1:1 on tiles of A4."""
    return _template(job_id, "a4")


@file_route(blueprint, "/template-letter.pdf", "application/pdf")
def template_letter(job_id: str) -> Response:
    """The plate at 1:1 on tiles of Letter."""
    return _template(job_id, "letter")


@file_route(blueprint, "/template.svg", "image/svg+xml")
def template_svg(job_id: str) -> Response:
    """The plate in true mm with its screws' holes as SVG."""
    from rugged_shield.formats.svg import flat_svg

    job = row_of(job_id).job
    found = template_of(job, job.in_hand.key)
    text = flat_svg(found.pattern, found.title, found.screws)
    return download(text, "image/svg+xml", "template.svg")


@file_route(blueprint, "/template.dxf", "image/vnd.dxf")
def template_dxf(job_id: str) -> Response:
    """The plate in true mm with its screws' holes as DXF."""
    from rugged_shield.formats.dxf import flat_dxf

    job = row_of(job_id).job
    found = template_of(job, job.in_hand.key)
    return download(flat_dxf(found.pattern, found.screws), "image/vnd.dxf", "template.dxf")
