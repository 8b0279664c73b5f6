"""Changes of a plate: what they cost agrees with the flat sheet, and they go as they came."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import Polygon

from rugged_shield.core.assess.tighten import plan_of
from rugged_shield.core.assess.weighup import weigh
from rugged_shield.core.errors import InputError
from rugged_shield.core.fitup import change_words
from rugged_shield.core.job import Job
from rugged_shield.core.job.edits import Modify, modify, tick_change, unmake
from rugged_shield.core.survey import flat_pattern, fold

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
        return
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
        ({"kind": "bend"}, "what"),
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
    ],
)
def test_a_change_goes_as_it_came(choosing: Job, asked: dict[str, object]) -> None:
    job = made(choosing, **asked)
    [change] = job.in_hand.changes
    step = f"change:{change.key}"
    steps = [s.key for s in plan_of(job, job.in_hand.key).steps]
    assert steps.index("clean") < steps.index(step) < steps.index("hang")
    done = tick_change(job, job.in_hand.key, change.key, True).job
    assert step not in {s.key for s in plan_of(done, done.in_hand.key).steps}, "it is done"
    with pytest.raises(InputError, match="grow back"):
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
