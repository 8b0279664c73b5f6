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
    # One row an axis: every product below then runs along memory.
    start = np.ascontiguousarray(points.T)
    ahead = np.ascontiguousarray(np.atleast_2d(np.asarray(toward, dtype=float)).T)
    for panel in folded.panels:
        axes = np.array([panel.normal, panel.u, panel.v])
        across, ahead_u, ahead_v = axes @ ahead
        away, at_u, at_v = axes @ start - (axes @ np.array(panel.origin))[:, None]
        with np.errstate(divide="ignore", invalid="ignore"):
            along = -away / across
            u, v = at_u + along * ahead_u, at_v + along * ahead_v
        net = panel.net_to_ask(stone_mm)
        u0, v0, u1, v1 = net.bounds
        meets = ~hit & (along > 1e-6) & (along <= within_mm) & (np.abs(across) >= 1e-9)
        meets &= (u >= u0) & (u <= u1) & (v >= v0) & (v <= v1)
        near = np.flatnonzero(meets)
        hit[near] = shapely.intersects_xy(net, u[near], v[near])
    return hit
