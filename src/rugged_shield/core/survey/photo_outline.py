"""A flat plate's outline and holes, and places of the bike, from a photograph beside a sheet."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

from shapely import Point, Polygon

from rugged_shield.core.amounts import amount, entered
from rugged_shield.core.computation import computation
from rugged_shield.core.errors import InputError
from rugged_shield.core.mechanics.drawing import Circle, Drawing, Path, dimension
from rugged_shield.core.mechanics.frames import Vec2
from rugged_shield.core.quantity import Ranged
from rugged_shield.core.result import Input, Outcome
from rugged_shield.core.survey.flat import on_the_bench
from rugged_shield.core.survey.lens import LensSeen
from rugged_shield.core.survey.photo_scale import (
    PHOTO_SOURCE,
    SHEETS_MM,
    PhotoScaleInput,
    PhotoScaleResult,
    photo_scale,
)

SeenFrom = Literal["below", "above"]
LEAST_AREA_MM2 = 400.0
MOST_CORNERS = 200
MOST_HOLES = 60


@dataclass(frozen=True)
class HolePx:
    """A round hole in the photograph: its middle, and any point of its rim."""

    middle: Vec2
    rim: Vec2


@dataclass(frozen=True, kw_only=True)
class PhotoOutlineInput(Ranged):
    """Taps on a flat plate beside a sheet whose top edge lies to the bike's front.

    ``corners_px`` of the sheet clockwise from its top left; ``outline_px`` the plate's corners in
    turn. ``seen_from`` says which face of the plate is up, as it would hang: its outer one is
    seen from below. ``click_u_px`` is the standard uncertainty of one tap.
    """

    sheet: str
    corners_px: tuple[Vec2, ...]
    outline_px: tuple[Vec2, ...]
    holes_px: tuple[HolePx, ...] = ()
    seen_from: SeenFrom = "below"
    click_u_px: float = 2.0
    lens: LensSeen | None = None

    def __post_init__(self) -> None:
        super().__post_init__()
        if not 3 <= len(self.outline_px) <= MOST_CORNERS:
            raise InputError(
                "outline_px", len(self.outline_px), f"3 to {MOST_CORNERS} corners of the plate"
            )
        if len(self.holes_px) > MOST_HOLES:
            raise InputError("holes_px", len(self.holes_px), f"at most {MOST_HOLES} holes")


@dataclass(frozen=True)
class PhotoHole:
    """A hole in the outline's u, v, mm, its diameter and that diameter's standard uncertainty."""

    u_mm: float
    v_mm: float
    diameter_mm: float
    u_diameter_mm: float


@dataclass(frozen=True, kw_only=True)
class PhotoOutlineResult:
    """An outline in u (rearward) and v (to the right), mm, its front edge at u = 0, v about 0.

    ``u_mm`` is the standard uncertainty of the corner that is least sure.
    """

    outline_mm: tuple[Vec2, ...]
    holes: tuple[PhotoHole, ...]
    length_mm: float
    width_mm: float
    area_mm2: float
    u_mm: float


def scaled(
    sheet: str,
    corners_px: tuple[Vec2, ...],
    points_px: tuple[Vec2, ...],
    click_u_px: float,
    distances: tuple[tuple[int, int], ...] = (),
    lens: LensSeen | None = None,
) -> PhotoScaleResult:
    """Taps beside a sheet known by its name, in mm; raises InputError for another name."""
    if sheet not in SHEETS_MM:
        raise InputError("sheet", sheet, "one of " + ", ".join(SHEETS_MM))
    asked = PhotoScaleInput(
        sheet_mm=SHEETS_MM[sheet],
        corners_px=corners_px,
        points_px=points_px,
        click_u_px=click_u_px,
        distances=distances,
        lens=lens,
    )
    return photo_scale(asked).result


def on_bike(seen_from: SeenFrom, point: Vec2) -> Vec2:
    """A place on the sheet as (rearward, to the rider's right), mm.

    The sheet lies with its top edge to the front. Seen from below the rider's right is at the
    left of the picture; seen from above it is at the right.
    """
    return point[1], -point[0] if seen_from == "below" else point[0]


@computation(
    "photo-outline",
    page="photo-scale",
    check="test_a_known_plate_comes_back",
)
def photo_outline(given: PhotoOutlineInput) -> Outcome[PhotoOutlineResult]:
    """The outline in mm. An outline that crosses itself and a hole off the plate are refused."""
    corners = len(given.outline_px)
    taps = [p for hole in given.holes_px for p in (hole.middle, hole.rim)]
    pairs = tuple((corners + 2 * i, corners + 2 * i + 1) for i in range(len(given.holes_px)))
    found = scaled(
        given.sheet,
        given.corners_px,
        (*given.outline_px, *taps),
        given.click_u_px,
        pairs,
        given.lens,
    )
    places = [on_bike(given.seen_from, p) for p in found.points_mm]
    ring, middles = places[:corners], places[corners::2]
    shape = _checked(ring)
    u0, v0, u1, v1 = shape.bounds
    across = (v0 + v1) / 2
    holes = tuple(
        PhotoHole(u - u0, v - across, 2 * d.distance_mm, 2 * d.u_mm)
        for (u, v), d in zip(middles, found.distances, strict=True)
    )
    for number, ((u, v), hole) in enumerate(zip(middles, holes, strict=True), start=1):
        _check_hole(number, shape, (u, v), hole)
    return Outcome(
        result=PhotoOutlineResult(
            outline_mm=tuple((u - u0, v - across) for u, v in ring),
            holes=holes,
            length_mm=u1 - u0,
            width_mm=v1 - v0,
            area_mm2=shape.area,
            u_mm=max(found.u_mm[:corners]),
        ),
        inputs=(
            Input("Corners tapped", corners),
            Input("Holes tapped", len(holes)),
            Input("A tap is off by (px)", given.click_u_px),
        ),
        reasons=("Sheet and plate lie in one plane: the map of the sheet is the map of both.",),
        assumptions=(
            "The plate lies flat: what is folded up is not in the plane and reads too large.",
            "Edges between two taps are straight.",
        ),
        sources=(PHOTO_SOURCE,),
    )


def _checked(ring: list[Vec2]) -> Polygon:
    shape = Polygon(ring)
    if not shape.is_valid or shape.area < LEAST_AREA_MM2:
        raise InputError(
            "outline_px",
            "crossed" if not shape.is_valid else entered(shape.area, "mm²"),
            "corners in turn around the plate",
            "the outline crosses itself, or encloses next to nothing",
            "Tap the corners one after the other, all the way round.",
        )
    return shape


def _check_hole(number: int, shape: Polygon, at: Vec2, hole: PhotoHole) -> None:
    if not shape.covers(Point(at).buffer(hole.diameter_mm / 2)):
        raise InputError(
            "holes_px",
            f"hole {number}",
            "holes whose whole rim lies on the plate",
            f"hole {number}, {amount(hole.diameter_mm, 'mm', 1)}, reaches past the outline",
            "Tap the middle of the hole, then its rim.",
        )


@dataclass(frozen=True, kw_only=True)
class PhotoPlacesInput(Ranged):
    """Taps on places of the bike beside a sheet: the first is one whose place is known.

    The sheet is held level in the plane of the places, its top edge square to the front.
    """

    sheet: str
    corners_px: tuple[Vec2, ...]
    known_px: Vec2
    known_mm: Vec2
    points_px: tuple[Vec2, ...]
    seen_from: SeenFrom = "below"
    click_u_px: float = 2.0
    lens: LensSeen | None = None

    def __post_init__(self) -> None:
        super().__post_init__()
        if not all(math.isfinite(v) and abs(v) <= 3000.0 for v in self.known_mm):
            raise InputError("known_mm", str(self.known_mm), "a place within 3000 mm")
        if not self.points_px:
            raise InputError("points_px", 0, "one place or more", "nothing was tapped yet")


@dataclass(frozen=True)
class PhotoPlace:
    """A place of the bike, mm: behind the front axle, to the right; its standard uncertainty."""

    x_mm: float
    y_mm: float
    u_mm: float


@computation(
    "photo-places",
    page="photo-scale",
    check="test_mounts_are_placed_from_one_that_is_known",
)
def photo_places(given: PhotoPlacesInput) -> Outcome[tuple[PhotoPlace, ...]]:
    """Where places of the bike are, from one that is known and a photograph beside a sheet."""
    pairs = tuple((0, i + 1) for i, p in enumerate(given.points_px) if p != given.known_px)
    points = (given.known_px, *given.points_px)
    found = scaled(given.sheet, given.corners_px, points, given.click_u_px, pairs, given.lens)
    away = dict(zip((j for _, j in pairs), found.distances, strict=True))
    x0, y0 = on_bike(given.seen_from, found.points_mm[0])
    places = []
    for i, point in enumerate(found.points_mm[1:], start=1):
        x, y = on_bike(given.seen_from, point)
        u = away[i].u_mm if i in away else 0.0
        places.append(PhotoPlace(given.known_mm[0] + x - x0, given.known_mm[1] + y - y0, u))
    return Outcome(
        result=tuple(places),
        inputs=(Input("Places tapped", len(places)),),
        reasons=("Each place is the known one and how far it lies from it in the picture.",),
        assumptions=(
            "Sheet and places lie in one plane: a place that stands higher reads too near.",
            "The known place is where it is said to be: its own error comes on top.",
        ),
        sources=(PHOTO_SOURCE,),
    )


def outline_drawing(found: PhotoOutlineResult) -> Drawing:
    """The outline as it lies on the bench, front at the top, with its holes and its sizes."""
    ring = tuple(on_the_bench(p) for p in found.outline_mm)
    xs, ys = [p[0] for p in ring], [p[1] for p in ring]
    x0, x1, y0, y1 = min(xs), max(xs), min(ys), max(ys)
    middles = [on_the_bench((h.u_mm, h.v_mm)) for h in found.holes]
    return Drawing(
        title="Outline from the photograph, outer face up, front at the top",
        x=x0 - 60,
        y=y0 - 60,
        width=x1 - x0 + 190,
        height=y1 - y0 + 150,
        paths=(Path(ring, True, "section", "plate", "outline"),),
        circles=tuple(
            Circle(x, y, h.diameter_mm / 2, "outline", "hole", f"hole:{i}")
            for i, ((x, y), h) in enumerate(zip(middles, found.holes, strict=True), start=1)
        ),
        marks=(),
        dimensions=(
            dimension((x0, y1), (x1, y1), 40.0, "across", found.width_mm),
            dimension((x1, y0), (x1, y1), 40.0, "along", found.length_mm),
        ),
        scale_bar_mm=100.0,
    )
