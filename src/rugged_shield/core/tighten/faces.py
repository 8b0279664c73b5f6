"""Which faces turn, which yield first, and which tools reach them."""

from __future__ import annotations

import math

from rugged_shield.core.fitup.bearing import BearingFace, faces_of
from rugged_shield.core.fitup.joint import Joint, clamped
from rugged_shield.core.mechanics import threads
from rugged_shield.core.survey.bike import Mount
from rugged_shield.core.tables.grades import NOT_READ
from rugged_shield.core.tables.hardware import NUTS
from rugged_shield.core.tables.heads import HEADS

_INCH_FLATS = ((11.11, "7/16 in"), (12.7, "1/2 in"), (14.29, "9/16 in"))


def drives(joint: Joint) -> tuple[str, ...]:
    """Every drive on the head, in the standard's words; none where its neck holds it."""
    row, family = threads.head_of(joint.head, joint.thread), HEADS[joint.head]
    if not row.drive_size:
        return ()
    own = f"{row.drive_size} {family.drive}"
    if family.drive == "six-lobe":
        own = f"six-lobe {row.drive_size}"
    return (own, joint.second_drive) if joint.second_drive else (own,)


def drive_tool(joint: Joint) -> str:
    """The tool for the head, in the standard's words; nothing holds a stud but its seat."""
    if joint.is_stud:
        return ""
    return " or ".join(drives(joint)) or "no tool: the neck holds it"


def nut_tool(joint: Joint) -> str:
    """The spanner for a loose nut, or nothing."""
    if not joint.nut:
        return ""
    flats = NUTS[joint.nut][threads.nominal_size(joint.thread)].across_flats_mm
    inch = next((words for mm, words in _INCH_FLATS if abs(mm - flats) < 0.02), "")
    return f"{inch or f'{flats:g} mm'} spanner"


def rotating_face(joint: Joint) -> tuple[float, float]:
    """Bearing diameter that turns and the hole under it, mm."""
    layers = clamped(joint)
    if joint.turns_nut:
        hexagon = threads.hexagon_of(joint.thread)
        return threads.head_of(hexagon, joint.thread).bearing_diameter_mm, layers[-1].hole_mm
    bearing = threads.head_of(joint.head, joint.thread).bearing_diameter_mm
    hole = layers[0].hole_mm
    if joint.is_countersunk or hole >= bearing:
        hole = threads.row_of(joint.thread).d_mm
    return bearing, hole


def counted_grade(joint: Joint) -> str:
    """The class that limits are reckoned with: the one read, else the lowest on sale.

    A socket or six-lobe head is not sold below 8.8, a hexagon is in 4.6, a bright one in A2-70.
    """
    if joint.grade != NOT_READ:
        return joint.grade
    if joint.treatment == "dry stainless":
        return "A2-70"
    key = HEADS[joint.head].drive in ("hex key", "six-lobe", "in hex key")
    return "8.8" if key else "4.6"


def weakest_face(joint: Joint, mount: Mount | None) -> BearingFace | None:
    """The face of a joint's stack that yields first under its preload; None: none is known to."""
    known = [f for f in faces_of(joint, mount).faces if f.load_limit_n is not None]
    return min(known, key=lambda f: f.load_limit_n or math.inf, default=None)
