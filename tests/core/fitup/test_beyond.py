"""A nut beyond the first thread: one screw, two engagements, each with its own treatment."""

from __future__ import annotations

from dataclasses import replace

import pytest

from rugged_shield.core.assess.fitup.joints import assess_joint, section_of, stack_words
from rugged_shield.core.assess.kit.carry import carry_of
from rugged_shield.core.assess.kit.tools import tools_of
from rugged_shield.core.assess.tighten.cards import far_cards
from rugged_shield.core.assess.tighten.draw_home import draw_home
from rugged_shield.core.assess.tighten.plan import done_steps, plan_for
from rugged_shield.core.errors import InputError
from rugged_shield.core.event import PlateRecord
from rugged_shield.core.fitup.engagement import Engagement, Nut
from rugged_shield.core.fitup.joint import Joint, as_built
from rugged_shield.core.fitup.layer import Layer
from rugged_shield.core.job.model import Job, MountedJoint, mounted
from rugged_shield.core.mechanics.female import Female
from rugged_shield.core.mechanics.threads import is_inch, row_of
from rugged_shield.core.tables.threads import THREADS
from rugged_shield.core.tighten.curing import far_nut_clocks
from rugged_shield.core.tighten.events import Reading, Started, StepDone, TakenBack
from rugged_shield.core.tighten.torque import WrenchTool

PLATE = Layer(
    key="plate", kind="plate", name="plate", material="aluminium 5052-H32", thickness_mm=5.0
)
BRACKET = Female(
    kind="through_tapped",
    thread_start_mm=0.0,
    thread_end_mm=10.0,
    overall_height_mm=10.0,
    free_space_mm=30.0,
)
FAR = Engagement(key="far", treatment="anti-seize", torque_nm=20.0)
WRENCH = WrenchTool("click wrench", 60.0, 400.0)


def joint(*far: Engagement, **more: object) -> Joint:
    """A screw through a plate of 5 mm, threaded through a steel bracket of 10 mm."""
    made = Joint(
        key="j1",
        number=1,
        name="brace",
        mount="",
        thread="M8",
        head="ISO 4762",
        grade="8.8",
        layers=(PLATE,),
        stage="stiff",
        treatment="medium locker",
        female=BRACKET,
        female_material="S235 steel",
        thread_owner="kit",
        sheet_torque_nm=20.0,
        x_mm=600.0,
        y_mm=0.0,
        beyond=far,
    )
    return replace(made, **more)  # type: ignore[arg-type]


def codes(it: Joint) -> set[str]:
    return {f.code for f in assess_joint(it, None).findings}


def test_lengths_suit_both_threads() -> None:
    """By hand: 5.1 + 8 + 1.25 = 14.35 for the bracket alone; with washer and ISO 4032 behind it
    5.1 + 10 + 1.8 + 6.8 + 1.25 = 24.95, which 25 ± 0.42 does not reach."""
    alone, both = assess_joint(joint(), None), assess_joint(joint(FAR), None)
    assert alone.stack.result.length_needed_min_mm == pytest.approx(14.35)
    assert alone.stack.result.chosen_length_mm == 16.0
    assert both.stack.result.length_needed_min_mm == pytest.approx(24.95)
    assert both.stack.result.chosen_length_mm == 30.0
    assert both.verdict == "sound"
    assert both.length_mm == 30.0


def test_a_screw_that_only_the_bracket_likes_is_too_short() -> None:
    found = assess_joint(joint(FAR, length_mm=20.0), None)
    assert found.evaluation.issues == ()
    assert found.verdict == "blocked"
    assert {"too short", "wrong screw in hand"} <= {f.code for f in found.findings}
    verdicts = {m.length_mm: m.verdict for m in found.lengths}
    assert verdicts[20.0] == "too short"
    assert all(not (s.start_mm <= 20.0 <= s.end_mm) for s in found.shaded_mm)


def test_room_beyond_is_what_the_bracket_leaves_or_as_measured() -> None:
    """30 mm less washer and nut leave 21.78 mm, give or take 1: 16.3 + 6.44 + 20.78 − 1."""
    derived = assess_joint(joint(FAR), None).stack.result
    assert derived.length_allowed_max_mm == pytest.approx(42.52)
    tight = assess_joint(joint(replace(FAR, free_space_mm=2.0), length_mm=30.0), None)
    assert "hits neighbour" in {f.code for f in tight.findings}


