"""Parts put on a plate with their joints in one go, by what they hold: guards, a sub-plate.

Sizes follow the plate and the mounts; whatever nobody entered is assumed until it is measured.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Literal

from rugged_shield.core.errors import InputError, choose
from rugged_shield.core.fitup.joint import BENCH, Joint, Stage
from rugged_shield.core.fitup.layer import Layer
from rugged_shield.core.fitup.presets import PresetRequest, joint_from_preset
from rugged_shield.core.job.edits.keys import Spent, free_key
from rugged_shield.core.job.edits.path import Change
from rugged_shield.core.job.edits.stacks import (
    LEAST_SPACER_MM,
    joined,
    layer_of_piece,
    spacer_beside,
)
from rugged_shield.core.job.model import Candidate, Job
from rugged_shield.core.mechanics import threads
from rugged_shield.core.survey.bike import Mount
from rugged_shield.core.survey.geometry import fold, piece_alone, sheet_normal_point, sheets_over
from rugged_shield.core.survey.plate import Piece, Plate
from rugged_shield.core.tables.materials import SHEET_MATERIALS

PARTS: dict[str, str] = {
    "sub-plate": "Between plate and bike: these mounts hold it, and it holds the plate",
    "side guard": "Hangs on the plate's edge, put on at the bench",
}
"""What can be put on in one go, and what it holds."""
SIDES = ("left", "right", "both")
Side = Literal["left", "right"]
LEAST_MOUNTS = 3
GUARD_THICK_MM, SUB_THICK_MM = 3.0, 6.0
"""Usual sheet of each, taken until it is entered; workshop practice, low confidence."""
LOW_HEAD = "ISO 7380-1"
_RIM_MM = 25.0
_FLANGE_MM = 40.0
_GUARD_UP_MM = 90.0
_GUARD_ANGLE_DEG = 60.0
_CLEAR_MM = 30.0
_ACROSS_SHARES = (0.6, 0.45, 0.75, 0.3)


@dataclass(frozen=True, kw_only=True)
class NewPart:
    """A part to put on: what it is, of what, how thick (mm; None: not known), by which screws."""

    preset: str
    mounts: tuple[str, ...] = ()
    side: str = "both"
    material: str = ""
    thickness_mm: float | None = None
    thread: str = "M8"


def add_part(job: Job, plate: str, asked: NewPart, spent: Spent) -> Change:
    """A part with all its joints on a plate; left and right in one go.

    Raises InputError for a part, mount, side or material that is not there, and where the plate
    leaves no room for its screws.
    """
    choose("preset", asked.preset, PARTS, "part")
    if asked.material:
        choose("material", asked.material, SHEET_MATERIALS, "sheet material")
    candidate = job.as_entered(plate)
    if asked.preset == "sub-plate":
        made, words = _with_sub_plate(job, candidate, asked, spent)
    else:
        choose("side", asked.side, SIDES, "side")
        made, words = _with_guards(candidate, asked, spent)
    return Change(job.with_candidate(made), words)


def _material(plate: Plate, asked: NewPart) -> str:
    return asked.material or plate.material


class _Numbers:
    """Free keys and numbers for the joints of a plate, one after another."""

    def __init__(self, joints: tuple[Joint, ...], spent: Spent) -> None:
        self._keys = {*spent, *(j.key for j in joints)}
        self._numbers = {j.number for j in joints}

    def next(self) -> tuple[str, int]:
        """A key and a number that nothing has; InputError when all numbers are taken."""
        number = next((n for n in range(1, 100) if n not in self._numbers), None)
        if number is None:
            raise InputError("joints", len(self._numbers), "at most 99")
        key = free_key("own", self._keys)
        self._keys.add(key)
        self._numbers.add(number)
        return key, number


def _started(plate: Plate, preset: str, thread: str, stage: Stage, numbers: _Numbers) -> Joint:
    key, number = numbers.next()
    started = joint_from_preset(
        PresetRequest(
            preset=preset,
            key=key,
            number=number,
            thread=thread,
            plate_thickness_mm=plate.thickness_mm,
            plate_material=plate.material,
            x_mm=0.0,
            y_mm=0.0,
            stage=stage,
        )
    )
    return replace(started, length_mm=None, known="assumed", proposed=True)


def _assumed(layers: tuple[Layer, ...], asked: NewPart) -> tuple[Layer, ...]:
    """Layers that nobody measured; of the part's own sheet its thickness may have been entered."""
    return tuple(
        x
        if x.clamps_plate or (x.piece and asked.thickness_mm is not None)
        else replace(x, known="assumed")
        for x in layers
    )


