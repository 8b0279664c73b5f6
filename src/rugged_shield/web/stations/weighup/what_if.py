"""What-if on a copy of a plate: rows, gates, ledger and map at once; kept only when asked."""

from __future__ import annotations

from flask import Blueprint

from rugged_shield.core.assess.frame.ledger import ledger
from rugged_shield.core.assess.weighup.effect import WhatIfRow, changed_rows, what_if_row
from rugged_shield.core.assess.weighup.scorecard import weigh
from rugged_shield.core.assess.weighup.strike import strike_asked, strike_figures, strike_of
from rugged_shield.core.errors import InputError
from rugged_shield.core.job.edits.path import read_field
from rugged_shield.core.job.edits.whatif import WHAT_IF_KEY, WhatIf, keep, tried, words_of
from rugged_shield.core.job.model import Job
from rugged_shield.core.tables.materials import SHEET_MATERIALS, SLIDER_MATERIALS
from rugged_shield.core.weighup.map_drawings import map_drawing
from rugged_shield.web.api import route
from rugged_shield.web.jobs import row_of, spent, write
from rugged_shield.web.runs import newest, worker
from rugged_shield.web.stations.weighup.strike import shades_of
from rugged_shield.web.stations.weighup.views import (
    WhatIfAsk,
    WhatIfStrikeView,
    WhatIfView,
    WhatIfWrite,
)
from rugged_shield.web.views import SavedView

blueprint = Blueprint("what_if", __name__, url_prefix="/api/jobs/<job_id>/weigh-up/what-if")
_SHOWN = (
    "mass",
    "bundle_mass",
    "thickness",
    "stiffness_ratio",
    "coverage",
    "clearance",
    "clearance_lost",
    "breakover",
    "lean",
    "sag",
    "standoff",
    "heat_idling",
    "heat_moving",
    "heat_stopped",
    "air",
    "oil_screws",
    "service",
    "effort",
    "ring",
    "slide",
    "corrosion",
)


def _asked(job: Job, body: WhatIfAsk) -> WhatIf:
    def number(field: str, text: str, otherwise: float | None) -> float | None:
        if not text.strip():
            return otherwise
        value: float | None = read_field(WhatIf, field, text, field, body.system)
        return value

    return WhatIf(
        plate=body.plate or job.in_hand.key,
        thickness_mm=number("thickness_mm", body.thickness, None),
        material=body.material,
        slider=body.slider,
        slider_thickness_mm=number("slider_thickness_mm", body.slider_thickness, None),
        mount_change=body.mount_change,
        joints=body.joints,
        isolator_height_mm=number("isolator_height_mm", body.isolator_height, 10.0) or 10.0,
        spring_n_per_mm=number("spring_n_per_mm", body.spring, None),
        wing_longer_mm=number("wing_longer_mm", body.wing_longer, 0.0) or 0.0,
        cutout=body.cutout,
        heat_foil=body.heat_foil,
    )


@route(blueprint, "POST", "", WhatIfView, WhatIfAsk)
def what_if(job_id: str, body: WhatIfAsk) -> WhatIfView:
    """The copy against its original; nothing is saved."""
    job = row_of(job_id).job
    asked = _asked(job, body)
    there = tried(job, asked)
    before, after = weigh(job, asked.plate), weigh(there, WHAT_IF_KEY)
    original = job.as_entered(asked.plate)
    return WhatIfView(
        plate=original.plate.name,
        plate_key=original.key,
        words=words_of(asked),
        rows=changed_rows(before, after, _SHOWN),
        ledger=ledger(there),
        gates=after.gates,
        findings=after.findings,
        verdict=after.verdict,
        plates={c.key: c.plate.name for c in (job.stock, *job.candidates)},
        sliders=SLIDER_MATERIALS,
        materials=tuple(SHEET_MATERIALS),
        joints={j.key: f"{j.number} {j.name}" for j in original.settled_joints()},
        cutouts=tuple(c.key for c in original.plate.cutouts if not c.closed_door),
        wings=original.plate.wing_left is not None or original.plate.wing_right is not None,
    )


@route(blueprint, "POST", "/strike", WhatIfStrikeView, WhatIfAsk)
def what_if_strike(job_id: str, body: WhatIfAsk) -> WhatIfStrikeView:
    """The copy's strike map, and what the blow does before and after."""
    job = row_of(job_id).job
    asked = _asked(job, body)
    with newest().turn(job_id):
        return worker().call(_struck, job, asked)


def _struck(job: Job, asked: WhatIf) -> WhatIfStrikeView:
    there = tried(job, asked)
    given = strike_asked(there, WHAT_IF_KEY)
    drawing = map_drawing(given, strike_of(given).result)
    after = strike_figures(there, WHAT_IF_KEY)
    rows: tuple[WhatIfRow, ...] = ()
    trouble = ""
    try:
        before = strike_figures(job, asked.plate)
        rows = tuple(what_if_row(a, b) for a, b in zip(before, after, strict=True))
    except InputError as error:
        trouble = f"The original has no map: {error.message}."
    return WhatIfStrikeView(drawing, shades_of("touches"), rows, trouble)


@route(blueprint, "POST", "/keep", SavedView, WhatIfWrite)
def keep_what_if(job_id: str, body: WhatIfWrite) -> SavedView:
    """Keep the copy as a candidate."""
    names = spent(job_id)
    return write(job_id, body, lambda job: keep(job, _asked(job, body.asked), names))
