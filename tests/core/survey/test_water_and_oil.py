"""Water runs down and over folds to the lowest way out; oil needs a way in and a clear fall."""

from __future__ import annotations

import math
from dataclasses import replace

import pytest

from rugged_shield.core.survey.bike import Part
from rugged_shield.core.survey.geometry import fold
from rugged_shield.core.survey.oil import oil_access
from rugged_shield.core.survey.plate import Apron, Belly, Cutout, Piece, Plate, Wing
from rugged_shield.core.survey.pose import Pose
from rugged_shield.core.survey.water import puddles

BELLY = Belly(
    start_x_mm=500.0,
    length_mm=300.0,
    front_width_mm=240.0,
    rear_width_mm=240.0,
    z_front_mm=300.0,
    z_rear_mm=300.0,
)
FLAT = Plate(
    key="p",
    name="p",
    role="candidate",
    material="aluminium 5052-H32",
    thickness_mm=4.0,
    form="pressed",
    mounting="frame",
    belly=BELLY,
)
WING = Wing(start_mm=0.0, length_mm=300.0, slant_height_mm=60.0, dihedral_deg=30.0)
GUTTER = replace(FLAT, wing_left=WING, wing_right=WING)
DRAIN = Cutout(
    key="drain", panel="belly", shape="round", purpose="drain", u_mm=150.0, v_mm=0.0,
    width_mm=60.0, height_mm=60.0,
)  # fmt: skip


def stands(plate: Plate, pose: Pose = Pose()) -> dict[tuple[str, str], float]:
    return {(p.panel, p.posture): p.depth_mm for p in puddles(fold(plate, pose))}


def test_a_flat_plate_and_an_open_gutter_hold_no_water() -> None:
    """Wings folded up on both sides: water runs off at the open front and rear edge."""
    assert stands(FLAT) == {}
    assert stands(GUTTER) == {}


def closed(plate: Plate, height_mm: float) -> Plate:
    """With an apron in front and a piece that stands up across the rear."""
    wall = Piece(
        key="wall", name="wall", order=1, x_mm=800.0, y_mm=0.0, z_mm=300.0,
        length_mm=height_mm, front_width_mm=240.0, rear_width_mm=240.0, pitch_deg=90.0,
    )  # fmt: skip
    apron = Apron(slope_height_mm=120.0, rise_deg=60.0, top_width_mm=240.0)
    return replace(plate, apron=apron, pieces=(wall,))


def test_the_slit_at_an_open_corner_lets_water_out() -> None:
    """Four panels folded up from a belly part at its corners: nothing is welded there."""
    assert stands(closed(GUTTER, 40.0)) == {}


def wall(key: str, x_mm: float, height_mm: float) -> Piece:
    return Piece(
        key=key, name=key, order=1, x_mm=x_mm, y_mm=0.0, z_mm=300.0, length_mm=height_mm,
        front_width_mm=240.0, rear_width_mm=240.0, pitch_deg=90.0,
    )  # fmt: skip


UPRIGHT = replace(WING, dihedral_deg=90.0)
TUB = replace(
    FLAT,
    wing_left=UPRIGHT,
    wing_right=UPRIGHT,
    pieces=(wall("front", 500.0, 40.0), wall("rear", 800.0, 20.0)),
)


def test_a_tub_holds_water_up_to_its_lowest_rim() -> None:
    """Rims of 60, 40 and 20 mm: 20 mm level. Nose-up 8° the rear one alone counts."""
    found = stands(TUB)
    assert found[("belly", "level")] == pytest.approx(20.0, abs=0.1)
    assert found[("belly", "nose-up 8°")] == pytest.approx(20.0 * math.cos(math.radians(8)), abs=1)


