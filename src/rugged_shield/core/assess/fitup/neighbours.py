"""Whether a plate stays clear of its neighbours through their motion: computed, or measured."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from shapely import get_coordinates

from rugged_shield.core.amounts import amount
from rugged_shield.core.assess.fitup.brackets import Bracket, brackets_of
from rugged_shield.core.assess.fitup.heads import heads_of
from rugged_shield.core.assess.fitup.pose import hung_sheet
from rugged_shield.core.errors import InputError
from rugged_shield.core.fitup.film import film_strip
from rugged_shield.core.fitup.gap_seen import PENCIL_MM, GapSeen
from rugged_shield.core.fitup.sweep import (
    Capsule,
    FixedThing,
    Motion,
    SweepInput,
    SweepResult,
    placed,
    sweep,
)
from rugged_shield.core.job.model import Candidate, Job, Use, mounted
from rugged_shield.core.mechanics.drawing import Drawing
from rugged_shield.core.mechanics.frames import Vec3, add
from rugged_shield.core.result import Finding, Verdict, finding, worst
from rugged_shield.core.survey.front_wheel import LEAST_GAP_MM, wheel_gap
from rugged_shield.core.survey.geometry import FoldedPlate
from rugged_shield.core.survey.neighbours import Neighbour
from rugged_shield.core.survey.panels import Panel

GEOMETRY_U_MM = 3.0
"""Places of pivots and tips measured with a tape on the bike, mm (standard uncertainty)."""
_FRAMES = 5


@dataclass(frozen=True, kw_only=True)
class NeighbourJudged:
    """A neighbour: least gap mm and how it is known, what it wants, the verdict with its words."""

    key: str
    name: str
    state: str
    wanted_mm: float
    gap_mm: float | None
    how: str
    verdict: Verdict
    findings: tuple[Finding, ...]
    film: Drawing | None


def _fixed(panel: Panel) -> FixedThing:
    """A panel at half its thickness; one that is not convex by its hull, which is larger."""
    ring = get_coordinates(panel.outline.convex_hull)[:-1].tolist()
    middle = [add(panel.to_bike((u, v)), panel.inward, panel.thickness_mm / 2) for u, v in ring]
    return FixedThing(
        name=panel.name,
        kind="panel",
        polygon=tuple(middle),
        thickness_mm=panel.thickness_mm,
    )


def _motion(neighbour: Neighbour, pivot: Vec3) -> Motion:
    return Motion(
        kind="rotate",
        origin=pivot,
        axis=neighbour.axis,
        from_deg=neighbour.from_deg,
        to_deg=neighbour.to_deg,
    )


@lru_cache(maxsize=128)
def _swept(
    neighbour: Neighbour,
    half_mm: float,
    folded: FoldedPlate,
    heads: tuple[FixedThing, ...],
    brackets: tuple[Bracket, ...],
) -> SweepResult | None:
    """The neighbour through its motion past the sheet and what hangs below it."""
    ends = neighbour.ends()
    if ends is None:
        return None
    pivot, tip = ends
    fixed = [_fixed(p) for p in folded.panels]
    fixed += [*heads, *(b.thing for b in brackets)]
    moving = [Capsule(a=pivot, b=tip, radius_mm=neighbour.half_thick_mm)]
    if half_mm > neighbour.half_thick_mm:
        moving.append(Capsule(a=tip, b=tip, radius_mm=half_mm))
    asked = SweepInput(moving=tuple(moving), motion=_motion(neighbour, pivot), fixed=tuple(fixed))
    try:
        return sweep(asked).result
    except InputError:
        return None  # a motion that cannot be worked out is looked at, like one nobody entered


def _film(
    neighbour: Neighbour,
    ends: tuple[Vec3, Vec3],
    swept: SweepResult,
    folded: FoldedPlate,
    half: float,
) -> Drawing:
    """A strip of the motion, with its nearest place among the frames."""
    least = min(swept.gaps, key=lambda g: g.gap_mm)
    shares = sorted({*(i / (_FRAMES - 1) for i in range(_FRAMES)), least.at_share})
    pivot, tip = ends
    arm = Capsule(a=pivot, b=tip, radius_mm=neighbour.half_thick_mm)
    _, tips = placed(_motion(neighbour, pivot), arm, np.array(shares))
    return film_strip(
        f"{neighbour.name}, {neighbour.state}: nearest to the {least.name}",
        neighbour.axis,
        tuple(p.corners() for p in folded.panels),
        tuple((pivot, (float(t[0]), float(t[1]), float(t[2]))) for t in tips),
        shares.index(least.at_share),
        half,
    )


def _against(name: str, gap: float, unsure: float, wanted: float) -> tuple[Finding, ...]:
    """A gap against what is wanted, with its uncertainty."""
    said = f"{name}: {amount(gap, 'mm', 1)} of {amount(wanted, 'mm', 0)}"
    if gap <= 0.0:
        return (finding("gap too small", f"{name} strikes the plate in its motion."),)
    if gap + unsure < wanted:
        return (finding("gap too small", f"{said}: trim, bend, space or measure again."),)
    if gap - unsure < wanted:
        text = f"{said}, give or take {amount(unsure, 'mm', 1)}."
        return (finding("gap small in the worst case", text),)
    return ()


def _seen(neighbour: Neighbour, seen: GapSeen) -> tuple[float, str, tuple[Finding, ...]]:
    if seen.looked_with == "it touches":
        text = f"{neighbour.name} touches the plate, {neighbour.state}."
        return 0.0, "looked at: it touches", (finding("gap too small", text),)
    if seen.looked_with == "a pencil passes":
        found: tuple[Finding, ...] = ()
        if neighbour.wanted_mm > PENCIL_MM:
            wanted = amount(neighbour.wanted_mm, "mm", 0)
            text = f"{neighbour.name}: a pencil passes, and it wants {wanted}: measure it."
            found = (finding("gap not known", text),)
        return PENCIL_MM, "a pencil passes, so this or more", found
    found = _against(neighbour.name, seen.gap_mm, 2 * seen.gap_u_mm, neighbour.wanted_mm)
    return seen.gap_mm, "measured", found


def _computed(neighbour: Neighbour, gap: float) -> tuple[str, tuple[Finding, ...]]:
    """What a computed gap is worth: on assumed places it only tells what to look at."""
    if neighbour.known == "assumed":
        text = (
            f"{neighbour.name}: {amount(gap, 'mm', 0)} on assumed places of its pivot and tip: "
            "measure the gap, or the places."
        )
        return "computed on assumed places", (finding("gap not known", text),)
    return "computed", _against(neighbour.name, gap, 2 * GEOMETRY_U_MM, neighbour.wanted_mm)


def _half_mm(neighbour: Neighbour, use: Use) -> float | None:
    """How far it reaches from its middle at the tip; None: boot or glove is not entered.

    A boot stands on its lever, half above and half below; a finger goes round what it holds.
    """
    half: float | None = neighbour.half_thick_mm
    if neighbour.boot:
        boot = use.boot_toe_mm
        half = None if boot is None else max(neighbour.half_thick_mm, boot / 2)
    if neighbour.glove and half is not None:
        finger = use.glove_finger_mm
        half = None if finger is None else max(half, neighbour.half_thick_mm + finger)
    return half


def _worn(neighbour: Neighbour) -> str:
    """What the look is to be taken with, in words."""
    worn = [word for word, on in (("boot", neighbour.boot), ("glove", neighbour.glove)) if on]
    return f" with the {' and the '.join(worn)} on" if worn else ""


def _sure_and_reached(
    neighbour: Neighbour, swept: SweepResult | None, brackets: tuple[Bracket, ...]
) -> tuple[SweepResult | None, tuple[Finding, ...]]:
    """The gaps to what is placed, and which brackets could be nearer, whichever way they run."""
    if swept is None:
        return None, ()
    unplaced = {b.thing.name for b in brackets if not b.placed}
    sure = tuple(g for g in swept.gaps if g.name not in unplaced)
    reached = tuple(
        finding(
            "gap not known",
            f"{neighbour.name} may come near the {g.name}: say which way it runs.",
        )
        for g in swept.gaps
        if g.name in unplaced and g.gap_mm < neighbour.wanted_mm
    )
    return SweepResult(gaps=sure, least_mm=min(g.gap_mm for g in sure)), reached


def _judged(
    neighbour: Neighbour,
    seen: GapSeen | None,
    folded: FoldedPlate,
    heads: tuple[FixedThing, ...],
    brackets: tuple[Bracket, ...],
    use: Use,
) -> NeighbourJudged:
    half = _half_mm(neighbour, use)
    ends = neighbour.ends()
    swept = None if half is None else _swept(neighbour, half, folded, heads, brackets)
    swept, reached = _sure_and_reached(neighbour, swept, brackets)
    film = None
    if ends is not None and swept is not None and half is not None:
        film = _film(neighbour, ends, swept, folded, half)
    gap: float | None = None if swept is None else swept.least_mm
    findings: tuple[Finding, ...]
    if seen is not None:
        gap, how, findings = _seen(neighbour, seen)
    elif gap is not None:
        how, findings = _computed(neighbour, gap)
        findings = (*findings, *reached)
    else:
        how = "not looked at"
        text = f"{neighbour.name}, {neighbour.state}: look how close it comes{_worn(neighbour)}."
        findings = (finding("gap not known", text),)
    return NeighbourJudged(
        key=neighbour.key,
        name=neighbour.name,
        state=neighbour.state,
        wanted_mm=neighbour.wanted_mm,
        gap_mm=gap,
        how=how,
        verdict=worst(f.verdict for f in findings),
        findings=findings,
        film=film,
    )


def _wheel(job: Job, folded: FoldedPlate) -> NeighbourJudged:
    """The front tyre, or a mudguard that moves with it, through the fork's whole travel."""
    gap = wheel_gap(job.bike, folded)
    name = "front tyre" if not gap.mudguard_mm else "front mudguard"
    left = gap.left_mm
    findings: tuple[Finding, ...] = ()
    how = "computed from travel and rake"
    if left is None:
        how = "no sheet stands in its track"
    elif gap.inside_at_rest_mm:
        inside = amount(gap.inside_at_rest_mm, "mm", 0)
        text = f"The {gap.panel} stands {inside} inside the front tyre with the bike at rest."
        findings = (finding("gap too small", text),)
    elif gap.fork_decides:
        how = "computed with an assumed fork"
        text = f"{name}: {amount(left, 'mm', 0)} if travel and rake are as assumed: measure them."
        findings = (finding("gap not known", text),)
    elif gap.mudguard_decides:
        text = f"{name}: {amount(left, 'mm', 0)}, too little for a low mudguard: enter it."
        findings = (finding("gap not known", text),)
    else:
        findings = _against(name, left, 2 * GEOMETRY_U_MM, LEAST_GAP_MM)
    return NeighbourJudged(
        key="",
        name=name,
        state="full bump",
        wanted_mm=LEAST_GAP_MM,
        gap_mm=left,
        how=how,
        verdict=worst(f.verdict for f in findings),
        findings=findings,
        film=None,
    )


def neighbours_judged(job: Job, candidate: Candidate) -> tuple[NeighbourJudged, ...]:
    """The front wheel, then every neighbour of the bike's list, against one plate as it hangs."""
    joints = mounted(job.bike, candidate)
    hung = hung_sheet(candidate.plate, joints)
    heads = heads_of(joints, hung)
    brackets = brackets_of(job.bike, candidate, hung.folded)
    seen = {s.key: s for s in candidate.gaps}
    own = tuple(
        _judged(n, seen.get(n.key), hung.folded, heads, brackets, job.use)
        for n in job.bike.neighbours
    )
    return (_wheel(job, hung.folded), *own)
