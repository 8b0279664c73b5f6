"""Straight rays against folded panels: what is in the way of a stone, a tool or oil."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt
import shapely

from rugged_shield.core.survey.geometry import FoldedPlate

Array = npt.NDArray[np.float64]


def blocked(
    points: Array,
    toward: tuple[float, float, float] | Array,
    folded: FoldedPlate,
    stone_mm: float,
    within_mm: float = np.inf,
) -> npt.NDArray[np.bool_]:
    """Which rays from ``points`` (n, 3) toward the stone meet the plate; shape (n,), bool.

    ``toward`` is one direction for all, or one for each ray (n, 3); of length 1 where only what
    stands ``within_mm`` of the start is asked for.
    """
    hit = np.zeros(len(points), dtype=bool)
    ahead = np.broadcast_to(np.asarray(toward, dtype=float), points.shape)
    for panel in folded.panels:
        open_yet = np.flatnonzero(~hit)
        # Everything in the panel's own axes: across it, and along its u and v.
        axes = np.array([panel.normal, panel.u, panel.v]).T
        origin, at, way = (
            np.array(panel.origin) @ axes,
            points[open_yet] @ axes,
            ahead[open_yet] @ axes,
        )
        with np.errstate(divide="ignore", invalid="ignore"):
            along = (origin[0] - at[:, 0]) / way[:, 0]
            u = at[:, 1] + along * way[:, 1] - origin[1]
            v = at[:, 2] + along * way[:, 2] - origin[2]
        net = panel.net_to_ask(stone_mm)
        u0, v0, u1, v1 = net.bounds
        near = (u >= u0) & (u <= u1) & (v >= v0) & (v <= v1) & (along > 1e-6) & (along <= within_mm)
        near &= np.abs(way[:, 0]) >= 1e-9
        hit[open_yet[near]] = shapely.intersects_xy(net, u[near], v[near])
    return hit
