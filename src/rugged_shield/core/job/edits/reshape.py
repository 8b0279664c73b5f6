"""What a change makes of a plate without cutting it: a bend, a side, spacers, shorter sleeves."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import TypeVar

from rugged_shield.core.amounts import entered
from rugged_shield.core.errors import InputError, choose
from rugged_shield.core.fitup.layer import Layer
from rugged_shield.core.fitup.modification import Altered
from rugged_shield.core.job.edits.asked import Made, Modify, named, number
from rugged_shield.core.job.edits.joints import NewLayer, layer_of, place_after
from rugged_shield.core.job.edits.path import rebuilt
from rugged_shield.core.job.model import Candidate, Job
from rugged_shield.core.mechanics.frames import Vec2
from rugged_shield.core.survey.plate import EDGES, Cutout, Piece, Plate, Trim

_OnPanel = TypeVar("_OnPanel", Cutout, Trim)
WINGS = ("wing left", "wing right")
_MIRRORED = {"wing left": "wing right", "wing right": "wing left"}


def _at_joints(candidate: Candidate, asked: Modify) -> list[int]:
    """Where the joints that were named stand among the plate's."""
    if not asked.joints:
        raise InputError("joints", "", "one joint or more", "say at which joints")
    known = [j.key for j in candidate.joints]
    for wanted in asked.joints:
        choose("joints", wanted, known, "joint of this plate")
    return [known.index(wanted) for wanted in dict.fromkeys(asked.joints)]


def _where(candidate: Candidate, places: list[int]) -> str:
    numbers = ", ".join(str(candidate.joints[at].number) for at in sorted(places))
    return f"joint{'s' if len(places) > 1 else ''} {numbers}"


def spacer(job: Job, candidate: Candidate, asked: Modify) -> Made:
    """A spacer behind the plate at the joints named; their screws are chosen anew."""
    del job
    thick = number(asked.thick_mm, "thick_mm")
    keys, altered, joints = [], [], list(candidate.joints)
    places = _at_joints(candidate, asked)
    for at in places:
        joint = joints[at]
        layer = layer_of(joint, NewLayer("spacer", "steel", thick))
        place = place_after(joint, "")
        layers = (*joint.layers[:place], layer, *joint.layers[place:])
        length_mm = joint.length_mm if joint.is_stud else None
        joints[at] = replace(joint, layers=layers, length_mm=length_mm)
        keys.append(f"{joint.key}/{layer.key}")
        if joint.length_mm != length_mm:
            altered.append(Altered(f"joints.{joint.key}.length_mm", joint.length_mm, None))
    made = named(
        "spacer",
        where=_where(candidate, places),
        wide_mm=thick,
        made=tuple(keys),
        altered=tuple(altered),
    )
    return Made(replace(candidate, joints=tuple(joints)), made)


def sleeve_of(layers: tuple[Layer, ...]) -> Layer | None:
    """The sleeve that stands in a stack."""
    return next((k for k in layers if k.kind == "sleeve" and not k.left_out), None)


def sleeve_cut(job: Job, candidate: Candidate, asked: Modify) -> Made:
    """The sleeves at the joints named are cut to a length."""
    del job
    if not asked.joints and asked.what.strip():
        return Made(candidate, named("sleeve cut", what=" ".join(asked.what.split())))
    length = number(asked.thick_mm, "thick_mm")
    places = _at_joints(candidate, asked)
    altered = []
    for at in places:
        joint = candidate.joints[at]
        sleeve = sleeve_of(joint.layers)
        if sleeve is None:
            raise InputError(
                "joints", joint.name, "joints with a sleeve", "there is no sleeve here"
            )
        if length >= sleeve.thickness_mm:
            raise InputError(
                "thick_mm",
                entered(length, "mm"),
                f"less than {entered(sleeve.thickness_mm, 'mm')}",
                f"the sleeve of joint {joint.number} is no longer than that",
            )
        path = f"joints.{joint.key}.layers.{sleeve.key}.thickness_mm"
        altered.append(Altered(path, sleeve.thickness_mm, length))
    where = _where(candidate, places)
    made = named("sleeve cut", where=where, wide_mm=length, altered=tuple(altered))
    return Made(with_altered(candidate, made.altered), made)


