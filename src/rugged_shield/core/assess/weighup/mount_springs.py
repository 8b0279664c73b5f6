"""A plate of a job as a shell on springs: every joint that clamps it is a mount with its law."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from rugged_shield.core.assess.fitup.joints import assess_joint
from rugged_shield.core.assess.fitup.supports import plate_supports
from rugged_shield.core.assess.weighup.through import Through, behind, through_piece
from rugged_shield.core.fitup.joint import Joint, female_of
from rugged_shield.core.fitup.layer import Layer
from rugged_shield.core.fitup.seat import seat_of
from rugged_shield.core.job.model import MountedJoint
from rugged_shield.core.mechanics import strip, threads
from rugged_shield.core.mechanics.frames import Vec3
from rugged_shield.core.shell.solve import ShellMount
from rugged_shield.core.survey.bike import Mount
from rugged_shield.core.survey.geometry import FoldedPlate, fold, sheet_normal_point
from rugged_shield.core.survey.plate import Plate
from rugged_shield.core.tables.materials import SHEET_MATERIALS
from rugged_shield.core.tables.springs import (
    BOTTOMS_AT_SHARE,
    MOUNT_SPRINGS,
    STRIP_STROKE_MM,
    TEARS_AT_STRAIN,
    bracket_spring,
    in_series,
    isolator_springs,
    strip_yield_n,
    tab_yield_nmm,
)
from rugged_shield.core.tables.thread_materials import THREAD_MATERIALS
from rugged_shield.core.weighup.far_mounts import NO_FAR_MOUNTS, FarMounts
from rugged_shield.core.weighup.mount_law import MountLaw

OWN_KIND = "frame tab"
"""What a joint at a place of its own is taken for: a steel tab."""
BOSS_DIAMETERS = 2.0
"""A boss or tab is about so many diameters of its screw across."""
SHEAR_SHARE = 0.6
_STEEL = "mild steel S235"


@dataclass(frozen=True)
class MountSupports:
    """A plate's mounts as springs, and the law of each, in one order; and what is behind them."""

    mounts: tuple[ShellMount, ...]
    laws: tuple[MountLaw, ...]
    far: FarMounts = NO_FAR_MOUNTS


def _bending(layer: Layer) -> float:
    """Stiffness along the screw of a strip or bracket that can bend, N/mm."""
    sheet = SHEET_MATERIALS.get(layer.material, SHEET_MATERIALS[_STEEL])
    return bracket_spring(
        sheet.youngs_modulus_gpa * 1000,
        layer.outer_mm,
        layer.thickness_mm,
        layer.span_mm or 0.0,
        guided=layer.kind == "strip",
    )


@dataclass(frozen=True)
class _Support:
    """Springs along x, y, z and along the screw, N/mm, and against turning, N·mm/rad."""

    springs: Vec3
    along: float
    turning: float


def joint_springs(joint: Joint, mount: Mount | None) -> tuple[float, float, float]:
    """Stiffness along the screw and across it, N/mm, and against turning, N·mm/rad.

    A stiffness that was entered for the joint or its mount stands before that of the kind, and
    one softer than that holds turning by as much less. Rubber, a strip or a soft bracket in the
    stack stands in series with the mount; rubber and strips give way to turning.
    """
    spring = MOUNT_SPRINGS[mount.kind if mount is not None else OWN_KIND]
    own, own_across = joint.spring_n_per_mm, None
    if mount is not None:
        own, own_across = own or mount.spring_n_per_mm, mount.spring_across_n_per_mm
    normal, across = own or spring.normal_n_per_mm, own_across or spring.in_plane_n_per_mm
    turning = spring.rotational_nmm_per_rad * min(1.0, normal / spring.normal_n_per_mm)
    for layer in joint.present():
        if layer.is_soft:
            pressed, sheared = isolator_springs(layer.outer_mm, layer.thickness_mm)
            normal, across = in_series(normal, pressed), in_series(across, sheared)
            turning = 0.0
        elif layer.can_bend:
            normal, turning = in_series(normal, _bending(layer)), 0.0
    return normal, across, turning


def _least(pairs: list[tuple[float, str]]) -> tuple[float | None, str]:
    return min(pairs) if pairs else (None, "")


