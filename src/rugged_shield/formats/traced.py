"""A traced outline from a drawing file: closed loops, in mm, with its holes.

What DXF and SVG have in common: paths flattened to a named tolerance, ends
joined, loops closed, one outline with holes, turned the way the plate lies.
"""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Literal

import numpy as np
import numpy.typing as npt
import shapely
from shapely import LineString, Polygon

from rugged_shield.core.amounts import amount, entered, place_words
from rugged_shield.core.errors import InputError
from rugged_shield.core.survey.plate import Cutout

FLATTEN_MM = 0.05
FARTHEST_MM = 100_000.0
MAX_ALL_POINTS = 200_000
MAX_ENDS_AT_ONE_PLACE = 64
JOIN_MM = 0.1
MAX_PATHS = 20_000
MAX_POINTS = 2_000
MAX_HOLES = 200
LEAST_MM, MOST_MM = 40.0, 1800.0
UNITS_MM = {"mm": 1.0, "cm": 10.0, "m": 1000.0, "in": 25.4}
Unit = Literal["", "mm", "cm", "m", "in"]
Front = Literal["top", "bottom", "left", "right"]
Seen = Literal["from below", "from above"]
_TURN: dict[str, int] = {"top": 0, "left": 1, "bottom": 2, "right": 3}

Points = npt.NDArray[np.float64]


@dataclass(frozen=True)
class Traced:
    """One outline with holes in the plate's u (rearward) and v (to the right), mm."""

    outline_mm: tuple[tuple[float, float], ...]
    holes: tuple[Cutout, ...]
    unit: str
    length_mm: float
    width_mm: float
    notes: tuple[str, ...]


@dataclass(frozen=True)
class Placing:
    """How a drawing is to be read: its unit if it does not say, its front, the side seen."""

    unit: Unit = ""
    front: Front = "top"
    seen: Seen = "from below"
    panel: str = "belly"


def unit_scale(said: str, placing: Placing) -> tuple[str, float]:
    """The unit to use and mm per unit; the person's word goes before the file's."""
    unit = placing.unit or said
    if not unit:
        raise InputError(
            "unit",
            "",
            "mm, cm, m or in",
            "the file does not say in which unit it is drawn",
            "Choose the unit it was drawn in.",
        )
    return unit, UNITS_MM[unit]


def check_reach(points: Any, scale: float, curves: int) -> None:
    """Refuse points that are no numbers or so far off that no plate is drawn there.

    To be asked before curves are flattened: what they take grows with number and size, about as
    half the root of number times length over tolerance.
    """
    at = np.asarray(points, dtype=float)
    far = np.abs(at) * scale
    if not np.all(np.isfinite(far)) or np.any(far > FARTHEST_MM):
        raise InputError(
            "file",
            "a point far away",
            f"points within {FARTHEST_MM / 1000:g} m of the drawing's origin",
            "the drawing has a point that is no number or lies far away",
            "Check its unit and scale, and move the outline near the origin.",
        )

    length_mm = float(np.linalg.norm(np.diff(at, axis=0), axis=1).sum()) * scale
    check_count(int(math.sqrt(curves * length_mm / FLATTEN_MM) / 2))


def check_count(points: int) -> None:
    """Refuse a drawing whose flattened curves have too many points in all."""
    if points > MAX_ALL_POINTS:
        raise InputError(
            "file",
            points,
            f"at most {MAX_ALL_POINTS} points in all curves",
            "the drawing has too many points",
            "Keep only the outline and its holes, and draw them with fewer points.",
        )


def _check_crowds(ends: Points) -> None:
    """Refuse a drawing with a heap of lines that end at one place: nothing there is an outline."""
    _, counts = np.unique(np.floor(ends / JOIN_MM), axis=0, return_counts=True)
    if counts.max() > MAX_ENDS_AT_ONE_PLACE:
        raise InputError(
            "outline",
            int(counts.max()),
            f"at most {MAX_ENDS_AT_ONE_PLACE} lines that end at one place",
            f"{counts.max()} lines end within {entered(JOIN_MM, 'mm')} of each other",
            "Take out hatching and doubled lines.",
        )


