"""Where water stands on a plate: it runs down each panel, over folds, and out at open edges."""

from __future__ import annotations

import heapq
import itertools
import math
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
import shapely

from rugged_shield.core.mechanics.frames import Vec3, down_of
from rugged_shield.core.survey.geometry import FoldedPlate
from rugged_shield.core.survey.panels import Panel
from rugged_shield.core.survey.standoff import Array

POSTURES: dict[str, float] = {"level": 0.0, "nose-up 8°": 8.0}
PUDDLE_MM = 2.0
STEP_MM = 10.0
TOUCHING_MM = 0.5
STEEPEST_DEG = 45.0


@dataclass(frozen=True)
class Puddle:
    """Water that stands on a panel in one posture, and how deep, mm."""

    panel: str
    posture: str
    depth_mm: float
    place_mm: Vec3


def on_panel(points: Array, panel: Panel) -> npt.NDArray[np.bool_]:
    """Which points (n, 3) lie on a panel's sheet; shape (n,), of bool."""
    away = points - np.array(panel.origin)
    uv = shapely.points(away @ np.array([panel.u, panel.v]).T)
    near = np.abs(away @ np.array(panel.normal)) <= TOUCHING_MM
    return np.asarray(near & (shapely.distance(panel.outline, uv) < TOUCHING_MM), dtype=np.bool_)


@dataclass(frozen=True)
class _Panel:
    """A panel in one posture: its lowest place, the height of its lowest way out, its folds.

    ``over``: the least height at which water gets over to each panel it is folded from.
    """

    name: str
    lowest: float
    place_mm: Vec3
    outlet: float
    over: dict[int, float]


def _rims(panel: Panel) -> list[Array]:
    """Rims of the openings that let water out: no closed door, and no hole with a screw in it."""
    rims = []
    for cutout, opening in panel.openings:
        if not cutout.closed_door and cutout.purpose != "mount":
            uv = shapely.get_coordinates(opening.exterior)
            rims.append(np.array(panel.origin) + uv @ np.array([panel.u, panel.v]))
    return rims


def _ring(panel: Panel) -> Array:
    ring = shapely.get_coordinates(shapely.segmentize(panel.outline.exterior, STEP_MM))
    return np.asarray(np.array(panel.origin) + ring @ np.array([panel.u, panel.v]))


def _drained(at: int, folded: FoldedPlate, down: Array) -> _Panel:
    """One panel of a plate and its ways out.

    An edge is open where its middle lies on no other panel; water leaves it at its lower end,
    so that the slit where two panels part at a corner lets it out at the corner.
    """
    panel, points = folded.panels[at], _ring(folded.panels[at])
    heights = -points @ down
    middles = (points[:-1] + points[1:]) / 2
    open_edge = np.ones(len(middles), dtype=bool)
    over: dict[int, float] = {}
    for i, other in enumerate(folded.panels):
        if i == at:
            continue
        open_edge &= ~on_panel(middles, other)
        shared = [heights[on_panel(points, other)]]
        theirs = _ring(other)
        shared.append(-theirs[on_panel(theirs, panel)] @ down)
        both = np.concatenate(shared)
        if both.size:
            over[i] = float(both.min())
    edges = np.minimum(heights[:-1], heights[1:])[open_edge]
    outlets = [*edges, *(float((-rim @ down).min()) for rim in _rims(panel))]
    lowest = int(np.argmin(heights))
    x, y, z = (float(c) for c in points[lowest])
    return _Panel(
        panel.name, float(heights[lowest]), (x, y, z), min(outlets, default=math.inf), over
    )


def _levels(panels: list[_Panel]) -> list[float]:
    """To what height water rises on each panel before it gets out, over folds if it must.

    The least, over all ways out, of the highest place on the way: grown from the outlets
    inward, lowest first (Barnes et al. 2014, priority flood).
    """
    level = [math.inf] * len(panels)
    waiting = [(max(p.outlet, p.lowest), i) for i, p in enumerate(panels)]
    heapq.heapify(waiting)
    while waiting:
        height, i = heapq.heappop(waiting)
        if height >= level[i]:
            continue
        level[i] = height
        for j, other in enumerate(panels):
            if i in other.over:
                heapq.heappush(waiting, (max(height, other.over[i], other.lowest), j))
    return level


def _posture(folded: FoldedPlate, posture: str) -> list[Puddle]:
    """Each pool once, on the panel where it is deepest."""
    down = np.array(down_of(POSTURES[posture]))
    panels = [_drained(i, folded, down) for i in range(len(folded.panels))]
    flat = math.cos(math.radians(STEEPEST_DEG))
    pools: dict[float, Puddle] = {}
    for panel, sheet, level in zip(panels, folded.panels, _levels(panels), strict=True):
        top = level if math.isfinite(level) else _highest(folded, down)
        depth = top - panel.lowest
        if depth < PUDDLE_MM or sheet.inward[2] <= flat:
            continue
        known = pools.get(round(level, 6))
        if known is None or known.depth_mm < depth:
            pools[round(level, 6)] = Puddle(panel.name, posture, depth, panel.place_mm)
    return list(pools.values())


def _highest(folded: FoldedPlate, down: Array) -> float:
    return max(float((-_ring(panel) @ down).max()) for panel in folded.panels)


def puddles(folded: FoldedPlate) -> tuple[Puddle, ...]:
    """Where water stands, level and nose-up; walls steeper than 45° hold none."""
    return tuple(itertools.chain.from_iterable(_posture(folded, p) for p in POSTURES))