def _to_plate(
    plate: Plate, piece: Piece, asked: NewPart, stage: Stage, at: tuple[float, float], new: _Numbers
) -> Joint:
    """A screw with its nut that holds a piece to the plate, at a place."""
    held = joined(_started(plate, "through nut", asked.thread, stage, new), plate, piece.key)
    over = sheets_over(fold(plate), *at)
    if {"", piece.key} <= set(over):
        held = _filled(held, over[piece.key] - over[""] - plate.thickness_mm)
    name = f"{piece.name} to the plate"
    return replace(held, name=name, x_mm=at[0], y_mm=at[1], layers=_assumed(held.layers, asked))


def _filled(joint: Joint, air_mm: float) -> Joint:
    """The joint with a spacer where its two sheets stand apart."""
    if air_mm <= LEAST_SPACER_MM:
        return joint
    at = next(i for i, x in enumerate(joint.layers) if x.piece)
    spacer = spacer_beside(joint.layers[at], air_mm)
    return replace(joint, layers=(*joint.layers[:at], spacer, *joint.layers[at:]))


def _guard(plate: Plate, side: Side, asked: NewPart, key: str) -> Piece:
    """A strip along the belly's edge with its outer side turned up."""
    belly, sign = plate.belly, -1.0 if side == "left" else 1.0
    half = min(belly.front_width_mm, belly.rear_width_mm) / 2
    flat = Piece(
        key=key,
        name=f"side guard, {side}",
        order=plate.next_turn,
        x_mm=round(belly.start_x_mm + 0.2 * belly.length_mm, 1),
        y_mm=round(sign * (half - _FLANGE_MM / 2), 1),
        z_mm=round(belly.z_front_mm + plate.thickness_mm, 1),
        length_mm=round(0.6 * belly.length_mm, 1),
        front_width_mm=_FLANGE_MM,
        rear_width_mm=_FLANGE_MM,
        thickness_mm=asked.thickness_mm or GUARD_THICK_MM,
        put_on=True,
        material=_material(plate, asked),
    )
    if side == "left":
        return replace(flat, left_bend_mm=_GUARD_UP_MM, left_bend_angle_deg=_GUARD_ANGLE_DEG)
    return replace(flat, right_bend_mm=_GUARD_UP_MM, right_bend_angle_deg=_GUARD_ANGLE_DEG)


def _with_guards(candidate: Candidate, asked: NewPart, spent: Spent) -> tuple[Candidate, str]:
    sides: tuple[Side, ...] = ("left", "right")
    wanted = [s for s in sides if asked.side in (s, "both")]
    plate, joints = candidate.plate, list(candidate.joints)
    new = _Numbers(candidate.joints, spent)
    for side in wanted:
        key = free_key(f"guard-{side}", {p.key for p in plate.pieces})
        piece = _guard(plate, side, asked, key)
        plate = replace(plate, pieces=(*plate.pieces, piece))
        for share in (0.25, 0.75):
            at = (piece.x_mm + share * piece.length_mm, piece.y_mm)
            made = _to_plate(plate, piece, asked, BENCH, at, new)
            joints.append(replace(made, side=side))
    words = f"side guard {' and '.join(wanted)} with {2 * len(wanted)} joints put on at the bench"
    return replace(candidate, plate=plate, joints=tuple(joints)), words


def _mounts(job: Job, keys: tuple[str, ...]) -> list[Mount]:
    known = {m.key: m for m in job.bike.mounts}
    for key in keys:
        choose("mounts", key, known, "mount of this bike")
    if len(set(keys)) < LEAST_MOUNTS:
        raise InputError(
            "mounts", len(set(keys)), f"{LEAST_MOUNTS} or more", "a sub-plate hangs on three mounts"
        )
    return [known[key] for key in dict.fromkeys(keys)]


