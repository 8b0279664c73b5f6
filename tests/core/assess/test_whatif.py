"""A what-if on a copy: what it changes, what it leaves alone, what it refuses."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from rugged_shield.core.amounts import in_system
from rugged_shield.core.assess.weighup.mount_springs import joint_springs
from rugged_shield.core.assess.weighup.scorecard import against, weigh
from rugged_shield.core.assess.weighup.strike import strike_figures
from rugged_shield.core.errors import InputError
from rugged_shield.core.fitup.joint import Joint, above_plate_mm
from rugged_shield.core.job.edits.path import set_text
from rugged_shield.core.job.edits.whatif import WhatIf, keep, tried, words_of
from rugged_shield.core.job.model import MAX_PLATES, Job
from rugged_shield.core.survey.mass import PlateMassInput, plate_mass
from rugged_shield.core.tables.springs import MOUNT_SPRINGS, in_series, isolator_springs

KEY = "what-if"


def joint_of(job: Job, plate: str, key: str) -> Joint:
    return next(j for j in job.candidate(plate).settled_joints() if j.key == key)


_HELD_MASS = ("mass", "bundle_mass", "added", "sag", "clearance", "breakover")
"""What follows from the mass that the sheet claims, to rounding."""


@pytest.mark.parametrize("plate", ["alu5", "steel25", "hdpe10", "slide4", "stain2"])
def test_trying_nothing_changes_no_figure(choosing: Job, plate: str) -> None:
    there = tried(choosing, WhatIf(plate=plate))
    before, after = weigh(choosing, plate).figures, weigh(there, KEY).figures
    own = {"claimed_mass", "weighed_mass"}
    """The scale and the sheet spoke of the original, not of the copy."""
    for key in before.keys() - own:
        was = before[key].value
        rounded = was is not None and key in _HELD_MASS
        assert after[key].value == (pytest.approx(was, rel=1e-12) if rounded else was), key
    assert there.candidates[:-1] == choosing.candidates
    assert there.in_hand.key == KEY
    assert there.picked == ""


def test_a_copy_is_computed_from_where_the_scale_left_the_original(choosing: Job) -> None:
    """12 % heavier than computed stays 12 % heavier, at any thickness."""
    job = set_text(choosing, "candidates.alu5.plate.claimed_mass_kg", "").job

    def sheet(job: Job, key: str) -> float:
        own = job.candidate(key).plate
        return plate_mass(PlateMassInput(plate=own)).result.held_mass_kg

    heavy = set_text(job, "candidates.alu5.plate.weighed_mass_kg", str(1.12 * sheet(job, "alu5")))
    thin = WhatIf(plate="alu5", thickness_mm=3.0)
    assert sheet(tried(heavy.job, thin), KEY) == pytest.approx(
        1.12 * sheet(tried(job, thin), KEY), rel=1e-3
    )


@settings(max_examples=12, deadline=None)
@given(st.floats(2.0, 9.0))
def test_sheet_mass_goes_with_thickness_and_the_inner_face_stays(choosing: Job, t: float) -> None:
    there = tried(choosing, WhatIf(plate="alu5", thickness_mm=t))
    now, was = there.candidate(KEY).plate, choosing.candidate("alu5").plate
    assert now.belly.z_front_mm + t == pytest.approx(was.belly.z_front_mm + was.thickness_mm)
    lost = weigh(there, KEY).figures["clearance_lost"].value
    base = weigh(choosing, "alu5").figures["clearance_lost"].value
    assert lost is not None
    assert base is not None
    assert lost - base == pytest.approx(t - 5.0, abs=0.35), "the outer face and a little sag"
    ratio = weigh(there, KEY).figures["stiffness_ratio"].value
    full = weigh(choosing, "alu5").figures["stiffness_ratio"].value
    assert ratio is not None
    assert full is not None
    assert ratio / full == pytest.approx((t / 5.0) ** 3, rel=1e-6), "D = Et³/12(1−ν²)"


@pytest.mark.parametrize("height", [6.0, 10.0, 11.5])
def test_an_isolator_takes_the_place_of_spacer(choosing: Job, height: float) -> None:
    asked = WhatIf(
        plate="alu5", mount_change="isolator", joints=("a3", "a4"), isolator_height_mm=height
    )
    there = tried(choosing, asked)
    for key in ("a3", "a4"):
        now, was = joint_of(there, KEY, key), joint_of(choosing, "alu5", key)
        assert above_plate_mm(now) == pytest.approx(above_plate_mm(was))
        assert [x.kind for x in now.layers].count("isolator") == 1
        pressed, sheared = isolator_springs(25.0, height)
        normal, across, turning = joint_springs(now, there.bike.mount(now.mount))
        boss = MOUNT_SPRINGS["engine boss"]
        assert normal == pytest.approx(in_series(boss.normal_n_per_mm, pressed))
        assert across == pytest.approx(in_series(boss.in_plane_n_per_mm, sheared))
        assert turning == 0.0
    assert joint_of(there, KEY, "a1") == joint_of(choosing, "alu5", "a1")


def test_a_spacer_too_short_for_it_goes_and_the_plate_hangs_lower(choosing: Job) -> None:
    asked = WhatIf(
        plate="alu5", mount_change="isolator", joints=("a3", "a4"), isolator_height_mm=20.0
    )
    there = tried(choosing, asked)
    now = joint_of(there, KEY, "a3")
    assert "spacer" not in [x.kind for x in now.layers]
    assert above_plate_mm(now) == 20.0
    lost = weigh(there, KEY).figures["clearance_lost"].value or 0.0
    assert lost > (weigh(choosing, "alu5").figures["clearance_lost"].value or 0.0) + 3.0


def test_rubber_out_again_is_a_stiff_mount(choosing: Job) -> None:
    there = tried(choosing, WhatIf(plate="hdpe10", mount_change="stiff", joints=("h3", "h4")))
    for key in ("h3", "h4"):
        now, was = joint_of(there, KEY, key), joint_of(choosing, "hdpe10", key)
        assert "isolator" not in [x.kind for x in now.layers]
        assert above_plate_mm(now) == pytest.approx(above_plate_mm(was))
        assert (
            joint_springs(now, there.bike.mount(now.mount))[0]
            == MOUNT_SPRINGS["engine boss"].normal_n_per_mm
        )


def test_a_stiffness_that_is_known_stands_before_that_of_the_kind(choosing: Job) -> None:
    asked = WhatIf(plate="alu5", mount_change="spring", joints=("a3",), spring_n_per_mm=900.0)
    there = tried(choosing, asked)
    soft = joint_of(there, KEY, "a3")
    boss = MOUNT_SPRINGS["engine boss"]
    assert joint_springs(soft, there.bike.mount(soft.mount))[:2] == (900.0, boss.in_plane_n_per_mm)
    other = joint_of(there, KEY, "a4")
    assert joint_springs(other, there.bike.mount(other.mount))[0] == boss.normal_n_per_mm
    mounts = tuple(
        replace(m, spring_n_per_mm=4000.0, spring_across_n_per_mm=3000.0) if m.key == "m3" else m
        for m in choosing.bike.mounts
    )
    bike = replace(choosing.bike, mounts=mounts)
    hard = joint_of(choosing, "alu5", "a3")
    assert joint_springs(hard, bike.mount(hard.mount))[:2] == (4000.0, 3000.0)
    assert joint_springs(soft, bike.mount(soft.mount))[:2] == (900.0, 3000.0)


def test_softer_mounts_give_more_and_pass_less_to_the_casting(choosing: Job) -> None:
    def figures(stiffness: float) -> dict[str, float]:
        asked = WhatIf(
            plate="alu5",
            mount_change="spring",
            joints=("a3", "a4"),
            spring_n_per_mm=stiffness,
        )
        found = strike_figures(tried(choosing, asked), KEY)
        return {f.key.removeprefix("strike:"): f.value or 0.0 for f in found}

    hard, soft = figures(50_000.0), figures(500.0)
    assert soft["casting"] < hard["casting"]
    assert soft["deepest"] >= hard["deepest"]


def test_a_door_bares_nothing_and_a_slider_slides(choosing: Job) -> None:
    shut = weigh(tried(choosing, WhatIf(plate="alu5", cutout="drain")), KEY).figures
    was = weigh(choosing, "alu5").figures
    assert (shut["coverage"].value or 0) >= (was["coverage"].value or 0)
    assert (shut["service"].value or 0) > (was["service"].value or 0)
    slick = weigh(tried(choosing, WhatIf(plate="alu5", slider="UHMW-PE")), KEY).figures
    assert (slick["slide"].value or 1) < (was["slide"].value or 0)
    bare = tried(choosing, WhatIf(plate="slide4", slider="none")).candidate(KEY).plate
    assert (bare.slider_material, bare.slider_thickness_mm) == ("", None)
    foil = weigh(tried(choosing, WhatIf(plate="alu5", heat_foil=True)), KEY).figures
    assert (foil["heat_idling"].value or 999) < (was["heat_idling"].value or 0)


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"thickness_mm": 70.0}, "thickness_mm"),
        ({"material": "glass"}, "material"),
        ({"slider": "mild steel S235x"}, "slider"),
        ({"mount_change": "isolator"}, "joints"),
        ({"mount_change": "spring", "joints": ("a3",)}, "spring_n_per_mm"),
        ({"mount_change": "spring", "joints": ("a3",), "spring_n_per_mm": 1.0}, "spring_n_per_mm"),
        ({"mount_change": "strip", "joints": ("z9",)}, "joints"),
        ({"cutout": "roof"}, "cutout"),
        ({"wing_longer_mm": 900.0}, "wing_longer_mm"),
        ({"plate": "nope"}, "plate"),
    ],
)
def test_what_cannot_be_tried_is_refused_by_name(
    choosing: Job, change: dict[str, object], field: str
) -> None:
    with pytest.raises(InputError) as caught:
        tried(choosing, WhatIf(**{"plate": "alu5", **change}))  # type: ignore[arg-type]
    assert caught.value.field == field
    assert caught.value.allowed


def test_a_copy_is_kept_under_its_own_name_and_key(choosing: Job) -> None:
    asked = WhatIf(
        plate="alu5", thickness_mm=6.0, heat_foil=True, mount_change="strip", joints=("a3", "a4")
    )
    assert in_system(words_of(asked)) == "6 mm, strip at 2 joints, reflective sheet"
    once = keep(choosing, asked, ())
    twice = keep(once.job, asked, ())
    keys = [c.key for c in twice.job.candidates]
    assert len(set(keys)) == len(keys) == len(choosing.candidates) + 2
    kept = once.job.candidates[-1]
    assert kept.plate.name == "Pressed aluminium pan: 6 mm, strip at 2 joints, reflective sheet"
    assert once.words == f"{kept.plate.name} kept as a candidate"
    same = weigh(tried(choosing, asked), KEY).figures["mass"]
    assert against(weigh(once.job, kept.key).figures["mass"], same, "mass").value == 0
    full = choosing
    while len(full.candidates) < MAX_PLATES:
        full = keep(full, asked, ()).job
    with pytest.raises(InputError, match="at most"):
        keep(full, asked, ())
