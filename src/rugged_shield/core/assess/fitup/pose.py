"""How a plate hangs with the layers its joints now have: pose, low points, standoffs."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from functools import lru_cache

from rugged_shield.core.amounts import amount, entered, place_words
from rugged_shield.core.assess.fitup.doubt import doubted_joint
from rugged_shield.core.assess.fitup.edges import edge_findings
from rugged_shield.core.assess.fitup.joints import JointAssessment, assess_joint
from rugged_shield.core.assess.fitup.supports import support_findings
from rugged_shield.core.assess.fitup.webs import web_findings
from rugged_shield.core.fitup.closing import Contact, Rest, rest
from rugged_shield.core.fitup.joint import (
    Joint,
    above_plate,
    above_plate_mm,
    below_plate_mm,
    female_of,
    screw_mass_kg,
)
from rugged_shield.core.job.model import Candidate, MountedJoint, mounted
from rugged_shield.core.judgement.known import ENTERED, band_of, doubted, fact_of
from rugged_shield.core.mechanics import threads
from rugged_shield.core.result import Finding, FindingCode, finding, from_table, worst
from rugged_shield.core.survey.bike import Bike, Mount
from rugged_shield.core.survey.clearance import LowPoint, low_points, lowest, sheet_points
from rugged_shield.core.survey.drawings import Air
from rugged_shield.core.survey.geometry import FoldedPlate, fold, sheet_normal_point, sheet_point
from rugged_shield.core.survey.plate import Plate
from rugged_shield.core.survey.pose import Pose
from rugged_shield.core.survey.standoff import Standoff, standoffs

UNEVEN_MM = 0.5
"""A gap that paint, tolerance and the screw take up without harm."""
CLOSES_MM = 1.5
"""A larger gap bends the plate or eats the preload: the joint does not close."""
BESIDE_MM = 12.0
"""No hole or slot of a plate takes up more than this."""


@dataclass(frozen=True, kw_only=True)
class PlatePose:
    """A plate as it hangs: pose, folded panels, all that is low on the bike, standoffs.

    ``own`` are the low points of the plate itself: corners of its sheet, and its screws.
    Springs as they stand: what sinks under added mass is the mass budget's. ``standoffs`` are to
    vital and neighbouring parts, ``hot_low_gaps`` to what else is or may be hot.
    """

    pose: Pose
    folded: FoldedPlate
    uneven_mm: float
    low: LowPoint
    plate_low: LowPoint
    points: tuple[LowPoint, ...]
    own: tuple[LowPoint, ...]
    standoffs: tuple[Standoff, ...]
    hot_low_gaps: tuple[Standoff, ...]
    findings: tuple[Finding, ...]
    airs_mm: dict[str, float]


def _contacts(plate: Plate, joints: tuple[MountedJoint, ...]) -> tuple[Contact, ...]:
    """Where the plate is held, and what lies between: mounts' faces where these are known."""
    drawn, found = fold(plate), []
    for at in joints:
        joint = at.joint
        place = sheet_normal_point(drawn, at.x_mm, at.y_mm) if joint.holds_plate else None
        if place is None:
            continue
        above = above_plate_mm(joint)
        on_mount = joint.is_stud or not (joint.end_below or joint.female is not None)
        face = at.mount if on_mount else None
        if face is None and joint.drawn_stack_mm is None:
            continue
        asked = above if joint.drawn_stack_mm is None else joint.drawn_stack_mm
        found.append(
            Contact(
                key=joint.key,
                point=place[0],
                normal=place[1],
                stack_mm=plate.thickness_mm + above,
                face=None if face is None else (at.x_mm, at.y_mm, face.z_mm),
                offset_mm=asked - above,
            )
        )
    return tuple(found)


def _beside_mm(at: MountedJoint) -> float:
    """How far a joint stands from the mount that it names, seen from below, mm."""
    if at.mount is None:
        return 0.0
    return math.hypot(at.x_mm - at.mount.x_mm, at.y_mm - at.mount.y_mm)


def _not_closing(
    joints: tuple[MountedJoint, ...], resting: Rest, airs: dict[str, float]
) -> list[Finding]:
    """Joints whose stack does not meet their mount: what is missing there, or too much."""
    found = []
    long = resting.too_long if resting.too_long and resting.too_long[1] > UNEVEN_MM else None
    for at in joints:
        joint, beside = at.joint, _beside_mm(at)
        if joint.clamps_plate and beside > BESIDE_MM:
            found.append(_beside_its_mount(at, beside))
        if long is not None and joint.key == long[0]:
            what = (
                f"its stack is {amount(long[1], 'mm', 1)} more than the gap to its "
                "mount: take out as much"
            )
            found.append(_open_joint(at, long[1], what))
        elif long is None and airs.get(joint.key, 0.0) > UNEVEN_MM:
            size = amount(airs[joint.key], "mm", 1)
            what = f"{size} of air between stack and mount: a layer of {size} is missing"
            found.append(_open_joint(at, airs[joint.key], what))
    return found


