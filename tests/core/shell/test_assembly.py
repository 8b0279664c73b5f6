"""Brackets, sub-plates and further sheets: closed forms, balance, and what is refused."""

from __future__ import annotations

import dataclasses
import math
from typing import Any

import numpy as np
import pytest

from rugged_shield.core.errors import InputError
from rugged_shield.core.shell.assembly import AssemblyResponse, assembly_response
from rugged_shield.core.shell.assembly_input import (
    AssemblyInput,
    AssemblyJoint,
    AssemblyLoad,
    AssemblyMount,
    AssemblySheet,
)
from rugged_shield.core.shell.beams import BeamPart, chain
from rugged_shield.core.shell.mesh import ShellHole, ShellPanel
from rugged_shield.core.shell.solve import ShellInput, ShellLoad, ShellMount, shell_response

STEEL = {"youngs_modulus_mpa": 205_000.0, "poisson": 0.29}
RIGID = (1e8, 1e8, 1e8)
STIFF = (12_000.0, 12_000.0, 50_000.0)
SOFT = (6000.0, 6000.0, 2300.0)


def bar(**changes: Any) -> BeamPart:
    given: dict[str, Any] = {
        "name": "bar",
        "points_mm": ((0.0, 0.0, 0.0), (100.0, 0.0, 0.0)),
        "width_mm": 30.0,
        "thickness_mm": 6.0,
        "width_axis": (0.0, 1.0, 0.0),
        **STEEL,
    }
    return BeamPart(**{**given, **changes})


def panel(name: str = "belly", z: float = 280.0, holes: tuple[ShellHole, ...] = ()) -> ShellPanel:
    corners = ((0.0, -100.0), (280.0, -100.0), (280.0, 100.0), (0.0, 100.0))
    return ShellPanel(name, corners, (500.0, 0.0, z), (1, 0, 0), (0, 1, 0), holes)


CORNERS = ((530.0, -80.0), (530.0, 80.0), (750.0, -80.0), (750.0, 80.0))


def assembly(**changes: Any) -> AssemblyInput:
    given: dict[str, Any] = {
        "panels": (panel(),),
        "thickness_mm": 4.0,
        "youngs_modulus_mpa": 70_300.0,
        "poisson": 0.33,
        "mounts": tuple(
            AssemblyMount(f"m{i}", "plate", (x, y, 280.0), SOFT) for i, (x, y) in enumerate(CORNERS)
        ),
        "loads": (AssemblyLoad("belly", (150.0, 20.0), 1000.0),),
        "mesh_mm": 20.0,
    }
    return AssemblyInput(**{**given, **changes})


def only(given: AssemblyInput) -> AssemblyResponse:
    (found,) = assembly_response(given).result.loads
    return found


@pytest.mark.parametrize(("axis", "inertia"), [(2, 30 * 6**3 / 12), (1, 6 * 30**3 / 12)])
def test_a_cantilever_bends_as_its_closed_form_says(axis: int, inertia: float) -> None:
    """P L³/(3 E I) + P L/(κ G A), about either axis (Timoshenko)."""
    k = chain(bar(), ()).stiffness()[6:, 6:]
    force = np.zeros(6)
    force[axis] = 1000.0
    shear = 205_000 / 2.58 * 5 / 6 * 180
    wanted = 1000 * 100**3 / (3 * 205_000 * inertia) + 1000 * 100 / shear
    moved = np.linalg.solve(k, force)
    assert moved[axis] == pytest.approx(wanted, rel=1e-9)
    whole = np.concatenate([np.zeros(6), moved])
    assert chain(bar(), ()).stress_mpa(whole) == pytest.approx(
        1000 * 100 / inertia * (6 if axis == 2 else 30) / 2, rel=1e-9
    )


