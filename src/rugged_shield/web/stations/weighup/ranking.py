"""The choice: ranking under the rider's priorities, what would turn it, the schools, the sheet."""

from __future__ import annotations

from dataclasses import fields, replace
from typing import Any

from flask import Blueprint, Response

from rugged_shield.calc.beside import beside
from rugged_shield.core.amounts import either, entered, percent
from rugged_shield.core.assess.survey.measure_next import rank_shifts
from rugged_shield.core.assess.survey.uncertain import uncertain_numbers
from rugged_shield.core.assess.weighup.answer import blocked_plates
from rugged_shield.core.assess.weighup.protection import solve_beside
from rugged_shield.core.assess.weighup.ranking import (
    choice_of,
    criteria_of,
    quantities_of,
    rivals,
    something_matters,
)
from rugged_shield.core.assess.weighup.schools import schools_of
from rugged_shield.core.assess.weighup.scorecard import weigh
from rugged_shield.core.figures import figure
from rugged_shield.core.job.model import Job, Priorities
from rugged_shield.core.result import Figure, Input, Outcome, finding
from rugged_shield.core.weighup.decide import Criterion, DecideResult, Ranked
from rugged_shield.formats.decision import decision_csv, decision_pdf
from rugged_shield.web.api import file_route, route
from rugged_shield.web.downloads import download
from rugged_shield.web.fields import field_views
from rugged_shield.web.jobs import row_of
from rugged_shield.web.runs import RunView, run_view, runs, worker
from rugged_shield.web.stations.weighup.views import DecideView, RankedView, SchoolsView

blueprint = Blueprint("ranking", __name__, url_prefix="/api/jobs/<job_id>/weigh-up")


def _on_scale(quantity: Figure, criterion: Criterion, value: float) -> Figure:
    """Where a quantity stands on its priority's scale, with what is behind the quantity."""
    value_text = either(quantity.metric, quantity.us)
    why = f"Where {value_text} stands on the scale: {_scale(criterion)}."
    return replace(
        figure(f"{quantity.key}:scale", criterion.name, 100 * value, "%"),
        inputs=(Input(quantity.label, value_text), *quantity.inputs),
        reasons=(why, *quantity.reasons),
        assumptions=quantity.assumptions,
        sources=quantity.sources,
    )


def _scale(criterion: Criterion) -> str:
    worst, best, unit = criterion.worst, criterion.best, criterion.unit
    return f"{entered(worst, unit)} counts nothing, {entered(best, unit)} all"


def _ranked(
    job: Job, outcome: Outcome[DecideResult], ranked: Ranked, criteria: tuple[Criterion, ...]
) -> RankedView:
    def said(key: str, label: str, value: float, unit: str) -> Figure:
        return figure(
            f"choose:{ranked.key}:{key}",
            label,
            value,
            unit,
            inputs=outcome.inputs,
            reasons=outcome.reasons,
            assumptions=outcome.assumptions,
            sources=outcome.sources,
        )

    shift, weighed = ranked.to_first, weigh(job, ranked.key)
    words = "first as it is"
    if shift.share is None:
        words = "no weighting puts it first"
    elif shift.share > 0:
        words = (
            f"first if {percent(max(shift.share, 0.005))} of the weight moved, mostly from "
            f"“{shift.less}” to “{shift.more}”"
        )
    return RankedView(
        key=ranked.key,
        name=ranked.name,
        rank=ranked.rank,
        score=said("score", "Score", 100 * ranked.score, "%"),
        first=said("first", "First in nearby weightings", 100 * ranked.acceptability, "%"),
        pareto=ranked.pareto,
        missing=ranked.missing,
        to_first=words,
        values=tuple(
            _on_scale(quantity, criterion, value)
            for quantity, criterion, value in zip(
                quantities_of(job, weigh(job, ranked.key)), criteria, ranked.values, strict=True
            )
        ),
        verdict=weighed.verdict,
        reason=weighed.reason,
    )


@route(blueprint, "GET", "/priorities", DecideView)
def priorities(job_id: str) -> DecideView:
    """Candidates ranked under the rider's priorities, how sure, and what would change it."""
    return worker().call(_decide_view, row_of(job_id).job)


def _decide_view(job: Job) -> DecideView:
    criteria = criteria_of(job)
    own = field_views(job.priorities, tuple(f.name for f in fields(Priorities)), "priorities")
    looked_at = quantities_of(job, weigh(job, job.stock.key))
    scales = tuple(f"{q.label}: {_scale(c)}" for q, c in zip(looked_at, criteria, strict=True))
    shut = blocked_plates(job)
    if not something_matters(job):
        nothing = finding("pick not sure", "Nothing matters so far: give something a weight.")
        return DecideView(
            ranking=(),
            same=(),
            missing_of_all=(),
            priorities=own,
            scales=scales,
            shut_out=shut,
            reasons=(),
            findings=(nothing,),
        )
    solve_beside(job, rivals(job), beside)
    outcome = choice_of(job)
    ranked = tuple(_ranked(job, outcome, r, criteria) for r in outcome.result.ranking)
    same = _same_for_all(ranked)
    of_all = tuple(m for m in ranked[0].missing if all(m in r.missing for r in ranked[1:]))
    of_all = of_all if len(ranked) > 1 else ()
    alike = {value.key for value in same}
    return DecideView(
        ranking=tuple(
            replace(
                r,
                values=tuple(v for v in r.values if v.key not in alike),
                missing=tuple(m for m in r.missing if m not in of_all),
            )
            for r in ranked
        ),
        same=same,
        missing_of_all=of_all,
        priorities=own,
        scales=scales,
        shut_out=shut,
        reasons=outcome.reasons,
        findings=outcome.findings,
    )


def _same_for_all(ranked: tuple[RankedView, ...]) -> tuple[Figure, ...]:
    """Where several plates stand alike, by the same quantity: it turns no order."""
    if len(ranked) < 2:
        return ()

    def said(value: Figure) -> tuple[str, Input]:
        return value.metric, value.inputs[0]

    first, *others = ranked
    return tuple(
        value
        for i, value in enumerate(first.values)
        if all(said(r.values[i]) == said(value) for r in others)
    )


@route(blueprint, "POST", "/rank-shifts", RunView, dict[str, Any])
def begin_rank_shifts(job_id: str, body: dict[str, Any]) -> RunView:
    """Begin to try every uncertain number: which would put another plate first."""
    del body
    job = row_of(job_id).job
    total = len(uncertain_numbers(job))
    return run_view(runs().start(job_id, "rank shifts", total, rank_shifts, job))


@route(blueprint, "GET", "/schools", SchoolsView)
def schools(job_id: str) -> SchoolsView:
    """What riders disagree about, priced for this bike."""
    return SchoolsView(worker().call(schools_of, row_of(job_id).job))


@file_route(blueprint, "/decision.pdf", "application/pdf")
def decision_sheet(job_id: str) -> Response:
    """The decision on one page."""
    made = worker().call(decision_pdf, row_of(job_id).job)
    return download(made, "application/pdf", "decision.pdf", inline=True)


@file_route(blueprint, "/decision.csv", "text/csv")
def decision_table(job_id: str) -> Response:
    """The table of all plates as CSV."""
    made = worker().call(decision_csv, row_of(job_id).job)
    return download(made, "text/csv", "decision.csv")
