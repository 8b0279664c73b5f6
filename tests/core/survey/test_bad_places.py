"""Sizes and places that cannot be right are said: overlapping parts, joints off the sheet."""

from __future__ import annotations

from dataclasses import replace

import pytest

from rugged_shield.core.amounts import in_system
from rugged_shield.core.assess.weighup.scorecard import weigh
from rugged_shield.core.errors import InputError
from rugged_shield.core.job.model import Job
from rugged_shield.core.survey.geometry import fold
from rugged_shield.core.survey.measures import PlateGeometryInput, plate_geometry
from rugged_shield.core.survey.plate import Cutout, Piece
from rugged_shield.core.survey.underside import overlaps
from tests.conftest import demo_file


@pytest.mark.parametrize("name", ["choosing", "kit_open", "half_fitted", "in_service"])
def test_the_demo_is_free_of_them(name: str) -> None:
    job = demo_file(name).job
    assert overlaps(job.bike) == ()
    for candidate in (job.stock, *job.candidates):
        codes = {f.code for f in weigh(job, candidate.key).findings}
        assert not codes & {"joint off the sheet", "larger than a bike", "pieces cross"}


def test_parts_in_the_same_room_are_named_once(choosing: Job) -> None:
    part = next(p for p in choosing.bike.parts if p.kind == "vital" and p.shape != "drain")
    twin = replace(part, key="twin", name="its twin", x_min_mm=part.x_min_mm + 1)
    bike = replace(choosing.bike, parts=(*choosing.bike.parts, twin))
    found = overlaps(bike)
    assert len(found) == 1
    assert "its twin" in in_system(found[0].text)
    apart = replace(twin, x_min_mm=part.x_max_mm - 1, x_max_mm=part.x_max_mm + 300)
    assert overlaps(replace(choosing.bike, parts=(*choosing.bike.parts, apart))) == ()


def test_a_joint_beside_the_sheet_is_said(choosing: Job) -> None:
    own = choosing.as_entered("alu5")
    first = replace(own.joints[0], x_mm=500.0, y_mm=420.0)
    job = choosing.with_candidate(replace(own, joints=(first, *own.joints[1:])))
    found = [f for f in weigh(job, "alu5").findings if f.code == "joint off the sheet"]
    assert [f.where for f in found] == [first.key]
    assert "y 420 mm" in in_system(found[0].text)


@pytest.mark.parametrize("u", [-10.0, 5.0, 400.0])
def test_a_cutout_over_a_fold_or_outside_is_refused(choosing: Job, u: float) -> None:
    plate = choosing.as_entered("alu5").plate
    over = Cutout(
        key="over",
        panel="belly",
        shape="round",
        purpose="drain",
        u_mm=u,
        v_mm=0.0,
        width_mm=60.0,
        height_mm=60.0,
    )
    with pytest.raises(InputError, match="outside its panel"):
        fold(replace(plate, cutouts=(*plate.cutouts, over)))


def test_panels_that_run_through_each_other_are_said(choosing: Job) -> None:
    plate = choosing.as_entered("alu5").plate
    b = plate.belly
    piece = Piece(
        key="p",
        name="flap",
        order=1,
        x_mm=b.start_x_mm + 100,
        y_mm=0.0,
        z_mm=b.z_front_mm - 10,
        length_mm=150.0,
        front_width_mm=100.0,
        rear_width_mm=100.0,
        pitch_deg=20.0,
    )
    crossing = replace(plate, pieces=(piece,))
    outcome = plate_geometry(PlateGeometryInput(crossing))
    assert "pieces cross" in {f.code for f in outcome.findings}
