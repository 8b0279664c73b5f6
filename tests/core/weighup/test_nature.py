"""Ring, corrosion, service and air against rules and closed forms outside the code."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rugged_shield.core.errors import InputError
from rugged_shield.core.survey.bike import Part
from rugged_shield.core.survey.plate import Apron, Belly, Plate
from rugged_shield.core.tables.materials import SHEET_MATERIALS
from rugged_shield.core.weighup.airflow import AirInput, airflow
from rugged_shield.core.weighup.corrosion import CorrosionInput, MetalPair, corrosion
from rugged_shield.core.weighup.ring import RingInput, layer_loss, ring
from rugged_shield.core.weighup.service import ServiceInput, service


def two_layers_loss(e1: float, t1: float, e2: float, t2: float, eta2: float) -> float:
    """Loss of a bonded two-layer strip from its complex bending stiffness, another way."""
    m2 = e2 * complex(1, eta2)
    axis = (e1 * t1 * t1 / 2 + m2 * t2 * (t1 + t2 / 2)) / (e1 * t1 + m2 * t2)
    stiff = e1 * (t1**3 / 12 + t1 * (t1 / 2 - axis) ** 2)
    stiff += m2 * (t2**3 / 12 + t2 * (t1 + t2 / 2 - axis) ** 2)
    return stiff.imag / stiff.real


@pytest.mark.parametrize("layer", [3.0, 6.0, 12.0])
@pytest.mark.parametrize("sheet", ["aluminium 5052-H32", "mild steel S235"])
def test_a_bonded_layer_damps_as_a_complex_strip_does(sheet: str, layer: float) -> None:
    own, soft = SHEET_MATERIALS[sheet], SHEET_MATERIALS["HDPE"]
    found = layer_loss(RingInput(sheet, 4.0, "HDPE", layer, True))
    other = two_layers_loss(
        own.youngs_modulus_gpa, 4.0, soft.youngs_modulus_gpa, layer, soft.loss_factor
    )
    assert found == pytest.approx(other, rel=0.12)


def test_plastic_and_rubber_are_quieter_than_metal_on_its_own() -> None:
    metal = ring(RingInput("aluminium 5052-H32", 5.0)).result
    assert metal.ring_s == pytest.approx(2.2 / (500 * 0.0055))
    assert ring(RingInput("HDPE", 10.0)).result.ring_s < metal.ring_s / 10
    assert ring(RingInput("aluminium 5052-H32", 5.0, on_rubber=True)).result.ring_s < metal.ring_s
    half = ring(RingInput("aluminium 5052-H32", 5.0, "HDPE", 6.0)).result.ring_s
    bonded = ring(RingInput("aluminium 5052-H32", 5.0, "HDPE", 6.0, True)).result.ring_s
    assert bonded < half < metal.ring_s


def test_a_layer_without_thickness_is_refused() -> None:
    with pytest.raises(InputError) as refused:
        RingInput("aluminium 5052-H32", 5.0, "HDPE")
    assert refused.value.field == "slider_thickness_mm"


@pytest.mark.parametrize(
    ("first", "second", "wet", "suffers"),
    [
        ("stainless", "aluminium", True, "aluminium"),
        ("aluminium", "steel", True, ""),
        ("steel", "magnesium", False, "magnesium"),
        ("stainless", "steel", True, "steel"),
        ("zinc", "aluminium", True, ""),
        ("stainless", "magnesium", False, "magnesium"),
    ],
)
def test_which_metal_suffers(first: str, second: str, wet: bool, suffers: str) -> None:
    found = corrosion(CorrosionInput((MetalPair("here", first, second),), wet))
    assert [p.suffers for p in found.result.pairs] == ([suffers] if suffers else [])
    mirrored = corrosion(CorrosionInput((MetalPair("here", second, first),), wet))
    assert [p.suffers for p in mirrored.result.pairs] == [p.suffers for p in found.result.pairs]


def test_a_greased_pair_is_known_but_not_open() -> None:
    pair = MetalPair("joint 3, thread", "stainless", "aluminium", "stainless", "anti-seize")
    found = corrosion(CorrosionInput((pair,)))
    assert found.result.pairs[0].cured == "anti-seize"
    assert found.result.open_pairs == 0
    assert found.findings == ()


def test_a_small_part_beside_a_large_one_goes_fast() -> None:
    pair = MetalPair("joint 1, head", "steel", "stainless", "steel")
    assert "goes fast" in corrosion(CorrosionInput((pair,))).findings[0].text


def test_an_unknown_metal_is_refused() -> None:
    with pytest.raises(InputError):
        MetalPair("here", "copper", "steel")


@given(st.integers(0, 12), st.floats(1000, 20000), st.floats(1000, 12000))
def test_minutes_grow_with_screws_and_kilometres(screws: int, km: float, interval: float) -> None:
    less = service(ServiceInput("plate off", screws, False, km, interval)).result
    more = service(ServiceInput("plate off", screws + 1, False, km, interval)).result
    assert more.minutes_per_year > less.minutes_per_year
    assert less.minutes_per_year == pytest.approx(less.minutes_each * km / interval)
    twice = service(ServiceInput("plate off", screws, False, km * 2, interval)).result
    assert twice.minutes_per_year == pytest.approx(2 * less.minutes_per_year)


def wall(width_mm: float, height_mm: float) -> Plate:
    """An upright apron of a given width and height above a short belly."""
    belly = Belly(
        start_x_mm=600.0,
        length_mm=100.0,
        front_width_mm=width_mm,
        rear_width_mm=width_mm,
        z_front_mm=300.0,
        z_rear_mm=300.0,
    )
    return Plate(
        key="wall",
        name="wall",
        role="candidate",
        material="HDPE",
        thickness_mm=10.0,
        form="flat",
        mounting="frame",
        belly=belly,
        apron=Apron(height_mm, 90.0, width_mm),
    )


ENGINE = Part(
    key="engine",
    name="engine",
    kind="vital",
    shape="case",
    x_min_mm=650,
    x_max_mm=900,
    y_min_mm=-100,
    y_max_mm=100,
    z_min_mm=300,
    z_max_mm=500,
)


@pytest.mark.parametrize(
    ("width", "height", "share"),
    [(200, 200, 1.0), (100, 200, 0.5), (200, 100, 0.5), (400, 300, 1.0)],
)
def test_a_wall_hides_its_share_of_the_front(width: float, height: float, share: float) -> None:
    found = airflow(AirInput(wall(width, height), (ENGINE,))).result
    assert found.share == pytest.approx(share, abs=1e-6)
    assert found.front_mm2 == pytest.approx(200 * 200)


def test_air_for_nothing_is_refused() -> None:
    with pytest.raises(InputError):
        AirInput(wall(200, 200), ())


def test_a_flat_plate_takes_no_air() -> None:
    belly = Belly(
        start_x_mm=600.0,
        length_mm=300.0,
        front_width_mm=250.0,
        rear_width_mm=250.0,
        z_front_mm=290.0,
        z_rear_mm=290.0,
    )
    flat = Plate(
        key="flat",
        name="flat",
        role="candidate",
        material="HDPE",
        thickness_mm=10.0,
        form="flat",
        mounting="frame",
        belly=belly,
    )
    assert math.isclose(airflow(AirInput(flat, (ENGINE,))).result.share, 0.0)


def test_bare_sheets_are_one_class_and_plastic_another() -> None:
    """An ear does not tell 0.80 from 0.73 s: screws damp a metal sheet more than it does."""
    bare = {
        ring(RingInput(name, t)).result.sounds
        for name, t in (("aluminium 5052-H32", 5.0), ("mild steel S235", 2.5), ("stainless 304", 2))
    }
    assert bare == {"rings on"}
    assert ring(RingInput("HDPE", 10.0)).result.sounds == "dull"
    assert ring(RingInput("aluminium 5052-H32", 4.0, "HDPE", 6.0)).result.sounds == "short"
