"""The refined strike against published discs and nonlinear finite element plates."""

from __future__ import annotations

import json
import math
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from rugged_shield.core.shell import (
    Factored,
    Place,
    ShellModel,
    ShellPanel,
    factored,
    mesh_panels,
    shell_model,
)
from rugged_shield.core.weighup.one_mode import OneMode, one_mode

DATA = json.loads((Path(__file__).parents[2] / "data/strike.json").read_text())
CLAMPED = [c for c in DATA["cases"] if c["id"].startswith("c_")]


def disc(radius: float, mesh: float = 9.0) -> ShellPanel:
    ring = tuple(
        (radius * math.cos(2 * math.pi * i / 96), radius * math.sin(2 * math.pi * i / 96))
        for i in range(96)
    )
    return ShellPanel("disc", ring, (0, 0, 0), (1, 0, 0), (0, 1, 0))


def held(
    panel: ShellPanel,
    middle: tuple[float, float],
    poisson: float,
    youngs: float,
    t: float,
    freedoms: tuple[int, ...],
    mesh_mm: float,
) -> tuple[ShellModel, Factored]:
    mesh = mesh_panels((panel,), mesh_mm, (Place(0, middle),))
    model = shell_model(mesh, poisson)
    fixed = [6 * int(n) + k for n in mesh.outer[0] for k in freedoms]
    if 0 not in freedoms:
        fixed += [6 * int(mesh.placed[0]) + k for k in (0, 1, 5)]
    return model, factored(model.stiffness(youngs, t), np.unique(np.array(fixed)))


@pytest.mark.parametrize("table", DATA["large_deflection_tables"], ids=lambda t: t["name"])
def test_membrane_stiffness_of_published_discs(table: dict[str, Any]) -> None:
    freedoms = (0, 1, 2, 3, 4, 5) if "immovable" in table["name"] else (2, 3, 4, 5)
    model, solver = held(
        disc(table["R"]), (0, 0), table["nu"], table["E"], table["t"], freedoms, 9.0
    )
    load = np.zeros(6 * len(model.mesh.nodes))
    load[6 * int(model.mesh.placed[0]) + 2] = 1.0
    mode = one_mode(model, solver, load, table["E"], table["t"])
    assert 1 / mode.compliance == pytest.approx(table["k1"], rel=0.01)
    assert mode.membrane_n_per_mm3 == pytest.approx(table["K3"], rel=table["tolerance_rel"])
    force = np.array([2000.0])
    w = force * mode.compliance
    elastic = w**2 / mode.compliance / 2 + mode.membrane_n_per_mm3 * w**4 / 4
    assert mode.energy(force, 1e9) == pytest.approx(elastic, rel=2e-3), "fibres add up to the shell"


def clamped_mode(case: dict[str, Any]) -> OneMode:
    given = case["inputs"]
    w, h = (float(x) for x in case["id"].split("_")[2].split("x"))
    panel = ShellPanel("p", ((0, 0), (w, 0), (w, h), (0, h)), (0, 0, 0), (1, 0, 0), (0, 1, 0))
    youngs, t = given["youngs_modulus_mpa"], float(given["thickness_mm"])
    model, solver = held(
        panel, (w / 2, h / 2), given["poisson"], youngs, t, (0, 1, 2, 3, 4, 5), 10.0
    )
    away = np.linalg.norm(model.mesh.nodes - [w / 2, h / 2, 0], axis=1)
    under = np.flatnonzero(away <= given["contact_radius_mm"])
    load = np.zeros(6 * len(model.mesh.nodes))
    load[6 * under + 2] = 1 / len(under)
    return one_mode(model, solver, load, youngs, t)


@pytest.mark.parametrize("case", CLAMPED, ids=lambda c: c["id"])
def test_deflection_of_nonlinear_plates(case: dict[str, Any]) -> None:
    """None of these plates was used for anything in the mode: it has no fitted number."""
    mode, given = clamped_mode(case), case["inputs"]
    asked = [e * 1000 for e in given["energies_j"]]
    deepest = case["expected"]["energies"][-1]["w_max_mm"]["value"]
    amplitude = np.linspace(0.0, 1.6 * deepest / mode.compliance, 120)
    taken = mode.energy(amplitude, given["yield_mpa"])
    assert (np.diff(taken) > 0).all()
    found = np.interp(asked, taken, amplitude) * mode.compliance
    known = [e["w_max_mm"]["value"] for e in case["expected"]["energies"]]
    errors = found / known - 1
    assert (errors > -0.15).all()
    assert (errors < 0.02).all(), "a shape that does not change is stiff, never soft"


def test_rms_of_all_nonlinear_plates() -> None:
    errors = []
    for case in CLAMPED:
        mode, given = clamped_mode(case), case["inputs"]
        deepest = case["expected"]["energies"][-1]["w_max_mm"]["value"]
        amplitude = np.linspace(0.0, 1.6 * deepest / mode.compliance, 120)
        taken = mode.energy(amplitude, given["yield_mpa"])
        for energy, answer in zip(given["energies_j"], case["expected"]["energies"], strict=True):
            w = float(np.interp(energy * 1000, taken, amplitude)) * mode.compliance
            errors.append(w / answer["w_max_mm"]["value"] - 1)
    assert math.sqrt(float(np.mean(np.square(errors)))) < 0.08
