"""Strike maps: one plate, the difference of two, one struck place, and all plates in the back."""

from __future__ import annotations

import math
from typing import Any

from flask import Blueprint

from rugged_shield.core.amounts import System, amount, amount_range, entered
from rugged_shield.core.assess.weighup.strike import (
    scars_said,
    strike_asked,
    strike_of,
    struck_plates,
)
from rugged_shield.core.errors import InputError, choose
from rugged_shield.core.figures import figure, figure_of
from rugged_shield.core.job.edits.path import read_field
from rugged_shield.core.job.model import Job
from rugged_shield.core.result import Figure, Outcome
from rugged_shield.core.tables.materials import ROOM_C, SHEET_MATERIALS
from rugged_shield.core.tables.profiles import ENERGY_CLASSES
from rugged_shield.core.weighup.coverage import DIRECTIONS
from rugged_shield.core.weighup.map_drawings import (
    FILLS,
    RATIO_FILLS,
    RATIO_WORDS,
    SHADINGS,
    difference,
    is_from_ahead,
    map_drawing,
    nearest_ahead,
)
from rugged_shield.core.weighup.map_flat import flat_map_drawing
from rugged_shield.core.weighup.point_drawings import curve_drawing, loads_drawing
from rugged_shield.core.weighup.strike_field import StrikeMapInput
from rugged_shield.core.weighup.strike_map import StrikeMapResult
from rugged_shield.core.weighup.strike_point import (
    MountLoad,
    StrikePointInput,
    StrikePointResult,
    strike_point,
)
from rugged_shield.web.api import route
from rugged_shield.web.jobs import row_of
from rugged_shield.web.runs import RunView, run_view, runs, worker
from rugged_shield.web.stations.weighup.views import (
    DifferenceAsk,
    DifferenceView,
    LoadView,
    PointAsk,
    PointView,
    ReachRow,
    ScarView,
    Shade,
    StrikeAsk,
    StrikeView,
)

blueprint = Blueprint("strike", __name__, url_prefix="/api/jobs/<job_id>/weigh-up/strike")


def asked_of(job: Job, body: StrikeAsk, plate: str = "") -> StrikeMapInput:
    """The question as typed, for the plate named or the one in hand."""
    choose("direction", body.direction, DIRECTIONS, "strike direction")

    def number(name: str, text: str, unit: str, otherwise: float, system: System) -> float:
        bare = text.strip().removesuffix(unit).strip() if unit else text
        if not bare.strip():
            return otherwise
        value: float = read_field(StrikeMapInput, name, bare, name, system)
        return value

    use = job.use
    energy = number("energy_j", body.energy, "J", use.energy_j, "metric")
    radius = number("contact_radius_mm", body.radius, "", use.stone_radius_mm, body.system)
    warm = number("temperature_c", body.warm, "°C", ROOM_C, "metric")
    key = plate or body.plate or job.in_hand.key
    return strike_asked(job, key, body.direction, energy, radius, warm)


def said(outcome: Outcome[Any], key: str, label: str, value: float | None, unit: str) -> Figure:
    """A figure of a strike; nothing behind it where there is no value."""
    return figure_of(
        outcome,
        f"strike:{key}",
        label,
        value,
        unit,
        judged=False,
        none="nothing behind it",
    )


def shades_of(shading: str) -> tuple[Shade, ...]:
    """What each shade means, from the worst on."""
    return tuple(Shade(f, w) for f, w in zip(FILLS, SHADINGS[shading].words(), strict=True))


def _reaches(job: Job, outcome: Outcome[StrikeMapResult]) -> tuple[ReachRow, ...]:
    first: dict[str, float] = {}
    for point in outcome.result.points:
        if point.touches_j is not None:
            first[point.near] = min(first.get(point.near, math.inf), point.touches_j)
    names = {p.key: p.name for p in job.bike.parts}
    return tuple(
        ReachRow(names[key], said(outcome, f"reach:{key}", f"Reaches the {names[key]}", joule, "J"))
        for key, joule in sorted(first.items(), key=lambda item: item[1])
    )


