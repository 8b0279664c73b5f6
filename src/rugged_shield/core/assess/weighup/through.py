"""What a plate's sheet hangs on where another piece lies between it and the bike.

A sub-plate is condensed to its joints with the sheet and its own mounts: to the sheet it is a
spring at each of those joints, and it puts what they carry on its mounts.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from rugged_shield.core.errors import InputError
from rugged_shield.core.job.model import MountedJoint
from rugged_shield.core.mechanics.frames import Vec3
from rugged_shield.core.shell.elements import Array
from rugged_shield.core.shell.superelement import (
    ARM_MM,
    DISC_RADIUS_MM,
    Hold,
    carried,
    condensed,
    dropped,
)
from rugged_shield.core.survey.geometry import FoldedPlate, piece_alone, sheet_normal_point
from rugged_shield.core.survey.plate import Plate
from rugged_shield.core.tables.materials import SHEET_MATERIALS
from rugged_shield.core.weighup.far_mounts import FarMounts, Passed, Six, passed_of, six_of
from rugged_shield.core.weighup.mount_law import MountLaw
from rugged_shield.core.weighup.strike_linear import shell_panels

MESH_MM = 16.0
_LOOSE = 1e-9
_ROUNDS = 200
_STEP = 0.7
_LEAST_SHARE = 1e-3
"""Of its stiffness with all others held, a joint keeps so much at least."""

Springs = Callable[[MountedJoint], tuple[float, float, float]]
"""Stiffness of a joint along its screw and across it, N/mm, and against turning, N·mm/rad."""
Law = Callable[[MountedJoint, str, Vec3], MountLaw]
"""What a joint bears, under a name, its sheet's normal into the bike."""


@dataclass(frozen=True)
class Through:
    """One bearing piece: its joints with the sheet and its mounts, each by number in the joints.

    ``places``: of each mount, with the piece's normal there. ``springs``: at each joint along x,
    y, z, N/mm, and about an axis across its screw, N·mm/rad. ``carried[b][m]``: six on mount b for
    a unit force and a unit moment at joint m along and about each axis.
    """

    above: tuple[int, ...]
    below: tuple[int, ...]
    places: tuple[tuple[Vec3, Vec3], ...]
    springs: tuple[Six, ...]
    carried: tuple[tuple[Passed, ...], ...]


def _on_piece(folded: FoldedPlate, at: MountedJoint, piece: str) -> tuple[Vec3, Vec3]:
    """Where a joint meets a piece, and its normal there, into the bike.

    Raises InputError where the piece does not lie.
    """
    found = sheet_normal_point(piece_alone(folded, piece), at.x_mm, at.y_mm, with_pieces=True)
    if found is None:
        raise InputError(
            f"joints.{at.joint.key}",
            at.joint.number,
            "a joint on the piece that it holds",
            f"joint {at.joint.number} is not on the piece that it holds: correct its place",
        )
    return found


def _mount_springs(at: MountedJoint, normal: Array, springs: Springs) -> Array:
    """A mount's six springs along and about the axes of the bike."""
    along, across, turning = springs(at)
    share = normal**2
    return np.array([*(share * along + (1 - share) * across), turning, turning, turning])


def _condensed(
    plate: Plate, folded: FoldedPlate, piece: str, at_mm: list[Vec3]
) -> tuple[Array, list[Array]]:
    """A sheet's stiffness on its own freedoms, and how each place over a disc moves with them."""
    panels = shell_panels(folded, piece)
    thickness, material = plate.sheet(piece)
    sheet = SHEET_MATERIALS[material]
    whole = condensed(
        panels,
        tuple(Hold(dropped(panels, at, f"pieces.{piece}"), disc=True) for at in at_mm),
        thickness_mm=thickness,
        youngs_modulus_mpa=sheet.youngs_modulus_gpa * 1000.0,
        poisson=sheet.poisson_ratio,
        mesh_mm=MESH_MM,
    )
    moves = [
        carried(np.array(at) - centre) @ move
        for at, centre, move in zip(at_mm, whole.centres, whole.moves, strict=True)
    ]
    return whole.stiffness, moves


def _on_its_own(stiffness: Array, name: str) -> None:
    sizes = np.linalg.svd(stiffness, compute_uv=False)
    if sizes[-1] < _LOOSE * sizes[0]:
        raise InputError(
            "mounts",
            name,
            "three mounts or more, not in one line",
            f"the {name} can turn or slide as a whole on its own mounts",
        )


def _check_apart(joints: list[MountedJoint]) -> None:
    """Two joints under one washer are one to the sheet."""
    for a, b in itertools.combinations(joints, 2):
        if math.hypot(a.x_mm - b.x_mm, a.y_mm - b.y_mm) <= 2 * DISC_RADIUS_MM:
            raise InputError(
                f"joints.{b.joint.key}",
                b.joint.number,
                f"a joint more than {2 * DISC_RADIUS_MM:g} mm from another",
                f"joints {a.joint.number} and {b.joint.number} stand at one place",
            )


