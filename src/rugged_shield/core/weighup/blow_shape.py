"""The shape that a small blow gives a sheet, and what that shape would cost a large one.

One linear answer for each struck place; everything else is read off it: what it would dissipate
as a mechanism, how it stretches the sheet, and how the stretched sheet pulls at its mounts.
"""

from __future__ import annotations

import math
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, fields
from typing import Any, Protocol

import numpy as np

from rugged_shield.core.shell.mesh import Mesh, areas_of
from rugged_shield.core.shell.solve import ShellModel
from rugged_shield.core.weighup.response import Array, Index

_SPLIT = 6
_BLOCK = 128
_AT_ONCE = 2


class Solver(Protocol):
    """Anything that answers loads on the shell with its displacements."""

    def solve(self, loads: Array) -> Array:
        """Displacements (size, k) under loads (size, k)."""

    def work(self, loads: Array) -> Array:
        """Of each load on its own displacement, (k,) N·mm: twice what it stores."""


@dataclass(frozen=True, eq=False, kw_only=True)
class BlowShapes:
    """Of k places, each scaled to 1 mm of the sheet's own mean deflection over the patch.

    ``compliance`` and ``mount_compliance`` mm/N, whole and that of the mounts. ``dissipation``:
    plastic work over the plastic moment per length. ``membrane_n_per_mm3`` is K3 of
    F = k w + K3 w³ in pure elasticity. ``drawn`` (k, m, 3): how far the stretched sheet draws each
    mount, mm for each mm² of deflection. ``patch_share`` of the stone's circle meets the panel.
    """

    compliance: Array
    mount_compliance: Array
    dissipation: Array
    membrane_n_per_mm3: Array
    drawn: Array
    patch_share: Array


@dataclass(frozen=True, eq=False)
class Patches:
    """Where the stone presses: sparse (k, n), each row adding up to 1; share on the panel (k,)."""

    weights: Any
    share: Array


def patches(mesh: Mesh, nodes: Index, panel: Index, radius_mm: float) -> Patches:
    """An even pressure over the part of the stone's circle that lies on the struck panel.

    Triangles are split finely; what lies within the radius presses on their corners.
    """
    from scipy import sparse
    from scipy.spatial import cKDTree

    corners = _split_triangle()
    size, areas = len(mesh.nodes), areas_of(mesh)
    rows: list[Any] = []
    order: list[Index] = []
    for number in np.unique(panel):
        own = np.flatnonzero(mesh.panel_of == number)
        triangles = mesh.triangles[own]
        points = np.einsum("qb,mbj->mqj", corners, mesh.nodes[triangles]).reshape(-1, 3)
        share = np.repeat(areas[own] / len(corners), len(corners))
        spread = sparse.csr_matrix(
            (
                np.tile(corners, (len(own), 1)).ravel(),
                np.repeat(triangles, len(corners), axis=0).ravel(),
                np.arange(0, 3 * len(points) + 1, 3),
            ),
            shape=(len(points), size),
        )
        here = np.flatnonzero(panel == number)
        # Asked once: what makes later questions quick would cost more than they do.
        tree = cKDTree(points, balanced_tree=False, compact_nodes=False)
        found: Any = tree.query_ball_point(mesh.nodes[nodes[here]], radius_mm)
        inside = np.concatenate([np.asarray(f, dtype=np.int64) for f in found])
        starts = np.concatenate([[0], np.cumsum([len(f) for f in found])])
        picked = sparse.csr_matrix((share[inside], inside, starts), shape=(len(here), len(points)))
        rows.append(picked @ spread)
        order.append(here)
    whole = sparse.vstack(rows).tocsr()[np.argsort(np.concatenate(order))]
    pressed = np.asarray(whole.sum(axis=1)).reshape(len(nodes))
    weights = sparse.csr_matrix(whole.multiply(1 / pressed[:, None]))
    return Patches(weights, np.minimum(pressed / (math.pi * radius_mm**2), 1.0))


def _split_triangle() -> Array:
    """Barycentric middles of a triangle cut into n² equal ones, (n², 3)."""
    n = _SPLIT
    upright = [(i + 1 / 3, j + 1 / 3) for i in range(n) for j in range(n - i)]
    turned = [(i + 2 / 3, j + 2 / 3) for i in range(n - 1) for j in range(n - 1 - i)]
    two = np.array(upright + turned) / n
    return np.column_stack([1 - two.sum(axis=1), two])


