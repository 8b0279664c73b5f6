"""A plate of a job as a shell on springs: every joint that clamps it is a mount."""

from __future__ import annotations

import numpy as np

from rugged_shield.core.assess.job import Candidate, place_of
from rugged_shield.core.fitup import Joint
from rugged_shield.core.mechanics.frames import Vec3
from rugged_shield.core.shell import ShellMount
from rugged_shield.core.survey import Bike, fold, sheet_normal_point
from rugged_shield.core.tables.springs import MOUNT_SPRINGS, in_series, isolator_springs

OWN_KIND = "frame tab"
"""What a joint at a place of its own is taken for: a steel tab."""


def joint_springs(bike: Bike, joint: Joint) -> tuple[float, float, float]:
    """Stiffness along the screw and across it, N/mm, and against turning, N·mm/rad.

    Rubber in the stack stands in series with the mount and gives way to turning.
    """
    mount = bike.mount(joint.mount)
    spring = MOUNT_SPRINGS[mount.kind if mount is not None else OWN_KIND]
    normal, across, turning = (
        spring.normal_n_per_mm, spring.in_plane_n_per_mm, spring.rotational_nmm_per_rad,
    )  # fmt: skip
    for layer in joint.present():
        if layer.kind == "isolator" or layer.material == "rubber":
            pressed, sheared = isolator_springs(layer.outer_mm, layer.thickness_mm)
            normal, across = in_series(normal, pressed), in_series(across, sheared)
            turning = 0.0
    return normal, across, turning


def shell_mounts(bike: Bike, candidate: Candidate) -> tuple[ShellMount, ...]:
    """Every joint over sheet of the main piece as three springs along x, y and z.

    The screw stands along the sheet's normal; its two stiffnesses are turned into the
    bike's axes and their coupling left out, which is small for a plate that lies flat.
    """
    folded = fold(candidate.plate)
    mounts = []
    for joint in candidate.settled_joints():
        if not any(layer.kind in ("plate", "sleeve") for layer in joint.present()):
            continue
        x, y = place_of(bike, joint)
        found = sheet_normal_point(folded, x, y)
        if found is None:
            continue
        point, normal = found
        along, across, turning = joint_springs(bike, joint)
        share = np.array(normal) ** 2
        springs: Vec3 = tuple(float(s * along + (1 - s) * across) for s in share)  # type: ignore[assignment]
        mounts.append(ShellMount(f"joint {joint.number}", point, springs, turning))
    return tuple(mounts)
