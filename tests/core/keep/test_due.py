"""When a thing is due again, and what a found torque means."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rugged_shield.core.keep.due import FittedJoint, due_state, is_lost, settles
from rugged_shield.core.keep.dues import Due, Gone, due_by_rule, in_order, put_off
from rugged_shield.core.tables.dues import DAYS_A_MONTH, FIRST_RECHECK, LOOK, RECHECK

JOINT = FittedJoint(
    key="a",
    number=1,
    name="front",
    target_nm=20.0,
    recorded_nm=20.0,
    found_nm=None,
    has_plastic=False,
    has_rubber=False,
    greased=False,
)
NEW = Gone(km=0.0, hours=0.0, days=0.0)


def test_nothing_is_due_before_it_is_fitted() -> None:
    for left, words in ((0, "no plate is fitted"), (1, "1 step"), (7, "7 steps")):
        state = due_state((JOINT,), (), left)
        assert (state.state, state.verdict) == ("not fitted", "not known")
        assert words in state.words


@pytest.mark.parametrize(
    ("gone", "state"),
    [
        (NEW, "later"),
        (replace(NEW, km=79.9), "later"),
        (replace(NEW, km=80.0), "soon"),
        (replace(NEW, km=100.0), "now"),
        (replace(NEW, hours=4.0), "now"),
        (replace(NEW, days=3 * DAYS_A_MONTH), "now"),
        (replace(NEW, days=3 * DAYS_A_MONTH - 0.1), "soon"),
        (replace(NEW, days=None), "later"),
    ],
)
def test_whichever_comes_first(gone: Gone, state: str) -> None:
    due = due_by_rule(FIRST_RECHECK, gone)
    assert due.state == state
    assert due.verdict == ("mind" if state == "now" else "sound")


@given(st.floats(0, 5000), st.floats(0, 200), st.floats(0, 2000), st.floats(0, 500), st.booleans())
def test_it_is_never_less_due_later(
    km: float, hours: float, days: float, more: float, soft: bool
) -> None:
    """More km, more hours, more days, or a reason to look sooner never put it off."""
    reasons = ("plastic creeps",)
    now = due_by_rule(RECHECK, Gone(km=km, hours=hours, days=days))
    for later in (
        Gone(km=km + more, hours=hours, days=days),
        Gone(km=km, hours=hours + more, days=days),
        Gone(km=km, hours=hours, days=days + more),
    ):
        assert due_by_rule(RECHECK, later).share >= now.share
    sooner = due_by_rule(RECHECK, Gone(km=km, hours=hours, days=days), reasons if soft else ())
    assert sooner.share >= now.share


def test_a_reason_halves_the_interval_once() -> None:
    half = RECHECK.every_km * RECHECK.softer  # type: ignore[operator]
    assert due_by_rule(RECHECK, replace(NEW, km=half)).state == "later"
    assert due_by_rule(RECHECK, replace(NEW, km=half), ("creeps",)).state == "now"
    two = due_by_rule(RECHECK, replace(NEW, km=half / 2), ("creeps", "sets"))
    assert two.share == pytest.approx(0.5)


def test_the_day_is_forecast_from_how_much_is_ridden() -> None:
    """600 km at 10 km a day come up in 60 days, before the three months do."""
    due = due_by_rule(LOOK, NEW, (), km_per_day=10.0)
    assert due.is_forecast
    assert due.in_days == pytest.approx(60.0)
    slow = due_by_rule(LOOK, NEW, (), km_per_day=1.0)
    assert not slow.is_forecast
    assert slow.in_days == pytest.approx(3 * DAYS_A_MONTH)
    unknown = due_by_rule(replace(LOOK, every_months=None), NEW, (), km_per_day=0.5)
    assert unknown.in_days is None, "three years ahead is no day"


def test_what_is_put_off_is_never_green() -> None:
    off = put_off(due_by_rule(LOOK, replace(NEW, km=700.0)), "no water here")
    assert (off.state, off.verdict, off.put_off) == ("put off", "mind", "no water here")


def event(key: str) -> Due:
    due = due_by_rule(LOOK, replace(NEW, km=1e4))
    return replace(due, key=key, state="now", km_left=None, in_days=None, share=1.0)


def test_a_blow_comes_before_what_came_round() -> None:
    overdue = due_by_rule(LOOK, replace(NEW, km=1e4))
    later = due_by_rule(RECHECK, NEW)
    assert [d.key for d in in_order([later, overdue, event("blow:3")])] == [
        "blow:3",
        "wash and look",
        "re-check",
    ]


@pytest.mark.parametrize(
    ("found", "recorded", "lost"),
    [
        (15.99, 20.0, True),
        (16.0, 20.0, False),
        (20.0, 20.0, False),
        (16.5, 22.0, True),
        (16.5, None, False),
        (16.5, 18.0, False),
        (0.0, 20.0, True),
    ],
)
def test_below_eighty_percent_is_a_loss(found: float, recorded: float | None, lost: bool) -> None:
    """Of the target, or of what was recorded when that was more."""
    joint = replace(JOINT, found_nm=found, recorded_nm=recorded)
    assert is_lost(joint) is lost
    state = due_state((joint,), (due_by_rule(RECHECK, NEW),), None)
    assert any(f.code == "loss found" for f in state.findings) is lost
    assert (state.verdict == "mind") is lost


def test_a_joint_that_did_not_move_is_not_lost() -> None:
    joint = replace(JOINT, found_nm=15.0, did_not_move=True)
    assert not is_lost(joint)


def test_joints_left_are_named() -> None:
    other = replace(JOINT, key="b", number=2, found_nm=20.0)
    state = due_state((JOINT, other), (due_by_rule(FIRST_RECHECK, NEW),), None)
    assert state.checks_left == ("a",)


def test_soft_greased_lost_and_slack_joints_are_looked_at_first() -> None:
    words = " ".join(
        settles(
            (
                replace(JOINT, has_plastic=True),
                replace(JOINT, key="b", number=2, has_rubber=True),
                replace(JOINT, key="c", number=3, greased=True),
                replace(JOINT, key="d", number=4, left_share=0.5),
                replace(JOINT, key="e", number=5, found_nm=3.0),
                replace(JOINT, key="f", number=6, left_share=None),
            )
        )
    )
    for expected in (
        "1 first: plastic",
        "2 first: rubber",
        "3 first: greased",
        "4 first: little preload",
        "5 first: found loose",
    ):
        assert expected in words
    assert "6" not in words
