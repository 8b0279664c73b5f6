"""Energy form: published limits, monotone curves, work that adds up, what is said beyond it."""

from __future__ import annotations

import json
import math
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import quad

from rugged_shield.core.errors import InputError
from rugged_shield.core.weighup.response import (
    ResponseInput,
    curve_of,
    deflection_at,
    dent_of,
    strike_response,
)
from rugged_shield.core.weighup.strike import patch_stiffness

DATA = json.loads((Path(__file__).parents[2] / "data/strike.json").read_text())
GIVEN = ResponseInput(
    plate_stiffness_n_per_mm=570.0,
    thickness_mm=4.0,
    youngs_modulus_mpa=70_000.0,
    poisson=0.33,
    yield_mpa=200.0,
    energies_j=(20.0, 60.0, 150.0),
)


def curve(in_plane: float = math.inf, stiffness: float = 570.0, edge: str = "bolted"):  # type: ignore[no-untyped-def]
    return curve_of(
        np.array([stiffness]),
        4.0,
        70_000.0,
        0.33,
        200.0,
        np.array([in_plane]),
        edge,
        15.0,  # type: ignore[arg-type]
    )


def test_the_disc_has_its_published_stiffness_and_limit_load() -> None:
    """k = 16πD/R² (Timoshenko); P_L = 4π m_p (rigid-plastic clamped disc)."""
    table = DATA["limit_load_tables"][0]
    rigidity = 70_000 * 4.0**3 / (12 * (1 - 0.3**2))
    k = 16 * math.pi * rigidity / table["R"] ** 2
    made, radius = curve_of(
        np.array([k]), 4.0, 70_000.0, 0.3, 200.0, np.array([math.inf]), "clamped", 15.0
    )
    assert radius[0] == pytest.approx(table["R"])
    assert made.limit[0] == pytest.approx(table["P"], rel=table["tolerance_rel"])
    von_karman = DATA["large_deflection_tables"][0]
    assert k == pytest.approx(von_karman["k1"], rel=0.01)
    assert made.k3[0] == pytest.approx(von_karman["K3"], rel=von_karman["tolerance_rel"])


def test_small_blows_are_elastic_and_half_k_w_squared() -> None:
    response = strike_response(replace(GIVEN, energies_j=(0.1,))).result.energies[0]
    assert response.w_plate_mm == pytest.approx(math.sqrt(2 * 100 / 570.0), rel=0.02)
    assert response.dent_mm == pytest.approx(0.0, abs=0.02)


@settings(max_examples=40)
@given(st.floats(50, 5000), st.floats(100, 20_000), st.floats(1, 400))
def test_work_up_to_the_deflection_is_the_energy(k: float, in_plane: float, energy: float) -> None:
    made, _ = curve(in_plane, k)
    w = float(deflection_at(made, np.array([1e-4]), energy * 1000)[0])
    work, _ = quad(lambda x: float(made.force(np.array([x]))[0]), 0, w)
    force = float(made.force(np.array([w]))[0])
    assert work + 1e-4 * force**2 / 2 == pytest.approx(energy * 1000, rel=1e-4)


@settings(max_examples=40)
@given(st.floats(1, 300), st.floats(1.05, 3.0))
def test_more_energy_goes_deeper_harder_and_dents_more(energy: float, times: float) -> None:
    made, _ = curve(8000.0)
    w = [float(deflection_at(made, np.array([0.0]), e * 1000)[0]) for e in (energy, energy * times)]
    assert w[1] > w[0]
    assert made.force(np.array([w[1]]))[0] > made.force(np.array([w[0]]))[0]
    dents = [float(dent_of(made, np.array([x]))[0]) for x in w]
    assert 0 <= dents[0] <= dents[1] + 1e-9
    assert dents[1] <= w[1]


def test_held_in_plane_is_stiffer_than_sliding() -> None:
    deep = [
        strike_response(replace(GIVEN, in_plane_stiffness_n_per_mm=k)).result.energies[2]
        for k in (None, 10_000.0, 2000.0, 0.0)
    ]
    w = [r.w_max_mm for r in deep]
    assert w == sorted(w)
    assert deep[3].dent_mm is None, "sliding bolts leave no useful estimate"
    soft = strike_response(replace(GIVEN, in_plane_stiffness_n_per_mm=2000.0))
    assert [f.code for f in soft.findings] == ["soft in plane"]
    response = soft.result.energies[0]
    assert response.w_most_mm / response.w_max_mm == pytest.approx(1.35)


def test_a_small_hard_stone_may_punch_through() -> None:
    hard = replace(
        GIVEN,
        thickness_mm=1.5,
        contact_radius_mm=5.0,
        family="aluminium",
        ultimate_mpa=230.0,
        energies_j=(10.0, 400.0),
    )
    assert "may punch through" in {f.code for f in strike_response(hard).findings}
    assert strike_response(replace(GIVEN, energies_j=(5.0,))).findings == ()


def test_the_patch_is_stiffer_than_its_node() -> None:
    node = 1 / 570.0
    small, large = (
        float(patch_stiffness(np.array(node), r, 4.0, 70_000.0, 0.33)) for r in (5.0, 25.0)
    )
    assert 570.0 < small < large


@pytest.mark.parametrize(
    "change",
    [
        {"energies_j": ()},
        {"energies_j": (float("nan"),)},
        {"energies_j": (1e9,)},
        {"contact_radius_mm": 60.0},
        {"in_plane_stiffness_n_per_mm": 50_000.0},
        {"thickness_mm": 0.1},
    ],
)
def test_refusals(change: dict[str, object]) -> None:
    with pytest.raises(InputError):
        replace(GIVEN, **change)  # type: ignore[arg-type]
