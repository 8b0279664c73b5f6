"""Drawing a plate home on its bike: gaps as seen, its own stiffness, orders and what they cost."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from rugged_shield.core.amounts import amount, entered, percent
from rugged_shield.core.assess.fitup.joints import assess_joint
from rugged_shield.core.assess.fitup.pose import hung_sheet
from rugged_shield.core.assess.tighten.cards import card_of
from rugged_shield.core.assess.tighten.plan import plan_for, plan_joints
from rugged_shield.core.errors import InputError
from rugged_shield.core.fitup.bracket_bend import BracketBendInput, bracket_bend
from rugged_shield.core.fitup.draw_up import (
    MAX_MOUNTS,
    DrawnMount,
    DrawUpInput,
    DrawUpResult,
    draw_up,
)
from rugged_shield.core.fitup.joint import Joint
from rugged_shield.core.job.model import MountedJoint
from rugged_shield.core.mechanics import threads
from rugged_shield.core.mechanics.frames import Vec3
from rugged_shield.core.result import Finding, Source, finding
from rugged_shield.core.shell.condense import LEAST_APART_MM, condensed_stiffness
from rugged_shield.core.shell.solve import SHELL_SOURCE
from rugged_shield.core.survey.geometry import fold, sheet_normal_point
from rugged_shield.core.survey.plate import Plate
from rugged_shield.core.tables.materials import LAYER_MATERIALS, SHEET_MATERIALS
from rugged_shield.core.tighten.order import PlanJoint, against_order, schools_of
from rugged_shield.core.tighten.torque import WrenchTool
from rugged_shield.core.weighup.strike_linear import shell_panels

MESH_MM = 18.0
"""Coarse is enough: gaps are known to a tenth, and stiffness between mounts to a few per cent."""
CLOSED_MM = 0.05
EATS_SHARE = 0.1
"""A joint that spends more of its preload than this on pulling the plate clamps too little."""
LIGHT_N, HAND_N = 10.0, 80.0
KNEE_N = 400.0
"""More than a person on the floor pushes with one knee, about 40 kg."""
G = 9.81
_E_LOOSE_MPA = 205_000.0


@dataclass(frozen=True, kw_only=True)
class GapAt:
    """One joint's gap, mm, and how it is known; how far its screw stands past the face, mm."""

    key: str
    number: int
    name: str
    gap_mm: float
    known: bool
    words: str
    reach_mm: float


@dataclass(frozen=True, kw_only=True)
class Turn:
    """One screw at its turn: gap mm, whether it starts, its pull N and in words."""

    number: int
    key: str
    gap_mm: float
    starts: bool
    force_n: float
    words: str


@dataclass(frozen=True, kw_only=True)
class OrderJudged:
    """A school of drawing home: its order, whether every screw starts, what it eats at most.

    ``against``: what the stages of the plan say against it.
    """

    key: str
    label: str
    order: tuple[str, ...]
    turns: tuple[Turn, ...]
    all_start: bool
    most_force_n: float
    most_eaten: float
    is_plan: bool
    against: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class DrawHome:
    """The orders of one plate, best first; ``eaten`` by joint at the end, whatever the order."""

    gaps: tuple[GapAt, ...]
    orders: tuple[OrderJudged, ...]
    eaten: dict[str, float]
    cures: tuple[str, ...]
    findings: tuple[Finding, ...]
    sources: tuple[Source, ...]
    not_known: str


def force_words(force_n: float) -> str:
    """A pull that a person can judge: as a weight, and by what it is done."""
    if force_n <= LIGHT_N:
        return "closes by itself, or at a finger's push"
    kilograms = amount(force_n / G, "kg", 0)
    by = "a hand holds it there" if force_n < HAND_N else "a knee or a strap holds it there"
    if force_n > KNEE_N:
        by = "too much for a knee: a jack with wood, or a shim"
    return f"{amount(force_n, 'N', 0)}, the weight of {kilograms}: {by}"


def _gap(at: MountedJoint, airs: dict[str, float]) -> tuple[float, bool, str]:
    """Gap mm, whether it is known, and how."""
    seen = at.joint.seen
    if seen.gap_mm is not None:
        return seen.gap_mm, True, "measured with the plate held up"
    air = airs.get(at.joint.key, 0.0)
    measured = at.mount is not None and at.mount.known != "assumed"
    if measured or at.joint.female is not None:
        return air, True, "from how its spacers hang it"
    return air, False, "from a mount whose height is assumed: measure it"


def _gaps(plate: Plate, joints: tuple[MountedJoint, ...]) -> tuple[GapAt, ...]:
    airs = hung_sheet(plate, joints).airs_mm
    found = []
    for at in joints:
        if not at.joint.holds_plate:
            continue
        gap, known, words = _gap(at, airs)
        found.append(
            GapAt(
                key=at.joint.key,
                number=at.joint.number,
                name=at.joint.name,
                gap_mm=gap,
                known=known,
                words=words,
                reach_mm=max(0.0, assess_joint(at.joint, at.mount).evaluation.reach_nominal_mm),
            )
        )
    return tuple(found)


