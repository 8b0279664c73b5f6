"""Weighing the difference: pairs with and without on any holder, and what they tell."""

from __future__ import annotations

from flask import Blueprint

from rugged_shield.core.amounts import amount
from rugged_shield.core.assess.weighup.scorecard import hardware_kg
from rugged_shield.core.errors import InputError
from rugged_shield.core.figures import figure
from rugged_shield.core.job.edits.path import Change, read_field
from rugged_shield.core.job.edits.weighings import add_pair, adopt_weighing, remove_pair
from rugged_shield.core.job.model import Job, mounted
from rugged_shield.core.result import Figure, Outcome, verdict_of
from rugged_shield.core.survey.weighing import WeighResult
from rugged_shield.core.survey.weighings import Pair, Weighing, weighing_result
from rugged_shield.web.api import route
from rugged_shield.web.fields import field_view, field_views
from rugged_shield.web.jobs import row_of, write
from rugged_shield.web.stations.survey.items import plate_heads
from rugged_shield.web.stations.survey.views import PairView, PairWrite, WeighingItem, WeighingsView
from rugged_shield.web.views import SavedView, Write

blueprint = Blueprint("weighing", __name__, url_prefix="/api/jobs/<job_id>/weighings")

_SETTING = (
    "holder",
    "resolution_kg",
    "scale_error",
    "axle",
    "hardware_with",
    "hardware_without",
)


def _pair(pair: Pair) -> PairView:
    def said(key: str, label: str, kg: float) -> Figure:
        return figure(f"{pair.key}:{key}", label, kg, "kg", reasons=("As read.",))

    return PairView(
        pair.key,
        said("with", "With", pair.with_kg),
        said("without", "Without", pair.without_kg),
        said("difference", "Difference", pair.with_kg - pair.without_kg),
        pair.instrument,
    )


def _figures(outcome: Outcome[WeighResult], claimed_kg: float | None) -> tuple[Figure, ...]:
    r = outcome.result

    def said(key: str, label: str, kg: float | None) -> Figure:
        return figure(
            f"weigh:{key}",
            label,
            kg,
            "kg",
            inputs=outcome.inputs,
            reasons=outcome.reasons,
            assumptions=outcome.assumptions,
            warnings=outcome.warnings,
            sources=outcome.sources,
        )

    found = [
        said("mean", "Mean difference", r.mean_difference),
        said("u95", "Uncertain by, 95 of 100", r.u95),
        said("repeat", "of it from scatter", r.u_repeat),
        said("rounding", "of it from the scale's step", r.u_resolution),
    ]
    if claimed_kg is not None:
        found.append(said("claim", "Claimed on the sheet", claimed_kg))
    return tuple(found)


def _words(job: Job, weighing: Weighing, outcome: Outcome[WeighResult] | None) -> str:
    """What the weighing says, in one sentence."""
    plate = job.as_entered(weighing.plate).plate
    if outcome is None:
        return "No pair yet: read the holder with the plate, then without it."
    r = outcome.result
    value = f"{amount(abs(r.mean_difference), 'kg')} ± {amount(r.u95, 'kg')}"
    if weighing.hardware_with != weighing.hardware_without and weighing.against:
        value += ", with the hardware of one side only in it"
    if not weighing.against:
        extra = " with its hardware" if weighing.hardware_with else " without hardware"
        return f"The {plate.name}{extra} weighs {value}."
    other = job.as_entered(weighing.against).plate
    if r.verdict == "cannot tell apart":
        return f"{plate.name} and {other.name}: cannot tell apart, {value}."
    way = "heavier" if r.mean_difference > 0 else "lighter"
    return f"The {plate.name} is {value} {way} than the {other.name}."


def _item(job: Job, weighing: Weighing) -> WeighingItem:
    prefix = f"weighings.{weighing.key}"
    plates = tuple(c.key for c in (job.stock, *job.candidates))
    outcome = weighing_result(weighing)
    plate = job.as_entered(weighing.plate).plate
    claimed = plate.claimed_mass_kg if not weighing.against else None
    fields = (
        field_view(weighing, "plate", prefix, choices=plates),
        field_view(weighing, "against", prefix, choices=("", *plates)),
        *field_views(weighing, _SETTING, prefix),
    )
    return WeighingItem(
        key=weighing.key,
        name=plate.name,
        fields=fields,
        pairs=tuple(_pair(p) for p in weighing.pairs),
        figures=_figures(outcome, claimed) if outcome else (),
        findings=outcome.findings if outcome else (),
        warnings=outcome.warnings if outcome else (),
        verdict=outcome.verdict if outcome else verdict_of("no value"),
        words=_words(job, weighing, outcome),
    )


@route(blueprint, "GET", "", WeighingsView)
def weighings(job_id: str) -> WeighingsView:
    """Every weighing with its pairs, mean and uncertainty."""
    job = row_of(job_id).job
    return WeighingsView(tuple(_item(job, w) for w in job.weighings), plate_heads(job))


@route(blueprint, "POST", "/<key>/pairs", SavedView, PairWrite)
def pair(job_id: str, key: str, body: PairWrite) -> SavedView:
    """A pair of readings, typed or taken."""
    values = {}
    for name, text in (("with_kg", body.with_text), ("without_kg", body.without_text)):
        if not text.strip():
            raise InputError(name, "", "a reading in kg or lb", "nothing was entered")
        values[name] = read_field(Pair, name, text, name, body.system)
    made = Pair("new", instrument=body.instrument[:80], at=body.at[:40], **values)
    return write(job_id, body, lambda job: add_pair(job, key, made))


@route(blueprint, "POST", "/<key>/pairs/<which>/remove", SavedView, Write)
def remove_a_pair(job_id: str, key: str, which: str, body: Write) -> SavedView:
    """Take a pair out, a misread one for instance."""
    return write(job_id, body, lambda job: remove_pair(job, key, which))


@route(blueprint, "POST", "/<key>/adopt", SavedView, Write)
def adopt(job_id: str, key: str, body: Write) -> SavedView:
    """Enter the mean of a weighing of one plate alone as its weighed mass."""

    def adopted(job: Job) -> Change:
        weighing = next((w for w in job.weighings if w.key == key), None)
        hangs = hardware_kg(mounted(job.bike, job.candidate(weighing.plate))) if weighing else 0.0
        return adopt_weighing(job, key, hangs)

    return write(job_id, body, adopted)
