"""Blows, how far it went, how warm it runs: the record read, edges first."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rugged_shield.core.event import PlateRecord, Voided
from rugged_shield.core.keep.blows import (
    as_mended,
    felt_band_j,
    judge_blow,
    mended_since,
    was_looked_after,
)
from rugged_shield.core.keep.distance import odometer
from rugged_shield.core.keep.events import (
    CounterRead,
    DidNotMove,
    FoundTorque,
    LookedOver,
    PartReplaced,
    PlateStruck,
    Ridden,
    RunsWarm,
    counting,
    last_found,
)
from rugged_shield.core.keep.warmth import warmer
from rugged_shield.core.tables.dues import AFTER_A_BLOW

STRUCK = PlateStruck(plate="p", x_mm=600.0, y_mm=0.0, felt="rolling onto a set rock", dent_mm=2.0)


def record(*events: object) -> PlateRecord:
    """The events numbered in their order."""
    return PlateRecord(tuple(replace(e, seq=i) for i, e in enumerate(events, 1)))  # type: ignore[type-var]


def test_a_counter_tells_the_way_since_the_one_before_and_a_ride_adds() -> None:
    axis = odometer(
        record(CounterRead(km=1100.0), Ridden(km=50.0), Ridden(hours=2.0), CounterRead(km=1160.0)),
        1000.0,
    )
    assert axis.counter_km == 1160.0
    assert (axis.km, axis.hours) == (160.0, 2.0)
    assert axis.since(1) == (60.0, 2.0)
    assert axis.since(4) == (0.0, 0.0)


def test_without_a_counter_rides_still_count() -> None:
    axis = odometer(record(Ridden(km=80.0), CounterRead(km=9000.0), CounterRead(km=9030.0)), None)
    assert axis.counter_km == 9030.0
    assert axis.km == 110.0, "the first counter tells where it stands, not how far it went"
    assert odometer(record(Ridden(km=5.0)), None).counter_km is None


@given(st.lists(st.floats(0, 500), max_size=12), st.floats(0, 1e5))
def test_rides_and_counters_tell_the_same_way(rides: list[float], start: float) -> None:
    counters, at = [], start
    for km in rides:
        at += km
        counters.append(CounterRead(km=at))
    by_ride = odometer(record(*(Ridden(km=km) for km in rides)), start)
    by_counter = odometer(record(*counters), start)
    assert by_ride.km == pytest.approx(by_counter.km, abs=1e-6)
    assert by_ride.counter_km == pytest.approx(by_counter.counter_km, abs=1e-6)


def test_a_voided_line_counts_for_nothing_and_stays() -> None:
    lines = record(Ridden(km=900.0), Voided(ref=1, reason="the other bike"), Ridden(km=40.0))
    assert odometer(counting(lines), 0.0).km == 40.0
    assert lines[0].seq == 1
    found = record(
        FoundTorque(plate="p", joint="a", torque_nm=20.0),
        DidNotMove(plate="p", joint="a", torque_nm=18.0),
        Voided(ref=2, reason="the wrong joint"),
    )
    assert last_found(found)["a"].torque_nm == 20.0


def test_felt_energies_are_those_of_the_riding_profiles() -> None:
    assert felt_band_j("thrown stone") == (5.0, 15.0)
    assert felt_band_j("rolling onto a set rock") == (40.0, 80.0)
    assert felt_band_j("a drop onto a log or ledge") == (100.0, 400.0)
    assert felt_band_j("not felt") is None


@pytest.mark.parametrize(
    ("felt", "dent", "room", "wanted", "hard", "verdict", "act"),
    [
        ("thrown stone", 0.0, 20.0, 5.0, False, "sound", "next wash"),
        ("thrown stone", None, 20.0, 5.0, False, "sound", "next wash"),
        ("thrown stone", 1.0, 20.0, 5.0, True, "mind", "before the next ride"),
        ("rolling onto a set rock", 0.0, 20.0, 5.0, True, "mind", "before the next ride"),
        ("not felt", 2.0, 20.0, 5.0, True, "mind", "before the next ride"),
        ("not felt", 16.0, 20.0, 5.0, True, "mind", "straighten"),
        ("not felt", 10.0, 20.0, 5.0, True, "mind", "straighten"),
        ("not felt", 20.0, 20.0, 5.0, True, "blocked", "do not ride"),
        ("not felt", 25.0, 20.0, 5.0, True, "blocked", "do not ride"),
        ("not felt", 0.0, 0.0, 5.0, True, "mind", "before the next ride"),
    ],
)
def test_what_a_blow_asks_for(
    felt: str,
    dent: float | None,
    room: float,
    wanted: float,
    hard: bool,
    verdict: str,
    act: str,
) -> None:
    blow = judge_blow(
        replace(STRUCK, felt=felt, dent_mm=dent),  # type: ignore[arg-type]
        None,
        room,
        "sump",
        wanted,
    )
    assert (blow.is_hard, blow.verdict) == (hard, verdict)
    assert act in blow.act


def test_a_hard_blow_whose_dent_nobody_measured_is_never_green() -> None:
    blow = judge_blow(replace(STRUCK, dent_mm=None), None, 20.0, "sump", 5.0)
    assert blow.left_mm is None
    assert blow.verdict != "sound"
    off_the_plate = judge_blow(STRUCK, None, None, "", 0.0)
    assert off_the_plate.left_mm is None
    assert off_the_plate.verdict != "sound"


def test_the_dent_tells_more_than_the_feeling() -> None:
    blow = judge_blow(replace(STRUCK, felt="thrown stone"), (120.0, 300.0), 20.0, "sump", 5.0)
    assert (blow.least_j, blow.most_j) == (120.0, 300.0)


def looked(*items: str, found: str = "") -> LookedOver:
    return LookedOver(plate="p", looked=items, found=found)


@pytest.mark.parametrize(
    ("looks", "after"),
    [
        ((), False),
        ((looked(*AFTER_A_BLOW[:-1]),), False),
        ((looked(*AFTER_A_BLOW),), True),
        ((looked(*AFTER_A_BLOW[:2]), looked(*AFTER_A_BLOW[2:])), True),
        ((looked(*AFTER_A_BLOW, found="a boss is cracked"),), False),
        ((looked(*AFTER_A_BLOW, found="a boss is cracked"), looked("heads")), True),
        ((looked(*AFTER_A_BLOW), looked("leaks", found="a seep, weeks later")), True),
    ],
)
def test_a_blow_is_looked_after_whole(looks: tuple[LookedOver, ...], after: bool) -> None:
    lines = record(STRUCK, *looks)
    assert was_looked_after(lines[0], lines) is after  # type: ignore[arg-type]
    before = record(*looks, STRUCK)
    assert not was_looked_after(before[-1], before), "a look before it says nothing"  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("what", "done", "verdict"),
    [("plate", "replaced", "sound"), ("the Plate", "straightened", "mind"), ("bracket", "", "")],
)
def test_only_what_is_done_to_the_plate_mends_a_dent(what: str, done: str, verdict: str) -> None:
    part = PartReplaced(plate="p", what=what, done=done or "replaced")  # type: ignore[arg-type]
    lines = record(STRUCK, part)
    assert mended_since(lines[0], lines) == done  # type: ignore[arg-type]
    assert mended_since(lines[0], lines[:1]) == ""  # type: ignore[arg-type]
    if done:
        blow = judge_blow(replace(STRUCK, dent_mm=30.0), None, 20.0, "sump", 5.0)
        assert blow.verdict == "blocked"
        assert as_mended(blow, done).verdict == verdict


BEFORE = RunsWarm(with_plate=False, air_c=14.0, running_c=88.0, fan_min=3.0, ride="quarry loop")
AFTER = RunsWarm(with_plate=True, air_c=13.0, running_c=91.0, fan_min=6.0, ride="Quarry loop ")


def test_hotter_is_told_above_the_air_of_each_ride() -> None:
    found = warmer(record(BEFORE, AFTER))
    assert found.hotter_c == pytest.approx((91 - 13) - (88 - 14))
    assert found.fan_more_min == 3.0
    assert found.verdict == "mind"
    vents = warmer(record(BEFORE, replace(AFTER, running_c=98.0)))
    assert "vents" in vents.words
    fine = warmer(record(BEFORE, replace(AFTER, running_c=88.0, fan_min=3.0)))
    assert fine.verdict == "sound"


@pytest.mark.parametrize(
    "events",
    [
        (),
        (BEFORE,),
        (AFTER,),
        (BEFORE, replace(AFTER, ride="motorway")),
        (BEFORE, replace(AFTER, air_c=19.1)),
    ],
)
def test_rides_that_do_not_compare_say_so(events: tuple[RunsWarm, ...]) -> None:
    found = warmer(record(*events))
    assert found.hotter_c is None
    assert found.verdict == "not known"
    assert found.words.startswith("not known")
