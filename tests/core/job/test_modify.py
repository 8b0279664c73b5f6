"""Changes of a plate: what they cost agrees with the flat sheet, and they go as they came."""

from __future__ import annotations

import math
from dataclasses import replace
from functools import cache

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from shapely import Polygon

from rugged_shield.core.amounts import in_system
from rugged_shield.core.assess.tighten.commands import change_to_tick
from rugged_shield.core.assess.tighten.plan import done_steps, plan_of
from rugged_shield.core.assess.weighup.scorecard import weigh
from rugged_shield.core.errors import InputError
from rugged_shield.core.event import of_plate
from rugged_shield.core.fitup.layer import Layer
from rugged_shield.core.fitup.modification import change_words
from rugged_shield.core.job.edits.asked import Modify
from rugged_shield.core.job.edits.modify import modify, tick_change, unmake
from rugged_shield.core.job.edits.reshape import with_sides_changed
from rugged_shield.core.job.model import Job
from rugged_shield.core.mechanics.frames import dot
from rugged_shield.core.survey.flat import flat_pattern
from rugged_shield.core.survey.geometry import fold
from rugged_shield.core.survey.plate import Cutout, Piece
from rugged_shield.core.tighten.events import StepDone
from tests.conftest import demo_file

CORNER = ((150.0, 247.0), (82.0, 163.0))
"""A line across the front corner of the right wing in the flat."""


def made(job: Job, **asked: object) -> Job:
    return modify(job, job.in_hand.key, Modify(**asked)).job  # type: ignore[arg-type]


def flat_area(job: Job) -> float:
    """Of the flat pattern as it is cut: outlines less openings, mm²."""
    panels = flat_pattern(job.in_hand.plate).panels
    return sum(
        Polygon(p.outline_mm).area - sum(Polygon(r).area for _, r in p.cutouts_mm) for p in panels
    )


def test_a_corner_cut_off_is_off_the_flat_the_fold_and_the_scale(choosing: Job) -> None:
    cut = made(choosing, kind="trim", points_mm=CORNER)
    off = flat_area(choosing) - flat_area(cut)
    assert off > 100.0
    before, after = fold(choosing.in_hand.plate), fold(cut.in_hand.plate)
    assert before.area_mm2 - after.area_mm2 == pytest.approx(off, rel=1e-9)
    assert before.sheet_mass_kg > after.sheet_mass_kg
    [change] = cut.in_hand.changes
    assert change.area_mm2 == pytest.approx(off)
    assert change.where == "wing right"


@settings(max_examples=25, deadline=None)
@given(x=st.floats(80.0, 200.0), y=st.floats(160.0, 245.0))
def test_area_and_mass_of_a_trim_agree_with_its_flat_pattern(
    choosing: Job, x: float, y: float
) -> None:
    try:
        cut = made(choosing, kind="trim", points_mm=((x, 260.0), (70.0, y)))
    except InputError:
        assume(False)  # a line that misses the wing or runs through a screw
    mass = fold(choosing.in_hand.plate).sheet_mass_kg - fold(cut.in_hand.plate).sheet_mass_kg
    plate = choosing.in_hand.plate
    off = flat_area(choosing) - flat_area(cut)
    assert mass == pytest.approx(off * plate.thickness_mm * 2680e-9, rel=1e-6)


@pytest.mark.parametrize(
    ("asked", "field"),
    [
        ({"kind": "trim", "points_mm": ((0.0, 0.0),)}, "points_mm"),
        ({"kind": "trim", "points_mm": ((900.0, 900.0), (910.0, 910.0))}, "points_mm"),
        ({"kind": "trim", "points_mm": ((60.0, 200.0), (60.0, -200.0))}, "points_mm"),
        ({"kind": "hole", "points_mm": ((100.0, 0.0),)}, "wide_mm"),
        ({"kind": "hole", "points_mm": ((900.0, 0.0),), "wide_mm": 8.0}, "points_mm"),
        ({"kind": "slot", "points_mm": ((300.0, 0.0),), "wide_mm": 9, "long_mm": 5}, "long_mm"),
        ({"kind": "vent field", "panel": "roof", "wide_mm": 8, "pitch_mm": 20}, "panel"),
        ({"kind": "spacer", "thick_mm": 3.0}, "joints"),
        ({"kind": "bend"}, "panel"),
        ({"kind": "bend", "panel": "roof", "turn_deg": 5.0}, "panel"),
        ({"kind": "bend", "panel": "apron"}, "turn_deg"),
        ({"kind": "bend", "panel": "apron", "turn_deg": 0.0}, "turn_deg"),
        ({"kind": "bend", "panel": "apron", "turn_deg": 60.0}, "rise_deg"),
        ({"kind": "other side", "panel": "wing left"}, "panel"),
        ({"kind": "sleeve cut", "thick_mm": 3.0, "joints": ("a1",)}, "joints"),
    ],
)
def test_what_cannot_be_done_is_refused_by_name(
    choosing: Job, asked: dict[str, object], field: str
) -> None:
    with pytest.raises(InputError) as refused:
        made(choosing, **asked)
    assert field in refused.value.field


