"""What a material is stands in the tables, and agrees with what its name says to a reader."""

from __future__ import annotations

from dataclasses import replace

import pytest

from rugged_shield.core.fitup.layer import Layer
from rugged_shield.core.job.model import Job
from rugged_shield.core.tables.materials import (
    LAYER_MATERIALS,
    SHEET_MATERIALS,
)
from rugged_shield.core.tables.thread_materials import THREAD_MATERIALS

TABLES = {**LAYER_MATERIALS, **SHEET_MATERIALS, **THREAD_MATERIALS}


@pytest.mark.parametrize("name", sorted(TABLES))
def test_a_material_is_one_thing(name: str) -> None:
    nature = TABLES[name]
    assert (bool(nature.metal) + nature.rubber + nature.plastic) == 1
    assert nature.metal or not nature.cast


@pytest.mark.parametrize("name", sorted(TABLES))
def test_its_name_says_the_same(name: str) -> None:
    """The names are for people; this is the one place where they are read for what they say."""
    words = name.lower()
    nature = TABLES[name]
    if "cast" in words:
        assert nature.cast
    if "rubber" in words:
        assert nature.rubber
    for metal in ("aluminium", "magnesium", "stainless"):
        if metal in words:
            assert nature.metal == metal


def layer(kind: str, material: str) -> Layer:
    return Layer(
        key="x",
        kind=kind,
        name="x",
        material=material,
        thickness_mm=3.0,
        tol_mm=0.1,
        outer_mm=20.0,
        hole_mm=8.4,
    )


def test_soft_is_what_gives_under_clamping() -> None:
    assert layer("isolator", "rubber").is_soft
    assert not layer("spacer", "steel").is_soft
    assert layer("plate", "HDPE").is_plastic
    assert not layer("plate", "aluminium 5052-H32").is_plastic
    assert layer("plate", "aluminium 5052-H32").clamps_plate
    assert not layer("washer", "steel").clamps_plate


def test_a_joint_with_rubber_is_soft_and_one_without_is_not(choosing: Job) -> None:
    joint = choosing.candidate("alu5").joints[0]
    hard = replace(joint, layers=tuple(x for x in joint.layers if not x.is_soft))
    assert not hard.is_soft
    assert replace(hard, layers=(*hard.layers, layer("isolator", "rubber"))).is_soft
    assert hard.clamps_plate