def test_a_bar_twists_by_its_torsion_constant() -> None:
    """θ = T L/(G J); J of 30 × 6 is b t³ times 0.291 (Roark, Timoshenko's table: b/t = 5)."""
    assert bar().torsion_mm4 == pytest.approx(0.291 * 30 * 6**3, rel=2e-3)
    assert bar(width_mm=6.0, thickness_mm=30.0).torsion_mm4 == bar().torsion_mm4
    k = chain(bar(), ()).stiffness()[6:, 6:]
    torque = np.array([0, 0, 0, 1000.0, 0, 0])
    wanted = 1000 * 100 / (205_000 / 2.58 * bar().torsion_mm4)
    assert np.linalg.solve(k, torque)[3] == pytest.approx(wanted, rel=1e-9)


def test_moved_as_a_whole_a_bent_part_strains_nothing_however_it_is_cut() -> None:
    bent = bar(points_mm=((0, 0, 0), (60, 0, 20), (60, 50, 80)), width_axis=(0.3, 1.0, -0.2))
    for places in ((), ((20.0, 5.0, 9.0), (60.0, 20.0, 40.0), (61.0, 50.0, 81.0))):
        whole = chain(bent, places)
        k = whole.stiffness()
        moves = np.vstack(
            [
                np.hstack([np.eye(3), [[0, z, -y], [-z, 0, x], [y, -x, 0]]])
                if row == 0
                else np.hstack([np.zeros((3, 3)), np.eye(3)])
                for x, y, z in whole.nodes
                for row in (0, 1)
            ]
        )
        assert np.abs(k @ moves).max() < 1e-6 * np.abs(k).max()


def test_a_cut_changes_nothing() -> None:
    """A node that nothing loads leaves the ends as stiff as they were."""
    whole = chain(bar(), ()).stiffness()
    cut = chain(bar(), ((37.0, 3.0, 2.0),)).stiffness()
    ends, middle = np.r_[0:6, 12:18], np.r_[6:12]
    inner = np.linalg.solve(cut[np.ix_(middle, middle)], cut[np.ix_(middle, ends)])
    condensed = cut[np.ix_(ends, ends)] - cut[np.ix_(ends, middle)] @ inner
    assert condensed == pytest.approx(whole, abs=1e-6 * np.abs(whole).max())


def test_on_points_alone_it_is_the_shell_on_its_mounts() -> None:
    given = assembly()
    alone = shell_response(
        ShellInput(
            panels=given.panels,
            thickness_mm=4.0,
            youngs_modulus_mpa=70_300.0,
            poisson=0.33,
            loads=(ShellLoad("belly", (150.0, 20.0)),),
            mounts=tuple(ShellMount(m.name, m.at_mm, m.stiffness_n_per_mm) for m in given.mounts),
            mesh_mm=20.0,
        )
    ).result.loads[0]
    found = only(given)
    assert found.deflection_mm == pytest.approx(1000 * (alone.deflection_mm_per_n or 0), rel=1e-6)
    for mount, reaction in zip(given.mounts, alone.mount_reactions, strict=True):
        wanted = 1000 * np.array(reaction)
        assert found.mounts[mount.name].force_n == pytest.approx(wanted, abs=1e-3)


def bracketed(rng: np.random.Generator) -> AssemblyInput:
    """A plate on three mounts, a sub-plate and two bent brackets, at places drawn at random."""

    def near(x: float, y: float) -> tuple[float, float]:
        return (x + float(rng.uniform(-15, 15)), y + float(rng.uniform(-15, 15)))

    left, right, first, second = near(720, -60), near(720, 60), near(560, -40), near(600, 40)
    arms = tuple(
        bar(
            name=name,
            points_mm=((x, y, 285.0), (x + 50, y, 300.0), (x + 60, y * 1.4, 360.0)),
            width_mm=float(rng.uniform(15, 40)),
            thickness_mm=float(rng.uniform(3, 8)),
        )
        for name, (x, y) in (("left", left), ("right", right))
    )
    joints = [AssemblyJoint(f"to {a.name}", a.name, "plate", a.points_mm[0]) for a in arms]
    joints += [
        AssemblyJoint(f"sub {i}", "plate", "sheet:sub", (*at, 283.0))
        for i, at in enumerate((first, second))
    ]
    holds = [
        AssemblyMount(f"frame {a.name}", a.name, a.points_mm[2], STIFF, (4e5, 4e5, 6e5))
        for a in arms
    ]
    holds += [
        AssemblyMount("boss 0", "sheet:sub", (540.0, 60.0, 286.0), STIFF),
        AssemblyMount("boss 1", "sheet:sub", (620.0, -60.0, 286.0), STIFF, (1e5, 1e5, 1e5)),
    ]
    sub = AssemblySheet(name="sub", panels=(panel("sub", 286.0),), thickness_mm=6.0, **STEEL)
    at = (float(rng.uniform(20, 260)), float(rng.uniform(-90, 90)))
    return assembly(
        parts=arms,
        joints=tuple(joints),
        mounts=tuple(holds),
        sheets=(sub,),
        loads=(AssemblyLoad("belly", at, 1000.0),),
    )