def with_altered(candidate: Candidate, altered: tuple[Altered, ...]) -> Candidate:
    """The candidate with a change's numbers in place."""
    for one in altered:
        candidate = rebuilt(candidate, one.path.split("."), one.became, one.path)
    return candidate


def without_altered(candidate: Candidate, altered: tuple[Altered, ...]) -> Candidate:
    """The candidate with the numbers back that a change found.

    A number that somebody has changed since stays; one that was to be chosen anew goes back to
    the choice before. What is no longer there is left alone.
    """
    for one in altered:
        names = one.path.split(".")
        owner = _owner(candidate, names[:-1])
        if owner is not None and (one.became is None or getattr(owner, names[-1]) == one.became):
            candidate = rebuilt(candidate, names, one.was, one.path)
    return candidate


def _owner(candidate: Candidate, names: list[str]) -> object | None:
    """The part of a candidate at a path; None where it is no longer there."""
    owner: object | None = candidate
    for name in names:
        if isinstance(owner, tuple):
            owner = next((item for item in owner if item.key == name), None)
        else:
            owner = getattr(owner, name, None)
    return owner


def folds_of(plate: Plate) -> dict[str, tuple[str, float]]:
    """Every fold that can be bent on: by panel, the path of its number and its angle, degrees."""
    found: dict[str, tuple[str, float]] = {}
    if plate.apron is not None:
        found["apron"] = ("plate.apron.rise_deg", plate.apron.rise_deg)
    if plate.tail is not None:
        angle = math.degrees(math.asin(plate.tail.rise_mm / plate.tail.length_mm))
        found["tail"] = ("plate.tail.rise_mm", angle)
    for name, wing in zip(WINGS, (plate.wing_left, plate.wing_right), strict=True):
        if wing is not None:
            found[name] = (f"plate.{name.replace(' ', '_')}.dihedral_deg", wing.dihedral_deg)
    for piece in plate.pieces:
        for edge in EDGES:
            bend = piece.bend(edge)
            if bend is not None:
                path = f"plate.pieces.{piece.key}.{edge}_bend_angle_deg"
                found[f"{piece.key} {edge}"] = (path, bend[1])
    return found


def bend(job: Job, candidate: Candidate, asked: Modify) -> Made:
    """A fold is bent on; its panel turns about the fold, the flat sheet stays what it is."""
    del job
    if not asked.panel and asked.what.strip():
        return Made(candidate, named("bend", what=" ".join(asked.what.split())))
    plate, folds = candidate.plate, folds_of(candidate.plate)
    choose("panel", asked.panel, folds, "fold of this plate")
    turn = number(asked.turn_deg, "turn_deg")
    if turn == 0.0:
        raise InputError("turn_deg", "0", "degrees, up above zero, down below", "nothing is bent")
    path, angle = folds[asked.panel]
    was, became = angle, angle + turn
    if asked.panel == "tail" and plate.tail is not None:
        was = plate.tail.rise_mm
        became = plate.tail.length_mm * math.sin(math.radians(angle + turn))
    altered = (Altered(path, was, became),)
    made = named("bend", where=asked.panel, turn_deg=turn, altered=altered)
    return Made(with_altered(candidate, altered), made)


def sides_of(plate: Plate) -> dict[str, str]:
    """What can change sides, by key with its name: pieces, and wings that are screwed on."""
    wings = zip(WINGS, (plate.wing_left, plate.wing_right), strict=True)
    found = {name: name for name, wing in wings if wing is not None and wing.own_screws}
    return found | {piece.key: piece.name for piece in plate.pieces}


