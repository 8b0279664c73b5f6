"""A plate of several pieces: screws through two sheets, the order they hang in, sets of holes."""

from __future__ import annotations

from dataclasses import replace

import pytest

from rugged_shield.core.assess.fitup.joints import assess_joint
from rugged_shield.core.assess.fitup.pieces import pieces_judged
from rugged_shield.core.assess.frame.stations import station_states
from rugged_shield.core.assess.tighten.plan import done_steps, plan_of
from rugged_shield.core.errors import InputError
from rugged_shield.core.fitup.joint import Joint
from rugged_shield.core.job.edits.joints import remove_joint
from rugged_shield.core.job.edits.path import set_text
from rugged_shield.core.job.edits.sheets import choose_hole_set, stack_piece
from rugged_shield.core.job.model import Job, mounted
from rugged_shield.core.survey.geometry import fold, sheets_over
from rugged_shield.core.survey.plate import Piece
from rugged_shield.core.tighten.events import StepDone
from rugged_shield.core.tighten.tools import reaches

KEY = "alu5"


def guard(**more: object) -> Piece:
    """A sheet of 3 mm under the rear of the belly, wide enough for its last pair of screws."""
    made = Piece(
        key="guard",
        name="tail guard",
        order=1,
        x_mm=700.0,
        y_mm=0.0,
        z_mm=281.0,
        length_mm=260.0,
        front_width_mm=260.0,
        rear_width_mm=260.0,
        thickness_mm=3.0,
        own_screws=2,
    )
    return replace(made, **more)  # type: ignore[arg-type]


def with_pieces(job: Job, *pieces: Piece) -> Job:
    own = job.as_entered(KEY)
    changed = job.with_candidate(replace(own, plate=replace(own.plate, pieces=pieces)))
    return replace(changed, picked="", weighing=KEY)


def shared(job: Job) -> dict[int, tuple[str, ...]]:
    return {s.number: s.lacking for s in pieces_judged(job, KEY, reaches).shared}


def joint(job: Job, number: int) -> Joint:
    return next(j for j in job.candidate(KEY).settled_joints() if j.number == number)


@pytest.fixture
def two(choosing: Job) -> Job:
    return with_pieces(choosing, guard())


def test_screws_over_both_sheets_are_found_where_they_lie(two: Job) -> None:
    folded = fold(two.candidate(KEY).plate)
    over = {
        m.joint.number
        for m in mounted(two.bike, two.candidate(KEY))
        if {"", "guard"} <= set(sheets_over(folded, m.x_mm, m.y_mm))
    }
    assert over
    assert shared(two) == dict.fromkeys(over, ("guard",))
    judged = pieces_judged(two, KEY, reaches)
    assert {f.code for f in judged.findings} == {"sheet not in the stack"}
    fit_up = next(s for s in station_states(two, ()) if s.key == "fit-up")
    assert "pieces: not known" in fit_up.words


def test_a_sheet_far_above_is_not_in_the_stack(choosing: Job) -> None:
    assert shared(with_pieces(choosing, guard(z_mm=380.0))) == {}


def test_in_the_stack_it_is_as_thick_as_the_piece_is(two: Job) -> None:
    number = min(shared(two))
    was = joint(two, number)
    job = stack_piece(two, KEY, was.key, "guard").job
    now = joint(job, number)
    assert now.sheets == ("guard", ""), "from the head on: it lies under the belly"
    assert now.length_mm is None
    mount = job.mount_of(now)
    grip = [assess_joint(j, mount).stack.result.grip_nominal_mm for j in (was, now)]
    assert grip[1] - grip[0] == pytest.approx(3.0)
    thicker = set_text(job, f"candidates.{KEY}.plate.pieces.guard.thickness_mm", "4").job
    grown = assess_joint(joint(thicker, number), mount).stack.result.grip_nominal_mm
    assert grown - grip[1] == pytest.approx(1.0)
    assert (
        joint(thicker, number)
        .layers[now.layers.index(next(x for x in now.layers if x.piece))]
        .material
        == two.candidate(KEY).plate.material
    )
    assert number not in {n for n, lacking in shared(job).items() if lacking}
    with pytest.raises(InputError, match="no layer of it yet"):
        stack_piece(job, KEY, was.key, "guard")
    gone = with_pieces(job)
    assert {f.code for f in pieces_judged(gone, KEY, reaches).findings} == {
        "not through that sheet"
    }


