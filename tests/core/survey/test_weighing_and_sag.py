"""Weighing by difference, sag and ramp angle: published forms, limits, refusals."""

from __future__ import annotations

import math
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rugged_shield.core.errors import InputError
from rugged_shield.core.survey.rampover import (
    BudgetInput,
    BudgetPart,
    ClearanceInput,
    clearance,
    clearance_budget,
)
from rugged_shield.core.survey.sag import Ride, SagInput, sag
from rugged_shield.core.survey.weighing import WeighInput, weigh_difference

BATHROOM = WeighInput(with_part=(84.6, 84.5, 84.6), without_part=(80.3, 80.4, 80.3), resolution=0.1)


@pytest.mark.parametrize(
    ("freedom", "k"), [(1, 12.706), (2, 4.303), (4, 2.776), (9, 2.262), (29, 2.045)]
)
def test_k_is_students_t_as_printed(freedom: int, k: float) -> None:
    """JCGM 100:2008 table G.2, 95 %: only repeats, no rounding to speak of."""
    readings = tuple(float(i % 2) for i in range(freedom + 1))
    out = weigh_difference(
        WeighInput(with_part=readings, without_part=(0.0,) * len(readings), resolution=1e-6)
    ).result
    assert out.nu_eff == pytest.approx(freedom, rel=1e-6)
    assert out.k95 == pytest.approx(k, abs=6e-4)


def test_rounding_alone_has_infinite_freedom_and_is_not_averaged_away() -> None:
    for n in (1, 4, 100):
        out = weigh_difference(
            WeighInput(with_part=(5.0,) * n, without_part=(3.0,) * n, resolution=0.5)
        ).result
        assert out.nu_eff is None
        assert out.u_combined == pytest.approx(0.5 / math.sqrt(6))


def test_a_coarse_scale_cannot_tell_and_says_what_would() -> None:
    out = weigh_difference(replace(BATHROOM, reference_difference=4.15))
    assert out.result.verdict == "cannot tell apart"
    assert out.verdict == "not known"
    more = out.result.pairs_to_settle
    finer = out.result.resolution_to_settle
    assert more is not None or finer is not None
    assert "Would settle it" in out.findings[0].text


def test_the_number_of_pairs_named_does_settle_it() -> None:
    """Repeating the same scatter that often tells the gap; one pair fewer does not."""
    given_ = WeighInput(
        with_part=(10.0, 10.6, 10.3, 9.9), without_part=(9.9, 10.2, 10.3, 9.6), resolution=0.02
    )
    named = weigh_difference(given_).result.pairs_to_settle
    assert named is not None
    std = weigh_difference(given_).result.u_repeat * 2
    mean = weigh_difference(given_).result.mean_difference

    def again(n: int) -> str:
        half = std * math.sqrt((n - 1) / n) if n % 2 == 0 else std
        values = [mean + (half if i % 2 else -half) for i in range(n - n % 2)] + [mean] * (n % 2)
        return weigh_difference(
            WeighInput(with_part=tuple(values), without_part=(0.0,) * n, resolution=0.02)
        ).result.verdict

    assert again(named + named % 2) == "different"
    assert again(max(2, named - 2)) == "cannot tell apart"


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"without_part": (1.0,)}, "without_part"),
        ({"with_part": (), "without_part": ()}, "with_part"),
        ({"with_part": (math.nan, 1.0, 2.0)}, "with_part.0"),
        ({"resolution": 0.0}, "resolution"),
        ({"scale_factor_rel_std_uncertainty": 0.6}, "scale_factor"),
    ],
)
def test_weighing_refuses(change: dict[str, object], field: str) -> None:
    with pytest.raises(InputError, match=field):
        replace(BATHROOM, **change)  # type: ignore[arg-type]


@given(
    mass=st.floats(1, 60), x=st.floats(-300, 2200), front=st.floats(4, 40), rear=st.floats(8, 60)
)
def test_loads_are_in_balance(mass: float, x: float, front: float, rear: float) -> None:
    """Both wheels carry the weight; moments about the front axle balance."""
    ride = Ride(1480, front, rear)
    a, b = ride.loads_n(mass, x)
    assert a + b == pytest.approx(mass * 9.80665)
    assert b * 1480 == pytest.approx(mass * 9.80665 * x)
    sags = ride.sags_mm(mass, x)
    assert ride.sag_at(sags, 0) == pytest.approx(sags[0])
    assert ride.sag_at(sags, 1480) == pytest.approx(sags[1])