def test_a_hole_drains_it_where_it_is() -> None:
    """In its middle level, and behind it what is lower with the nose up; a closed door not."""
    holed = stands(replace(TUB, cutouts=(DRAIN,)))
    fall = math.sin(math.radians(8)) * (300.0 - 180.0)
    assert holed == {("belly", "nose-up 8°"): pytest.approx(fall, abs=0.5)}
    shut = replace(DRAIN, closed_door=True)
    assert stands(replace(TUB, cutouts=(shut,)))[("belly", "level")] == pytest.approx(20.0, abs=0.1)
    screwed = replace(DRAIN, purpose="mount")
    assert ("belly", "level") in stands(replace(TUB, cutouts=(screwed,)))


def test_a_hung_plates_own_tilt_counts() -> None:
    """The same tub hung 8° nose-up holds level what it holds nose-up when it hangs level."""
    holed = replace(TUB, cutouts=(DRAIN,))
    hung = stands(holed, Pose(slope_x=-math.tan(math.radians(8)), about_mm=(650.0, 0.0, 300.0)))
    assert hung[("belly", "level")] == pytest.approx(
        stands(holed)[("belly", "nose-up 8°")], abs=0.01
    )


SUMP_DRAIN = Part(
    key="plug", name="drain plug", kind="vital", shape="drain", serviced="drain",
    x_min_mm=640.0, x_max_mm=660.0, y_min_mm=-10.0, y_max_mm=10.0, z_min_mm=330.0,
    z_max_mm=350.0,
)  # fmt: skip
FILTER = Part(
    key="filter", name="oil filter", kind="vital", shape="filter", serviced="filter",
    comes_out="right", x_min_mm=600.0, x_max_mm=660.0, y_min_mm=60.0, y_max_mm=110.0,
    z_min_mm=340.0, z_max_mm=400.0,
)  # fmt: skip


def test_a_filter_leaves_sideways_over_a_low_wing_and_not_through_a_high_one() -> None:
    low = oil_access((FILTER,), GUTTER, Pose())
    assert (low.way, low.behind, low.screws) == ("open holes", (), 0)
    high = replace(WING, slant_height_mm=140.0, dihedral_deg=80.0)
    shut = oil_access((FILTER,), replace(GUTTER, wing_right=high), Pose())
    assert (shut.way, shut.behind, shut.screws) == ("plate off", ("filter",), None)
    down = oil_access((replace(FILTER, comes_out="down"),), GUTTER, Pose())
    assert down.way == "plate off"


def test_a_guard_with_its_own_screws_is_a_way() -> None:
    high = replace(WING, slant_height_mm=140.0, dihedral_deg=80.0, own_screws=3)
    plate = replace(GUTTER, wing_right=high, cutouts=(DRAIN,))
    found = oil_access((FILTER, SUMP_DRAIN), plate, Pose())
    assert (found.way, found.off, found.screws) == ("removable pieces", ("wing right",), 3)


def test_only_the_door_that_must_be_opened_is() -> None:
    doors = (
        replace(DRAIN, closed_door=True, door_screws=2),
        replace(DRAIN, key="look", u_mm=60.0, closed_door=True, door_screws=4),
    )
    found = oil_access((SUMP_DRAIN,), replace(FLAT, cutouts=doors), Pose())
    assert (found.way, found.off, found.screws) == ("closed doors", ("door drain",), 2)


def test_the_filters_oil_is_traced_too() -> None:
    """It falls on the belly beside the drain's opening, and clear of a narrow belly."""
    over = oil_access((FILTER, SUMP_DRAIN), replace(FLAT, cutouts=(DRAIN,)), Pose())
    assert {p.part for p in over.paths if not p.clear} == {"filter"}
    narrow = replace(BELLY, front_width_mm=90.0, rear_width_mm=90.0)
    beside = oil_access((FILTER, SUMP_DRAIN), replace(FLAT, belly=narrow, cutouts=(DRAIN,)), Pose())
    assert not beside.catches


def test_a_plate_that_comes_off_catches_nothing() -> None:
    found = oil_access((SUMP_DRAIN,), FLAT, Pose())
    assert (found.way, found.catches) == ("plate off", False)
