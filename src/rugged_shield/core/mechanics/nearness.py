"""How near a moving segment comes to boxes, segments and flat convex panels; many at once."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

Points = NDArray[np.float64]
_TINY = 1e-12
_HALVINGS = 34


def segment_to_segment_mm(a: Points, b: Points, c: Points, d: Points) -> Points:
    """Least distance of segments a–b (n, 3) and c–d (n or 1, 3), mm. Ericson 2005, 5.1.9."""
    u, v, w = b - a, d - c, a - c
    uu, vv, uv = _dot(u, u), _dot(v, v), _dot(u, v)
    uw, vw = _dot(u, w), _dot(v, w)
    det = uu * vv - uv * uv
    s = np.where(det > _TINY * np.maximum(uu * vv, _TINY), (uv * vw - vv * uw) / _safe(det), 0.0)
    s = np.clip(s, 0.0, 1.0)
    t = np.clip((uv * s + vw) / _safe(vv), 0.0, 1.0)
    s = np.clip((uv * t - uw) / _safe(uu), 0.0, 1.0)
    gap = w + s[:, None] * u - t[:, None] * v
    distance: Points = np.sqrt(_dot(gap, gap))
    return distance


def segment_to_panel_mm(a: Points, b: Points, corners: Points) -> Points:
    """Least distance of segments (n, 3) to a flat convex panel (m, 3), mm; 0 where they cross."""
    normal = _normal(corners)
    rest = corners.mean(axis=0)
    best = np.full(len(a), np.inf)
    for start, end in zip(corners, np.roll(corners, -1, axis=0), strict=True):
        best = np.minimum(best, segment_to_segment_mm(a, b, start[None], end[None]))
    for point in (a, b):
        height = (point - rest) @ normal
        over = _inside(point - height[:, None] * normal, corners, normal)
        best = np.where(over, np.minimum(best, np.abs(height)), best)
    ha, hb = (a - rest) @ normal, (b - rest) @ normal
    crosses = (ha * hb < 0.0) & (np.abs(ha - hb) > _TINY)
    share = np.where(crosses, ha / _safe(ha - hb), 0.0)
    through = _inside(a + share[:, None] * (b - a), corners, normal)
    distance: Points = np.where(crosses & through, 0.0, best)
    return distance


def segment_to_box_mm(a: Points, b: Points, low: Points, high: Points) -> Points:
    """Least distance of segments (n, 3) to a box along the axes, mm; 0 where they meet.

    Half the squared distance is convex along a segment: its slope is brought to zero by halving.
    """
    way = b - a
    first, last = np.zeros(len(a)), np.ones(len(a))
    for _ in range(_HALVINGS):
        middle = (first + last) / 2
        point = a + middle[:, None] * way
        rises = _dot(point - np.clip(point, low, high), way) > 0.0
        first, last = np.where(rises, first, middle), np.where(rises, middle, last)
    best = np.full(len(a), np.inf)
    for share in (first, last, np.zeros(len(a)), np.ones(len(a))):
        point = a + share[:, None] * way
        off = point - np.clip(point, low, high)
        best = np.minimum(best, np.sqrt(_dot(off, off)))
    return best


def _dot(a: Points, b: Points) -> Points:
    product: Points = (a * b).sum(axis=-1)
    return product


def _safe(values: Points) -> Points:
    return np.where(np.abs(values) < _TINY, _TINY, values)


def _normal(corners: Points) -> Points:
    """Unit normal by Newell's sum: right for any convex panel, whichever corner comes first."""
    after = np.roll(corners, -1, axis=0)
    total = np.cross(corners, after).sum(axis=0)
    return np.asarray(total / np.linalg.norm(total))


def _inside(points: Points, corners: Points, normal: Points) -> NDArray[np.bool_]:
    """Whether points of the panel's plane lie within its outline."""
    inside = np.ones(len(points), dtype=bool)
    for start, end in zip(corners, np.roll(corners, -1, axis=0), strict=True):
        inside &= np.cross(end - start, points - start) @ normal >= -1e-9
    return inside
