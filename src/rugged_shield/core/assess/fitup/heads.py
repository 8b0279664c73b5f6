"""What hangs under the sheet at each screw, as wide as it is, for what moves past it."""

from __future__ import annotations

import math
from collections.abc import Iterator

from rugged_shield.core.assess.fitup.pose import HungSheet, below_sheet
from rugged_shield.core.fitup.joint import Joint, under_plate
from rugged_shield.core.fitup.sweep import FixedThing
from rugged_shield.core.job.model import MountedJoint
from rugged_shield.core.mechanics import threads
from rugged_shield.core.mechanics.frames import Vec3
from rugged_shield.core.survey.geometry import sheet_point
from rugged_shield.core.tables.hardware import NUTS

_ROUND = 16
_SLICE_MM = 3.0
"""A body is cut in slices as thick as this at most: a slice's rim grows by half of it."""


def round_of(middle: Vec3, radius_mm: float) -> tuple[Vec3, ...]:
    """A level ring of corners round a circle, none of its edges inside it."""
    x, y, z = middle
    reach = radius_mm / math.cos(math.pi / _ROUND)
    turn = (2 * math.pi * i / _ROUND for i in range(_ROUND))
    return tuple((x + reach * math.cos(a), y + reach * math.sin(a), z) for a in turn)


def end_radius_mm(joint: Joint) -> float:
    """Half of what hangs lowest at a joint, across corners, mm: its nut or its head."""
    head = threads.head_of(
        threads.hexagon_of(joint.thread) if joint.ends_below else joint.head, joint.thread
    )
    nut = NUTS[joint.nut].get(threads.nominal_size(joint.thread)) if joint.nut else None
    if nut is None or not joint.ends_below:
        return head.diameter_mm / 2
    return nut.across_flats_mm / math.sqrt(3)


def _slices(
    name: str, at: Vec3, from_mm: float, to_mm: float, radius_mm: float
) -> Iterator[FixedThing]:
    """A round body between two depths under the sheet at a place; nothing where they are one."""
    count = math.ceil((to_mm - from_mm) / _SLICE_MM)
    x, y, z = at
    for i in range(count):
        thick = (to_mm - from_mm) / count
        ring = round_of((x, y, z - from_mm - (i + 0.5) * thick), radius_mm)
        yield FixedThing(name=name, kind="panel", polygon=ring, thickness_mm=thick)


def heads_of(joints: tuple[MountedJoint, ...], hung: HungSheet) -> tuple[FixedThing, ...]:
    """Washers and head, or nut and screw end, under the sheet at each joint that clamps it."""
    found: list[FixedThing] = []
    for m in joints:
        at = sheet_point(hung.folded, m.x_mm, m.y_mm) if m.is_in_sheet else None
        if at is None:
            continue
        washers, whole, what = below_sheet(m.joint, m.mount)
        n, ends_at = m.joint.number, end_radius_mm(m.joint)
        wide = max((x.outer_mm / 2 for x in under_plate(m.joint)), default=0.0)
        found += _slices(f"washer of screw {n}", at, 0.0, washers, wide)
        found += _slices(f"{what} of screw {n}", at, washers, whole, ends_at)
    return tuple(found)
