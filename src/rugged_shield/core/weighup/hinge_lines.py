"""Straight folds by which a free edge gives way: the shortest for its lever, at every place."""

from __future__ import annotations

import math

import numpy as np

from rugged_shield.core.shell.mesh import Mesh, ShellPanel, axes_of, hole_ring
from rugged_shield.core.weighup.response import Array, Index

DIRECTIONS = 48
_OFFSETS = 96
_RING_MM = 6.0
_LEVERS = (1.0, 2 / 3, 1 / 3)
_INSIDE = 1e-6
"""A line along an outline is taken this share of the panel's width inside it."""


def _cut_lengths(panel: ShellPanel, along: Array, across: Array, offsets: Array) -> Array:
    """Length of sheet on each line ``across · p = offset`` through a panel, holes left out, mm."""
    rings = [np.array(panel.outline_mm), *(hole_ring(h, _RING_MM) for h in panel.holes)]
    crossings: list[Array] = []
    for points in rings:
        after = np.roll(points, -1, axis=0)
        s, e = points @ across, after @ across
        u, v = points @ along, after @ along
        meets = (s[None] < offsets[:, None]) != (e[None] < offsets[:, None])
        step = np.where(e == s, 1.0, e - s)
        at = u + (offsets[:, None] - s) / step * (v - u)
        crossings.append(np.where(meets, at, np.inf))
    found = np.sort(np.concatenate(crossings, axis=1), axis=1)
    if found.shape[1] % 2:
        found = np.concatenate([found, np.full((len(found), 1), np.inf)], axis=1)
    start, end = found[:, 0::2], found[:, 1::2]
    with np.errstate(invalid="ignore"):
        return np.asarray(np.where(np.isfinite(end), end - start, 0.0).sum(axis=1))


def _held(mesh: Mesh, panel: int, at: Index) -> Index:
    """Nodes of a panel that stay where they are: its folds and its mounts."""
    own = np.unique(mesh.triangles[mesh.panel_of == panel])
    other = np.unique(mesh.triangles[mesh.panel_of != panel])
    return np.asarray(np.intersect1d(own, np.concatenate([other, at])))


def hinge_per_lever(mesh: Mesh, nodes: Index, panel: Index, at: Index) -> Array:
    """Least length of fold over its lever at each node of its panel, (n,), infinite inside.

    A line counts when it parts the place from every mount (nodes ``at``) and every fold of its
    panel: 48 directions, for each the farthest such line and two nearer ones (upper bounds of
    limit analysis: Johansen 1943).
    """
    least = np.full(len(nodes), np.inf)
    for number in np.unique(panel):
        here = np.flatnonzero(panel == number)
        sheet = mesh.panels[number]
        axes, origin = axes_of(sheet)[:2], np.array(sheet.origin_mm)
        places = (mesh.nodes[nodes[here]] - origin) @ axes.T
        held = (mesh.nodes[_held(mesh, int(number), at)] - origin) @ axes.T
        corners = np.array(sheet.outline_mm, dtype=float)
        if len(held):
            least[here] = _least(sheet, places, held, corners)
    return least


def _least(sheet: ShellPanel, places: Array, held: Array, corners: Array) -> Array:
    least = np.full(len(places), np.inf)
    for angle in np.arange(DIRECTIONS) * 2 * math.pi / DIRECTIONS:
        across = np.array([math.cos(angle), math.sin(angle)])
        along = np.array([-across[1], across[0]])
        limit = float((held @ across).min())
        edge = corners @ across
        low, width = float(edge.min()), float(np.ptp(edge))
        room = limit - places @ across
        free = room > 1e-3 * width
        if not free.any():
            continue
        offsets = np.linspace(low, limit, _OFFSETS)
        offsets[0], offsets[-1] = low + _INSIDE * width, limit - _INSIDE * width
        lengths = _cut_lengths(sheet, along, across, offsets)
        for part in _LEVERS:
            lever = part * room[free]
            length = np.interp(limit - room[free] + lever, offsets, lengths)
            least[free] = np.minimum(least[free], length / lever)
    return least
