"""How a plate hangs: the plane through its spacers, what stands below the sheet, what is off it."""

from __future__ import annotations

import math
from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from rugged_shield.core.amounts import in_system
from rugged_shield.core.assess.fitup.pose import hung_sheet, plate_pose
from rugged_shield.core.assess.weighup.scorecard import weigh
from rugged_shield.core.fitup.joint import Joint
from rugged_shield.core.job.model import Candidate, Job, mounted
from rugged_shield.core.mechanics import threads


def with_joint(job: Job, key: str, **change: object) -> Candidate:
    own = job.candidate("alu5")
    joints = tuple(replace(j, **change) if j.key == key else j for j in own.joints)  # type: ignore[arg-type]
    return replace(own, joints=joints)


def hanging(job: Job, candidate: Candidate, number: int) -> tuple[str, float]:
    """What hangs at a screw, and how far below the sheet there."""
    hung = hung_sheet(candidate.plate, mounted(job.bike, candidate))
    point = next(p for p in hung.heads if p.name.endswith(f"screw {number}"))
    return point.name.split(" of ")[0], hung.folded.lowest_mm()[0][2] - point.z_mm


def spaced(joint: Joint, more: float) -> Joint:
    layers = tuple(
        replace(x, thickness_mm=x.thickness_mm + more) if x.kind == "spacer" else x
        for x in joint.layers
    )
    return replace(joint, layers=layers)


@settings(max_examples=20, deadline=None)
@given(st.floats(-1.0, 3.0), st.floats(-0.004, 0.004), st.floats(-0.004, 0.004))
def test_spacers_on_a_plane_hang_the_plate_on_it(
    choosing: Job, c: float, a: float, b: float
) -> None:
    own = choosing.candidate("alu5")
    mounts = {m.key: m for m in choosing.bike.mounts}
    joints = tuple(
        spaced(j, c + a * (mounts[j.mount].x_mm - 660.0) + b * mounts[j.mount].y_mm)
        for j in own.joints
    )
    before = plate_pose(choosing.bike, own)
    posed = plate_pose(choosing.bike, replace(own, joints=joints))
    assert posed.uneven_mm == pytest.approx(0.0, abs=0.02)
    for x, y in ((500.0, 0.0), (660.0, 80.0), (850.0, -60.0)):
        at = (x, y, 284.0)
        drop = before.pose.lift(at)[2] - posed.pose.lift(at)[2]
        assert drop == pytest.approx(c + a * (x - 660.0) + b * y, abs=0.06), "a turn, not a shear"


def test_two_screws_hang_a_plate_on_their_line(choosing: Job) -> None:
    own = choosing.candidate("alu5")
    pair = tuple(spaced(j, more) for j, more in zip(own.joints[:2], (1.0, 3.0), strict=True))
    posed = plate_pose(choosing.bike, replace(own, joints=pair))
    assert posed.pose.lift((485.0, -88.0, 284.0))[2] - 284.0 == pytest.approx(-1.0, abs=0.01)
    assert posed.pose.lift((485.0, 88.0, 284.0))[2] - 284.0 == pytest.approx(-3.0, abs=0.01)
    assert posed.uneven_mm == 0.0
    bare = plate_pose(choosing.bike, replace(own, joints=()))
    assert bare.uneven_mm == 0.0
    assert hung_sheet(own.plate, ()).heads == ()


def test_heads_stand_below_the_sheet_by_their_height_and_washers(choosing: Job) -> None:
    cap = threads.head_of("ISO 4762", "M8").height_mm
    what, below = hanging(choosing, choosing.candidate("alu5"), 3)
    assert what == "head"
    assert below == pytest.approx(cap + 1.6, abs=0.3), "washer, head; the belly tapers a little"
    what, flush = hanging(choosing, choosing.candidate("alu5"), 5)
    assert what == "head"
    assert flush == pytest.approx(0.0, abs=0.3), "countersunk"


def test_an_end_below_stands_out_by_nut_and_thread(choosing: Job) -> None:
    long = with_joint(choosing, "a1", end_below=True, length_mm=50.0)
    short = with_joint(choosing, "a1", end_below=True, length_mm=45.0)
    what, more = hanging(choosing, long, 1)
    assert what == "end"
    assert more - hanging(choosing, short, 1)[1] == pytest.approx(5.0)
    assert more > hanging(choosing, choosing.candidate("alu5"), 1)[1]


def test_a_joint_that_clamps_no_sheet_is_said_and_hangs_nothing(choosing: Job) -> None:
    off = with_joint(choosing, "a3", mount="", x_mm=1200.0, y_mm=0.0)
    posed = plate_pose(choosing.bike, off)
    hung = hung_sheet(off.plate, mounted(choosing.bike, off))
    said = [f for f in posed.findings if f.code == "joint off the sheet"]
    assert [f.where for f in said] == ["a3"]
    assert "x 1200, y 0 mm" in in_system(said[0].text)
    assert not any(p.name.endswith("screw 3") for p in hung.heads)
    bracket = with_joint(
        choosing,
        "a3",
        layers=tuple(x for x in choosing.candidate("alu5").joints[2].layers if x.kind != "plate"),
    )
    assert not any(
        p.name.endswith("screw 3")
        for p in hung_sheet(bracket.plate, mounted(choosing.bike, bracket)).heads
    )


