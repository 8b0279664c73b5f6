"""Lockers and plastic inserts beside hot parts: what a joint may come to, and what they bear."""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np

from rugged_shield.core.amounts import amount
from rugged_shield.core.job.model import Job, MountedJoint, mounted
from rugged_shield.core.result import Finding, from_table
from rugged_shield.core.survey.bike import Part
from rugged_shield.core.survey.standoff import box_of
from rugged_shield.core.tables.friction import CONDITIONS

LOCKER_C = 150.0
"""Anaerobic locker of medium strength."""
INSERT_C = 120.0
"""Polyamide insert of a lock nut (ISO 2320)."""
REACH_MM = 30.0
"""How far heat carries: what is left of it falls by e over this; low confidence."""
AMBIENT_C = 25.0


def _distance_mm(at: MountedJoint, part: Part) -> float | None:
    """From a joint's mount to a part's box; None where its height is not known."""
    if at.mount is None:
        return None
    point, (low, high) = np.array([at.x_mm, at.y_mm, at.mount.z_mm]), box_of(part)
    return float(np.linalg.norm(point - np.clip(point, low, high)))


def joint_temperature_c(surface_c: float, distance_mm: float) -> float:
    """What a joint may come to beside a hot part, °C, by nearness alone; an estimate."""
    return AMBIENT_C + (surface_c - AMBIENT_C) * math.exp(-distance_mm / REACH_MM)


def _bears(at: MountedJoint) -> Iterator[tuple[str, float]]:
    if CONDITIONS[at.joint.treatment].is_locker:
        yield "The locker", LOCKER_C
    if at.joint.nut == "ISO 7040":
        yield "The nut's insert", INSERT_C


def heat_at_joints(job: Job) -> tuple[Finding, ...]:
    """Joints of the plate in hand whose locker or insert may soften beside something hot."""
    found = []
    hot = [p for p in job.bike.parts if p.surface_c is not None]
    for at in mounted(job.bike, job.in_hand):
        for what, limit_c in _bears(at):
            for part in hot:
                gap = _distance_mm(at, part)
                if gap is None or part.surface_c is None:
                    continue
                warm = joint_temperature_c(part.surface_c, gap)
                if warm > limit_c:
                    found.append(
                        from_table(
                            "locker too hot",
                            at.joint.key,
                            what=what,
                            number=str(at.joint.number),
                            limit=amount(limit_c, "°C", 0),
                            gap=amount(gap, "mm", 0),
                            part=part.name,
                            hot=amount(warm, "°C", 0),
                        )
                    )
    return tuple(found)
