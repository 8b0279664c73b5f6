"""Limits, lubricants and wrench settings: properties and refusals."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Any

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from rugged_shield.core.amounts import percent
from rugged_shield.core.errors import InputError
from rugged_shield.core.mechanics.strip import StripInput, thread_strip
from rugged_shield.core.tables.friction import wrench_error
from rugged_shield.core.tighten.limits import (
    LimitInput,
    LubricantInput,
    lubricant_change,
    torque_limit,
)
from rugged_shield.core.tighten.wrench import WrenchInput, wrench_setting

LIMIT = LimitInput(
    thread="M8",
    bolt_rp02_mpa=640,
    head_bearing_diameter_mm=15.8,
    head_bearing_hole_mm=9.0,
    mu_thread=0.12,
    mu_head=0.12,
    utilisation=0.9,
    engagement_effective_mm=9.0,
    female_shear_strength_mpa=110,
    strip_safety_factor=2.0,
    clamped_bearing_outer_mm=15.8,
    clamped_bearing_inner_mm=9.0,
    bearing_pressure_limit_mpa=220.0,
)
LUBE = LubricantInput(
    thread="M8",
    torque_dry_nm=22,
    mu_dry=0.14,
    mu_new=0.10,
    head_bearing_diameter_mm=15.8,
    head_bearing_hole_mm=9.0,
    bolt_rp02_mpa=640,
)
WRENCH = WrenchInput(
    torque_wanted_nm=22,
    wrench_length_mm=270,
    thread="M8",
    head_bearing_diameter_mm=15.8,
    head_bearing_hole_mm=9.0,
    mu_min=0.1,
    mu_max=0.2,
)


@given(st.floats(4, 30), st.floats(50, 500), st.floats(10, 500))
def test_the_least_limit_governs(held: float, tau: float, pressure: float) -> None:
    result = torque_limit(
        replace(
            LIMIT,
            engagement_effective_mm=held,
            female_shear_strength_mpa=tau,
            bearing_pressure_limit_mpa=pressure,
        )
    ).result
    assert result.preload_n == min(result.preload_limits_n.values())
    assert result.preload_limits_n[result.governing] == result.preload_n
    assert result.torque_nm == pytest.approx(result.preload_n * result.torque_per_preload_mm / 1000)


def test_limits_that_are_not_known_do_not_govern() -> None:
    bare = LimitInput(
        thread="M8",
        bolt_rp02_mpa=640,
        head_bearing_diameter_mm=15.8,
        head_bearing_hole_mm=9.0,
        mu_thread=0.12,
        mu_head=0.12,
    )
    result = torque_limit(bare).result
    assert set(result.preload_limits_n) == {"bolt"}
    assert result.bearing_area_mm2 is None
    rated = torque_limit(replace(bare, other_limits_n={"clip nut rating": 4000.0})).result
    assert rated.governing == "clip nut rating"


def test_reduced_loadability_reduces_the_bolt_only() -> None:
    full, reduced = torque_limit(LIMIT).result, torque_limit(replace(LIMIT, loadability=0.8)).result
    assert reduced.preload_limits_n["bolt"] == pytest.approx(0.8 * full.preload_limits_n["bolt"])
    assert reduced.preload_limits_n["bearing pressure"] == full.preload_limits_n["bearing pressure"]


def test_a_prevailing_nut_adds_its_torque() -> None:
    result = torque_limit(replace(LIMIT, prevailing_torque_nm=6)).result
    assert result.torque_set_nm == pytest.approx(result.torque_nm + 6)


@given(st.floats(0.06, 0.4), st.floats(0.06, 0.4))
def test_lubricant_factor_is_below_one_exactly_when_slicker(dry: float, new: float) -> None:
    assume(abs(dry - new) > 1e-6)
    result = lubricant_change(replace(LUBE, mu_dry=dry, mu_new=new)).result
    assert (result.factor < 1) == (new < dry)
    back = lubricant_change(replace(LUBE, mu_dry=new, mu_new=dry)).result
    assert result.factor * back.factor == pytest.approx(1)


def test_keeping_a_dry_torque_on_a_greased_screw_is_shown() -> None:
    outcome = lubricant_change(LUBE)
    assert outcome.result.utilisation_if_not_reduced > outcome.result.utilisation_dry
    assert percent(outcome.result.utilisation_if_not_reduced) in outcome.reasons[1]


def test_ninety_degrees_leave_the_setting_and_straight_ahead_lowers_it() -> None:
    square = replace(WRENCH, extension_mm=100, extension_angle_deg=90)
    assert wrench_setting(square).result.wrench_setting_nm == pytest.approx(22)
    ahead = replace(WRENCH, extension_mm=100, extension_angle_deg=0)
    assert wrench_setting(ahead).result.wrench_setting_nm == pytest.approx(22 * 270 / 370)
    back = replace(WRENCH, extension_mm=100, extension_angle_deg=180)
    assert wrench_setting(back).result.wrench_setting_nm == pytest.approx(22 * 270 / 170)


def test_an_extension_folded_past_the_grip_is_refused() -> None:
    with pytest.raises(InputError, match="no lever"):
        wrench_setting(replace(WRENCH, extension_mm=300, extension_angle_deg=180))


@given(st.floats(0.01, 0.3))
def test_more_wrench_error_means_more_scatter(error: float) -> None:
    sharp = wrench_setting(replace(WRENCH, wrench_relative_error=0.0)).result
    blunt = wrench_setting(replace(WRENCH, wrench_relative_error=error)).result
    assert blunt.preload_max_n > sharp.preload_max_n
    assert blunt.preload_min_n < sharp.preload_min_n
    assert blunt.scatter_ratio == pytest.approx(sharp.scatter_ratio * (1 + error) / (1 - error))


@pytest.mark.parametrize(
    ("torque", "error"), [(9.99, 0.06), (10.0, 0.06), (10.01, 0.04), (100, 0.04)]
)
def test_wrench_error_of_iso_6789(torque: float, error: float) -> None:
    assert wrench_error(torque) == error


@given(st.floats(0.5, 40))
def test_strip_load_grows_with_engagement_and_names_the_first_failure(length: float) -> None:
    result = thread_strip(
        StripInput(thread="M8", engagement_effective_mm=length, female_shear_strength_mpa=140)
    ).result
    assert result.strip_load_n == pytest.approx(140 * result.internal_shear_area_min_mm2)
    least = min(result.strip_load_n, result.bolt_break_load_n, result.bolt_thread_strip_load_n)
    named = {
        "female thread strips": result.strip_load_n,
        "bolt breaks": result.bolt_break_load_n,
        "bolt thread strips": result.bolt_thread_strip_load_n,
    }[result.first_failure]
    assert math.isclose(named, least)


BAD: list[tuple[Any, dict[str, Any], str]] = [
    (LIMIT, {"thread": "M9"}, "thread"),
    (LIMIT, {"mu_thread": 0.0}, "mu_thread"),
    (LIMIT, {"utilisation": 1.01}, "utilisation"),
    (LIMIT, {"head_bearing_hole_mm": 16.0}, "head_bearing_hole_mm"),
    (LIMIT, {"clamped_bearing_inner_mm": 20.0}, "clamped_bearing_inner_mm"),
    (LIMIT, {"strip_safety_factor": 0.9}, "strip_safety_factor"),
    (LIMIT, {"other_limits_n": {"clip": -1.0}}, "other_limits_n.clip"),
    (LIMIT, {"other_limits_n": {"clip": float("nan")}}, "other_limits_n.clip"),
    (LUBE, {"torque_dry_nm": 0.0}, "torque_dry_nm"),
    (LUBE, {"mu_new": 0.7}, "mu_new"),
    (WRENCH, {"wrench_length_mm": 10.0}, "wrench_length_mm"),
    (WRENCH, {"mu_min": 0.3}, "mu_min"),
    (WRENCH, {"wrench_relative_error": 0.6}, "wrench_relative_error"),
]


@pytest.mark.parametrize(("base", "change", "field"), BAD, ids=lambda x: str(x)[:30])
def test_refusals_name_the_field(base: Any, change: dict[str, Any], field: str) -> None:
    with pytest.raises(InputError) as caught:
        torque_limit(replace(base, **change)) if base is LIMIT else replace(base, **change)
    assert caught.value.field == field
