"""Shades of a value over a mesh that is laid on a drawing: cut at levels, joined into bodies."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import Polygon
from shapely.geometry.polygon import LinearRing

from rugged_shield.core.mechanics.drawing import Fill, Path
from rugged_shield.core.mechanics.frames import Vec2
from rugged_shield.core.weighup.response import Array, Index

_GRID_MM = 0.02
"""Panels that meet on a drawing agree to rounding: within this they are one body."""
_LEAST_MM2 = 1.0
_SAME_VALUE = 1e-6
"""A corner so near to a level has it: else cuts on several sides would fall on one place."""
_Corner = tuple[float, float, float]


@dataclass(frozen=True, eq=False)
class Laid:
    """A mesh on a drawing: places (n, 2) in mm, triangles (m, 3) of them, the panel of each (m,).

    Triangles of one panel overlap nowhere and meet in whole edges; those of two panels may overlap.
    """

    places: Array
    triangles: Index
    panel_of: Index


def _between(a: _Corner, b: _Corner, at: float) -> _Corner:
    """Where the value is reached between two corners; the same from either side, to the bit."""
    low, high = (a, b) if a[2] <= b[2] else (b, a)
    share = (at - low[2]) / (high[2] - low[2])
    return (low[0] + share * (high[0] - low[0]), low[1] + share * (high[1] - low[1]), at)


def _cut(corners: list[_Corner], at: float, above: bool) -> list[_Corner]:
    """The part of a polygon of (x, y, value) above or below a value, straight between corners."""
    sign = 1.0 if above else -1.0
    inside = [sign * (c[2] - at) >= 0 for c in corners]
    out: list[_Corner] = []
    for i, a in enumerate(corners):
        j = (i + 1) % len(corners)
        if inside[i]:
            out.append(a)
        if inside[i] != inside[j] and at not in (a[2], corners[j][2]):
            out.append(_between(a, corners[j], at))
    return out


def _parts(laid: Laid, values: Array, edges: Array) -> Iterator[tuple[int, int, list[_Corner]]]:
    """Band, triangle and corners of each part of a triangle whose corners are in several bands."""
    at = values[laid.triangles]
    low, high = np.digitize(at.min(axis=1), edges), np.digitize(at.max(axis=1), edges)
    for i in np.flatnonzero(np.isfinite(at).all(axis=1) & (low != high)):
        corners = [(*laid.places[n], float(values[n])) for n in laid.triangles[i]]
        for band in range(low[i], high[i] + 1):
            part = corners if band == low[i] else _cut(corners, float(edges[band - 1]), True)
            part = part if band == high[i] else _cut(part, float(edges[band]), False)
            if len(part) >= 3:
                yield band, int(i), part


def bands_of(laid: Laid, values: Array, edges: Array) -> list[list[Polygon]]:
    """The bodies of each band of a value at the places; ``edges`` rise. Unknown values are bare."""
    values = values.copy()
    for edge in edges:
        values[np.abs(values - edge) < _SAME_VALUE] = edge
    at = values[laid.triangles]
    band_of = np.digitize(at.min(axis=1), edges)
    whole = np.isfinite(at).all(axis=1) & (band_of == np.digitize(at.max(axis=1), edges))
    cut = list(_parts(laid, values, edges))
    bands: list[list[Polygon]] = []
    for band in range(len(edges) + 1):
        own = np.flatnonzero(whole & (band_of == band))
        parts = [(i, part) for own_band, i, part in cut if own_band == band]
        pieces = np.concatenate(
            [
                shapely.polygons(laid.places[laid.triangles[own]]),
                np.array([Polygon([c[:2] for c in part]) for _, part in parts], dtype=object),
            ]
        )
        panel = laid.panel_of[np.concatenate([own, np.array([i for i, _ in parts], np.int64)])]
        bands.append(_bodies(pieces, panel))
    return bands


def _bodies(pieces: NDArray[np.object_], panel: Index) -> list[Polygon]:
    """Pieces joined into as few bodies as they make: by whole edges on a panel, then over all."""
    sheets = [shapely.coverage_union_all(pieces[panel == number]) for number in np.unique(panel)]
    joined = shapely.union_all(shapely.make_valid(np.array(sheets)), grid_size=_GRID_MM)
    return [body for body in shapely.get_parts(joined).tolist() if isinstance(body, Polygon)]


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


def shaded_paths(bands: list[list[Polygon]], fills: tuple[Fill, ...]) -> list[Path]:
    """The bodies of each band as filled paths, one fill a band."""
    return [
        Path(_keyhole(body), True, "none", fill)
        for bodies, fill in zip(bands, fills, strict=True)
        for body in bodies
        if body.area > _LEAST_MM2
    ]
