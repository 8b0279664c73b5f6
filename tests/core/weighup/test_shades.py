"""Shades over a mesh: areas of closed forms, nothing lost or twice, levels that meet corners."""

from __future__ import annotations

import numpy as np
import pytest
import shapely
from shapely import MultiPolygon, Polygon

from rugged_shield.core.weighup.response import Array
from rugged_shield.core.weighup.shades import Laid, bands_of, shaded_paths

SIDE = 12


def sheet(at: tuple[float, float] = (0.0, 0.0), first: int = 0) -> tuple[Array, Array]:
    """A square of 120 mm in triangles of both slants, places and corners."""
    x, y = np.meshgrid(np.arange(SIDE + 1) * 10.0, np.arange(SIDE + 1) * 10.0, indexing="ij")
    number = np.arange((SIDE + 1) ** 2).reshape(SIDE + 1, SIDE + 1) + first
    a, b, c, d = number[:-1, :-1], number[1:, :-1], number[1:, 1:], number[:-1, 1:]
    slant = (np.indices(a.shape).sum(axis=0) % 2)[..., None, None] == 0
    one = np.stack([np.stack([a, b, c], -1), np.stack([a, c, d], -1)], -2)
    other = np.stack([np.stack([a, b, d], -1), np.stack([b, c, d], -1)], -2)
    places = np.column_stack([x.ravel() + at[0], y.ravel() + at[1]])
    return places, np.where(slant, one, other).reshape(-1, 3)


def one_panel() -> Laid:
    places, triangles = sheet()
    return Laid(places, triangles, np.zeros(len(triangles), np.int64))


def areas(bands: list[list[Polygon]]) -> list[float]:
    return [sum(body.area for body in bodies) for bodies in bands]


@pytest.mark.parametrize("levels", [[13.0, 61.7, 62.1], [10.0, 60.0, 110.0], [-5.0, 0.0, 120.0]])
def test_a_slope_is_cut_straight_also_where_levels_meet_corners(levels: list[float]) -> None:
    laid = one_panel()
    bands = bands_of(laid, laid.places[:, 0], np.array(levels))
    cuts = np.clip([0.0, *levels, 120.0], 0.0, 120.0)
    assert areas(bands) == pytest.approx(list(np.diff(cuts) * 120.0), abs=3.0)
    assert [len(b) for b in bands] == [int(w > 0) for w in np.diff(cuts)], "each is one body"


@pytest.mark.parametrize("towards", [0.0, 120.0])
@pytest.mark.parametrize("level", [30.0, 60.0])
def test_corners_a_hair_from_a_level_lose_nothing(level: float, towards: float) -> None:
    """One corner beyond it by the last bit, among others on it: no triangle falls out."""
    laid = one_panel()
    values = laid.places[:, 0].copy()
    on = np.flatnonzero(values == level)
    values[on[::2]] = np.nextafter(level, towards)
    found = areas(bands_of(laid, values, np.array([level])))
    assert found == pytest.approx([level * 120.0, (120.0 - level) * 120.0], abs=3.0)


@pytest.mark.parametrize("hair", [0.0, 1e-15, 1e-12, 1e-8, 1e-5])
@pytest.mark.parametrize("seed", range(4))
def test_any_values_are_shaded_whole_and_once(seed: int, hair: float) -> None:
    """Of few whole numbers, or a hair from them: many corners lie on a level, many sides too."""
    laid, rng = one_panel(), np.random.default_rng(seed)
    values = rng.integers(0, 6, len(laid.places)) + hair * rng.normal(size=len(laid.places))
    bands = bands_of(laid, values, np.array([1.0, 2.5, 4.0]))
    assert sum(areas(bands)) == pytest.approx(120.0**2, rel=1e-3)
    for bodies, low, high in zip(bands, [-9, 1, 2.5, 4], [1, 2.5, 4, 99], strict=True):
        own = laid.places[(low + 0.1 < values) & (values < high - 0.1)]
        assert (shapely.distance(shapely.points(own), MultiPolygon(bodies)) < 0.03).all()


def test_what_is_not_known_is_bare() -> None:
    laid = one_panel()
    assert bands_of(laid, np.full(len(laid.places), np.nan), np.array([1.0])) == [[], []]
    values = np.where(laid.places[:, 1] > 60.0, np.nan, 5.0)
    assert areas(bands_of(laid, values, np.array([1.0]))) == pytest.approx([0.0, 120.0 * 60.0])


def test_panels_that_lie_over_each_other_are_one_body() -> None:
    """As a lip that is folded back under the belly is seen from below."""
    places, triangles = sheet()
    more, others = sheet(at=(70.3, 3.1), first=len(places))
    panel_of = np.repeat([0, 1], len(triangles))
    laid = Laid(np.vstack([places, more]), np.vstack([triangles, others]), panel_of)
    bands = bands_of(laid, np.ones(len(laid.places)), np.array([0.5]))
    both = 2 * 120.0**2 - (120.0 - 70.3) * (120.0 - 3.1)
    assert (len(bands[0]), len(bands[1])) == (0, 1)
    assert areas(bands)[1] == pytest.approx(both, rel=1e-4)


def test_a_hole_is_drawn_as_one_ring_and_crumbs_are_left_out() -> None:
    hole = [(20, 20), (20, 30), (30, 30), (30, 20)]
    ring = Polygon([(0, 0), (50, 0), (50, 50), (0, 50)], [hole])
    crumb = Polygon([(0, 0), (0.5, 0), (0, 0.5)])
    (path,) = shaded_paths([[ring, crumb]], ("band 1",))
    assert Polygon(path.points).area == pytest.approx(2500.0 - 100.0)