@pytest.mark.parametrize("seed", range(12))
def test_every_body_is_in_balance(seed: int) -> None:
    """Forces and moments on plate, sub-plate and each bracket sum to nothing, any assembly."""
    given = bracketed(np.random.default_rng(seed))
    found = only(given)
    load = given.loads[0]
    at = np.array([500 + load.at_mm[0], load.at_mm[1], 280.0])
    for body in given.bodies():
        push = np.array([0, 0, load.force_n]) if body == "plate" else np.zeros(3)
        force, moment = push.copy(), np.cross(at, push)
        acting = [
            (1.0 if j.b == body else -1.0, j.at_mm, found.joints[j.name])
            for j in given.joints
            if body in (j.a, j.b)
        ]
        acting += [(-1.0, m.at_mm, found.mounts[m.name]) for m in given.mounts if m.on == body]
        for sign, place, one in acting:
            force += sign * np.array(one.force_n)
            moment += sign * (np.array(one.moment_n_mm) + np.cross(place, one.force_n))
        assert np.abs(force).max() < 1e-3, body
        assert np.abs(moment).max() < 1.0, body


def guarded(**changes: Any) -> AssemblyInput:
    guard = AssemblySheet(
        name="guard",
        panels=(
            ShellPanel(
                "guard",
                ((0, 0), (120, 0), (120, 80), (0, 80)),
                (560.0, 60.0, 284.0),
                (1, 0, 0),
                (0, 1, 0),
            ),
        ),
        thickness_mm=3.0,
        youngs_modulus_mpa=70_300.0,
        poisson=0.33,
    )
    bench = tuple(
        AssemblyJoint(f"bench {i}", "plate", "sheet:guard", (x, 75.0, 282.0))
        for i, x in enumerate((575.0, 660.0))
    )
    return assembly(sheets=(guard,), joints=bench, **changes)


def test_bench_joints_hold_a_plate_no_better_than_none() -> None:
    """What hangs on the plate alone carries nothing to the bike: mounts keep their shares."""
    bare, hung = only(assembly()), only(guarded())
    for name, acting in bare.mounts.items():
        assert hung.mounts[name].force_n[2] == pytest.approx(acting.force_n[2], abs=12.0)
    lifted = sum(j.force_n[2] for j in hung.joints.values())
    assert lifted == pytest.approx(0.0, abs=1e-3)
    # Two joints a hand apart stiffen the sheet between them: that much they may do, no more.
    assert 0.75 * bare.deflection_mm < hung.deflection_mm <= bare.deflection_mm


def test_a_load_on_what_hangs_goes_through_its_joints() -> None:
    found = only(guarded(loads=(AssemblyLoad("guard", (60.0, 70.0), 200.0),)))
    assert sum(j.force_n[2] for j in found.joints.values()) == pytest.approx(-200.0, abs=1e-3)
    assert sum(m.force_n[2] for m in found.mounts.values()) == pytest.approx(200.0, abs=1e-3)


def test_a_disc_turns_about_as_stiffly_on_a_coarse_mesh_as_on_a_fine_one() -> None:
    """The reason for the disc: a single node's turning stiffness falls without end."""
    coarse, fine = (
        only(dataclasses.replace(bracketed(np.random.default_rng(3)), mesh_mm=m)) for m in (24, 8)
    )
    for name, acting in fine.mounts.items():
        assert coarse.mounts[name].force_n == pytest.approx(acting.force_n, abs=50.0), name
    assert coarse.deflection_mm == pytest.approx(fine.deflection_mm, rel=0.03)