@lru_cache(maxsize=32)
def stiffness_between(
    plate: Plate, places_mm: tuple[Vec3, ...], normals: tuple[Vec3, ...]
) -> tuple[tuple[float, ...], ...]:
    """The bare plate's stiffness between the places it is held at, N/mm."""
    sheet = SHEET_MATERIALS[plate.material]
    k = condensed_stiffness(
        shell_panels(fold(plate)),
        places_mm,
        normals,
        thickness_mm=plate.thickness_mm,
        youngs_modulus_mpa=sheet.youngs_modulus_gpa * 1000.0,
        poisson=sheet.poisson_ratio,
        mesh_mm=MESH_MM,
    )
    return tuple(tuple(float(v) for v in row) for row in np.asarray(k))


def _given(
    plate: Plate, joints: tuple[MountedJoint, ...], gaps: tuple[GapAt, ...], wrench: WrenchTool
) -> DrawUpInput:
    """The question for ``draw_up``. Raises InputError for a joint off the main piece."""
    by_key = {at.joint.key: at for at in joints}
    drawn, mounts, normals = fold(plate), [], []
    points: list[Vec3] = []
    for gap in gaps:
        at = by_key[gap.key]
        found = sheet_normal_point(drawn, at.x_mm, at.y_mm)
        if found is None:
            raise InputError(
                f"joints.{gap.key}",
                gap.number,
                "a joint on the main piece's own sheet",
                f"joint {gap.number} is not on the main piece's sheet",
            )
        for other, point in zip(gaps, points, strict=False):
            if math.dist(point, found[0]) < LEAST_APART_MM:
                raise InputError(
                    f"joints.{gap.key}",
                    gap.number,
                    f"places at least {entered(LEAST_APART_MM, 'mm')} apart",
                    f"joints {other.number} and {gap.number} stand at one place",
                )
        points.append(found[0])
        normals.append(found[1])
        mounts.append(
            DrawnMount(
                name=gap.key,
                gap_mm=gap.gap_mm,
                screw_reach_mm=gap.reach_mm,
                pitch_mm=threads.row_of(at.joint.thread).pitch_mm,
                preload_n=card_of(at.joint, at.mount, wrench).result.preload_min_n,
                x_mm=at.x_mm,
                y_mm=at.y_mm,
            )
        )
    k = stiffness_between(plate, tuple(points), tuple(normals))
    return DrawUpInput(mounts=tuple(mounts), stiffness_n_per_mm=k)


def _schools(
    joints: tuple[MountedJoint, ...], gaps: tuple[GapAt, ...], wrench: WrenchTool
) -> dict[str, tuple[str, tuple[str, ...]]]:
    """Orders that people use, and the one the plan has now, by name."""
    keys = {g.key for g in gaps}
    plan = tuple(k for k in plan_for(joints, wrench).joint_order if k in keys)
    schools = {"plan": ("as the plan tightens now", plan)}
    for school in schools_of(plan_joints(joints, wrench)):
        order = tuple(k for k in school.order if k in keys)
        if order and order not in [known for _, known in schools.values()]:
            schools[school.key] = (school.label, order)
    return schools


def _order(
    key: str,
    label: str,
    result: DrawUpResult,
    gaps: tuple[GapAt, ...],
    plan: tuple[str, ...],
    of_plan: dict[str, PlanJoint],
) -> OrderJudged:
    numbers = {g.key: g.number for g in gaps}
    turns = tuple(
        Turn(
            number=numbers[step.name],
            key=step.name,
            gap_mm=step.gap_before_mm,
            starts=step.starts,
            force_n=step.force_n,
            words=force_words(step.force_n),
        )
        for step in result.steps
    )
    order = tuple(t.key for t in turns)
    return OrderJudged(
        key=key,
        label=label,
        order=order,
        turns=turns,
        all_start=result.all_start,
        # Where there is no gap the hand that holds the plate up presses it on: no screw pulls.
        most_force_n=max(0.0, *(t.force_n for t in turns)),
        most_eaten=max(result.eaten_share),
        is_plan=order == plan,
        against=against_order(tuple(of_plan[k] for k in order)),
    )