def _pull(joint: Joint, mount: Mount | None) -> tuple[float | None, str]:
    """What a pull on the screw bears, N: its yield load, or the thread it is in."""
    geometry, grade = threads.geometry_of(joint.thread), threads.grade_of(joint.grade)
    limits = [(geometry.stress_area_mm2 * grade.rp02_mpa, "the screw yields")]
    seat = seat_of(joint, mount)
    if seat is not None:
        if seat.held_mm:
            area = strip.shear_areas(joint.thread).internal * seat.held_mm
            strips = area * THREAD_MATERIALS[seat.material].shear_strength_mpa
            limits.append((strips, "the stud pulls out of its thread"))
    elif not joint.nut:
        _, material = female_of(joint, mount)
        held = assess_joint(joint, mount).evaluation.engagement_effective_worst_mm
        if held > 0:
            area = strip.shear_areas(joint.thread).internal * held
            strips = area * THREAD_MATERIALS[material].shear_strength_mpa
            limits.append((strips, "the thread strips"))
    return _least(limits)


def _face_material(joint: Joint, mount: Mount | None) -> str:
    """What the stack lies on: of a stud the mount, not the nut on its free end."""
    if joint.is_stud and mount is not None:
        return mount.material
    return female_of(joint, mount)[1]


def _face(joint: Joint) -> tuple[Layer, float] | None:
    """The layer that lies on the bike's side, and how wide it lies there, mm; None: no layer."""
    layers = [x for x in joint.present() if x.kind != "strip" and not x.is_soft]
    if not layers:
        return None
    last = layers[0] if joint.is_stud else layers[-1]
    # A plate is far wider than the boss that it lies on.
    boss = BOSS_DIAMETERS * threads.row_of(joint.thread).d_mm
    return last, min(last.outer_mm, boss) if last.kind == "plate" else last.outer_mm


def _turn(joint: Joint, mount: Mount | None, pull_n: float | None) -> tuple[float | None, ...]:
    """Moments N·mm at which a mount yields to turning, and at which its screw is pried off.

    The screw is pried over the rim of its face; a tab bends for good before, M_p = σ b t²/4.
    """
    face = _face(joint)
    pries = None if face is None or pull_n is None else pull_n * face[1] / 2
    tab = MOUNT_SPRINGS[mount.kind if mount is not None else OWN_KIND].tab_mm
    if joint.joins:
        tab = None  # a piece bends there as its own shell says
    bends = None if tab is None else tab_yield_nmm(SHEET_MATERIALS[_STEEL].yield_mpa, *tab)
    known = [m for m in (pries, bends) if m is not None]
    return min(known, default=None), pries


def _press(joint: Joint, mount: Mount | None) -> tuple[float | None, str]:
    """What the face bears that the stack is pressed on, N: surface pressure of its material."""
    material = _face_material(joint, mount)
    pressure, face = THREAD_MATERIALS[material].bearing_limit_mpa, _face(joint)
    if pressure is None or face is None:
        return None, ""
    last, outer = face
    if outer <= last.hole_mm:
        return None, ""
    area = math.pi / 4 * (outer**2 - last.hole_mm**2)
    return area * pressure, f"the face under the {last.name} is crushed"


def _shear(joint: Joint) -> tuple[float | None, str]:
    """What bears a shove across, N: the screw in shear, or rubber that tears."""
    geometry, grade = threads.geometry_of(joint.thread), threads.grade_of(joint.grade)
    limits = [(SHEAR_SHARE * grade.rm_mpa * geometry.stress_area_mm2, "the screw shears")]
    for layer in joint.present():
        if layer.is_soft:
            across = isolator_springs(layer.outer_mm, layer.thickness_mm)[1]
            limits.append((across * TEARS_AT_STRAIN * layer.thickness_mm, "the isolator tears"))
    return _least(limits)


def _bottoms_at_mm(joint: Joint, normal: float) -> float | None:
    rubber = [x for x in joint.present() if x.is_soft]
    if not rubber:
        return None
    soft = min(rubber, key=lambda x: isolator_springs(x.outer_mm, x.thickness_mm)[0])
    pressed = isolator_springs(soft.outer_mm, soft.thickness_mm)[0]
    return pressed * BOTTOMS_AT_SHARE * soft.thickness_mm / normal


