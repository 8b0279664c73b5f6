"""Brackets pulled and bent; fields of holes that stay clear."""

from __future__ import annotations

import math
from dataclasses import replace

import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from rugged_shield.core.errors import InputError
from rugged_shield.core.fitup.bracket_bend import BracketBendInput, bracket_bend
from rugged_shield.core.fitup.vent_field import Rim, VentFieldInput, vent_field

STRAP = BracketBendInput(
    width_mm=30,
    thickness_mm=4,
    free_length_mm=60,
    e_mpa=205000,
    yield_mpa=235,
    gap_mm=0.3,
)


def force(gap: float) -> float:
    found = bracket_bend(replace(STRAP, gap_mm=gap)).result.force_n
    assert found is not None
    return found


def test_below_yield_it_is_the_cantilever_of_the_books() -> None:
    i = 30 * 4**3 / 12
    assert force(0.3) == pytest.approx(3 * 205000 * i * 0.3 / 60**3)


def test_force_goes_on_without_a_step_at_yield_and_at_the_hinge() -> None:
    at_yield = bracket_bend(STRAP).result.gap_at_yield_mm
    for gap in (at_yield, at_yield * 20 / 9):
        assert force(gap * (1 - 1e-6)) == pytest.approx(force(gap * (1 + 1e-6)), rel=1e-4)
    assert force(50.0) == pytest.approx(1.5 * force(at_yield))


def test_it_collapses_where_the_full_hinge_is_reached() -> None:
    """F = 1.5 F_y at 20/9 of the gap at yield (Timoshenko, elastic-plastic cantilever)."""
    at_yield = bracket_bend(STRAP).result.gap_at_yield_mm
    for share, gone in ((0.9, False), (2.2, False), (2.23, True), (9.0, True)):
        found = bracket_bend(replace(STRAP, gap_mm=share * at_yield)).result
        assert (found.yields, found.collapses) == (share > 1.0, gone), share
    unasked = bracket_bend(replace(STRAP, gap_mm=None, bend_deg=20.0, inside_radius_mm=8.0)).result
    assert unasked.collapses is None


@given(st.floats(0.0, 20.0), st.floats(0.0, 20.0))
def test_a_wider_gap_never_pulls_less(one: float, other: float) -> None:
    low, high = sorted((one, other))
    assert force(low) <= force(high) + 1e-9


def test_a_strap_that_springs_back_whole_is_refused() -> None:
    soft = replace(STRAP, gap_mm=None, bend_deg=10.0, inside_radius_mm=200.0, thickness_mm=0.5)
    with pytest.raises(InputError, match="springs back"):
        bracket_bend(replace(soft, yield_mpa=900.0))
    with pytest.raises(InputError):
        replace(STRAP, gap_mm=None)


def test_a_stiffer_metal_springs_back_less() -> None:
    bent = replace(STRAP, gap_mm=None, bend_deg=20.0, inside_radius_mm=8.0)
    steel = bracket_bend(bent).result.bend_to_deg
    light = bracket_bend(replace(bent, e_mpa=70300.0)).result.bend_to_deg
    assert steel is not None
    assert light is not None
    assert 20.0 < steel < light


FIELD = VentFieldInput(
    panel=((0, 0), (240, 0), (200, 160), (40, 160)),
    bends=(((0, 0), (240, 0)),),
    mounts=(Rim(x_mm=60, y_mm=140, radius_mm=12),),
    hole_diameter_mm=12,
    pitch_mm=22,
    thickness_mm=4,
    density_kg_m3=2680,
)


@given(st.floats(4.0, 30.0), st.floats(1.1, 3.0), st.sampled_from(["staggered", "square"]))
@settings(max_examples=40)
def test_every_hole_keeps_away_from_all_it_must(d: float, ratio: float, pattern: str) -> None:
    asked = replace(FIELD, hole_diameter_mm=d, pitch_mm=d * ratio, pattern=pattern)  # type: ignore[arg-type]
    found = vent_field(asked).result
    outline = shapely.Polygon(asked.panel)
    bend = shapely.LineString(asked.bends[0])
    cut = shapely.LineString([(240, 0), (200, 160), (40, 160), (0, 0)])
    for place in found.centres_mm:
        point = shapely.Point(place)
        assert outline.contains(point)
        assert point.distance(cut) >= 1.5 * d - 1e-5
        assert point.distance(bend) >= 2 * d + 4 - 1e-5
        assert point.distance(shapely.Point(60, 140)) - 12 >= 2 * d + 4 - 1e-5
    assert found.open_area_mm2 == pytest.approx(len(found.centres_mm) * math.pi / 4 * d**2)


def test_holes_stand_a_pitch_apart_and_a_cutout_takes_some() -> None:
    whole = vent_field(FIELD).result
    points = [shapely.Point(p) for p in whole.centres_mm]
    nearest = min(a.distance(b) for i, a in enumerate(points) for b in points[:i])
    assert nearest == pytest.approx(22.0, abs=1e-6)
    opening = ((100, 40), (140, 40), (140, 80), (100, 80))
    for less in (
        replace(FIELD, cutouts=(Rim(x_mm=120, y_mm=80, radius_mm=15),)),
        replace(FIELD, openings=(opening,)),
    ):
        assert vent_field(less).result.count < whole.count


@pytest.mark.parametrize(
    "change",
    [
        {"pitch_mm": 12.0},
        {"panel": ((0, 0), (10, 0))},
        {"panel": ((0, 0), (10, 10), (10, 0), (0, 10))},
        {"hole_diameter_mm": 0.2},
    ],
)
def test_fields_that_are_none_are_refused(change: dict[str, object]) -> None:
    with pytest.raises(InputError):
        replace(FIELD, **change)  # type: ignore[arg-type]
