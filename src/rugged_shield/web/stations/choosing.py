"""Weigh-up in depth: the strike map of a plate, and the ranking under the rider's priorities."""

from __future__ import annotations

import math
from dataclasses import fields

from flask import Blueprint

from rugged_shield.core.assess import (
    Job,
    Priorities,
    choice_of,
    criteria_of,
    figure,
    read_field,
    shell_mounts,
)
from rugged_shield.core.errors import InputError
from rugged_shield.core.result import Figure, Outcome, finding
from rugged_shield.core.weighup import (
    BAND_FILLS,
    DIRECTIONS,
    DecideResult,
    MapPoint,
    Ranked,
    StrikeMapInput,
    StrikeMapResult,
    band_words,
    map_drawing,
    strike_map,
)
from rugged_shield.web.api import route
from rugged_shield.web.fields import field_views
from rugged_shield.web.jobs import row_of
from rugged_shield.web.weighup_views import (
    DecideView,
    PointAsk,
    PointView,
    RankedView,
    ReachRow,
    Shade,
    StrikeAsk,
    StrikeView,
)

blueprint = Blueprint("choosing", __name__, url_prefix="/api/jobs/<job_id>/weigh-up")


def _asked(job: Job, body: StrikeAsk) -> StrikeMapInput:
    candidate = job.candidate(body.plate or job.in_hand.key)
    if body.direction not in DIRECTIONS:
        raise InputError("direction", body.direction, "one of " + ", ".join(DIRECTIONS))
    text = body.energy.strip().removesuffix("J").strip()
    return StrikeMapInput(
        candidate.plate, shell_mounts(job.bike, candidate),
        tuple(p for p in job.bike.parts if p.kind != "low"),
        body.direction,  # type: ignore[arg-type]
        read_field(StrikeMapInput, "energy_j", text, "energy_j", "metric"),
        read_field(StrikeMapInput, "contact_radius_mm", body.radius, "contact_radius_mm",
                   body.system),
    )  # fmt: skip


def _said(
    outcome: Outcome[StrikeMapResult], key: str, label: str, value: float | None, unit: str
) -> Figure:
    return figure(
        f"strike:{key}", label, value, unit, inputs=outcome.inputs, reasons=outcome.reasons,
        assumptions=outcome.assumptions, warnings=outcome.warnings, sources=outcome.sources,
        text="" if value is not None else "nothing behind it",
    )  # fmt: skip


def _reaches(job: Job, outcome: Outcome[StrikeMapResult]) -> tuple[ReachRow, ...]:
    first: dict[str, float] = {}
    for point in outcome.result.points:
        if point.touches_j is not None:
            first[point.near] = min(first.get(point.near, math.inf), point.touches_j)
    names = {p.key: p.name for p in job.bike.parts}
    return tuple(
        ReachRow(
            names[key], _said(outcome, f"reach:{key}", f"Reaches the {names[key]}", joule, "J")
        )
        for key, joule in sorted(first.items(), key=lambda item: item[1])
    )


@route(blueprint, "POST", "/strike", StrikeView, StrikeAsk)
def strike(job_id: str, body: StrikeAsk) -> StrikeView:
    """The strike map of a plate for a direction, an energy and a stone; nothing is saved."""
    job = row_of(job_id).job
    given = _asked(job, body)
    outcome = strike_map(given)
    result = outcome.result
    worst = max(result.points, key=lambda p: p.worst_mount_n)
    return StrikeView(
        given.plate.name, given.plate.key, map_drawing(given, result),
        tuple(Shade(f, w) for f, w in zip(BAND_FILLS, band_words(), strict=True)),
        tuple(DIRECTIONS), {c.key: c.plate.name for c in (job.stock, *job.candidates)},
        (
            _said(outcome, "deepest", "Deepest anywhere", result.deepest_mm, "mm"),
            _said(outcome, "touch", "Touches first at", result.first_touch_j, "J"),
            _said(outcome, "mount", f"Most on one mount, a blow over {worst.worst_mount}",
                  worst.worst_mount_n, "N"),
        ),
        _reaches(job, outcome), outcome.findings, outcome.verdict,
    )  # fmt: skip


@route(blueprint, "POST", "/strike/point", PointView, PointAsk)
def strike_point(job_id: str, body: PointAsk) -> PointView:
    """The struck place nearest to a point of the map, in numbers."""
    job = row_of(job_id).job
    outcome = strike_map(_asked(job, body))

    def apart(point: MapPoint) -> float:
        return math.hypot(point.place_mm[0] - body.x_mm, point.place_mm[1] - body.y_mm)

    p = min(outcome.result.points, key=apart)
    names = {q.key: q.name for q in job.bike.parts}
    near = names.get(p.near, "")
    return PointView(
        f"on the {p.panel}",
        (
            _said(outcome, "p:w", "Deflection here", p.deflection_mm, "mm"),
            _said(outcome, "p:standoff", f"Room to the {near}" if near else "Room", p.standoff_mm,
                  "mm"),
            _said(outcome, "p:touch", "Touches at", p.touches_j, "J"),
            _said(outcome, "p:force", "Peak force", p.peak_force_n, "N"),
            _said(outcome, "p:past", "Energy that gets past", 100 * p.past_share, "%"),
            _said(outcome, "p:mount", f"On {p.worst_mount}", p.worst_mount_n, "N"),
        ),
    )  # fmt: skip


def _ranked(outcome: Outcome[DecideResult], ranked: Ranked, names: tuple[str, ...]) -> RankedView:
    def said(key: str, label: str, value: float, unit: str) -> Figure:
        return figure(
            f"choose:{ranked.key}:{key}", label, value, unit, inputs=outcome.inputs,
            reasons=outcome.reasons, assumptions=outcome.assumptions, sources=outcome.sources,
        )  # fmt: skip

    shift = ranked.to_first
    words = "first as it is"
    if shift.share is None:
        words = "no weighting puts it first"
    elif shift.share > 0:
        words = (
            f"first if {max(shift.share, 0.005):.0%} of the weight moved, mostly from "
            f"“{shift.less}” to “{shift.more}”"
        )
    return RankedView(
        ranked.key, ranked.name, ranked.rank, said("score", "Score", 100 * ranked.score, "%"),
        said("first", "First in nearby weightings", 100 * ranked.acceptability, "%"),
        ranked.pareto, ranked.missing, words,
        tuple(
            said(f"v{i}", name, 100 * value, "%")
            for i, (name, value) in enumerate(zip(names, ranked.values, strict=True))
        ),
    )  # fmt: skip


@route(blueprint, "GET", "/priorities", DecideView)
def priorities(job_id: str) -> DecideView:
    """Candidates ranked under the rider's priorities, how sure, and what would change it."""
    job = row_of(job_id).job
    criteria = criteria_of(job)
    names = tuple(c.name for c in criteria)
    own = field_views(job.priorities, tuple(f.name for f in fields(Priorities)), "priorities")
    scales = tuple(
        f"{c.worst:g} {c.unit} counts nothing, {c.best:g} {c.unit} all" for c in criteria
    )
    if all(c.weight == 0 for c in criteria):
        nothing = finding("pick not sure", "Nothing matters so far: give something a weight.")
        return DecideView((), own, scales, (), (nothing,))
    outcome = choice_of(job)
    return DecideView(
        tuple(_ranked(outcome, r, names) for r in outcome.result.ranking), own, scales,
        outcome.reasons, outcome.findings,
    )  # fmt: skip