def test_locker_and_anti_seize_on_one_screw_but_none_under_a_locking_nut() -> None:
    assert codes(joint(FAR)) == set()
    eaten = replace(FAR, nut="ISO 7040", treatment="medium locker")
    assert "locker on a locking nut" in codes(joint(eaten))
    assert "locker on a locking nut" not in codes(joint(replace(eaten, treatment="anti-seize")))


def test_nothing_lies_beyond_a_blind_thread() -> None:
    blind = replace(BRACKET, kind="blind_tapped", free_space_mm=None, overall_height_mm=22.0)
    blind = replace(blind, thread_end_mm=18.0)
    assert codes(joint(FAR, female=blind)) == {"nothing beyond a blind thread"}


def test_a_second_plate_between_makes_the_screw_longer() -> None:
    plain = assess_joint(joint(FAR), None).stack.result.length_needed_min_mm
    stud = replace(FAR, between="second plate", between_mm=4.0, between_tol_mm=0.1)
    more = assess_joint(joint(stud), None)
    assert plain is not None
    assert more.stack.result.length_needed_min_mm == pytest.approx(plain + 4.1)
    words = stack_words(more)
    assert words[-3].startswith("second plate")
    assert words[-1] == "far nut, ISO 4032"


def test_the_nut_has_its_own_torque_by_its_own_treatment() -> None:
    ((_, card),) = far_cards(joint(FAR), None, WRENCH)
    assert card.result.turned == "turn the nut, hold the head"
    slick = card.result
    ((_, dry),) = far_cards(joint(replace(FAR, treatment="dry zinc")), None, WRENCH)
    assert slick.target_nm < dry.result.target_nm <= 20.0


def test_the_section_draws_the_nut_where_it_sits() -> None:
    """Grip 5, bracket 10, washer 1.6: the nut's face is at 16.6 mm, its end at 23.22."""
    drawing = section_of(assess_joint(joint(FAR), None), None)
    ends = {round(x, 2) for path in drawing.paths if path.ref == "female" for x, _ in path.points}
    assert {5.0, 15.0, 16.6, 23.22} <= ends
    labels = {d.label for d in drawing.dimensions}
    assert {"thread held, far nut", "stands out, far nut"} <= labels


def test_the_plan_tightens_it_after_its_screw_and_again_when_the_screw_was_turned() -> None:
    made = joint(FAR)
    plan = plan_for((MountedJoint(made, None, 600.0, 0.0),), WRENCH)
    at = {s.key: s for s in plan.steps}
    step = at["far:j1:far"]
    assert at["full:j1"].number < step.number < at["verify:j1"].number
    assert step.torque_nm is not None
    assert "anti-seize" in step.treatment.lower()
    built = as_built(made)

    def done(*events: object) -> bool:
        lines = tuple(replace(e, seq=i, plate="p") for i, e in enumerate(events, 1))  # type: ignore[type-var]
        return "far:j1:far" in done_steps(plan, PlateRecord(lines))

    start, read = Started(joint="j1"), Reading(joint="j1", torque_nm=19.0, as_built=built)
    tick = StepDone(step="far:j1:far")
    assert done(start, read, tick)
    assert not done(start, tick), "its screw is not torqued"
    assert not done(start, read, tick, TakenBack(joint="j1", ref=2))
    assert not done(start, read, tick, TakenBack(joint="j1", ref=2), read)
    assert not done(start, read, tick, read), "the screw was turned since"
    assert done(start, read, tick, read, tick)


def test_locker_under_a_far_nut_cures_from_its_own_tightening() -> None:
    line = replace(StepDone(step="far:j1:far"), seq=1, plate="p", at="2026-05-01T10:00:00+00:00")
    (clock,) = far_nut_clocks(PlateRecord((line,)), {"far:j1:far": ("j1", 1)}, 20.0)
    assert clock.kind == "cure"
    assert clock.since == line.at
    assert clock.until > line.at
    assert far_nut_clocks(PlateRecord(()), {"far:j1:far": ("j1", 1)}, 20.0) == ()


@pytest.mark.parametrize(
    ("gap", "code"),
    [
        (None, "passage not known"),
        (1.0, "touches what it passes"),
        (6.0, "passes close to something hot"),
        (12.0, None),
    ],
)
def test_a_screw_beside_something_hot(gap: float | None, code: str | None) -> None:
    assert codes(joint(passes="catalyst", passes_gap_mm=gap)) == ({code} if code else set())


