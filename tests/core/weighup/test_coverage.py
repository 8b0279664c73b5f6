"""Coverage against closed forms, an independent ray caster and its symmetries."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from rugged_shield.core.errors import InputError
from rugged_shield.core.job.model import Job
from rugged_shield.core.survey.bike import Part
from rugged_shield.core.survey.geometry import FoldedPlate, fold
from rugged_shield.core.survey.plate import Apron, Belly, Cutout, Plate, Wing
from rugged_shield.core.weighup.coverage import (
    DIRECTIONS,
    FIRST_DIRECTIONS,
    CoverageInput,
    coverage,
    coverage_by_stone,
    coverage_of,
)

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
    x_max_mm=720,
    y_min_mm=-60,
    y_max_mm=60,
    z_min_mm=310,
    z_max_mm=370,
)


def share(
    part: Part, plate: Plate, direction: str, stone: float = 0.0, step: float = 12.0
) -> float:
    result = coverage_of((part,), fold(plate), (direction,), stone, step)
    assert result.shares[0].share is not None
    return result.shares[0].share


def test_directions_point_toward_the_stone() -> None:
    for vector in DIRECTIONS.values():
        assert math.isclose(math.dist(vector, (0, 0, 0)), 1)
        assert vector[2] <= 0
    assert DIRECTIONS["from below"] == (0, 0, -1)
    assert DIRECTIONS["from ahead 20° upward"][0] < 0
    assert DIRECTIONS["from the left 35° upward"][1] < 0


def test_a_plate_right_under_a_vital_shields_it_whole() -> None:
    assert share(BOX, FLAT, "from below") == 1.0


def test_a_plate_elsewhere_shields_nothing() -> None:
    away = replace(BOX, x_min_mm=1000, x_max_mm=1100)
    assert share(away, FLAT, "from below") == 0.0


@pytest.mark.parametrize("covered", [0.25, 0.5, 0.75])
def test_half_the_width_shields_half(covered: float) -> None:
    """The plate's edge runs through the vital: the covered share is the share of width."""
    part = replace(BOX, y_min_mm=120 - 120 * covered, y_max_mm=240 - 120 * covered)
    assert share(part, FLAT, "from below") == pytest.approx(covered, abs=0.01)


def test_a_cutout_bares_its_own_area() -> None:
    hole = Cutout(
        key="c",
        panel="belly",
        shape="rectangle",
        purpose="drain",
        u_mm=160,
        v_mm=0,
        width_mm=60,
        height_mm=120,
    )
    cut = replace(FLAT, cutouts=(hole,))
    assert share(BOX, cut, "from below") == pytest.approx(0.5, abs=0.02)
    assert share(BOX, replace(FLAT, cutouts=(replace(hole, closed_door=True),)), "from below") == 1


def test_a_stone_passes_only_where_it_fits() -> None:
    hole = Cutout(
        key="c",
        panel="belly",
        shape="rectangle",
        purpose="drain",
        u_mm=160,
        v_mm=0,
        width_mm=60,
        height_mm=120,
    )
    cut = replace(FLAT, cutouts=(hole,))
    open_to = 1 - share(BOX, cut, "from below", 20.0, 2.0)
    assert open_to == pytest.approx((60 - 40) * (120 - 40) / (120 * 120), abs=0.01)
    assert share(BOX, cut, "from below", 31.0) == 1.0


def test_a_raised_vital_behind_a_sloped_apron_differs_from_its_flat_shadow() -> None:
    """From 20° ahead the apron hides only what lies under the ray over its top edge."""
    plate = replace(
        FLAT,
        apron=Apron(100, 60, 400),
        belly=Belly(
            start_x_mm=500,
            length_mm=400,
            front_width_mm=400,
            rear_width_mm=400,
            z_front_mm=280,
            z_rear_mm=280,
        ),
    )
    part = Part(
        key="v",
        name="v",
        kind="vital",
        shape="case",
        x_min_mm=600,
        x_max_mm=601,
        y_min_mm=-50,
        y_max_mm=50,
        z_min_mm=300,
        z_max_mm=500,
    )
    top_x, top_z = 500 - 50, 280 + 100 * math.sin(math.radians(60))
    hidden = top_z + (600 - top_x) * math.tan(math.radians(20))
    front, below = 200 * math.cos(math.radians(20)), math.sin(math.radians(20))
    seen = ((hidden - 300) * math.cos(math.radians(20)) + below) / (front + below)
    got = share(part, plate, "from ahead 20° upward", step=1.0)
    assert got == pytest.approx(seen, abs=0.01)
    assert got < share(part, plate, "from below")


def brute_force(part: Part, folded: FoldedPlate, direction: str, rays: int) -> float:
    """Independent caster: random points on the box, corner-crossing test for each polygon."""
    rng = np.random.default_rng(7)
    low = np.array([part.x_min_mm, part.y_min_mm, part.z_min_mm])
    high = np.array([part.x_max_mm, part.y_max_mm, part.z_max_mm])
    d = np.array(DIRECTIONS[direction])
    size = high - low
    areas = np.array([size[1] * size[2], size[0] * size[2], size[0] * size[1]]) * np.abs(d)
    axes = rng.choice(3, size=rays, p=areas / areas.sum())
    points = low + rng.random((rays, 3)) * size
    entered = np.where(d > 0, high, low)
    points[np.arange(rays), axes] = entered[axes]
    return float(np.any([_meets(points, d, panel) for panel in folded.panels], axis=0).mean())


