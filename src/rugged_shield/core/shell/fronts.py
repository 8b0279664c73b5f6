"""Factorising a mesh by nested dissection, and every node's own part of the inverse.

A strike map asks how far each of two thousand nodes gives under a force at itself: the
diagonal blocks of the inverse. Solving for them one by one costs seconds; going down the
tree of dense fronts once gives them all (selected inversion: Takahashi, Fagan & Chen 1973;
multifrontal form: Duff & Reid 1983).
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np

from rugged_shield.core.errors import InputError
from rugged_shield.core.shell.elements import Array, Index
from rugged_shield.core.shell.mesh import Mesh

LEAF_NODES = 36
_F = 6
"""Freedoms of a node."""


@dataclass(frozen=True, eq=False)
class Front:
    """Nodes eliminated together, the later nodes they touch, and the fronts before it."""

    own: Index
    border: Index
    children: tuple[int, ...]


@dataclass(frozen=True, eq=False)
class Tree:
    """All fronts, children before their parents; the place of each node in the order."""

    fronts: tuple[Front, ...]
    position: Index


def _neighbours(mesh: Mesh) -> list[set[int]]:
    around: list[set[int]] = [set() for _ in range(len(mesh.nodes))]
    for a, b, c in mesh.triangles.tolist():
        around[a] |= {b, c}
        around[b] |= {a, c}
        around[c] |= {a, b}
    return around


def dissect(mesh: Mesh) -> Tree:
    """Cut the mesh in halves again and again; what lies on a cut is eliminated after its halves."""
    around = _neighbours(mesh)
    order: list[tuple[list[int], tuple[int, ...]]] = []

    def cut(which: Index) -> tuple[int, ...]:
        if len(which) == 0:
            return ()
        if len(which) <= LEAF_NODES:
            order.append((which.tolist(), ()))
            return (len(order) - 1,)
        places = mesh.nodes[which]
        axis = int(np.argmax(np.ptp(places, axis=0)))
        first = places[:, axis] <= np.median(places[:, axis])
        if first.all():
            first = np.arange(len(which)) < len(which) // 2
        right = set(which[~first].tolist())
        left = which[first].tolist()
        on_cut = [n for n in left if around[n] & right]
        rest = np.array(sorted(set(left) - set(on_cut)), dtype=np.int64)
        children = (*cut(rest), *cut(which[~first]))
        if not on_cut:
            return children
        order.append((on_cut, children))
        return (len(order) - 1,)

    cut(np.arange(len(mesh.nodes)))
    position = np.empty(len(mesh.nodes), dtype=np.int64)
    position[np.concatenate([own for own, _ in order])] = np.arange(len(mesh.nodes))
    fronts: list[Front] = []
    for own, children in order:
        last = int(position[own].max())
        touched = {n for node in own for n in around[node] if position[n] > last}
        for child in children:
            touched |= {n for n in fronts[child].border.tolist() if position[n] > last}
        border = np.array(sorted(touched, key=lambda n: int(position[n])), dtype=np.int64)
        fronts.append(Front(np.array(own, dtype=np.int64), border, children))
    return Tree(tuple(fronts), position)


def _freedoms(nodes: Index) -> Index:
    return np.asarray((nodes[:, None] * _F + np.arange(_F)).ravel())


@dataclass(frozen=True, eq=False)
class FrontFactor:
    """One factorised front: the inverse of its own part, and how it hands over to its border."""

    inverse: Array
    across: Array


@dataclass(frozen=True, eq=False)
class Fronts:
    """A factorised stiffness over a tree of fronts."""

    tree: Tree
    factors: tuple[FrontFactor, ...]

    def solve(self, loads: Array) -> Array:
        """Displacements (6n, k) under loads (6n, k)."""
        x = self._handed_over(loads)
        for front, factor in zip(reversed(self.tree.fronts), reversed(self.factors), strict=True):
            own, border = _freedoms(front.own), _freedoms(front.border)
            x[own] = factor.inverse @ x[own] - factor.across @ x[border]
        return x

    def work(self, loads: Array) -> Array:
        """Of each load (6n, k) on its own displacement, (k,) N·mm: twice what it stores.

        Half a solution: the sum over the fronts of what each takes of its own.
        """
        x = self._handed_over(loads)
        total = np.zeros(x.shape[1])
        for front, factor in zip(self.tree.fronts, self.factors, strict=True):
            own = x[_freedoms(front.own)]
            total += (own * (factor.inverse @ own)).sum(axis=0)
        return total

    def _handed_over(self, loads: Array) -> Array:
        """Loads with those of every front that is eliminated before added to them, (6n, k)."""
        x = np.array(loads, dtype=float)
        for front, factor in zip(self.tree.fronts, self.factors, strict=True):
            own = x[_freedoms(front.own)]
            if own.any():  # a stone presses on few fronts
                x[_freedoms(front.border)] -= factor.across.T @ own
        return x

    def diagonal(self) -> Array:
        """The 3×3 translational block of the inverse at every node, (n, 3, 3)."""
        count = len(self.tree.position)
        out = np.zeros((count, 3, 3))
        known: dict[int, tuple[Index, Array]] = {}
        parent = {c: i for i, f in enumerate(self.tree.fronts) for c in f.children}
        waiting = {i: len(f.children) for i, f in enumerate(self.tree.fronts)}
        local = np.empty(count, dtype=np.int64)
        for i in reversed(range(len(self.tree.fronts))):
            front, factor = self.tree.fronts[i], self.factors[i]
            whole = np.concatenate([front.own, front.border])
            size = _F * len(front.own)
            inverse = np.empty((_F * len(whole), _F * len(whole)))
            if len(front.border):
                above, above_inverse = known[parent[i]]
                local[above] = np.arange(len(above))
                at = _freedoms(local[front.border])
                border = above_inverse[np.ix_(at, at)]
                handed = factor.across @ border
                inverse[size:, size:] = border
                inverse[:size, size:] = -handed
                inverse[size:, :size] = -handed.T
                inverse[:size, :size] = factor.inverse + handed @ factor.across.T
            else:
                inverse[:, :] = factor.inverse
            known[i] = (whole, inverse)
            blocks = inverse[:size, :size].reshape(len(front.own), _F, len(front.own), _F)
            here = np.arange(len(front.own))
            out[front.own] = blocks[here, :3, here, :3]
            if i in parent:
                waiting[parent[i]] -= 1
                if waiting[parent[i]] == 0:
                    del known[parent[i]]
        return out


def factorise(stiffness: Any, tree: Tree) -> Fronts:
    """Factorise a symmetric positive stiffness (6n, 6n) over a tree of fronts."""
    blocks = stiffness.tobsr(blocksize=(_F, _F))
    blocks.sort_indices()
    updates: dict[int, Array] = {}
    factors: list[FrontFactor] = []
    local = np.full(len(tree.position), -1, dtype=np.int64)
    for i, front in enumerate(tree.fronts):
        whole = np.concatenate([front.own, front.border])
        local[whole] = np.arange(len(whole))
        size = _F * len(front.own)
        matrix = _own_rows(blocks, front, local, tree.position, len(whole))
        for child in front.children:
            at = _freedoms(local[tree.fronts[child].border])
            matrix[np.ix_(at, at)] += updates.pop(child)
        factors.append(_eliminate(matrix, size))
        if len(front.border):
            corner, across = matrix[size:, :size], factors[-1].across
            updates[i] = matrix[size:, size:] - corner @ across
    return Fronts(tree, tuple(factors))


def _own_rows(blocks: Any, front: Front, local: Index, position: Index, count: int) -> Array:
    """The stiffness of a front's own nodes against themselves and its border, symmetric."""
    matrix = np.zeros((count, _F, count, _F))
    first = int(position[front.own].min())
    starts, ends = blocks.indptr[front.own], blocks.indptr[front.own + 1]
    rows = np.repeat(np.arange(len(front.own)), ends - starts)
    entries = np.concatenate([np.arange(a, b) for a, b in zip(starts, ends, strict=True)])
    columns = blocks.indices[entries]
    later = position[columns] >= first
    rows, entries, columns = rows[later], entries[later], local[columns[later]]
    matrix[rows, :, columns, :] = blocks.data[entries]
    outside = columns >= len(front.own)
    matrix[columns[outside], :, rows[outside], :] = blocks.data[entries[outside]].transpose(0, 2, 1)
    return matrix.reshape(_F * count, _F * count)


def _eliminate(matrix: Array, size: int) -> FrontFactor:
    from scipy.linalg import lapack

    factor, trouble = lapack.dpotrf(matrix[:size, :size].T, lower=1, clean=0, overwrite_a=0)
    if trouble == 0:
        half, trouble = lapack.dpotri(factor, lower=1, overwrite_c=1)
    if trouble != 0:
        raise InputError(
            "mounts", "", "a plate that is held", "the plate can move on its mounts: a mechanism"
        )
    inverse = np.tril(half) + np.tril(half, -1).T
    return FrontFactor(inverse, inverse @ matrix[:size, size:])