def _beside_its_mount(at: MountedJoint, beside_mm: float) -> Finding:
    text = f"Joint {at.joint.number} stands {amount(beside_mm, 'mm', 0)} beside the mount it names"
    if at.mount is not None and doubted(at.mount, "x_mm", "y_mm"):
        place = place_words(at.mount.x_mm, at.mount.y_mm)
        text += f", if that is at {place} as assumed: measure it"
        return finding("gap not known", f"{text}.", at.joint.key)
    return finding("joint does not close", f"{text}.", at.joint.key)


def _open_joint(at: MountedJoint, size_mm: float, what: str) -> Finding:
    code: FindingCode = "joint does not close" if size_mm > CLOSES_MM else "gap at a joint"
    if at.mount is not None and doubted(at.mount, "z_mm"):
        code = "gap not known"
        what += f", if the mount is {entered(at.mount.z_mm, 'mm')} high as assumed: measure it"
    elif any(layer.known not in ENTERED for layer in above_plate(at.joint)):
        code = "gap not known"
        what += ", if what lies between is as thick as assumed: measure it"
    return finding(code, f"Joint {at.joint.number}: {what}.", at.joint.key)


def _unexplained(
    plate: Plate, contacts: tuple[Contact, ...], pose: Pose, joints: tuple[MountedJoint, ...]
) -> list[Finding]:
    """Where mounts and stacks hang a plate elsewhere than its own height says, beyond doubt.

    A height that the program put there is no witness against a mount that was measured.
    """
    by_key, found = {at.joint.key: at for at in joints}, []
    own_u = math.hypot(band_of(plate, "z_front_mm"), plate.thickness_mm)
    assumed = fact_of(plate, "z_front_mm").known == "assumed"
    for contact in contacts:
        at = by_key[contact.key]
        if contact.face is None or at.mount is None:
            continue
        if assumed and not doubted(at.mount, "z_mm"):
            continue
        was, now = contact.point, pose.lift(contact.point)
        moved = sum((b - a) * n for a, b, n in zip(was, now, contact.normal, strict=True))
        gap = moved - contact.offset_mm
        if abs(gap) > math.hypot(own_u, band_of(at.mount, "z_mm")):
            found.append(
                from_table(
                    "height not explained",
                    at.joint.key,
                    number=str(at.joint.number),
                    gap=amount(abs(gap), "mm", 0),
                    way="higher" if gap > 0 else "lower",
                )
            )
    return found


def _head_points(joints: tuple[MountedJoint, ...], folded: FoldedPlate) -> tuple[LowPoint, ...]:
    """What hangs below the sheet at each screw: washers and head, or nut and screw end."""
    points = []
    for m in joints:
        at = sheet_point(folded, m.x_mm, m.y_mm) if m.is_in_sheet else None
        if at is None:
            continue
        _, below, what = below_sheet(m.joint, m.mount)
        name = f"{what} of screw {m.joint.number}"
        points.append(LowPoint(name, m.x_mm, m.y_mm, at[2] - below))
    return tuple(points)


def _off_sheet(joints: tuple[MountedJoint, ...], folded: FoldedPlate) -> tuple[Finding, ...]:
    """Joints that clamp the plate where it has no sheet."""
    found = []
    for m in joints:
        sheet = any(layer.kind == "plate" for layer in m.joint.present())
        if not (sheet and m.is_placed):
            continue
        if sheet_point(folded, m.x_mm, m.y_mm, every=True) is None:
            found.append(
                finding(
                    "joint off the sheet",
                    f"Joint {m.joint.number} is at {place_words(m.x_mm, m.y_mm)}, where this "
                    "plate has no sheet: check its place, or the size of the panels.",
                    m.joint.key,
                )
            )
    return tuple(found)


def _doubled(joints: tuple[MountedJoint, ...]) -> tuple[Finding, ...]:
    """Joints that stand in the same hole of the same mount: only one screw goes in."""
    first: dict[tuple[str, float, float], MountedJoint] = {}
    found = []
    for m in (at for at in joints if at.is_placed):
        other = first.setdefault((m.joint.mount, round(m.x_mm), round(m.y_mm)), m)
        if other is not m:
            hole = f"in one hole of {m.mount.name}" if m.mount else "at one place"
            found.append(
                finding(
                    "two joints at one place",
                    f"Joints {other.joint.number} and {m.joint.number} stand {hole}: leave one "
                    "out, or give it a place of its own.",
                    m.joint.key,
                )
            )
    return tuple(found)


