"""How a plate hangs with the layers its joints now have: pose, low points, standoffs."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from rugged_shield.core.assess.fitup.joints import assess_joint
from rugged_shield.core.fitup import Joint, behind_plate_mm, female_of, in_front_mm, screw_mass_kg
from rugged_shield.core.job import Candidate, place_of
from rugged_shield.core.mechanics import threads
from rugged_shield.core.result import Finding, finding
from rugged_shield.core.survey import (
    Bike,
    FoldedPlate,
    LowPoint,
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
class Hang:
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


def _offsets(bike: Bike, candidate: Candidate) -> list[tuple[float, float, float]]:
    """(x, y, how much lower than drawn) at every joint whose drawn stack is known."""
    found = []
    for joint in candidate.settled_joints():
        if joint.drawn_stack_mm is not None:
            x, y = place_of(bike, joint)
            above = in_front_mm(joint) if joint.end_below else behind_plate_mm(joint)
            found.append((x, y, above - joint.drawn_stack_mm))
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


def _head_points(bike: Bike, candidate: Candidate, folded: FoldedPlate) -> tuple[LowPoint, ...]:
    """What hangs below the sheet at each screw: washers and head, or nut and screw end."""
    points = []
    for joint in candidate.settled_joints():
        if not any(layer.kind in ("plate", "sleeve") for layer in joint.present()):
            continue
        x, y = place_of(bike, joint)
        at = sheet_point(folded, x, y)
        if at is None:
            continue
        below, what = _below_mm(bike, joint)
        points.append(LowPoint(f"{what} of screw {joint.number}", x, y, at[2] - below))
    return tuple(points)


def _off_sheet(bike: Bike, candidate: Candidate, folded: FoldedPlate) -> tuple[Finding, ...]:
    """Joints that clamp the plate where it has no sheet."""
    found = []
    for joint in candidate.settled_joints():
        if not any(layer.kind == "plate" for layer in joint.present()):
            continue
        x, y = place_of(bike, joint)
        if sheet_point(folded, x, y, every=True) is None:
            found.append(
                finding(
                    "joint off the sheet",
                    f"Joint {joint.number} is at x {x:.0f}, y {y:.0f} mm, where this plate has no "
                    "sheet: check its place, or the size of the panels.",
                    joint.key,
                )
            )
    return tuple(found)


def _below_mm(bike: Bike, joint: Joint) -> tuple[float, str]:
    """How far a screw hangs below the sheet, mm, and which end of it."""
    if joint.end_below:
        mount = bike.mount(joint.mount)
        judged = assess_joint(joint, mount).evaluation
        height = female_of(joint, mount)[0].overall_height_mm or 0.0
        return behind_plate_mm(joint) + height + max(
            judged.protrusion_nominal_mm or 0.0, 0.0
        ), "end"
    if joint.is_countersunk:
        return 0.0, "head"
    return in_front_mm(joint) + threads.head_of(joint.head, joint.thread).height_mm, "head"


@lru_cache(maxsize=256)
def hang(bike: Bike, candidate: Candidate) -> Hang:
    """Pose, low points, breakover and standoffs of a plate on its bike."""
    pose, gap = _fit_pose(_offsets(bike, candidate))
    folded = fold(candidate.plate, pose)
    heads = _head_points(bike, candidate, folded)
    corner, panel = folded.lowest_mm()
    own = [LowPoint(f"plate, {panel}", *corner), *heads]
    points = low_points(bike, folded, heads)
    angle, at = governing_breakover(bike, points)
    guarded = tuple(p for p in bike.parts if p.kind in ("vital", "neighbour"))
    gaps = standoffs(folded, guarded)
    findings = _off_sheet(bike, candidate, folded)
    if gap > UNEVEN_MM:
        findings += (
            finding(
                "stands off unevenly",
                f"The spacers leave up to {gap:.1f} mm of gap at a joint: pulling it down bends "
                "the plate or eats preload.",
            ),
        )
    return Hang(
        pose=pose,
        folded=folded,
        uneven_mm=gap,
        low=lowest(points),
        plate_low=lowest(own),
        breakover_deg=angle,
        breakover_at=at,
        standoffs=gaps,
        findings=findings,
        heads=heads,
    )


def hardware_mass_kg(candidate: Candidate, lengths: tuple[float, ...]) -> float:
    """Screws at these lengths, washers, spacers and sleeves of all joints."""
    total = 0.0
    for joint, length in zip(candidate.settled_joints(), lengths, strict=True):
        total += screw_mass_kg(joint, length) + sum(layer.mass_kg for layer in joint.present())
    return total
