"""Free distance from the inside of the plate to what lies behind it, exact.

A panel is a flat polygon with holes, a part a box. The nearest point of the
panel is either inside it (then a corner of the box projects onto it, or the
plane cuts the box) or on its boundary, where the distance to a box along a
segment is found from its pieces. No sampling.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Any

import numpy as np
import numpy.typing as npt
import shapely
from shapely import MultiPoint

from rugged_shield.core.amounts import amount, entered
from rugged_shield.core.computation import computation
from rugged_shield.core.errors import InputError
from rugged_shield.core.judgement.known import band_of, doubted, fact_of
from rugged_shield.core.quantity import Ranged
from rugged_shield.core.result import Decider, Finding, Input, Outcome, Source, finding
from rugged_shield.core.survey.bike import Part
from rugged_shield.core.survey.geometry import FoldedPlate, fold
from rugged_shield.core.survey.panels import Panel
from rugged_shield.core.survey.plate import Plate

Array = npt.NDArray[np.float64]
STANDOFF_SOURCE = Source("exact distance, inner face (polygon with holes) to box", "high")
TOUCH_MM = 0.5


@dataclass(frozen=True)
class Standoff:
    """Least distance of one part, mm, where it is and on which panel."""

    part: str
    distance_mm: float
    panel: str
    place_mm: tuple[float, float, float]


@dataclass(frozen=True, kw_only=True)
class Face:
    """One face of a panel: its plane, its boundary as rings of segments, each ring's box."""

    panel: Panel
    origin: Array
    axes: Array
    normal: Array
    rings: tuple[Array, ...]
    low: Array
    high: Array

    @property
    def starts(self) -> Array:
        """First ends of all segments, (n, 3)."""
        return np.vstack([ring[:-1] for ring in self.rings])

    @property
    def ends(self) -> Array:
        """Second ends of all segments, (n, 3)."""
        return np.vstack([ring[1:] for ring in self.rings])


def box_of(part: Part) -> tuple[Array, Array]:
    """Least and greatest corner of a part, each (3,), mm."""
    return (
        np.array([part.x_min_mm, part.y_min_mm, part.z_min_mm]),
        np.array([part.x_max_mm, part.y_max_mm, part.z_max_mm]),
    )


def _face(panel: Panel, inward_mm: float) -> Face:
    axes = np.array([panel.u, panel.v])
    origin = np.array(panel.origin) + np.array(panel.inward) * inward_mm
    parts = shapely.get_parts(panel.net())
    uv, which = shapely.get_coordinates(shapely.get_rings(parts), return_index=True)
    points = origin + uv @ axes
    starts = np.concatenate([[0], np.flatnonzero(np.diff(which)) + 1])
    return Face(
        panel=panel,
        origin=origin,
        axes=axes,
        normal=np.array(panel.normal),
        rings=tuple(np.split(points, starts[1:])),
        low=np.minimum.reduceat(points, starts),
        high=np.maximum.reduceat(points, starts),
    )


def inner_face(panel: Panel) -> Face:
    """The panel moved one thickness inward, with its boundary as segments in space."""
    return _face(panel, panel.thickness_mm)


def outer_face(panel: Panel) -> Face:
    """The panel where it is drawn."""
    return _face(panel, 0.0)


def _to_box(points: Array, low: Array, high: Array) -> Array:
    """Distance of points (…, 3) to a box, mm."""
    gap: Array = np.maximum(np.maximum(low - points, points - high), 0.0)
    return np.asarray(np.sqrt((gap**2).sum(axis=-1)))


def _nearest_on_segments(
    starts: Array, ends: Array, low: Array, high: Array
) -> tuple[float, Array]:
    """Least distance of segments (n, 3) to a box, exact, and the point where it is.

    Along a segment the squared distance is a convex parabola between the places
    where it crosses the box's six planes; each piece has its own least point.
    """
    ahead = ends - starts
    at_ends = np.minimum(_to_box(starts, low, high), _to_box(ends, low, high))
    reach = np.linalg.norm(ahead, axis=1)
    near = at_ends - reach <= at_ends.min()
    starts, ahead = starts[near], ahead[near]
    with np.errstate(divide="ignore", invalid="ignore"):
        crossings = np.concatenate([(low - starts) / ahead, (high - starts) / ahead], axis=1)
    crossings = np.clip(np.nan_to_num(crossings, nan=0.0, posinf=1.0, neginf=0.0), 0.0, 1.0)
    edges = np.zeros((len(starts), 8))
    edges[:, 1:7], edges[:, 7] = np.sort(crossings, axis=1), 1.0
    middle = (edges[:, :-1] + edges[:, 1:]) / 2
    at = starts[:, None, :] + middle[..., None] * ahead[:, None, :]
    outside = np.where(at < low, low, np.where(at > high, high, np.nan))
    slope = np.where(np.isnan(outside), 0.0, ahead[:, None, :])
    rest = np.where(np.isnan(outside), 0.0, outside - starts[:, None, :])
    square = (slope**2).sum(axis=-1)
    best = np.where(square > 0, (slope * rest).sum(axis=-1) / np.where(square > 0, square, 1), 0.0)
    t = np.concatenate([np.clip(best, edges[:, :-1], edges[:, 1:]), edges], axis=1)
    points = starts[:, None, :] + t[..., None] * ahead[:, None, :]
    distances = _to_box(points, low, high)
    row, column = np.unravel_index(int(np.argmin(distances)), distances.shape)
    return float(distances[row, column]), points[row, column]