def other_side(job: Job, candidate: Candidate, asked: Modify) -> Made:
    """A screwed-on wing or a piece goes to the other side of the bike, turned over."""
    del job
    if not asked.panel and asked.what.strip():
        return Made(candidate, named("other side", what=" ".join(asked.what.split())))
    sides = sides_of(candidate.plate)
    choose("panel", asked.panel, sides, "side panel with screws of its own, or piece")
    made = named("other side", where=sides[asked.panel], made=(asked.panel,))
    return Made(with_sides_changed(candidate, asked.panel), made)


def with_sides_changed(candidate: Candidate, key: str) -> Candidate:
    """The candidate with a panel on the other side; done twice it is as it was.

    A piece that is no longer there stays away.
    """
    plate = candidate.plate
    if key in WINGS:
        swapped = replace(
            plate,
            wing_left=plate.wing_right,
            wing_right=plate.wing_left,
            cutouts=tuple(_on_other_wing(c) for c in plate.cutouts),
            trims=tuple(_on_other_wing(t) for t in plate.trims),
        )
        return replace(candidate, plate=swapped)
    piece = next((p for p in plate.pieces if p.key == key), None)
    if piece is None:
        return candidate
    turned = replace(
        plate,
        pieces=tuple(_turned_over(p) if p.key == key else p for p in plate.pieces),
        cutouts=tuple(_cutout_turned(c, piece) for c in plate.cutouts),
        trims=tuple(_trim_turned(t, piece) for t in plate.trims),
    )
    return replace(candidate, plate=turned)


def _on_other_wing(item: _OnPanel) -> _OnPanel:
    return replace(item, panel=_MIRRORED.get(item.panel, item.panel))


def _turned_over(piece: Piece) -> Piece:
    """Mirrored about the bike's middle; what was bent up is then bent down."""
    return replace(
        piece,
        y_mm=-piece.y_mm,
        roll_deg=-piece.roll_deg,
        points_mm=tuple((u, -v) for u, v in reversed(piece.points_mm)),
        front_bend_angle_deg=-piece.front_bend_angle_deg,
        rear_bend_angle_deg=-piece.rear_bend_angle_deg,
        left_bend_mm=piece.right_bend_mm,
        left_bend_angle_deg=-piece.right_bend_angle_deg,
        right_bend_mm=piece.left_bend_mm,
        right_bend_angle_deg=-piece.left_bend_angle_deg,
    )


def _panel_turned(panel: str, piece: Piece) -> tuple[str, Vec2, Vec2] | None:
    """Where a panel's own u, v go when its piece is turned over: name, start, and signs.

    None for a panel of another piece. The flat one runs to the right and is mirrored across; a
    strip at front or rear runs along its edge the other way; one at a side changes sides whole.
    """
    if panel not in piece.panel_names:
        return None
    edge = panel.removeprefix(piece.key).strip()
    if edge == "":
        return panel, (0.0, 0.0), (1.0, -1.0)
    if edge in ("front", "rear"):
        length = piece.front_width_mm if edge == "front" else piece.rear_width_mm
        return panel, (length, 0.0), (-1.0, 1.0)
    return f"{piece.key} {'right' if edge == 'left' else 'left'}", (0.0, 0.0), (1.0, 1.0)


def _cutout_turned(cutout: Cutout, piece: Piece) -> Cutout:
    turned = _panel_turned(cutout.panel, piece)
    if turned is None:
        return cutout
    panel, start, (along, across) = turned
    return replace(
        cutout,
        panel=panel,
        u_mm=start[0] + along * cutout.u_mm,
        v_mm=start[1] + across * cutout.v_mm,
        points_mm=tuple((along * a, across * b) for a, b in cutout.points_mm),
    )


def _trim_turned(trim: Trim, piece: Piece) -> Trim:
    turned = _panel_turned(trim.panel, piece)
    if turned is None:
        return trim
    panel, start, (along, across) = turned
    points = tuple((start[0] + along * u, start[1] + across * v) for u, v in trim.points_mm)
    return replace(trim, panel=panel, points_mm=points)
