"""A plate put through a camera that looks askew, and taken back from its picture."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from rugged_shield.core.errors import InputError
from rugged_shield.core.job.edits.photo import mounts_from_photo, traced_from_photo
from rugged_shield.core.job.model import Job
from rugged_shield.core.judgement.known import band_of, fact_of
from rugged_shield.core.survey.photo_outline import (
    HolePx,
    PhotoOutlineInput,
    PhotoPlacesInput,
    photo_outline,
    photo_places,
)

PLATE = ((0.0, -90.0), (0.0, 90.0), (260.0, 120.0), (420.0, 70.0), (420.0, -110.0))
"""Corners in u rearward and v to the right: not the same left and right."""
HOLES = ((40.0, -60.0, 9.0), (380.0, 40.0, 12.0))
SHEET = ((0.0, 0.0), (210.0, 0.0), (210.0, 297.0), (0.0, 297.0))
CAMERA = np.array([[2.1, 0.3, 500.0], [-0.2, 2.2, 300.0], [0.0002, 0.00025, 1.0]])


def pixel(x: float, y: float) -> tuple[float, float]:
    u, v, w = CAMERA @ (x, y, 1.0)
    return float(u / w), float(v / w)


def beside(u: float, v: float, seen_from: str = "below") -> tuple[float, float]:
    """A place of the plate in the picture: the plate lies 260 mm beside the sheet's left edge."""
    return pixel(260.0 + (-v if seen_from == "below" else v), 20.0 + u)


def asked(seen_from: str = "below", **more: object) -> PhotoOutlineInput:
    given_ = PhotoOutlineInput(
        sheet="A4, upright",
        corners_px=tuple(pixel(*c) for c in SHEET),
        outline_px=tuple(beside(*c, seen_from) for c in PLATE),
        holes_px=tuple(
            HolePx(beside(u, v, seen_from), beside(u + d / 2, v, seen_from)) for u, v, d in HOLES
        ),
        seen_from=seen_from,  # type: ignore[arg-type]
        click_u_px=1.0,
    )
    return replace(given_, **more)  # type: ignore[arg-type]


@pytest.mark.parametrize("seen_from", ["below", "above"])
def test_a_known_plate_comes_back(seen_from: str) -> None:
    found = photo_outline(asked(seen_from)).result
    middle = (120.0 - 110.0) / 2
    for (u, v), (a, b) in zip(found.outline_mm, PLATE, strict=True):
        assert (u, v) == pytest.approx((a, b - middle), abs=1e-6)
    assert (found.length_mm, found.width_mm) == pytest.approx((420.0, 230.0))
    for hole, (u, v, d) in zip(found.holes, HOLES, strict=True):
        assert (hole.u_mm, hole.v_mm, hole.diameter_mm) == pytest.approx((u, v - middle, d))
    assert 0.3 < found.u_mm < 3.0


@settings(max_examples=30, deadline=None)
@given(seed=st.integers(0, 2**31))
def test_taps_that_are_off_stay_within_what_is_said(seed: int) -> None:
    """Of many tries with taps off by a pixel, the error is what the uncertainty says, or less."""
    rng = np.random.default_rng(seed)

    def off(points: tuple[tuple[float, float], ...]) -> tuple[tuple[float, float], ...]:
        return tuple(
            (float(x), float(y)) for x, y in np.array(points) + rng.normal(size=(len(points), 2))
        )

    exact = asked()
    tapped = replace(exact, corners_px=off(exact.corners_px), outline_px=off(exact.outline_px))
    found, true = photo_outline(tapped).result, photo_outline(exact).result
    assert abs(found.length_mm - true.length_mm) < 5 * true.u_mm
    assert abs(found.width_mm - true.width_mm) < 5 * true.u_mm
    for hole in found.holes:
        assert hole.u_diameter_mm < true.u_mm * 2.0


@pytest.mark.parametrize(
    ("more", "field"),
    [
        ({"sheet": "A3"}, "sheet"),
        ({"outline_px": tuple(beside(*PLATE[i]) for i in (0, 2, 1, 3))}, "outline_px"),
        ({"outline_px": tuple(beside(*c) for c in ((0, 0), (5, 0), (5, 5)))}, "outline_px"),
        ({"outline_px": (beside(0, 0), beside(9, 9))}, "outline_px"),
        ({"holes_px": (HolePx(beside(300, 200), beside(306, 200)),)}, "holes_px"),
        ({"holes_px": (HolePx(beside(40, -85), beside(60, -85)),)}, "holes_px"),
        ({"corners_px": tuple(pixel(*SHEET[i]) for i in (1, 0, 3, 2))}, "corners_px"),
    ],
)
def test_bad_taps_are_refused_by_name(more: dict[str, object], field: str) -> None:
    with pytest.raises(InputError) as refused:
        photo_outline(asked(**more))
    assert refused.value.field == field


def test_an_outline_is_taken_as_a_traced_one() -> None:
    outline, holes = traced_from_photo(asked())
    assert [(h.width_mm, h.shape, h.panel) for h in holes] == [
        (9.0, "round", "belly"),
        (12.0, "round", "belly"),
    ]
    assert min(u for u, _ in outline) == 0.0


@pytest.mark.parametrize("seen_from", ["below", "above"])
def test_mounts_are_placed_from_one_that_is_known(choosing: Job, seen_from: str) -> None:
    """Three mounts photographed where they are: the bike's own places come back, as measured."""
    first, *others = choosing.bike.mounts[:3]
    wrong = replace(
        choosing,
        bike=replace(
            choosing.bike,
            mounts=tuple(
                replace(m, x_mm=m.x_mm + 30.0, y_mm=m.y_mm - 8.0) if m in others else m
                for m in choosing.bike.mounts
            ),
        ),
    )

    def at(mount: object) -> tuple[float, float]:
        x, y = mount.x_mm - first.x_mm, mount.y_mm - first.y_mm  # type: ignore[attr-defined]
        return pixel(105.0 + (-y if seen_from == "below" else y), 40.0 + x)

    places = PhotoPlacesInput(
        sheet="A4, upright",
        corners_px=tuple(pixel(*c) for c in SHEET),
        known_px=at(first),
        known_mm=(first.x_mm, first.y_mm),
        points_px=tuple(at(m) for m in others),
        seen_from=seen_from,  # type: ignore[arg-type]
        click_u_px=1.0,
    )
    for place, mount in zip(photo_places(places).result, others, strict=True):
        assert (place.x_mm, place.y_mm) == pytest.approx((mount.x_mm, mount.y_mm), abs=1e-6)
    there = mounts_from_photo(wrong, first.key, places, tuple(m.key for m in others)).job
    for mount, now in zip(choosing.bike.mounts, there.bike.mounts, strict=True):
        assert (now.x_mm, now.y_mm) == pytest.approx((mount.x_mm, mount.y_mm), abs=0.06)
        if mount in others:
            fact = fact_of(now, "x_mm")
            assert (fact.known, fact.instrument) == ("measured", "photograph")
            own = band_of(now, "x_mm") - band_of(first, "x_mm")
            assert 0.1 <= own < 8.0, "its own, and what the known one is unsure of"
    with pytest.raises(InputError, match="mount"):
        mounts_from_photo(wrong, "nope", places, tuple(m.key for m in others))
