"""Millimetres from a photograph: a known view is measured back within what is said."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from rugged_shield.core.errors import InputError
from rugged_shield.core.survey.photo_scale import PhotoScaleInput, photo_scale

SHEET = (297.0, 210.0)
CORNERS_MM = np.array([[0, 0], [297, 0], [297, 210], [0, 210]], dtype=float)
PLACES = np.array([[30.0, -60.0], [270.0, -55.0], [150.0, 260.0], [148.0, 100.0]])


def seen(points: np.ndarray, tilt: float, turn: float) -> np.ndarray:
    """Points of the floor as a camera above it sees them, px."""
    c, s = np.cos(turn), np.sin(turn)
    flat = (points - [150, 100]) @ np.array([[c, s], [-s, c]])
    x, y = flat[:, 0], flat[:, 1] * np.cos(tilt)
    away = 900.0 - flat[:, 1] * np.sin(tilt)
    return np.column_stack([2400 * x / away + 1500, 2400 * y / away + 1100])


def asked(tilt: float = 0.4, turn: float = 0.3, noise: np.ndarray | None = None) -> PhotoScaleInput:
    px = seen(np.vstack([CORNERS_MM, PLACES]), tilt, turn)
    if noise is not None:
        px = px + noise
    pairs = [tuple(float(v) for v in p) for p in px]
    return PhotoScaleInput(
        sheet_mm=SHEET,
        corners_px=tuple(pairs[:4]),  # type: ignore[arg-type]
        points_px=tuple(pairs[4:]),  # type: ignore[arg-type]
        click_u_px=1.5,
        distances=((0, 1), (0, 2)),
    )


@given(st.floats(-0.7, 0.7), st.floats(-3.0, 3.0))
@settings(max_examples=40)
def test_a_known_view_is_measured_back(tilt: float, turn: float) -> None:
    found = photo_scale(asked(tilt, turn)).result
    assert np.allclose(found.points_mm, PLACES, atol=1e-6)
    assert found.distances[0].distance_mm == pytest.approx(np.hypot(240, 5), abs=1e-6)


def test_the_uncertainty_said_is_the_scatter_of_many_taps() -> None:
    rng = np.random.default_rng(7)
    taps = [photo_scale(asked(noise=rng.normal(0.0, 1.5, (8, 2)))).result for _ in range(600)]
    said = photo_scale(asked()).result
    places = np.array([t.points_mm for t in taps])
    for i, u in enumerate(said.u_mm):
        scatter = np.sqrt(np.linalg.eigvalsh(np.cov(places[:, i].T))[-1])
        assert u == pytest.approx(scatter, rel=0.12)
    lengths = np.array([t.distances[1].distance_mm for t in taps])
    assert said.distances[1].u_mm == pytest.approx(lengths.std(), rel=0.12)


def corners(*order: int) -> tuple[tuple[float, float], ...]:
    good = asked().corners_px
    return tuple(good[i] for i in order)


@pytest.mark.parametrize(
    ("bad", "words"),
    [
        (corners(0, 2, 1, 3), "cross"),
        (corners(0, 3, 2, 1), "other way round"),
        (((0, 0), (500, 0), (1000, 0), (0, 700)), "one line"),
        (((0, 0), (30, 0), (30, 20), (0, 20)), "too small"),
        (corners(0, 1, 2), "3"),
    ],
)
def test_bad_photographs_are_refused_in_words(
    bad: tuple[tuple[float, float], ...], words: str
) -> None:
    with pytest.raises(InputError) as caught:
        replace(asked(), corners_px=bad)
    assert words in f"{caught.value.message} {caught.value.value}"


def test_a_point_beyond_the_horizon_is_refused() -> None:
    steep = asked(1.1, 0.0)
    far = ((1500.0, -60000.0), (1500.0, 60000.0))
    with pytest.raises(InputError, match="horizon"):
        photo_scale(replace(steep, points_px=far, distances=((0, 1),)))
