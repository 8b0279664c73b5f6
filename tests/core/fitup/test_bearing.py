"""Faces of a stack against rings worked out by hand, and the angle against its closed form."""

from __future__ import annotations

import math
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rugged_shield.core.errors import InputError
from rugged_shield.core.fitup.bearing import BearingFacesInput, BearingPart, bearing_faces, faces_of
from rugged_shield.core.fitup.seats import proud_mm
from rugged_shield.core.fitup.stack_model import Countersink
from rugged_shield.core.job.model import Job
from rugged_shield.core.tighten.preload_loss import PressedLayer, preload_loss
from rugged_shield.core.tighten.turn_angle import TurnAngleInput, turn_angle

HEAD = BearingPart(name="head", outer_mm=12.33)
PLATE = BearingPart(name="plate", outer_mm=40.0, hole_mm=9.0, pressure_limit_mpa=230.0)
BOSS = BearingPart(name="boss", hole_mm=8.0, pressure_limit_mpa=290.0)


def ring(outer_mm: float, hole_mm: float) -> BearingPart:
    return BearingPart(name="spacer", outer_mm=outer_mm, hole_mm=hole_mm, pressure_limit_mpa=490.0)


def test_a_thin_ring_crushes_die_cast() -> None:
    """π/4 (10.6² − 8.5²) = 31.50 mm²; 18 kN on it are 571 MPa, and die cast bears 290."""
    found = bearing_faces(
        BearingFacesInput(parts=(HEAD, PLATE, ring(10.6, 8.5), BOSS), preload_n=18_000.0)
    )
    face = found.result.faces[2]
    assert face.area_mm2 == pytest.approx(31.502, abs=1e-3)
    assert face.pressure_mpa == pytest.approx(571.39, abs=0.01)
    assert (face.weaker, face.share) == ("boss", pytest.approx(1.9703, abs=1e-4))
    worst = found.result.faces[found.result.worst]
    assert (worst.above, worst.below, worst.weaker) == ("plate", "spacer", "plate")
    assert {f.code for f in found.findings} == {"face crushed"}


@pytest.mark.parametrize(
    ("hole", "bears"), [(9.0, True), (11.3, True), (11.34, False), (12.0, False), (14.0, False)]
)
def test_a_head_falls_through_before_its_ring_is_gone(hole: float, bears: bool) -> None:
    plate = replace(PLATE, hole_mm=hole)
    found = bearing_faces(BearingFacesInput(parts=(HEAD, plate, BOSS), preload_n=1_000.0))
    assert found.result.faces[0].bears is bears
    assert ("nothing to bear on" in {f.code for f in found.findings}) is not bears


@given(st.floats(8.5, 30.0), st.floats(8.5, 30.0), st.floats(100.0, 50_000.0))
def test_a_larger_hole_never_helps(one: float, other: float, preload_n: float) -> None:
    small, large = sorted((one, other))

    def share(hole: float) -> float:
        parts = (HEAD, replace(PLATE, hole_mm=hole), BOSS)
        face = bearing_faces(BearingFacesInput(parts=parts, preload_n=preload_n)).result.faces[0]
        return math.inf if face.share is None else face.share

    assert share(small) <= share(large)


def test_two_boundless_parts_are_refused() -> None:
    with pytest.raises(InputError):
        bearing_faces(BearingFacesInput(parts=(BOSS, BOSS), preload_n=1_000.0))
    with pytest.raises(InputError):
        BearingFacesInput(parts=(HEAD,), preload_n=1_000.0)


def test_a_sleeve_carries_the_clamp_past_its_plastic(choosing: Job) -> None:
    joint = next(j for j in choosing.as_entered("hdpe10").joints if j.key == "h1")
    faces = faces_of(joint, choosing.mount_of(joint)).faces
    assert "plate" not in {name for f in faces for name in (f.above, f.below)}


def test_a_head_stands_as_proud_as_its_sink_is_small(choosing: Job) -> None:
    """ISO 10642 M6: 11.34 across its cone; a sink of 10.34 ± 0 leaves 0.5 mm at 45°."""
    joint = next(j for j in choosing.as_entered("alu5").joints if j.key == "a5")
    small = Countersink(sink_diameter_mm=10.34, hole_diameter_mm=6.6, head_below_surface_mm=1.0)
    assert proud_mm(replace(joint, countersink=small)) == pytest.approx(0.5, abs=1e-6)
    assert proud_mm(replace(joint, countersink=None)) is None


TURNED = TurnAngleInput(
    thread="M8",
    female="tapped",
    female_e_mpa=70_000.0,
    bearing_diameter_mm=12.33,
    preload_n=14_000.0,
    gap_mm=0.25,
    layers=(PressedLayer(thickness_mm=5.0, outer_mm=40.0, hole_mm=9.0, e_mpa=70_300.0),),
)


def test_the_angle_is_what_stretches_and_what_closes() -> None:
    found = turn_angle(TURNED).result
    loss = preload_loss(TURNED).result
    stretch = 14_000.0 * (loss.delta_s_mm_per_n + loss.delta_p_mm_per_n)
    assert found.angle_deg == pytest.approx(360 / 1.25 * stretch)
    assert found.gap_deg == pytest.approx(72.0), "a fifth of a turn of 1.25 mm"
    assert found.is_quarter_turn is (63 <= found.total_deg <= 117)
    closed = turn_angle(replace(TURNED, gap_mm=0.0)).result
    assert 5 < closed.total_deg < 30
    assert not closed.is_quarter_turn
