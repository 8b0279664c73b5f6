"""VDI 2230-1 Table A1 as printed: preload and torque at 90 % of yield."""

from __future__ import annotations

import math
from typing import Any

import pytest

from rugged_shield.core.mechanics.preload import PreloadInput, assembly_preload

DOUBTFUL = ("M4", "10.9", 0.12)


def rows(reference: dict[str, Any]) -> list[dict[str, Any]]:
    return [
        row
        for row in reference["tables"]["vdi2230_A1"]["rows"]
        if (row["thread"], row["grade"], row["mu"]) != DOUBTFUL
    ]


def computed(reference: dict[str, Any], row: dict[str, Any]) -> Any:
    table = reference["tables"]["vdi2230_A1"]
    size = row["thread"].split("x")[0]
    return assembly_preload(
        PreloadInput(
            thread=row["thread"],
            bolt_rp02_mpa=table["Rp02_MPa"][row["grade"]],
            mu_thread=row["mu"],
            mu_head=row["mu"],
            head_bearing_diameter_mm=table["d_w_mm"][size],
            head_bearing_hole_mm=table["d_h_mm"][size],
            utilisation=table["nu"],
        )
    ).result


def half_digit(printed: float) -> float:
    """Half of the last printed digit."""
    text = str(printed)
    return 0.5 * 10 ** -len(text.split(".")[1]) if "." in text else 0.5


def test_printed_preload_and_torque(reference: dict[str, Any]) -> None:
    checked = 0
    for row in rows(reference):
        result = computed(reference, row)
        share = 0.025 if row["thread"] == "M4" else 0.015
        for printed, value in (
            (row["F_published_kN"], result.preload_n / 1000),
            (row["M_published_Nm"], result.torque_nm),
        ):
            off = abs(value - printed) - half_digit(printed)
            assert off <= share * printed, (row["thread"], row["grade"], row["mu"], value, printed)
            checked += 1
    assert checked == 250


def test_both_forms_as_computed_independently(reference: dict[str, Any]) -> None:
    for row in rows(reference):
        result = computed(reference, row)
        for key, value in (
            ("F_linear_kN", result.preload_linear_form_n / 1000),
            ("M_linear_Nm", result.torque_linear_form_nm),
            ("F_exact_kN", result.preload_exact_form_n / 1000),
            ("M_exact_Nm", result.torque_exact_form_nm),
        ):
            assert value == pytest.approx(row[key], rel=5e-4), (row["thread"], key)


def test_the_doubtful_row_is_really_off(reference: dict[str, Any]) -> None:
    row = next(
        r
        for r in reference["tables"]["vdi2230_A1"]["rows"]
        if (r["thread"], r["grade"], r["mu"]) == DOUBTFUL
    )
    assert math.isclose(computed(reference, row).torque_nm, 4.35, abs_tol=0.01)
    assert row["M_published_Nm"] == 4.6
