"""Mounts that yield to turning: what they no longer take goes on, as a softer shell says too."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest

from rugged_shield.core.assess.weighup.mount_springs import mount_supports
from rugged_shield.core.job.model import Job, mounted
from rugged_shield.core.mechanics import threads
from rugged_shield.core.shell.solve import ShellMount
from rugged_shield.core.weighup.mount_law import HARDENING, PRIED, MountLaw
from rugged_shield.core.weighup.strike_field import StrikeMapInput
from rugged_shield.core.weighup.strike_linear import Linear, linear_of, shell_of
from rugged_shield.core.weighup.strike_map import strike_map
from rugged_shield.core.weighup.turning import LEVELS, turning_of
from tests.core.weighup.flat_pan import CORNERS, PLATE

UP = np.array([0.0, 0.0, 1.0])
TURNS_NMM_PER_RAD = 1e6
MOUNTS = tuple(
    ShellMount(f"m{i}", (x, y, 280.0), (4000.0, 4000.0, 2300.0), TURNS_NMM_PER_RAD)
    for i, (x, y) in enumerate(CORNERS)
)


def law(mount: ShellMount, turns_at_nmm: float | None, **more: float) -> MountLaw:
    return MountLaw(
        name=mount.name,
        normal=(0.0, 0.0, 1.0),
        stiffness_n_per_mm=2300.0,
        turns_at_nmm=turns_at_nmm,
        **more,  # type: ignore[arg-type]
    )


def linear(turns: float, mounts: tuple[ShellMount, ...] = MOUNTS) -> Linear:
    held = tuple(replace(m, rotational_nmm_per_rad=turns) for m in mounts)
    return linear_of(shell_of(PLATE, held, 24.0, 20.0))


def asked(
    turns_at_nmm: float | None, mounts: tuple[ShellMount, ...] = MOUNTS, **more: float
) -> StrikeMapInput:
    laws = tuple(law(m, turns_at_nmm, **more) for m in mounts)
    return StrikeMapInput(plate=PLATE, mounts=mounts, energy_j=60.0, mesh_mm=24.0, laws=laws)


@pytest.mark.parametrize("steps", [1, 4, 30])
def test_past_its_yield_a_mount_is_the_softer_spring_that_it_hardens_with(steps: int) -> None:
    """Yielding at next to nothing, it says what a shell on 2 % of the springs says."""
    stiff, soft = linear(TURNS_NMM_PER_RAD), linear(HARDENING * TURNS_NMM_PER_RAD)
    nodes = np.arange(0, len(stiff.mesh.nodes), 7)
    turning = turning_of(stiff, tuple(law(m, 1.0) for m in MOUNTS), nodes, UP)
    force = np.linspace(0.0, 4000.0, steps + 1)[None, 1:] * np.ones((len(nodes), 1))
    passed_on = turning.passed_on(force)
    moved = force[..., None, None] * (stiff.at_mounts[nodes] @ UP)[:, None]
    there = force[:, -1, None, None] * (soft.at_mounts[nodes] @ UP)
    assert (moved + turning.drawn(passed_on))[:, -1, :, 2] == pytest.approx(
        there[:, :, 2], rel=1e-3, abs=2e-4
    )
    gives = np.einsum("nij,i,j->n", soft.compliance[nodes] - stiff.compliance[nodes], UP, UP)
    assert turning.gives_mm(passed_on)[:, -1] == pytest.approx(
        force[:, -1] * gives, rel=2e-3, abs=1e-3
    )


def test_a_mount_that_never_yields_changes_nothing() -> None:
    plain, far = strike_map(asked(None)).result, strike_map(asked(1e8)).result
    for a, b in zip(plain.points, far.points, strict=True):
        assert b.deflection_mm == pytest.approx(a.deflection_mm, rel=1e-3)
        assert b.worst_mount_n == pytest.approx(a.worst_mount_n, rel=1e-3)


def test_nobody_holds_more_than_it_bears_and_hardens_by() -> None:
    limit = 20_000.0
    stiff = linear(TURNS_NMM_PER_RAD)
    nodes = np.arange(len(stiff.mesh.nodes))
    turning = turning_of(stiff, tuple(law(m, limit) for m in MOUNTS), nodes, UP)
    force = np.full(len(nodes), 6000.0)
    passed_on = turning.passed_on(force[:, None])[:, 0]
    turned = np.abs(force[:, None] * turning.springs.own + passed_on @ turning.springs.mutual.T)
    beyond = HARDENING * TURNS_NMM_PER_RAD * turned.reshape(len(nodes), -1, 2)
    held = turning.moments(force, passed_on)
    assert (held <= np.hypot(limit + beyond[..., 0], limit + beyond[..., 1]) + 1.0).all()
    assert held.max() > limit
    assert (turning.gives_mm(passed_on[:, None]) >= -1e-9).all(), "what yields only gives more"


def test_moments_rise_with_the_force_and_levels_lie_close_to_each_step() -> None:
    stiff = linear(TURNS_NMM_PER_RAD)
    nodes = np.arange(0, len(stiff.mesh.nodes), 5)
    turning = turning_of(stiff, tuple(law(m, 8_000.0) for m in MOUNTS), nodes, UP)
    force = np.linspace(0.0, 6000.0, 31)[None] * np.ones((len(nodes), 1))
    between = turning.gives_mm(turning.passed_on(force))
    exact = turning.springs.corrections(force[..., None] * turning.springs.own[:, None])
    assert (np.diff(between, axis=1) >= -1e-9).all()
    worst = np.abs(between - turning.gives_mm(exact)).max() / between.max()
    assert worst < 0.5 / LEVELS


def test_three_joints_on_one_side_are_pried() -> None:
    """A plate held along one edge leans on its screws: far more than their springs alone say."""
    left = tuple(m for m in MOUNTS if m.at_mm[1] < 0)
    middle = replace(left[0], name="m9", at_mm=(680.0, left[0].at_mm[1], 280.0))
    more = {"pull_limit_n": 20_000.0, "press_limit_n": 40_000.0}
    alone = strike_map(asked(None, (*left, middle), **more)).result.points
    pried = strike_map(
        asked(28_000.0, (*left, middle), pries_at_nmm=20_000.0 * 8.0, **more)
    ).result.points
    share = [float(np.median([p.worst_share or 0.0 for p in points])) for points in (alone, pried)]
    assert share[1] > 2 * share[0]
    assert any(p.fails == PRIED for p in pried)


def test_a_tab_bends_and_a_boss_pries(choosing: Job) -> None:
    """Tab 30 × 4 of S235: 235 · 30 · 4²/4; a boss: its screw's pull over half its face."""
    laws = {}
    for at in mounted(choosing.bike, choosing.in_hand):
        kind = at.mount.kind if at.mount is not None else "frame tab"
        supports = mount_supports(choosing.in_hand.plate, (at,))
        if supports.laws:
            laws[kind] = supports.laws[0], at.joint
    tab, _ = laws["frame tab"]
    assert tab.turns_at_nmm == pytest.approx(28_200.0)
    for found, joint in laws.values():
        assert found.pries_at_nmm is not None
        assert found.pull_limit_n is not None
        assert found.turns_at_nmm is not None
        arm = found.pries_at_nmm / found.pull_limit_n
        assert threads.row_of(joint.thread).d_mm / 2 < arm <= 30.0
        assert found.turns_at_nmm <= found.pries_at_nmm


def test_what_presses_a_mount_takes_from_what_pries_it() -> None:
    one = law(MOUNTS[0], None, pull_limit_n=10_000.0, pries_at_nmm=80_000.0)
    zero = np.zeros(1)
    assert one.share(zero, zero, np.array([40_000.0]))[0] == pytest.approx(0.5)
    assert one.share(np.array([-5000.0]), zero, np.array([40_000.0]))[0] == pytest.approx(1.0)
    assert one.share(np.array([5000.0]), zero, np.array([40_000.0]))[0] == pytest.approx(0.0)
    assert one.fails(0.0, 0.0, 40_000.0) == PRIED
    assert math.isfinite(float(one.share(zero, zero, zero)[0]))