def test_located_and_not_clamped_keeps_its_play() -> None:
    """A bushing of 5.3 in a plate of 5.0 lets it move; one of 5.0 ± 0.1 may pinch it."""
    assert codes(joint(floats=True)) == {"pinched, must keep its play"}
    bush = Layer(
        key="bush", kind="sleeve", name="bushing", material="steel", thickness_mm=5.3, hole_mm=8.4
    )
    assert codes(joint(floats=True, layers=(PLATE, bush))) == set()
    short = replace(bush, thickness_mm=5.0)
    assert "pinched, must keep its play" in codes(joint(floats=True, layers=(PLATE, short)))


def test_a_located_plate_is_not_drawn_home_there(choosing: Job) -> None:
    """Its play takes the gap: it asks for none, and no stack of it sets how the plate hangs."""
    candidate = choosing.in_hand
    loose = tuple(replace(j, floats=j.number == 1) for j in candidate.joints)
    joints = mounted(choosing.bike, replace(candidate, joints=loose))
    asked = {gap.number for gap in draw_home(candidate.plate, joints, choosing.wrench).gaps}
    assert 1 not in asked
    assert 2 in asked


def test_tools_and_bottles_of_a_far_nut_are_asked_for(choosing: Job) -> None:
    """13 mm for an M8 nut, and its own anti-seize beside the screw's locker."""
    candidate = choosing.in_hand
    first = candidate.joints[0]
    through = replace(first, female=BRACKET, female_material="S235 steel", beyond=(FAR,))
    changed = replace(candidate, joints=(through, *candidate.joints[1:]))
    job = choosing.with_candidate(changed)
    found = tools_of(job)
    assert [t.joint for t in found.by_joint if t.is_far] == [first.number]
    assert any(t.tool == "anti-seize" and first.number in t.joints for t in found.needed)


def test_what_cannot_be_is_refused() -> None:
    with pytest.raises(InputError, match="nut"):
        Engagement(key="far", nut="")
    with pytest.raises(InputError, match="beyond"):
        joint(FAR, FAR)
    with pytest.raises(InputError, match="between_mm"):
        replace(FAR, between_mm=0.05)
    with pytest.raises(InputError, match=r"beyond\.far\.nut"):
        joint(replace(FAR, nut="ASME B18.2.2"))


@pytest.mark.parametrize("nut", ["ISO 4032", "ISO 7040", "ISO 7042", "ASME B18.2.2"])
@pytest.mark.parametrize("thread", list(THREADS))
def test_what_is_taken_can_be_judged_and_the_rest_is_refused_at_once(thread: str, nut: Nut) -> None:
    """No far nut is kept that a later look would fail at."""
    hole = row_of(thread).d_mm + 0.5
    layers = (replace(PLATE, hole_mm=hole, outer_mm=hole + 20.0),)
    head = "ASME B18.2.1" if is_inch(thread) else "ISO 4017"
    try:
        it = joint(replace(FAR, nut=nut), thread=thread, head=head, layers=layers)
    except InputError:
        return
    assert assess_joint(it, None).far
    assert far_cards(it, None, WRENCH)


def test_no_screw_has_an_end_beyond_a_very_thick_part() -> None:
    thick = replace(BRACKET, overall_height_mm=150.0, thread_end_mm=150.0)
    found = assess_joint(joint(FAR, female=thick), None)
    assert found.far == ()
    assert found.verdict == "blocked"
    unsure = replace(BRACKET, overall_height_tol_mm=6.0)
    assert assess_joint(joint(FAR, female=unsure), None).verdict == "blocked"


def test_the_roll_has_what_lies_loose_under_any_one_joint(choosing: Job) -> None:
    """So many of each as the joint with most of them: they are lost one joint at a time."""
    carried = {p.what: p for p in carry_of(choosing).loose}
    joints = mounted(choosing.bike, choosing.in_hand)
    washers = {
        at.joint.number: sum(layer.kind == "washer" for layer in at.joint.present())
        for at in joints
    }
    most = max(washers.values())
    assert most > 0
    assert max(p.count for what, p in carried.items() if "washer" in what) == most
    for at in joints:
        for layer in at.joint.present():
            if layer.kind in ("washer", "spacer"):
                assert any(at.joint.number in p.joints for p in carried.values())
    first = choosing.in_hand.joints[0]
    through = replace(first, female=BRACKET, female_material="S235 steel", beyond=(FAR,))
    changed = replace(choosing.in_hand, joints=(through, *choosing.in_hand.joints[1:]))
    nuts = [p for p in carry_of(choosing.with_candidate(changed)).loose if "nut" in p.what]
    assert [(p.what, p.joints) for p in nuts] == [
        (f"nut ISO 4032, {first.thread}", (first.number,))
    ]
