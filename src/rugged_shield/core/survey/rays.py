"""Straight rays against folded panels: what is in the way of a stone, a tool or oil."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt
import shapely

from rugged_shield.core.survey.geometry import FoldedPlate


def blocked(
    points: npt.NDArray[np.float64],
    toward: tuple[float, float, float],
    folded: FoldedPlate,
    stone_mm: float,
) -> npt.NDArray[np.bool_]:
    """Which rays from ``points`` toward the stone meet the plate; shape (n,), bool."""
    hit = np.zeros(len(points), dtype=bool)
    direction = np.array(toward)
    for panel in folded.panels:
        normal, origin = np.array(panel.normal), np.array(panel.origin)
        slope = float(direction @ normal)
        if abs(slope) < 1e-9:
            continue
        along = ((origin - points) @ normal) / slope
        at = points + along[:, None] * direction - origin
        u, v = at @ np.array(panel.u), at @ np.array(panel.v)
        net = panel.net(stone_mm)
        shapely.prepare(net)
        u0, v0, u1, v1 = net.bounds
        near = (along > 1e-6) & (u >= u0) & (u <= u1) & (v >= v0) & (v <= v1) & ~hit
        hit[near] = shapely.intersects_xy(net, u[near], v[near])
    return hit
