"""What a plate bears: the share of its sheet that reaches nothing, against the map and limits."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from rugged_shield.core.assess.weighup.strike import strike_asked
from rugged_shield.core.errors import InputError
from rugged_shield.core.job.model import Job
from rugged_shield.core.survey.bike import Part
from rugged_shield.core.survey.pose import Pose
from rugged_shield.core.weighup.mount_law import MountLaw
from rugged_shield.core.weighup.strike_field import StrikeMapInput
from rugged_shield.core.weighup.strike_map import strike_map
from rugged_shield.core.weighup.withstood import COARSE_MESH_MM, share_bounds, withstood_share
from tests.core.weighup.flat_pan import MOUNTS, PLATE

SUMP = Part(
    key="sump",
    name="sump",
    kind="vital",
    shape="sump",
    x_min_mm=560,
    x_max_mm=760,
    y_min_mm=-60,
    y_max_mm=60,
    z_min_mm=296,
    z_max_mm=340,
)
GIVEN = StrikeMapInput(plate=PLATE, mounts=MOUNTS, parts=(SUMP,), energy_j=150.0, mesh_mm=20.0)


def share(asked: StrikeMapInput) -> float:
    return withstood_share(asked).result.share


def held(asked: StrikeMapInput) -> float:
    return withstood_share(asked).result.held_share


def test_what_holds_in_every_way_is_at_most_what_reaches_nothing() -> None:
    for radius in (5.0, 15.0, 40.0):
        asked = replace(GIVEN, contact_radius_mm=radius)
        assert held(asked) <= share(asked)
    points = strike_map(GIVEN).result.points
    holds = [p for p in points if (p.touches_j or 1e9) > 150.0 and p.punch_share < 1.0]
    assert held(GIVEN) == pytest.approx(len(holds) / len(points), abs=0.06)
    weak = tuple(
        MountLaw(
            name=m.name,
            normal=(0.0, 0.0, 1.0),
            stiffness_n_per_mm=m.stiffness_n_per_mm[2],
            press_limit_n=1.0,
            pull_limit_n=1.0,
        )
        for m in MOUNTS
    )
    assert held(replace(GIVEN, laws=weak)) < held(GIVEN), "a mount that bears nothing gives way"


def test_it_is_the_share_of_the_map_that_touches_nothing() -> None:
    points = strike_map(GIVEN).result.points
    reached = [p for p in points if p.touches_j is not None and p.touches_j <= 150.0]
    assert 0 < len(reached) < len(points)
    assert share(GIVEN) == pytest.approx(1 - len(reached) / len(points), abs=0.04)
    result = withstood_share(GIVEN).result
    assert result.reached == "sump"
    assert result.struck_mm2 == pytest.approx(320 * 240, rel=1e-6)


def test_limits_of_energy_and_of_what_is_behind() -> None:
    assert share(replace(GIVEN, energy_j=0.1)) == 1.0
    bare = withstood_share(replace(GIVEN, parts=())).result
    assert (bare.share, bare.reached) == (1.0, "")
    against = replace(SUMP, x_min_mm=500, x_max_mm=820, y_min_mm=-120, y_max_mm=120, z_min_mm=284)
    assert share(replace(GIVEN, parts=(against,))) < 0.05, "it lies on the sheet"


@settings(max_examples=12)
@given(st.floats(40, 300), st.floats(1.05, 2.0), st.floats(0.5, 6.0))
def test_more_energy_or_less_room_never_holds_more(energy: float, more: float, up: float) -> None:
    base = share(replace(GIVEN, energy_j=energy))
    assert share(replace(GIVEN, energy_j=energy * more)) <= base
    assert share(replace(GIVEN, energy_j=energy, pose=Pose(dz_mm=up))) <= base
    assert share(replace(GIVEN, energy_j=energy, pose=Pose(dz_mm=-up))) >= base


@pytest.mark.parametrize(("thin", "thick"), [(3.0, 4.0), (4.0, 6.0)])
def test_a_thicker_sheet_on_the_same_inner_face_holds_more(thin: float, thick: float) -> None:
    def inner_same(t: float) -> StrikeMapInput:
        belly = replace(PLATE.belly, z_front_mm=284.0 - t, z_rear_mm=284.0 - t)
        mounts = tuple(replace(m, at_mm=(*m.at_mm[:2], 284.0 - t)) for m in MOUNTS)
        return replace(
            GIVEN,
            plate=replace(PLATE, thickness_mm=t, belly=belly),
            mounts=mounts,
        )

    assert share(inner_same(thin)) < share(inner_same(thick))


def test_a_lower_plate_is_the_same_as_parts_that_stand_higher() -> None:
    lower = replace(GIVEN, pose=Pose(dz_mm=-4.0))
    raised = replace(SUMP, z_min_mm=SUMP.z_min_mm + 4.0, z_max_mm=SUMP.z_max_mm + 4.0)
    higher = replace(GIVEN, parts=(raised,))
    assert share(lower) == share(higher)
    one, other = strike_map(lower).result, strike_map(higher).result
    assert one.first_touch_j == pytest.approx(other.first_touch_j)
    for p, q in zip(one.points, other.points, strict=True):
        assert p.standoff_mm == pytest.approx(q.standoff_mm)
        assert p.place_mm[2] == pytest.approx(q.place_mm[2] - 4.0)


def test_a_tilted_plate_is_nearer_at_one_end() -> None:
    tilted = strike_map(
        replace(GIVEN, pose=Pose(0.0, 0.01, 0.0, (660.0, 0.0, 300.0)))
    ).result.points
    flat = strike_map(GIVEN).result.points
    for p, q in zip(tilted, flat, strict=True):
        if 565 < q.place_mm[0] < 755 and abs(q.place_mm[1]) < 55:
            drop = 6.6 - 0.01 * q.place_mm[0]
            assert (p.standoff_mm or 0) - (q.standoff_mm or 0) == pytest.approx(drop, abs=0.06)


@pytest.mark.parametrize("plate", ["alu5", "hdpe10", "uhmw12"])
def test_the_coarse_mesh_is_near_the_fine_one(choosing: Job, plate: str) -> None:
    asked = strike_asked(choosing, plate)
    coarse = share(replace(asked, mesh_mm=COARSE_MESH_MM))
    assert coarse == pytest.approx(share(asked), abs=0.06)


def test_what_has_no_map_has_no_share() -> None:
    with pytest.raises(InputError, match="nothing holds"):
        withstood_share(replace(GIVEN, mounts=()))
    with pytest.raises(InputError, match="no panel"):
        withstood_share(replace(GIVEN, direction="level from ahead"))


@settings(max_examples=12)
@given(st.floats(0.9, 1.12), st.floats(40.0, 300.0), st.sampled_from(["inner", "outer"]))
def test_a_sheet_of_another_thickness_stays_within_its_bounds(
    times: float, energy: float, face: str
) -> None:
    """Whichever of its faces stays where it was."""
    base = replace(GIVEN, energy_j=energy)
    thick = PLATE.thickness_mm * times
    least, most = share_bounds(base, thick - PLATE.thickness_mm)
    down = PLATE.thickness_mm - thick if face == "inner" else 0.0
    other = replace(base, plate=replace(PLATE, thickness_mm=thick), pose=Pose(dz_mm=down))
    assert least - 1e-9 <= held(other) <= most + 1e-9
    assert least - 1e-9 <= held(base) <= most + 1e-9


def test_the_bounds_of_no_change_are_the_share_itself() -> None:
    assert share_bounds(GIVEN, 0.0) == pytest.approx((held(GIVEN), held(GIVEN)))
