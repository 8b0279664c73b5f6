"""The refined answer for one struck point: one mode of large deflection on the plate's own shape.

The sheet keeps the shape that a small force gives it. Its slopes stretch it (von Kármán); the
in-plane answer to that stretch is one more solution of the factorised shell. Yield is counted
fibre by fibre over the thickness (Hencky's deformation theory, no hardening).
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Protocol

import numpy as np

from rugged_shield.core.shell import ShellModel, curvatures, elasticity, frames
from rugged_shield.core.weighup.response import Array

_FIBRES, _FIBRE_WEIGHTS = np.polynomial.legendre.leggauss(6)


class Solver(Protocol):
    """Anything that answers loads on the shell with its displacements."""

    def solve(self, loads: Array) -> Array:
        """Displacements (size,) under loads (size,)."""


@dataclass(frozen=True, eq=False, kw_only=True)
class OneMode:
    """Strains per unit amplitude at every fibre, (p, 3) each, and what weighs them, mm³.

    ``first`` grows with the amplitude, ``second`` with its square. ``compliance`` mm/N is the
    mean deflection over the patch for a unit force; ``membrane_n_per_mm3`` is K3 of
    F = k w + K3 w³ in pure elasticity. ``shape`` and ``answer`` (n, 6): how the shell moves
    per unit amplitude, and with its square.
    """

    compliance: float
    membrane_n_per_mm3: float
    first: Array
    second: Array
    volumes: Array
    youngs_mpa: float
    poisson: float
    shape: Array
    answer: Array

    def energy(self, amplitudes: Array, yield_mpa: float) -> Array:
        """Energy that the sheet takes at each amplitude (a force in N, were it linear), N·mm."""
        d = elasticity(self.poisson)
        at_yield = yield_mpa / self.youngs_mpa
        taken = []
        for a in np.ravel(amplitudes):
            strain = a * self.first + a * a * self.second
            size = np.sqrt(np.einsum("pi,ij,pj->p", strain, d, strain))
            inside = np.minimum(size, at_yield)
            density = self.youngs_mpa * inside * (size - inside / 2)
            taken.append(float(density @ self.volumes))
        return np.array(taken)


def _gradients(local: Array, areas: Array) -> Array:
    """Slopes of the three linear shape functions, (m, 3, 2)."""
    x, y = local[..., 0], local[..., 1]
    rows = [
        np.stack([y[:, j] - y[:, k], x[:, k] - x[:, j]], axis=1)
        for j, k in ((1, 2), (2, 0), (0, 1))
    ]
    return np.asarray(np.stack(rows, axis=1) / (2 * areas)[:, None, None])


def _strain(slopes: Array, moved: Array) -> Array:
    """In-plane strain (m, 3) of corners moved by (m, 3, 2)."""
    ux = np.einsum("mi,mi->m", slopes[..., 0], moved[..., 0])
    vy = np.einsum("mi,mi->m", slopes[..., 1], moved[..., 1])
    both = np.einsum("mi,mi->m", slopes[..., 1], moved[..., 0])
    both = both + np.einsum("mi,mi->m", slopes[..., 0], moved[..., 1])
    return np.stack([ux, vy, both], axis=1)


def _stretch_forces(
    model: ShellModel, axes: Array, slopes: Array, stress_areas: Array, size: int
) -> Array:
    """Nodal forces of an in-plane stress (m, 3), already times thickness and area, N."""
    forces = np.zeros(size)
    nx, ny = slopes[..., 0], slopes[..., 1]
    s = stress_areas[:, None, :]
    along = np.stack([nx * s[..., 0] + ny * s[..., 2], ny * s[..., 1] + nx * s[..., 2]], axis=2)
    whole = np.einsum("mki,mij->mkj", along, axes[:, :2])
    for axis in range(3):
        np.add.at(forces, 6 * model.mesh.triangles + axis, whole[..., axis])
    return forces


def _bent(axes: Array, moved: Array, rows: Array) -> Array:
    """Curvatures (m, 3) at one place of each triangle; ``moved`` (m, 3, 6) in the bike's axes."""
    shift = np.einsum("mj,mkj->mk", axes[:, 2], moved[..., :3])
    turn = np.einsum("mij,mkj->mki", axes[:, :2], moved[..., 3:])
    own = np.concatenate([shift[..., None], turn], axis=2).reshape(len(moved), 9)
    return np.asarray(np.einsum("mai,mi->ma", rows, own))


def one_mode(
    model: ShellModel, solver: Solver, load: Array, youngs_mpa: float, thickness_mm: float
) -> OneMode:
    """The mode of a unit force ``load`` (6 n,), its stretch and its fibres.

    Large-deflection energy V a⁴ with V = ½∫ε₀Nε₀ + ½ f·q, q the in-plane answer that leaves
    the mean deflection at the patch as it is.
    """
    mesh = model.mesh
    axes, local, areas = frames(mesh.nodes, mesh.triangles)
    slopes = _gradients(local, areas)
    shape = solver.solve(load)
    compliance = float(load @ shape)
    moved = shape.reshape(-1, 6)[mesh.triangles]
    lifted = np.einsum("mj,mkj->mk", axes[:, 2], moved[..., :3])
    g = np.einsum("mki,mk->mi", slopes, lifted)
    stretch = np.stack([g[:, 0] ** 2 / 2, g[:, 1] ** 2 / 2, g[:, 0] * g[:, 1]], axis=1)
    d = youngs_mpa * elasticity(model.poisson)
    stress = thickness_mm * areas[:, None] * (stretch @ d)
    forces = _stretch_forces(model, axes, slopes, stress, len(load))
    answer = solver.solve(forces)
    answer = -answer + (load @ answer) / compliance * shape
    value = (float(np.einsum("mi,mi->", stretch, stress)) + float(forces @ answer)) / 2
    own = answer.reshape(-1, 6)[mesh.triangles]

    def flat(of: Array) -> Array:
        return np.asarray(np.einsum("mij,mkj->mki", axes[:, :2], of[..., :3]))

    first_flat, second_flat = _strain(slopes, flat(moved)), stretch + _strain(slopes, flat(own))
    first, second, volumes = [], [], []
    for rows in curvatures(local, areas):
        bent, rebent = _bent(axes, moved, rows), _bent(axes, own, rows)
        for z, weight in zip(_FIBRES, _FIBRE_WEIGHTS, strict=True):
            height = z * thickness_mm / 2
            first.append(first_flat - height * bent)
            second.append(second_flat - height * rebent)
            volumes.append(areas / 3 * weight * thickness_mm / 2)
    return OneMode(
        compliance=compliance,
        membrane_n_per_mm3=4 * value / compliance**4,
        first=np.concatenate(first),
        second=np.concatenate(second),
        volumes=np.concatenate(volumes),
        youngs_mpa=youngs_mpa,
        poisson=model.poisson,
        shape=shape.reshape(-1, 6),
        answer=answer.reshape(-1, 6),
    )
