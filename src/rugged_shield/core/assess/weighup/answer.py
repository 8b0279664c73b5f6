"""The answer of the weighing up: which plate, why, what it costs, what is against it, how sure."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from rugged_shield.core.amounts import either
from rugged_shield.core.assess.weighup.protection import solve_beside, struck_all_round, to_strike
from rugged_shield.core.assess.weighup.ranking import (
    choice_of,
    criteria_of,
    places_if_cleared,
    quantities_of,
    something_matters,
)
from rugged_shield.core.assess.weighup.scorecard import Weighed, shared_findings, weigh
from rugged_shield.core.figures import figure_of
from rugged_shield.core.job.model import Job
from rugged_shield.core.judgement.codes import RANK
from rugged_shield.core.remembered import Beside
from rugged_shield.core.result import Figure, Finding, Outcome
from rugged_shield.core.weighup.decide import DecideResult, Ranked, nearest, value_of

MOST_REASONS = 3
LEAST_LEAD = 0.005
"""A lead of less than half a per cent of the score is no reason."""
MAPPED = "from below"
"""The side whose strikes have a map of their own."""
COSTS = ("clearance_lost", "added", "service", "money")
"""What a plate costs: the figures of the table that say so."""
LEADS: dict[str, tuple[str, str]] = {
    "protect_the_engine": ("Protects more", "Protects less"),
    "keep_it_light": ("Lighter", "Heavier"),
    "keep_clearance": ("Keeps more clearance", "Costs more clearance"),
    "quick_oil_change": ("Quicker at an oil change", "Slower at an oil change"),
    "easy_to_fit": ("Easier to fit", "Harder to fit"),
    "quiet": ("Quieter", "Louder"),
    "money": ("Cheaper", "Dearer"),
}
"""For each priority what a plate is that does better by it, and worse."""
MATTERS: dict[str, str] = {
    "protect_the_engine": "protection",
    "keep_it_light": "weight",
    "keep_clearance": "clearance",
    "quick_oil_change": "quick oil changes",
    "easy_to_fit": "easy fitting",
    "quiet": "quiet",
    "money": "money",
}
"""Each priority as a rider names it."""
_AS_SAID = {key.replace("_", " "): words for key, words in MATTERS.items()}

ONLY_OPEN, ONLY_ONE = "It is the only one that nothing blocks.", "No other plate is entered."

State = Literal["no plates", "nothing matters", "all blocked", "one plate", "ranked"]


@dataclass(frozen=True)
class Reason:
    """One thing that sets the plate apart: words with both numbers, and the figure behind."""

    words: str
    behind: Figure


@dataclass(frozen=True, kw_only=True)
class Blocked:
    """A plate that something blocks: why, what clears it, where it would stand then."""

    key: str
    name: str
    reason: str
    clears: str
    would: str


@dataclass(frozen=True, kw_only=True)
class Answer:
    """The plate that this rider's priorities lead to, in words with their numbers.

    ``missing`` is the one thing that is needed before there is an answer, empty where there is
    one; ``key`` is empty then. ``beside`` is what the reasons hold it against: the runner-up, or
    stock. ``bare`` says what stays bare, ``gravest`` what speaks most against the plate (its
    strikes included), ``also`` what else does. ``of_all`` is found of every plate alike.
    ``runner_up`` says when another plate would be the one.
    """

    state: State
    missing: str
    key: str
    name: str
    beside: str
    reasons: tuple[Reason, ...]
    gives_away: Reason | None
    costs: tuple[Figure, ...]
    shielded: Figure | None
    bare: str
    gravest: Finding | None
    also: tuple[Finding, ...]
    of_all: tuple[Finding, ...]
    sure: Figure | None
    runner_up: str
    blocked: tuple[Blocked, ...]


def _none_yet(state: State, missing: str, blocked: tuple[Blocked, ...] = ()) -> Answer:
    return Answer(
        state=state,
        missing=missing,
        key="",
        name="",
        beside="",
        reasons=(),
        gives_away=None,
        costs=(),
        shielded=None,
        bare="",
        gravest=None,
        also=(),
        of_all=(),
        sure=None,
        runner_up="",
        blocked=blocked,
    )


def blocked_plates(job: Job) -> tuple[Blocked, ...]:
    """Candidates that something blocks, with what would clear each and where it would stand."""
    weighed = [(c, weigh(job, c.key)) for c in job.candidates]
    shut = [(candidate, of) for candidate, of in weighed if of.verdict == "blocked"]
    keys = tuple(candidate.key for candidate, _ in shut)
    places = places_if_cleared(job, keys) if keys and something_matters(job) else {}
    out = []
    for candidate, of in shut:
        found = next(f for f in of.findings if f.verdict == "blocked")
        place = places.get(candidate.key, 0)
        would = "would be first" if place == 1 else f"would be number {place}"
        out.append(
            Blocked(
                key=candidate.key,
                name=candidate.plate.name,
                reason=found.text.rstrip("."),
                clears=found.remedy,
                would=would if place else "",
            )
        )
    return tuple(out)


Leads = tuple[list[Reason], list[Reason]]
"""What a plate does better than another, and what worse; what counts most stands first."""


def _leads(job: Job, own: Weighed, other: Weighed) -> Leads:
    """By the rider's weights on the fixed scales; what is not known of either is no reason."""
    criteria = criteria_of(job)
    of_all = sum(c.weight for c in criteria)
    found: list[tuple[float, Reason]] = []
    both = zip(criteria, quantities_of(job, own), quantities_of(job, other), strict=True)
    for criterion, mine, theirs in both:
        if mine.value is None or theirs.value is None:
            continue
        lead = value_of(criterion, mine.value) - value_of(criterion, theirs.value)
        counts = lead * criterion.weight / of_all
        if abs(counts) > LEAST_LEAD:
            words = LEADS[criterion.key][counts < 0]
            pair = (either(q.metric, q.us) for q in (mine, theirs))
            numbers = " against ".join(pair)
            found.append((counts, Reason(f"{words}: {numbers}.", mine)))
    found.sort(key=lambda pair: -abs(pair[0]))
    return [r for c, r in found if c > 0], [r for c, r in found if c < 0]


