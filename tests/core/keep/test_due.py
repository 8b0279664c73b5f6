"""When the first re-check is due, and what a found torque means."""

from __future__ import annotations

from dataclasses import replace

import pytest

from rugged_shield.core.keep import FittedJoint, first_check

JOINT = FittedJoint(
    key="a",
    number=1,
    name="front",
    target_nm=20.0,
    found_nm=None,
    has_plastic=False,
    has_rubber=False,
    greased=False,
)


def test_nothing_is_due_before_it_is_fitted() -> None:
    for fitted_at, done in ((None, True), (1000.0, False)):
        due = first_check((JOINT,), fitted_at, None, done)
        assert due.state == "not fitted"
        assert due.due_at_km is None


def test_due_after_the_first_ride_at_a_hundred_km_at_the_latest() -> None:
    waiting = first_check((JOINT,), 1000.0, None, True)
    assert waiting.state == "waiting"
    assert waiting.due_at_km == 1100
    assert "1100 km" in waiting.words
    assert waiting.km_left == 100
    ridden = first_check((JOINT,), 1000.0, 1001.0, True)
    assert ridden.state == "due"
    assert ridden.km_left == 99
    assert ridden.verdict == "mind"
    late = first_check((JOINT,), 1000.0, 1250.0, True)
    assert late.km_left == 0
    assert "250 km" in late.words


@pytest.mark.parametrize(
    ("found", "lost"), [(15.99, True), (16.0, False), (20.0, False), (24, False)]
)
def test_below_eighty_percent_is_a_loss(found: float, lost: bool) -> None:
    due = first_check((replace(JOINT, found_nm=found),), 1000.0, 1080.0, True)
    assert due.state == "checked"
    assert due.checks_left == ()
    assert any(f.code == "loss found" for f in due.findings) is lost


def test_joints_left_are_named() -> None:
    other = replace(JOINT, key="b", number=2, found_nm=20.0)
    due = first_check((JOINT, other), 1000.0, 1050.0, True)
    assert due.state == "due"
    assert due.checks_left == ("a",)


def test_soft_and_greased_joints_are_looked_at_first() -> None:
    soft = replace(JOINT, has_plastic=True)
    rubber = replace(JOINT, key="b", number=2, has_rubber=True)
    greased = replace(JOINT, key="c", number=3, greased=True)
    words = " ".join(first_check((soft, rubber, greased), 1000.0, None, True).reasons)
    for expected in ("1 first: plastic", "2 first: rubber", "3 first: greased"):
        assert expected in words