def alone_as_together(sheet: Array, behind_it: Array) -> Array:
    """Springs, one for each freedom, with which each gives as it does in the assembly, (n,).

    ``sheet`` and ``behind_it`` (n, n): stiffness of the sheet and of what it hangs on at the same
    freedoms. Between the freedoms nothing is coupled any more: that is what is left out.
    """
    aim = np.diag(np.linalg.inv(sheet + behind_it))
    springs = np.diag(behind_it).copy()
    least = _LEAST_SHARE * springs
    for _ in range(_ROUNDS):
        gives = np.diag(np.linalg.inv(sheet + np.diag(springs)))
        springs = np.maximum(springs + _STEP * (1 / aim - 1 / gives), least)
    return np.asarray(springs)


def _as_springs(sheet: Array, moves: list[Array], gives: Array, normals: list[Vec3]) -> list[Six]:
    """Each joint's springs along the axes, and one against turning across its screw."""
    count = len(moves)
    scale = np.tile([1.0] * 3 + [1 / ARM_MM] * 3, count)
    own = np.linalg.inv(np.vstack(moves))
    at_joints = own.T @ sheet @ own * np.outer(scale, scale)
    behind_it = np.asarray(np.linalg.inv(gives) * np.outer(scale, scale), dtype=np.float64)
    found = (alone_as_together(at_joints, behind_it) / scale**2).reshape(count, 6)
    out = []
    for six, normal in zip(found, normals, strict=True):
        across = 1 - np.array(normal) ** 2
        turning = float((six[3:] * across).sum() / across.sum())
        out.append(six_of([*six[:3].tolist(), turning, turning, turning]))
    return out


def through_piece(
    plate: Plate,
    folded: FoldedPlate,
    joints: tuple[MountedJoint, ...],
    piece: str,
    springs: Springs,
) -> Through:
    """A bearing piece condensed to its joints with the sheet and to its mounts.

    Raises InputError where a joint is off it, or it can move as a whole on its mounts.
    """
    above = [i for i, at in enumerate(joints) if at.is_in_sheet and at.joint.joins == piece]
    below = [
        i
        for i, at in enumerate(joints)
        if at.joint.is_to_bike and piece in at.joint.sheets and not at.joint.clamps_plate
    ]
    places = [_on_piece(folded, joints[i], piece) for i in (*above, *below)]
    own, moves = _condensed(plate, folded, piece, [at for at, _ in places])
    stiffness = own.copy()
    on_bike = tuple(places[len(above) :])
    held = []
    for i, (_, normal), move in zip(below, on_bike, moves[len(above) :], strict=True):
        six = _mount_springs(joints[i], np.array(normal), springs)
        held.append(six[:, None] * move)
        stiffness += move.T @ held[-1]
    _on_its_own(stiffness, next(p.name for p in plate.pieces if p.key == piece))
    pushed = np.vstack(moves[: len(above)])
    _check_apart([joints[i] for i in above])
    shifts = np.linalg.solve(stiffness, pushed.T)
    over = [_on_piece(folded, joints[i], "") for i in above]
    sheet, sheet_moves = _condensed(plate, folded, "", [at for at, _ in over])
    return Through(
        tuple(above),
        tuple(below),
        on_bike,
        tuple(_as_springs(sheet, sheet_moves, pushed @ shifts, [n for _, n in over])),
        tuple(_passed(load @ shifts, len(above)) for load in held),
    )


def _passed(on_mount: Array, count: int) -> tuple[Passed, ...]:
    """Six on a mount (6, 6 m) as a table by joint, one row for each axis of its load."""
    rows = on_mount.T.reshape(count, 6, 6).tolist()
    return tuple(passed_of([six_of(row) for row in joint]) for joint in rows)


def behind(
    joints: tuple[MountedJoint, ...],
    numbers: tuple[int, ...],
    pieces: tuple[Through, ...],
    law: Law,
) -> FarMounts:
    """Mounts behind the sheet's own, which stand for the joints of these ``numbers``."""
    none = passed_of([six_of([0.0] * 6)] * 6)
    laws, places, table = [], [], []
    through: set[int] = set()
    for piece in pieces:
        for b, (point, inward), row in zip(piece.below, piece.places, piece.carried, strict=True):
            at = joints[b]
            laws.append(law(at, f"joint {at.joint.number}", inward))
            places.append(point)
            shares = dict(zip(piece.above, row, strict=True))
            table.append(tuple(shares.get(i, none) for i in numbers))
            if laws[-1].casting:
                through |= {numbers.index(i) for i in piece.above if i in numbers}
    return FarMounts(
        laws=tuple(laws),
        at_mm=tuple(places),
        carried=tuple(table),
        through=tuple(sorted(through)),
    )