def test_above_the_plate_it_lies_between_plate_and_bike(choosing: Job) -> None:
    own = with_pieces(choosing, guard(z_mm=291.0))
    number = min(shared(own))
    job = stack_piece(own, KEY, joint(own, number).key, "guard").job
    assert joint(job, number).sheets == ("", "guard")


def test_where_the_plate_is_not_its_layer_becomes_the_pieces(choosing: Job) -> None:
    """A screw that only the side piece reaches: its plate layer was never the plate's."""
    far = guard(x_mm=700.0, y_mm=260.0, front_width_mm=120.0, rear_width_mm=120.0)
    job = with_pieces(choosing, far)
    first = joint(job, 1)
    own = job.as_entered(KEY)
    moved = tuple(
        replace(j, x_mm=760.0, y_mm=260.0) if j.key == first.key else j for j in own.joints
    )
    job = job.with_candidate(replace(own, joints=moved))
    layers = len(joint(job, 1).layers)
    job = stack_piece(job, KEY, first.key, "guard").job
    assert joint(job, 1).sheets == ("guard",)
    assert len(joint(job, 1).layers) == layers
    with pytest.raises(InputError, match="does not reach"):
        stack_piece(job, KEY, joint(job, 2).key, "guard")


def test_a_shared_screw_starts_when_its_last_sheet_hangs(two: Job) -> None:
    job = two
    for number in shared(two):
        job = stack_piece(job, KEY, joint(job, number).key, "guard").job
    for order in ("1", "-1"):
        job = set_text(job, f"candidates.{KEY}.plate.pieces.guard.order", order).job
        plan = plan_of(job, KEY)
        at = {s.key: s.number for s in plan.steps}
        first, last = ("hang", "hang:guard") if order == "1" else ("hang:guard", "hang")
        assert at[first] < at[last]
        both = {f"start:{joint(job, n).key}" for n in shared(job)}
        alone = {k for k in at if k.startswith("start:")} - both
        assert all(at[k] > at[last] for k in both)
        if order == "1":
            assert all(at["hang"] < at[k] < at["hang:guard"] for k in alone)
        half = min(at[k] for k in at if k.startswith("half:"))
        assert half > max(at[k] for k in (*both, *alone)), "nothing is tightened before all start"


def test_what_goes_through_first_is_said_when_the_piece_hangs(two: Job) -> None:
    at = f"candidates.{KEY}.plate"
    job = set_text(two, f"{at}.pieces.guard.through_first", "the vent hose").job
    job = set_text(job, f"{at}.pieces.guard.orientation", "lip to the rear").job
    job = set_text(job, f"{at}.through_first", "the strap").job
    plan = plan_of(job, KEY)
    assert {s.key for s in plan.steps if s.shows_way} == {"way", "hang", "hang:guard"}
    steps = {s.key: s.text for s in plan.steps}
    assert "Lip to the rear. Through its openings first: the vent hose." in steps["hang:guard"]
    assert "Through its openings first: the strap." in steps["hang"]


def test_a_piece_that_nobody_ticked_hangs_when_all_was_looked_over(two: Job) -> None:
    plan = plan_of(two, KEY)
    assert "hang:guard" not in done_steps(plan, (StepDone(step="hang"),))
    assert "hang:guard" in done_steps(plan, (StepDone(step="sweep"),))
    assert "hang:guard" in done_steps(plan, (StepDone(step="hang:guard"),))


