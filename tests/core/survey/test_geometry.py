"""Folded plates against closed forms, mirror symmetry and named refusals."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from rugged_shield.core.errors import InputError
from rugged_shield.core.mechanics.frames import cross, dot, from_below, side_words, unit
from rugged_shield.core.survey.geometry import fold, sheet_point
from rugged_shield.core.survey.plate import Apron, Belly, Cutout, Plate, Tail, Wing
from rugged_shield.core.survey.pose import Pose

FLAT = Plate(
    key="p",
    name="pan",
    role="candidate",
    material="aluminium 5052-H32",
    thickness_mm=4.0,
    form="flat",
    mounting="frame",
    belly=Belly(
        start_x_mm=500,
        length_mm=400,
        front_width_mm=240,
        rear_width_mm=240,
        z_front_mm=280,
        z_rear_mm=280,
    ),
)
WINGED = replace(
    FLAT,
    apron=Apron(200, 60, 180),
    tail=Tail(100, 120, 20),
    wing_left=Wing(50, 300, 80, 45),
    wing_right=Wing(50, 300, 80, 45),
)


def hole(**more: Any) -> Cutout:
    return replace(
        Cutout(
            key="c",
            panel="belly",
            shape="round",
            purpose="drain",
            u_mm=200,
            v_mm=0,
            width_mm=60,
            height_mm=60,
        ),
        **more,
    )


def test_the_frame_is_right_handed() -> None:
    assert cross((1, 0, 0), (0, 1, 0)) == (0, 0, 1)
    assert from_below(100, 50) == (-50, 100)
    assert side_words(-90).startswith("left")
    assert side_words(90).startswith("right")


def test_flat_box() -> None:
    folded = fold(FLAT)
    assert folded.area_mm2 == pytest.approx(400 * 240)
    assert folded.centre_of_gravity_mm == pytest.approx((700, 0, 280 + FLAT.thickness_mm / 2))
    assert folded.lowest_mm()[0][2] == 280


def test_areas_of_every_panel_have_closed_forms() -> None:
    areas = {p.name: p.outline.area for p in fold(WINGED).panels}
    assert areas["apron"] == pytest.approx(200 * (240 + 180) / 2)
    assert areas["tail"] == pytest.approx(100 * 120)
    assert areas["wing left"] == areas["wing right"] == pytest.approx(300 * 80)


def test_apron_and_wing_rise_as_their_angle_says() -> None:
    folded = fold(WINGED)
    apron, wing = folded.panel("apron"), folded.panel("wing right")
    assert apron is not None
    assert wing is not None
    top = max(apron.corners(), key=lambda c: c[2])
    assert top[2] == pytest.approx(280 + 200 * math.sin(math.radians(60)))
    assert top[0] == pytest.approx(500 - 200 * math.cos(math.radians(60)))
    tip = max(wing.corners(), key=lambda c: c[2])
    assert tip[2] == pytest.approx(280 + 80 * math.sin(math.radians(45)))
    assert tip[1] == pytest.approx(120 + 80 * math.cos(math.radians(45)))


def test_panels_meet_along_their_folds() -> None:
    """Both ends of every wing's fold lie on the belly's edge."""
    plate = replace(
        WINGED,
        belly=Belly(
            start_x_mm=500,
            length_mm=400,
            front_width_mm=260,
            rear_width_mm=200,
            z_front_mm=290,
            z_rear_mm=275,
        ),
    )
    folded = fold(plate)
    belly = folded.panel("belly")
    assert belly is not None
    for name in ("wing left", "wing right"):
        wing = folded.panel(name)
        assert wing is not None
        for u in (0.0, 300.0):
            x, y, z = wing.to_bike((u, 0.0))
            on = sheet_point(folded, x, y)
            assert on is not None
            assert on[2] == pytest.approx(z, abs=1e-6)
        assert dot(wing.u, wing.v) == pytest.approx(0, abs=1e-12)
        assert unit(wing.v) == pytest.approx(wing.v)


@pytest.mark.parametrize(
    ("cutout", "area"),
    [
        (hole(), math.pi * 900),
        (hole(shape="rectangle", width_mm=40, height_mm=20), 800),
        (hole(shape="slot", width_mm=60, height_mm=20), 40 * 20 + math.pi * 100),
        (hole(shape="slot", width_mm=20, height_mm=60), 40 * 20 + math.pi * 100),
        (hole(shape="polygon", points_mm=((0, 0), (30, 0), (0, 40))), 600),
    ],
)
def test_cutouts_take_their_area(cutout: Cutout, area: float) -> None:
    solid, cut = fold(FLAT), fold(replace(FLAT, cutouts=(cutout,)))
    assert solid.area_mm2 - cut.area_mm2 == pytest.approx(area, rel=2e-3)


@pytest.mark.parametrize(
    ("cutout", "words"),
    [
        (hole(u_mm=390), "outside its panel"),
        (hole(v_mm=119), "outside its panel"),
        (hole(panel="apron"), "does not have"),
        (hole(shape="polygon", points_mm=((0, 0), (30, 30), (30, 0), (0, 30))), "crosses itself"),
        (hole(shape="polygon", points_mm=((0, 0), (30, 30))), "not allowed|corners"),
    ],
)
def test_impossible_cutouts_are_named(cutout: Cutout, words: str) -> None:
    with pytest.raises(InputError, match=words) as caught:
        fold(replace(FLAT, cutouts=(cutout,)))
    assert "cutouts.c" in caught.value.field


def test_a_wing_longer_than_its_edge_is_named() -> None:
    with pytest.raises(InputError, match="past the belly's edge"):
        fold(replace(WINGED, wing_left=Wing(150, 300, 80, 45)))


def test_a_belly_that_would_stand_upright_is_named() -> None:
    with pytest.raises(InputError, match="upright"):
        fold(
            replace(
                FLAT,
                belly=Belly(
                    start_x_mm=500,
                    length_mm=100,
                    front_width_mm=240,
                    rear_width_mm=240,
                    z_front_mm=280,
                    z_rear_mm=400,
                ),
            )
        )


@settings(max_examples=40, deadline=None)
@given(
    st.floats(150, 300),
    st.floats(150, 300),
    st.floats(10, 120),
    st.floats(10, 80),
    st.floats(0, 60),
)
def test_mirrored_plates_are_mirrored(
    front: float, rear: float, slant: float, angle: float, start: float
) -> None:
    """Left and right exchanged: same area, centre of gravity mirrored in y."""
    one = replace(
        FLAT,
        belly=Belly(
            start_x_mm=500,
            length_mm=400,
            front_width_mm=front,
            rear_width_mm=rear,
            z_front_mm=285,
            z_rear_mm=280,
        ),
        wing_left=Wing(start, 200, slant, angle),
        wing_right=None,
    )
    other = replace(one, wing_left=None, wing_right=one.wing_left)
    a, b = fold(one), fold(other)
    assert a.area_mm2 == pytest.approx(b.area_mm2)
    x, y, z = a.centre_of_gravity_mm
    assert b.centre_of_gravity_mm == pytest.approx((x, -y, z))


@settings(max_examples=40, deadline=None)
@given(st.floats(-30, 30), st.floats(-0.02, 0.02), st.floats(-0.02, 0.02))
def test_a_pose_turns_a_level_sheet_and_bends_nothing(dz: float, sx: float, sy: float) -> None:
    about = (650.0, 0.0, 280.0)
    pose = Pose(dz, sx, sy, about)
    still, moved = fold(WINGED), fold(WINGED, pose)
    before = np.array([c for p in still.panels for c in p.corners()])
    after = np.array([c for p in moved.panels for c in p.corners()])
    apart = np.linalg.norm(before[:, None] - before, axis=2)
    assert np.linalg.norm(after[:, None] - after, axis=2) == pytest.approx(apart, abs=1e-6)
    assert pose.lifted(before) == pytest.approx(after, abs=1e-6)
    assert pose.lift(about) == pytest.approx((650.0, 0.0, 280.0 + dz))
    x, y, z = pose.turn((0.0, 0.0, 1.0))
    assert (-x / z, -y / z) == pytest.approx((sx, sy), abs=1e-12), "the slopes of a level sheet"
    for one, other in zip(still.panels, moved.panels, strict=True):
        assert pose.turn(one.inward) == pytest.approx(other.inward)
    assert moved.area_mm2 == pytest.approx(still.area_mm2)


def test_sheet_point_is_on_the_sheet_or_nothing() -> None:
    folded = fold(WINGED)
    assert sheet_point(folded, 700, 0) == pytest.approx((700, 0, 280))
    assert sheet_point(folded, 2000, 0) is None
    tail = sheet_point(folded, 950, 0)
    assert tail is not None
    assert 280 < tail[2] < 300
