"""A piece of a plate in a joint's stack: as a layer, on which side, and held by it."""

from __future__ import annotations

from dataclasses import replace

from rugged_shield.core.errors import choose
from rugged_shield.core.fitup.joint import Joint, clearance_hole_mm, place_above_plate
from rugged_shield.core.fitup.layer import Layer
from rugged_shield.core.job.edits.keys import free_key
from rugged_shield.core.survey.plate import Piece, Plate

_OUTER_HOLES = 3.0
_TOL_MM = 0.2
LOOSE_OUTER = {
    "washer": 2.0,
    "cup washer": 2.5,
    "shim": 2.0,
    "spacer": 2.25,
    "isolator": 3.0,
    "sleeve": 1.75,
}
"""Outside diameter over the clearance hole of a new layer by kind; 3 for any other."""
LEAST_SPACER_MM = 0.5
"""Less air than this is no room for a spacer."""


def layer_of_piece(joint: Joint, piece: Piece, sheet: tuple[float, str]) -> Layer:
    """A piece of the plate as a layer of a joint, as thick and of what it is."""
    hole = clearance_hole_mm(joint.thread)
    return Layer(
        key=free_key("sheet", {layer.key for layer in joint.layers}),
        kind="panel",
        name=piece.name,
        material=sheet[1],
        thickness_mm=sheet[0],
        tol_mm=_TOL_MM,
        outer_mm=_OUTER_HOLES * hole,
        hole_mm=hole,
        piece=piece.key,
    )


def _below_plate(joint: Joint) -> int:
    """Where among its layers one comes to lie under the plate, next to it."""
    places = [i for i, layer in enumerate(joint.layers) if layer.clamps_plate]
    if joint.ends_below:
        return max(places, default=-1) + 1
    return min(places, default=0)


def beside(joint: Joint, layer: Layer, *, above: bool) -> Joint:
    """The joint with a layer next to the plate's, on its side toward the bike or the ground."""
    at = place_above_plate(joint) if above else _below_plate(joint)
    return replace(joint, layers=(*joint.layers[:at], layer, *joint.layers[at:]))


def spacer_beside(layer: Layer, air_mm: float) -> Layer:
    """A steel spacer that fills the air next to a layer, mm, over the same hole."""
    return Layer(
        key="spacer",
        kind="spacer",
        name="spacer",
        material="steel",
        thickness_mm=round(air_mm, 1),
        outer_mm=round(LOOSE_OUTER["spacer"] * layer.hole_mm, 1),
        hole_mm=layer.hole_mm,
    )


def joined(joint: Joint, plate: Plate, key: str) -> Joint:
    """The joint as one that holds a piece to the plate: the piece is a layer next to it.

    A tab of the bike that a starting point brings is left out. Raises InputError for a piece that
    the plate does not have.
    """
    pieces = {p.key: p for p in plate.pieces}
    choose("joins", key, pieces, "piece of this plate")
    layer = layer_of_piece(joint, pieces[key], plate.sheet(key))
    above = pieces[key].z_mm >= plate.belly.z_front_mm
    joint = replace(joint, layers=tuple(x for x in joint.layers if x.kind != "panel" or x.piece))
    return replace(beside(joint, layer, above=above), joins=key, mount="")
