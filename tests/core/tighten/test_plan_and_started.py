"""The order of work is lawful for any set of joints; the loose gate holds."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from rugged_shield.core.assess.frame.next_act import NextAct, next_act
from rugged_shield.core.assess.gate.ready import ready_of
from rugged_shield.core.assess.tighten.plan import done_steps, plan_of, step_at
from rugged_shield.core.errors import InputError
from rugged_shield.core.event import of_plate
from rugged_shield.core.fitup.presets import PRESETS, PresetRequest, joint_from_preset
from rugged_shield.core.job.edits.joints import NewJoint, add_joint, remove_joint
from rugged_shield.core.job.edits.path import set_item
from rugged_shield.core.job.edits.plates import copy_plate
from rugged_shield.core.job.edits.readings import start_joint, take_reading_back
from rugged_shield.core.job.events import spent_keys
from rugged_shield.core.job.model import Job
from rugged_shield.core.tighten.all_started import joint_states, started_check, started_refusal
from rugged_shield.core.tighten.events import Reading, Started, StepReopened, TakenBack
from rugged_shield.core.tighten.order import (
    STAGE_ORDER,
    PlanJoint,
    crisscross_sequence,
)
from rugged_shield.core.tighten.plan import Plan, make_plan
from tests.conftest import JobFile


def joint(number: int, stage: Any = "stiff", x: float = 0.0, y: float = 0.0) -> PlanJoint:
    return PlanJoint(
        key=f"j{number}",
        number=number,
        name=f"joint {number}",
        stage=stage,
        x_mm=x,
        y_mm=y,
        where="here",
        tool="6 mm hex key",
        hardware="M8 × 30",
        treatment="dry",
        torque_nm=20.0,
        setting_nm=20.0,
    )


ON_PLATE = tuple(s for s in STAGE_ORDER if s not in ("bench", "bracket"))


@st.composite
def joint_sets(draw: st.DrawFn) -> tuple[PlanJoint, ...]:
    """Joints of the bench, brackets, sheet; of a sub-plate that the plate covers or not."""
    count = draw(st.integers(1, 12))
    found = []
    for n in range(1, count + 1):
        stage = draw(st.sampled_from(STAGE_ORDER))
        made = joint(n, stage, draw(st.floats(400, 1000)), draw(st.floats(-150, 150)))
        if stage == "bracket":
            made = replace(made, sheets=(), hidden=draw(st.booleans()))
        found.append(made)
    return tuple(found)


def on_plate(joints: tuple[PlanJoint, ...]) -> list[PlanJoint]:
    return [j for j in joints if j.stage in ON_PLATE]


def place(plan: Plan) -> dict[str, int]:
    return {step.key: step.number for step in plan.steps}


@settings(max_examples=60, deadline=None)
@given(joint_sets(), st.sets(st.integers(1, 12)))
def test_what_is_held_loose_is_torqued_last_and_once(
    joints: tuple[PlanJoint, ...], numbers: set[int]
) -> None:
    """A header until its silencer sits: it has its hold in its stage and its torque at the end."""
    held = tuple(replace(j, held_loose=j.number in numbers) for j in joints)
    plan = make_plan(held)
    at = place(plan)
    assert sorted(plan.joint_order) == sorted(j.key for j in joints)
    firm = [at[f"full:{j.key}"] for j in held if not j.held_loose]
    for j in (j for j in held if j.held_loose):
        assert all(at[f"full:{j.key}"] > number for number in firm)
        assert at[f"start:{j.key}"] < at[f"half:{j.key}"] < at[f"full:{j.key}"]
        hold = next(s for s in plan.steps if s.key == f"half:{j.key}")
        assert hold.setting_nm is None
        assert "half a turn back" in hold.text


@settings(max_examples=80, deadline=None)
@given(joint_sets())
def test_every_plan_keeps_every_precedence(joints: tuple[PlanJoint, ...]) -> None:
    plan = make_plan(joints)
    at = place(plan)
    assert [s.number for s in plan.steps] == list(range(1, len(plan.steps) + 1))
    for step in plan.steps:
        assert all(at[before] < step.number for before in step.after)
    late = [j for j in joints if j.stage == "bracket" and not j.hidden]
    tightened = [at[f"full:{k.key}"] for k in on_plate(joints)]
    for j in joints:
        if j.stage == "bench" or j.hidden:
            assert at[f"full:{j.key}"] < at["hang"], "what will be out of reach is tight before"
            assert f"verify:{j.key}" not in at
            continue
        assert (at[f"start:{j.key}"] < at["hang"]) == (j in late), "brackets stand before it hangs"
        everything = [*tightened, *(at[f"full:{k.key}"] for k in late)]
        assert at[f"start:{j.key}"] < min(everything), "all started before any is tightened"
        assert at[f"verify:{j.key}"] > max(everything), "the round is over all that can be reached"
    assert all(at[f"full:{j.key}"] > max(tightened, default=0) for j in late), "brackets last"
    assert at["prepare"] == 1
    assert at["bag"] == len(plan.steps)


@settings(max_examples=60, deadline=None)
@given(joint_sets())
def test_stages_follow_each_other(joints: tuple[PlanJoint, ...]) -> None:
    plan = make_plan(joints)
    turns = {j.key: j.turn for j in joints}
    order = [s.joint for s in plan.steps if s.kind == "full"]
    assert [turns[key] for key in order] == sorted(turns.values())
    assert sorted(plan.joint_order) == sorted(j.key for j in joints)


@pytest.mark.parametrize("stage", ON_PLATE)
def test_a_joint_added_appears_in_its_lawful_place(choosing: Job, stage: str) -> None:
    job = replace(choosing, picked="alu5")
    own = joint_from_preset(
        PresetRequest(
            preset="tapped boss",
            key="own",
            number=9,
            thread="M8",
            plate_thickness_mm=5,
            plate_material="aluminium 5052-H32",
            x_mm=700,
            y_mm=0,
            stage=stage,
        )  # type: ignore[arg-type]
    )
    grown = set_item(job, "candidates.alu5.joints", own, "added").job
    before, after = plan_of(job, "alu5"), plan_of(grown, "alu5")
    assert len(after.joint_order) == len(before.joint_order) + 1
    stages = {j.key: j.stage for j in grown.in_hand.joints}
    rank = [STAGE_ORDER.index(stages[key]) for key in after.joint_order]
    assert rank == sorted(rank)
    at = place(after)
    assert at["hang"] < at["start:own"] < at["full:own"] < at["verify:own"]
    rest = [key for key in after.joint_order if key != "own"]
    assert sorted(rest) == sorted(before.joint_order)


def test_four_corners_are_crossed() -> None:
    corners = (
        joint(1, x=0, y=0),
        joint(2, x=0, y=100),
        joint(3, x=200, y=0),
        joint(4, x=200, y=100),
    )
    assert [j.number for j in crisscross_sequence(corners)] == [1, 4, 2, 3]


def test_a_stage_of_one_needs_no_half_pass() -> None:
    keys = [s.key for s in make_plan((joint(1),)).steps]
    assert "half:j1" not in keys
    assert "full:j1" in keys


def test_half_is_half(choosing: Job) -> None:
    steps = {s.key: s for s in plan_of(choosing, "alu5").steps}
    full, half = steps["full:a1"], steps["half:a1"]
    assert full.torque_nm is not None
    assert half.torque_nm == pytest.approx(full.torque_nm / 2)
    assert steps["start:a1"].torque_nm is None
    assert "medium thread locker" in steps["start:a1"].treatment


def test_a_joint_twice_is_refused_and_none_is_fine() -> None:
    with pytest.raises(InputError, match="joints"):
        make_plan((joint(1), joint(1)))
    assert [s.kind for s in make_plan(()).steps] == ["task"] * 7


STAGES = {"a": "locate", "b": "locate", "c": "stiff"}
NUMBERS = {"a": 1, "b": 2, "c": 3}


def test_no_reading_before_all_of_its_stage_are_started() -> None:
    none = joint_states((), dict.fromkeys(STAGES, ""))
    assert "1, 2" in (started_refusal("a", STAGES, none, NUMBERS) or "")
    one = joint_states((Started(seq=1, joint="a"),), dict.fromkeys(STAGES, ""))
    refusal = started_refusal("a", STAGES, one, NUMBERS) or ""
    assert "joint 2 " in refusal
    assert started_check("locate", STAGES, one).waiting_for == ("b",)
    both = joint_states(
        (Started(seq=1, joint="a"), Started(seq=2, joint="b")), dict.fromkeys(STAGES, "")
    )
    assert started_refusal("a", STAGES, both, NUMBERS) is None
    assert started_refusal("c", STAGES, both, NUMBERS) is not None


def test_taking_back_keeps_both_lines() -> None:
    records = (
        Reading(seq=1, joint="a", torque_nm=20.0),
        TakenBack(seq=2, joint="a", ref=1),
        Reading(seq=3, joint="a", torque_nm=19.0),
    )
    state = joint_states(records, {"a": ""})["a"]
    assert state.reading is not None
    assert state.reading.seq == 3
    assert [r.seq for r in state.history] == [1, 2, 3]
    only_back = joint_states(records[:2], {"a": ""})["a"]
    assert only_back.reading is None
    assert len(only_back.history) == 2


def test_done_steps_follow_the_record(half_fitted: JobFile) -> None:
    plan = plan_of(half_fitted.job, "alu5")
    done = done_steps(plan, half_fitted.records)
    assert {"prepare", "hang", "start:a4", "half:a1", "full:a2"} <= done
    assert "full:a5" not in done
    assert plan.steps[step_at(plan, done) - 1].key == "half:a5"
    back = (*half_fitted.records, TakenBack(seq=99, joint="a1", ref=13))
    assert "full:a1" not in done_steps(plan, back)
    opened = (*half_fitted.records, StepReopened(seq=99, step="hang"))
    assert "hang" not in done_steps(plan, opened)


def test_next_act_in_words(choosing: Job, half_fitted: JobFile) -> None:
    assert next_act(choosing, ()).words == "weigh 8 plates and pick one"
    assert next_act(half_fitted.job, half_fitted.records) == NextAct(
        "step 15: draw joint 5 to half", "garage"
    )
    assert next_act(replace(choosing, picked="alu5"), ()).words == "count the kit on the bench"


def test_another_plate_inherits_no_work(half_fitted: JobFile) -> None:
    """A copy has joints of the same names and make: none of its screws was ever started."""
    job = copy_plate(half_fitted.job, "alu5", ()).job
    other = replace(job, picked=job.weighing)
    work = of_plate(half_fitted.records, other.in_hand.key)
    plan = plan_of(other, other.in_hand.key)
    assert done_steps(plan, work) == frozenset()
    states = joint_states(work, plan.built).values()
    assert not any(s.started or s.reading or s.history for s in states)
    assert "Joint 1 is not torqued." in ready_of(other, half_fitted.records).missing_words
    with pytest.raises(InputError, match="this plate"):
        take_reading_back(other, half_fitted.records, 13, "slipped")


def test_a_joint_put_in_anew_inherits_no_torque(half_fitted: JobFile) -> None:
    job, record = half_fitted.job, half_fitted.records
    asked = NewJoint(preset=next(iter(PRESETS)), stage="stiff", x_mm=700.0, y_mm=0.0)
    first = add_joint(job, "alu5", asked, spent_keys(record)).job
    added = first.in_hand.joints[-1].key
    started = (*record, replace(start_joint(first, added).event, seq=record[-1].seq + 1))
    out = remove_joint(first, "alu5", added).job
    again = add_joint(out, "alu5", asked, spent_keys(started)).job
    assert again.in_hand.joints[-1].key not in {added, *(j.key for j in out.in_hand.joints)}
    states = joint_states(of_plate(started, "alu5"), plan_of(again, "alu5").built)
    assert not states[again.in_hand.joints[-1].key].started
