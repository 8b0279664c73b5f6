"""Millimetres from a photograph: a sheet of known size in the same plane, and how sure that is."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated

import numpy as np

from rugged_shield.core.computation import computation
from rugged_shield.core.errors import InputError
from rugged_shield.core.mechanics.frames import Vec2
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.result import Input, Outcome, Source
from rugged_shield.core.survey.lens import (
    LENS_SOURCE,
    USUAL_K,
    Array,
    LensSeen,
    check_straight,
    number_of,
    straightened,
    usual_share,
)

PHOTO_SOURCE = Source(
    "homography from four corners (Hartley and Zisserman 2004, 4.1); uncertainty to first order "
    "(JCGM 100:2008, 5.1)",
    "high",
)
MAX_POINTS = 500
SHEETS_MM: dict[str, Vec2] = {
    "A4, upright": (210.0, 297.0),
    "A4, across": (297.0, 210.0),
    "Letter, upright": (215.9, 279.4),
    "Letter, across": (279.4, 215.9),
    "check sheet": (180.0, 240.0),
}
"""Width and height of the sheets that lie in a photograph (ISO 216; ANSI Y14.1; our own print)."""
LEAST_SIDE_PX = 40.0
_STEP_PX = 1e-3


@dataclass(frozen=True, kw_only=True)
class PhotoScaleInput(Ranged):
    """A sheet's width and height mm, its corners in the photograph clockwise from the top left.

    ``points_px`` lie in the sheet's plane; ``distances`` names pairs of them by place in the list.
    ``click_u_px`` is the standard uncertainty of one tap, along each axis. With ``lens`` what it
    bends is taken out and its doubt is in every uncertainty; without it lines count as straight.
    """

    sheet_mm: Vec2
    corners_px: tuple[Vec2, ...]
    points_px: tuple[Vec2, ...]
    click_u_px: Annotated[float, Range(0.0, 50.0)] = 1.0
    distances: tuple[tuple[int, int], ...] = ()
    lens: LensSeen | None = None

    def __post_init__(self) -> None:
        super().__post_init__()
        if not all(math.isfinite(v) and 10.0 <= v <= 3000.0 for v in self.sheet_mm):
            raise InputError("sheet_mm", str(self.sheet_mm), "sides from 10 to 3000 mm")
        if len(self.corners_px) != 4:
            raise InputError("corners_px", len(self.corners_px), "four corners")
        if not 1 <= len(self.points_px) <= MAX_POINTS:
            raise InputError("points_px", len(self.points_px), f"1 to {MAX_POINTS} points")
        for name in ("corners_px", "points_px"):
            for point in getattr(self, name):
                if not all(math.isfinite(v) and abs(v) <= 1e5 for v in point):
                    raise InputError(name, str(point), "finite pixels within 100 000")
        for pair in self.distances:
            if not all(0 <= i < len(self.points_px) for i in pair) or pair[0] == pair[1]:
                raise InputError("distances", str(pair), "two different points of the list")
        _check_corners(np.array(self.corners_px))


def _check_corners(corners: Array) -> None:
    """Refuse corners that are no sheet, in words that say what to tap again."""
    along = np.roll(corners, -1, axis=0) - corners
    sides = np.hypot(along[:, 0], along[:, 1])
    if sides.min() < LEAST_SIDE_PX:
        raise InputError(
            "corners_px",
            f"{sides.min():.0f} px",
            f"sides of at least {LEAST_SIDE_PX:.0f} px",
            "the sheet is too small in this picture",
            "Go nearer, or lay a larger sheet.",
        )
    ahead = np.roll(along, -1, axis=0)
    turns = along[:, 0] * ahead[:, 1] - along[:, 1] * ahead[:, 0]
    share = turns / (sides * np.roll(sides, -1))
    if np.abs(share).min() < 0.02:
        raise InputError(
            "corners_px", "on one line", "four corners of a sheet", "three corners lie on one line"
        )
    if not ((share > 0).all() or (share < 0).all()):
        raise InputError(
            "corners_px",
            "crossed",
            "corners in turn, clockwise from the top left",
            "the corners cross: they were tapped out of turn",
            "Tap top left, top right, bottom right, bottom left.",
        )
    if (share < 0).all():
        raise InputError(
            "corners_px",
            "the other way round",
            "corners clockwise from the top left",
            "the corners were tapped the other way round, which would mirror the plate",
            "Tap top left, top right, bottom right, bottom left.",
        )


@dataclass(frozen=True, kw_only=True)
class PhotoDistance:
    """A distance between two points, mm, and its standard uncertainty."""

    distance_mm: float
    u_mm: float


@dataclass(frozen=True, kw_only=True)
class PhotoScaleResult:
    """Points on the sheet's plane, mm from its top left corner; u is the largest axis of each.

    ``lens_k``: by how much the lens bends at the corner of the picture; None: not asked.
    """

    points_mm: tuple[Vec2, ...]
    u_mm: tuple[float, ...]
    distances: tuple[PhotoDistance, ...]
    lens_k: float | None = None


def _homography(corners: Array, sheet: Vec2) -> Array:
    """The map from pixels to mm that takes the four corners to those of the sheet."""
    wide, high = sheet
    target = np.array([[0.0, 0.0], [wide, 0.0], [wide, high], [0.0, high]])
    rows, right = [], []
    for (x, y), (u, v) in zip(corners, target, strict=True):
        rows += [[x, y, 1, 0, 0, 0, -u * x, -u * y], [0, 0, 0, x, y, 1, -v * x, -v * y]]
        right += [u, v]
    h = np.linalg.solve(np.array(rows), np.array(right))
    return np.append(h, 1.0).reshape(3, 3)


def _mapped(h: Array, points: Array) -> Array:
    full = np.column_stack([points, np.ones(len(points))]) @ h.T
    if (full[:, 2] <= 1e-9).any():
        raise InputError(
            "points_px",
            "beyond the horizon",
            "points in the plane of the sheet",
            "a point lies beyond the horizon of the sheet's plane",
        )
    places: Array = full[:, :2] / full[:, 2:]
    return places


@dataclass(frozen=True)
class _Read:
    """Places (n, 2) mm; how they move with each number of the sheet's taps (n, 2, m), with their
    own (n, 2, 2), and with what is only usual of the lens, by one standard deviation (n, 2).
    """

    places: Array
    of_sheet: Array
    own: Array
    of_lens: Array
    lens_k: float | None


def _read(given: PhotoScaleInput) -> _Read:
    """Places and their slopes, by central differences of the whole map."""
    corners, points = np.array(given.corners_px), np.array(given.points_px)
    lens = given.lens
    taps = np.concatenate([corners, np.array(lens.edges_px if lens else ()).reshape(-1, 2)])
    number = number_of(lens, corners, given.click_u_px) if lens else None
    k = number(taps) if number is not None else 0.0

    def map_of(sheet: Array, at: Array, k: float) -> Array:
        if lens is None:
            return _mapped(_homography(sheet[:4], given.sheet_mm), at)
        straight = straightened(sheet[:4], k, lens)
        return _mapped(_homography(straight, given.sheet_mm), straightened(at, k, lens))

    def slope(by: Array, own: bool) -> Array:
        sides = []
        for sign in (1.0, -1.0):
            if own:
                sides.append(map_of(taps, points + sign * by, k))
            else:
                sheet = taps + sign * by
                sides.append(map_of(sheet, points, number(sheet) if number is not None else 0.0))
        return np.asarray((sides[0] - sides[1]) / (2 * _STEP_PX))

    steps = _STEP_PX * np.eye(taps.size).reshape(taps.size, *taps.shape)
    of_sheet = np.stack([slope(step, own=False) for step in steps], axis=2)
    own = np.stack([slope(_STEP_PX * np.eye(2)[k], own=True) for k in range(2)], axis=2)
    places, of_lens = map_of(taps, points, k), np.zeros((len(points), 2))
    if lens is not None:
        if lens.edges_px:
            check_straight(k, corners, lens, given.click_u_px)
        unsure = USUAL_K * usual_share(k, corners, lens, given.click_u_px)
        either = map_of(taps, points, k + unsure) - map_of(taps, points, k - unsure)
        of_lens = either / 2
    return _Read(places, of_sheet, own, of_lens, None if lens is None else k)


def _distances(given: PhotoScaleInput, read: _Read) -> tuple[PhotoDistance, ...]:
    distances = []
    for i, j in given.distances:
        apart = read.places[j] - read.places[i]
        length = float(np.hypot(*apart))
        if length < 1e-9:
            raise InputError("distances", f"{i}, {j}", "two points that are apart")
        way = apart / length
        moved = np.concatenate(
            [way @ (read.of_sheet[j] - read.of_sheet[i]), way @ read.own[j], way @ read.own[i]]
        )
        by_lens = float(way @ (read.of_lens[j] - read.of_lens[i]))
        u = math.hypot(given.click_u_px * float(np.linalg.norm(moved)), by_lens)
        distances.append(PhotoDistance(distance_mm=length, u_mm=u))
    return tuple(distances)


def _lens_words(given: PhotoScaleInput) -> str:
    if given.lens is None:
        return "The lens draws straight lines straight."
    if given.lens.edges_px:
        return "The lens bends by one number, found from the sheet's own edges and taken out."
    return (
        "Nobody looked whether the lens bends lines: what phones usually do is in the "
        "uncertainty. Taps on the sheet's edges take it out."
    )


@computation("photo-scale", page="photo-scale", check="photo-scale-01")
def photo_scale(given: PhotoScaleInput) -> Outcome[PhotoScaleResult]:
    """Places and distances in mm from a photograph beside a sheet, with their uncertainty.

    Corners that cross, lie on a line, run the other way or stand too close are refused in words,
    and so are edges of the sheet that no lens makes straight.
    """
    read = _read(given)
    covariance = (
        given.click_u_px**2
        * (
            read.of_sheet @ read.of_sheet.transpose(0, 2, 1)
            + read.own @ read.own.transpose(0, 2, 1)
        )
        + read.of_lens[:, :, None] * read.of_lens[:, None, :]
    )
    largest = np.sqrt(np.linalg.eigvalsh(covariance)[:, -1])
    return Outcome(
        result=PhotoScaleResult(
            points_mm=tuple((float(x), float(y)) for x, y in read.places),
            u_mm=tuple(float(u) for u in largest),
            distances=_distances(given, read),
            lens_k=read.lens_k,
        ),
        inputs=(
            Input("Sheet, wide", given.sheet_mm[0], "mm"),
            Input("Sheet, high", given.sheet_mm[1], "mm"),
            Input("A tap is off by (px)", given.click_u_px),
        ),
        reasons=("Both ends of a distance share the corners: their error partly cancels.",),
        assumptions=("Sheet and points lie in one plane.", _lens_words(given)),
        sources=(PHOTO_SOURCE, *(() if given.lens is None else (LENS_SOURCE,))),
    )
