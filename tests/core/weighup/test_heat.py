"""Heat: the balance closes, limits of gap, order of what helps."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from rugged_shield.core.errors import InputError
from rugged_shield.core.weighup.heat import (
    LEAST_GAP_MM,
    MARGIN_K,
    MOST_GAP_MM,
    HeatInput,
    band_k,
    conductivity_w_per_mk,
    heat,
    least_gap_mm,
    plate_temperature_k,
    view_factor,
    viscosity_m2_per_s,
)

HEADER = HeatInput(hot_surface_c=330.0, gap_mm=25.0, facing_area_mm2=6000.0, service_limit_c=80.0)


@given(
    st.floats(80, 800),
    st.floats(1, 300),
    st.floats(500, 50_000),
    st.floats(0, 30),
    st.one_of(st.none(), st.floats(0.05, 1)),
)
def test_the_balance_closes_to_rounding(
    hot: float, gap: float, area: float, speed: float, shield: float | None
) -> None:
    r = heat(
        HeatInput(
            hot_surface_c=hot,
            gap_mm=gap,
            facing_area_mm2=area,
            service_limit_c=400.0,
            speed_m_per_s=speed,
            shield_emissivity=shield,
        )
    ).result
    into = r.radiated_in_w_per_m2 + r.conducted_in_w_per_m2
    out = r.out_outer_w_per_m2 + r.out_inner_w_per_m2
    assert into == pytest.approx(out, rel=1e-6, abs=1e-6)
    assert 25.0 <= r.plate_temperature_c <= hot


def test_touching_is_as_hot_as_the_part_and_far_away_is_ambient() -> None:
    near = heat(replace(HEADER, gap_mm=0.5, facing_area_mm2=1e6)).result
    assert near.plate_temperature_c > 0.85 * HEADER.hot_surface_c
    far = heat(replace(HEADER, gap_mm=MOST_GAP_MM)).result
    assert far.plate_temperature_c == pytest.approx(HEADER.ambient_c, abs=3.0)


def test_air_at_thirty_degrees_is_that_of_tables() -> None:
    """Incropera & DeWitt, table A.4 at 300 K: k 26.3e-3 W/m·K, ν 15.89e-6 m²/s."""
    assert conductivity_w_per_mk(300.0) == pytest.approx(26.3e-3, rel=0.02)
    assert viscosity_m2_per_s(300.0) == pytest.approx(15.89e-6, rel=0.02)


def test_gap_air_and_a_reflective_sheet_help() -> None:
    base = plate_temperature_k(HEADER)
    for change in (
        {"gap_mm": 40.0},
        {"speed_m_per_s": 8.0},
        {"shield_emissivity": 0.1},
        {"hot_surface_c": 250.0},
        {"hot_emissivity": 0.4},
    ):
        assert plate_temperature_k(replace(HEADER, **change)) < base, change
    assert view_factor(6000.0, 25.0) > view_factor(6000.0, 40.0)


HOT_BOX = HeatInput(
    hot_surface_c=420.0, gap_mm=40.0, facing_area_mm2=4000.0, service_limit_c=80.0,
    speed_m_per_s=12.0,
)  # fmt: skip


def test_plastic_has_two_faces() -> None:
    """10 mm HDPE at 12 m/s: the hot face is far warmer than a sheet of one temperature.

    117 °C for 80, and 63 mm for 46: finite differences through the thickness.
    """
    one = heat(HOT_BOX).result
    two = heat(replace(HOT_BOX, thickness_mm=10.0, conductivity_w_per_mk=0.45)).result
    assert one.plate_temperature_c == pytest.approx(80.0, abs=1.0)
    assert one.outer_face_c == one.plate_temperature_c
    assert two.plate_temperature_c == pytest.approx(117.0, abs=1.0)
    assert two.outer_face_c < one.plate_temperature_c
    assert one.least_gap_mm == pytest.approx(46.0, abs=1.0)
    assert two.least_gap_mm == pytest.approx(63.0, abs=1.0)


def test_what_goes_through_leaves_at_the_outer_face() -> None:
    given = replace(HOT_BOX, thickness_mm=12.0, conductivity_w_per_mk=0.2)
    r = heat(given).result
    through = (r.plate_temperature_c - r.outer_face_c) / given.resistance_m2k_per_w
    assert through == pytest.approx(r.out_outer_w_per_m2, rel=1e-6)
    into = r.radiated_in_w_per_m2 + r.conducted_in_w_per_m2 - r.out_inner_w_per_m2
    assert into == pytest.approx(through, rel=1e-6)


def test_metal_is_as_warm_on_both_faces() -> None:
    r = heat(replace(HOT_BOX, thickness_mm=3.0, conductivity_w_per_mk=16.0)).result
    assert r.outer_face_c == pytest.approx(r.plate_temperature_c, abs=1.0)


def test_the_least_gap_is_where_the_limit_is_met() -> None:
    gap = heat(HEADER).result.least_gap_mm
    assert gap is not None
    assert plate_temperature_k(replace(HEADER, gap_mm=gap)) - 273.15 == pytest.approx(
        70.0, abs=0.01
    )
    none = heat(replace(HEADER, service_limit_c=40.0, ambient_c=38.0)).result
    assert none.least_gap_mm is None


@given(
    st.floats(62, 900),
    st.floats(500, 50_000),
    st.floats(40, 500),
    st.floats(-40, 60),
    st.floats(0, 30),
    st.floats(0, 20),
    st.one_of(st.none(), st.floats(0.1, 50)),
)
def test_the_least_gap_by_the_balance_itself(
    hot: float,
    area: float,
    limit: float,
    ambient: float,
    speed: float,
    thick: float,
    conducts: float | None,
) -> None:
    """Held against the temperature at that gap, and at both ends where there is none between."""
    asked = HeatInput(
        hot_surface_c=hot,
        gap_mm=25.0,
        facing_area_mm2=area,
        service_limit_c=limit,
        ambient_c=ambient,
        speed_m_per_s=speed,
        thickness_mm=thick,
        conductivity_w_per_mk=conducts,
    )
    gap = least_gap_mm(asked)

    def over_k(at_mm: float) -> float:
        return plate_temperature_k(replace(asked, gap_mm=at_mm)) - 273.15 - (limit - MARGIN_K)

    if gap is None:
        assert over_k(MOST_GAP_MM) > -1e-6
    elif gap == LEAST_GAP_MM:
        assert over_k(LEAST_GAP_MM) < 1e-6
    else:
        assert over_k(gap) == pytest.approx(0.0, abs=0.05)


def test_what_it_says() -> None:
    assert [f.code for f in heat(HEADER).findings] == ["too hot"]
    mild = heat(replace(HEADER, gap_mm=95.0))
    assert [f.code for f in mild.findings] == ["heat near its limit"]
    assert heat(replace(HEADER, gap_mm=300.0)).findings == ()


@pytest.mark.parametrize(
    "change",
    [{"hot_surface_c": 20.0, "ambient_c": 30.0}, {"gap_mm": 0.0}, {"plate_emissivity": 0.0}],
)
def test_refusals(change: dict[str, float]) -> None:
    with pytest.raises(InputError):
        replace(HEADER, **change)


BANDED = [
    pytest.param(replace(HEADER, gap_mm=30.0), id="plastic"),
    pytest.param(replace(HEADER, gap_mm=60.0, hot_surface_c=420.0), id="far and hot"),
    pytest.param(replace(HEADER, gap_mm=30.0, speed_m_per_s=12.0), id="moving"),
    pytest.param(replace(HEADER, gap_mm=20.0, shield_emissivity=0.1), id="behind a foil"),
    pytest.param(
        replace(HEADER, gap_mm=40.0, hot_surface_u_k=10.0, gap_u_mm=1.0), id="all measured"
    ),
]


@pytest.mark.parametrize("given", BANDED)
def test_the_band_is_that_of_many_draws(given: HeatInput) -> None:
    """5 to 95 % of 300 draws within the bands of all that is not sure."""
    rng = np.random.default_rng(4)

    def drawn() -> float:
        a, b, c, d, e, f = rng.normal(0.0, 1.0 / 1.645, 6)
        foil = given.shield_emissivity
        return plate_temperature_k(
            replace(
                given,
                hot_surface_c=given.hot_surface_c + a * given.hot_surface_u_k,
                gap_mm=max(given.gap_mm + b * given.gap_u_mm, 0.5),
                film_share=max(1.0 + 0.3 * c, 0.25),
                hot_emissivity=min(max(given.hot_emissivity + 0.1 * d, 0.02), 1.0),
                plate_emissivity=min(max(given.plate_emissivity + 0.1 * e, 0.02), 1.0),
                shield_emissivity=None if foil is None else min(max(foil + 0.1 * f, 0.02), 1.0),
            )
        )

    draws = np.array([drawn() for _ in range(300)])
    low, high = np.quantile(draws, [0.05, 0.95])
    assert band_k(given) == pytest.approx((high - low) / 2, rel=0.3)
    here = plate_temperature_k(given)
    share = np.mean(np.abs(draws - here) <= band_k(given))
    assert 0.83 <= share <= 0.99


def test_what_is_measured_narrows_the_band() -> None:
    rough = replace(HEADER, hot_surface_u_k=60.0, gap_u_mm=15.0)
    assert band_k(replace(rough, hot_surface_u_k=10.0, gap_u_mm=1.0)) < band_k(rough) / 1.5
