"""A lens that bends lines: taken out by the sheet's own edges, or in what is said to be unsure."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from rugged_shield.core.errors import InputError
from rugged_shield.core.survey.lens import LensSeen
from rugged_shield.core.survey.photo_scale import PhotoScaleInput, PhotoScaleResult, photo_scale

PICTURE = (4000.0, 3000.0)
FOCAL_PX = 3000.0
SHEET = (297.0, 210.0)
CORNERS_MM = np.array([[0, 0], [297, 0], [297, 210], [0, 210]], dtype=float)
EDGES_MM = np.array([[150, 0], [297, 100], [140, 210], [0, 110]], dtype=float)
PLACES = np.array([[-150.0, -80.0], [420.0, -60.0], [150.0, 300.0], [30.0, 90.0]])
CLICK_PX = 1.5


def lens_bends(at: np.ndarray, k1: float) -> np.ndarray:
    """Brown's first term, r in focal lengths from the middle of the picture."""
    away = (at - np.array(PICTURE) / 2) / FOCAL_PX
    r2 = (away**2).sum(axis=1, keepdims=True)
    return np.array(PICTURE) / 2 + FOCAL_PX * away * (1 + k1 * r2)


def view(k1: float, rng: np.random.Generator, edges: bool = True) -> PhotoScaleInput:
    """A picture from anywhere above, every tap off by its usual."""
    tilt, turn = rng.uniform(-0.4, 0.4), rng.uniform(-0.3, 0.3)
    c, s = np.cos(turn), np.sin(turn)
    flat = (np.vstack([CORNERS_MM, EDGES_MM, PLACES]) - [140, 110]) @ np.array([[c, s], [-s, c]])
    away = rng.uniform(620.0, 800.0) - flat[:, 1] * np.sin(tilt)
    px = FOCAL_PX * np.column_stack([flat[:, 0], flat[:, 1] * np.cos(tilt)]) / away[:, None]
    px = lens_bends(px + np.array(PICTURE) / 2, k1) + rng.normal(0.0, CLICK_PX, px.shape)
    taps = [tuple(float(v) for v in p) for p in px]
    return PhotoScaleInput(
        sheet_mm=SHEET,
        corners_px=tuple(taps[:4]),  # type: ignore[arg-type]
        points_px=tuple(taps[8:]),  # type: ignore[arg-type]
        click_u_px=CLICK_PX,
        distances=((0, 1), (0, 2), (1, 3)),
        lens=LensSeen(picture_px=PICTURE, edges_px=tuple(taps[4:8]) if edges else ()),  # type: ignore[arg-type]
    )


APART = [float(np.hypot(*(PLACES[j] - PLACES[i]))) for i, j in ((0, 1), (0, 2), (1, 3))]


def outside(found: PhotoScaleResult) -> int:
    """How many distances lie farther off than twice what is said."""
    pairs = zip(found.distances, APART, strict=True)
    return sum(abs(d.distance_mm - true) > 2.0 * d.u_mm for d, true in pairs)


@pytest.mark.parametrize("edges", [True, False], ids=["edges tapped", "nobody looked"])
@pytest.mark.parametrize("k1", [-0.12, 0.05])
def test_distances_lie_within_what_is_said(k1: float, edges: bool) -> None:
    rng = np.random.default_rng(3)
    many = [outside(photo_scale(view(k1, rng, edges)).result) for _ in range(20)]
    assert sum(many) / (20 * len(APART)) <= 0.1


def test_a_lens_taken_for_none_lies_outside_what_is_said_without_one() -> None:
    rng = np.random.default_rng(3)
    plain = [replace(view(-0.12, rng), lens=None) for _ in range(20)]
    assert sum(outside(photo_scale(one).result) for one in plain) / 60 > 0.3


def test_edges_make_it_surer() -> None:
    bent = view(-0.12, np.random.default_rng(5))
    plain = photo_scale(replace(bent, lens=None)).result
    unseen = photo_scale(replace(bent, lens=LensSeen(picture_px=PICTURE))).result
    seen = photo_scale(bent).result
    assert plain.points_mm == unseen.points_mm
    assert plain.u_mm[0] < seen.u_mm[0] < unseen.u_mm[0]


@pytest.mark.parametrize("k1", [-0.12, -0.06, 0.0, 0.05])
def test_without_a_tap_beside_its_place_the_lens_is_found_as_it_is(
    k1: float, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(f"{__name__}.CLICK_PX", 1e-9)
    exact = replace(view(k1, np.random.default_rng(5)), click_u_px=0.1)
    found = photo_scale(exact).result
    assert found.lens_k == pytest.approx(k1 * (2500.0 / FOCAL_PX) ** 2, abs=2e-4)
    assert np.allclose(found.points_mm, PLACES, atol=0.02)


def test_an_edge_that_stays_bent_is_refused() -> None:
    straight = view(0.0, np.random.default_rng(5))
    assert straight.lens is not None
    beside = (straight.lens.edges_px[0][0], straight.lens.edges_px[0][1] + 90.0)
    lens = LensSeen(picture_px=PICTURE, edges_px=(beside, *straight.lens.edges_px[1:]))
    with pytest.raises(InputError, match="bent"):
        photo_scale(replace(straight, lens=lens))


@pytest.mark.parametrize("given", [
    {"picture_px": (0.0, 100.0)}, {"picture_px": (100.0, float("nan"))},
    {"picture_px": PICTURE, "edges_px": ((1.0, 2.0),)},
    {"picture_px": PICTURE, "edges_px": ((float("inf"), 2.0),) * 4},
])  # fmt: skip
def test_what_is_no_picture_is_refused(given: dict[str, object]) -> None:
    with pytest.raises(InputError):
        LensSeen(**given)  # type: ignore[arg-type]
