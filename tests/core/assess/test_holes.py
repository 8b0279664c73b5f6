"""Holes of a demo plate as seen: which start, what moves or opens, cold and hot, and the unsure."""

from __future__ import annotations

from dataclasses import replace

import pytest

from rugged_shield.core.assess.fitup.growing import growing
from rugged_shield.core.assess.fitup.hole_input import hole_mm
from rugged_shield.core.assess.fitup.holes import HolesJudged, holes_judged
from rugged_shield.core.assess.frame.stations import station_states
from rugged_shield.core.fitup.seen import SeenHole
from rugged_shield.core.job.model import Job, MountedJoint, mounted
from rugged_shield.core.survey.flat import edge_left_mm, flat_pattern, flat_place

FRONT = ("a1", "a2", "a3", "a4", "a5", "a6")


def with_seen(job: Job, **seen: SeenHole) -> tuple[MountedJoint, ...]:
    """The joints of the plate in hand with holes as seen, by joint."""
    return tuple(
        replace(at, joint=replace(at.joint, seen=seen.get(at.joint.key, at.joint.seen)))
        for at in mounted(job.bike, job.in_hand)
    )


def off(right: float, forward: float, u: float = 0.05, **more: object) -> SeenHole:
    return SeenHole(right_mm=right, forward_mm=forward, off_u_mm=u, **more)  # type: ignore[arg-type]


def judged(job: Job, **seen: SeenHole) -> HolesJudged:
    return holes_judged(job.in_hand.plate, with_seen(job, **seen))


def test_nobody_looked_is_not_known_and_never_green(choosing: Job) -> None:
    found = judged(choosing)
    assert found.verdict == "not known"
    assert found.margin_mm is None
    assert all(not h.seen and h.verdict == "not known" for h in found.holes)


def test_all_in_the_middle_start_with_all_their_room(choosing: Job) -> None:
    found = judged(choosing, **{k: off(0, 0) for k in FRONT})
    assert found.verdict == "sound"
    assert found.margin_mm == pytest.approx(min(h.clearance_mm for h in found.holes), abs=1e-5)
    assert found.move == "leave it where it hangs"


def test_a_plate_that_hangs_aside_as_a_whole_starts_when_it_is_shifted(choosing: Job) -> None:
    found = judged(choosing, **{k: off(-2.0, 1.0) for k in FRONT})
    assert found.verdict == "sound"
    assert "to the front and the rider's left" in found.move or "rider's left" in found.move
    assert all(h.verdict == "blocked" for h in found.holes), "none starts as it hangs"


def test_one_hole_off_is_opened_toward_its_screw_with_its_edge_said(choosing: Job) -> None:
    found = judged(choosing, **{k: off(0, 0) for k in FRONT[:5]}, a6=off(2.4, 0.0))
    assert [f.code for f in found.findings] == ["screw will not start"]
    best = found.remedies[0]
    assert best.kind == "open"
    assert best.joints == ("a6",)
    assert "to the rider's right" in best.words
    assert best.diameter_mm is not None
    plate = choosing.in_hand.plate
    at = next(m for m in mounted(choosing.bike, choosing.in_hand) if m.joint.key == "a6")
    place = flat_place(plate, at.x_mm, at.y_mm)
    assert place is not None
    left = edge_left_mm(flat_pattern(plate), place, best.diameter_mm)
    assert best.edge_left_mm == pytest.approx(left)


def test_loosening_its_bracket_comes_before_the_drill(choosing: Job) -> None:
    tight = off(2.4, 0.0, bracket="rear bracket", bracket_half_travel_mm=4.0)
    found = judged(choosing, **{k: off(0, 0) for k in FRONT[:5]}, a6=tight)
    assert found.remedies[0].kind == "loosen"
    assert found.remedies[0].joints == ("a6",)
    loose = replace(tight, bracket_loose=True)
    freed = judged(choosing, **{k: off(0, 0) for k in FRONT[:5]}, a6=loose)
    assert freed.verdict == "sound"


def test_what_is_less_sure_than_its_margin_is_to_measure_again(choosing: Job) -> None:
    sure = judged(choosing, **{k: off(0.1, 0.0, 0.01) for k in FRONT})
    unsure = judged(choosing, **{k: off(0.1, 0.0, 0.5) for k in FRONT})
    assert sure.verdict == "sound"
    assert unsure.verdict == "not known"
    assert "measure hole" in unsure.findings[0].text


