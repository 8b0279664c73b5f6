"""A field of holes on a panel: which centres stay clear of edges, bends and mounts."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated, Literal

import numpy as np
import shapely
from numpy.typing import NDArray

from rugged_shield.core.computation import computation
from rugged_shield.core.errors import InputError
from rugged_shield.core.mechanics.frames import Vec2
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.result import Input, Outcome, Source

VENT_SOURCE = Source("perforated sheet: ligament efficiency (p − d)/p; edge distances", "high")
MAX_VENTS = 4000
_SAME_MM = 1e-6


@dataclass(frozen=True, kw_only=True)
class Rim(Ranged):
    """A round thing to stay clear of, mm: a mount's rim, a cutout."""

    x_mm: Annotated[float, Range(-3000.0, 3000.0, "mm")]
    y_mm: Annotated[float, Range(-3000.0, 3000.0, "mm")]
    radius_mm: Annotated[float, Range(0.0, 300.0, "mm")]


@dataclass(frozen=True, kw_only=True)
class VentFieldInput(Ranged):
    """A panel's outline mm, which of its edges are bends, what is on it, and the field asked for.

    ``cutouts`` are round; ``openings`` any other, as polygons.
    """

    panel: tuple[Vec2, ...]
    hole_diameter_mm: Annotated[float, Range(1.0, 100.0, "mm")]
    pitch_mm: Annotated[float, Range(1.5, 300.0, "mm")]
    thickness_mm: Annotated[float, Range(0.5, 25.0, "mm")]
    density_kg_m3: Annotated[float, Range(500.0, 20_000.0)]
    pattern: Literal["staggered", "square"] = "staggered"
    bends: tuple[tuple[Vec2, Vec2], ...] = ()
    mounts: tuple[Rim, ...] = ()
    cutouts: tuple[Rim, ...] = ()
    openings: tuple[tuple[Vec2, ...], ...] = ()

    def __post_init__(self) -> None:
        super().__post_init__()
        if self.pitch_mm <= self.hole_diameter_mm:
            raise InputError(
                "pitch_mm", self.pitch_mm, f"more than the hole of {self.hole_diameter_mm:g} mm"
            )
        if len(self.panel) < 3 or not shapely.Polygon(self.panel).is_valid:
            raise InputError("panel", len(self.panel), "an outline that does not cross itself")


@dataclass(frozen=True, kw_only=True)
class VentFieldResult:
    """Centres that stay, mm; their count, open area mm², mass off g, and what is left between."""

    count: int
    open_area_mm2: float
    mass_off_g: float
    ligament_efficiency: float
    centres_mm: tuple[Vec2, ...]


def _grid(given: VentFieldInput, bounds: tuple[float, float, float, float]) -> list[Vec2]:
    """Centres of the whole pattern around the middle of the bounding box."""
    x0, y0, x1, y1 = bounds
    mid_x, mid_y = (x0 + x1) / 2, (y0 + y1) / 2
    p = given.pitch_mm
    rise = p * math.sqrt(3) / 2 if given.pattern == "staggered" else p
    rows, columns = math.ceil((y1 - y0) / 2 / rise), math.ceil((x1 - x0) / 2 / p) + 1
    if (2 * rows + 1) * (2 * columns + 1) > 20 * MAX_VENTS:
        raise InputError("pitch_mm", p, f"a pitch that gives at most {MAX_VENTS} holes")
    out = []
    for row in range(-rows, rows + 1):
        shift = p / 2 if given.pattern == "staggered" and row % 2 else 0.0
        y = mid_y + row * rise
        out += [(mid_x + k * p + shift, y) for k in range(-columns, columns + 1)]
    return out


def _cut_edges(given: VentFieldInput, ring: shapely.LinearRing) -> shapely.Geometry:
    """The outline without its bends."""
    bends = shapely.union_all([shapely.LineString(bend) for bend in given.bends])
    return ring if shapely.is_empty(bends) else ring.difference(bends.buffer(_SAME_MM))


def _stays(given: VentFieldInput, points: NDArray[np.object_]) -> NDArray[np.bool_]:
    d, t = given.hole_diameter_mm, given.thickness_mm
    panel = shapely.Polygon(given.panel)
    near_edge, near_bend = 1.5 * d - _SAME_MM, 2 * d + t - _SAME_MM
    keep = shapely.contains(panel, points)
    edges = _cut_edges(given, panel.exterior)
    if not shapely.is_empty(edges):
        keep &= shapely.distance(points, edges) >= near_edge
    for bend in given.bends:
        keep &= shapely.distance(points, shapely.LineString(bend)) >= near_bend
    for rims, least in ((given.mounts, near_bend), (given.cutouts, near_edge)):
        for rim in rims:
            away = shapely.distance(points, shapely.Point(rim.x_mm, rim.y_mm)) - rim.radius_mm
            keep &= away >= least
    for opening in given.openings:
        keep &= shapely.distance(points, shapely.Polygon(opening)) >= near_edge
    return np.asarray(keep)


@computation("vent-field", page="vent-field", check="vent-field-01")
def vent_field(given: VentFieldInput) -> Outcome[VentFieldResult]:
    """Holes in rows along x, one in the middle of the panel; those too near to anything left out.

    A centre stays 1.5 d from cut edges and cutouts' rims, 2 d + t from bends and mounts' rims.
    Raises InputError for an outline that is none, or a pitch below the hole.
    """
    grid = _grid(given, shapely.Polygon(given.panel).bounds)
    keep = _stays(given, np.asarray(shapely.points(np.array(grid))))
    centres = tuple(place for place, stays in zip(grid, keep, strict=True) if stays)
    if len(centres) > MAX_VENTS:
        raise InputError(
            "pitch_mm", given.pitch_mm, f"a pitch that gives at most {MAX_VENTS} holes"
        )
    area = len(centres) * math.pi / 4 * given.hole_diameter_mm**2
    return Outcome(
        result=VentFieldResult(
            count=len(centres),
            open_area_mm2=area,
            mass_off_g=area * given.thickness_mm * given.density_kg_m3 * 1e-6,
            ligament_efficiency=(given.pitch_mm - given.hole_diameter_mm) / given.pitch_mm,
            centres_mm=centres,
        ),
        inputs=(
            Input("Hole", given.hole_diameter_mm, "mm"),
            Input("Pitch", given.pitch_mm, "mm"),
            Input("Pattern", given.pattern),
        ),
        reasons=("Holes near an edge, a bend or a mount would tear there first.",),
        sources=(VENT_SOURCE,),
    )
