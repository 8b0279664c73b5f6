"""A job's plates on fixed scales under the rider's priorities."""

from __future__ import annotations

from dataclasses import fields

from rugged_shield.core.assess.job import Job, Priorities
from rugged_shield.core.assess.weigh import weigh
from rugged_shield.core.assess.work import plan_of
from rugged_shield.core.result import Outcome
from rugged_shield.core.weighup import (
    Criterion,
    DecideInput,
    DecideResult,
    Option,
    decide,
    first_of,
)

ANCHORS: dict[str, tuple[float, float, str]] = {
    "protect_the_engine": (20.0, 95.0, "%"),
    "keep_it_light": (8.0, 1.0, "kg"),
    "keep_clearance": (30.0, 0.0, "mm"),
    "quick_oil_change": (8.0, 0.0, "screws"),
    "easy_to_fit": (120.0, 20.0, "min"),
    "money": (600.0, 0.0, ""),
}
"""Worst and best of each scale and its unit: fixed, whatever plates are weighed."""


def criteria_of(job: Job) -> tuple[Criterion, ...]:
    """The six scales with this rider's weights."""
    return tuple(
        Criterion(
            f.name, f.name.replace("_", " "), *ANCHORS[f.name][:2],
            getattr(job.priorities, f.name), ANCHORS[f.name][2] or job.currency,
        )
        for f in fields(Priorities)
    )  # fmt: skip


def _quantities(job: Job, key: str) -> tuple[float | None, ...]:
    figures = weigh(job, key).figures
    shielded = [
        f.value for k, f in figures.items() if k.startswith("coverage:") and f.value is not None
    ]  # fmt: skip
    return (
        sum(shielded) / len(shielded) if shielded else None, figures["mass"].value,
        figures["clearance_lost"].value, figures["oil_screws"].value,
        plan_of(job, key).minutes, figures["money"].value,
    )  # fmt: skip


def best_plate(job: Job) -> str:
    """Key of the candidate that ranks first under the rider's priorities; empty when none can."""
    if len(job.candidates) < 2 or all(c.weight == 0 for c in criteria_of(job)):
        return ""
    return first_of(_asked(job))


def _asked(job: Job) -> DecideInput:
    """The job's candidates on its scales; stock alone while there is no candidate."""
    plates = job.candidates or (job.stock,)
    options = tuple(Option(c.key, c.plate.name, _quantities(job, c.key)) for c in plates)
    return DecideInput(criteria_of(job), options)


def choice_of(job: Job) -> Outcome[DecideResult]:
    """Candidates ranked; stock stands aside as what all are held against."""
    return decide(_asked(job))