_ENDS = np.array([(i, j, k) for i in (0, 1) for j in (0, 1) for k in (0, 1)], dtype=bool)


def _corners(low: Array, high: Array) -> Array:
    return np.where(_ENDS, high, low)


_EDGES = np.array([(a, b) for a in range(8) for b in range(a + 1, 8) if bin(a ^ b).count("1") == 1])


def _section(face: Face, corners: Array, heights: Array) -> Array:
    """Points in u, v where the plane of the panel cuts the edges of a box."""
    a, b = heights[_EDGES[:, 0]], heights[_EDGES[:, 1]]
    cut = a * b <= 0
    span = np.where(a == b, 1.0, a - b)
    share = np.where(a == b, 0.0, a / span)[cut][:, None]
    start, end = corners[_EDGES[cut, 0]], corners[_EDGES[cut, 1]]
    uv: Array = (start + share * (end - start) - face.origin) @ face.axes.T
    return uv


def _inside(face: Face, low: Array, high: Array) -> tuple[float, Array] | None:
    """Least distance reached inside the panel, if it is reached there."""
    corners = _corners(low, high)
    heights = (corners - face.origin) @ face.normal
    net = face.panel.net_to_ask()
    if heights.min() <= 0 <= heights.max():
        section = MultiPoint(_section(face, corners, heights)).convex_hull
        shared = section.intersection(net)
        if shared.is_empty:
            return None
        place = shared.representative_point()
        return 0.0, face.origin + np.array([place.x, place.y]) @ face.axes
    uv = (corners - face.origin) @ face.axes.T
    over = shapely.intersects_xy(net, uv[:, 0], uv[:, 1])
    if not over.any():
        return None
    at = int(np.argmin(np.where(over, np.abs(heights), np.inf)))
    return float(abs(heights[at])), face.origin + uv[at] @ face.axes


def _bounds(face: Face, low: Array, high: Array) -> Array:
    """Distance of each ring's bounding box to a box: nothing on the ring is nearer, mm."""
    gap = np.maximum(np.maximum(face.low - high, low - face.high), 0.0)
    return np.asarray(np.sqrt((gap**2).sum(axis=1)))


def _face_to_box(face: Face, bounds: Array, low: Array, high: Array) -> tuple[float, Array]:
    """Least distance and place; rings that cannot be nearer than the inside are passed over."""
    inside = _inside(face, low, high)
    best = np.inf if inside is None else inside[0]
    near = [face.rings[i] for i in np.flatnonzero(bounds < best - 1e-9)]
    if near:
        starts, ends = np.vstack([r[:-1] for r in near]), np.vstack([r[1:] for r in near])
        edge = _nearest_on_segments(starts, ends, low, high)
        if edge[0] < best:
            return edge
    assert inside is not None, "either the inside or an edge is nearest"
    return inside


def standoffs(folded: FoldedPlate, parts: tuple[Part, ...]) -> tuple[Standoff, ...]:
    """Least distance from the inner face to each part's box, mm (0 where they overlap).

    Exact; open cutouts count as free, closed doors as sheet.
    """
    return tuple(_standoff_of(folded, part) for part in parts)


@lru_cache(maxsize=64)
def _inner_faces(folded: FoldedPlate) -> tuple[Face, ...]:
    return tuple(inner_face(panel) for panel in folded.panels)


@lru_cache(maxsize=8192)
def _standoff_of(folded: FoldedPlate, part: Part) -> Standoff:
    """One part's standoff, remembered: a change of one part leaves the others as they are."""
    distance, place, name = _nearest(folded, *box_of(part))
    x, y, z = (float(c) for c in place)
    return Standoff(part.key, distance, name, (x, y, z))


def _nearest(folded: FoldedPlate, low: Array, high: Array) -> tuple[float, Array, str]:
    """The nearest face; one whose bounding box is further off than the best is passed over."""
    faces = _inner_faces(folded)
    bounds = [_bounds(face, low, high) for face in faces]
    best: tuple[float, Array, str] | None = None
    for i in sorted(range(len(faces)), key=lambda i: float(bounds[i].min())):
        if best is not None and bounds[i].min() >= best[0]:
            break
        distance, place = _face_to_box(faces[i], bounds[i], low, high)
        if best is None or distance < best[0]:
            best = (distance, place, faces[i].panel.name)
    assert best is not None, "a folded plate has a belly"
    return best


@dataclass(frozen=True)
class StandoffInput(Ranged):
    """A plate and what lies behind it."""

    plate: Plate
    parts: tuple[Part, ...]

    def __post_init__(self) -> None:
        super().__post_init__()
        if not self.parts:
            raise InputError("parts", "", "one part or more", "there is nothing behind the plate")


