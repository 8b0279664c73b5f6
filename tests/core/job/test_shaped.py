"""A plate from its shape and overall sizes: as large as was said, hung, and nothing of it sound."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rugged_shield.core.assess.fitup.pose import plate_pose
from rugged_shield.core.assess.gate.ready import ready_of
from rugged_shield.core.assess.weighup.answer import answer_of
from rugged_shield.core.errors import InputError
from rugged_shield.core.job.edits.choice import pick
from rugged_shield.core.job.edits.shaped import PlateSaid, add_shaped
from rugged_shield.core.job.model import Candidate, Job
from rugged_shield.core.judgement.known import fact_of
from rugged_shield.core.survey.layouts import LAYOUTS, stock_plate, typical_bike
from rugged_shield.core.survey.measures import PlateGeometryInput, plate_geometry
from rugged_shield.core.survey.plate import Plate
from rugged_shield.core.survey.plate_shapes import SHAPES, Shape, has_apron, usual_sizes
from rugged_shield.core.tighten.torque import WrenchTool

WRENCH = WrenchTool("click wrench", 60.0, 300.0)


def bare(layout: str = "single") -> Job:
    """A job of nothing but a bike whose layout is known."""
    bike = typical_bike(layout, "own")
    stock = Candidate(plate=stock_plate(bike), joints=())
    return Job(title="own", bike=bike, stock=stock, candidates=(), wrench=WRENCH)


def told(job: Job, said: PlateSaid) -> Plate:
    return add_shaped(job, said, frozenset()).job.in_hand.plate


@given(
    shape=st.sampled_from(sorted(SHAPES)),
    length=st.floats(420.0, 800.0),
    width=st.floats(280.0, 500.0),
    height=st.floats(40.0, 150.0),
    thickness=st.sampled_from((2.0, 4.0, 10.0)),
)
def test_it_is_as_large_over_all_as_was_said(
    shape: Shape, length: float, width: float, height: float, thickness: float
) -> None:
    said = PlateSaid(
        shape=shape, length_mm=length, width_mm=width, height_mm=height, thickness_mm=thickness
    )
    size = plate_geometry(PlateGeometryInput(told(bare(), said))).result.size_mm
    assert size[0] == pytest.approx(length, abs=1e-6)
    assert size[1] == pytest.approx(width, abs=1e-6)
    high = 0.0 if shape == "flat pan" else height - thickness
    assert size[2] == pytest.approx(high, abs=1e-6)


@pytest.mark.parametrize("layout", LAYOUTS)
@pytest.mark.parametrize("shape", SHAPES)
def test_unsaid_it_reaches_every_mount_and_closes_on_each(layout: str, shape: Shape) -> None:
    job = add_shaped(bare(layout), PlateSaid(shape=shape), frozenset()).job
    held = job.in_hand
    assert {j.mount for j in held.joints} == {m.key for m in job.bike.mounts}
    assert all(j.proposed and j.length_mm is None and j.known == "assumed" for j in held.joints)
    pose = plate_pose(job.bike, held)
    assert max(pose.airs_mm.values(), default=0.0) < 0.1, "spacers fill what is between"
    assert not [f for f in pose.findings if f.verdict == "blocked"]


def test_its_upper_face_stays_where_the_stock_one_is_so_thickness_costs_clearance() -> None:
    job = bare()
    top = job.stock.plate.belly.z_front_mm + job.stock.plate.thickness_mm
    for thick in (3.0, 10.0):
        plate = told(job, PlateSaid(shape="flat pan", thickness_mm=thick))
        assert plate.belly.z_front_mm + thick == pytest.approx(top)


def test_a_mount_that_stands_lower_than_the_stock_plate_lowers_it() -> None:
    job = bare()
    low = replace(job.bike.mounts[0], z_mm=job.stock.plate.belly.z_front_mm - 20.0)
    job = replace(job, bike=replace(job.bike, mounts=(low, *job.bike.mounts[1:])))
    job = add_shaped(job, PlateSaid(shape="flat pan"), frozenset()).job
    plate = job.in_hand.plate
    assert plate.belly.z_front_mm + plate.thickness_mm == pytest.approx(low.z_mm)
    assert max(plate_pose(job.bike, job.in_hand).airs_mm.values(), default=0.0) < 0.1


def test_one_too_short_for_the_mounts_hangs_on_those_it_reaches() -> None:
    said = PlateSaid(shape="flat pan", length_mm=300.0)
    change = add_shaped(bare(), said, frozenset())
    assert change.job.in_hand.joints == ()
    assert "over no mount" in change.words
    wide = add_shaped(bare(), replace(said, length_mm=None, width_mm=100.0), frozenset()).job
    assert wide.in_hand.joints == ()


def test_what_was_said_counts_as_printed_and_the_rest_as_assumed() -> None:
    plate = told(bare(), PlateSaid(shape="flat pan", thickness_mm=4.0, claimed_mass_kg=2.2))
    assert fact_of(plate, "thickness_mm").known == "printed"
    assert fact_of(plate, "claimed_mass_kg").known == "printed"
    assert told(bare(), PlateSaid(shape="flat pan")).known == "assumed"
    unsaid = told(bare(), PlateSaid(shape="flat pan"))
    assert fact_of(unsaid, "thickness_mm").known == "assumed"


def test_two_of_a_kind_have_names_of_their_own() -> None:
    job, said = bare(), PlateSaid(shape="flat pan", sheet="steel")
    for _ in range(3):
        job = add_shaped(job, said, frozenset()).job
    names = [c.plate.name for c in job.candidates]
    assert len(set(names)) == 3
    assert names[0] == "Steel 3 mm, flat pan"


@pytest.mark.parametrize(
    ("said", "field"),
    [
        (PlateSaid(shape="pan with apron", height_mm=12.0), "height_mm"),
        (PlateSaid(shape="pan with apron", length_mm=150.0, height_mm=120.0), "length_mm"),
        (PlateSaid(shape="pan with wings", width_mm=100.0, height_mm=100.0), "width_mm"),
        (PlateSaid(shape="flat pan", sheet="cheese"), "sheet"),
        (PlateSaid(shape="round"), "shape"),  # type: ignore[arg-type]
    ],
)
def test_what_cannot_be_is_refused_by_name(said: PlateSaid, field: str) -> None:
    with pytest.raises(InputError) as refused:
        add_shaped(bare(), said, frozenset())
    assert refused.value.field == field


def test_two_told_plates_have_an_answer_and_neither_is_ready_to_ride() -> None:
    job = bare()
    for shape, sheet in (("pan with apron", "aluminium"), ("flat pan", "steel")):
        job = add_shaped(job, PlateSaid(shape=shape, sheet=sheet), frozenset()).job  # type: ignore[arg-type]
    found = answer_of(job)
    assert found.state == "ranked"
    assert found.reasons
    assert found.sure is not None
    for candidate in job.candidates:
        picked = pick(job, candidate.key).job
        ready = ready_of(picked, ())
        assert ready.verdict != "sound"


def test_usual_sizes_leave_room_for_what_rises() -> None:
    job = bare()
    flat = usual_sizes("flat pan", job.bike, job.stock.plate)
    assert flat.height_mm is None
    for shape in SHAPES:
        usual = usual_sizes(shape, job.bike, job.stock.plate)
        assert (usual.length_mm > flat.length_mm) == has_apron(shape)