def test_joints_nearer_than_a_washer_are_one_rigid_piece() -> None:
    """Two discs that overlap share their rim: a mount and a joint by one screw."""
    given = bracketed(np.random.default_rng(1))
    at = given.joints[2].at_mm
    together = AssemblyMount("with it", "plate", (at[0] + 3, at[1], 280.0), SOFT, (1e5, 1e5, 1e5))
    found = only(dataclasses.replace(given, mounts=(*given.mounts, together)))
    assert math.isfinite(found.deflection_mm)
    total = sum(m.force_n[2] for m in found.mounts.values())
    assert total == pytest.approx(1000.0, abs=1e-3)


def test_a_screw_hole_under_the_disc_is_bridged_and_a_drain_opening_is_not() -> None:
    def with_hole(radius: float) -> AssemblyInput:
        hole = ShellHole(kind="circle", centre_mm=(75.0, 75.0), radius_mm=radius)
        return guarded(panels=(panel(holes=(hole,)),))

    assert only(with_hole(3.3)).deflection_mm == pytest.approx(
        only(guarded()).deflection_mm, rel=0.02
    )
    with pytest.raises(InputError) as refused:
        only(with_hole(20.0))
    assert refused.value.field == "joints.bench 0.at_mm"


LOOSE = AssemblySheet(name="loose", panels=(panel("loose", 300.0),), thickness_mm=3.0, **STEEL)


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"mounts": ()}, "mounts"),
        (
            {
                "mounts": tuple(
                    AssemblyMount(f"{y}", "plate", (600.0, y, 280.0), SOFT) for y in (-80, 0, 80)
                )
            },
            "mounts",
        ),
        ({"sheets": (LOOSE,)}, "mounts"),
        ({"parts": (bar(),)}, "mounts"),
        ({"joints": (AssemblyJoint("j", "plate", "nothing", (600, 0, 280)),)}, "joints.j.b"),
        ({"joints": (AssemblyJoint("j", "plate", "plate", (600, 0, 280)),)}, "joints.j.b"),
        (
            {
                "parts": (bar(points_mm=((600, 0, 900), (700, 0, 900))),),
                "joints": (AssemblyJoint("j", "bar", "plate", (600, 0, 900)),),
            },
            "joints.j.at_mm",
        ),
        (
            {
                "sheets": (LOOSE,),
                "joints": tuple(
                    AssemblyJoint(f"{x}", "plate", "sheet:loose", (x, 0, 290)) for x in (600, 604)
                ),
            },
            "joints",
        ),
        ({"mounts": (AssemblyMount("m", "plate", (600, 0, 290), SOFT),)}, "mounts.m.at_mm"),
        ({"loads": (AssemblyLoad("apron", (0, 0), 1.0),)}, "loads.0.panel"),
        ({"sheets": (dataclasses.replace(LOOSE, panels=(panel(),)),)}, "panels"),
        ({"mesh_mm": 2.0}, "mesh_mm"),
    ],
)
def test_what_cannot_be_is_refused_by_name(changes: dict[str, Any], field: str) -> None:
    with pytest.raises(InputError) as refused:
        assembly_response(assembly(**changes))
    assert refused.value.field == field


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"points_mm": ((0, 0, 0),)}, "parts.bar.points_mm"),
        ({"points_mm": ((0, 0, 0), (0, 0, 0))}, "parts.bar.points_mm"),
        ({"width_axis": (1.0, 0.0, 0.0)}, "parts.bar.width_axis"),
        ({"width_axis": (0.0, 0.0, 0.0)}, "parts.bar.width_axis"),
        ({"width_mm": 0.0}, "width_mm"),
    ],
)
def test_a_part_that_cannot_be_is_refused(changes: dict[str, Any], field: str) -> None:
    with pytest.raises(InputError) as refused:
        bar(**changes)
    assert refused.value.field == field