@dataclass(frozen=True)
class PartStandoff:
    """One part: distance mm, what is left after its required gap, and the place."""

    part: str
    distance_mm: float
    required_gap_mm: float
    spare_mm: float
    panel: str
    place_mm: tuple[float, float, float]


@dataclass(frozen=True)
class StandoffResult:
    """Every part in the order given, and the one with the least spare."""

    parts: tuple[PartStandoff, ...]
    least: str
    least_spare_mm: float


CORNER_MM = 10.0
"""What a box may reach beyond the round thing in it."""
BOX_FIELDS = tuple(f"{axis}_{end}_mm" for axis in "xyz" for end in ("min", "max"))
"""The numbers that say where a part is."""


def _may_touch(part: Part, distance_mm: float) -> Finding | None:
    """A part whose place is only assumed, so near that its band reaches the plate."""
    names = doubted(part, *BOX_FIELDS)
    band = max((band_of(part, name) for name in names), default=0.0)
    if distance_mm >= band:
        return None
    deciders = tuple(
        Decider(
            path=f"bike.parts.{part.key}.{name}",
            known=fact_of(part, name).known,
            value=getattr(part, name),
            band=band_of(part, name),
        )
        for name in names
    )
    text = (
        f"{amount(distance_mm, 'mm', 0)} to {part.name}, whose place is assumed within "
        f"{amount(band, 'mm', 0)}: the plate may touch it."
    )
    remedy = f"measure the {part.name}"
    return finding("fit not known", text, part.key, remedy=remedy, decided_by=deciders)


def standoff_finding(part: Part, distance_mm: float) -> Finding | None:
    """What a part's distance means: touching, less than its gap, or nothing to say."""
    if distance_mm < TOUCH_MM:
        if doubted(part, *BOX_FIELDS):
            text = f"The plate touches {part.name}, if that is where it is assumed: measure it."
            return finding("fit not known", text, part.key, remedy=f"measure the {part.name}")
        return finding("touches vital", f"The plate touches {part.name}.", part.key)
    unsure = _may_touch(part, distance_mm)
    if unsure is None and distance_mm < part.required_gap_mm:
        return finding(
            "standoff small",
            f"{amount(distance_mm, 'mm', 0)} to {part.name}, "
            f"{entered(part.required_gap_mm, 'mm')} wanted.",
            part.key,
        )
    return unsure


def core_of(part: Part) -> Part:
    """A part's box less what a tube or casting leaves of its corners, 10 mm or a third of it."""
    inner: dict[str, Any] = {}
    for axis in "xyz":
        low, high = (getattr(part, f"{axis}_{end}_mm") for end in ("min", "max"))
        less = min(CORNER_MM, (high - low) / 3)
        inner |= {f"{axis}_min_mm": low + less, f"{axis}_max_mm": high - less}
    return replace(part, **inner)


def contact_findings(folded: FoldedPlate, parts: tuple[Part, ...]) -> tuple[Finding, ...]:
    """Parts of any kind whose core the sheet runs through: rails, a folded stand, pegs."""
    # A core lies within its box: what the box clears, the core does.
    near = {gap.part for gap in standoffs(folded, parts) if gap.distance_mm < TOUCH_MM}
    cores = tuple(core_of(p) for p in parts if p.key in near)
    known, found = {p.key: p for p in parts}, []
    for gap in standoffs(folded, cores):
        part = known[gap.part]
        if gap.distance_mm >= TOUCH_MM:
            continue
        text = f"The {gap.panel} runs through the {part.name}"
        if doubted(part, *BOX_FIELDS):
            text += ", if that is where it is assumed"
            remedy = f"measure the {part.name}"
            found.append(finding("fit not known", f"{text}.", part.key, remedy=remedy))
        else:
            found.append(finding("touches vital", f"{text}.", part.key))
    return tuple(found)


@computation(
    "standoff",
    page="survey",
    check="test_standoff_agrees_with_brute_force",
)
def standoff(given: StandoffInput) -> Outcome[StandoffResult]:
    """Distance from the plate's inner face to every part, less the part's required gap."""
    known = {p.key: p for p in given.parts}
    rows = tuple(
        PartStandoff(
            s.part,
            s.distance_mm,
            known[s.part].required_gap_mm,
            s.distance_mm - known[s.part].required_gap_mm,
            s.panel,
            s.place_mm,
        )
        for s in standoffs(fold(given.plate), given.parts)
    )
    least = min(rows, key=lambda r: r.spare_mm)
    judged = [standoff_finding(known[r.part], r.distance_mm) for r in rows]
    return Outcome(
        result=StandoffResult(rows, least.part, least.spare_mm),
        inputs=(
            Input("Thickness", given.plate.thickness_mm, "mm"),
            Input("Parts", len(given.parts)),
        ),
        findings=tuple(f for f in judged if f is not None),
        reasons=(f"Least spare: {known[least.part].name}, {amount(least.spare_mm, 'mm', 1)}.",),
        assumptions=("Parts are boxes; the plate is not dented and hangs as drawn.",),
        sources=(STANDOFF_SOURCE,),
    )
