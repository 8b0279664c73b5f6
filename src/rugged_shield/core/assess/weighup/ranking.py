"""A job's plates on fixed scales under the rider's priorities."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import fields

from rugged_shield.core.assess.weighup.protection import PROTECTED, figures_of
from rugged_shield.core.assess.weighup.scorecard import Weighed, weigh
from rugged_shield.core.job import Candidate, Job, Priorities
from rugged_shield.core.result import Figure, Outcome
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
    "quick_oil_change": (60.0, 0.0, "min"),
    "easy_to_fit": (240.0, 60.0, "min"),
    "quiet": (0.8, 0.1, "s"),
    "money": (600.0, 0.0, ""),
}
"""Worst and best of each scale and its unit: fixed, whatever plates are weighed."""
QUANTITIES: dict[str, str] = {
    "protect_the_engine": PROTECTED,
    "keep_it_light": "bundle_mass",
    "keep_clearance": "clearance_lost",
    "quick_oil_change": "service",
    "easy_to_fit": "effort",
    "quiet": "ring",
    "money": "money",
}
"""The figure that each priority looks at."""


def criteria_of(job: Job) -> tuple[Criterion, ...]:
    """The scales with this rider's weights."""
    return tuple(
        Criterion(
            f.name,
            f.name.replace("_", " "),
            *ANCHORS[f.name][:2],
            getattr(job.priorities, f.name),
            ANCHORS[f.name][2] or job.currency,
        )
        for f in fields(Priorities)
    )


def quantities_of(job: Job, key: str) -> tuple[Figure, ...]:
    """What each priority looks at, for one plate, in their order."""
    figures = figures_of(job, key)
    return tuple(figures[QUANTITIES[f.name]] for f in fields(Priorities))


def open_to(job: Job) -> tuple[Candidate, ...]:
    """Candidates that no gate shuts out; all when every one is, stock when there is none."""
    return open_by(job, lambda key: weigh(job, key))


def open_by(job: Job, weighed: Callable[[str], Weighed]) -> tuple[Candidate, ...]:
    """The same by plates that are weighed already."""
    plates = job.candidates or (job.stock,)
    through = tuple(c for c in plates if all(g.verdict != "blocked" for g in weighed(c.key).gates))
    return through or plates


def something_matters(job: Job) -> bool:
    """Whether the rider gave any priority a weight; without one nothing can be ranked."""
    return any(c.weight > 0 for c in criteria_of(job))


def order_of(job: Job) -> tuple[str, ...]:
    """Keys of the candidates that gates let through, best first; as entered if nothing matters."""
    if not job.candidates:
        return ()
    if not something_matters(job):
        return tuple(c.key for c in open_to(job))
    return tuple(r.key for r in choice_of(job).result.ranking)


Values = tuple[float | None, ...]
"""What each priority looks at, for one plate, in their order; None where it is not known."""


def values_of(job: Job, key: str) -> Values:
    """What each priority looks at, for one plate, as numbers."""
    return tuple(q.value for q in quantities_of(job, key))


def values_if(weighed: Weighed, protected: float | None) -> Values:
    """The same without a shell: as if its share shielded and held were ``protected``, %."""
    named = (QUANTITIES[f.name] for f in fields(Priorities))
    figures = weighed.figures
    return tuple(protected if n == PROTECTED else figures[n].value for n in named)


def best_plate(job: Job) -> str:
    """Key of the candidate that ranks first under the rider's priorities; empty when none can."""
    return best_by(job, open_to(job), lambda key: values_of(job, key))


def best_by(job: Job, through: tuple[Candidate, ...], values: Callable[[str], Values]) -> str:
    """The same by values that are told; they are asked only for plates ``through`` the gates."""
    if len(job.candidates) < 2 or not something_matters(job):
        return ""
    options = tuple(Option(c.key, c.plate.name, values(c.key)) for c in through)
    return first_of(DecideInput(criteria_of(job), options))


def _asked(job: Job) -> DecideInput:
    """The job's candidates that pass the gates, on its scales."""
    options = tuple(Option(c.key, c.plate.name, values_of(job, c.key)) for c in open_to(job))
    return DecideInput(criteria_of(job), options)


def choice_of(job: Job) -> Outcome[DecideResult]:
    """Candidates ranked; stock stands aside as what all are held against."""
    return decide(_asked(job))
