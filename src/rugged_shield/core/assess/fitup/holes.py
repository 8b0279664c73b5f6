"""Whether every screw of a plate starts: holes as seen, the move that helps, what to open."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

from rugged_shield.core.amounts import amount
from rugged_shield.core.assess.fitup.growing import FloatHole, growing, heat_findings
from rugged_shield.core.assess.fitup.hole_input import clearance_mm, hole_mm, hole_question
from rugged_shield.core.fitup.hole_fit import HoleFitResult, hole_fit
from rugged_shield.core.fitup.hole_map import MappedHole, hole_map
from rugged_shield.core.fitup.joint import Joint
from rugged_shield.core.job.model import MountedJoint
from rugged_shield.core.mechanics.drawing import Drawing
from rugged_shield.core.mechanics.frames import from_below
from rugged_shield.core.result import Finding, FindingCode, Verdict, finding, verdict_of, worst
from rugged_shield.core.survey.flat import edge_left_mm, flat_pattern, flat_place
from rugged_shield.core.survey.geometry import fold
from rugged_shield.core.survey.plate import Plate

COVERAGE_FACTOR = 2.0
"""Expanded uncertainty at about 95 % (JCGM 100:2008, 6.2)."""
EDGE_DIAMETERS = 1.5
"""Between the middle of a hole and a cut edge (EN 1993-1-8, table 3.3: least 1.2, usual 1.5)."""
_WAYS = (
    "to the rider's right",
    "to the front and the rider's right",
    "to the front",
    "to the front and the rider's left",
    "to the rider's left",
    "to the rear and the rider's left",
    "to the rear",
    "to the rear and the rider's right",
)


def way_words(angle_deg: float) -> str:
    """A direction in the plate's plane in words; 0° is the rider's right, 90° the front."""
    return _WAYS[round(angle_deg / 45.0) % 8]


@dataclass(frozen=True, kw_only=True)
class HoleJudged:
    """One hole: what was seen, the room in it mm, its margin as it hangs and after the move."""

    key: str
    number: int
    name: str
    seen: bool
    clearance_mm: float
    now_mm: float | None
    then_mm: float | None
    verdict: Verdict
    words: str


@dataclass(frozen=True, kw_only=True)
class Remedy:
    """One way to let all screws start: what it is, at which joints, and what it costs in words."""

    kind: str
    joints: tuple[str, ...]
    words: str
    edge_left_mm: float | None = None
    diameter_mm: float | None = None


@dataclass(frozen=True, kw_only=True)
class HolesJudged:
    """All holes of a plate; ``margin_mm`` of the best place and its expanded uncertainty."""

    holes: tuple[HoleJudged, ...]
    margin_mm: float | None
    margin_u_mm: float
    move: str
    findings: tuple[Finding, ...]
    remedies: tuple[Remedy, ...]
    located: int | None
    growing: tuple[FloatHole, ...]
    drawing: Drawing
    verdict: Verdict


def _margin_u_mm(joints: tuple[MountedJoint, ...], fit: HoleFitResult) -> tuple[float, str]:
    """Expanded uncertainty of the least margin, and the joint that it hangs on most.

    The margin is a mean of the binding holes' offsets with weights that sum to one: it is never
    less sure than the least sure of them.
    """
    binding = [
        at.joint
        for at, margin in zip(joints, fit.margins_mm, strict=True)
        if margin <= fit.margin_mm + 0.05
    ]
    unsure = max(binding, key=lambda j: j.seen.off_u_mm)
    return COVERAGE_FACTOR * unsure.seen.off_u_mm, unsure.key


def _move_words(fit: HoleFitResult) -> str:
    size = math.hypot(fit.tx_mm, fit.ty_mm)
    turn = math.degrees(fit.theta_rad)
    parts = []
    if size >= 0.05:
        way = way_words(math.degrees(math.atan2(fit.ty_mm, fit.tx_mm)))
        parts.append(f"shift it {amount(size, 'mm', 1)} {way}")
    if abs(turn) >= 0.02:
        to = "left" if turn > 0 else "right"
        parts.append(f"turn its front {abs(turn):.2f}° to the rider's {to}")
    return " and ".join(parts) or "leave it where it hangs"


def _loosened(joints: tuple[MountedJoint, ...]) -> list[Remedy]:
    """Brackets that are tight and, loosened one at a time, let all screws start."""
    names = {
        at.joint.seen.bracket
        for at in joints
        if at.joint.seen.bracket
        and not at.joint.seen.bracket_loose
        and at.joint.seen.bracket_half_travel_mm > 0
    }
    found = []
    for name in sorted(names):
        fit = hole_fit(hole_question(joints, frozenset({name})), openings=False).result
        if fit.fits:
            words = f"Loosen {name}: then all screws start with {amount(fit.margin_mm, 'mm', 2)}."
            own = tuple(at.joint.key for at in joints if at.joint.seen.bracket == name)
            found.append(Remedy(kind="loosen", joints=own, words=words))
    return found


def _edge(plate: Plate, at: MountedJoint, opened_mm: float) -> float | None:
    place = flat_place(plate, at.x_mm, at.y_mm)
    return None if place is None else edge_left_mm(flat_pattern(plate), place, opened_mm)


def _opening(plate: Plate, at: MountedJoint, more_mm: float, way_deg: float) -> Remedy:
    """One hole opened toward its screw: how wide, which way, and what is left to the edge."""
    wide = hole_mm(at.joint) + more_mm
    edge = _edge(plate, at, wide)
    words = (
        f"Open hole {at.joint.number} to {amount(wide, 'mm', 1)} "
        f"({amount(more_mm, 'mm', 1)} more), {way_words(way_deg)}"
    )
    if edge is not None:
        words += f"; {amount(edge, 'mm', 1)} of sheet stay to the nearest edge"
    return Remedy(
        kind="open",
        joints=(at.joint.key,),
        words=f"{words}.",
        edge_left_mm=edge,
        diameter_mm=wide,
    )


def _openings(plate: Plate, joints: tuple[MountedJoint, ...], fit: HoleFitResult) -> list[Remedy]:
    """Holes to open, the least first; two only where no single one helps; none said as such."""
    by_key = {at.joint.key: at for at in joints}
    alone = [
        (more, way, at)
        for more, way, at in zip(
            fit.open_diameter_by_hole_mm, fit.open_way_by_hole_deg, joints, strict=True
        )
        if more is not None and way is not None
    ]
    if alone:
        alone.sort(key=lambda one: one[0])
        return [_opening(plate, at, more, way) for more, way, at in alone]
    pair = fit.open_pair
    if pair is None:
        more = amount(-2 * fit.margin_mm, "mm", 1)
        text = (
            "No one hole and no two holes, opened, let all screws start. All of them "
            f"{more} wider would: measure again first, and see that the heads still cover them."
        )
        return [Remedy(kind="none", joints=(), words=text)]
    both = [
        _opening(plate, by_key[name], more, way)
        for name, more, way in zip(pair.names, pair.diameters_mm, pair.ways_deg, strict=True)
    ]
    words = "No single hole is enough. " + " ".join(r.words for r in both)
    edges = [r.edge_left_mm for r in both if r.edge_left_mm is not None]
    return [
        Remedy(
            kind="open two",
            joints=pair.names,
            words=words,
            edge_left_mm=min(edges, default=None),
            diameter_mm=max(r.diameter_mm or 0.0 for r in both),
        )
    ]


def _judged(
    joints: tuple[MountedJoint, ...], seen: tuple[MountedJoint, ...], fit: HoleFitResult | None
) -> list[HoleJudged]:
    then = {}
    if fit is not None:
        then = {at.joint.key: m for at, m in zip(seen, fit.margins_mm, strict=True)}
    rows = []
    for at in joints:
        joint, off = at.joint, at.joint.seen.offset_mm
        room = clearance_mm(joint)
        now = None if off is None else room - _off_mm(joint, off)
        verdict = verdict_of("hole not seen")
        words = "not looked at yet"
        if now is not None:
            unsure = COVERAGE_FACTOR * joint.seen.off_u_mm
            margin = f"{amount(abs(now), 'mm', 2)} ± {amount(unsure, 'mm', 1)}"
            code: FindingCode = "start not sure" if now > -unsure else "screw will not start"
            verdict = verdict_of(None if now >= unsure else code)
            words = f"as it hangs: {margin} " + ("to spare" if now >= 0 else "short")
            if verdict == "not known":
                words += ": measure it again, more closely"
        rows.append(
            HoleJudged(
                key=joint.key,
                number=joint.number,
                name=joint.name,
                seen=off is not None,
                clearance_mm=room,
                now_mm=now,
                then_mm=then.get(joint.key),
                verdict=verdict,
                words=words,
            )
        )
    return rows


def _off_mm(joint: Joint, off: tuple[float, float]) -> float:
    """How far off the middle of its hole, or of its slot, a screw stands, mm."""
    angle = math.radians(joint.seen.slot_angle_deg)
    along = off[0] * math.cos(angle) + off[1] * math.sin(angle)
    across = -off[0] * math.sin(angle) + off[1] * math.cos(angle)
    beyond = max(0.0, abs(along) - joint.seen.slot_half_travel_mm)
    return math.hypot(beyond, across)


def _findings(
    joints: tuple[MountedJoint, ...], seen: tuple[MountedJoint, ...], fit: HoleFitResult | None
) -> list[Finding]:
    found = []
    by_key = {at.joint.key: at.joint for at in joints}
    if fit is not None:
        unsure, key = _margin_u_mm(seen, fit)
        margin = f"{amount(fit.margin_mm, 'mm', 2)} ± {amount(unsure, 'mm', 1)}"
        if fit.margin_mm + unsure < 0:
            short = f"{amount(-fit.margin_mm, 'mm', 2)} ± {amount(unsure, 'mm', 1)}"
            text = f"However the plate is shifted and turned, a screw is short by {short}."
            found.append(finding("screw will not start", text))
        elif fit.margin_mm < unsure:
            number = by_key[key].number
            word = "All start" if fit.fits else "One does not start"
            text = f"{word}, {margin}: measure hole {number} again, more closely."
            found.append(finding("start not sure", text, key))
    unseen = [at.joint for at in joints if at.joint.seen.offset_mm is None]
    if unseen:
        numbers = ", ".join(str(j.number) for j in unseen)
        text = f"Not looked at: hole{'s' if len(unseen) > 1 else ''} {numbers}."
        found.append(finding("hole not seen", text))
    return found


def _edge_findings(remedies: list[Remedy]) -> list[Finding]:
    best = next((r for r in remedies if r.edge_left_mm is not None), None)
    if best is None or best.edge_left_mm is None or best.diameter_mm is None:
        return []
    least = (EDGE_DIAMETERS - 0.5) * best.diameter_mm
    if best.edge_left_mm >= least:
        return []
    text = (
        f"Opened, that hole keeps {amount(best.edge_left_mm, 'mm', 1)} of sheet to the edge, less "
        f"than {amount(least, 'mm', 1)}: it would tear there first."
    )
    return [finding("edge too near", text)]


@lru_cache(maxsize=64)
def holes_judged(plate: Plate, joints: tuple[MountedJoint, ...]) -> HolesJudged:
    """Every hole of a plate as seen: which screws start, the move, what to loosen or open.

    Holes that nobody looked at are not known; the others are judged without them, and what does
    not start with them left out starts with them neither.
    """
    held = tuple(at for at in joints if at.joint.hangs_plate)
    seen = tuple(at for at in held if at.joint.seen.offset_mm is not None)
    fit = hole_fit(hole_question(seen)).result if seen else None
    remedies: list[Remedy] = []
    if fit is not None and not fit.fits:
        remedies = [*_loosened(seen), *_openings(plate, seen, fit)]
    located, grows = growing(plate, held)
    findings = [
        *_findings(held, seen, fit),
        *_edge_findings(remedies),
        *heat_findings(plate, held, located, grows, fit is not None and fit.fits),
    ]
    if not held:
        findings.append(finding("hole not seen", "No joint holds this plate yet."))
    return HolesJudged(
        holes=tuple(_judged(held, seen, fit)),
        margin_mm=None if fit is None else fit.margin_mm,
        margin_u_mm=0.0 if fit is None else _margin_u_mm(seen, fit)[0],
        move="" if fit is None else _move_words(fit),
        findings=tuple(findings),
        remedies=tuple(remedies),
        located=located,
        growing=tuple(grows),
        drawing=_drawn(plate, held, seen, fit),
        verdict=worst(f.verdict for f in findings),
    )


def _drawn(
    plate: Plate,
    held: tuple[MountedJoint, ...],
    seen: tuple[MountedJoint, ...],
    fit: HoleFitResult | None,
) -> Drawing:
    then = {}
    if fit is not None:
        then = {at.joint.key: left for at, left in zip(seen, fit.left_mm, strict=True)}
    outlines = tuple(
        tuple(from_below(c[0], c[1]) for c in panel.corners()) for panel in fold(plate).panels
    )
    mapped = tuple(
        MappedHole(
            number=at.joint.number,
            ref=at.joint.key,
            x_mm=at.x_mm,
            y_mm=at.y_mm,
            clearance_mm=clearance_mm(at.joint),
            now_mm=at.joint.seen.offset_mm,
            then_mm=then.get(at.joint.key),
        )
        for at in held
    )
    return hole_map(plate.name, outlines, mapped)