def test_a_cut_through_a_screws_place_is_refused(choosing: Job) -> None:
    with pytest.raises(InputError, match="joint 1"):
        made(
            choosing,
            kind="trim",
            points_mm=((40.0, -140.0), (40.0, 0.0), (0.0, 0.0), (0.0, -140.0)),
        )


def test_vents_keep_clear_and_take_their_area(choosing: Job) -> None:
    job = made(choosing, kind="vent field", panel="belly", wide_mm=10.0, pitch_mm=30.0)
    [change] = job.in_hand.changes
    assert change.count > 10
    off = fold(choosing.in_hand.plate).area_mm2 - fold(job.in_hand.plate).area_mm2
    assert off == pytest.approx(change.area_mm2, rel=0.003), "circles of 64 corners"


def test_a_spacer_lowers_the_plate_and_asks_for_other_screws(choosing: Job) -> None:
    keys = tuple(j.key for j in choosing.in_hand.joints)
    job = made(choosing, kind="spacer", thick_mm=10.0, joints=keys)
    plate = job.in_hand.key
    lost = weigh(choosing, plate).figures["clearance"].value or 0.0
    left = weigh(job, plate).figures["clearance"].value or 0.0
    assert lost - left > 3.0
    assert "joints 1, 2, 3, 4, 5, 6" in change_words(job.in_hand.changes[0])


@pytest.mark.parametrize(
    "asked",
    [
        {"kind": "trim", "points_mm": CORNER},
        {"kind": "hole", "points_mm": ((250.0, 0.0),), "wide_mm": 20.0},
        {"kind": "slot", "points_mm": ((300.0, 40.0),), "wide_mm": 9.0, "long_mm": 25.0},
        {"kind": "vent field", "panel": "belly", "wide_mm": 10.0, "pitch_mm": 40.0},
        {"kind": "neighbour trimmed", "what": "5 mm off the mudguard's edge"},
        {"kind": "bend", "panel": "wing left", "turn_deg": -6.0},
        {"kind": "bend", "panel": "tail", "turn_deg": 4.0},
        {"kind": "bend", "what": "the tab of the left bracket"},
    ],
)
def test_a_change_goes_as_it_came(choosing: Job, asked: dict[str, object]) -> None:
    job = made(choosing, **asked)
    [change] = job.in_hand.changes
    step = f"change:{change.key}"
    steps = [s.key for s in plan_of(job, job.in_hand.key).steps]
    assert steps.index("clean") < steps.index(step) < steps.index("hang")
    done = tick_change(job, job.in_hand.key, change.key, True).job
    plan = plan_of(done, done.in_hand.key)
    assert step in {s.key for s in plan.steps}
    assert step in done_steps(plan, of_plate((), done.in_hand.key)), "it is done"
    with pytest.raises(InputError, match="cut or bent"):
        unmake(done, job.in_hand.key, change.key)
    back = unmake(job, job.in_hand.key, change.key).job
    was, now = choosing.in_hand, back.in_hand
    assert now.changes == ()
    assert now.plate == was.plate
    assert now.joints == was.joints


