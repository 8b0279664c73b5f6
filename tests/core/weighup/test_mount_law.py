"""Mounts that bottom or yield: laws, the reduced model, and what they do to a map."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import minimize

from rugged_shield.core.assess.weighup.mount_springs import joint_springs, mount_supports
from rugged_shield.core.errors import InputError
from rugged_shield.core.job.model import Job, mounted
from rugged_shield.core.shell.solve import ShellMount
from rugged_shield.core.survey.bike import Part
from rugged_shield.core.tables.springs import bracket_spring, strip_yield_n
from rugged_shield.core.weighup.mount_law import Corners, MountLaw, Reduced
from rugged_shield.core.weighup.strike_field import StrikeMapInput
from rugged_shield.core.weighup.strike_map import strike_map
from rugged_shield.core.weighup.strike_point import StrikePointInput, strike_point
from tests.core.weighup.flat_pan import CORNERS
from tests.core.weighup.flat_pan import PLATE as FLAT

UP = (0.0, 0.0, 1.0)
RUBBER = MountLaw(name="m0", normal=UP, stiffness_n_per_mm=300.0, bottoms_at_mm=2.0)
STRIP = MountLaw(name="m1", normal=UP, stiffness_n_per_mm=1200.0, yields_at_n=700.0, stroke_mm=10.0)


@given(st.floats(-5, 30), st.sampled_from([RUBBER, STRIP]))
def test_energy_is_the_work_of_the_force(pressed: float, law: MountLaw) -> None:
    at = np.linspace(0, pressed, 4001)
    corners = Corners.of([law])
    excess = corners.excess(at[:, None])[0][:, 0]
    assert float(corners.energy(np.array([[pressed]]))[0]) == pytest.approx(
        float(np.trapezoid(excess, at)), rel=1e-3, abs=1e-2
    )
    force = law.stiffness_n_per_mm * at + excess
    assert (np.diff(force) * np.sign(pressed or 1.0) >= 0).all(), "every law rises"


def test_the_strip_yields_both_ways_and_stops() -> None:
    strip = Corners.of([STRIP])
    assert strip.excess(np.array([[0.5]]))[0][0] == 0.0
    soft = 700 + 0.02 * 1200 * 5.0
    at = np.array([[700 / 1200 + 5.0]])
    assert 1200 * at[0] + strip.excess(at)[0] == pytest.approx(soft)
    assert strip.excess(-at)[0] == pytest.approx(-strip.excess(at)[0])
    assert strip.excess(np.array([[12.0]]))[1][0] > 40_000


def test_laws_asked_together_say_what_each_says_alone() -> None:
    at = np.linspace(-3, 14, 35)
    both, alone = Corners.of([RUBBER, STRIP]), [Corners.of([law]) for law in (RUBBER, STRIP)]
    pressed = np.stack([at, at[::-1]], axis=1)
    for i, law in enumerate(alone):
        for together, one in zip(both.excess(pressed), law.excess(pressed[:, [i]]), strict=True):
            assert together[:, i] == pytest.approx(one[:, 0])
    parts = sum(law.energy(pressed[:, [i]]) for i, law in enumerate(alone))
    assert both.energy(pressed) == pytest.approx(parts)


@settings(max_examples=30, deadline=None)
@given(st.floats(100, 30_000), st.floats(0.0002, 0.003), st.floats(0.0001, 0.0006))
def test_the_reduced_model_is_the_least_energy(force: float, own: float, coupling: float) -> None:
    """Against a general minimiser over the same energy, another way to the same rest."""
    mutual = np.array([[0.0028, coupling], [coupling, 0.0007]])
    reduced = Reduced((RUBBER, STRIP), np.array([[own, own / 2]]), mutual)
    steps = np.linspace(0, force, 12)
    free = steps[None, :, None] * reduced.own[:, None]
    found = reduced.corrections(free)[0, -1]
    pressed = free[0, -1] + mutual @ found
    stiff = np.linalg.inv(mutual)
    corners = Corners.of([RUBBER, STRIP])

    def energy(d: np.ndarray) -> float:
        away = d - free[0, -1]
        return float(away @ stiff @ away) / 2 + float(corners.energy(d[None])[0])

    other = minimize(
        energy,
        free[0, -1],
        method="Nelder-Mead",
        options={"xatol": 1e-7, "fatol": 1e-9, "maxiter": 4000},
    )
    assert energy(pressed) <= other.fun + 1e-3 * (1 + abs(other.fun))
    assert found == pytest.approx(-corners.excess(pressed[None])[0][0], rel=1e-4, abs=0.1)


PLATE = replace(FLAT, thickness_mm=5.0)
MOUNTS = tuple(
    ShellMount(f"m{i}", (x, y, 280.0), (4000.0, 4000.0, 300.0)) for i, (x, y) in enumerate(CORNERS)
)
SUMP = Part(
    key="sump",
    name="sump",
    kind="vital",
    shape="sump",
    x_min_mm=560,
    x_max_mm=760,
    y_min_mm=-60,
    y_max_mm=60,
    z_min_mm=300,
    z_max_mm=340,
)


def asked(law: MountLaw | None, **more: object) -> StrikeMapInput:
    laws = () if law is None else tuple(replace(law, name=m.name) for m in MOUNTS)
    given = StrikeMapInput(
        plate=PLATE, mounts=MOUNTS, parts=(SUMP,), energy_j=150.0, mesh_mm=24.0, laws=laws
    )
    return replace(given, **more)  # type: ignore[arg-type]


def test_laws_that_never_bend_change_nothing() -> None:
    far = replace(RUBBER, bottoms_at_mm=90.0, casting=True)
    plain, bent = strike_map(asked(None)).result, strike_map(asked(far)).result
    for a, b in zip(plain.points, bent.points, strict=True):
        assert b.deflection_mm == pytest.approx(a.deflection_mm, rel=1e-2)
        assert b.peak_force_n == pytest.approx(a.peak_force_n, rel=2e-2)
        assert (a.touches_j is None) == (b.touches_j is None)
        if a.touches_j is not None and b.touches_j is not None:
            assert b.touches_j == pytest.approx(a.touches_j, rel=2e-2)


def test_bottoming_is_less_deep_and_harder_and_a_strip_softer() -> None:
    plain = strike_map(asked(None)).result
    bottomed = strike_map(asked(replace(RUBBER, bottoms_at_mm=2.0))).result
    yielding = strike_map(
        asked(MountLaw(name="s", normal=UP, stiffness_n_per_mm=300.0, yields_at_n=400.0))
    ).result
    assert bottomed.deepest_mm < plain.deepest_mm
    assert yielding.deepest_mm > plain.deepest_mm
    worst = [max(p.worst_mount_n for p in r.points) for r in (yielding, plain, bottomed)]
    assert worst[0] < worst[1] < worst[2]


def test_limits_and_castings_are_told() -> None:
    law = MountLaw(
        name="l",
        normal=UP,
        stiffness_n_per_mm=300.0,
        press_limit_n=900.0,
        press_fails="the boss breaks",
        shear_limit_n=5000.0,
        shear_fails="the screw shears",
        casting=True,
    )
    outcome = strike_map(asked(law))
    point = max(outcome.result.points, key=lambda p: p.worst_share or 0.0)
    assert (point.worst_share or 0.0) > 1.0
    assert point.fails == "the boss breaks"
    assert "past its limit" in {f.code for f in outcome.findings}
    assert all(p.past_share > 0 for p in outcome.result.points), "castings take their share"
    without = strike_map(asked(replace(law, casting=False)))
    for a, b in zip(outcome.result.points, without.result.points, strict=True):
        assert a.past_share >= b.past_share


def test_a_load_within_what_the_estimate_may_be_wrong_by_is_said() -> None:
    law = MountLaw(name="l", normal=UP, stiffness_n_per_mm=300.0, press_limit_n=1e6)
    worst = max(p.worst_share or 0.0 for p in strike_map(asked(law)).result.points) * 1e6
    said = {}
    for share in (0.4, 0.8, 1.2):
        found = strike_map(asked(replace(law, press_limit_n=worst / share))).findings
        said[share] = [f.code for f in found if "past its limit" in f.code]
    assert said == {0.4: [], 0.8: ["may be past its limit"], 1.2: ["past its limit"]}


def test_laws_must_stand_for_the_mounts() -> None:
    with pytest.raises(InputError, match="one for each mount"):
        StrikeMapInput(plate=PLATE, mounts=MOUNTS, laws=(RUBBER,))
    with pytest.raises(InputError, match="unit vector"):
        MountLaw(name="m", normal=(0.0, 0.0, 2.0), stiffness_n_per_mm=300.0)


def test_warm_plastic_gives_more() -> None:
    hdpe = replace(PLATE, material="HDPE", thickness_mm=10.0)
    cold, room, warm = (
        strike_map(asked(None, plate=hdpe, temperature_c=t)).result.deepest_mm
        for t in (-10, 23, 60)
    )
    assert cold < room < warm
    with pytest.raises(InputError, match="temperature"):
        asked(None, temperature_c=120.0)


@pytest.mark.parametrize("law", [None, RUBBER, replace(STRIP, stiffness_n_per_mm=300.0)])
def test_a_point_balances_rises_and_agrees_with_its_map(law: MountLaw | None) -> None:
    given = asked(law)
    point = strike_point(StrikePointInput(given, 660.0, 0.0)).result
    pushed = sum(load.force_n[2] for load in point.loads)
    assert pushed == pytest.approx(point.peak_force_n, rel=0.02), "the mounts bear the blow"
    way = np.array(point.curve)
    assert (np.diff(way[:, 0]) > 0).all()
    assert (np.diff(way[:, 1]) > 0).all()
    work = float(np.trapezoid(way[:, 1], way[:, 0])) / 1000
    assert work > 150.0, "the curve goes past the energy"
    assert point.deflection_mm == pytest.approx(point.form_mm, rel=0.35)
    assert point.near == "sump"
    assert point.touches_j is not None


def test_a_strip_and_a_soft_bracket_are_beams_in_series(choosing: Job) -> None:
    own = choosing.candidate("slide4")
    held = mount_supports(own.plate, mounted(choosing.bike, own))
    strips = [law for law in held.laws if law.yields_at_n is not None]
    assert len(strips) == 2
    assert strips[0].yields_at_n == pytest.approx(2 * 235 * 21 * 4**2 / 4 / 60)
    assert strip_yield_n(235, 21, 4, 60) == strips[0].yields_at_n
    assert bracket_spring(205e3, 30, 4, 60, True) == 4 * bracket_spring(205e3, 30, 4, 60, False)
    joint = next(j for j in own.settled_joints() if j.mount == "m3")
    bare = replace(joint, layers=tuple(x for x in joint.layers if x.kind != "strip"))
    mount = choosing.bike.mount("m3")
    assert joint_springs(joint, mount)[0] < joint_springs(bare, mount)[0]


def test_isolators_bottom_and_castings_are_known(choosing: Job) -> None:
    hdpe, steel25 = choosing.candidate("hdpe10"), choosing.candidate("steel25")
    held = mount_supports(hdpe.plate, mounted(choosing.bike, hdpe))
    rubber = [law for law in held.laws if law.bottoms_at_mm is not None]
    assert len(rubber) == 2
    assert all(law.casting and law.shear_fails == "the isolator tears" for law in rubber)
    steel = mount_supports(steel25.plate, mounted(choosing.bike, steel25))
    assert not any(law.casting for law in steel.laws)
    assert all(law.pull_limit_n and law.shear_limit_n for law in steel.laws)