def _meets(points: Any, d: Any, panel: Any) -> Any:
    corners = np.array(panel.corners())
    normal = np.cross(corners[1] - corners[0], corners[2] - corners[0])
    if abs(d @ normal) < 1e-9:
        return np.zeros(len(points), bool)
    t = ((corners[0] - points) @ normal) / (d @ normal)
    at = points + t[:, None] * d
    sides = np.array(
        [
            np.cross(after - before, at - before) @ normal
            for before, after in zip(corners, np.roll(corners, -1, axis=0), strict=True)
        ]
    )
    return (t > 0) & ((sides >= 0).all(axis=0) | (sides <= 0).all(axis=0))


@pytest.mark.parametrize("direction", DIRECTIONS)
def test_agrees_with_an_independent_ray_caster(direction: str) -> None:
    plate = replace(
        FLAT,
        apron=Apron(150, 55, 180),
        wing_left=Wing(60, 250, 90, 40),
        wing_right=Wing(100, 200, 60, 60),
    )
    part = Part(
        key="v",
        name="v",
        kind="vital",
        shape="case",
        x_min_mm=520,
        x_max_mm=760,
        y_min_mm=-190,
        y_max_mm=150,
        z_min_mm=300,
        z_max_mm=420,
    )
    mine = share(part, plate, direction, step=4.0)
    assert mine == pytest.approx(brute_force(part, fold(plate), direction, 40_000), abs=0.01)


@settings(max_examples=25, deadline=None)
@given(st.floats(-200, 100), st.floats(20, 150), st.floats(20, 120), st.floats(10, 80))
def test_a_mirrored_bike_has_mirrored_coverage(
    y: float, width: float, slant: float, angle: float
) -> None:
    plate = replace(FLAT, wing_left=Wing(40, 300, slant, angle))
    part = replace(BOX, y_min_mm=y, y_max_mm=y + width)
    mirrored = replace(plate, wing_left=None, wing_right=plate.wing_left)
    other = replace(part, y_min_mm=-y - width, y_max_mm=-y)
    for here, there in (
        ("from below", "from below"),
        ("from ahead 20° upward", "from ahead 20° upward"),
        ("from the left 35° upward", "from the right 35° upward"),
    ):
        assert share(part, plate, here) == pytest.approx(share(other, mirrored, there), abs=1e-9)


@settings(max_examples=25, deadline=None)
@given(st.floats(0, 100), st.floats(0, 60))
def test_more_plate_or_a_bigger_stone_never_shields_less(more: float, stone: float) -> None:
    hole = Cutout(
        key="c",
        panel="belly",
        shape="round",
        purpose="drain",
        u_mm=200,
        v_mm=0,
        width_mm=70,
        height_mm=70,
    )
    small = replace(FLAT, cutouts=(hole,))
    large = replace(
        small,
        belly=Belly(
            start_x_mm=500,
            length_mm=400,
            front_width_mm=240 + more,
            rear_width_mm=240 + more,
            z_front_mm=280,
            z_rear_mm=280,
        ),
    )
    part = replace(BOX, y_min_mm=40, y_max_mm=180)
    assert share(part, large, "from below") >= share(part, small, "from below") - 1e-9
    assert share(BOX, small, "from below", stone) >= share(BOX, small, "from below") - 1e-9


def test_weights_count_the_consequence() -> None:
    bare = replace(BOX, key="w", x_min_mm=1000, x_max_mm=1100, consequence=1)
    result = coverage_of((replace(BOX, consequence=4), bare), fold(FLAT), ("from below",))
    assert result.weighted["from below"] == pytest.approx(4 / 5)


def test_the_outcome_says_what_is_bare(choosing: Job) -> None:
    plate = choosing.stock.plate
    outcome = coverage(CoverageInput(choosing.bike.vitals(), plate))
    assert any("bare" in reason for reason in outcome.reasons)
    assert outcome.result.rays > 1000
    assert set(outcome.result.weighted) == set(FIRST_DIRECTIONS)


@pytest.mark.parametrize(
    "bad", [{"parts": ()}, {"stone_radius_mm": -1.0}, {"spacing_mm": 13.0}, {"spacing_mm": 0.0}]
)
def test_refuses_what_it_cannot_use(bad: dict[str, Any]) -> None:
    with pytest.raises(InputError):
        CoverageInput(**{"parts": (BOX,), "plate": FLAT, **bad})


def test_several_stones_at_once_are_the_same_as_one_by_one(choosing: Job) -> None:
    folded, vitals = fold(choosing.candidates[0].plate), choosing.bike.vitals()
    together = coverage_by_stone(vitals, folded, FIRST_DIRECTIONS, (0.0, 10.0, 20.0))
    for stone, result in zip((0.0, 10.0, 20.0), together, strict=True):
        assert result == coverage_of(vitals, folded, FIRST_DIRECTIONS, stone)
    with pytest.raises(InputError):
        coverage_by_stone(vitals, folded, FIRST_DIRECTIONS, (20.0, 0.0))
