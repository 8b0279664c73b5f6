"""The front wheel against a plate: closed forms, the whole travel, and a gate that shuts."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest

from rugged_shield.core.amounts import in_system, show
from rugged_shield.core.assess.fitup.neighbours import neighbours_judged
from rugged_shield.core.assess.fitup.pose import open_airs, plate_pose
from rugged_shield.core.assess.weighup.scorecard import weigh
from rugged_shield.core.job.edits.path import set_text
from rugged_shield.core.job.model import Job
from rugged_shield.core.survey.bike import Bike
from rugged_shield.core.survey.drawings import underside_drawing
from rugged_shield.core.survey.front_wheel import (
    LEAST_GAP_MM,
    LOW_MUDGUARD_MM,
    axle_at,
    rear_wheel_gap,
    wheel_gap,
)
from rugged_shield.core.survey.geometry import fold
from rugged_shield.core.survey.lean import lean_deg
from rugged_shield.core.survey.plate import Piece, Plate
from rugged_shield.core.survey.steering_lock import lock_gap


def plate_at(job: Job, start_mm: float, rise_deg: float = 90.0) -> Plate:
    """A belly with an apron straight up (or leaning) from its front edge."""
    own = job.candidate("alu5").plate
    apron = replace(own.apron, slope_height_mm=200.0, rise_deg=rise_deg)  # type: ignore[type-var]
    belly = replace(own.belly, start_x_mm=start_mm, z_front_mm=280.0, z_rear_mm=280.0)
    return replace(own, belly=belly, apron=apron, tail=None, pieces=())


def bike_of(job: Job, travel: float | None, rake: float | None = 27.0) -> Bike:
    return replace(job.bike, front_travel_mm=travel, rake_deg=rake)


def test_at_rest_a_wall_is_as_far_as_its_nearest_point(choosing: Job) -> None:
    bike = bike_of(choosing, 0.0)
    radius = bike.front_wheel_radius_mm
    gap = wheel_gap(bike, fold(plate_at(choosing, 420.0)))
    # the wall spans 280 to 480 mm above the ground: the axle's own height lies between
    assert gap.at_rest_mm == pytest.approx(420.0 - radius, abs=0.5)
    assert gap.in_travel_mm == gap.at_rest_mm
    assert gap.panel == "apron"
    assert not gap.assumed


@pytest.mark.parametrize("travel", [40.0, 120.0, 250.0])
def test_the_axle_runs_along_the_fork(choosing: Job, travel: float) -> None:
    bike = bike_of(choosing, travel)
    x, z = axle_at(bike, travel, 27.0)
    assert math.hypot(x, z - bike.front_wheel_radius_mm) == pytest.approx(travel)
    assert x == pytest.approx(travel * math.sin(math.radians(27.0)))
    gap = wheel_gap(bike, fold(plate_at(choosing, 520.0)))
    assert gap.at_rest_mm is not None
    assert gap.in_travel_mm is not None
    if z <= 480.0:  # level with the wall, which ends there: straight across
        away = 520.0 - x
    else:  # nearest is the wall's level point on the way up, or its top at the end
        level = (480.0 - bike.front_wheel_radius_mm) * math.tan(math.radians(27.0))
        away = min(520.0 - level, math.hypot(520.0 - x, z - 480.0))
    assert gap.in_travel_mm <= away - bike.front_wheel_radius_mm + 0.5
    assert gap.in_travel_mm >= 520.0 - x - bike.front_wheel_radius_mm - 0.5


def test_more_travel_never_leaves_more_room(choosing: Job) -> None:
    folded = fold(plate_at(choosing, 460.0, 60.0))
    travels = (0.0, 60.0, 150.0, 300.0)
    rooms = [wheel_gap(bike_of(choosing, t), folded).in_travel_mm or 0.0 for t in travels]
    assert rooms == sorted(rooms, reverse=True)


def test_a_bike_without_travel_or_rake_says_that_they_are_assumed(choosing: Job) -> None:
    folded = fold(plate_at(choosing, 420.0))
    assert wheel_gap(bike_of(choosing, None), folded).assumed
    assert wheel_gap(bike_of(choosing, 200.0, None), folded).assumed
    assert not wheel_gap(bike_of(choosing, 200.0), folded).assumed


def gate(job: Job, key: str = "alu5") -> tuple[str, str]:
    found = next(g for g in weigh(job, key).gates if g.key == "front wheel")
    return found.verdict, found.reason


def test_a_plate_inside_the_wheel_is_shut_out(choosing: Job) -> None:
    inside = set_text(choosing, "candidates.alu5.plate.belly.start_x_mm", "380").job
    verdict, reason = gate(inside)
    assert verdict == "blocked"
    assert "inside the tyre with the bike at rest" in reason
    assert weigh(inside, "alu5").verdict == "blocked"


def test_what_the_travel_would_reach_is_not_known_until_it_is_measured(choosing: Job) -> None:
    assert gate(choosing)[0] == "not known"
    assert "200 mm of travel" in in_system(gate(choosing)[1])
    measured = set_text(choosing, "bike.front_travel_mm", "240").job
    measured = set_text(measured, "bike.rake_deg", "26").job
    assert gate(measured)[0] == "blocked"
    short = set_text(measured, "bike.front_travel_mm", "60").job
    short = set_text(short, "bike.front_mudguard_mm", "0").job
    verdict, reason = gate(short)
    assert verdict == "sound", reason
    assert "60 mm of travel at a rake of 26°" in in_system(reason)


def test_a_fork_that_nobody_measured_is_sound_only_where_the_longest_would_be(
    choosing: Job,
) -> None:
    """Room enough with 200 mm of travel says nothing where 320 mm would reach the plate."""
    job = set_text(choosing, "bike.front_mudguard_mm", "0").job
    seen = set()
    for start in range(520, 900, 20):
        now = set_text(job, "candidates.alu5.plate.belly.start_x_mm", str(start)).job
        folded = plate_pose(now.bike, now.in_hand).folded
        left = wheel_gap(now.bike, folded).in_travel_mm or 0.0
        forks = [
            wheel_gap(replace(now.bike, front_travel_mm=travel, rake_deg=rake), folded)
            for travel in (250.0, 320.0)
            for rake in (22.0, 27.0, 32.0)
        ]
        worst = min(f.in_travel_mm or 0.0 for f in forks)
        verdict, reason = gate(now)
        row = neighbours_judged(now, now.in_hand)[0].verdict
        if left < LEAST_GAP_MM:
            assert verdict != "sound", reason
        else:
            assert verdict == ("not known" if worst < LEAST_GAP_MM else "sound"), reason
            assert (row == "not known") == (worst < LEAST_GAP_MM)
            seen.add(verdict)
    assert seen == {"not known", "sound"}


def test_inside_the_tyre_at_rest_no_fork_is_asked_for(choosing: Job) -> None:
    inside = set_text(choosing, "candidates.alu5.plate.belly.start_x_mm", "380").job
    row = neighbours_judged(inside, inside.in_hand)[0]
    assert (row.verdict, gate(inside)[0]) == ("blocked", "blocked")
    assert "at rest" in row.findings[0].text


def test_a_mudguard_on_the_wheel_takes_its_share(choosing: Job) -> None:
    job = set_text(choosing, "bike.front_travel_mm", "60").job
    job = set_text(job, "bike.rake_deg", "26").job
    left = wheel_gap(job.bike, plate_pose(job.bike, job.in_hand).folded).in_travel_mm
    assert left is not None

    def with_guard(mm: float) -> tuple[str, str]:
        return gate(set_text(job, "bike.front_mudguard_mm", f"{mm:.1f}").job)

    assert with_guard(0.0)[0] == "sound"
    assert with_guard(left - 12)[0] == "sound"
    verdict, reason = with_guard(left - 4)
    assert (verdict, "mudguard comes to 4 mm" in in_system(reason)) == ("mind", True), reason
    verdict, reason = with_guard(left + 7)
    assert (verdict, "mudguard comes 7 mm into" in in_system(reason)) == ("blocked", True), reason


def test_a_mudguard_that_nobody_entered_is_asked_for_where_it_decides(choosing: Job) -> None:
    job = set_text(choosing, "bike.rake_deg", "26").job
    job = set_text(job, "candidates.alu5.plate.belly.start_x_mm", "500").job
    seen = set()
    for travel in range(40, 200, 10):
        now = set_text(job, "bike.front_travel_mm", str(travel)).job
        left = wheel_gap(now.bike, plate_pose(now.bike, now.in_hand).folded).in_travel_mm or 0.0
        if left >= LEAST_GAP_MM:
            near = left < LEAST_GAP_MM + LOW_MUDGUARD_MM
            assert gate(now)[0] == ("not known" if near else "sound"), travel
            seen.add(near)
    assert seen == {True, False}


def test_room_to_the_rear_tyre_is_what_a_ruler_says(choosing: Job) -> None:
    """A belly level at 300 mm that ends 200 mm before the axle's tyre, radius 322."""
    bike = replace(choosing.bike, rear_wheel_radius_mm=322.0)
    level = replace(choosing.in_hand.plate.belly, z_front_mm=300.0, z_rear_mm=300.0)
    end = level.start_x_mm + level.length_mm
    flat = replace(
        choosing.in_hand.plate, belly=level, apron=None, tail=None, wing_left=None,
        wing_right=None, cutouts=(), pieces=(),
    )  # fmt: skip
    found = rear_wheel_gap(bike, fold(flat))
    assert found is not None
    away = math.hypot(bike.wheelbase_mm - end, 322.0 - 300.0)
    assert found == (pytest.approx(away - 322.0), "belly")