def _scars(job: Job) -> tuple[ScarView, ...]:
    views = []
    for s in scars_said(job):
        words = f"{s.scar.kind} on the {s.scar.panel}"
        energy, why = None, s.why_not
        if s.energy is not None:
            found = s.energy.result
            least, most = found.least_j, found.most_j
            if found.likely_j is None or least is None or most is None:
                why = s.energy.reasons[0]
            else:
                energy = figure_of(
                    s.energy,
                    f"scar:{s.scar.key}",
                    "Energy that leaves it",
                    found.likely_j,
                    "J",
                    text=amount_range(least, most, "J"),
                )
        views.append(ScarView(words, energy, why))
    return tuple(views)


def _strike_view(job: Job, given: StrikeMapInput, shading: str) -> StrikeView:
    outcome = strike_of(given)
    result = outcome.result
    worst = max(result.points, key=lambda p: p.worst_share or 0.0)
    casting = max((p.casting_share or 0.0 for p in result.points), default=0.0)
    punch = max(p.punch_share for p in result.points)
    scars = scars_said(job)
    places = tuple(s.place_mm for s in scars)
    front = None
    if is_from_ahead(given.direction):
        upright = tuple(s.place_mm for s in scars if s.scar.panel == "apron")
        front = map_drawing(given, result, shading, upright, "ahead")
    return StrikeView(
        plate=given.plate.name,
        plate_key=given.plate.key,
        drawing=map_drawing(given, result, shading, places),
        front=front,
        flat=flat_map_drawing(given, result, shading),
        shades=shades_of(shading),
        shaded_by=shading,
        energy=f"{given.energy_j:g}",
        radius=entered(given.contact_radius_mm, "mm"),
        softens=SHEET_MATERIALS[given.plate.material].family == "plastic",
        shadings={k: v.label for k, v in SHADINGS.items()},
        directions=tuple(DIRECTIONS),
        plates={c.key: c.plate.name for c in (job.stock, *job.candidates)},
        figures=(
            said(outcome, "deepest", "Deepest anywhere", result.deepest_mm, "mm"),
            said(outcome, "touch", "Touches first at", result.first_touch_j, "J"),
            said(
                outcome,
                "share",
                f"Most of its limit: {worst.worst_mount}, {worst.fails}",
                None if worst.worst_share is None else 100 * worst.worst_share,
                "%",
            ),
            said(outcome, "casting", "Worst mount on a casting, of its limit", 100 * casting, "%"),
            said(outcome, "punch", "Stone, of what punches through", 100 * punch, "%"),
        ),
        reaches=_reaches(job, outcome),
        scars=_scars(job),
        energy_classes=ENERGY_CLASSES,
        findings=outcome.findings,
        verdict=outcome.verdict,
    )


@route(blueprint, "POST", "", StrikeView, StrikeAsk)
def strike(job_id: str, body: StrikeAsk) -> StrikeView:
    """The strike map of a plate for a direction, an energy and a stone; nothing is saved."""
    job = row_of(job_id).job
    choose("shading", body.shading, SHADINGS, "way to shade the map")
    return worker().call(_strike_view, job, asked_of(job, body), body.shading)


@route(blueprint, "POST", "/difference", DifferenceView, DifferenceAsk)
def strike_difference(job_id: str, body: DifferenceAsk) -> DifferenceView:
    """One plate's map against another's, where both have sheet."""
    job = row_of(job_id).job
    given = asked_of(job, body)
    if body.other == given.plate.key:
        raise InputError("other", body.other, "another plate", "both are the same plate")
    return worker().call(_difference_view, given, asked_of(job, body, body.other))


def _difference_view(given: StrikeMapInput, other: StrikeMapInput) -> DifferenceView:
    mine, its = strike_of(given), strike_of(other)
    drawing, compared = difference(given, mine.result, other, its.result)
    front = None
    if is_from_ahead(given.direction):
        front, _ = difference(given, mine.result, other, its.result, "ahead")

    def share(key: str, label: str, value: float, unit: str = "%") -> Figure:
        return figure_of(mine, f"difference:{key}", label, value, unit, judged=False)

    better, worse = compared.better, compared.worse
    words = (
        f"Where both have sheet, the {given.plate.name} needs {compared.ratio:.1f} times the "
        f"energy of the {other.plate.name} to reach something, over all places."
    )
    return DifferenceView(
        plate=given.plate.name,
        other=other.plate.name,
        drawing=drawing,
        front=front,
        shades=tuple(Shade(f, w) for f, w in zip(RATIO_FILLS, RATIO_WORDS, strict=True)),
        figures=(
            share("better", "Better over", 100 * better),
            share("worse", "Worse over", 100 * worse),
            share("alike", "About alike over", 100 * compared.alike),
            share("ratio", "Energy, times", compared.ratio, "×"),
        ),
        words=words,
    )


