"""Gates of a plate: each shuts, opens and says what would clear it."""

from __future__ import annotations

from dataclasses import replace

import pytest

from rugged_shield.core.assess.weighup.gates import Gate
from rugged_shield.core.assess.weighup.ranking import choice_of
from rugged_shield.core.assess.weighup.scorecard import weigh
from rugged_shield.core.job.model import Candidate, Extra, Job
from rugged_shield.core.survey.plate import Needs


def with_needs(job: Job, key: str, needs: Needs) -> Job:
    own = job.as_entered(key)
    return job.with_candidate(replace(own, plate=replace(own.plate, needs=needs)))


def gate(job: Job, plate: str, key: str) -> Gate:
    return next(g for g in weigh(job, plate).gates if g.key == key)


@pytest.mark.parametrize(
    ("needs", "key", "verdict"),
    [
        (Needs(year_from=2020), "year", "sound"),
        (Needs(year_to=2022), "year", "blocked"),
        (Needs(year_from=2024), "year", "blocked"),
        (Needs(year_to=2022, with_change="a longer bracket"), "year", "mind"),
        (Needs(model="Brenn 440 S"), "model", "not known"),
        (Needs(variant="oil cooled"), "variant", "not known"),
        (Needs(market="north"), "market", "not known"),
        (Needs(exhaust_off=True), "exhaust", "mind"),
        (Needs(bars=True), "bars", "blocked"),
        (Needs(isolators=True), "isolators", "blocked"),
        (Needs(), "bars", "sound"),
    ],
)
def test_needs_shut_their_gate(choosing: Job, needs: Needs, key: str, verdict: str) -> None:
    found = gate(with_needs(choosing, "alu5", needs), "alu5", key)
    assert found.verdict == verdict
    assert found.reason
    assert bool(found.clears) == (verdict != "sound")


def test_a_gate_opens_with_what_it_asks_for(choosing: Job) -> None:
    needs = Needs(model="Brenn 440 S", variant="oil cooled", market="north", no_centre_stand=True)
    job = with_needs(choosing, "alu5", needs)
    right = replace(job.bike, model="brenn 440 s", variant="Oil cooled", market="North")
    for key in ("model", "variant", "market"):
        assert gate(replace(job, bike=right), "alu5", key).verdict == "sound"
    wrong = replace(job.bike, model="Brenn 440", variant="air", market="south")
    for key in ("model", "variant", "market"):
        assert gate(replace(job, bike=wrong), "alu5", key).verdict == "blocked"
    stand = replace(job.bike, has_centre_stand=True)
    assert gate(replace(job, bike=stand), "alu5", "stands").verdict == "mind"


def test_bars_come_as_a_bundle_and_count_everywhere(choosing: Job) -> None:
    bare = weigh(choosing, "bars4")
    own: Candidate = choosing.as_entered("bars4")
    bars = Extra(
        key="bars",
        name="crash bars",
        gives="bars",
        mass_kg=4.2,
        x_mm=420.0,
        price=240.0,
        fit_minutes=90.0,
    )
    bundle = weigh(choosing.with_candidate(replace(own, extras=(bars,))), "bars4")
    assert {g.key: g.verdict for g in bare.gates}["bars"] == "blocked"
    assert {g.key: g.verdict for g in bundle.gates}["bars"] == "sound"
    assert {g.key: g.verdict for g in bundle.gates}["budget"] == "blocked", "445 against 300"
    for key, more in (("bundle_mass", 4.2), ("money", 240.0), ("effort", 90.0)):
        then, now = bare.figures[key].value, bundle.figures[key].value
        assert then is not None
        assert now == pytest.approx(then + more)
    assert bundle.figures["mass"].value == bare.figures["mass"].value


def test_limits_that_the_rider_sets(choosing: Job) -> None:
    use = replace(choosing.use, budget=150.0, least_clearance_mm=275.0)
    job = replace(choosing, use=use)
    assert gate(job, "alu5", "budget").verdict == "blocked"
    assert gate(job, "alu5", "clearance").verdict == "blocked"
    assert gate(job, "steel25", "budget").verdict == "sound"
    assert gate(job, "steel25", "clearance").verdict == "sound"
    assert gate(job, "stock", "clearance").verdict == "sound", "stock is what is there"


def test_heat_shuts_plastic_and_a_reflective_sheet_opens_it(choosing: Job) -> None:
    own = choosing.as_entered("hdpe10")
    without = choosing.with_candidate(replace(own, plate=replace(own.plate, heat_foil=False)))
    shut = gate(without, "hdpe10", "heat")
    assert shut.verdict == "blocked"
    assert "reflective sheet" in shut.clears
    assert gate(choosing, "hdpe10", "heat").verdict == "mind"
    hotter, cooler = (
        weigh(job, "hdpe10").figures["heat_idling"].value for job in (without, choosing)
    )
    assert hotter is not None
    assert cooler is not None
    assert hotter > cooler + 50


def test_metal_ages_where_plastic_is_shut_out(choosing: Job) -> None:
    assert gate(choosing, "alu5", "heat").verdict == "mind"
    assert gate(choosing, "stock", "heat").verdict == "mind"


def test_only_what_nothing_blocks_is_ranked(choosing: Job) -> None:
    ranked = [r.key for r in choice_of(choosing).result.ranking]
    blocked = {c.key for c in choosing.candidates if weigh(choosing, c.key).verdict == "blocked"}
    assert blocked == {"bars4", "steel25"}, "by a gate, and by a joint"
    assert set(ranked) == {c.key for c in choosing.candidates} - blocked
    poor = replace(choosing, use=replace(choosing.use, budget=1.0))
    assert len(choice_of(poor).result.ranking) == len(choosing.candidates), "none passes: all"


def test_a_plate_over_stock_leaves_the_stock_plate_on(choosing: Job) -> None:
    own = choosing.as_entered("stain2")
    instead = choosing.with_candidate(replace(own, plate=replace(own.plate, over_stock=False)))
    rates = replace(choosing.bike.sag, front_wheel_rate_n_per_mm=9.0, rear_wheel_rate_n_per_mm=20.0)
    over, alone = (
        weigh(replace(job, bike=replace(job.bike, sag=rates)), "stain2").figures["sag"].value
        for job in (choosing, instead)
    )
    assert over is not None
    assert alone is not None
    assert over > alone


def test_a_part_that_is_only_hot_under_load_has_no_idling_heat(choosing: Job) -> None:
    cool = tuple(
        replace(p, surface_c=22.0 if p.key == "header" else None) for p in choosing.bike.parts
    )
    figures = weigh(replace(choosing, bike=replace(choosing.bike, parts=cool)), "alu5").figures
    assert figures["heat_idling"].value is None
    assert figures["heat_idling"].metric == "nothing hot near"
    assert (figures["heat_moving"].value or 0.0) > 25.0
