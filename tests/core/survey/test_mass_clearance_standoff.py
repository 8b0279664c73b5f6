"""Mass and stiffness, what hangs lowest, and free distance behind the plate."""

from __future__ import annotations

import math
from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from rugged_shield.core.errors import InputError
from rugged_shield.core.job.model import Job
from rugged_shield.core.survey.bike import Bike, Part
from rugged_shield.core.survey.clearance import (
    LowPoint,
    breakover_deg,
    governing_breakover,
    low_points,
    lowest,
)
from rugged_shield.core.survey.geometry import fold
from rugged_shield.core.survey.mass import (
    PlateMassInput,
    ThicknessInput,
    plate_mass,
    thickness_compare,
)
from rugged_shield.core.survey.plate import Belly, Plate
from rugged_shield.core.survey.standoff import standoffs
from rugged_shield.core.tables.materials import SHEET_MATERIALS

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
BOX = Part(
    key="v",
    name="vital",
    kind="vital",
    shape="case",
    x_min_mm=600,
    x_max_mm=700,
    y_min_mm=-50,
    y_max_mm=50,
    z_min_mm=310,
    z_max_mm=340,
)


def test_mass_of_a_box() -> None:
    result = plate_mass(PlateMassInput(plate=FLAT)).result
    assert result.mass_kg == pytest.approx(0.4 * 0.24 * 0.004 * 2680)


def test_mass_by_area_is_the_same() -> None:
    by_area = plate_mass(
        PlateMassInput(material="aluminium 5052-H32", thickness_mm=4, area_mm2=96000)
    ).result
    assert by_area.mass_kg == pytest.approx(plate_mass(PlateMassInput(plate=FLAT)).result.mass_kg)


@pytest.mark.parametrize(("share", "told"), [(1.119, False), (1.13, True), (0.87, True)])
def test_a_claim_over_twelve_percent_off_says_the_thickness_it_means(
    share: float, told: bool
) -> None:
    mass = plate_mass(PlateMassInput(plate=FLAT)).result.mass_kg
    outcome = plate_mass(PlateMassInput(plate=FLAT, claimed_mass_kg=mass * share))
    assert bool(outcome.findings) is told
    assert outcome.result.implied_thickness_mm == pytest.approx(4.0 * share)
    if told:
        assert f"{4.0 * share:.1f} mm" in outcome.findings[0].text


def test_stiffness_goes_with_the_cube_and_mass_with_the_first_power() -> None:
    result = thickness_compare(ThicknessInput("HDPE", 10, "HDPE", 5)).result
    assert result.stiffness_ratio == pytest.approx(8)
    assert result.mass_ratio == pytest.approx(2)
    steel = thickness_compare(ThicknessInput("mild steel S235", 3, "aluminium 5052-H32", 3)).result
    assert steel.mass_ratio == pytest.approx(7850 / 2680)
    ratio = 205 * (1 - 0.33**2) / (70.3 * (1 - 0.29**2))
    assert steel.stiffness_ratio == pytest.approx(ratio)
    assert steel.flexural_rigidity_nm == pytest.approx(205e9 * 0.003**3 / 12 / (1 - 0.29**2))


@pytest.mark.parametrize("name", SHEET_MATERIALS)
def test_material_rows_are_plausible(name: str) -> None:
    row = SHEET_MATERIALS[name]
    assert row.yield_mpa < row.tensile_mpa or row.family == "plastic"
    assert (row.density_kg_m3 < 1000) == (row.family == "plastic")
    assert row.source.text


@given(st.floats(0.5, 24), st.floats(0.1, 1))
def test_a_thicker_sheet_is_heavier_and_stiffer(t: float, more: float) -> None:
    low = thickness_compare(ThicknessInput("HDPE", t, "stainless 304", 3)).result
    high = thickness_compare(ThicknessInput("HDPE", t + more, "stainless 304", 3)).result
    assert high.mass_ratio > low.mass_ratio
    assert high.stiffness_ratio > low.stiffness_ratio


@pytest.mark.parametrize(
    "bad",
    [
        {"material": "unobtainium", "thickness_mm": 3, "area_mm2": 1e5},
        {"material": "HDPE", "thickness_mm": 5000, "area_mm2": 1e5},
        {"material": "HDPE", "area_mm2": 1e5},
        {"material": "HDPE", "thickness_mm": 3},
        {"material": "HDPE", "thickness_mm": 3, "area_mm2": 1e4, "cutout_area_mm2": 2e4},
    ],
)
def test_mass_refuses_what_it_cannot_use(bad: dict[str, object]) -> None:
    with pytest.raises(InputError):
        PlateMassInput(**bad)  # type: ignore[arg-type]


