"""What the underside does: touches first, hooks, holds water, catches oil, traps the filter."""

from __future__ import annotations

import itertools
import math
from dataclasses import dataclass, replace

import numpy as np
import shapely

from rugged_shield.core.amounts import amount, percent
from rugged_shield.core.mechanics.frames import Vec3, add, dot
from rugged_shield.core.result import Finding, Source, finding
from rugged_shield.core.survey.bike import Bike
from rugged_shield.core.survey.clearance import LowPoint, breakover_deg, in_tyre
from rugged_shield.core.survey.geometry import FoldedPlate, fold
from rugged_shield.core.survey.oil import OilAccess, oil_access
from rugged_shield.core.survey.panels import Panel
from rugged_shield.core.survey.plate import Plate
from rugged_shield.core.survey.pose import Pose
from rugged_shield.core.survey.standoff import box_of
from rugged_shield.core.survey.water import Puddle, on_panel, puddles

UNDERSIDE_SOURCE = Source("folded panels, parts as boxes; postures level and nose-up", "medium")
HOOK_MIN_MM = 15.0
HOOK_AHEAD_MM = 220.0
HOOK_BAND_MM = 45.0
OVERLAP_SHARE = 0.5


@dataclass(frozen=True)
class Touch:
    """Something that touches before its neighbours do, front to rear."""

    name: str
    x_mm: float
    z_mm: float
    breakover_deg: float


@dataclass(frozen=True)
class Hook:
    """An edge that faces forward and can catch: where, how long, how low, mm."""

    name: str
    place_mm: Vec3
    length_mm: float


@dataclass(frozen=True)
class Underside:
    """All of it for one plate as it hangs, and what it means."""

    touches: tuple[Touch, ...]
    hooks: tuple[Hook, ...]
    oil: OilAccess
    puddles: tuple[Puddle, ...]
    findings: tuple[Finding, ...]


def touches(bike: Bike, points: list[LowPoint]) -> tuple[Touch, ...]:
    """Points of the lower convex hull between the wheels, from front to rear.

    A ledge or a log meets the hull of the underside before anything inside it.
    Andrew 1979, monotone chain.
    """
    between = [p for p in points if 0 < p.x_mm < bike.wheelbase_mm and not in_tyre(bike, p)]
    between.sort(key=lambda p: (p.x_mm, p.z_mm))
    hull: list[LowPoint] = []
    for p in between:
        if hull and abs(p.x_mm - hull[-1].x_mm) < 1e-9:
            continue
        while len(hull) >= 2 and _turns_up(hull[-2], hull[-1], p) <= 1e-9:
            hull.pop()
        hull.append(p)
    return tuple(Touch(p.name, p.x_mm, p.z_mm, breakover_deg(bike, p.x_mm, p.z_mm)) for p in hull)


def _turns_up(a: LowPoint, b: LowPoint, c: LowPoint) -> float:
    return (b.x_mm - a.x_mm) * (c.z_mm - a.z_mm) - (b.z_mm - a.z_mm) * (c.x_mm - a.x_mm)


def _short_edges(panel: Panel) -> list[tuple[Vec3, Vec3]]:
    """A panel's rim cut into short edges."""
    ring = shapely.segmentize(panel.outline.exterior, 10.0)
    return list(itertools.pairwise(panel.to_bike((c[0], c[1])) for c in ring.coords))


def _free_of(
    edges: list[tuple[Vec3, Vec3]], panel: Panel, folded: FoldedPlate
) -> list[tuple[Vec3, Vec3]]:
    """Those of a panel's edges that no other panel is folded from."""
    if not edges:
        return []
    middles = np.array(edges).mean(axis=1)
    free = np.ones(len(middles), dtype=bool)
    for other in folded.panels:
        if other is not panel:
            free &= ~on_panel(middles, other)
    return [edge for edge, is_free in zip(edges, free, strict=True) if is_free]


def _faces_forward(panel: Panel, a: Vec3, b: Vec3) -> bool:
    """Whether the sheet's edge looks ahead: outward, in the sheet, within 60° of forward."""
    middle = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2, (a[2] + b[2]) / 2)
    centre = panel.to_bike((panel.outline.centroid.x, panel.outline.centroid.y))
    along = add(b, a, -1.0)
    size = math.sqrt(dot(along, along)) or 1.0
    along = (along[0] / size, along[1] / size, along[2] / size)
    out = add(middle, centre, -1.0)
    out = add(out, along, -dot(out, along))
    size = math.sqrt(dot(out, out)) or 1.0
    return -out[0] / size > 0.5


