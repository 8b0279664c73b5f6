"""Hidden surfaces in space against closed forms: a cube, crossing sheets, one behind another."""

from __future__ import annotations

import math
from itertools import pairwise

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import Polygon, union_all

from rugged_shield.core.errors import InputError
from rugged_shield.core.mechanics.drawing import Path
from rugged_shield.core.mechanics.frames import Vec3, cross, dot
from rugged_shield.core.mechanics.in_space import Face, View, box_faces, seen_from, shows_at
from rugged_shield.core.survey.in_space import RISES_DEG, TURNS_DEG, space_view


def area(paths: tuple[Path, ...], ref: str = "") -> float:
    """Area of what is filled of a thing, mm²."""
    return sum(Polygon(p.points).area for p in paths if p.closed and (ref == "" or p.ref == ref))


def sheet(x_mm: float, size_mm: float, ref: str, shows_hidden: bool = False) -> Face:
    """An upright square across the bike at x, its middle on the axis."""
    h = size_mm / 2
    ring: tuple[Vec3, ...] = ((x_mm, -h, -h), (x_mm, h, -h), (x_mm, h, h), (x_mm, -h, h))
    return Face(ring=ring, ref=ref, shows_hidden=shows_hidden)


@settings(max_examples=60, deadline=None)
@given(st.floats(0, 360), st.floats(-80, 80))
def test_the_axes_of_a_view_are_square_and_upright(turn: float, rise: float) -> None:
    right, up, into = View(turn, rise).axes
    for a, b in ((right, up), (up, into), (into, right)):
        assert dot(a, b) == pytest.approx(0, abs=1e-12)
    assert cross(right, up) == pytest.approx(tuple(-v for v in into), abs=1e-12)
    assert up[2] >= -1e-12


def test_from_the_front_the_left_is_on_the_right() -> None:
    """One looks the bike in the face: the rider's right hand is at the left of the picture."""
    view = View(0.0, 0.0)
    x, _ = view.at((0.0, 100.0, 0.0))
    assert x == pytest.approx(-100.0)
    assert view.depth((500.0, 0.0, 0.0)) > view.depth((0.0, 0.0, 0.0))
    assert View(90.0, 0.0).at((100.0, 0.0, 0.0))[0] == pytest.approx(-100.0)


def test_a_cube_on_its_corner_is_a_regular_hexagon() -> None:
    """Three faces of a cube of 100 show, each 100²/√3; its six edges outside make the hexagon."""
    cube = box_faces((0, 0, 0), (100, 100, 100), ref="cube")
    paths = seen_from(cube, View(45.0, math.degrees(math.asin(1 / math.sqrt(3)))))
    assert area(paths) == pytest.approx(3 * 100**2 / math.sqrt(3), rel=1e-6)
    assert len([p for p in paths if p.closed]) == 3


@settings(max_examples=40, deadline=None)
@given(st.floats(0, 360), st.floats(-75, 75), st.integers(0, 5))
def test_what_shows_covers_what_is_there_once(turn: float, rise: float, seed: int) -> None:
    """Boxes that may cross: what is filled adds up to the area that they cover together."""
    low = (10.0 * seed, -20.0, 5.0 * seed)
    boxes = (
        *box_faces((0, 0, 0), (100, 60, 40)),
        *box_faces(low, (low[0] + 50, low[1] + 90, low[2] + 70)),
    )
    view = View(turn, rise)
    flat = [Polygon([view.at(p) for p in face.ring]) for face in boxes]
    covered = union_all([f for f in flat if f.area > 1.0 and f.is_valid]).area
    assert area(seen_from(boxes, view)) == pytest.approx(covered, rel=2e-3, abs=5.0)


def test_of_a_sheet_behind_a_smaller_one_the_rest_shows() -> None:
    near, far = sheet(0.0, 40.0, "near"), sheet(100.0, 100.0, "far", shows_hidden=True)
    paths = seen_from((far, near), View(0.0, 0.0))
    assert area(paths, "near") == pytest.approx(40**2)
    assert area(paths, "far") == pytest.approx(100**2 - 40**2)
    assert not [p for p in paths if p.weight == "hidden"], "its own edges lie outside the other"
    behind = seen_from((sheet(100.0, 20.0, "small", shows_hidden=True), near), View(0.0, 0.0))
    dashed = [p for p in behind if p.weight == "hidden"]
    length = sum(math.dist(a, b) for p in dashed for a, b in pairwise(p.points))
    assert length == pytest.approx(80.0, rel=0.02)
    assert area(behind, "small") == 0


def test_sheets_that_cross_are_cut_where_they_cross() -> None:
    """Two squares of 100 through each other at right angles, seen half way: each shows one half."""
    h = 50.0
    a = Face(ring=((-h, 0, -h), (h, 0, -h), (h, 0, h), (-h, 0, h)), ref="along")
    b = Face(ring=((0, -h, -h), (0, h, -h), (0, h, h), (0, -h, h)), ref="across")
    paths = seen_from((a, b), View(45.0, 0.0))
    wide = 100 * math.cos(math.radians(45))
    assert area(paths) == pytest.approx(wide * 100, rel=1e-3)
    assert area(paths, "along") == pytest.approx(area(paths, "across"), rel=3e-3)


def test_a_hole_shows_what_lies_behind_it() -> None:
    hole = ((0.0, -10.0, -10.0), (0.0, 10.0, -10.0), (0.0, 10.0, 10.0), (0.0, -10.0, 10.0))
    near = Face(ring=sheet(0.0, 40.0, "").ring, holes=(hole,), ref="near")
    paths = seen_from((sheet(50.0, 40.0, "far"), near), View(0.0, 0.0))
    assert area(paths, "far") == pytest.approx(400.0)
    assert area(paths, "near") == pytest.approx(1200.0)


def test_a_point_shows_where_nothing_stands_before_it() -> None:
    near = (sheet(0.0, 40.0, "near"),)
    view = View(0.0, 0.0)
    assert not shows_at(near, view, (50.0, 0.0, 0.0), 5.0)
    assert shows_at(near, view, (50.0, 30.0, 0.0), 5.0)
    assert shows_at(near, view, (3.0, 0.0, 0.0), 5.0), "nearer than what is let pass"


def test_views_are_named_by_number() -> None:
    assert space_view(0, 0) == View(TURNS_DEG[0], RISES_DEG[0])
    for turn, rise, field in ((12, 0, "turn"), (0, 6, "rise"), (-1, 0, "turn")):
        with pytest.raises(InputError, match=field):
            space_view(turn, rise)