def below_sheet(joint: Joint, mount: Mount | None) -> tuple[float, float, str]:
    """How deep washers, and with them the screw, hang below the sheet, mm; which end of it."""
    washers = below_plate_mm(joint)
    if joint.ends_below:
        judged = assess_joint(joint, mount).evaluation
        height = female_of(joint, mount)[0].overall_height_mm or 0.0
        beyond = max(judged.protrusion_nominal_mm or 0.0, 0.0)
        return washers, washers + height + beyond, "end"
    if joint.is_countersunk:
        return washers, washers, "head"
    return washers, washers + threads.head_of(joint.head, joint.thread).height_mm, "head"


@dataclass(frozen=True)
class HungSheet:
    """A plate's sheet on its joints, whatever is around it: pose, panels, heads, findings.

    ``airs_mm``: by joint, the room between its stack and its mount.
    """

    pose: Pose
    folded: FoldedPlate
    uneven_mm: float
    heads: tuple[LowPoint, ...]
    findings: tuple[Finding, ...]
    airs_mm: dict[str, float]


@lru_cache(maxsize=256)
def hung_sheet(plate: Plate, joints: tuple[MountedJoint, ...]) -> HungSheet:
    """How the layers of its joints hang a plate."""
    contacts = _contacts(plate, joints)
    resting = rest(contacts)
    airs = {c.key: air for c, air in zip(contacts, resting.air_mm, strict=True)}
    gap = max(resting.air_mm, default=0.0)
    folded = fold(plate, resting.pose)
    where = (
        *_off_sheet(joints, folded),
        *_doubled(joints),
        *edge_findings(plate, folded, joints),
        *web_findings(plate),
        *support_findings(folded, joints),
    )
    findings = (
        *where,
        *_not_closing(joints, resting, airs),
        # where one stack alone is too long, that is the reason, and it is said already
        *(() if resting.too_long else _unexplained(plate, contacts, resting.pose, joints)),
    )
    if gap > UNEVEN_MM:
        findings += (
            finding(
                "stands off unevenly",
                f"The spacers leave up to {amount(gap, 'mm', 1)} of gap at a joint: "
                "pulling it down bends "
                "the plate or eats preload.",
            ),
        )
    heads = _head_points(joints, folded)
    return HungSheet(resting.pose, folded, gap, heads, findings, airs)


def fitted_joints(plate: Plate, joints: tuple[MountedJoint, ...]) -> tuple[JointAssessment, ...]:
    """Every joint judged on this plate: its own stack, and whether it meets its mount."""
    hung = hung_sheet(plate, joints)
    judged = []
    for assessed in (doubted_joint(at) for at in joints):
        key = assessed.joint.key
        own = tuple(f for f in hung.findings if f.where == key)
        found = (*own, *assessed.findings)
        judged.append(
            replace(
                assessed,
                findings=found,
                verdict=worst(f.verdict for f in found),
                air_mm=hung.airs_mm.get(key, 0.0),
            )
        )
    return tuple(judged)


@lru_cache(maxsize=256)
def plate_pose(bike: Bike, candidate: Candidate) -> PlatePose:
    """Pose, low points, breakover and standoffs of a plate on its bike."""
    hung = hung_sheet(candidate.plate, mounted(bike, candidate))
    own = (*sheet_points(hung.folded), *hung.heads)
    points = low_points(bike, hung.folded, hung.heads)
    guarded = tuple(p for p in bike.parts if p.kind in ("vital", "neighbour"))
    hot = tuple(p for p in bike.parts if p.is_exhaust or p.surface_c is not None)
    hot_low = tuple(p for p in hot if p not in guarded)
    return PlatePose(
        pose=hung.pose,
        folded=hung.folded,
        uneven_mm=hung.uneven_mm,
        low=lowest(points),
        plate_low=lowest(list(own)),
        points=tuple(points),
        own=own,
        standoffs=standoffs(hung.folded, guarded),
        hot_low_gaps=standoffs(hung.folded, hot_low),
        findings=hung.findings,
        airs_mm=hung.airs_mm,
    )


def open_airs(bike: Bike, candidate: Candidate) -> tuple[Air, ...]:
    """Where joints of a plate do not close as it hangs, and by how much, to be drawn."""
    airs = plate_pose(bike, candidate).airs_mm
    return tuple(
        Air(m.x_mm, m.y_mm, airs[m.joint.key])
        for m in mounted(bike, candidate)
        if airs.get(m.joint.key, 0.0) > UNEVEN_MM
    )


def hardware_mass_kg(joints: tuple[Joint, ...], lengths: tuple[float, ...]) -> float:
    """Screws at these lengths, washers, spacers and sleeves of all joints."""
    total = 0.0
    for joint, length in zip(joints, lengths, strict=True):
        total += screw_mass_kg(joint, length) + sum(layer.mass_kg for layer in joint.present())
    return total
