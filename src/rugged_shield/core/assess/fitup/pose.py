"""How a plate hangs with the layers its joints now have: pose, low points, standoffs."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from rugged_shield.core.assess.fitup.joints import assess_joint
from rugged_shield.core.fitup import Joint, behind_plate_mm, female_of, in_front_mm, screw_mass_kg
from rugged_shield.core.job import Candidate, MountedJoint, mounted
from rugged_shield.core.mechanics import threads
from rugged_shield.core.result import Finding, finding
from rugged_shield.core.survey import (
    Bike,
    FoldedPlate,
    LowPoint,
    Mount,
    Plate,
    Pose,
    Standoff,
    fold,
    governing_breakover,
    low_points,
    lowest,
    sheet_point,
    standoffs,
)

UNEVEN_MM = 0.5


@dataclass(frozen=True, kw_only=True)
class PlatePose:
    """A plate as it hangs: pose, folded panels, what is lowest, breakover, standoffs."""

    pose: Pose
    folded: FoldedPlate
    uneven_mm: float
    low: LowPoint
    plate_low: LowPoint
    breakover_deg: float
    breakover_at: LowPoint
    standoffs: tuple[Standoff, ...]
    findings: tuple[Finding, ...]
    heads: tuple[LowPoint, ...]


def _offsets(joints: tuple[MountedJoint, ...]) -> list[tuple[float, float, float]]:
    """(x, y, how much lower than drawn) at every joint whose drawn stack is known."""
    found = []
    for at in joints:
        joint = at.joint
        if joint.drawn_stack_mm is not None:
            above = in_front_mm(joint) if joint.end_below else behind_plate_mm(joint)
            found.append((at.x_mm, at.y_mm, above - joint.drawn_stack_mm))
    return found


def _fit_pose(offsets: list[tuple[float, float, float]]) -> tuple[Pose, float]:
    """Least-squares plane through the offsets, and the largest gap it leaves, mm."""
    if not offsets:
        return Pose(), 0.0
    table = np.array(offsets)
    drop = table[:, 2]
    centred = table[:, :2] - table[:, :2].mean(axis=0)
    if len(offsets) >= 3 and np.linalg.matrix_rank(centred, tol=1.0) == 2:
        design = np.column_stack([np.ones(len(table)), table[:, :2]])
        fit, *_ = np.linalg.lstsq(design, drop, rcond=None)
        gap = float(np.max(np.abs(design @ fit - drop)))
        pose = Pose(-float(fit[0]), -float(fit[1]), -float(fit[2]))
        return pose, 0.0 if gap < 1e-9 else gap
    mean = float(drop.mean())
    return Pose(-mean), float(np.max(np.abs(drop - mean)))


def _head_points(joints: tuple[MountedJoint, ...], folded: FoldedPlate) -> tuple[LowPoint, ...]:
    """What hangs below the sheet at each screw: washers and head, or nut and screw end."""
    points = []
    for m in joints:
        at = sheet_point(folded, m.x_mm, m.y_mm) if m.joint.clamps_plate else None
        if at is None:
            continue
        below, what = _below_mm(m.joint, m.mount)
        name = f"{what} of screw {m.joint.number}"
        points.append(LowPoint(name, m.x_mm, m.y_mm, at[2] - below))
    return tuple(points)


def _off_sheet(joints: tuple[MountedJoint, ...], folded: FoldedPlate) -> tuple[Finding, ...]:
    """Joints that clamp the plate where it has no sheet."""
    found = []
    for m in joints:
        if not any(layer.kind == "plate" for layer in m.joint.present()):
            continue
        if sheet_point(folded, m.x_mm, m.y_mm, every=True) is None:
            found.append(
                finding(
                    "joint off the sheet",
                    f"Joint {m.joint.number} is at x {m.x_mm:.0f}, y {m.y_mm:.0f} mm, where this "
                    "plate has no sheet: check its place, or the size of the panels.",
                    m.joint.key,
                )
            )
    return tuple(found)


def _below_mm(joint: Joint, mount: Mount | None) -> tuple[float, str]:
    """How far a screw hangs below the sheet, mm, and which end of it."""
    if joint.end_below:
        judged = assess_joint(joint, mount).evaluation
        height = female_of(joint, mount)[0].overall_height_mm or 0.0
        return behind_plate_mm(joint) + height + max(
            judged.protrusion_nominal_mm or 0.0, 0.0
        ), "end"
    if joint.is_countersunk:
        return 0.0, "head"
    return in_front_mm(joint) + threads.head_of(joint.head, joint.thread).height_mm, "head"


@dataclass(frozen=True)
class HungSheet:
    """A plate's sheet on its joints, whatever is around it: pose, panels, heads, findings."""

    pose: Pose
    folded: FoldedPlate
    uneven_mm: float
    heads: tuple[LowPoint, ...]
    findings: tuple[Finding, ...]


@lru_cache(maxsize=256)
def hung_sheet(plate: Plate, joints: tuple[MountedJoint, ...]) -> HungSheet:
    """How the layers of its joints hang a plate."""
    pose, gap = _fit_pose(_offsets(joints))
    folded = fold(plate, pose)
    findings = _off_sheet(joints, folded)
    if gap > UNEVEN_MM:
        findings += (
            finding(
                "stands off unevenly",
                f"The spacers leave up to {gap:.1f} mm of gap at a joint: pulling it down bends "
                "the plate or eats preload.",
            ),
        )
    return HungSheet(pose, folded, gap, _head_points(joints, folded), findings)


@lru_cache(maxsize=256)
def plate_pose(bike: Bike, candidate: Candidate) -> PlatePose:
    """Pose, low points, breakover and standoffs of a plate on its bike."""
    hung = hung_sheet(candidate.plate, mounted(bike, candidate))
    corner, panel = hung.folded.lowest_mm()
    own = [LowPoint(f"plate, {panel}", *corner), *hung.heads]
    points = low_points(bike, hung.folded, hung.heads)
    angle, at = governing_breakover(bike, points)
    guarded = tuple(p for p in bike.parts if p.kind in ("vital", "neighbour"))
    return PlatePose(
        pose=hung.pose,
        folded=hung.folded,
        uneven_mm=hung.uneven_mm,
        low=lowest(points),
        plate_low=lowest(own),
        breakover_deg=angle,
        breakover_at=at,
        standoffs=standoffs(hung.folded, guarded),
        findings=hung.findings,
        heads=hung.heads,
    )


def hardware_mass_kg(joints: tuple[Joint, ...], lengths: tuple[float, ...]) -> float:
    """Screws at these lengths, washers, spacers and sleeves of all joints."""
    total = 0.0
    for joint, length in zip(joints, lengths, strict=True):
        total += screw_mass_kg(joint, length) + sum(layer.mass_kg for layer in joint.present())
    return total
