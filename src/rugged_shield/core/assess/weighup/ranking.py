"""A job's plates on fixed scales under the rider's priorities."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import fields, replace

from rugged_shield.core.assess.weighup.protection import PROTECTED, figures_of, protected_within
from rugged_shield.core.assess.weighup.scorecard import Weighed, weigh
from rugged_shield.core.job.model import Candidate, Job, Priorities
from rugged_shield.core.judgement.known import band_of, doubted
from rugged_shield.core.result import Figure, Outcome
from rugged_shield.core.weighup.decide import (
    UNKNOWN_VALUE,
    Criterion,
    DecideInput,
    DecideResult,
    Option,
    decide,
    first_of,
    placed,
    value_of,
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


def quantities_of(job: Job, weighed: Weighed) -> tuple[Figure, ...]:
    """What each priority looks at, for one plate, in their order."""
    figures = figures_of(job, weighed)
    return tuple(figures[QUANTITIES[f.name]] for f in fields(Priorities))


def open_to(job: Job) -> tuple[Candidate, ...]:
    """Candidates that nothing blocks; all when every one is blocked, stock when there is none."""
    return open_by(job, lambda key: weigh(job, key))


def open_by(job: Job, weighed: Callable[[str], Weighed]) -> tuple[Candidate, ...]:
    """The same by plates that are weighed already."""
    plates = job.candidates or (job.stock,)
    through = tuple(c for c in plates if weighed(c.key).verdict != "blocked")
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


def rivals(job: Job) -> tuple[str, ...]:
    """Keys of the plates among which one ranks first; none where there is nothing to choose."""
    if len(job.candidates) < 2 or not something_matters(job):
        return ()
    return tuple(c.key for c in open_to(job))


Pair = tuple[float, float]
"""The least and the most that a number may be."""
Values = tuple[float | None, ...]
"""What each priority looks at, for one plate, in their order; None where it is not known."""


def values_of(job: Job, weighed: Weighed) -> Values:
    """What each priority looks at, for one plate, as numbers."""
    return tuple(q.value for q in quantities_of(job, weighed))


Bounds = tuple[Values, Values]
"""The most that they can be, by their value to the rider, and the least; the same once known."""


def bounds_of(job: Job, weighed: Weighed, least: float = 0.0, most: float = 1.0) -> Bounds:
    """The same without a shell: ``least`` to ``most`` of what is shielded holds (0 to 1).

    Between nothing and all stands a plate without a map too, whose share is not known.
    """
    named = tuple(QUANTITIES[f.name] for f in fields(Priorities))
    figures, shielded = weighed.figures, weighed.figures["coverage"].value

    def having(protected: float | None) -> Values:
        return tuple(protected if n == PROTECTED else figures[n].value for n in named)

    if shielded is None:
        return having(None), having(None)
    up: float | None = shielded * most
    if most == 1.0 and value_of(criteria_of(job)[named.index(PROTECTED)], shielded) < UNKNOWN_VALUE:
        up = None
    return having(up), having(shielded * least)


def best_by(
    job: Job, through: tuple[Candidate, ...], closer: Callable[[str], Iterator[Bounds]]
) -> str:
    """Key of the plate ``through`` the gates that ranks first; empty when none can.

    ``closer`` says what a plate's values lie between, narrower each time and known at last. Only
    the plate that leads by the most it can be is looked at closer, until it leads by the least:
    who is behind it at best is behind it.
    """
    if len(job.candidates) < 2 or not something_matters(job):
        return ""
    criteria = criteria_of(job)
    told = {c.key: closer(c.key) for c in through}
    now = {key: next(bounds) for key, bounds in told.items()}

    def first(at_least: str = "") -> str:
        """Which leads with all at their most, but for one."""
        options = tuple(Option(c.key, c.plate.name, now[c.key][c.key == at_least]) for c in through)
        return first_of(DecideInput(criteria, options))

    while True:
        leads = first()
        if first(at_least=leads) == leads:
            return leads
        now[leads] = next(told[leads])


EFFORT_SHARE, MASS_SHARE = 0.2, 0.08
"""Planned minutes and computed masses are right within so much."""


def _within(job: Job, weighed: Weighed, figures: dict[str, Figure]) -> tuple[Pair | None, ...]:
    """What each number may be: strikes within the form's band, heights and masses in theirs."""
    plate = job.as_entered(weighed.key).plate
    found: dict[str, Pair | None] = {PROTECTED: protected_within(job, weighed)}
    height = band_of(plate, "z_front_mm") if doubted(plate, "z_front_mm") else 0.0
    mass = band_of(plate, "claimed_mass_kg") if plate.claimed_mass_kg else 0.0
    for key, by in (("clearance_lost", height), ("bundle_mass", mass)):
        value = figures[key].value
        if value is not None:
            more = by or (MASS_SHARE * value if key == "bundle_mass" else 0.0)
            found[key] = (value - more, value + more)
    effort = figures["effort"].value
    if effort is not None:
        found["effort"] = (effort * (1 - EFFORT_SHARE), effort * (1 + EFFORT_SHARE))
    return tuple(found.get(QUANTITIES[f.name]) for f in fields(Priorities))


def _option(job: Job, candidate: Candidate) -> Option:
    weighed = weigh(job, candidate.key)
    values = values_of(job, weighed)
    within = _within(job, weighed, figures_of(job, weighed))
    return Option(candidate.key, candidate.plate.name, values, within)


def _asked(job: Job) -> DecideInput:
    """The job's candidates that nothing blocks, on its scales, each number within its band."""
    return DecideInput(criteria_of(job), tuple(_option(job, c) for c in open_to(job)))


def places_if_cleared(job: Job, keys: tuple[str, ...]) -> dict[str, int]:
    """At which place each blocked plate would stand, 1 for the first, if nothing blocked it."""
    asked = _asked(job)
    options = {o.key: o for o in asked.options}
    places = {}
    for key in keys:
        own = options.get(key) or _option(job, job.candidate(key))
        others = tuple(o for o in asked.options if o.key != key)
        given = replace(asked, options=(*others, own))
        places[key] = 1 + placed(given).index(key)
    return places


def choice_of(job: Job) -> Outcome[DecideResult]:
    """Candidates ranked; stock stands aside as what all are held against."""
    return decide(_asked(job))
