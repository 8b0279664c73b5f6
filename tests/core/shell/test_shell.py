"""The shell: rigid-body modes, patches, conforming meshes, stitched folds, reactions in balance."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest
from shapely import Polygon

from rugged_shield.core.errors import InputError
from rugged_shield.core.shell.elements import bending, frames, membrane
from rugged_shield.core.shell.mesh import (
    Place,
    ShellHole,
    ShellPanel,
    areas_of,
    design_fold_length_mm,
    fold_length_mm,
    mesh_panels,
)
from rugged_shield.core.shell.solve import (
    EdgeSupport,
    ShellInput,
    ShellLoad,
    ShellMount,
    check_supported,
    factored,
    shell_model,
    shell_response,
    spring_matrix,
)

RNG = np.random.default_rng(20)
FLAT = ShellPanel(
    "belly", ((0, -90), (240, -90), (240, 90), (0, 90)), (0, 0, 0), (1, 0, 0), (0, 1, 0)
)
HELD = tuple(
    ShellMount(f"m{i}", (x, y, 0), (8000.0, 8000.0, 40000.0))
    for i, (x, y) in enumerate(((20, -70), (20, 70), (220, -70), (220, 70)))
)
GIVEN = ShellInput(
    panels=(FLAT,),
    thickness_mm=4.0,
    youngs_modulus_mpa=70_000.0,
    poisson=0.33,
    loads=(ShellLoad("belly", (120, 0)),),
    mounts=HELD,
    edge_supports=(),
    mesh_mm=15.0,
)


def folded(rise_deg: float, dihedral_deg: float, notch: float) -> tuple[ShellPanel, ...]:
    """A belly with an apron along its whole front edge and a wing along part of its side."""
    rise, turn = math.radians(rise_deg), math.radians(dihedral_deg)
    belly = replace(
        FLAT,
        holes=(
            ShellHole(kind="circle", centre_mm=(80, 0), radius_mm=18.0),
            ShellHole(
                kind="slot",
                centre_mm=(170, 20),
                radius_mm=0.0,
                length_mm=60.0,
                width_mm=14.0,
                angle_deg=30.0,
            ),
        ),
    )
    apron = ShellPanel(
        "apron",
        ((0, -90), (120, -70), (120, 70), (0, 90)),
        (0, 0, 0),
        (-math.cos(rise), 0, math.sin(rise)),
        (0, 1, 0),
    )
    wing = ShellPanel(
        "wing",
        ((notch, 0), (240 - notch, 0), (200, 70), (60, 70)),
        (0, 90, 0),
        (1, 0, 0),
        (0, math.cos(turn), math.sin(turn)),
    )
    return (belly, apron, wing)


@pytest.mark.parametrize("kind", [bending, membrane])
def test_elements_have_three_motions_without_strain(kind: object) -> None:
    """A triangle in its plane has two translations and a turn, out of it a rise and two tilts."""
    nodes = RNG.uniform(0, 40, (60, 3))
    triangles = np.arange(60).reshape(20, 3)
    _, local, areas = frames(nodes, triangles)
    matrices = kind(local, areas, 0.3)  # type: ignore[operator]
    assert np.allclose(matrices, matrices.transpose(0, 2, 1))
    values = np.linalg.eigvalsh(matrices)
    assert ((np.abs(values) < 1e-9 * values[:, -1:]).sum(axis=1) == 3).all()
    assert (values > -1e-9 * values[:, -1:]).all()


def test_patch_of_constant_strain_is_met_to_rounding() -> None:
    """u = a x + b y, v = c x + d y with the drilling turn that goes with it: no inner force."""
    mesh = mesh_panels((FLAT,), 25.0)
    model = shell_model(mesh, 0.3)
    a, b, c, d = 1e-3, 4e-4, -2e-4, 7e-4
    x, y = mesh.nodes[:, 0], mesh.nodes[:, 1]
    moved = np.zeros((len(x), 6))
    moved[:, 0], moved[:, 1], moved[:, 5] = a * x + b * y, c * x + d * y, (c - b) / 2
    forces = (model.membrane @ moved.ravel()).reshape(-1, 6)
    inner = np.setdiff1d(np.arange(len(x)), mesh.outer[0])
    assert np.abs(forces[inner]).max() < 1e-9 * np.abs(forces).max()


def test_patch_of_constant_curvature_is_met_to_rounding() -> None:
    """w = (κx x² + κy y²)/2 + κxy x y: no inner force or moment (DKT passes it)."""
    mesh = mesh_panels((FLAT,), 25.0)
    model = shell_model(mesh, 0.3)
    kx, ky, kxy = 1e-4, -3e-5, 6e-5
    x, y = mesh.nodes[:, 0], mesh.nodes[:, 1]
    moved = np.zeros((len(x), 6))
    moved[:, 2] = (kx * x**2 + ky * y**2) / 2 + kxy * x * y
    moved[:, 3], moved[:, 4] = ky * y + kxy * x, -(kx * x + kxy * y)
    forces = (model.bending @ moved.ravel()).reshape(-1, 6)
    inner = np.setdiff1d(np.arange(len(x)), mesh.outer[0])
    assert np.abs(forces[inner]).max() < 1e-8 * np.abs(forces).max()


def test_a_folded_plate_moves_as_a_whole_without_force() -> None:
    mesh = mesh_panels(folded(45, 60, 0.0), 20.0)
    model = shell_model(mesh, 0.33)
    stiffness = model.stiffness(70_000.0, 4.0)
    for axis in np.eye(3):
        moved = np.zeros((len(mesh.nodes), 6))
        moved[:, :3] = axis
        turned = np.zeros_like(moved)
        turned[:, :3] = np.cross(axis, mesh.nodes)
        turned[:, 3:] = axis
        for motion in (moved, turned):
            force = stiffness @ motion.ravel()
            assert np.abs(force).max() < 1e-9 * abs(stiffness).max() * np.abs(motion).max()


def test_random_plates_are_stitched_and_whole() -> None:
    """Four hundred folded plates: fold lengths and areas to rounding, no hanging node."""
    for _ in range(400):
        panels = folded(*RNG.uniform((10, 10, 0), (80, 80, 50)))
        mesh = mesh_panels(panels, float(RNG.uniform(18, 45)))
        assert fold_length_mm(mesh) == pytest.approx(design_fold_length_mm(panels), abs=1e-3)
        wanted = 0.0
        for panel in panels:
            wanted += Polygon(panel.outline_mm).area
        wanted -= math.pi * 18**2 + math.pi * 7**2 + 46 * 14
        assert areas_of(mesh).sum() == pytest.approx(wanted, rel=1e-6)
        assert len(np.unique(mesh.triangles)) == len(mesh.nodes)


def test_reactions_balance_the_load_and_the_plate_is_symmetric() -> None:
    moved = replace(
        GIVEN,
        loads=(
            ShellLoad("belly", (90, 40)),
            ShellLoad("belly", (90, -40)),
            ShellLoad("belly", (90, 40), (0.6, 0.0, 0.8)),
        ),
    )
    first, mirror, slanted = shell_response(moved).result.loads
    for response, load in ((first, (0, 0, 1)), (slanted, (0.6, 0, 0.8))):
        assert np.sum(response.mount_reactions, axis=0) == pytest.approx(load, abs=1e-8)
        places = np.array([m.at_mm for m in HELD])
        turning = np.cross(places, np.array(response.mount_reactions)).sum(axis=0)
        assert turning == pytest.approx(np.cross((90, 40, 0), load), abs=1e-5)
    assert first.deflection_mm_per_n == pytest.approx(mirror.deflection_mm_per_n, rel=0.01)


def test_finer_meshes_converge() -> None:
    values = []
    for size in (30.0, 20.0, 12.0, 8.0):
        response = shell_response(replace(GIVEN, mesh_mm=size)).result.loads[0]
        values.append(response.deflection_mm_per_n or 0.0)
    assert values[3] == pytest.approx(values[2], rel=0.01)
    assert abs(values[1] - values[3]) < abs(values[0] - values[3]) + 0.01 * values[3]


def test_a_what_if_is_a_sum_and_one_factorisation() -> None:
    """Twice as thick on rigid mounts bends eight times less; on soft ones the mounts stay."""
    place = Place(0, (120.0, 0.0))
    mesh = mesh_panels((FLAT,), 20.0, (place, *(Place(0, m.at_mm[:2]) for m in HELD)))
    model = shell_model(mesh, 0.33)
    load = np.zeros(6 * len(mesh.nodes))
    load[6 * mesh.placed[0] + 2] = 1.0
    stiff = tuple(replace(m, stiffness_n_per_mm=(1e7, 1e7, 1e7)) for m in HELD)
    values = []
    for thickness in (3.0, 6.0):
        whole = model.stiffness(70_000.0, thickness)
        whole = whole + spring_matrix(whole.shape[0], stiff, mesh.placed[1:])
        moved = factored(whole, np.array([], dtype=np.int64)).solve(load)
        values.append(moved[6 * mesh.placed[0] + 2])
    assert values[0] / values[1] == pytest.approx(8.0, rel=0.01)


@pytest.mark.parametrize(
    ("mounts", "words"),
    [
        ((), "nothing holds"),
        (HELD[:2], "mechanism"),
        (HELD[:1], "mechanism"),
        (tuple(replace(m, at_mm=(m.at_mm[0], 0, 0)) for m in HELD), "mechanism"),
    ],
)
def test_a_mechanism_is_said_not_solved(mounts: tuple[ShellMount, ...], words: str) -> None:
    with pytest.raises(InputError, match=words):
        check_supported(mounts)
    with pytest.raises(InputError):
        shell_response(replace(GIVEN, mounts=mounts))


def test_a_turning_spring_holds_two_mounts() -> None:
    check_supported(tuple(replace(m, rotational_nmm_per_rad=1e7) for m in HELD[:2]))


@pytest.mark.parametrize(
    "change",
    [
        {"mounts": (replace(HELD[0], at_mm=(400, 0, 0)), *HELD[1:])},
        {"mounts": (replace(HELD[0], at_mm=(20, -70, 30)), *HELD[1:])},
        {"loads": (ShellLoad("belly", (400, 0)),)},
        {"panels": (replace(FLAT, u_axis=(2, 0, 0)),)},
        {"panels": (replace(FLAT, outline_mm=((0, 0), (10, 10), (0, 10), (10, 0))),)},
    ],
)
def test_what_is_off_the_sheet_is_refused(change: dict[str, object]) -> None:
    with pytest.raises(InputError):
        shell_response(replace(GIVEN, **change))  # type: ignore[arg-type]


def test_supports_and_loads_must_name_a_panel() -> None:
    with pytest.raises(InputError):
        replace(GIVEN, edge_supports=(EdgeSupport("roof", "simple"),))
    with pytest.raises(InputError):
        ShellLoad("belly")
    with pytest.raises(InputError):
        ShellLoad("belly", pressure_mpa=0.1)
