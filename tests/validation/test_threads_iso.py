"""Thread geometry and strip areas against ISO tables and FED-STD-H28/2B values."""

from __future__ import annotations

import math
from typing import Any

import pytest

from rugged_shield.core.mechanics.strip import shear_areas
from rugged_shield.core.mechanics.threads import geometry, geometry_of, screw_size
from rugged_shield.core.quantity import TORQUE_UNITS_NM
from rugged_shield.core.tables.grades import GRADES
from rugged_shield.core.tables.threads import INCH_THREADS, ISO_THREADS, THREADS

PRINTED_AS = {"M5": 14.2, "M6": 20.1, "M8": 36.6, "M10": 58.0}


def test_diameters_and_stress_area(reference: dict[str, Any]) -> None:
    table = reference["tables"]["thread_geometry"]["rows"]
    assert set(table) == set(ISO_THREADS)
    for name, row in table.items():
        geo = geometry_of(name)
        assert geo.d2_mm == pytest.approx(row["d2_mm"], abs=1e-3)
        assert geo.d1_mm == pytest.approx(row["D1_mm"], abs=1e-3)
        assert geo.d3_mm == pytest.approx(row["d3_mm"], abs=1e-3)
        assert geo.stress_area_mm2 == pytest.approx(row["As_mm2"], rel=5e-4)
        assert geo.stress_area_mm2 == pytest.approx(row["As_published_mm2"], rel=2e-3)


@pytest.mark.parametrize(("thread", "printed"), PRINTED_AS.items())
def test_stress_area_rounds_to_the_printed_one(thread: str, printed: float) -> None:
    assert round(geometry_of(thread).stress_area_mm2, 1) == printed


INCH_AREAS_IN2 = {
    "1/4-20 UNC": 0.0318,
    "1/4-28 UNF": 0.0364,
    "5/16-18 UNC": 0.0524,
    "5/16-24 UNF": 0.0580,
    "3/8-16 UNC": 0.0775,
    "3/8-24 UNF": 0.0878,
}
"""Tensile stress areas as ASME B1.1 prints them, square inches."""


def test_stress_areas_of_inch_threads_are_the_printed_ones() -> None:
    assert set(INCH_AREAS_IN2) == set(INCH_THREADS)
    for thread, printed in INCH_AREAS_IN2.items():
        area = geometry_of(thread).stress_area_mm2 / 25.4**2
        assert area == pytest.approx(printed, abs=1e-4)
        row = INCH_THREADS[thread]
        assert row.d_min_mm < row.d_mm
        assert row.d2_min_mm < geometry_of(thread).d2_mm < row.d2_max_mm
        assert geometry_of(thread).d1_mm < row.d1_max_mm


@pytest.mark.parametrize(
    ("thread", "length_mm", "said"),
    [
        ("M8", 30.0, "M8 × 30"),
        ("1/4-20 UNC", 31.75, "1/4-20 UNC × 1 1/4 in"),
        ("3/8-24 UNF", 25.4, "3/8-24 UNF × 1 in"),
        ("5/16-18 UNC", 12.7, "5/16-18 UNC × 1/2 in"),
        ("5/16-18 UNC", 26.0, "5/16-18 UNC × 1.02 in"),
        ("M6", None, "M6"),
    ],
)
def test_a_screw_is_asked_for_in_its_own_units(
    thread: str, length_mm: float | None, said: str
) -> None:
    assert screw_size(thread, length_mm) == said


def test_proof_loads(reference: dict[str, Any]) -> None:
    """Stress area × ISO 898-1 proof stress gives the printed proof loads within 0.7 %."""
    table = reference["tables"]["thread_geometry"]["rows"]
    for name, row in table.items():
        area = geometry_of(name).stress_area_mm2
        assert area * 580 == pytest.approx(row["proof_8.8_published_N"], rel=7e-3)
        assert area * 830 == pytest.approx(row["proof_10.9_published_N"], rel=7e-3)
        load = area * GRADES["A2-70"].rp02_mpa
        assert load == pytest.approx(row["A2-70_Rp02_load_N"], rel=1e-3)


def test_strip_areas(reference: dict[str, Any]) -> None:
    for row in reference["tables"]["strip"]["areas"]:
        limits = "nominal" if row["limits"] == "nominal" else "6g/6H minimum material"
        got = shear_areas(row["thread"], limits)
        assert got.internal == pytest.approx(row["ASn_per_mm"], rel=1e-3)
        assert got.external == pytest.approx(row["ASs_per_mm"], rel=1e-3)


@pytest.mark.parametrize("thread", THREADS)
def test_nominal_strip_areas_have_their_closed_form(thread: str) -> None:
    """With basic sizes ASn = 7/8 π d and ASs = 3/4 π D1 per mm, exactly."""
    geo = geometry_of(thread)
    got = shear_areas(thread, "nominal")
    assert got.internal == pytest.approx(7 / 8 * math.pi * geo.d_mm, rel=1e-12)
    assert got.external == pytest.approx(3 / 4 * math.pi * geo.d1_mm, rel=1e-12)
    worst = shear_areas(thread)
    assert 0.6 < worst.internal / got.internal < 0.85


def test_geometry_refuses_a_pitch_that_is_none() -> None:
    for pitch in (0.0, -1.0, 4.0, 9.0):
        with pytest.raises(ValueError, match="pitch_mm"):
            geometry(8.0, pitch)


def test_torque_units_are_exact(reference: dict[str, Any]) -> None:
    assert reference["tables"]["unit_factors_to_Nm"] == TORQUE_UNITS_NM
    assert TORQUE_UNITS_NM["lbf.ft"] == pytest.approx(0.45359237 * 9.80665 * 0.3048, rel=1e-15)
    assert 30 * TORQUE_UNITS_NM["lbf.ft"] == pytest.approx(40.675, abs=5e-4)