def _shadowed(place: Vec3, points: list[LowPoint], own: str) -> bool:
    """Whether something just ahead hangs at least as low and would lift over the edge."""
    return any(
        p.name != own
        and 0 < place[0] - p.x_mm < HOOK_AHEAD_MM
        and p.z_mm <= place[2] + 1.0
        and abs(p.y_mm - place[1]) < 60.0
        for p in points
    )


def hooks(folded: FoldedPlate, points: list[LowPoint]) -> tuple[Hook, ...]:
    """Forward-facing free edges low enough to catch, with nothing lower just ahead."""
    lowest = folded.lowest_mm()[0][2]
    found = []
    for panel in folded.panels:
        own = f"plate, {panel.name}"
        ahead = [
            (a, b)
            for a, b in _short_edges(panel)
            if min(a[2], b[2]) < lowest + HOOK_BAND_MM
            and _faces_forward(panel, a, b)
            and not _shadowed(a, points, own)
        ]
        low = _free_of(ahead, panel, folded)
        length = sum(math.dist(a, b) for a, b in low)
        if length >= HOOK_MIN_MM:
            at = min((a for a, _ in low), key=lambda p: p[2])
            found.append(Hook(panel.name, at, length))
    return tuple(found)


def hook_finding(hook: Hook) -> Finding:
    """What is said of an edge that can catch."""
    text = f"The front edge of the {hook.name} faces forward over "
    return finding("can hook", f"{text}{amount(hook.length_mm, 'mm', 0)}.", hook.name)


def overlaps(bike: Bike) -> tuple[Finding, ...]:
    """Parts that fill the same room: one of the two was measured or typed wrongly.

    A drain sits in its sump, so a plug is never held against anything.
    """
    parts = [p for p in bike.parts if p.kind != "low" and p.shape != "drain"]
    found = []
    for a, b in itertools.combinations(parts, 2):
        low = np.maximum(box_of(a)[0], box_of(b)[0])
        high = np.minimum(box_of(a)[1], box_of(b)[1])
        shared = float(np.prod(np.clip(high - low, 0, None)))
        smaller = min(float(np.prod(box_of(p)[1] - box_of(p)[0])) for p in (a, b))
        if shared > OVERLAP_SHARE * smaller:
            found.append(
                finding(
                    "parts overlap",
                    f"{a.name[:1].upper()}{a.name[1:]} and {b.name} fill the same room over "
                    f"{percent(shared / smaller)} of the smaller one: measure both again.",
                    a.key,
                )
            )
    return tuple(found)


def _findings(bike: Bike, seen: Underside) -> tuple[Finding, ...]:
    names = {p.key: p.name for p in bike.parts}
    found = [hook_finding(h) for h in seen.hooks]
    found += [
        finding(
            "water stands",
            f"Water stands up to {amount(p.depth_mm, 'mm', 0)} deep on the {p.panel}, {p.posture}.",
            p.panel,
        )
        for p in seen.puddles
    ]
    found += [
        finding(
            "oil runs on the plate",
            f"Oil from the {names[part]} lands on the plate, {' and '.join(postures)}.",
            part,
        )
        for part, postures in seen.oil.landing().items()
    ]
    found += [
        finding(
            "filter is trapped",
            f"The {names[f.part]} does not come out {f.way} with its tool while the plate is on.",
            f.part,
        )
        for f in seen.oil.filters
        if not f.comes_out
    ]
    return (*found, *overlaps(bike))


def underside(bike: Bike, plate: Plate, pose: Pose, points: list[LowPoint]) -> Underside:
    """Everything the underside does, for a plate as it hangs and all points that can touch."""
    folded = fold(plate, pose)
    bare = Underside(
        touches(bike, points),
        hooks(folded, points),
        oil_access(bike.vitals(), plate, pose),
        puddles(folded),
        (),
    )
    return replace(bare, findings=_findings(bike, bare))