def test_wheel_rates_from_the_riders_own_readings() -> None:
    """80 kg, 40 % in front: 9.80665·32/34 and ·48/65 N/mm."""
    out = sag(
        SagInput(
            wheelbase_mm=1480,
            added_mass_kg=5,
            added_mass_from_front_axle_mm=700,
            rider_mass_kg=80,
            front_sag_with_rider_mm=62,
            front_sag_without_rider_mm=28,
            rear_sag_with_rider_mm=95,
            rear_sag_without_rider_mm=30,
        )
    ).result
    assert out.front_wheel_rate_n_per_mm == pytest.approx(9.80665 * 32 / 34)
    assert out.rear_wheel_rate_n_per_mm == pytest.approx(9.80665 * 48 / 65)
    back = sag(
        SagInput(
            wheelbase_mm=1480,
            added_mass_kg=5,
            added_mass_from_front_axle_mm=1700,
            front_wheel_rate_n_per_mm=9,
            rear_wheel_rate_n_per_mm=24,
        )
    ).result
    assert back.front_sag_mm < 0 < back.rear_sag_mm


def test_sag_asks_for_what_it_lacks() -> None:
    with pytest.raises(InputError, match="rider_mass_kg"):
        sag(
            SagInput(
                wheelbase_mm=1480,
                added_mass_kg=5,
                added_mass_from_front_axle_mm=700,
                rear_wheel_rate_n_per_mm=20,
            )
        )
    with pytest.raises(InputError, match="front_sag_with_rider_mm"):
        sag(
            SagInput(
                wheelbase_mm=1480,
                added_mass_kg=5,
                added_mass_from_front_axle_mm=700,
                rear_wheel_rate_n_per_mm=20,
                rider_mass_kg=80,
                front_sag_with_rider_mm=30,
                front_sag_without_rider_mm=30,
            )
        )


RAMP = ClearanceInput(
    wheelbase_mm=1465,
    low_point_from_rear_axle_mm=690,
    low_point_height_mm=262,
    rear_wheel_radius_mm=318,
    front_wheel_radius_mm=341,
)


def test_the_ramp_plane_touches_both_tyres() -> None:
    """Independent of the formula: planes through the point at those angles are tangents."""
    out = clearance(RAMP).result
    for angle, radius, away in (
        (out.rear_side_deg, 318, 690),
        (out.front_side_deg, 341, 1465 - 690),
    ):
        slope = math.radians(angle)
        # line through (0, h), falling toward the wheel; distance of the hub at (away, R)
        distance = abs((radius - 262) * math.cos(slope) + away * math.sin(slope))
        assert distance == pytest.approx(radius, abs=1e-6)


def test_step_and_log_that_pass() -> None:
    out = clearance(RAMP).result
    assert out.log_height_mm == 262
    tilt = out.step_height_mm / 1465
    assert 262 + 690 * tilt == pytest.approx(out.step_height_mm)


def test_clearance_refuses() -> None:
    for change, field in (
        ({"low_point_from_rear_axle_mm": 1465.0}, "low_point_from_rear_axle_mm"),
        ({"added_mass_kg": 5.0}, "front_wheel_rate_n_per_mm"),
    ):
        with pytest.raises(InputError, match=field):
            replace(RAMP, **change)
    with pytest.raises(InputError, match="on the ground"):
        clearance(replace(RAMP, plate_below_low_point_mm=262.0))
    with pytest.raises(InputError, match="tyre"):
        clearance(replace(RAMP, low_point_from_rear_axle_mm=100.0))


def test_budget_findings_by_case() -> None:
    def codes(required: float) -> list[str]:
        parts = (BudgetPart("head", 4.0, 0.5),)
        out = clearance_budget(BudgetInput(10.0, parts, 0.5, required))
        assert out.result.worst_mm <= out.result.rss_mm <= out.result.nominal_mm
        return [f.code for f in out.findings]

    assert codes(4.0) == []
    assert codes(5.5) == ["gap small in the worst case"]
    assert codes(6.5) == ["gap too small"]
    with pytest.raises(InputError, match="parts"):
        BudgetInput(10.0, tuple(BudgetPart(f"p{i}", 1.0) for i in range(51)))