def _bracket_cure(joint: Joint, gap: GapAt) -> str:
    """Whether a soft bracket in this joint is bent first rather than pulled by its screw."""
    strap = next((x for x in joint.present() if x.can_bend), None)
    if strap is None or strap.span_mm is None or gap.gap_mm <= CLOSED_MM:
        return ""
    sheet = SHEET_MATERIALS.get(strap.material)
    steel = SHEET_MATERIALS["mild steel S235"]
    if sheet is None and LAYER_MATERIALS[strap.material].metal != "steel":
        return ""
    own = sheet or steel
    bent = bracket_bend(
        BracketBendInput(
            width_mm=strap.outer_mm,
            thickness_mm=strap.thickness_mm,
            free_length_mm=strap.span_mm,
            e_mpa=own.youngs_modulus_gpa * 1000.0 if sheet else _E_LOOSE_MPA,
            yield_mpa=own.yield_mpa,
            gap_mm=gap.gap_mm,
        )
    ).result
    if not bent.crosses_thread and not bent.yields:
        return ""
    tilt = bent.tip_slope_deg or 0.0
    folds = " It folds where it is held." if bent.collapses else ""
    return (
        f"Bend the {strap.name} of joint {gap.number} in two pliers first: pulled over by its "
        f"screw it stands {tilt:.1f}° askew, and the screw starts across its thread.{folds}"
    )


def _cures(
    result: DrawUpResult, joints: tuple[MountedJoint, ...], gaps: tuple[GapAt, ...]
) -> tuple[str, ...]:
    by_key = {at.joint.key: at.joint for at in joints}
    numbers = {g.key: g.number for g in gaps}
    cures = [words for g in gaps if (words := _bracket_cure(by_key[g.key], g))]
    if result.shim is not None:
        thick = amount(result.shim.thickness_mm, "mm", 1)
        cures.append(
            f"A shim of {thick} at joint {numbers[result.shim.name]}: then the plate eats at most "
            f"{percent(result.shim.eaten_share)} of a preload."
        )
    loose = sorted({j.seen.bracket for j in by_key.values() if j.seen.bracket})
    cures += [f"Loosen {name}, draw the plate home, and tighten it last." for name in loose]
    return tuple(cures)


def _findings(
    best: OrderJudged, eaten: dict[str, float], gaps: tuple[GapAt, ...]
) -> tuple[Finding, ...]:
    found = []
    numbers = {g.key: g.number for g in gaps}
    if not best.all_start:
        short = ", ".join(str(t.number) for t in best.turns if not t.starts)
        text = f"In no order do all screws reach two turns of thread: {short} stays too short."
        found.append(finding("screw will not start", text))
    for key, share in eaten.items():
        if share > EATS_SHARE:
            text = (
                f"Joint {numbers[key]} spends {percent(share)} of its preload on pulling the plate."
            )
            found.append(finding("stands off unevenly", text, key))
    unknown = [str(g.number) for g in gaps if not g.known]
    if unknown:
        text = f"Measure the gaps at {', '.join(unknown)} with the plate held up lightly."
        found.append(finding("gap not known", text))
    return tuple(found)


def _none(gaps: tuple[GapAt, ...], why: str) -> DrawHome:
    return DrawHome(
        gaps=gaps,
        orders=(),
        eaten={},
        cures=(),
        findings=(finding("gap not known", why),),
        sources=(),
        not_known=why,
    )


@lru_cache(maxsize=64)
def draw_home(plate: Plate, joints: tuple[MountedJoint, ...], wrench: WrenchTool) -> DrawHome:
    """Orders in which a plate's gaps are closed, what each pulls and eats, and what helps.

    A plate that cannot be meshed, or with a joint off its main piece, is *not known*.
    """
    gaps = _gaps(plate, joints)
    if not 1 <= len(gaps) <= MAX_MOUNTS:
        return _none(gaps, f"With {len(gaps)} joints that hold the sheet this is not worked out.")
    try:
        return _worked_out(plate, joints, gaps, wrench)
    except InputError as error:
        return _none(gaps, f"Not worked out: {error.message or error}.")


def _worked_out(
    plate: Plate, joints: tuple[MountedJoint, ...], gaps: tuple[GapAt, ...], wrench: WrenchTool
) -> DrawHome:
    """Every order and cure. Raises InputError where a size is beyond a computation's range."""
    asked = _given(plate, joints, gaps, wrench)
    schools = _schools(joints, gaps, wrench)
    plan = schools["plan"][1]
    of_plan = {j.key: j for j in plan_joints(joints, wrench)}
    best = draw_up(asked)
    orders = [_order("best", "eats least preload", best.result, gaps, plan, of_plan)]
    for key, (label, order) in schools.items():
        result = draw_up(_in_order(asked, order)).result
        orders.append(_order(key, label, result, gaps, plan, of_plan))
    eaten = {g.key: share for g, share in zip(gaps, best.result.eaten_share, strict=True)}
    return DrawHome(
        gaps=gaps,
        orders=tuple(orders),
        eaten=eaten,
        cures=_cures(best.result, joints, gaps),
        findings=_findings(orders[0], eaten, gaps),
        sources=(*best.sources, SHELL_SOURCE),
        not_known="",
    )


def _in_order(asked: DrawUpInput, order: tuple[str, ...]) -> DrawUpInput:
    return DrawUpInput(
        mounts=asked.mounts,
        stiffness_n_per_mm=asked.stiffness_n_per_mm,
        order=order,
        hand_force_n=asked.hand_force_n,
    )