def test_mass_is_right_whichever_of_two_cuts_is_taken_back_first(choosing: Job) -> None:
    def mass(job: Job) -> float:
        return weigh(job, job.in_hand.key).figures["mass"].value or 0.0

    hole = {"kind": "hole", "points_mm": ((250.0, 0.0),), "wide_mm": 20.0}
    one = made(choosing, **hole)
    two = made(one, kind="trim", points_mm=CORNER)
    first, second = (c.key for c in two.in_hand.changes)
    assert mass(two) < mass(one) < mass(choosing)
    assert two.in_hand.plate.claimed_mass_kg is None, "the sheet spoke of the uncut plate"
    left = unmake(two, two.in_hand.key, first).job
    assert mass(left) == pytest.approx(mass(made(choosing, kind="trim", points_mm=CORNER)))
    whole = unmake(left, left.in_hand.key, second).job
    assert whole.in_hand.plate == choosing.in_hand.plate


def test_a_trim_names_what_lies_behind_what_comes_off(choosing: Job) -> None:
    sump = next(p for p in choosing.bike.parts if p.key == "sump")
    beside = replace(sump, key="canister", name="fuel canister", y_min_mm=150, y_max_mm=240)
    job = replace(choosing, bike=replace(choosing.bike, parts=(*choosing.bike.parts, beside)))
    cut = made(job, kind="trim", points_mm=((150.0, 280.0), (60.0, 163.0)))
    assert "fuel canister" in cut.in_hand.changes[0].near, "though both taps lie off the plate"


def test_what_lies_behind_a_cut_is_named_in_its_caution(choosing: Job) -> None:
    job = made(choosing, kind="hole", points_mm=((250.0, 0.0),), wide_mm=8.0)
    assert job.in_hand.changes[0].near
    step = next(s for s in plan_of(job, job.in_hand.key).steps if s.key.startswith("change:"))
    assert "Never on the bike here" in step.caution
    assert replace(job.in_hand.changes[0], near=()) != job.in_hand.changes[0]


def test_a_spacer_taken_back_brings_the_chosen_screw_back(choosing: Job) -> None:
    """What was chosen for the thicker stack goes with it; another spacer's joint keeps its own."""
    was = choosing.in_hand
    first, second = (j.key for j in was.joints[:2])
    one = made(choosing, kind="spacer", thick_mm=10.0, joints=(first,))
    two = made(one, kind="spacer", thick_mm=5.0, joints=(second,))
    longer = with_length(two, first, 60.0)
    back = unmake(longer, longer.in_hand.key, two.in_hand.changes[0].key).job
    lengths = {j.key: j.length_mm for j in back.in_hand.joints}
    assert lengths[first] == next(j.length_mm for j in was.joints if j.key == first)
    assert lengths[second] is None
    done = tick_change(back, back.in_hand.key, back.in_hand.changes[0].key, True).job
    whole = unmake(done, done.in_hand.key, done.in_hand.changes[0].key).job
    assert whole.in_hand.joints == was.joints, "a spacer comes out again, fitted or not"


def with_length(job: Job, key: str, length_mm: float) -> Job:
    candidate = job.in_hand
    joints = tuple(replace(j, length_mm=length_mm) if j.key == key else j for j in candidate.joints)
    return job.with_candidate(replace(candidate, joints=joints))


def test_a_bend_turns_its_panel_and_nothing_else(choosing: Job) -> None:
    """The wing's upper edge moves on a circle about its fold; the flat sheet stays the same."""
    job = made(choosing, kind="bend", panel="wing left", turn_deg=-7.0)
    before, after = (fold(j.in_hand.plate) for j in (choosing, job))
    assert after.area_mm2 == pytest.approx(before.area_mm2)
    was, now = before.panel("wing left"), after.panel("wing left")
    assert was is not None
    assert now is not None
    assert now.origin == was.origin
    assert math.degrees(math.acos(dot(was.v, now.v))) == pytest.approx(7.0)
    assert now.v[2] < was.v[2]
    corners = [f.panel("wing right").corners() for f in (before, after)]  # type: ignore[union-attr]
    assert corners[0] == corners[1]
    assert "wing left down by 7" in in_system(change_words(job.in_hand.changes[0]))
    tail = made(choosing, kind="bend", panel="tail", turn_deg=4.0)
    was, now = before.panel("tail"), fold(tail.in_hand.plate).panel("tail")
    assert was is not None
    assert now is not None
    assert math.degrees(math.acos(dot(was.u, now.u))) == pytest.approx(4.0)


