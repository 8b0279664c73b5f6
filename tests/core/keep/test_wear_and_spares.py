"""Wear by its readings; the fewest screws to carry, held against every other choice."""

from __future__ import annotations

import itertools

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from rugged_shield.core.errors import InputError
from rugged_shield.core.keep.spares import ONE_SERVES, SpareJoint, SparesInput, spares
from rugged_shield.core.keep.wear_left import WearLeftInput, WearReading, wear_left


def worn(points: list[tuple[float, float]], u: float = 0.1, limit: float = 4.0) -> WearLeftInput:
    return WearLeftInput(
        readings=tuple(WearReading(km=km, thickness_mm=mm) for km, mm in points),
        reading_u_mm=u,
        limit_mm=limit,
    )


def test_a_straight_line_is_read_as_it_is() -> None:
    found = wear_left(worn([(0, 10.0), (1000, 9.5), (2000, 9.0), (4000, 8.0)])).result
    assert found.rate_mm_per_1000km == pytest.approx(0.5)
    assert found.thickness_now_mm == pytest.approx(8.0)
    assert found.km_left == pytest.approx(8000.0)
    assert found.km_left_low is not None
    assert found.km_left_high is not None
    assert found.km_left_low < 8000.0 < found.km_left_high


def test_what_does_not_wear_has_no_end_in_sight_and_what_is_worn_has_none_left() -> None:
    still = wear_left(worn([(0, 8.0), (3000, 8.0)])).result
    assert (still.km_left, still.km_left_high) == (None, None)
    assert still.km_left_low is not None
    gone = wear_left(worn([(0, 5.0), (3000, 3.5)])).result
    assert (gone.km_left, gone.km_left_low, gone.km_left_high) == (0.0, 0.0, 0.0)


@pytest.mark.parametrize("points", [[], [(100.0, 9.0)], [(100.0, 9.0), (100.0, 8.9)]])
def test_one_reading_is_refused_with_what_to_do(points: list[tuple[float, float]]) -> None:
    with pytest.raises(InputError) as caught:
        worn(points)
    assert "once more" in caught.value.remedy


SEASONS = [
    pytest.param([0.0, 3000.0], id="two readings"),
    pytest.param([0.0, 1500.0, 3000.0], id="three"),
    pytest.param([0.0, 1500.0, 2600.0, 4000.0, 5200.0], id="five"),
    pytest.param([0.0, 500.0, 1000.0, 1500.0, 2000.0, 2500.0, 6000.0], id="seven"),
]


@pytest.mark.parametrize("limit", [1.0, 5.0, 7.0])
@pytest.mark.parametrize("km", SEASONS)
def test_the_true_end_lies_within_its_band(km: list[float], limit: float) -> None:
    """Near the limit the error of today's thickness is most of it."""
    rng = np.random.default_rng(int(limit))
    within, away = 0, np.array(km)
    for _ in range(400):
        mm = 10.0 - 0.0004 * away + rng.normal(0.0, 0.15, len(km))
        found = wear_left(worn(list(zip(km, mm, strict=True)), u=0.15, limit=limit)).result
        low, high = (
            np.inf if end is None else end for end in (found.km_left_low, found.km_left_high)
        )
        within += low <= (10.0 - limit) / 0.0004 - km[-1] <= high
    assert within / 400 >= 0.93


def test_the_ends_are_where_the_line_may_just_be_at_the_limit() -> None:
    """Held against a scan of the fitted line and its own error (Draper and Smith 1998, 3.1)."""
    points = [(0.0, 10.0), (1200.0, 9.4), (2500.0, 8.9), (4100.0, 8.1)]
    found = wear_left(worn(points, u=0.1, limit=5.0)).result
    km, mm = (np.array(x) for x in zip(*points, strict=True))
    slope, at = np.polyfit(km, mm, 1)
    x = np.linspace(0.0, 20000.0, 200001)
    spread = ((km - km.mean()) ** 2).sum()
    error = 1.96 * 0.1 * np.sqrt(1 / len(km) + (x - km.mean()) ** 2 / spread)
    may = x[np.abs(at + slope * x - 5.0) <= error] - km[-1]
    assert found.km_left_low == pytest.approx(may.min(), abs=0.2)
    assert found.km_left_high == pytest.approx(may.max(), abs=0.2)


def test_what_was_worn_out_long_ago_or_grows_has_an_end_of_its_own() -> None:
    gone = wear_left(worn([(0, 3.0), (100, 2.9), (3000, 2.95)])).result
    assert (gone.km_left, gone.km_left_low, gone.km_left_high) == (0.0, 0.0, 0.0)
    grown = wear_left(worn([(0, 8.0), (3000, 9.5)])).result
    assert (grown.km_left, grown.km_left_low, grown.km_left_high) == (None, None, None)


def cost(joints: tuple[SpareJoint, ...], take: tuple[float, ...]) -> tuple[int, int, float]:
    """Screws, sizes, length of a choice of one length for each joint."""
    counts = {mm: 1 + (take.count(mm) > ONE_SERVES) for mm in set(take)}
    total = sum(n * mm for mm, n in counts.items())
    return sum(counts.values()), len(counts), total


sizes = st.lists(st.sampled_from([20.0, 25.0, 30.0, 35.0]), min_size=1, max_size=3, unique=True)


@given(st.lists(sizes, min_size=1, max_size=6))
@settings(max_examples=40)
def test_no_other_choice_carries_less(lengths: list[list[float]]) -> None:
    joints = tuple(
        SpareJoint(key=str(i), thread="M8", drive="6 mm hex key", lengths_mm=tuple(mm))
        for i, mm in enumerate(lengths)
    )
    found = spares(SparesInput(joints)).result
    best = min(cost(joints, take) for take in itertools.product(*lengths))
    assert (found.screws, found.sizes) == best[:2]
    assert found.total_length_mm == pytest.approx(best[2])
    served = [key for spare in found.carry for key in spare.joints]
    assert sorted(served) == sorted(j.key for j in joints)
    for spare in found.carry:
        assert len(spare.joints) <= (ONE_SERVES if spare.count == 1 else len(joints))


def test_another_thread_or_drive_needs_its_own() -> None:
    a = SpareJoint(key="a", thread="M8", drive="6 mm hex key", lengths_mm=(30.0,))
    b = SpareJoint(key="b", thread="M8", drive="six-lobe T40", lengths_mm=(30.0,))
    assert spares(SparesInput((a, b))).result.screws == 2
    with pytest.raises(InputError):
        SpareJoint(key="c", thread="M8", drive="x", lengths_mm=())
