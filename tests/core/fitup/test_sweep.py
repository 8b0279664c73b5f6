"""A moving part past fixed ones: never nearer anywhere than the gap that is said."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from rugged_shield.core.errors import InputError
from rugged_shield.core.fitup.sweep import (
    Capsule,
    FixedThing,
    Motion,
    SweepInput,
    _distance_to,
    placed,
    sweep,
)
from rugged_shield.core.mechanics.nearness import segment_to_segment_mm

LEVER = Capsule(a=(760, -230, 395), b=(860, -235, 400), radius_mm=32)
ARC = Motion(kind="rotate", origin=(900, -180, 400), axis=(0, 1, 0), from_deg=-14, to_deg=14)
place = st.tuples(st.floats(-200, 200), st.floats(-200, 200), st.floats(-200, 200))


def box(low: tuple[float, float, float], size: float) -> FixedThing:
    high = (low[0] + size, low[1] + size, low[2] + size)
    return FixedThing(name="box", kind="box", min=low, max=high)


def things(at: tuple[float, float, float]) -> tuple[FixedThing, ...]:
    x, y, z = at
    wing = ((x, y, z), (x + 90, y, z + 10), (x + 90, y + 60, z + 30), (x, y + 60, z + 20))
    return (
        box(at, 50.0),
        FixedThing(name="rod", kind="capsule", a=at, b=(x + 40, y, z + 80), radius_mm=9),
        FixedThing(name="wing", kind="panel", polygon=wing, thickness_mm=4),
    )


@given(place, place, place, st.floats(-80, 80), st.floats(0, 20))
@settings(max_examples=30)
def test_a_dense_sampling_never_finds_less(
    a: tuple[float, float, float],
    b: tuple[float, float, float],
    at: tuple[float, float, float],
    turn: float,
    radius: float,
) -> None:
    rod = Capsule(a=a, b=b, radius_mm=radius)
    motion = Motion(kind="rotate", origin=(20, 0, 30), axis=(0.3, 1, 0.2), to_deg=turn)
    fixed = things(at)
    found = sweep(SweepInput(moving=(rod,), motion=motion, fixed=fixed)).result
    shares = np.linspace(0.0, 1.0, 4001)
    for gap, thing in zip(found.gaps, fixed, strict=True):
        dense = float(_distance_to(thing)(*placed(motion, rod, shares)).min()) - radius
        assert gap.gap_mm <= max(0.0, dense) + 1e-6
        assert gap.gap_mm >= max(0.0, dense) - 0.2, "and it is not made up"


@given(place, place, place, place)
@settings(max_examples=60)
def test_two_segments_are_as_near_as_their_nearest_points(
    a: tuple[float, float, float],
    b: tuple[float, float, float],
    c: tuple[float, float, float],
    d: tuple[float, float, float],
) -> None:
    one, two, three, four = (np.array([p]) for p in (a, b, c, d))
    found = float(segment_to_segment_mm(one, two, three, four)[0])
    shares = np.linspace(0.0, 1.0, 41)
    first = one + shares[:, None] * (two - one)
    second = three + shares[:, None] * (four - three)
    dense = np.linalg.norm(first[:, None] - second[None], axis=2).min()
    step = (np.linalg.norm(two - one) + np.linalg.norm(four - three)) / 40
    assert dense - step - 1e-6 <= found <= dense + 1e-6


def test_a_strike_between_two_looks_is_found() -> None:
    """A thin panel that a long travel passes through within a thousandth of its way."""
    wall = FixedThing(
        name="wall", kind="panel", polygon=((1.7, -9, -9), (1.7, 9, -9), (1.7, 9, 9), (1.7, -9, 9))
    )
    dot = Capsule(a=(0, 0, 0), b=(0, 0, 0.01), radius_mm=0.005)
    motion = Motion(kind="translate", vector=(4000, 0, 0))
    found = sweep(SweepInput(moving=(dot,), motion=motion, fixed=(wall,))).result
    assert found.gaps[0].touches
    assert found.least_mm == 0.0


def test_a_rod_inside_a_box_touches_and_one_beside_it_keeps_its_gap() -> None:
    inside = Capsule(a=(10, 10, 10), b=(20, 20, 20), radius_mm=1)
    still = Motion(kind="translate")
    at = sweep(SweepInput(moving=(inside,), motion=still, fixed=(box((0, 0, 0), 50),))).result
    assert at.gaps[0].touches
    beside = Capsule(a=(60, 10, 10), b=(60, 20, 20), radius_mm=4)
    gap = sweep(SweepInput(moving=(beside,), motion=still, fixed=(box((0, 0, 0), 50),))).result
    assert gap.least_mm == pytest.approx(6.0)
    assert not gap.gaps[0].touches


def test_a_turn_there_and_a_turn_back_have_one_gap() -> None:
    back = Motion(kind="rotate", origin=(900, -180, 400), axis=(0, 1, 0), from_deg=14, to_deg=-14)
    fixed = (box((650, -140, 330), 80.0),)
    gaps = [
        sweep(SweepInput(moving=(LEVER,), motion=m, fixed=fixed)).result.least_mm
        for m in (ARC, back)
    ]
    assert gaps[0] == pytest.approx(gaps[1], abs=0.005)
    assert math.isfinite(gaps[0])


@pytest.mark.parametrize(
    ("polygon", "words"),
    [
        (((0, 0, 0), (1, 0, 0)), "2"),
        (((0, 0, 0), (50, 0, 0), (100, 0, 0)), "on one line"),
        (((0, 0, 0), (50, 0, 0), (50, 50, 9), (0, 50, 0)), "not flat"),
        (((0, 0, 0), (90, 0, 0), (20, 20, 0), (0, 90, 0)), "not convex"),
    ],
)
def test_a_panel_that_is_none_is_refused(
    polygon: tuple[tuple[float, float, float], ...], words: str
) -> None:
    with pytest.raises(InputError) as caught:
        FixedThing(name="x", kind="panel", polygon=polygon)
    assert words in str(caught.value.value)