def _runner_up(job: Job, ranking: tuple[Ranked, ...]) -> str:
    """When another plate would be the one: the nearest of them; or that there is none."""
    if len(ranking) == 1:
        return ONLY_OPEN if len(job.candidates) > 1 else ONLY_ONE
    near = nearest(ranking)
    if near is None:
        second = ranking[1].name
        return f"Second is {second}; no priorities put another first."
    shift = near.to_first
    if not shift.share:
        return f"{near.name} is as good: take the one you like."
    more, less = (_AS_SAID[name] for name in (shift.more, shift.less))
    return f"If {more} matters more than {less}: {near.name}."


def _bare(job: Job, weighed: Weighed) -> str:
    """What stays bare from below, by name."""
    names = [p.name for p in job.bike.vitals() if p.key in weighed.bare]
    if not job.bike.vitals():
        return "Not known: no part of the bike is entered that a stone can ruin."
    if not names:
        return "No part that matters is bare from below."
    return f"Mostly bare from below: {', '.join(names)}."


def against(job: Job, weighed: Weighed, of_all: tuple[Finding, ...] = ()) -> tuple[Finding, ...]:
    """Everything found of the plate alone, strikes included, gravest first.

    Of equals what holds a ride up comes first, then what a strike does.
    """
    struck = struck_all_round(job, weighed.key, MAPPED).findings
    found = dict.fromkeys((*struck, *weighed.findings))
    own = [f for f in found if f not in of_all and RANK[f.verdict] > RANK["sound"]]
    return tuple(sorted(own, key=lambda f: (-RANK[f.verdict], not f.kind.gates)))


def answer_of(job: Job) -> Answer:
    """The plate that this rider's priorities lead to, or the one thing that is missing first."""
    if not job.candidates:
        return _none_yet("no plates", "No plate to choose from yet: enter one you could buy.")
    if not something_matters(job):
        return _none_yet("nothing matters", "Nothing matters so far: say what does.")
    blocked = blocked_plates(job)
    if len(blocked) == len(job.candidates):
        return _none_yet("all blocked", "Every plate is blocked as it is.", blocked)
    outcome = choice_of(job)
    ranking = outcome.result.ranking
    first, alone = ranking[0], len(ranking) == 1
    own = weigh(job, first.key)
    other = weigh(job, job.stock.key if alone else ranking[1].key)
    better, worse = _leads(job, own, other)
    of_all = shared_findings([weigh(job, c.key) for c in job.candidates])
    found = against(job, own, of_all)
    return Answer(
        state="one plate" if alone else "ranked",
        missing="",
        key=first.key,
        name=first.name,
        beside=job.as_entered(other.key).plate.name,
        reasons=tuple(better[:MOST_REASONS]),
        gives_away=worse[0] if worse else None,
        costs=tuple(own.figures[key] for key in COSTS),
        shielded=own.figures["coverage"],
        bare=_bare(job, own),
        gravest=found[0] if found else None,
        also=found[1:],
        of_all=of_all,
        sure=None if alone else _sure(outcome, first),
        runner_up=_runner_up(job, ranking),
        blocked=blocked,
    )


def _sure(outcome: Outcome[DecideResult], first: Ranked) -> Figure:
    """How often the first stays first."""
    share = 100 * first.acceptability
    return figure_of(outcome, f"answer:{first.key}:sure", "Stays first", share, "%")


def answer_steps(
    job: Job, beside: Beside, at_once: int
) -> Iterator[tuple[str, tuple[str, ...] | None]]:
    """What the answer takes long for, ``at_once`` plates at a time: what is next, who was struck.

    Last of all what is found of the plate that is first. Yields one line for each plate and one.
    """
    keys = to_strike(job)
    for i in range(0, len(keys), at_once):
        some = keys[i : i + at_once]
        yield f"striking the {' and the '.join(job.as_entered(k).plate.name for k in some)}", None
        solve_beside(job, some, beside)
        for key in some:
            yield f"struck the {job.as_entered(key).plate.name}", (key,)
    yield "looking closer at the first", None
    yield "looked at the first", (answer_of(job).key,)