def _sub_plate(plate: Plate, mounts: list[Mount], asked: NewPart, key: str) -> Piece:
    """A sheet under the mounts' faces, as wide as they stand, never lower than on the plate."""
    xs = [m.x_mm for m in mounts]
    thick = asked.thickness_mm or SUB_THICK_MM
    middle = (min(xs) + max(xs)) / 2

    def width(half: list[Mount]) -> float:
        return round(2 * (max(abs(m.y_mm) for m in half or mounts) + _RIM_MM), 1)

    lowest = plate.belly.z_front_mm + plate.thickness_mm
    return Piece(
        key=key,
        name="sub-plate",
        order=min([0, *(p.order for p in plate.pieces)]) - 1,
        x_mm=round(min(xs) - _RIM_MM, 1),
        y_mm=0.0,
        z_mm=round(max(lowest, min(m.z_mm for m in mounts) - thick), 1),
        length_mm=round(max(xs) - min(xs) + 2 * _RIM_MM, 1),
        front_width_mm=width([m for m in mounts if m.x_mm <= middle]),
        rear_width_mm=width([m for m in mounts if m.x_mm > middle]),
        thickness_mm=thick,
        put_on=True,
        material=_material(plate, asked),
    )


def _on_mount(plate: Plate, piece: Piece, mount: Mount, asked: NewPart, new: _Numbers) -> Joint:
    """A screw that holds the sub-plate to a mount, with a spacer where there is air."""
    started = _started(plate, "tapped boss", mount.thread, "stiff", new)
    if not threads.is_inch(mount.thread):
        # A low head, and nothing under it: the plate comes close below.
        flat = tuple(x for x in started.layers if x.kind != "washer")
        started = replace(started, head=LOW_HEAD, layers=flat)
    sheet = layer_of_piece(started, piece, plate.sheet(piece.key))
    layers = tuple(sheet if x.kind == "plate" else x for x in started.layers)
    air = mount.z_mm - piece.z_mm - sheet.thickness_mm
    if air > LEAST_SPACER_MM:
        layers = (*layers, spacer_beside(sheet, air))
    return replace(
        started,
        mount=mount.key,
        name=f"sub-plate, {mount.name}",
        layers=_assumed(layers, asked),
        female=None,
        female_material="",
        x_mm=None,
        y_mm=None,
    )


def _room(plate: Plate, piece: Piece, mounts: list[Mount]) -> Iterator[tuple[float, float]]:
    """Four places of both sheets, in two rows, away from the mounts' screws and from openings."""
    both = fold(plate)
    own = [piece_alone(both, key) for key in ("", piece.key)]

    def free(at: tuple[float, float]) -> bool:
        apart = min(math.hypot(at[0] - m.x_mm, at[1] - m.y_mm) for m in mounts)
        there = all(sheet_normal_point(f, *at, with_pieces=True) is not None for f in own)
        return there and apart >= _CLEAR_MM

    half = min(piece.front_width_mm, piece.rear_width_mm) / 2
    for shares, sign in itertools.product(((0.3, 0.2, 0.4), (0.7, 0.8, 0.6)), (-1.0, 1.0)):
        places = (
            (round(piece.x_mm + s * piece.length_mm, 1), round(sign * a * half, 1))
            for s, a in itertools.product(shares, _ACROSS_SHARES)
        )
        found = next((at for at in places if free(at)), None)
        if found is None:
            raise InputError(
                "mounts",
                len(mounts),
                "mounts that leave room for four screws between sub-plate and plate",
                "sub-plate and plate share no room for their screws",
            )
        yield found


def _with_sub_plate(
    job: Job, candidate: Candidate, asked: NewPart, spent: Spent
) -> tuple[Candidate, str]:
    mounts, plate = _mounts(job, asked.mounts), candidate.plate
    piece = _sub_plate(plate, mounts, asked, free_key("sub", {p.key for p in plate.pieces}))
    plate = replace(plate, pieces=(piece, *plate.pieces))
    taken = {m.key for m in mounts}
    kept = tuple(j for j in candidate.joints if j.mount not in taken)
    new = _Numbers(candidate.joints, spent)
    below = [_on_mount(plate, piece, m, asked, new) for m in mounts]
    above = [_to_plate(plate, piece, asked, "stiff", at, new) for at in _room(plate, piece, mounts)]
    made = replace(candidate, plate=plate, joints=(*kept, *below, *above))
    gone = len(candidate.joints) - len(kept)
    left = f"; {gone} joints of the plate on these mounts taken out" if gone else ""
    words = f"sub-plate on {len(mounts)} mounts with {len(below) + len(above)} joints put in{left}"
    return made, words
