"""What is left of a preload: cones integrated, embedding by its table, creep at held length."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from rugged_shield.core.errors import InputError
from rugged_shield.core.tighten.preload_loss import (
    PreloadLossInput,
    PressedLayer,
    _cone_tangent,
    preload_loss,
)

STEEL = PressedLayer(thickness_mm=12, outer_mm=30, hole_mm=9, e_mpa=205000)
ONE = PreloadLossInput(
    thread="M8", female="tapped", layers=(STEEL,), bearing_diameter_mm=12.33, preload_n=14000
)


def by_steps(given: PreloadLossInput) -> float:
    """The cone added up slice by slice."""
    grip = sum(layer.thickness_mm for layer in given.layers)
    tangent = _cone_tangent(given, grip)
    total, at = 0.0, 0.0
    for layer in given.layers:
        n = 20_000
        x = at + (np.arange(n) + 0.5) * layer.thickness_mm / n
        depth = np.minimum(x, grip - x) if given.female == "nut" else x
        wide = np.minimum(layer.outer_mm, given.bearing_diameter_mm + 2 * depth * tangent)
        area = math.pi / 4 * (wide**2 - layer.hole_mm**2)
        total += float((layer.thickness_mm / n / area).sum()) / layer.e_mpa
        at += layer.thickness_mm
    return total


layers = st.lists(
    st.builds(
        PressedLayer,
        thickness_mm=st.floats(1, 15),
        outer_mm=st.floats(13, 60),
        hole_mm=st.floats(8.4, 9.5),
        e_mpa=st.sampled_from([1050.0, 70300.0, 205000.0]),
    ),
    min_size=1,
    max_size=4,
)


@given(layers, st.sampled_from(["tapped", "nut"]))
@settings(max_examples=40)
def test_the_closed_cone_is_the_sum_of_its_slices(some: list[PressedLayer], female: str) -> None:
    asked = replace(ONE, layers=tuple(some), female=female)  # type: ignore[arg-type]
    assert preload_loss(asked).result.delta_p_mm_per_n == pytest.approx(by_steps(asked), rel=2e-4)


@given(st.floats(2, 30))
def test_a_longer_grip_keeps_more_of_its_preload(grip: float) -> None:
    short = preload_loss(replace(ONE, layers=(replace(STEEL, thickness_mm=grip),))).result
    long = preload_loss(replace(ONE, layers=(replace(STEEL, thickness_mm=grip * 1.5),))).result
    assert long.embed_loss_n < short.embed_loss_n


def test_more_interfaces_rougher_faces_and_a_coat_lose_more() -> None:
    half = replace(STEEL, thickness_mm=6)
    base = preload_loss(ONE).result
    for change in (
        {"layers": (half, half)},
        {"roughness": "coarse"},
        {"loading": "shear"},
        {"extra_loss_um": 8.0},
    ):
        worse = preload_loss(replace(ONE, **change)).result  # type: ignore[arg-type]
        assert worse.f_z_um > base.f_z_um
        assert worse.left_after_embedding_n < base.left_after_embedding_n
    assert base.left_after_creep_n == pytest.approx(base.left_after_embedding_n)


def test_a_joint_that_loses_all_is_loose_and_says_so() -> None:
    thin = replace(ONE, layers=(replace(STEEL, thickness_mm=1),), preload_n=500.0)
    found = preload_loss(thin)
    assert found.result.share_left == 0.0
    assert any("loose" in words for words in found.warnings)


def test_a_sleeve_in_plastics_place_keeps_what_plastic_lets_go() -> None:
    plastic = PressedLayer(thickness_mm=12, outer_mm=50, hole_mm=9, e_mpa=1050, creep_factor=0.35)
    sleeve = PressedLayer(thickness_mm=12, outer_mm=14, hole_mm=8.5, e_mpa=205000)
    soft = preload_loss(replace(ONE, layers=(plastic,))).result
    held = preload_loss(replace(ONE, layers=(sleeve,))).result
    assert soft.share_left < 0.5 < held.share_left


@pytest.mark.parametrize(
    "change",
    [
        {"thread": "M7"},
        {"head": "square"},
        {"layers": ()},
        {"shank_mm": 40.0},
        {"layers": (replace(STEEL, hole_mm=13.0),)},
        {"preload_n": 0.0},
    ],
)
def test_refusals(change: dict[str, object]) -> None:
    with pytest.raises(InputError):
        replace(ONE, **change)  # type: ignore[arg-type]
