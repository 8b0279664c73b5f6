"""The strike map as a drawing: the plate from below, shaded by the energy at which it touches."""

from __future__ import annotations

import itertools

import numpy as np
import shapely
from shapely import Polygon
from shapely.geometry.polygon import LinearRing

from rugged_shield.core.mechanics.drawing import Drawing, Fill, Mark, Path
from rugged_shield.core.mechanics.frames import Vec2, creeper
from rugged_shield.core.survey import fold
from rugged_shield.core.weighup.strike_map import (
    MapPoint,
    StrikeMapInput,
    StrikeMapResult,
    linear_of,
)

BANDS_J = (10.0, 40.0, 80.0, 150.0, 400.0)
BAND_FILLS: tuple[Fill, ...] = ("band 1", "band 2", "band 3", "band 4", "band 5", "band 6")
MARGIN_MM = 60.0
_NEVER_J = 1e9


def band_words() -> tuple[str, ...]:
    """What each shade means, from the one that touches first."""
    edges = [f"{e:g}" for e in BANDS_J]
    between = [f"{a} to {b} J" for a, b in itertools.pairwise(edges)]
    return (f"below {edges[0]} J", *between, f"not below {edges[-1]} J")


def _keyhole(polygon: Polygon) -> tuple[Vec2, ...]:
    """A polygon with holes as one ring: each hole joined to it by a cut of no width."""
    ring = list(polygon.exterior.coords)[:-1]
    holes: list[LinearRing] = sorted(polygon.interiors, key=lambda r: r.bounds[0])
    for hole in holes:
        inner = list(hole.coords)[:-1]
        apart = np.linalg.norm(np.array(ring)[:, None] - np.array(inner)[None], axis=2)
        i, j = (int(k) for k in np.unravel_index(int(apart.argmin()), apart.shape))
        ring = [*ring[: i + 1], *inner[j:], *inner[: j + 1], *ring[i:]]
    return tuple((round(x, 1), round(y, 1)) for x, y in ring)


def _touch_of(point: MapPoint) -> float:
    return point.touches_j if point.touches_j is not None else _NEVER_J


def map_drawing(given: StrikeMapInput, result: StrikeMapResult) -> Drawing:
    """The plate from below, front at the top, in bands of touching energy; first touch marked."""
    mesh = linear_of(given.plate, given.mounts, given.mesh_mm).mesh
    places = {tuple(np.round(p.place_mm, 6)): _touch_of(p) for p in result.points}
    energy = np.array([places.get(tuple(np.round(n, 6)), np.nan) for n in mesh.nodes])
    of_triangle = energy[mesh.triangles].mean(axis=1)
    flat = np.column_stack([-mesh.nodes[:, 1], mesh.nodes[:, 0]])
    shapes = np.asarray(shapely.polygons(flat[mesh.triangles]))
    paths: list[Path] = []
    bands = np.digitize(of_triangle, BANDS_J)
    for i, fill in enumerate(BAND_FILLS):
        chosen = shapes[(bands == i) & np.isfinite(of_triangle)]
        if len(chosen):
            joined = shapely.union_all(shapely.make_valid(chosen), grid_size=0.01)
            for body in shapely.get_parts(joined):
                if body.geom_type == "Polygon" and body.area > 1:
                    paths.append(Path(_keyhole(body), True, "none", fill))
    for panel in fold(given.plate).panels:
        if panel.piece == "":
            corners = tuple(creeper(c[0], c[1]) for c in panel.corners())
            paths.append(Path(corners, True, "outline", "none", panel.name))
    marks = [
        Mark(*creeper(m.at_mm[0], m.at_mm[1]), m.name.removeprefix("joint "), "mount", m.name)
        for m in given.mounts
    ]
    first = min(result.points, key=_touch_of)
    if first.touches_j is not None:
        x, y = creeper(first.place_mm[0], first.place_mm[1])
        marks.append(Mark(x, y, f"{first.touches_j:.0f} J", "word", "first touch"))
    low, high = flat.min(axis=0), flat.max(axis=0)
    return Drawing(
        f"Strike map of the {given.plate.name}, {given.direction}", float(low[0]) - MARGIN_MM,
        float(low[1]) - MARGIN_MM, float(high[0] - low[0]) + 2 * MARGIN_MM,
        float(high[1] - low[1]) + 2 * MARGIN_MM, tuple(paths), (), tuple(marks), (), 100.0,
    )  # fmt: skip
