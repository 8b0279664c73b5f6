"""A dent run backwards finds the energy that the map's own form made it with."""

from __future__ import annotations

from dataclasses import replace

import pytest

from rugged_shield.core.assess.weighup.strike import scars_said
from rugged_shield.core.job.edits.path import set_text
from rugged_shield.core.job.model import Job
from rugged_shield.core.survey.found import Scar
from rugged_shield.core.weighup.dent_back import DentInput, dent_energy
from rugged_shield.core.weighup.strike_field import StrikeMapInput
from rugged_shield.core.weighup.strike_map import strike_map
from tests.core.weighup.flat_pan import MOUNTS
from tests.core.weighup.flat_pan import PLATE as FLAT

PLATE = replace(FLAT, thickness_mm=3.0)
GIVEN = StrikeMapInput(plate=PLATE, mounts=MOUNTS, mesh_mm=24.0)


@pytest.mark.parametrize("energy", [120.0, 250.0, 500.0])
def test_a_dent_leads_back_to_its_energy(energy: float) -> None:
    points = strike_map(replace(GIVEN, energy_j=energy)).result.points
    point = min(points, key=lambda p: abs(p.place_mm[0] - 660) + abs(p.place_mm[1]))
    assert point.dent_mm is not None
    back = dent_energy(DentInput(GIVEN, point.place_mm[0], point.place_mm[1], point.dent_mm))
    found = back.result
    assert found.likely_j == pytest.approx(energy, rel=0.03)
    assert found.least_j is not None
    assert found.most_j is not None
    assert found.least_j < energy < found.most_j


def test_plastic_sliding_and_impossible_dents_tell_nothing() -> None:
    plastic = replace(GIVEN, plate=replace(PLATE, material="HDPE", thickness_mm=8.0))
    said = dent_energy(DentInput(plastic, 660, 0, 5.0))
    assert said.result.likely_j is None
    assert said.verdict == "not known"
    assert "springs back" in said.reasons[0]
    thick = replace(GIVEN, plate=replace(FLAT, thickness_mm=8.0))
    deep = dent_energy(DentInput(thick, 660, 0, 79.0))
    assert deep.result.likely_j is None


def test_scars_of_a_job_say_their_energy_or_why_not(choosing: Job) -> None:
    plastic = scars_said(choosing)
    assert len(plastic) == 2
    assert all(s.energy is None or s.energy.result.likely_j is None for s in plastic)
    metal = set_text(choosing, "stock.plate.material", "aluminium 5052-H32").job
    scar = Scar(
        key="deep",
        kind="dent",
        panel="belly",
        u_mm=150.0,
        v_mm=20.0,
        length_mm=40.0,
        width_mm=30.0,
        depth_mm=5.0,
    )
    said = scars_said(replace(metal, scars=(scar,)))[0]
    assert said.energy is not None
    found = said.energy.result
    assert found.least_j is not None
    assert found.likely_j is not None
    assert found.most_j is not None
    assert 1.0 <= found.least_j < found.likely_j < found.most_j <= 2000.0