def _load(outcome: Outcome[StrikePointResult], load: MountLoad) -> LoadView:
    def force(key: str, label: str, value: float, unit: str = "N") -> Figure:
        return figure(
            f"load:{load.name}:{key}",
            label,
            value,
            unit,
            inputs=outcome.inputs,
            reasons=outcome.reasons,
            assumptions=outcome.assumptions,
            sources=outcome.sources,
        )

    shown = "pressed" if load.normal_n >= 0 else "pulled"
    share = figure_of(
        outcome,
        f"load:{load.name}:share",
        "Of its limit",
        None if load.share is None else 100 * load.share,
        "%",
        judged=False,
    )
    return LoadView(
        name=load.name,
        casting=load.casting,
        pressed=force("normal", shown, abs(load.normal_n)),
        sheared=force("shear", "across", load.shear_n),
        turned=force("moment", "turned", load.moment_nmm / 1000, "N·m"),
        share=share,
        fails=load.fails,
    )


@route(blueprint, "POST", "/point", PointView, PointAsk)
def point(job_id: str, body: PointAsk) -> PointView:
    """The refined answer at the struck place nearest to a point of the map."""
    job = row_of(job_id).job
    names = {p.key: p.name for p in job.bike.parts}
    at = (body.x_mm, body.y_mm, body.z_mm)
    return worker().call(_point_view, asked_of(job, body), names, at)


def _point_view(
    asked: StrikeMapInput, names: dict[str, str], at: tuple[float, float, float | None]
) -> PointView:
    x, y, z = at
    if z is not None:
        x, y, _ = nearest_ahead(asked, strike_of(asked).result, y, z).place_mm
    outcome = strike_point(StrikePointInput(asked, x, y))
    p = outcome.result
    near = names.get(p.near, "")
    casting = max((m.share or 0.0 for m in p.loads if m.casting), default=None)
    figures = [
        said(outcome, "p:w", "Deflection here", p.deflection_mm, "mm"),
        said(outcome, "p:least", "At least", p.least_mm, "mm"),
        said(outcome, "p:most", "At most", p.most_mm, "mm"),
        said(outcome, "p:standoff", f"Room to the {near}" if near else "Room", p.standoff_mm, "mm"),
        said(outcome, "p:touch", "Touches at", p.touches_j, "J"),
        said(outcome, "p:force", "Peak force", p.peak_force_n, "N"),
        figure_of(
            outcome,
            "strike:p:dent",
            "Dent left",
            p.dent_mm,
            "mm",
            judged=False,
        ),
        said(outcome, "p:left", "Room left after it", p.left_mm, "mm"),
        said(outcome, "p:past", "Energy that gets past", 100 * p.past_share, "%"),
        said(outcome, "p:punch", "Stone, of what punches through", 100 * p.punch_share, "%"),
    ]
    if casting is not None:
        label = "Worst mount on a casting, of its limit"
        figures.append(said(outcome, "p:casting", label, 100 * casting, "%"))
    return PointView(
        f"on the {p.panel}, {amount(p.place_mm[0], 'mm', 0)} behind the front axle",
        tuple(figures),
        curve_drawing(p, asked.energy_j),
        loads_drawing(asked, p),
        tuple(_load(outcome, m) for m in p.loads),
        outcome.findings,
    )


@route(blueprint, "POST", "/all", RunView, StrikeAsk)
def all_maps(job_id: str, body: StrikeAsk) -> RunView:
    """Begin the maps of every plate in the background; a newer question overtakes an older one."""
    job = row_of(job_id).job
    given = asked_of(job, body, job.stock.key)  # what is typed wrongly is said at once
    total = 1 + len(job.candidates)
    run = runs().start(job_id, "maps", total, struck_plates, job, given.direction, given.energy_j)
    return run_view(run)
