"""Choosing: fixed scales, acceptability against counting, least shifts that really shift."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from rugged_shield.core.errors import InputError
from rugged_shield.core.weighup.decide import Criterion, DecideInput, Option, decide, value_of

CRITERIA = (
    Criterion("mass", "keep it light", 8.0, 1.0, 2.0, "kg"),
    Criterion("cover", "protect the engine", 20.0, 95.0, 3.0, "%"),
    Criterion("money", "money", 600.0, 50.0, 1.0),
)
OPTIONS = (
    Option("alu", "aluminium pan", (2.9, 69.0, 189.0)),
    Option("steel", "steel tray", (5.1, 82.0, 240.0)),
    Option("hdpe", "plastic slider", (3.3, 60.0, 260.0)),
)
GIVEN = DecideInput(CRITERIA, OPTIONS)
QUANTITIES = st.tuples(st.floats(0.5, 9), st.floats(0, 100), st.floats(20, 700))


def test_anchors_count_nothing_and_all() -> None:
    assert (value_of(CRITERIA[0], 8.0), value_of(CRITERIA[0], 1.0)) == (0.0, 1.0)
    assert value_of(CRITERIA[0], 4.5) == pytest.approx(0.5)
    assert (value_of(CRITERIA[0], 20.0), value_of(CRITERIA[1], 120.0)) == (0.0, 1.0)


@settings(max_examples=40, deadline=None)
@given(st.lists(QUANTITIES, min_size=2, max_size=6), QUANTITIES)
def test_a_further_plate_never_turns_the_order_of_the_others(
    rows: list[tuple[float, float, float]], added: tuple[float, float, float]
) -> None:
    options = tuple(Option(f"o{i}", f"plate {i}", row) for i, row in enumerate(rows))
    before = [r.key for r in decide(replace(GIVEN, options=options, draws=100)).result.ranking]
    more = (*options, Option("new", "new", added))
    after = [r.key for r in decide(replace(GIVEN, options=more, draws=100)).result.ranking]
    assert [k for k in after if k != "new"] == before


@settings(max_examples=30, deadline=None)
@given(st.lists(QUANTITIES, min_size=2, max_size=5))
def test_the_least_shift_puts_the_plate_first_and_less_does_not(
    rows: list[tuple[float, float, float]],
) -> None:
    options = tuple(Option(f"o{i}", f"plate {i}", row) for i, row in enumerate(rows))
    result = decide(replace(GIVEN, options=options, draws=100)).result
    values = np.array([r.values for r in result.ranking])
    base = np.array(result.weights)
    for i, ranked in enumerate(result.ranking):
        shift = ranked.to_first
        if shift.share is None or shift.weights is None:
            tried = np.random.default_rng(i).dirichlet(np.ones(3), 3000) @ values.T
            others = np.delete(tried, i, axis=1).max(axis=1)
            assert (tried[:, i] <= others + 1e-7).all(), "some weights put it first after all"
            continue
        weights = np.array(shift.weights)
        assert weights.sum() == pytest.approx(1.0)
        assert weights.min() >= -1e-9
        scores = values @ weights
        assert scores[i] >= scores.max() - 1e-7
        assert shift.share == pytest.approx(np.abs(weights - base).sum() / 2, abs=1e-7)
        if shift.share > 1e-6:
            half = base + 0.5 * (weights - base)
            assert (values @ half)[i] < (values @ half).max() + 1e-9
    assert result.ranking[0].to_first.share == pytest.approx(0.0, abs=1e-9)


def test_acceptability_is_seeded_sums_to_one_and_agrees_with_counting() -> None:
    first = decide(GIVEN).result
    assert first == decide(GIVEN).result
    assert sum(r.acceptability for r in first.ranking) == pytest.approx(1.0)
    many = decide(replace(GIVEN, draws=60_000, seed=7)).result
    for a, b in zip(first.ranking, many.ranking, strict=True):
        assert abs(a.acceptability - b.acceptability) < 4 * max(a.standard_error, 1e-3)
    random = np.random.default_rng(99)
    weights = random.dirichlet(np.array(first.weights) * GIVEN.concentration, 20_000)
    values = np.array([r.values for r in first.ranking])
    counted = np.bincount((weights @ values.T).argmax(axis=1), minlength=3) / 20_000
    assert [r.acceptability for r in first.ranking] == pytest.approx(counted, abs=0.03)


def test_a_beaten_plate_is_not_pareto_and_no_weights_help_it() -> None:
    beaten = Option("bad", "bad plate", (5.0, 50.0, 300.0))
    result = decide(replace(GIVEN, options=(*OPTIONS, beaten))).result
    bad = next(r for r in result.ranking if r.key == "bad")
    assert not bad.pareto
    assert bad.acceptability == 0.0
    assert bad.to_first.share is None


def test_what_is_missing_is_said_and_bounded() -> None:
    unknown = replace(OPTIONS[1], values=(5.1, None, 240.0))
    outcome = decide(replace(GIVEN, options=(OPTIONS[0], unknown)))
    ranked = next(r for r in outcome.result.ranking if r.key == "steel")
    assert ranked.missing == ("protect the engine",)
    assert ranked.score_low < ranked.score < ranked.score_high
    assert ranked.score_high - ranked.score_low == pytest.approx(outcome.result.weights[1])
    assert "missing in the choice" in {f.code for f in outcome.findings}


def test_one_plate_only_is_first() -> None:
    result = decide(replace(GIVEN, options=OPTIONS[:1])).result
    assert (result.ranking[0].acceptability, result.rival) == (1.0, "")


@pytest.mark.parametrize(
    "change",
    [
        {"criteria": tuple(replace(c, weight=0.0) for c in CRITERIA)},
        {"options": ()},
        {"options": (Option("a", "a", (1.0,)),)},
        {"options": (OPTIONS[0], OPTIONS[0])},
        {"options": (Option("a", "a", (float("nan"), 1.0, 1.0)),)},
        {"draws": 1},
    ],
)
def test_refusals(change: dict[str, object]) -> None:
    with pytest.raises(InputError):
        replace(GIVEN, **change)  # type: ignore[arg-type]


def test_anchors_must_differ() -> None:
    with pytest.raises(InputError):
        replace(CRITERIA[0], best=8.0)


def first_share(given: DecideInput, key: str) -> float:
    return next(r.acceptability for r in decide(given).result.ranking if r.key == key)


def test_how_sure_is_drawn_over_numbers_too() -> None:
    """What nobody knows may be anything: a pick on it is never sure."""
    lead = Option("lead", "leads", (2.0, None, 300.0))
    other = Option("other", "other", (3.0, 60.0, 300.0))
    unknown = replace(GIVEN, options=(lead, other))
    assert 0.2 < first_share(unknown, "lead") < 0.98
    known = replace(GIVEN, options=(replace(lead, values=(2.0, 90.0, 300.0)), other))
    assert first_share(known, "lead") == 1.0


def test_a_number_within_its_band_counts_by_the_share_of_the_band() -> None:
    """One scale alone: the lead is lost where the draw falls below the other, a closed form."""
    one = (Criterion("cover", "protect", 0.0, 100.0, 1.0, "%"),)
    wide = Option("wide", "wide", (60.0,), within=((20.0, 100.0),))
    sure = Option("sure", "sure", (50.0,))
    given = DecideInput(one, (wide, sure), draws=20_000)
    assert first_share(given, "wide") == pytest.approx(50 / 80, abs=0.015)


@pytest.mark.parametrize("within", [((1.0, 2.0),), ((1.0, float("nan")), None, None)])
def test_bands_are_one_for_each_value_and_finite(within: object) -> None:
    with pytest.raises(InputError, match="options"):
        replace(GIVEN, options=(replace(OPTIONS[0], within=within), OPTIONS[1]))  # type: ignore[arg-type]
