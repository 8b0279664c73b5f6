"""Starting layouts: tyre codes by their definition, bikes that can be compared at once."""

from __future__ import annotations

from dataclasses import replace

import pytest

from rugged_shield.core.assess.survey.measure_next import measure_next
from rugged_shield.core.assess.weighup.scorecard import weigh
from rugged_shield.core.errors import InputError
from rugged_shield.core.job.model import Candidate, Job
from rugged_shield.core.judgement.known import fact_of, overall
from rugged_shield.core.survey.clearance import low_points
from rugged_shield.core.survey.geometry import fold
from rugged_shield.core.survey.layouts import LAYOUTS, LayoutRequest, bike_from_layout, stock_plate
from rugged_shield.core.survey.tyres import tyre_radius_mm
from rugged_shield.core.tighten.torque import WrenchTool

ASKED = LayoutRequest(layout="single", name="own bike", wheelbase_mm=1480.0, clearance_mm=280.0)


@pytest.mark.parametrize(
    ("code", "width", "share", "rim"),
    [
        ("90/90-21", 90, 0.9, 21),
        ("150/70 R17", 150, 0.7, 17),
        ("140/80 - 18", 140, 0.8, 18),
        ("110/80B19", 110, 0.8, 19),
        ("150/70ZR18", 150, 0.7, 18),
        (" 90 / 90 - 21 54S", 90, 0.9, 21),
        ("3.00-21", 76.2, 1.0, 21),
        ("4,10-18", 104.14, 1.0, 18),
    ],
)
def test_a_tyre_code_is_rim_and_section(code: str, width: float, share: float, rim: int) -> None:
    assert tyre_radius_mm(code) == pytest.approx(rim * 25.4 / 2 + width * share)


@pytest.mark.parametrize("code", ["", "21", "90/90", "9/90-21", "90/90-99", "900/90-21", "x/y-z"])
def test_what_is_no_tyre_code_is_refused(code: str) -> None:
    with pytest.raises(InputError) as refused:
        tyre_radius_mm(code, "front_tyre")
    assert refused.value.field == "front_tyre"


@pytest.mark.parametrize("engine_is_frame", [False, True])
@pytest.mark.parametrize("layout", LAYOUTS)
def test_every_layout_can_be_compared_at_once(layout: str, engine_is_frame: bool) -> None:
    bike = bike_from_layout(replace(ASKED, layout=layout, engine_is_frame=engine_is_frame))
    stock = Candidate(plate=stock_plate(bike), joints=())
    job = Job(
        title="own", bike=bike, stock=stock, candidates=(), wrench=WrenchTool("wrench", 60.0, 300.0)
    )
    assert weigh(job, "stock").figures["clearance"].value == pytest.approx(280.0, abs=0.01)
    assert {p.shape for p in bike.parts} >= {"sump", "drain", "filter", "pipe", "linkage"}
    assert any(p.shape == "rail" for p in bike.parts) != engine_is_frame
    assert {m.kind for m in bike.mounts} == {"engine boss" if engine_is_frame else "frame tab"}
    for thing in (*bike.parts, *bike.mounts):
        assert overall(thing)[0] == 0, f"{thing.name} claims to be known"
    assert fact_of(bike, "wheelbase_mm").known == "printed"
    assert measure_next(job).uncertain > 20


def test_stands_and_bars_change_what_hangs_below() -> None:
    bare = bike_from_layout(replace(ASKED, has_side_stand=False))
    assert not {"pivot", "stand"} & {p.key for p in bare.parts}
    both = bike_from_layout(replace(ASKED, has_centre_stand=True, has_bars=True))
    assert {"pivot", "stand", "centre-stand"} <= {p.key for p in both.parts}
    assert both.has_bars
    assert both.has_centre_stand


def test_the_stock_guard_hangs_at_the_clearance_typed() -> None:
    for clearance in (150.0, 240.0, 330.0):
        bike = bike_from_layout(replace(ASKED, clearance_mm=clearance))
        folded = fold(stock_plate(bike))
        lowest = min(p.z_mm for p in low_points(bike, folded, ()))
        assert lowest == pytest.approx(clearance, abs=0.01)


@pytest.mark.parametrize(
    ("change", "field"),
    [({"layout": "v8"}, "layout"), ({"name": "  "}, "name"), ({"front_tyre": "?"}, "front_tyre")],
)
def test_refusals_name_the_field(change: dict[str, str], field: str) -> None:
    with pytest.raises(InputError) as refused:
        bike_from_layout(replace(ASKED, **change))  # type: ignore[arg-type]
    assert refused.value.field == field


def test_a_wheelbase_out_of_range_is_refused() -> None:
    with pytest.raises(InputError):
        replace(ASKED, wheelbase_mm=900.0)
