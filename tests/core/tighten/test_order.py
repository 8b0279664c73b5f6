"""Orders of the final torques: schools, chosen ones, what stages say against them."""

from __future__ import annotations

from dataclasses import replace

from hypothesis import given, settings
from hypothesis import strategies as st

from rugged_shield.core.tighten.order import PlanJoint, against_order, chosen_sequence, schools_of
from rugged_shield.core.tighten.plan import make_plan
from tests.core.tighten.test_plan_and_started import joint, joint_sets, place


def ranked(joints: tuple[PlanJoint, ...], keys: tuple[str, ...]) -> tuple[PlanJoint, ...]:
    """The joints with an order chosen for those named."""
    at = {key: i for i, key in enumerate(keys)}
    return tuple(replace(j, rank=at.get(j.key)) for j in joints)


@settings(max_examples=60, deadline=None)
@given(joint_sets(), st.randoms(use_true_random=False))
def test_a_chosen_order_is_followed_and_started_before(
    joints: tuple[PlanJoint, ...], chance: object
) -> None:
    """Whatever order is chosen: each joint once; bench, and what is covered, before the plate."""
    keys = [j.key for j in joints]
    chance.shuffle(keys)  # type: ignore[attr-defined]
    plan = make_plan(ranked(joints, tuple(keys)))
    of = {j.key: j for j in joints}
    early = sorted((k for k in keys if of[k].turn <= 1), key=lambda k: of[k].turn)
    late = [k for k in keys if of[k].turn > 1]
    assert list(plan.joint_order) == early + late
    at = place(plan)
    for step in plan.steps:
        assert all(at[before] < step.number for before in step.after)
    if late:
        first = min(at[f"full:{k}"] for k in late)
        assert all(at[f"start:{k}"] < first for k in late)


@settings(max_examples=60, deadline=None)
@given(joint_sets())
def test_the_order_worked_out_has_nothing_against_it(joints: tuple[PlanJoint, ...]) -> None:
    assert against_order(chosen_sequence(joints)) == ()
    assert set(make_plan(joints).reasons) == {j.key for j in joints}


def test_who_comes_too_early_is_named_with_the_reason() -> None:
    joints = (joint(1, stage="locate"), joint(2, stage="pull up"), joint(3, stage="front"))
    words = against_order((joints[2], joints[0], joints[1]))
    assert words == (
        "Joint 3 comes before joint 1 (points that locate the plate): it locates the plate, and "
        "the rest follows it.",
        "Joint 3 comes before joint 2 (points that draw it home): it draws the plate home while "
        "stiff points are loose.",
    )
    assert against_order(joints) == ()
    held = (replace(joints[2], held_loose=True), joints[0], joints[1])
    assert against_order(held) == (), "what is held loose is last anyway"


def test_mixed_stages_share_their_passes() -> None:
    """Front, rear, front: half of all before the first full torque."""
    joints = (joint(1, stage="stiff"), joint(2, stage="locate"), joint(3, stage="stiff"))
    plan = make_plan(ranked(joints, ("j1", "j2", "j3")))
    at = place(plan)
    assert max(at[f"half:{k}"] for k in ("j1", "j2", "j3")) < min(
        at[f"full:{k}"] for k in ("j1", "j2", "j3")
    )


def test_a_joint_that_the_order_does_not_name_follows_its_own_stage() -> None:
    joints = (
        joint(1, stage="locate"),
        joint(2, stage="stiff"),
        joint(3, stage="locate"),
        joint(4, stage="front"),
    )
    order = make_plan(ranked(joints, ("j1", "j2", "j4"))).joint_order
    assert order == ("j1", "j3", "j2", "j4")


def test_schools_by_their_names() -> None:
    """A plate of five: front edge at 0, rear at 400 mm, joint 3 has the middle's longest screw."""
    joints = tuple(
        replace(joint(n, x=x, y=0, stage="stiff"), screw_mm=mm)
        for n, x, mm in ((1, 0, 80.0), (2, 100, 20.0), (3, 200, 60.0), (4, 300, 25.0), (5, 400, 20))
    )
    schools = {s.key: s for s in schools_of(joints)}
    assert schools["computed"].order == ()
    assert schools["front"].order == ("j1", "j2", "j3", "j4", "j5")
    assert schools["rear"].order == ("j5", "j4", "j3", "j2", "j1")
    assert schools["middle"].order == ("j3", "j2", "j4", "j1", "j5")
    pivot = schools["pivot"]
    assert pivot.order == schools["rear"].order
    assert pivot.starts == schools["front"].order
    starts = {key: i for i, key in enumerate(pivot.starts)}
    hinged = tuple(replace(j, start_rank=starts[j.key]) for j in ranked(joints, pivot.order))
    plan = make_plan(hinged)
    assert [s.joint for s in plan.steps if s.kind == "start"] == list(pivot.starts)
    assert list(plan.joint_order) == list(pivot.order)
    assert schools_of(()) == ()


@settings(max_examples=40, deadline=None)
@given(joint_sets())
def test_every_order_of_every_school_is_lawful(joints: tuple[PlanJoint, ...]) -> None:
    """Each joint torqued once, started before, after what its step names; the bench first."""
    for school in schools_of(joints):
        starts = {key: i for i, key in enumerate(school.starts)}
        led = tuple(replace(j, start_rank=starts.get(j.key)) for j in ranked(joints, school.order))
        plan = make_plan(led)
        at = place(plan)
        assert sorted(plan.joint_order) == sorted(j.key for j in joints), school.key
        for step in plan.steps:
            assert all(at[before] < step.number for before in step.after), school.key
        late = [j.key for j in joints if j.turn > 1]
        torqued = [at[f"full:{key}"] for key in late]
        assert all(at[f"start:{key}"] < min(torqued) for key in late), school.key
