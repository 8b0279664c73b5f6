"""The answer: what it says of a plate is what the table, the ranking and the strikes say."""

from __future__ import annotations

from dataclasses import fields, replace

import pytest

from rugged_shield.core.amounts import in_system
from rugged_shield.core.assess.weighup.answer import COSTS, LEADS, MATTERS, ONLY_ONE, answer_of
from rugged_shield.core.assess.weighup.protection import struck_all_round
from rugged_shield.core.assess.weighup.ranking import (
    ANCHORS,
    QUANTITIES,
    choice_of,
    quantities_of,
)
from rugged_shield.core.assess.weighup.scorecard import weigh
from rugged_shield.core.job.model import Job, Priorities
from rugged_shield.core.judgement.codes import RANK
from tests.conftest import demo_file


@pytest.fixture(scope="module")
def job() -> Job:
    return demo_file("kit_open").job


def weighted(job: Job, **weights: float) -> Job:
    """The job of a rider to whom just these matter."""
    none = {f.name: 0.0 for f in fields(Priorities)}
    return replace(job, priorities=Priorities(**{**none, **weights}))


def test_every_priority_has_its_words() -> None:
    named = {f.name for f in fields(Priorities)}
    assert set(LEADS) == set(MATTERS) == set(QUANTITIES) == named


def test_it_is_the_first_of_the_ranking_and_says_what_the_table_says(job: Job) -> None:
    found = answer_of(job)
    first = choice_of(job).result.ranking[0]
    weighed = weigh(job, first.key)
    assert (found.state, found.key, found.name) == ("ranked", first.key, first.name)
    assert found.costs == tuple(weighed.figures[key] for key in COSTS)
    assert found.shielded == weighed.figures["coverage"]
    assert found.sure is not None
    assert found.sure.value == pytest.approx(100 * first.acceptability)


def test_each_reason_is_a_lead_over_the_runner_up(job: Job) -> None:
    found = answer_of(job)
    first, second = choice_of(job).result.ranking[:2]
    mine, theirs = (
        {q.key: q.value or 0.0 for q in quantities_of(job, weigh(job, r.key))}
        for r in (first, second)
    )
    priority = {figure: name for name, figure in QUANTITIES.items()}
    assert found.reasons
    for reason, ahead in (
        *((r, 1.0) for r in found.reasons),
        *((r, -1.0) for r in (found.gives_away,) if r is not None),
    ):
        key = reason.behind.key
        worst, best, _ = ANCHORS[priority[key]]
        assert ahead * (mine[key] - theirs[key]) * (best - worst) > 0
        said = in_system(reason.words)
        assert said.startswith(LEADS[priority[key]][ahead < 0])
    assert found.beside == second.name


@pytest.mark.parametrize("only", ["keep_it_light", "money", "protect_the_engine"])
def test_who_cares_for_one_thing_hears_of_that_alone(job: Job, only: str) -> None:
    found = answer_of(weighted(job, **{only: 5.0}))
    assert {r.behind.key for r in found.reasons} <= {QUANTITIES[only]}
    assert found.gives_away is None


def test_the_shift_that_it_names_puts_the_other_plate_first(job: Job) -> None:
    found, outcome = answer_of(job), choice_of(job).result
    near = min(
        (r for r in outcome.ranking[1:] if r.to_first.share), key=lambda r: r.to_first.share or 0.0
    )
    assert near.to_first.weights is not None
    names = [f.name for f in fields(Priorities)]
    moved = {n: 10 * w for n, w in zip(names, near.to_first.weights, strict=True)}
    more = near.to_first.more.replace(" ", "_")
    # A little past the edge, where both are first.
    moved[more] += 0.01
    assert choice_of(weighted(job, **moved)).result.ranking[0].key == near.key
    assert near.name in found.runner_up
    assert MATTERS[more] in found.runner_up


def test_the_gravest_stands_first_and_strikes_are_among_it(job: Job) -> None:
    found = answer_of(job)
    assert found.gravest is not None
    every = (found.gravest, *found.also, *found.of_all)
    ranks = [RANK[f.verdict] for f in (found.gravest, *found.also)]
    assert ranks == sorted(ranks, reverse=True)
    for of in (
        weigh(job, found.key).findings,
        struck_all_round(job, found.key, "from below").findings,
    ):
        assert {f for f in of if f.verdict != "sound"} <= set(every)


def test_what_is_blocked_is_never_the_answer(job: Job) -> None:
    found = answer_of(job)
    blocked = {c.key for c in job.candidates if weigh(job, c.key).verdict == "blocked"}
    assert blocked == {b.key for b in found.blocked}
    assert blocked
    assert found.key not in blocked
    for plate in found.blocked:
        assert plate.reason
        assert plate.clears


def test_before_there_is_an_answer_it_says_what_is_missing(job: Job) -> None:
    none = answer_of(replace(job, candidates=(), picked="", weighing=""))
    assert (none.state, none.key) == ("no plates", "")
    indifferent = answer_of(weighted(job))
    assert (indifferent.state, indifferent.key) == ("nothing matters", "")
    shut = {b.key for b in answer_of(job).blocked}
    left = tuple(c for c in job.candidates if c.key in shut)
    blocked = answer_of(replace(job, candidates=left, picked="", weighing=""))
    assert (blocked.state, blocked.key) == ("all blocked", "")
    assert len(blocked.blocked) == len(shut)
    for each in (none, indifferent, blocked):
        assert each.missing
        assert not each.reasons


def test_the_only_one_is_held_against_stock(job: Job) -> None:
    first = answer_of(job).key
    alone = replace(
        job, candidates=tuple(c for c in job.candidates if c.key == first), picked="", weighing=""
    )
    found = answer_of(alone)
    assert (found.state, found.key, found.sure) == ("one plate", first, None)
    assert found.runner_up == ONLY_ONE
    assert found.beside == job.stock.plate.name


def test_what_is_not_known_is_no_reason(job: Job) -> None:
    """Without a part that a stone can ruin nothing is protected, and nobody says that it is."""
    bare = replace(
        job, bike=replace(job.bike, parts=tuple(p for p in job.bike.parts if p.kind != "vital"))
    )
    found = answer_of(bare)
    assert all(r.behind.key != QUANTITIES["protect_the_engine"] for r in found.reasons)
    assert found.bare.startswith("Not known")
