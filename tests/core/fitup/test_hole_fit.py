"""Holes over their mounts: the best motion, and which hole to open."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from rugged_shield.core.errors import InputError
from rugged_shield.core.fitup.hole_fit import HoleFitInput, PlateHole, hole_fit

off = st.floats(-1.5, 1.5)
holes = st.lists(st.tuples(off, off), min_size=3, max_size=5).map(
    lambda offsets: tuple(
        PlateHole(
            name=str(i),
            x_mm=150.0 * math.cos(2.1 * i),
            y_mm=150.0 * math.sin(2.1 * i),
            radial_clearance_mm=0.6,
            dx_mm=dx,
            dy_mm=dy,
        )
        for i, (dx, dy) in enumerate(offsets)
    )
)


def margin_of(asked: HoleFitInput, tx: float, ty: float, theta: float) -> float:
    """The least margin of round holes at a motion, straight from the model."""
    return min(
        h.radial_clearance_mm
        - math.hypot(h.dx_mm - (tx - theta * h.y_mm), h.dy_mm - (ty + theta * h.x_mm))
        for h in asked.holes
    )


@given(holes)
@settings(max_examples=30)
def test_the_motion_found_has_the_margin_said_and_none_near_it_more(
    some: tuple[PlateHole, ...],
) -> None:
    asked = HoleFitInput(holes=some)
    found = hole_fit(asked).result
    here = margin_of(asked, found.tx_mm, found.ty_mm, found.theta_rad)
    assert here == pytest.approx(found.margin_mm, abs=1e-6)
    rng = np.random.default_rng(1)
    for dx, dy, turn in rng.normal(0.0, 0.1, (60, 3)):
        moved = margin_of(asked, found.tx_mm + dx, found.ty_mm + dy, found.theta_rad + turn / 150.0)
        assert moved <= found.margin_mm + 1e-6


@given(holes, st.integers(0, 2), st.floats(0.0, 2.0))
@settings(max_examples=25)
def test_opening_a_hole_never_lowers_the_margin(
    some: tuple[PlateHole, ...], which: int, more: float
) -> None:
    wider = tuple(
        replace(h, radial_clearance_mm=h.radial_clearance_mm + more) if i == which else h
        for i, h in enumerate(some)
    )
    before = hole_fit(HoleFitInput(holes=some)).result.margin_mm
    assert hole_fit(HoleFitInput(holes=wider)).result.margin_mm >= before - 1e-6


@given(holes)
@settings(max_examples=25)
def test_the_hole_that_is_opened_as_said_lets_all_start(some: tuple[PlateHole, ...]) -> None:
    found = hole_fit(HoleFitInput(holes=some)).result
    if found.open_hole_name is None:
        assert found.fits or all(d is None for d in found.open_diameter_by_hole_mm)
        return
    assert found.open_diameter_mm is not None

    def opened(diameter: float) -> float:
        return hole_fit(
            HoleFitInput(
                holes=tuple(
                    replace(h, radial_clearance_mm=h.radial_clearance_mm + diameter / 2)
                    if h.name == found.open_hole_name
                    else h
                    for h in some
                )
            )
        ).result.margin_mm

    assert opened(found.open_diameter_mm + 2e-4) >= -1e-6
    assert opened(found.open_diameter_mm - 0.01) < 0.0


def test_two_holes_are_opened_only_when_no_single_one_helps() -> None:
    apart = tuple(
        PlateHole(name=name, x_mm=x, y_mm=y, radial_clearance_mm=0.3, dx_mm=dx)
        for name, x, y, dx in (
            ("a", 100, 100, 0.0),
            ("b", -100, 100, 0.0),
            ("c", -100, -100, 2.0),
            ("d", 100, -100, -2.0),
        )
    )
    found = hole_fit(HoleFitInput(holes=apart)).result
    assert not found.fits
    assert found.open_hole_name is None
    assert found.open_pair is not None
    assert found.open_pair.names == ("c", "d")


def test_a_bracket_that_two_holes_share_moves_both() -> None:
    def pair(bracket: str) -> float:
        shared = tuple(
            PlateHole(
                name=f"r{y}",
                x_mm=-100,
                y_mm=y,
                radial_clearance_mm=0.2,
                dx_mm=dx,
                bracket_half_travel_mm=3.0,
                bracket_angle_deg=0.0,
                bracket=bracket,
            )
            for y, dx in ((-80.0, 2.0), (80.0, -2.0))
        )
        fixed = PlateHole(name="f", x_mm=150, y_mm=0, radial_clearance_mm=0.2)
        other = PlateHole(name="g", x_mm=150, y_mm=120, radial_clearance_mm=0.2)
        return hole_fit(HoleFitInput(holes=(*shared, fixed, other))).result.margin_mm

    assert pair("") == pytest.approx(0.2, abs=1e-6), "each bracket follows its own screw"
    assert pair("rear") < 0.0, "one bracket cannot go both ways"


def test_one_hole_always_fits_and_nothing_is_refused() -> None:
    one = PlateHole(name="a", x_mm=0, y_mm=0, radial_clearance_mm=0.5, dx_mm=3.0)
    assert hole_fit(HoleFitInput(holes=(one,))).result.margin_mm == pytest.approx(0.5, abs=1e-6)
    with pytest.raises(InputError):
        HoleFitInput(holes=())
    with pytest.raises(InputError):
        HoleFitInput(holes=(one, one))