def test_nothing_is_tightened_before_a_piece_without_screws_hangs(choosing: Job) -> None:
    job = with_pieces(choosing, guard(z_mm=380.0))
    steps = {s.key: s for s in plan_of(job, KEY).steps}
    first = min((s for s in steps.values() if s.key.startswith("half:")), key=lambda s: s.number)
    assert "hang:guard" in first.after


def in_sets(job: Job, **sets: str) -> Job:
    for key, name in sets.items():
        job = set_text(job, f"candidates.{KEY}.joints.{key}.hole_set", name).job
    return job


def test_sets_of_holes_are_chosen_and_leave_the_others_out(choosing: Job) -> None:
    job = replace(choosing, picked="", weighing=KEY)
    keys = [j.key for j in job.candidate(KEY).joints]
    job = in_sets(job, **{keys[0]: "wide", keys[1]: "wide", keys[2]: "narrow", keys[3]: "narrow"})
    judged = pieces_judged(job, KEY, reaches)
    assert {f.code for f in judged.findings} == {"hole set not chosen"}
    assert len(job.candidate(KEY).joints) == len(keys), "until one is chosen all are there"
    assert judged.best in ("wide", "narrow")
    worst = {s.name: s.worst.value for s in judged.sets}
    other = "narrow" if judged.best == "wide" else "wide"
    assert worst[judged.best] is not None
    assert worst[other] is None or worst[judged.best] < worst[other]
    taken = choose_hole_set(job, KEY, "wide").job
    assert [j.key for j in taken.candidate(KEY).joints] == [k for k in keys if k not in keys[2:4]]
    assert pieces_judged(taken, KEY, reaches).findings == ()
    assert {s.name for s in pieces_judged(taken, KEY, reaches).sets} == {"wide", "narrow"}
    back = choose_hole_set(taken, KEY, "").job
    assert back.as_entered(KEY) == job.as_entered(KEY)
    with pytest.raises(InputError, match="hole_set"):
        choose_hole_set(job, KEY, "wider")
    gone = remove_joint(remove_joint(taken, KEY, keys[0]).job, KEY, keys[1]).job
    assert len(gone.candidate(KEY).joints) == len(keys) - 2, "a set without joints is no choice"


def test_a_chosen_set_that_this_bike_has_not_is_no_choice(choosing: Job) -> None:
    """Its joints are for another year: the others are not left out for it, and it is said."""
    job = replace(choosing, picked="", weighing=KEY)
    keys = [j.key for j in job.candidate(KEY).joints]
    job = in_sets(job, **{keys[0]: "old", keys[1]: "new", keys[2]: "newer"})
    job = set_text(job, f"candidates.{KEY}.joints.{keys[0]}.when", "year 2090").job
    job = choose_hole_set(job, KEY, "old").job
    assert [j.key for j in job.candidate(KEY).joints] == keys[1:]
    judged = pieces_judged(job, KEY, reaches)
    assert judged.chosen == ""
    assert [f.code for f in judged.findings] == ["hole set not chosen"]


def test_a_set_that_no_tool_reaches_is_not_the_best(choosing: Job) -> None:
    job = replace(choosing, picked="", weighing=KEY)
    keys = [j.key for j in job.candidate(KEY).joints]
    job = in_sets(job, **{keys[0]: "a", keys[1]: "a", keys[2]: "b", keys[3]: "b"})
    first = pieces_judged(job, KEY, reaches)
    assert all(s.reach_not_known for s in first.sets), "no room was entered yet"
    hard = next(s for s in first.sets if s.name == first.best)
    for j in job.candidate(KEY).joints:
        if j.number in hard.joints:
            job = set_text(job, f"candidates.{KEY}.joints.{j.key}.room_mm", "3").job
    judged = pieces_judged(job, KEY, reaches)
    assert judged.best != first.best
    assert "would hold better" in judged.why
    chosen = choose_hole_set(job, KEY, first.best).job
    found = pieces_judged(chosen, KEY, reaches).findings
    assert [f.code for f in found] == ["tool does not get in"]
