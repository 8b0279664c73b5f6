"""Commands on a plate of several pieces: a piece into a screw's stack, which set of holes."""

from __future__ import annotations

from dataclasses import replace

from rugged_shield.core.errors import InputError, choose
from rugged_shield.core.fitup.joint import Joint
from rugged_shield.core.job.edits.joints import joint_of
from rugged_shield.core.job.edits.path import Change, set_item
from rugged_shield.core.job.edits.plates import plate_path
from rugged_shield.core.job.edits.stacks import beside, joined, layer_of_piece
from rugged_shield.core.job.model import Candidate, Job, place_of
from rugged_shield.core.survey.bike import Bike
from rugged_shield.core.survey.geometry import fold, sheets_over
from rugged_shield.core.survey.plate import Piece


def _with_sheet(bike: Bike, candidate: Candidate, joint: Joint, piece: Piece) -> Joint:
    """The joint with a piece in its stack: above or below the plate, or instead of it."""
    place = place_of(bike, joint)
    if place is None and piece.key == joint.joins:
        return joined(joint, candidate.plate, piece.key)
    over = {} if place is None else sheets_over(fold(candidate.plate), *place)
    if piece.key not in over:
        raise InputError(
            "piece", piece.name, "a piece that lies at this joint", "it does not reach this screw"
        )
    layer = layer_of_piece(joint, piece, candidate.plate.sheet(piece.key))
    if joint.clamps_plate and "" not in over:
        # its layer was taken for the plate's, which is not here
        layers = tuple(
            replace(layer, key=own.key, outer_mm=own.outer_mm, hole_mm=own.hole_mm)
            if own.kind == "plate" and not own.piece
            else own
            for own in joint.layers
        )
        return replace(joint, layers=layers)
    return beside(joint, layer, above=over[piece.key] >= over.get("", over[piece.key]))


def stack_piece(job: Job, plate: str, joint: str, piece: str) -> Change:
    """A further piece of the plate becomes a layer of a joint's stack, on its side of the plate.

    The screw is chosen anew; a stud is as long as it stands. Raises InputError where the piece
    does not lie at the joint, or is a layer of it already.
    """
    candidate = job.as_entered(plate)
    own = joint_of(candidate, joint)
    pieces = {p.key: p for p in candidate.plate.pieces}
    choose("piece", piece, pieces, "piece of this plate")
    if piece in own.sheets:
        raise InputError("piece", pieces[piece].name, "a piece that is no layer of it yet")
    stacked = _with_sheet(job.bike, candidate, own, pieces[piece])
    if not own.is_stud:
        stacked = replace(stacked, length_mm=None)
    words = f"joint {own.number} goes through the {pieces[piece].name} too"
    return set_item(job, f"{plate_path(job, plate)}.joints", stacked, words)


def choose_hole_set(job: Job, plate: str, name: str) -> Change:
    """Use one of a plate's sets of holes; empty: none is chosen, all joints are shown."""
    candidate = job.as_entered(plate)
    if name:
        choose("hole_set", name, candidate.hole_sets, "set of holes of this plate")
    words = f"holes “{name}” are used" if name else "no set of holes is chosen"
    return Change(job.with_candidate(replace(candidate, hole_set=name)), words)
