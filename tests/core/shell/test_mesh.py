"""Meshes of folded panels: places become nodes, holes keep their area, bad outlines are said."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from rugged_shield.core.errors import InputError
from rugged_shield.core.shell.mesh import (
    Mesh,
    Place,
    ShellHole,
    ShellPanel,
    areas_of,
    fold_length_mm,
    mesh_panels,
)

FLAT = ShellPanel(
    "belly", ((0, 0), (200, 0), (200, 120), (0, 120)), (0, 0, 0), (1, 0, 0), (0, 1, 0)
)
WING = ShellPanel("wing", ((0, 0), (200, 0), (200, 60), (0, 60)), (0, 120, 0), (1, 0, 0), (0, 0, 1))


def edges(mesh: Mesh) -> dict[tuple[int, int], int]:
    """How many triangles each edge has."""
    count: dict[tuple[int, int], int] = {}
    for t in mesh.triangles.tolist():
        for p, q in zip(t, [*t[1:], t[0]], strict=True):
            count[min(p, q), max(p, q)] = count.get((min(p, q), max(p, q)), 0) + 1
    return count


def area(mesh: Mesh) -> float:
    return float(areas_of(mesh).sum())


@settings(max_examples=25)
@given(st.floats(0, 200), st.floats(0, 120))
def test_a_place_is_a_node_wherever_it_is_asked_for(u: float, v: float) -> None:
    mesh = mesh_panels((FLAT, WING), 15.0, (Place(0, (u, v)),))
    assert mesh.nodes[mesh.placed[0]] == pytest.approx([u, v, 0], abs=1e-3)
    assert area(mesh) == pytest.approx(200 * 120 + 200 * 60, rel=1e-6)
    assert set(edges(mesh).values()) <= {1, 2}


def test_a_place_on_a_fold_is_one_node_of_both_panels() -> None:
    mesh = mesh_panels((FLAT, WING), 15.0, (Place(0, (73.3, 120.0)), Place(1, (73.3, 0.0))))
    assert mesh.placed[0] == mesh.placed[1]
    touching = mesh.panel_of[(mesh.triangles == mesh.placed[0]).any(axis=1)]
    assert set(touching.tolist()) == {0, 1}
    assert fold_length_mm(mesh) == pytest.approx(200.0)


def test_the_boundary_is_the_outline_and_the_holes() -> None:
    hole = ShellHole(kind="circle", centre_mm=(100, 60), radius_mm=25.0)
    mesh = mesh_panels((replace(FLAT, holes=(hole,)),), 10.0)
    rim = [e for e, n in edges(mesh).items() if n == 1]
    length = sum(float(np.linalg.norm(mesh.nodes[p] - mesh.nodes[q])) for p, q in rim)
    assert length == pytest.approx(640 + 2 * math.pi * 25, rel=0.01)
    v, e, f = len(np.unique(mesh.triangles)), len(edges(mesh)), len(mesh.triangles)
    assert v - e + f == 0, "Euler: one sheet with one hole"


@pytest.mark.parametrize(
    ("hole", "taken"),
    [
        (ShellHole(kind="circle", centre_mm=(100, 60), radius_mm=20.0), math.pi * 400),
        (
            ShellHole(
                kind="slot",
                centre_mm=(100, 60),
                radius_mm=0.0,
                length_mm=70.0,
                width_mm=20.0,
                angle_deg=35.0,
            ),
            math.pi * 100 + 50 * 20,
        ),
        (
            ShellHole(
                kind="slot", centre_mm=(100, 60), radius_mm=0.0, length_mm=20.0, width_mm=20.0
            ),
            math.pi * 100,
        ),
        (ShellHole(kind="polygon", points_mm=((80, 40), (120, 40), (120, 70), (80, 70))), 1200.0),
    ],
)
@pytest.mark.parametrize("mesh_mm", [6.0, 15.0])
def test_a_hole_takes_its_own_area(hole: ShellHole, taken: float, mesh_mm: float) -> None:
    mesh = mesh_panels((replace(FLAT, holes=(hole,)),), mesh_mm)
    assert area(mesh) == pytest.approx(200 * 120 - taken, rel=1e-6)


def test_a_thin_ligament_is_meshed_by_cutting_its_sides() -> None:
    """3 mm of sheet between a hole and the edge, with sides of 30 mm."""
    hole = ShellHole(kind="polygon", points_mm=((60, 3), (140, 3), (140, 50), (60, 50)))
    mesh = mesh_panels((replace(FLAT, holes=(hole,)),), 30.0)
    assert area(mesh) == pytest.approx(200 * 120 - 80 * 47, rel=1e-6)
    assert set(edges(mesh).values()) <= {1, 2}
    assert areas_of(mesh).min() > 0


@pytest.mark.parametrize(
    ("panels", "places", "field"),
    [
        ((), (), "panels"),
        ((FLAT,), (Place(0, (250.0, 60.0)),), "panels.belly"),
        (
            (
                replace(
                    FLAT, holes=(ShellHole(kind="circle", centre_mm=(195, 60), radius_mm=20.0),)
                ),
            ),
            (),
            "panels.belly",
        ),
        (
            (replace(FLAT, holes=(ShellHole(kind="circle", centre_mm=(90, 60), radius_mm=0.0),)),),
            (),
            "holes.radius_mm",
        ),
        (
            (
                replace(
                    FLAT,
                    holes=(
                        ShellHole(
                            kind="slot",
                            centre_mm=(90, 60),
                            radius_mm=0.0,
                            length_mm=40.0,
                            width_mm=0.0,
                        ),
                    ),
                ),
            ),
            (),
            "holes.radius_mm",
        ),
        (
            (replace(FLAT, holes=(ShellHole(kind="polygon", points_mm=((1, 1), (9, 9))),)),),
            (),
            "holes.points_mm",
        ),
        ((replace(FLAT, outline_mm=((0, 0), (200, 120), (200, 0), (0, 120))),), (), "panels.belly"),
        ((replace(FLAT, u_axis=(1, 1, 0)),), (), "panels.belly.u_axis"),
    ],
)
def test_what_cannot_be_meshed_is_refused_by_name(
    panels: tuple[ShellPanel, ...], places: tuple[Place, ...], field: str
) -> None:
    with pytest.raises(InputError) as caught:
        mesh_panels(panels, 15.0, places)
    assert caught.value.field == field
    assert caught.value.allowed
