"""Strike maps as drawings: a plate in shades from below or ahead, alone or against another."""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np
from shapely import Polygon

from rugged_shield.core.amounts import amount
from rugged_shield.core.errors import choose
from rugged_shield.core.mechanics.drawing import Circle, Drawing, Fill, Mark, Path
from rugged_shield.core.mechanics.frames import Vec2, Vec3
from rugged_shield.core.shell.solve import ShellMount
from rugged_shield.core.survey.geometry import fold
from rugged_shield.core.weighup.coverage import DIRECTIONS
from rugged_shield.core.weighup.response import Array
from rugged_shield.core.weighup.shades import Laid, bands_of, shaded_paths
from rugged_shield.core.weighup.strike_field import StrikeMapInput
from rugged_shield.core.weighup.strike_linear import linear_of, shell_of
from rugged_shield.core.weighup.strike_map import MapPoint, StrikeMapResult

View = Literal["below", "ahead"]
FILLS: tuple[Fill, ...] = ("band 1", "band 2", "band 3", "band 4", "band 5", "band 6")
MARGIN_MM = 60.0
FAR_MM = 30.0
"""Two plates are held against each other where both have sheet within so far."""
EDGE_ON = 0.15
"""A panel is shaded where its normal looks at the viewer by at least this cosine."""
_NEVER = 1e9
_LEAST = 1e-6


@dataclass(frozen=True)
class Shading:
    """What a map is shaded by: its edges from the worst shade on, their unit, how it is read.

    ``falls``: a small value is the bad one. ``floor`` is the least value that is told apart.
    """

    label: str
    unit: str
    edges: tuple[float, ...]
    falls: bool
    value: Callable[[MapPoint], float | None]

    def words(self) -> tuple[str, ...]:
        """What each shade means, from the worst on."""
        names = [f"{edge:g}" for edge in self.edges]
        between = [f"{a} to {b} {self.unit}" for a, b in itertools.pairwise(names)]
        ends = ("below", "not below") if self.falls else ("above", "not above")
        first, last = f"{ends[0]} {names[0]} {self.unit}", f"{ends[1]} {names[-1]} {self.unit}"
        return tuple(w.strip() for w in (first, *between, last))

    def bands(self, laid: Laid, values: Array) -> list[list[Polygon]]:
        """The bodies of each shade, from the worst on; energies and lengths by their logarithm."""
        known = np.log(np.maximum(values, _LEAST))
        found = bands_of(laid, known, np.log(np.array(sorted(self.edges))))
        return found if self.falls else found[::-1]


SHADINGS: dict[str, Shading] = {
    "touches": Shading(
        "reaches something at",
        "J",
        (10.0, 40.0, 80.0, 150.0, 400.0),
        True,
        lambda p: p.touches_j if p.touches_j is not None else _NEVER,
    ),
    "room used": Shading(
        "deflection, share of the room behind",
        "%",
        (100.0, 75.0, 50.0, 25.0, 10.0),
        False,
        lambda p: 100 * p.deflection_mm / max(p.standoff_mm, 0.1) if p.standoff_mm else 0.0,
    ),
    "deflection": Shading(
        "deflection", "mm", (40.0, 25.0, 15.0, 10.0, 5.0), False, lambda p: p.deflection_mm
    ),
    "dent": Shading("dent left", "mm", (15.0, 8.0, 4.0, 2.0, 1.0), False, lambda p: p.dent_mm),
    "worst mount": Shading(
        "worst mount, share of its limit",
        "%",
        (100.0, 75.0, 50.0, 25.0, 10.0),
        False,
        lambda p: None if p.worst_share is None else 100 * p.worst_share,
    ),
    "gets past": Shading(
        "energy that gets past",
        "%",
        (75.0, 50.0, 25.0, 10.0, 1.0),
        False,
        lambda p: 100 * p.past_share,
    ),
}

RATIO_EDGES = (0.5, 0.8, 1.25, 2.0)
RATIO_FILLS: tuple[Fill, ...] = ("band 1", "band 2", "band 4", "band 5", "band 6")
RATIO_WORDS = (
    "reached at less than half the energy",
    "at clearly less",
    "about alike",
    "at clearly more",
    "at more than twice the energy",
)