@dataclass(frozen=True, eq=False, kw_only=True)
class Sheet:
    """A factorised shell with its sheet and springs: what a shape is read off.

    ``springs`` (m, 3) N/mm of the mounts at the nodes ``at``; ``to_mounts`` (6n, 3m): what a unit
    force at each along x, y, z moves.
    """

    model: ShellModel
    solver: Solver
    youngs_mpa: float
    thickness_mm: float
    springs: Array
    at: Index
    to_mounts: Array


def blow_shapes(sheet: Sheet, under: Patches, travel: Array) -> BlowShapes:
    """The shapes of blows along ``travel`` (unit) over the patches.

    Dissipation: D = (2/√3) ∫√(κx² + κxκy + κy² + κxy²) dA (Mises). K3 = 4V/(c − c_m)⁴ with
    V = ½∫ε₀Nε₀ + ½ f·q, ε₀ = ½∇w∇w (von Kármán 1910) and q the in-plane answer that leaves the
    mean deflection at the patch as it is.
    """

    def block(start: int) -> BlowShapes:
        weights = under.weights[start : start + _BLOCK]
        loads = np.zeros((6 * len(sheet.model.mesh.nodes), weights.shape[0]))
        dense = weights.toarray().T
        for axis in range(3):
            loads[axis::6] = dense * travel[axis]
        return _shapes(sheet, loads, under.share[start : start + _BLOCK])

    # Two blocks at a time: the solver's work is in libraries that let go of the interpreter.
    with ThreadPoolExecutor(max_workers=_AT_ONCE) as pool:
        done = list(pool.map(block, range(0, under.weights.shape[0], _BLOCK)))
    return BlowShapes(
        **{f.name: np.concatenate([getattr(d, f.name) for d in done]) for f in fields(BlowShapes)}
    )


def _shapes(sheet: Sheet, loads: Array, share: Array) -> BlowShapes:
    moved = sheet.solver.solve(loads)
    compliance = (loads * moved).sum(axis=0)
    own = moved.reshape(-1, 6, loads.shape[1])[sheet.at, :3]
    of_mounts = (sheet.springs[:, :, None] * own**2).sum(axis=(0, 1))
    scale = 1 / (compliance - of_mounts)
    forces, taken = _stretched(sheet, moved)
    # What the patch would move under the stretch is taken back by more of the blow.
    back = (moved * forces).sum(axis=0) / compliance
    answer = back * own - (sheet.to_mounts.T @ forces).reshape(own.shape)
    # A shape that only folds stretches nothing: rounding must not make that less than nothing.
    left = np.maximum(taken - sheet.solver.work(forces) + back**2 * compliance, 0.0) / 2
    return BlowShapes(
        compliance=compliance,
        mount_compliance=of_mounts,
        dissipation=_dissipated(sheet.model, moved) * scale,
        membrane_n_per_mm3=4 * left * scale**4,
        drawn=(answer * scale**2).transpose(2, 0, 1),
        patch_share=share,
    )


def _dissipated(model: ShellModel, moved: Array) -> Array:
    """Plastic work of a shape over the plastic moment per length, per its own amplitude."""
    bent = (model.operators.curvatures @ moved).reshape(-1, 3, moved.shape[1])
    x, y, xy = bent[:, 0], bent[:, 1], bent[:, 2] / 2
    density = np.sqrt(np.maximum(x * x + x * y + y * y + xy * xy, 0.0))
    return np.asarray(2 / math.sqrt(3) * (model.operators.areas @ density))


def _stretched(sheet: Sheet, moved: Array) -> tuple[Array, Array]:
    """Forces (6n, k) of a shape's own stretch, and their work were it held still, (k,) N·mm."""
    known, count = sheet.model.operators, moved.shape[1]
    slope = (known.slopes @ moved).reshape(-1, 2, count)
    x, y = slope[:, 0], slope[:, 1]
    stretch = np.empty((len(slope), 3, count))
    np.multiply(x, x / 2, out=stretch[:, 0])
    np.multiply(y, y / 2, out=stretch[:, 1])
    np.multiply(x, y, out=stretch[:, 2])
    nu = sheet.model.poisson
    stiff = (sheet.youngs_mpa * sheet.thickness_mm / (1 - nu**2) * known.areas)[:, None]
    stress = np.empty_like(stretch)
    stress[:, 0] = stiff * (stretch[:, 0] + nu * stretch[:, 1])
    stress[:, 1] = stiff * (stretch[:, 1] + nu * stretch[:, 0])
    stress[:, 2] = stiff * (1 - nu) / 2 * stretch[:, 2]
    forces = known.strains.T @ stress.reshape(-1, count)
    return forces, (stretch * stress).sum(axis=(0, 1))
