"""Whether a head sits as it is made to, and whether somebody can turn and hold the joint."""

from __future__ import annotations

import math
from collections.abc import Iterator

from rugged_shield.core.amounts import amount
from rugged_shield.core.fitup.joint import Joint, clamped
from rugged_shield.core.mechanics import threads
from rugged_shield.core.result import Finding, from_table

HEAD_ANGLE_DEG = 90.0
"""Of every metric countersunk head held here (ISO 10642, DIN 7991, ISO 14581)."""
ANGLE_APART_DEG = 5.0
"""What a sink may differ by and still carry the cone on most of its height."""
PROUD_MM = 0.3


def proud_mm(joint: Joint) -> float | None:
    """How far a countersunk head stands out of its sink at its most, mm; None without a sink.

    The larger of what was measured and of what the sink's own diameter leaves:
    (head − sink) / 2 / tan(half the angle).
    """
    sink = joint.countersink
    if sink is None or not joint.is_countersunk:
        return None
    head = threads.head_of(joint.head, joint.thread).diameter_mm
    least = sink.sink_diameter_mm - sink.sink_diameter_tol_mm
    too_wide = (head - least) / 2 / math.tan(math.radians(HEAD_ANGLE_DEG / 2))
    seen = -(sink.head_below_surface_mm - sink.head_below_surface_tol_mm)
    return max(too_wide, seen)


def _in_its_sink(joint: Joint) -> Iterator[Finding]:
    if not joint.is_countersunk:
        return
    first = clamped(joint)[0]
    if first.kind == "cup washer":
        return  # its cup is the sink that the head was made for
    if first.kind == "washer" and joint.countersink is None:
        yield from_table("flat washer under a cone", joint.key, name=first.name)
        return
    sink, proud = joint.countersink, proud_mm(joint)
    if sink is None or proud is None:
        yield from_table("sink not known", joint.key)
        return
    if sink.angle_deg is None:
        yield from_table("sink's angle not known", joint.key)
    elif abs(sink.angle_deg - HEAD_ANGLE_DEG) > ANGLE_APART_DEG:
        yield from_table(
            "cone on an edge",
            joint.key,
            head=f"{HEAD_ANGLE_DEG:.0f}°",
            sink=f"{sink.angle_deg:.0f}°",
        )
    if proud > PROUD_MM:
        yield from_table("head stands proud", joint.key, proud=amount(proud, "mm", 1))


def _turned(joint: Joint) -> Iterator[Finding]:
    drive = threads.head_of(joint.head, joint.thread).drive_size or joint.second_drive
    if not drive and not joint.nut and not joint.is_stud:
        yield from_table("turns in its hole", joint.key)
    female = joint.female
    if female is not None and female.kind in ("loose_nut", "plain_nut") and not joint.nut:
        yield from_table("nothing holds the nut", joint.key)


def seat_findings(joint: Joint) -> tuple[Finding, ...]:
    """What speaks against a joint's head in its sink, and against turning and holding it."""
    return (*_in_its_sink(joint), *_turned(joint))


def plate_findings(joint: Joint) -> tuple[Finding, ...]:
    """A joint of the plate that clamps neither it nor a piece of it, and is no bracket's."""
    own = any(layer.clamps_plate or layer.piece for layer in joint.present())
    if own or joint.stage in ("bracket", "adjustable bracket"):
        return ()
    return (from_table("plate not in its stack", joint.key, number=str(joint.number)),)
