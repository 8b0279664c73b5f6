"""A plate's stiffness condensed to the points it is held at, along its own normals."""

from __future__ import annotations

import itertools
import math

import numpy as np
import numpy.typing as npt

from rugged_shield.core.errors import InputError
from rugged_shield.core.mechanics.frames import Vec3
from rugged_shield.core.shell.mesh import ShellPanel, mesh_panels
from rugged_shield.core.shell.solve import (
    ShellMount,
    factored,
    panel_place,
    shell_model,
    spring_matrix,
)

LEAST_APART_MM = 2.0
_HELD_N_PER_MM = 0.1
_TURNING_NMM_PER_RAD = 10.0
"""So soft that it only keeps a free plate from drifting; along the normals it is taken off again.

Turning is held for a plate whose points lie in one line."""


def condensed_stiffness(
    panels: tuple[ShellPanel, ...],
    places_mm: tuple[Vec3, ...],
    normals: tuple[Vec3, ...],
    *,
    thickness_mm: float,
    youngs_modulus_mpa: float,
    poisson: float,
    mesh_mm: float,
) -> npt.NDArray[np.float64]:
    """The force at each place along its normal for a shift at each, N/mm (n, n); free elsewhere.

    Static condensation (Guyan 1965) by way of the compliance of a plate held very softly.
    Symmetric, without negative energy; as stiff as the sheet alone, the places are not springs.
    Raises InputError for a place off the sheet, or two that are one.
    """
    apart = [math.dist(a, b) for a, b in itertools.combinations(places_mm, 2)]
    if min(apart, default=math.inf) < LEAST_APART_MM:
        raise InputError(
            "places", f"{min(apart):.1f} mm", f"places at least {LEAST_APART_MM:g} mm apart"
        )
    mounts = tuple(
        ShellMount(f"{i}", at, (_HELD_N_PER_MM,) * 3, _TURNING_NMM_PER_RAD)
        for i, at in enumerate(places_mm)
    )
    places = tuple(panel_place(panels, m.at_mm, f"places.{m.name}") for m in mounts)
    mesh = mesh_panels(panels, mesh_mm, places)
    model = shell_model(mesh, poisson)
    stiffness = model.stiffness(youngs_modulus_mpa, thickness_mm)
    stiffness = stiffness + spring_matrix(stiffness.shape[0], mounts, mesh.placed)
    loads = np.zeros((stiffness.shape[0], len(mounts)))
    for i, (node, normal) in enumerate(zip(mesh.placed, normals, strict=True)):
        loads[6 * node : 6 * node + 3, i] = normal
    compliance = loads.T @ factored(stiffness, np.array([], dtype=np.int64)).solve(loads)
    k = np.linalg.inv((compliance + compliance.T) / 2) - _HELD_N_PER_MM * np.eye(len(mounts))
    values, ways = np.linalg.eigh((k + k.T) / 2)
    condensed: npt.NDArray[np.float64] = (ways * np.maximum(values, 0.0)) @ ways.T
    return condensed