def test_what_was_set_since_stays_when_a_bend_is_taken_back(choosing: Job) -> None:
    job = made(choosing, kind="bend", panel="apron", turn_deg=-3.0)
    plate = job.in_hand.plate
    assert plate.apron is not None
    measured = replace(plate, apron=replace(plate.apron, rise_deg=41.0))
    job = job.with_candidate(replace(job.in_hand, plate=measured))
    back = unmake(job, job.in_hand.key, job.in_hand.changes[0].key).job
    assert back.in_hand.plate == measured


def test_a_bend_of_a_panel_that_is_gone_is_taken_back_all_the_same(choosing: Job) -> None:
    job = made(choosing, kind="bend", panel="tail", turn_deg=4.0)
    bare = replace(job.in_hand.plate, tail=None)
    job = job.with_candidate(replace(job.in_hand, plate=bare))
    back = unmake(job, job.in_hand.key, job.in_hand.changes[0].key).job
    assert back.in_hand.changes == ()
    assert back.in_hand.plate == bare


def test_a_tick_of_a_change_in_an_earlier_record_still_counts(choosing: Job) -> None:
    """It was told to the record then: the record opens it again, the fact takes the next tick."""
    job = made(choosing, kind="bend", panel="tail", turn_deg=4.0)
    plate, step = job.in_hand.key, f"change:{job.in_hand.changes[0].key}"
    told = of_plate(
        (StepDone(seq=1, at="2026-01-01T00:00:00+00:00", plate=plate, step=step),), plate
    )
    assert step in done_steps(plan_of(job, plate), told)
    assert change_to_tick(job, step, done=False) == ""
    assert change_to_tick(job, step, done=True) == job.in_hand.changes[0].key
    ticked = tick_change(job, plate, job.in_hand.changes[0].key, True).job
    assert change_to_tick(ticked, step, done=False) == job.in_hand.changes[0].key


def test_a_sleeve_is_only_cut_shorter(choosing: Job) -> None:
    joint = choosing.in_hand.joints[0]
    sleeve = Layer(key="tube", kind="sleeve", name="sleeve", material="steel", thickness_mm=8.0)
    sleeved = replace(joint, layers=(*joint.layers, sleeve))
    rest = choosing.in_hand.joints[1:]
    job = choosing.with_candidate(replace(choosing.in_hand, joints=(sleeved, *rest)))
    cut = made(job, kind="sleeve cut", thick_mm=5.5, joints=(joint.key,))
    assert cut.in_hand.joints[0].layers[-1].thickness_mm == 5.5
    back = unmake(cut, cut.in_hand.key, cut.in_hand.changes[0].key).job
    assert back.in_hand.joints == job.in_hand.joints
    with pytest.raises(InputError, match="no longer than that"):
        made(job, kind="sleeve cut", thick_mm=9.0, joints=(joint.key,))
    bare = cut.in_hand
    gone = cut.with_candidate(replace(bare, joints=(joint, *rest)))
    assert unmake(gone, bare.key, bare.changes[0].key).job.in_hand.joints == (joint, *rest)


@settings(max_examples=25, deadline=None)
@given(
    y=st.floats(-150, 150),
    roll_or_bends=st.one_of(
        st.tuples(st.floats(-60, 60), st.just(0.0), st.just(0.0)),
        st.tuples(st.just(0.0), st.floats(-90, 90), st.floats(-90, 90)),
    ),
    at=st.tuples(st.floats(20, 80), st.floats(-20, 20)),
)
def test_a_piece_on_the_other_side_is_mirrored(
    y: float, roll_or_bends: tuple[float, float, float], at: tuple[float, float]
) -> None:
    """Areas and middles along the bike stay, the middles across change sides; twice is back.

    A piece that leans and is bent is no mirror image of itself turned over: that is left out.
    """
    roll, left, front = roll_or_bends
    guard = Piece(
        key="guard",
        name="clutch guard",
        order=1,
        x_mm=600.0,
        y_mm=y,
        z_mm=700.0,
        length_mm=100.0,
        front_width_mm=80.0,
        rear_width_mm=60.0,
        roll_deg=roll,
        left_bend_mm=40.0,
        left_bend_angle_deg=left,
        front_bend_mm=25.0,
        front_bend_angle_deg=front,
    )
    job = demo_job()
    plate = replace(
        job.in_hand.plate,
        pieces=(guard,),
        cutouts=(
            *job.in_hand.plate.cutouts,
            hole("in-it", "guard", *at),
            hole("in-front", "guard front", 20.0, 12.0),
            hole("at-side", "guard left", 30.0, 15.0),
        ),
    )
    job = job.with_candidate(replace(job.in_hand, plate=plate))
    there = made(job, kind="other side", panel="guard")
    assert there.in_hand.plate.pieces[0].right_bend_mm == 40.0
    was, now = (own_centres(j) for j in (job, there))
    for (x, across, area), middle in zip(was, now, strict=True):
        assert middle == pytest.approx((x, -across, area), abs=1e-6)
    back = unmake(there, there.in_hand.key, there.in_hand.changes[0].key).job
    left = fold(back.in_hand.plate)
    assert left.centre_of_gravity_mm == pytest.approx(fold(plate).centre_of_gravity_mm)
    again = with_sides_changed(there.in_hand, "guard").plate
    assert again.pieces == plate.pieces
    for one, other in zip(again.cutouts, plate.cutouts, strict=True):
        assert (one.panel, one.u_mm, one.v_mm) == (
            other.panel,
            pytest.approx(other.u_mm),
            pytest.approx(other.v_mm),
        )


