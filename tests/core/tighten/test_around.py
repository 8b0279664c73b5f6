"""Work around the joints: the bike's own joints, a dry fit, what holds the plate, locker."""

from __future__ import annotations

from dataclasses import replace

import pytest

from rugged_shield.core.assess.tighten.commands import tick_step
from rugged_shield.core.assess.tighten.plan import done_steps, plan_of
from rugged_shield.core.errors import InputError
from rugged_shield.core.event import PlateRecord
from rugged_shield.core.job.model import Job
from rugged_shield.core.tighten.events import BikeJointClosed, BikeJointOpened, StepDone
from rugged_shield.core.tighten.plan import PlanAround, make_plan
from rugged_shield.core.tighten.steps import PlanTask

PLATE = "alu5"


def picked(choosing: Job) -> Job:
    return replace(choosing, picked=PLATE)


def record(*events: object) -> PlateRecord:
    return PlateRecord(
        tuple(replace(e, seq=i) for i, e in enumerate(events, 1))  # type: ignore[type-var]
    )


def test_a_joint_of_the_bike_is_opened_before_and_closed_after(choosing: Job) -> None:
    """The demo's peg bracket: open before the plate hangs, closed once it is tight."""
    at = {s.key: s.number for s in plan_of(choosing, PLATE).steps}
    last = max(number for key, number in at.items() if key.startswith("verify:"))
    assert at["loosen:peg-bracket"] < at["hang"]
    assert last < at["close:peg-bracket"] < at["sweep"]
    steps = {s.key: s for s in plan_of(choosing, PLATE).steps}
    assert "45" in steps["close:peg-bracket"].text


def test_its_steps_follow_the_register(choosing: Job) -> None:
    plan = plan_of(picked(choosing), PLATE)
    opened, closed = (
        BikeJointOpened(joint="peg-bracket", name="peg"),
        BikeJointClosed(joint="peg-bracket", torque_nm=45.0),
    )
    keys = {"loosen:peg-bracket", "close:peg-bracket"}
    assert done_steps(plan, record()) & keys == set()
    assert done_steps(plan, record(opened)) & keys == {"loosen:peg-bracket"}
    assert done_steps(plan, record(opened, closed)) & keys == keys
    again = record(opened, closed, opened)
    assert done_steps(plan, again) & keys == {"loosen:peg-bracket"}


def test_what_the_work_went_past_was_not_needed(choosing: Job) -> None:
    """Nobody opened it, and the plate hangs: there is nothing to open or to close."""
    plan = plan_of(picked(choosing), PLATE)
    hung, swept = StepDone(plate=PLATE, step="hang"), StepDone(plate=PLATE, step="sweep")
    done = done_steps(plan, record(hung, swept))
    assert {"loosen:peg-bracket", "close:peg-bracket"} <= done
    opened = BikeJointOpened(joint="peg-bracket", name="peg")
    assert "close:peg-bracket" not in done_steps(plan, record(opened, hung, swept))


def test_a_tick_opens_it_in_the_register_and_never_closes_it(choosing: Job) -> None:
    job = picked(choosing)
    entry = tick_step(job, (), "loosen:peg-bracket", True)
    assert isinstance(entry.event, BikeJointOpened)
    assert entry.event.joint == "peg-bracket"
    with pytest.raises(InputError, match="register"):
        tick_step(job, (entry.event,), "close:peg-bracket", True)


def test_a_dry_fit_comes_before_the_plate_is_hung_for_good(choosing: Job) -> None:
    candidate = replace(choosing.as_entered(PLATE), dry_fit=True)
    at = {s.key: s.number for s in plan_of(choosing.with_candidate(candidate), PLATE).steps}
    assert at["clean"] < at["dry fit"] < at["hang"]
    assert "dry fit" not in {s.key for s in plan_of(choosing, PLATE).steps}


def test_hanging_says_what_holds_it_and_locker_how_it_is_put_on(choosing: Job) -> None:
    steps = plan_of(choosing, PLATE).steps
    hang = next(s for s in steps if s.key == "hang")
    assert "kg" in hang.text
    assert "second person" in hang.text
    joints = {j.key: j for j in choosing.candidate(PLATE).joints}
    for step in steps:
        if step.kind == "start":
            locker = "locker" in joints[step.joint].treatment
            assert ("shake the bottle" in step.text) == locker


def test_tasks_stand_in_their_order_around_no_joints() -> None:
    def task(key: str) -> PlanTask:
        return PlanTask(key=key, title=key, text="", caution="", minutes=1.0)

    around = PlanAround(tasks=(task("a"), task("b")), closing=(task("c"),), hang="By two.")
    steps = make_plan((), around).steps
    keys = [s.key for s in steps]
    assert keys == ["prepare", "strip", "clean", "a", "b", "hang", "c", "sweep", "weigh", "bag"]
    assert steps[5].text.endswith("By two.")
