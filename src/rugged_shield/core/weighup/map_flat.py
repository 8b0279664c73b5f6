"""A strike map on the flat pattern: every panel at its true size, levels written on it."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from shapely import Polygon

from rugged_shield.core.amounts import amount
from rugged_shield.core.errors import choose
from rugged_shield.core.mechanics.drawing import Circle, Drawing, Mark
from rugged_shield.core.mechanics.frames import Vec2
from rugged_shield.core.shell.mesh import Mesh
from rugged_shield.core.survey.flat import (
    FlatPlace,
    flat_drawing,
    flat_pattern,
    flat_places,
    on_the_bench,
)
from rugged_shield.core.survey.panels import Panel, flat_panels
from rugged_shield.core.weighup.map_drawings import (
    FILLS,
    SHADINGS,
    Shading,
    at_nodes,
    first_touch,
)
from rugged_shield.core.weighup.response import Array, Index
from rugged_shield.core.weighup.shades import Laid, shaded_paths
from rugged_shield.core.weighup.strike_field import StrikeMapInput
from rugged_shield.core.weighup.strike_linear import linear_of, shell_of
from rugged_shield.core.weighup.strike_map import MapPoint, StrikeMapResult

LABELLED_MM2 = 2500.0
"""A shade has its level written on it where a part of it is at least so large."""
WIDE_MM, HIGH_MM = 150.0, 26.0
"""Words on the map stay so far apart, across or along, that each can be read."""
_SPOT_MM = 5.0


def _in_panel(panel: Panel, places: Array) -> Array:
    """Points (n, 3) in a panel's own u, v."""
    away = places - np.array(panel.origin)
    return np.column_stack([away @ np.array(panel.u), away @ np.array(panel.v)])


def _laid(mesh: Mesh, values: Array, given: StrikeMapInput) -> tuple[Laid, Array]:
    """The mesh panel by panel in the flat, with a value for each place.

    A node on a fold lies in each of its panels.
    """
    panels = {p.name: p for p in flat_panels(given.plate)}
    laid = flat_places(given.plate)
    places: list[Array] = []
    triangles: list[Index] = []
    panel_of: list[Index] = []
    known: list[Array] = []
    count = 0
    for i, shell_panel in enumerate(mesh.panels):
        own = mesh.triangles[mesh.panel_of == i]
        place = laid.get(shell_panel.name)
        if place is None or not len(own):
            continue
        nodes, local = np.unique(own, return_inverse=True)
        flat = _flat(place, _in_panel(panels[shell_panel.name], mesh.nodes[nodes]))
        places.append(flat)
        triangles.append(np.asarray(local).reshape(-1, 3) + count)
        panel_of.append(np.full(len(own), i))
        known.append(values[nodes])
        count += len(nodes)
    laid_out = Laid(np.vstack(places), np.vstack(triangles), np.concatenate(panel_of))
    return laid_out, np.concatenate(known)


def _flat(place: FlatPlace, uv: Array) -> Array:
    """Points of a panel on the drawing of the flat pattern."""
    return np.array([on_the_bench(place.at((float(u), float(v)))) for u, v in uv])


def _levels(bands: list[list[Polygon]], rule: Shading, taken: list[Vec2]) -> list[Mark]:
    """The level of each shade, written in its largest part where there is room."""
    marks = []
    for bodies, words in zip(bands, rule.words(), strict=True):
        largest = max(bodies, key=lambda p: float(p.area), default=None)
        if largest is not None and largest.area >= LABELLED_MM2:
            at = largest.representative_point()
            if _is_free((at.x, at.y), taken):
                taken.append((at.x, at.y))
                marks.append(Mark(at.x, at.y, words, "side", "level"))
    return marks


def _is_free(at: Vec2, taken: list[Vec2]) -> bool:
    return all(abs(at[0] - x) > WIDE_MM or abs(at[1] - y) > HIGH_MM for x, y in taken)


def _beside(at: Vec2, taken: list[Vec2]) -> Vec2:
    """The place for a word beside a spot: on it, else below or above it, a line at a time."""
    for step in range(8):
        for way in (1, -1):
            spot = (at[0], at[1] + way * step * (HIGH_MM + 1.0))
            if _is_free(spot, taken):
                return spot
    return at


def _named(result: StrikeMapResult) -> list[tuple[MapPoint, str]]:
    """Places that have a name of their own: where it touches first, where it goes deepest."""
    found = []
    first = first_touch(result)
    if first is not None and first.touches_j is not None:
        found.append((first, f"touches first, {amount(first.touches_j, 'J', 0)}"))
    deepest = max(result.points, key=lambda p: p.deflection_mm, default=None)
    if deepest is not None and deepest is not first:
        found.append((deepest, f"deepest, {amount(deepest.deflection_mm, 'mm', 0)}"))
    return found


def flat_map_drawing(
    given: StrikeMapInput, result: StrikeMapResult, shading: str = "touches"
) -> Drawing:
    """The map as the sheet lies on the bench: panels unfolded, levels and named places written.

    Apron and wings, which stand on edge from below, are seen at their full size here. Further
    pieces are not struck and stay bare.
    """
    choose("shading", shading, SHADINGS, "shading")
    rule = SHADINGS[shading]
    shell = shell_of(given.plate, given.mounts, given.mesh_mm, given.temperature_c)
    mesh = linear_of(shell).mesh
    values = at_nodes(len(mesh.nodes), result.points, [rule.value(p) for p in result.points])
    bands = rule.bands(*_laid(mesh, values, given))
    base = flat_drawing(flat_pattern(given.plate))
    outline = tuple(replace(p, fill="hole" if p.fill == "hole" else "none") for p in base.paths)
    panels = {p.name: p for p in flat_panels(given.plate)}
    laid = flat_places(given.plate)
    marks: list[Mark] = []
    taken: list[Vec2] = []
    spots: list[Circle] = []
    for point, words in _named(result):
        uv = _in_panel(panels[point.panel], mesh.nodes[[point.node]])
        x, y = (float(c) for c in _flat(laid[point.panel], uv)[0])
        spots.append(Circle(x, y, _SPOT_MM, "section", "paper", point.panel))
        word = _beside((x, y - HIGH_MM), taken)
        taken.append(word)
        marks.append(Mark(*word, words, "side", "level"))
    marks += _levels(bands, rule, taken)
    return replace(
        base,
        title=f"Strike map of the {given.plate.name} on its flat pattern: {rule.label}",
        paths=(*shaded_paths(bands, FILLS), *outline),
        circles=tuple(spots),
        marks=tuple(marks),
        dimensions=(),
    )