def hole(key: str, panel: str, u_mm: float, v_mm: float) -> Cutout:
    return Cutout(
        key=key, panel=panel, shape="round", purpose="vent",
        u_mm=u_mm, v_mm=v_mm, width_mm=8.0, height_mm=8.0,
    )  # fmt: skip


def own_centres(job: Job) -> list[tuple[float, float, float]]:
    """Middle along and across the bike and area of each panel of the piece, by middle.

    Heights differ: what was bent up is bent down on the other side.
    """
    panels = [p for p in fold(job.in_hand.plate).panels if p.piece]
    found = []
    for panel in panels:
        net = panel.net()
        flat = panel.to_bike((net.centroid.x, net.centroid.y))
        found.append((flat[0], flat[1], net.area))
    return sorted(found, key=lambda f: f[2])


def test_a_side_is_taken_back_though_its_piece_is_gone(choosing: Job) -> None:
    guard = Piece(
        key="guard", name="guard", order=1, x_mm=600.0, y_mm=90.0, z_mm=700.0,
        length_mm=100.0, front_width_mm=80.0, rear_width_mm=60.0,
    )  # fmt: skip
    own = choosing.in_hand
    job = choosing.with_candidate(replace(own, plate=replace(own.plate, pieces=(guard,))))
    job = made(job, kind="other side", panel="guard")
    bare = job.with_candidate(replace(job.in_hand, plate=replace(job.in_hand.plate, pieces=())))
    back = unmake(bare, bare.in_hand.key, bare.in_hand.changes[0].key).job
    assert (back.in_hand.changes, back.in_hand.plate) == ((), own.plate)


def test_side_guards_change_sides_with_what_is_in_them(choosing: Job) -> None:
    """Only a guard with screws of its own: a wing of the same sheet stays where it is."""
    plate = choosing.in_hand.plate
    assert plate.wing_right is not None
    screwed = replace(plate, wing_right=replace(plate.wing_right, own_screws=3), wing_left=None)
    job = choosing.with_candidate(replace(choosing.in_hand, plate=screwed))
    there = made(job, kind="other side", panel="wing right").in_hand.plate
    assert there.wing_right is None
    assert there.wing_left == screwed.wing_right
    in_it = [c.key for c in screwed.cutouts if c.panel == "wing right"]
    assert in_it
    assert [c.key for c in there.cutouts if c.panel == "wing left"] == in_it


def test_a_line_through_the_middle_says_so(choosing: Job) -> None:
    middle = flat_middle(choosing)
    with pytest.raises(InputError, match="either side"):
        made(choosing, kind="trim", points_mm=((middle, -300.0), (middle, 300.0)))


def flat_middle(job: Job) -> float:
    """Where the middle of the flat sheet lies along the bike, mm."""
    rings = [Polygon(p.outline_mm) for p in flat_pattern(job.in_hand.plate).panels if not p.piece]
    return sum(r.centroid.x * r.area for r in rings) / sum(r.area for r in rings)


@cache
def demo_job() -> Job:
    return demo_file("choosing").job
