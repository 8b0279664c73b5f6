"""A plate that grows with heat: which hole holds it, which must float, whether all still meet."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from rugged_shield.core.amounts import amount, entered
from rugged_shield.core.assess.fitup.hole_input import hole_mm, hole_question
from rugged_shield.core.fitup.hole_fit import Growth, hole_fit
from rugged_shield.core.job.model import MountedJoint
from rugged_shield.core.mechanics import threads
from rugged_shield.core.result import Finding, finding
from rugged_shield.core.survey.plate import Plate
from rugged_shield.core.tables.materials import ROOM_C, SHEET_MATERIALS

COLD_C, HOT_C = -20.0, 80.0
FRAME_PER_K = SHEET_MATERIALS["mild steel S235"].thermal_expansion_1e6_k * 1e-6
GROWS_MM = 0.1


@dataclass(frozen=True, kw_only=True)
class FloatHole:
    """A hole of a plate that grows: how far it moves cold and hot, the hole that lets it, mm."""

    number: int
    cold_mm: float
    hot_mm: float
    needed_mm: float
    now_mm: float
    floats: bool


def _grown_per_k(plate: Plate) -> float:
    return SHEET_MATERIALS[plate.material].thermal_expansion_1e6_k * 1e-6 - FRAME_PER_K


def growing(plate: Plate, joints: tuple[MountedJoint, ...]) -> tuple[int | None, list[FloatHole]]:
    """The hole that is best held, and what each other one moves cold and hot around it.

    Located is the one from which the farthest other hole moves least.
    """
    per_k = _grown_per_k(plate)
    if len(joints) < 2:
        return None, []

    def away(a: MountedJoint, b: MountedJoint) -> float:
        return math.hypot(a.x_mm - b.x_mm, a.y_mm - b.y_mm)

    held = min(joints, key=lambda a: max(away(a, b) for b in joints))
    rows = []
    for at in joints:
        if at is held:
            continue
        cold, hot = (abs(per_k * (t - ROOM_C)) * away(held, at) for t in (COLD_C, HOT_C))
        needed = threads.row_of(at.joint.thread).d_mm + 2 * max(cold, hot)
        now = hole_mm(at.joint) + 2 * at.joint.seen.slot_half_travel_mm
        rows.append(
            FloatHole(
                number=at.joint.number,
                cold_mm=cold,
                hot_mm=hot,
                needed_mm=needed,
                now_mm=now,
                floats=now >= needed,
            )
        )
    most = max(max(r.cold_mm, r.hot_mm) for r in rows)
    return (held.joint.number, rows) if most >= GROWS_MM else (None, [])


def heat_findings(
    plate: Plate,
    joints: tuple[MountedJoint, ...],
    located: int | None,
    rows: list[FloatHole],
    starts: bool,
) -> list[Finding]:
    """Holes too tight for a plate that grows; and whether as-seen offsets leave room for it."""
    found = []
    tight = [r for r in rows if not r.floats]
    if tight and SHEET_MATERIALS[plate.material].plastic:
        numbers = ", ".join(str(r.number) for r in tight)
        found.append(
            finding(
                "must float",
                f"Hold hole {located}; the holes of {numbers} are too tight for this plastic "
                f"between {entered(COLD_C, '°C')} and {entered(HOT_C, '°C')}: make them slots "
                "that point to the held one.",
            )
        )
    seen = tuple(at for at in joints if at.joint.seen.offset_mm is not None)
    if located is None or not starts:
        return found
    for celsius in (COLD_C, HOT_C):
        growth = Growth(
            alpha_plate_per_k=SHEET_MATERIALS[plate.material].thermal_expansion_1e6_k * 1e-6,
            alpha_frame_per_k=FRAME_PER_K,
            dt_k=celsius - ROOM_C,
        )
        fit = hole_fit(replace(hole_question(seen), thermal=growth), openings=False).result
        if not fit.fits:
            text = f"At {entered(celsius, '°C')} the holes no longer meet: short by "
            found.append(finding("must float", f"{text}{amount(-fit.margin_mm, 'mm', 2)}."))
    return found