def is_from_ahead(direction: str) -> bool:
    """Whether what a stone from there meets is better looked at from ahead as well."""
    return DIRECTIONS[direction][0] < 0


def _seen(points: Array, view: View) -> Array:
    """Points (n, 3) on the drawing: on the back looking up, or standing before the front wheel."""
    return np.column_stack([-points[:, 1], points[:, 0] if view == "below" else -points[:, 2]])


def _at(place: Vec3, view: View) -> Vec2:
    x, y = _seen(np.array([place]), view)[0]
    return float(x), float(y)


def _mesh(given: StrikeMapInput, view: View) -> tuple[Laid, tuple[ShellMount, ...]]:
    """The mesh on the drawing without what is seen edge-on, and the mounts on what is not."""
    shell = shell_of(given.plate, given.mounts, given.mesh_mm, given.temperature_c)
    mesh = linear_of(shell).mesh
    axis = 2 if view == "below" else 0
    broad = [abs(mesh.normal(i)[axis]) >= EDGE_ON for i in range(len(mesh.panels))]
    kept = np.array(broad)[mesh.panel_of]
    shown = np.isin(mesh.placed, mesh.triangles[kept])
    mounts = tuple(m for m, seen in zip(given.mounts, shown, strict=True) if seen)
    places = _seen(given.pose.lifted(mesh.nodes), view)
    return Laid(places, mesh.triangles[kept], mesh.panel_of[kept]), mounts


def at_nodes(count: int, points: tuple[MapPoint, ...], values: list[float | None]) -> Array:
    """Values of struck places at the mesh's nodes; nan where nothing is struck or known."""
    out = np.full(count, np.nan)
    for point, value in zip(points, values, strict=True):
        out[point.node] = np.nan if value is None else value
    return out


def _drawn(
    title: str,
    given: StrikeMapInput,
    view: View,
    laid: Laid,
    mounts: tuple[ShellMount, ...],
    paths: list[Path],
    marks: list[Mark],
) -> Drawing:
    for panel in fold(given.plate, given.pose).panels:
        if panel.piece == "":
            corners = tuple(_at(c, view) for c in panel.corners())
            paths.append(Path(corners, True, "outline", "none", panel.name))
    marks += [
        Mark(*_at(m.at_mm, view), m.name.removeprefix("joint "), "mount", m.name) for m in mounts
    ]
    low, high = laid.places.min(axis=0), laid.places.max(axis=0)
    return Drawing(
        title=title,
        x=float(low[0]) - MARGIN_MM,
        y=float(low[1]) - MARGIN_MM,
        width=float(high[0] - low[0]) + 2 * MARGIN_MM,
        height=float(high[1] - low[1]) + 2 * MARGIN_MM,
        paths=tuple(paths),
        circles=(),
        marks=tuple(marks),
        dimensions=(),
        scale_bar_mm=100.0,
    )


def map_drawing(
    given: StrikeMapInput,
    result: StrikeMapResult,
    shading: str = "touches",
    scars: tuple[Vec3, ...] = (),
    view: View = "below",
) -> Drawing:
    """The plate in shades, from below (front at the top) or ahead; first touch and scars marked."""
    choose("shading", shading, SHADINGS, "shading")
    rule = SHADINGS[shading]
    laid, mounts = _mesh(given, view)
    values = at_nodes(len(laid.places), result.points, [rule.value(p) for p in result.points])
    bands = rule.bands(laid, values)
    paths = shaded_paths(bands, FILLS)
    marks: list[Mark] = []
    rings: list[Circle] = []
    first = first_touch(result)
    if first is not None and first.touches_j is not None:
        x, y = _at(first.place_mm, view)
        rings.append(Circle(x, y, FIRST_RING_MM, "section", "paper", "first touch"))
        words = f"touches first, {amount(first.touches_j, 'J', 0)}"
        beside = _left_of(given, first, view) - FIRST_RING_MM
        marks.append(Mark(beside, y, words, "word", "first touch"))
    for i, place in enumerate(scars):
        paths += _cross(*_at(place, view), f"scar {i}")
    title = (
        f"Strike map of the {given.plate.name}, {given.direction}: {rule.label}; seen from {view}"
    )
    return replace(_drawn(title, given, view, laid, mounts, paths, marks), circles=tuple(rings))