def test_a_tail_into_the_rear_tyre_is_shut_out(choosing: Job) -> None:
    long = set_text(choosing, "candidates.alu5.plate.belly.length_mm", "900").job
    rear = next(g for g in weigh(long, "alu5").gates if g.key == "rear wheel")
    assert (rear.verdict, "inside the tyre" in rear.reason) == ("blocked", True)


def test_a_plate_that_grounds_before_the_pegs_is_said(choosing: Job) -> None:
    """45° where it stands as far out as it is high; pegs of 50° would have warned."""
    assert lean_deg(-300.0, 300.0) == pytest.approx(45.0)
    peg = max((p for p in choosing.bike.parts if p.shape == "peg"), key=lambda p: p.y_max_mm)
    pegs = math.degrees(math.atan2(peg.z_min_mm, peg.y_max_mm))
    lean = weigh(choosing, "alu5").figures["lean"]
    assert lean.value is not None
    assert (lean.value > pegs, lean.findings) == (True, ())
    wide = set_text(choosing, "candidates.alu5.plate.wing_right.slant_height_mm", "300").job
    wide = set_text(wide, "candidates.alu5.plate.wing_right.dihedral_deg", "10").job
    said = weigh(wide, "alu5").figures["lean"]
    assert (said.value or 90.0) < pegs
    assert [f.code for f in said.findings] == ["grounds in a lean"]