def test_the_part_seen_speaks_and_the_rest_is_named(choosing: Job) -> None:
    found = judged(choosing, a1=off(0, 0), a2=off(6.0, 0.0), a3=off(-6.0, 3.0))
    assert {f.code for f in found.findings} == {"screw will not start", "hole not seen"}
    assert found.verdict == "blocked"


def test_a_slot_and_a_nut_that_gives_let_it_start(choosing: Job) -> None:
    stuck = judged(choosing, **{k: off(0, 0) for k in FRONT[:5]}, a6=off(2.4, 0.0))
    slot = off(2.4, 0.0, slot_half_travel_mm=3.0, slot_angle_deg=0.0)
    across = replace(slot, slot_angle_deg=90.0)
    nut = off(2.0, 0.0, nut_gives_mm=2.0)
    held = judged(choosing, **{k: off(0, 0) for k in FRONT[:5]}, a6=off(2.0, 0.0))
    assert held.verdict == "blocked"
    assert stuck.verdict == "blocked"
    assert judged(choosing, **{k: off(0, 0) for k in FRONT[:5]}, a6=slot).verdict == "sound"
    assert judged(choosing, **{k: off(0, 0) for k in FRONT[:5]}, a6=across).verdict == "blocked"
    assert judged(choosing, **{k: off(0, 0) for k in FRONT[:5]}, a6=nut).verdict == "sound"


def test_plastic_moves_by_its_expansion_over_the_distance(choosing: Job) -> None:
    job = replace(choosing, weighing="hdpe10", picked="")
    joints = mounted(job.bike, job.in_hand)
    found = holes_judged(job.in_hand.plate, joints)
    held = next(m for m in joints if m.joint.number == found.located)
    far = next(g for g in found.growing)
    other = next(m for m in joints if m.joint.number == far.number)
    apart = ((held.x_mm - other.x_mm) ** 2 + (held.y_mm - other.y_mm) ** 2) ** 0.5
    # HDPE 150, mild steel 12 ppm/K from 23 °C
    assert far.cold_mm == pytest.approx((150 - 12) * 1e-6 * 43 * apart)
    assert far.hot_mm == pytest.approx((150 - 12) * 1e-6 * 57 * apart)
    assert any(f.code == "must float" for f in found.findings)


@pytest.mark.parametrize(("travel_mm", "all_float"), [(0.0, False), (0.4, False), (3.0, True)])
def test_a_hole_lets_it_grow_by_its_play_and_all_of_its_slot(
    choosing: Job, travel_mm: float, all_float: bool
) -> None:
    """The screw and what it moves either way, against the hole and its slot's whole travel."""
    job = replace(choosing, weighing="hdpe10", picked="")
    joints = tuple(
        replace(m, joint=replace(m.joint, seen=off(0, 0, slot_half_travel_mm=travel_mm)))
        for m in mounted(job.bike, job.in_hand)
    )
    _, rows = growing(job.in_hand.plate, joints)
    of = {m.joint.number: m.joint for m in joints}
    assert rows
    for row in rows:
        d_mm = float(of[row.number].thread[1:])
        assert row.needed_mm == pytest.approx(d_mm + 2 * max(row.cold_mm, row.hot_mm))
        assert row.now_mm == pytest.approx(hole_mm(of[row.number]) + 2 * travel_mm)
        assert row.floats is (row.now_mm >= row.needed_mm)
    assert all(r.floats for r in rows) is all_float


def test_the_station_turns_with_what_was_seen(choosing: Job) -> None:
    plate = choosing.in_hand
    off_by = off(9.0, 0.0)
    joints = tuple(replace(j, seen=off_by if j.key == "a1" else off(0, 0)) for j in plate.joints)
    job = choosing.with_candidate(replace(choosing.as_entered(plate.key), joints=joints))
    before = next(s for s in station_states(choosing, ()) if s.key == "fit-up")
    after = next(s for s in station_states(job, ()) if s.key == "fit-up")
    assert before.verdict == "sound"
    assert after.verdict == "blocked"
    assert "holes: blocked" in after.words


def test_a_hole_within_its_own_doubt_is_not_known_by_itself(choosing: Job) -> None:
    """Short or with room by less than 2 u, either way: neither green nor red."""
    room = judged(choosing, a1=off(0.0, 0.0)).holes[0].clearance_mm
    for right, verdict in (
        (room - 0.5, "sound"),
        (room - 0.1, "not known"),
        (room + 0.1, "not known"),
        (room + 0.5, "blocked"),
    ):
        hole = judged(choosing, a1=off(right, 0.0, 0.15)).holes[0]
        assert hole.verdict == verdict
        assert ("measure it again" in hole.words) == (verdict == "not known")