def _joined(paths: list[Points]) -> list[Points]:
    """Open paths with ends nearer than 0.1 mm made to share the very same point."""
    from scipy.spatial import cKDTree

    if not paths:
        return []
    ends = np.array([p[i] for p in paths for i in (0, -1)])
    _check_crowds(ends)
    leader = np.arange(len(ends))

    def root(i: int) -> int:
        while leader[i] != i:
            leader[i] = leader[leader[i]]
            i = int(leader[i])
        return i

    for a, b in cKDTree(ends).query_pairs(JOIN_MM):
        leader[root(b)] = root(a)
    shared = [p.copy() for p in paths]
    for i in range(len(ends)):
        shared[i // 2][0 if i % 2 == 0 else -1] = ends[root(i)]
    return shared


def _where(point: Sequence[float]) -> str:
    return f"{place_words(point[0], point[1], 1)} in the drawing"


def _hangs_loose(lines: list[LineString]) -> InputError:
    """The error for lines that close no loop, with the first end that meets no other."""
    ends = Counter(line.coords[i] for line in lines for i in (0, -1))
    at = next((point for point, met in ends.items() if met == 1), lines[0].coords[0])
    return InputError(
        "outline",
        _where(at),
        "closed loops",
        f"a line ends in the open at {_where(at)}",
        f"Close the loop there; ends nearer than {entered(JOIN_MM, 'mm')} are joined.",
    )


def _rings(paths: list[Points]) -> list[Polygon]:
    """Closed loops of all paths; raises InputError naming the first end that hangs loose."""
    closed = [p for p in paths if len(p) > 3 and math.dist(p[0], p[-1]) <= JOIN_MM]
    loose = [p for p in paths if not (len(p) > 3 and math.dist(p[0], p[-1]) <= JOIN_MM)]
    rings = [Polygon(p) for p in closed]
    lines = [LineString(p) for p in _joined(loose) if len(p) >= 2 and LineString(p).length > 0]
    if lines:
        faces, cuts, dangles, invalid = shapely.polygonize_full(lines)
        if not (dangles.is_empty and cuts.is_empty and invalid.is_empty):
            raise _hangs_loose(lines)
        rings += [Polygon(f.exterior) for f in shapely.get_parts(faces)]
    for ring in rings:
        if not ring.is_valid:
            at = shapely.get_coordinates(ring)[0]
            raise InputError(
                "outline",
                _where(at),
                "loops that do not cross themselves",
                f"the loop that starts at {_where(at)} crosses itself",
            )
    return [r for r in rings if r.area > 1e-3]


def _check_holes(count: int) -> None:
    if count > MAX_HOLES:
        raise InputError("outline", count, f"at most {MAX_HOLES} holes")


def _outline_and_holes(rings: list[Polygon]) -> tuple[Polygon, list[Polygon], list[str]]:
    """The largest loop, and the loops in it; what lies outside or deeper is left out and said."""
    if not rings:
        raise InputError("outline", "", "one closed loop or more", "there is no closed loop in it")
    rings.sort(key=lambda r: -r.area)
    outer = rings[0]
    holes: list[Polygon] = []
    notes: list[str] = []
    outside = deeper = 0
    shapely.prepare(outer)
    for ring in rings[1:]:
        if outer.covers(ring):
            around = shapely.covers(holes, ring)
            if around.any():
                same = ring.equals(holes[int(np.argmax(around))])
                deeper += not same
            elif not ring.equals(outer):
                holes.append(ring)
            _check_holes(len(holes))
        elif outer.intersects(ring):
            at = shapely.get_coordinates(ring)[0]
            raise InputError(
                "outline",
                _where(at),
                "loops that do not cross",
                "two loops cross each other",
                f"One of them starts at {_where(at)}.",
            )
        else:
            outside += 1
    if outside:
        notes.append(f"{outside} loops beside the largest were left out.")
    if deeper:
        notes.append(f"{deeper} loops inside holes were left out.")
    return outer, holes, notes


def _turned(points: Points, placing: Placing) -> Points:
    """Drawing x right, y up to u rearward, v to the rider's right, front as told."""
    x, y = points[:, 0], points[:, 1]
    for _ in range(_TURN[placing.front]):
        x, y = y, -x
    side = -x if placing.seen == "from below" else x
    return np.column_stack([-y, side])


def _as_round(points: Points) -> tuple[float, float, float] | None:
    """Centre and diameter of a loop that is a circle to 0.1 mm; None for any other."""
    ring = Polygon(points)
    centre = ring.centroid
    radii = np.hypot(points[:, 0] - centre.x, points[:, 1] - centre.y)
    if len(points) < 9 or radii.max() - radii.min() > 2 * JOIN_MM:
        return None
    return centre.x, centre.y, 2 * math.sqrt(ring.area / math.pi)


def _hole(points: Points, number: int, panel: str) -> Cutout:
    key = f"t{number}"
    circle = _as_round(points)
    if circle is not None:
        u, v, d = (round(c, 3) for c in circle)
        return Cutout(
            key=key,
            panel=panel,
            shape="round",
            purpose="mount",
            u_mm=u,
            v_mm=v,
            width_mm=d,
            height_mm=d,
        )
    centre = Polygon(points).centroid
    u, v = round(centre.x, 3), round(centre.y, 3)
    corners = tuple((round(a - u, 3), round(b - v, 3)) for a, b in points[:-1].tolist())
    return Cutout(
        key=key,
        panel=panel,
        shape="polygon",
        purpose="tool access",
        u_mm=u,
        v_mm=v,
        points_mm=corners,
    )


def _thinned(polygon: Polygon) -> Points:
    thin = polygon.exterior.simplify(FLATTEN_MM / 2)
    points = shapely.get_coordinates(thin)
    if len(points) > MAX_POINTS:
        raise InputError(
            "outline",
            len(points),
            f"at most {MAX_POINTS} points in a loop",
            "the outline has too many points",
            "Draw it with fewer points.",
        )
    return points


def _check_size(outer: Polygon, unit: str) -> None:
    x0, y0, x1, y1 = outer.bounds
    size = max(x1 - x0, y1 - y0)
    if not LEAST_MM <= size <= MOST_MM:
        raise InputError(
            "unit",
            f"{amount(size, 'mm', 1)} long in {unit}",
            f"a plate from {entered(LEAST_MM, 'mm')} to {entered(MOST_MM, 'mm')}",
            f"read in {unit}, the outline is {amount(size, 'mm', 1)} long",
            "Choose another unit, or check the drawing.",
        )


def traced(
    paths: Sequence[Any], unit: str, scale: float, placing: Placing, notes: tuple[str, ...]
) -> Traced:
    """Paths in drawing units (x right, y up) to one outline with holes.

    Raises InputError for open or crossing loops (with the place), for a size
    that no plate has, and for too many points or holes.
    """
    if len(paths) > MAX_PATHS:
        raise InputError("outline", len(paths), f"at most {MAX_PATHS} lines and curves")
    scaled = [np.asarray(p, dtype=float) * scale for p in paths]
    outer, holes, more = _outline_and_holes(_rings(scaled))
    _check_size(outer, unit)
    outline = _turned(_thinned(outer), placing)
    front = outline[:, 0].min()
    middle = (outline[:, 1].min() + outline[:, 1].max()) / 2
    shift = np.array([front, middle])
    cut = [_turned(_thinned(h), placing) - shift for h in holes]
    outline = outline - shift
    size = outline.max(axis=0) - outline.min(axis=0)
    return Traced(
        tuple((round(u, 3), round(v, 3)) for u, v in outline[:-1].tolist()),
        tuple(_hole(points, i + 1, placing.panel) for i, points in enumerate(cut)),
        unit,
        float(size[0]),
        float(size[1]),
        (*notes, *more, f"Curves are flattened to {entered(FLATTEN_MM, 'mm')}."),
    )