FIRST_RING_MM = 6.0


def _left_of(given: StrikeMapInput, point: MapPoint, view: View) -> float:
    """Where words about a place stand clear of the sheet that it is on: left of its panel.

    Left of a side panel there is no room: they end at the place itself.
    """
    panels = fold(given.plate, given.pose).panels
    own = next(p for p in panels if p.name == point.panel)
    edge = min(_at(corner, view)[0] for corner in own.corners())
    outermost = min(_at(corner, view)[0] for p in panels for corner in p.corners())
    return edge if edge - outermost > WORDS_MM else _at(point.place_mm, view)[0]


WORDS_MM = 60.0
"""Room that a word of a few letters takes on a drawing of a plate, about."""


def first_touch(result: StrikeMapResult) -> MapPoint | None:
    """The place where something is reached with the least energy; None where nothing is."""
    reached = [p for p in result.points if p.touches_j is not None]
    return min(reached, key=lambda p: p.touches_j or 0.0, default=None)


def nearest_ahead(
    given: StrikeMapInput, result: StrikeMapResult, y_mm: float, z_mm: float
) -> MapPoint:
    """The struck place nearest to a point of the view from ahead, on a panel that faces it."""
    panels = {p.name: p for p in fold(given.plate).panels}
    facing = [p for p in result.points if abs(panels[p.panel].inward[0]) >= EDGE_ON]
    return min(
        facing or result.points,
        key=lambda p: math.hypot(p.place_mm[1] - y_mm, p.place_mm[2] - z_mm),
    )


def _cross(x: float, y: float, ref: str, half: float = 9.0) -> list[Path]:
    """A chalk cross where the old plate was struck."""
    return [
        Path(((x - half, y - half), (x + half, y + half)), weight="section", ref=ref),
        Path(((x - half, y + half), (x + half, y - half)), weight="section", ref=ref),
    ]


@dataclass(frozen=True)
class Compared:
    """Two plates where both have sheet: share of that area by the energies that reach through.

    ``better`` + ``worse`` + ``alike`` = 1; ``ratio`` is the geometric mean of the energies' ratio.
    """

    better: float
    worse: float
    alike: float
    ratio: float


def _energies_beside(
    points: tuple[MapPoint, ...], others: tuple[MapPoint, ...]
) -> list[float | None]:
    """Energy that reaches something, over that at the nearest place of another plate."""
    if not others:
        return [None] * len(points)
    places = np.array([p.place_mm[:2] for p in others])
    found: list[float | None] = []
    for point in points:
        away = np.hypot(places[:, 0] - point.place_mm[0], places[:, 1] - point.place_mm[1])
        at = int(away.argmin())
        own, its = point.touches_j, others[at].touches_j
        near = away[at] <= FAR_MM and own is not None and its is not None
        found.append(max(own or 0.0, _LEAST) / max(its or 0.0, _LEAST) if near else None)
    return found


def difference(
    given: StrikeMapInput,
    result: StrikeMapResult,
    other: StrikeMapInput,
    other_result: StrikeMapResult,
    view: View = "below",
) -> tuple[Drawing, Compared]:
    """One plate shaded by how its energies compare with those of another at the same place."""
    ratios = _energies_beside(result.points, other_result.points)
    laid, mounts = _mesh(given, view)
    values = np.log(at_nodes(len(laid.places), result.points, ratios))
    bands = bands_of(laid, values, np.log(np.array(RATIO_EDGES)))
    title = f"{given.plate.name} against {other.plate.name}, {given.direction}; seen from {view}"
    drawing = _drawn(title, given, view, laid, mounts, shaded_paths(bands, RATIO_FILLS), [])
    areas = [sum(p.area for p in bodies) for bodies in bands]
    whole = sum(areas) or 1.0
    known = [math.log(r) for r in ratios if r is not None]
    mean = math.exp(sum(known) / len(known)) if known else 1.0
    return drawing, Compared(
        (areas[3] + areas[4]) / whole, (areas[0] + areas[1]) / whole, areas[2] / whole, mean
    )
