"""What a displaced shell does triangle by triangle, as sparse matrices on the nodes' freedoms.

Slopes and curvatures at the middle of each triangle (DKT: Batoz, Bathe & Ho 1980) and its mean
in-plane strain, taken with the drilling freedoms as the optimal membrane takes it (Felippa
2003): forces of a stress and strains of a displacement then go with the shell's own stiffness.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np

from rugged_shield.core.shell.elements import Array, Index, curvatures, frames, lumping
from rugged_shield.core.shell.mesh import Mesh


@dataclass(frozen=True, eq=False)
class Operators:
    """Sparse, on 6 freedoms a node: ``slopes`` (2 m), ``strains`` and ``curvatures`` (3 m).

    Strains are εx, εy, γxy and curvatures κx, κy, 2κxy in each triangle's own axes; ``areas``
    (m,) in mm².
    """

    slopes: Any
    strains: Any
    curvatures: Any
    areas: Array


def _sparse(blocks: Array, freedoms: Index, size: int) -> Any:
    """Blocks (m, c, 3, f) at ``freedoms`` (m, 3, f) as a matrix (c m, size)."""
    from scipy import sparse

    count, components = blocks.shape[:2]
    rows: Index = np.arange(count * components).reshape(count, components)[:, :, None, None]
    where = (
        np.broadcast_to(rows, blocks.shape).ravel(),
        np.broadcast_to(freedoms[:, None], blocks.shape).ravel(),
    )
    return sparse.csr_matrix((blocks.ravel(), where), shape=(count * components, size))


def operators(mesh: Mesh) -> Operators:
    """The three operators of a mesh; they know neither modulus nor thickness."""
    axes, local, areas = frames(mesh.nodes, mesh.triangles)
    x, y = local[..., 0], local[..., 1]
    pairs = ((1, 2), (2, 0), (0, 1))
    gradients = np.stack(
        [np.stack([y[:, j] - y[:, k], x[:, k] - x[:, j]], axis=1) for j, k in pairs], axis=2
    ) / (2 * areas[:, None, None])
    slopes = np.einsum("mik,mj->mikj", gradients, axes[:, 2])

    mean = (lumping(x, y) / areas[:, None, None]).reshape(-1, 3, 3, 3)
    strains = np.zeros((len(areas), 3, 3, 6))
    strains[..., :3] = np.einsum("mkuc,mua->mcka", mean[:, :, :2], axes[:, :2])
    strains[..., 3:] = np.einsum("mkc,ma->mcka", mean[:, :, 2], axes[:, 2])

    middle = np.mean(curvatures(local, areas), axis=0).reshape(-1, 3, 3, 3)
    bent = np.zeros_like(strains)
    bent[..., :3] = middle[..., 0][..., None] * axes[:, None, None, 2]
    bent[..., 3:] = np.einsum("mckt,mta->mcka", middle[..., 1:], axes[:, :2])

    freedoms = mesh.triangles[:, :, None] * 6 + np.arange(6)
    size = 6 * len(mesh.nodes)
    return Operators(
        slopes=_sparse(slopes, freedoms[..., :3], size),
        strains=_sparse(strains, freedoms, size),
        curvatures=_sparse(bent, freedoms, size),
        areas=areas,
    )