def _law(joint: Joint, mount: Mount | None, name: str, inward: Vec3, normal: float) -> MountLaw:
    strips = [x for x in joint.present() if x.kind == "strip" and x.span_mm is not None]
    yields = None
    if strips:
        weakest = strips[0]
        sheet = SHEET_MATERIALS.get(weakest.material, SHEET_MATERIALS[_STEEL])
        net = weakest.outer_mm - weakest.hole_mm
        yields = strip_yield_n(sheet.yield_mpa, net, weakest.thickness_mm, weakest.span_mm or 1.0)
    pull, press, shear = _pull(joint, mount), _press(joint, mount), _shear(joint)
    turns, pries = _turn(joint, mount, pull[0])
    material = _face_material(joint, mount)
    return MountLaw(
        name=name,
        normal=inward,
        stiffness_n_per_mm=normal,
        bottoms_at_mm=None if yields else _bottoms_at_mm(joint, normal),
        yields_at_n=yields,
        stroke_mm=STRIP_STROKE_MM if yields else None,
        turns_at_nmm=turns,
        pries_at_nmm=pries,
        pull_limit_n=pull[0],
        pull_fails=pull[1],
        press_limit_n=press[0],
        press_fails=press[1],
        shear_limit_n=shear[0],
        shear_fails=shear[1],
        casting=THREAD_MATERIALS[material].cast and (joint.is_stud or not joint.nut),
    )


def _law_of(at: MountedJoint, name: str, inward: Vec3) -> MountLaw:
    return _law(at.joint, at.mount, name, inward, joint_springs(at.joint, at.mount)[0])


def _between(joint: Joint, spring: float) -> float:
    """A spring behind a joint of two sheets, N/mm, in series with rubber in its stack."""
    for layer in joint.present():
        if layer.is_soft:
            spring = in_series(spring, isolator_springs(layer.outer_mm, layer.thickness_mm)[0])
    return spring


def _springs_of(at: MountedJoint) -> tuple[float, float, float]:
    return joint_springs(at.joint, at.mount)


def _pieces_between(
    plate: Plate, folded: FoldedPlate, joints: tuple[MountedJoint, ...]
) -> dict[str, Through]:
    """Every piece that the sheet hangs on the bike by, by key."""
    keys = dict.fromkeys(at.joint.joins for at in plate_supports(joints) if at.joint.joins)
    return {key: through_piece(plate, folded, joints, key, _springs_of) for key in keys}


def _support(at: MountedJoint, inward: Vec3, piece: Through | None, number: int) -> _Support:
    """A joint of the sheet as springs along the axes, along its screw, and against turning."""
    share = np.array(inward) ** 2
    if piece is None:
        along, across, turning = _springs_of(at)
        x, y, z = (float(s * along + (1 - s) * across) for s in share)
        return _Support((x, y, z), along, turning)
    *shifting, turning, _, _ = piece.springs[piece.above.index(number)]
    x, y, z = (_between(at.joint, s) for s in shifting)
    return _Support((x, y, z), float(np.array([x, y, z]) @ share), turning)


@lru_cache(maxsize=256)
def mount_supports(plate: Plate, joints: tuple[MountedJoint, ...]) -> MountSupports:
    """Every joint by which the main sheet hangs as three springs along x, y and z, and its law.

    The screw stands along the sheet's normal; its two stiffnesses are turned into the
    bike's axes and their coupling left out, which is small for a plate that lies flat. Where a
    piece lies between, its springs are those of the piece on its mounts, and these stand behind.
    """
    folded = fold(plate)
    pieces = _pieces_between(plate, folded, joints)
    mounts, laws, numbers = [], [], []
    for at in plate_supports(joints):
        found = sheet_normal_point(folded, at.x_mm, at.y_mm)
        if found is None:
            continue
        point, inward = found
        number, name = joints.index(at), f"joint {at.joint.number}"
        own = _support(at, inward, pieces.get(at.joint.joins), number)
        mounts.append(ShellMount(name, point, own.springs, own.turning))
        laws.append(_law(at.joint, at.mount, name, inward, own.along))
        numbers.append(number)
    far = behind(joints, tuple(numbers), tuple(pieces.values()), _law_of)
    return MountSupports(tuple(mounts), tuple(laws), far)
