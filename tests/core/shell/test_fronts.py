"""Selected inversion over fronts against a sparse direct solver, node by node."""

from __future__ import annotations

import numpy as np
import pytest

from rugged_shield.core.errors import InputError
from rugged_shield.core.shell.fronts import dissect, factorise
from rugged_shield.core.shell.mesh import Place, ShellPanel, mesh_panels
from rugged_shield.core.shell.solve import ShellMount, factored, shell_model, spring_matrix

FLAT = ShellPanel(
    "belly", ((0, -90), (240, -90), (240, 90), (0, 90)), (0, 0, 0), (1, 0, 0), (0, 1, 0)
)
APRON = ShellPanel(
    "apron", ((0, -90), (120, -70), (120, 70), (0, 90)), (0, 0, 0), (-0.6, 0, 0.8), (0, 1, 0)
)
HELD = tuple(
    ShellMount(f"m{i}", (x, y, 0), (8000.0, 8000.0, 40000.0), 1e5)
    for i, (x, y) in enumerate(((20, -70), (20, 70), (220, -70), (220, 70)))
)


def test_diagonal_and_solution_are_those_of_a_sparse_solver() -> None:
    mesh = mesh_panels((FLAT, APRON), 14.0, tuple(Place(0, m.at_mm[:2]) for m in HELD))
    stiffness = shell_model(mesh, 0.33).stiffness(70_000.0, 4.0)
    stiffness = stiffness + spring_matrix(stiffness.shape[0], HELD, mesh.placed)
    tree = dissect(mesh)
    assert sorted(np.concatenate([f.own for f in tree.fronts])) == list(range(len(mesh.nodes)))
    fronts, direct = factorise(stiffness, tree), factored(stiffness, np.array([], dtype=np.int64))
    diagonal = fronts.diagonal()
    random = np.random.default_rng(3)
    loads = random.normal(size=(stiffness.shape[0], 4))
    assert np.allclose(fronts.solve(loads), direct.solve(loads), rtol=1e-7, atol=1e-12)
    loads[:, 0] = 0.0
    loads[6 * len(mesh.nodes) // 2, 0] = 1.0  # most fronts have nothing to hand over
    assert np.allclose(fronts.solve(loads), direct.solve(loads), rtol=1e-7, atol=1e-12)
    work = (loads * direct.solve(loads)).sum(axis=0)
    assert np.allclose(fronts.work(loads), work, rtol=1e-9)
    assert np.allclose(direct.work(loads), work, rtol=1e-12)
    for node in random.integers(0, len(mesh.nodes), 12):
        unit = np.zeros((stiffness.shape[0], 3))
        unit[6 * node : 6 * node + 3] = np.eye(3)
        block = direct.solve(unit)[6 * node : 6 * node + 3]
        assert np.allclose(diagonal[node], block, rtol=1e-8, atol=1e-9 * abs(block).max())


def test_a_plate_that_floats_is_a_mechanism() -> None:
    mesh = mesh_panels((FLAT,), 30.0)
    stiffness = shell_model(mesh, 0.33).stiffness(70_000.0, 4.0)
    shifted = stiffness - spring_matrix(
        stiffness.shape[0], (ShellMount("m", (0, 0, 0), (1.0, 1.0, 1.0)),), np.array([0])
    )
    with pytest.raises(InputError, match="mechanism"):
        factorise(shifted, dissect(mesh))
