"""The answer page: which plate, why, what it costs, how sure, and what would change it."""

from __future__ import annotations

from typing import Any

from flask import Blueprint

from rugged_shield.calc.beside import beside, cores
from rugged_shield.core.amounts import entered
from rugged_shield.core.assess.survey.measure_next import Wanted, measure_next, one_to_measure
from rugged_shield.core.assess.weighup.answer import answer_of, answer_steps
from rugged_shield.core.assess.weighup.protection import solve_beside, to_strike
from rugged_shield.core.assess.weighup.ranking import something_matters
from rugged_shield.core.job.model import Job
from rugged_shield.core.survey.geometry import fold
from rugged_shield.core.survey.small_drawings import small_plate
from rugged_shield.web.api import route
from rugged_shield.web.jobs import row_of
from rugged_shield.web.runs import RunView, run_view, runs, worker
from rugged_shield.web.stations.weighup.views import AnswerView, ToStrike

blueprint = Blueprint("answer", __name__, url_prefix="/api/jobs/<job_id>/weigh-up/answer")


@route(blueprint, "GET", "", AnswerView)
def answer(job_id: str) -> AnswerView:
    """Which plate this rider's priorities lead to, or what is missing before there is one."""
    return worker().call(_view, row_of(job_id).job)


def _view(job: Job) -> AnswerView:
    if something_matters(job):
        solve_beside(job, to_strike(job), beside)
    found = answer_of(job)
    made_of, picture = "", None
    if found.key:
        plate = job.as_entered(found.key).plate
        made_of = f"{plate.material}, {entered(plate.thickness_mm, 'mm')}"
        picture = small_plate(plate.name, fold(plate))
    taken = job.as_entered(job.picked).plate.name if job.picked else ""
    return AnswerView(
        answer=found, taken=job.picked, taken_name=taken, made_of=made_of, picture=picture
    )


@route(blueprint, "GET", "/wait", ToStrike)
def wait(job_id: str) -> ToStrike:
    """How many plates are to be struck before there is an answer."""
    return ToStrike(worker().call(_left, row_of(job_id).job))


def _left(job: Job) -> int:
    return len(to_strike(job)) if something_matters(job) else 0


@route(blueprint, "POST", "/begin", RunView, dict[str, Any])
def begin(job_id: str, body: dict[str, Any]) -> RunView:
    """Begin to work the answer out."""
    del body
    job = row_of(job_id).job
    total = 1 + worker().call(_left, job)
    return run_view(runs().start(job_id, "answer", total, answer_steps, job, beside, cores()))


@route(blueprint, "GET", "/measure", Wanted)
def to_measure(job_id: str) -> Wanted:
    """The one measurement that would change the answer: every number is tried, which takes long."""
    return worker().call(_to_measure, row_of(job_id).job)


def _to_measure(job: Job) -> Wanted:
    return one_to_measure(measure_next(job, beside), answer_of(job).key)