def open_joints(job: Job, candidate: Candidate) -> dict[str, str]:
    posed = plate_pose(job.bike, candidate)
    return {f.where: f.code for f in posed.findings if f.where}


def test_a_missing_spacer_is_air_at_its_own_joint(choosing: Job) -> None:
    own = choosing.candidate("alu5")
    joints = tuple(spaced(j, -3.5) if j.key == "a4" else j for j in own.joints)
    posed = plate_pose(choosing.bike, replace(own, joints=joints))
    assert posed.airs_mm["a4"] == pytest.approx(3.5, abs=1e-6)
    assert sum(posed.airs_mm.values()) == pytest.approx(3.5, abs=1e-6)
    said = next(f for f in posed.findings if f.where == "a4")
    assert "3.5 mm of air" in in_system(said.text)
    assert said.code in ("joint does not close", "gap not known")


@pytest.mark.parametrize("more", [0.8, 3.0, 64.0])
def test_a_spacer_too_long_is_named_and_the_plate_hangs_on_it(choosing: Job, more: float) -> None:
    own = choosing.candidate("alu5")
    joints = tuple(spaced(j, more) if j.key == "a3" else j for j in own.joints)
    found = open_joints(choosing, replace(own, joints=joints))
    assert set(found) == {"a3"}
    posed = plate_pose(choosing.bike, replace(own, joints=joints))
    assert min(posed.airs_mm.values()) == 0.0
    assert posed.airs_mm["a3"] == 0.0
    assert max(posed.airs_mm.values()) > 0.5


def test_a_mount_that_was_moved_far_never_closes(choosing: Job) -> None:
    bike = choosing.bike
    for axis, by in (("z_mm", 360.0), ("z_mm", -150.0)):
        mounts = tuple(
            replace(m, known="measured", **{axis: getattr(m, axis) + by}) if m.key == "m3" else m
            for m in bike.mounts
        )
        posed = plate_pose(replace(bike, mounts=mounts), choosing.candidate("alu5"))
        codes = {f.code for f in posed.findings}
        assert "joint does not close" in codes, (axis, by)


def test_a_joint_beside_the_mount_that_it_names_is_said(choosing: Job) -> None:
    beside = with_joint(choosing, "a3", x_mm=805.0, y_mm=-68.0)
    posed = plate_pose(choosing.bike, beside)
    assert any("40 mm beside" in in_system(f.text) for f in posed.findings if f.where == "a3")


def test_all_mounts_higher_hang_the_plate_higher(choosing: Job) -> None:
    bike = choosing.bike
    up = replace(bike, mounts=tuple(replace(m, z_mm=m.z_mm + 20.0) for m in bike.mounts))
    before = plate_pose(bike, choosing.candidate("alu5"))
    after = plate_pose(up, choosing.candidate("alu5"))
    assert after.pose.dz_mm == pytest.approx(20.0)
    assert after.plate_low.z_mm == pytest.approx(before.plate_low.z_mm + 20.0)
    assert after.uneven_mm == 0.0


def test_what_is_shown_as_the_reason_is_what_was_done(choosing: Job) -> None:
    """Each figure's reason names its own sum, and its inputs carry it out."""
    figures = weigh(choosing, "alu5").figures
    said = {
        key: figures[key].reasons for key in ("clearance", "clearance_lost", "breakover", "lean")
    }
    assert said == {
        "clearance": ("Lowest of plate corners, screw heads and every other low part.",),
        "clearance_lost": ("Lowest point with stock less lowest point with this plate.",),
        "breakover": ("Sum over both wheels of asin(R/√(x²+(h−R)²)) − atan2(R−h, x).",),
        "lean": ("atan(height over distance from the middle line), least over the plate.",),
    }
    lost = {i.label: i.value for i in figures["clearance_lost"].inputs}
    with_it = float(lost["Lowest with this plate, springs as they stand"] or 0.0)
    sunk = float(lost["Bike sinks there by"] or 0.0)
    stock = float(lost["Lowest with stock"] or 0.0)
    assert figures["clearance"].value == pytest.approx(with_it - sunk)
    assert figures["clearance_lost"].value == pytest.approx(stock - (with_it - sunk))
    lean = {i.label: float(i.value) for i in figures["lean"].inputs if isinstance(i.value, float)}
    assert figures["lean"].value == pytest.approx(
        math.degrees(math.atan2(lean["Above the ground"], lean["Beside the middle line"]))
    )
