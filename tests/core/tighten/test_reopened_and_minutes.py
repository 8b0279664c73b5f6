"""A stage that came loose again, and the minutes that the work took."""

from __future__ import annotations

from dataclasses import replace

import pytest

from rugged_shield.core.event import PlateRecord
from rugged_shield.core.tighten.all_started import joint_states
from rugged_shield.core.tighten.events import Reading, StageReopened, Started, StepDone, TakenBack
from rugged_shield.core.tighten.taken import minutes_taken

BUILT = {"a": "as it is", "b": "as it is"}


def record(*events: object) -> PlateRecord:
    return PlateRecord(tuple(replace(e, seq=i, plate="p") for i, e in enumerate(events, 1)))  # type: ignore[type-var]


def opened(*joints: str) -> StageReopened:
    return StageReopened(stage="front", joints=joints, reason="rear first blocked the front")


def test_joints_of_an_opened_stage_are_loose_and_the_others_are_not() -> None:
    states = joint_states(
        record(
            Started(joint="a"),
            Started(joint="b"),
            Reading(joint="a", torque_nm=20.0),
            Reading(joint="b", torque_nm=20.0),
            opened("a"),
        ),
        BUILT,
    )
    assert not states["a"].started
    assert states["a"].reading is None
    assert states["b"].started
    assert states["b"].reading is not None
    assert len(states["a"].history) == 1, "the line stays"


def test_what_is_told_after_it_counts_again() -> None:
    lines = record(
        Started(joint="a"),
        Reading(joint="a", torque_nm=20.0),
        opened("a"),
        Started(joint="a"),
        Reading(joint="a", torque_nm=19.0),
    )
    state = joint_states(lines, BUILT)["a"]
    assert state.started
    assert state.reading is not None
    assert state.reading.torque_nm == 19.0
    back = joint_states(record(*lines, TakenBack(joint="a", ref=5)), BUILT)["a"]
    assert back.reading is None, "not the one from before it was loose"


def told(minute: float, event: object) -> object:
    seconds = round(minute * 60)
    at = f"2026-11-28T{10 + seconds // 3600:02d}:{seconds // 60 % 60:02d}:{seconds % 60:02d}+00:00"
    return replace(event, at=at)  # type: ignore[type-var]


def test_minutes_run_from_the_step_before_and_stop_at_a_pause() -> None:
    taken = minutes_taken(
        record(
            told(0, StepDone(step="prepare")),
            told(8, StepDone(step="hang")),
            told(9.5, Started(joint="a")),
            told(60, Started(joint="b")),
            told(62, Reading(joint="a", torque_nm=20.0)),
        )
    )
    assert taken == {
        "hang": pytest.approx(8.0),
        "start:a": pytest.approx(1.5),
        "full:a": pytest.approx(2.0),
    }


def test_steps_told_late_are_put_in_their_time() -> None:
    """A phone without a link tells later; the record's order is not the order of the work."""
    taken = minutes_taken(
        record(
            told(0, StepDone(step="prepare")),
            told(10, StepDone(step="clean")),
            told(4, StepDone(step="strip")),
        )
    )
    assert taken == {"strip": pytest.approx(4.0), "clean": pytest.approx(6.0)}


@pytest.mark.parametrize("events", [(), (told(0, StepDone(step="prepare")),)])
def test_nothing_told_takes_no_minutes(events: tuple[object, ...]) -> None:
    assert minutes_taken(record(*events)) == {}


def test_times_that_nobody_told_tell_nothing() -> None:
    assert minutes_taken(record(StepDone(step="a"), StepDone(step="b"))) == {}
