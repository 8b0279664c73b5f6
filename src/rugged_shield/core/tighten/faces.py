"""Which faces turn, which yield first, and which tools reach them."""

from __future__ import annotations

import math

from rugged_shield.core.fitup import Joint, Layer, clamped
from rugged_shield.core.mechanics import threads
from rugged_shield.core.tables.hardware import NUTS
from rugged_shield.core.tables.heads import HEADS
from rugged_shield.core.tables.materials import SHEET_MATERIALS

_LAYER_PRESSURE_MPA = {"steel": 490.0, "cast aluminium": 220.0}
_CONE_TANGENT = math.tan(math.radians(30))


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


def _pressure_limit(layer: Layer) -> float | None:
    sheet = SHEET_MATERIALS.get(layer.material)
    return sheet.bearing_limit_mpa if sheet else _LAYER_PRESSURE_MPA.get(layer.material)


def weakest_face(joint: Joint) -> tuple[float, float, float, str] | None:
    """Ring (outer, inner mm), pressure limit MPa and name of the face that yields first.

    The load spreads in a 30° cone from the head (VDI 2230-1, 5.1), never wider
    than the narrower of the two parts. A sleeve carries it past its plate.
    """
    # of a stud the load comes from the nut, at the other end of its stack
    layers = clamped(joint)[::-1] if joint.is_stud else clamped(joint)
    head = threads.head_of(joint.head, joint.thread)
    d = threads.row_of(joint.thread).d_mm
    spread, faces = head.bearing_diameter_mm, []
    above_outer, above_hole = spread, d
    for layer in layers:
        limit = _pressure_limit(layer)
        outer = min(above_outer, layer.outer_mm, spread)
        inner = max(above_hole, layer.hole_mm)
        if limit is not None and outer > inner:
            area = math.pi / 4 * (outer**2 - inner**2)
            faces.append((limit * area, outer, inner, limit, layer.name))
        wide = layer.outer_mm if layer.kind == "washer" else math.inf
        spread = max(min(spread + 2 * layer.thickness_mm * _CONE_TANGENT, wide), spread)
        if layer.kind == "washer":
            spread = layer.outer_mm
        above_outer, above_hole = layer.outer_mm, layer.hole_mm
    if not faces:
        return None
    _, outer, inner, limit, name = min(faces)
    return outer, inner, limit, name