def test_air_at_a_joint_is_written_beside_its_mount(choosing: Job) -> None:
    open_ = set_text(choosing, "candidates.alu5.joints.a4.layers.spacer.thickness_mm", "5").job
    airs = open_airs(open_.bike, open_.in_hand)
    assert [a.size_mm > 1 for a in airs] == [True]
    posed = plate_pose(open_.bike, open_.in_hand)
    drawing = underside_drawing(open_.bike, None, posed.folded, airs=airs)
    assert [(d.label, d.verdict) for d in drawing.dimensions] == [("air", "blocked")]
    assert drawing.dimensions[0].metric == show(airs[0].size_mm, "mm")


def side_guard(x_mm: float) -> Piece:
    """A sheet on edge beside the track, as a guard on a bar stands."""
    return Piece(
        key="guard", name="side guard", order=1, x_mm=x_mm, y_mm=170.0, z_mm=330.0,
        length_mm=80.0, front_width_mm=60.0, rear_width_mm=60.0, roll_deg=90.0, thickness_mm=3.0,
    )  # fmt: skip


def test_straight_ahead_it_is_the_same_as_no_lock(choosing: Job) -> None:
    """A stop at nothing is a wheel that points ahead, but for the tyre's own width."""
    from rugged_shield.core.survey.steering_lock import _room_at

    bike = bike_of(choosing, 120.0)
    wall = fold(plate_at(choosing, 440.0))
    ahead = wheel_gap(bike, wall).in_travel_mm
    room = _room_at((120.0, 27.0), bike.front_wheel_radius_mm, 0.0, wall)
    assert room is not None
    assert room[0] == pytest.approx(ahead, abs=0.2)


@pytest.mark.parametrize("deg", [20.0, 35.0, 45.0])
def test_an_upright_wheel_at_its_stop_has_its_closed_form(choosing: Job, deg: float) -> None:
    """With the fork upright: a post beside the track is met where the turned wheel reaches."""
    from rugged_shield.core.survey.steering_lock import FORK_OFFSET_MM, _turned

    turn = math.radians(deg)
    axle = (0.0, 300.0)
    post = np.array([[250.0, 140.0, 300.0]])
    for sign in (1.0, -1.0):
        seen = _turned(post, axle, 0.0, sign * deg)[0]
        x, y = 250.0 - FORK_OFFSET_MM, 140.0
        assert seen[0] == pytest.approx(
            FORK_OFFSET_MM + x * math.cos(turn) - sign * y * math.sin(turn)
        )
        assert seen[1] == pytest.approx(sign * x * math.sin(turn) + y * math.cos(turn))


def test_a_guard_beside_the_track_is_met_only_at_the_stop(choosing: Job) -> None:
    bike = replace(bike_of(choosing, 60.0), steering_lock_deg=38.0)
    beside = fold(
        replace(plate_at(choosing, 520.0), apron=None, cutouts=(), pieces=(side_guard(250.0),))
    )
    ahead, at_lock = wheel_gap(bike, beside), lock_gap(bike, beside)
    assert ahead.in_travel_mm is not None
    assert at_lock.room_mm is not None
    assert ahead.in_travel_mm > 2 * LEAST_GAP_MM
    assert at_lock.room_mm < 0.0
    assert at_lock.panel == "guard"
    assert not at_lock.assumed
    usual = lock_gap(replace(bike, steering_lock_deg=None), beside)
    assert usual.assumed
    assert usual.least_mm is not None
    assert usual.room_mm is not None
    assert usual.least_mm <= usual.room_mm < 0.0
    assert usual.most_mm is not None
    assert at_lock.room_mm < usual.most_mm < 0.0, "even the smallest stop meets it"