def test_breakover_of_a_symmetric_bike_has_a_closed_form(choosing: Job) -> None:
    """Equal wheels, point in the middle: twice the angle to one wheel's tangent."""
    bike = replace(choosing.bike, wheelbase_mm=1400, rear_wheel_radius_mm=345)
    half, r, h = 700.0, 345.0, 250.0
    one = math.asin(r / math.hypot(half, h - r)) - math.atan2(r - h, half)
    assert breakover_deg(bike, half, h) == pytest.approx(math.degrees(2 * one))


def test_breakover_line_touches_the_wheel(choosing: Job) -> None:
    """The ramp's line through the point is tangent to the front tyre."""
    bike = replace(choosing.bike, wheelbase_mm=1400, rear_wheel_radius_mm=345)
    slope = math.radians(breakover_deg(bike, 700, 260) / 2)
    distance = math.sin(slope) * 700 + math.cos(slope) * (345 - 260)
    assert distance == pytest.approx(345, rel=1e-9)


@settings(deadline=None)
@given(st.floats(480, 1000), st.floats(120, 320), st.floats(1, 50))
def test_a_lower_point_never_widens_the_ramp(x: float, z: float, drop: float) -> None:
    bike = Bike(
        name="b",
        wheelbase_mm=1480,
        front_wheel_radius_mm=345,
        rear_wheel_radius_mm=322,
        parts=(BOX,),
        mounts=(),
    )
    assert breakover_deg(bike, x, z) >= breakover_deg(bike, x, z - drop)


def test_breakover_refuses_places_outside(choosing: Job) -> None:
    for x, z in ((-5, 280), (2000, 280), (20, 100)):
        with pytest.raises(InputError):
            breakover_deg(choosing.bike, x, z)


def test_lowest_counts_heads_and_parts(choosing: Job) -> None:
    folded = fold(FLAT)
    bike = Bike(
        name="b",
        wheelbase_mm=1480,
        front_wheel_radius_mm=345,
        rear_wheel_radius_mm=322,
        parts=(BOX,),
        mounts=(),
    )
    assert lowest(low_points(bike, folded, ())).z_mm == 280
    head = LowPoint("head of screw 1", 520, 0, 272)
    assert lowest(low_points(bike, folded, (head,))).name == "head of screw 1"
    low_part = replace(BOX, key="rail", z_min_mm=200)
    assert lowest(low_points(replace(bike, parts=(low_part,)), folded, ())).z_mm == 200
    angle, at = governing_breakover(bike, low_points(bike, folded, (head,)))
    assert angle > 0
    assert at.z_mm <= 280


@pytest.mark.parametrize("thickness", [1.0, 4.0, 12.0])
def test_standoff_of_a_parallel_box_is_exact(thickness: float) -> None:
    (gap,) = standoffs(fold(replace(FLAT, thickness_mm=thickness)), (BOX,))
    assert gap.distance_mm == pytest.approx(310 - 280 - thickness)


def test_standoff_beside_the_sheet_is_the_diagonal() -> None:
    beside = replace(BOX, y_min_mm=150, y_max_mm=200)
    (gap,) = standoffs(fold(FLAT), (beside,))
    assert gap.distance_mm == pytest.approx(math.hypot(30, 26), abs=0.01)


def test_a_part_inside_the_plate_has_no_standoff() -> None:
    (gap,) = standoffs(fold(FLAT), (replace(BOX, z_min_mm=270),))
    assert gap.distance_mm == 0


def test_part_and_bike_refuse_nonsense() -> None:
    with pytest.raises(InputError, match="inside out"):
        replace(BOX, x_max_mm=590)
    with pytest.raises(InputError, match="already"):
        Bike(
            name="b",
            wheelbase_mm=1480,
            front_wheel_radius_mm=345,
            rear_wheel_radius_mm=322,
            parts=(BOX, BOX),
            mounts=(),
        )
    with pytest.raises(InputError, match="wheelbase_mm"):
        Bike(
            name="b",
            wheelbase_mm=100,
            front_wheel_radius_mm=345,
            rear_wheel_radius_mm=322,
            parts=(BOX,),
            mounts=(),
        )
