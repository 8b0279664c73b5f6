"""Least distance between two flat panels in space, exact; 0 where they cross."""

from __future__ import annotations

import numpy as np
import shapely

from rugged_shield.core.survey.panels import Panel
from rugged_shield.core.survey.standoff import Array, Face, outer_face

Pair = tuple[Array, Array]


def _segments_apart(a0: Array, a1: Array, b0: Array, b1: Array) -> float:
    """Least distance of two sets of segments (n, 3), (m, 3): Ericson 2005, 5.1.9."""
    d1, d2 = (a1 - a0)[:, None, :], (b1 - b0)[None, :, :]
    r = a0[:, None, :] - b0[None, :, :]
    a, e = (d1**2).sum(-1), (d2**2).sum(-1)
    b, c, f = (d1 * d2).sum(-1), (d1 * r).sum(-1), (d2 * r).sum(-1)
    across = a * e - b * b
    flat = across < 1e-9 * a * e
    s = np.where(flat, 0.0, np.clip((b * f - c * e) / np.where(flat, 1.0, across), 0.0, 1.0))
    t = (b * s + f) / e
    s = np.where(t < 0, np.clip(-c / a, 0, 1), np.where(t > 1, np.clip((b - c) / a, 0, 1), s))
    t = np.clip(t, 0.0, 1.0)
    apart = r + s[..., None] * d1 - t[..., None] * d2
    return float(np.sqrt((apart**2).sum(-1)).min())


def _points_to_face(points: Array, face: Face) -> float:
    """Least distance of points that project into the face; infinite for none."""
    uv = (points - face.origin) @ face.axes.T
    over = shapely.intersects_xy(face.panel.net_to_ask(), uv[:, 0], uv[:, 1])
    if not over.any():
        return float("inf")
    heights = np.abs((points - face.origin) @ face.normal)
    return float(heights[over].min())


def _pierces(starts: Array, ends: Array, face: Face) -> bool:
    """Whether a segment passes through the sheet of the face."""
    normal = face.normal
    a, b = (starts - face.origin) @ normal, (ends - face.origin) @ normal
    through = (a * b < 0) & (np.abs(a - b) > 1e-9)
    if not through.any():
        return False
    share = (a[through] / (a[through] - b[through]))[:, None]
    at = starts[through] + share * (ends - starts)[through]
    uv = (at - face.origin) @ face.axes.T
    return bool(shapely.intersects_xy(face.panel.net_to_ask(), uv[:, 0], uv[:, 1]).any())


def panel_clearance_mm(first: Panel, second: Panel) -> float:
    """Least distance of two panels' outer faces, mm; 0 where one runs through the other."""
    return _face_gap_mm(outer_face(first), outer_face(second))


def _bound_mm(a: Face, b: Face) -> float:
    """Distance of the bounding boxes of two faces: the faces are no nearer."""
    low, high = a.low.min(axis=0), a.high.max(axis=0)
    other_low, other_high = b.low.min(axis=0), b.high.max(axis=0)
    gap = np.maximum(np.maximum(low - other_high, other_low - high), 0.0)
    return float(np.linalg.norm(gap))


def least_panel_clearance_mm(first: tuple[Face, ...], second: tuple[Face, ...]) -> float:
    """Least distance of two groups of faces, mm; pairs that cannot be the nearest are skipped."""
    pairs = sorted(
        ((_bound_mm(a, b), i, j) for i, a in enumerate(first) for j, b in enumerate(second))
    )
    best = float("inf")
    for bound, i, j in pairs:
        if bound >= best:
            break
        best = min(best, _face_gap_mm(first[i], second[j]))
    return best


def _face_gap_mm(a: Face, b: Face) -> float:
    if _pierces(a.starts, a.ends, b) or _pierces(b.starts, b.ends, a):
        return 0.0
    inside = min(_points_to_face(a.starts, b), _points_to_face(b.starts, a))
    first = _segments_apart(*_edges(a, b, inside, 1), *_edges(b, a, inside, 1))
    best = min(inside, first)
    return min(best, _segments_apart(*_edges(a, b, best), *_edges(b, a, best)))


def _edges(face: Face, other: Face, within_mm: float, most: int | None = None) -> Pair:
    """Segments of the rings whose bounding boxes come within reach of the other face's.

    ``most`` rings, the nearest first; at least one, so that there is always a distance.
    """
    low, high = other.low.min(axis=0), other.high.max(axis=0)
    gap = np.maximum(np.maximum(face.low - high, low - face.high), 0.0)
    bounds = np.sqrt((gap**2).sum(axis=1))
    order = np.argsort(bounds, kind="stable")
    near = [int(i) for i in order if bounds[i] < within_mm][:most] or [int(order[0])]
    rings = [face.rings[i] for i in near]
    return np.vstack([r[:-1] for r in rings]), np.vstack([r[1:] for r in rings])
