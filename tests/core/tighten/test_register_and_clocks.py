"""What is open on the bike, the locker's clocks, and the gate before riding."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rugged_shield.core.assess.fitup.joints import assess_joint
from rugged_shield.core.assess.gate.ready import ready_of
from rugged_shield.core.assess.tighten.clocks import clocks_of
from rugged_shield.core.assess.tighten.commands import close_bike_joint, loosen, ride_anyway
from rugged_shield.core.assess.tighten.plan import plan_of
from rugged_shield.core.errors import InputError
from rugged_shield.core.event import Happened, of_plate
from rugged_shield.core.job.events import Event
from rugged_shield.core.job.model import Job
from rugged_shield.core.moments import later, seconds_of
from rugged_shield.core.survey.bike import BikeJoint
from rugged_shield.core.tables.lockers import cure_hours, open_minutes
from rugged_shield.core.tighten.curing import has_passed
from rugged_shield.core.tighten.events import (
    BikeJointClosed,
    BikeJointOpened,
    Reading,
    Started,
    StepDone,
)
from rugged_shield.core.tighten.register import open_on_bike
from rugged_shield.formats.jobfile import JobFile

AT = "2026-03-01T10:00:00+00:00"


def opened(key: str, seq: int = 1) -> BikeJointOpened:
    return BikeJointOpened(joint=key, name=key, seq=seq, at=AT)


@given(st.lists(st.tuples(st.sampled_from("abcd"), st.booleans()), max_size=30))
def test_open_is_what_was_opened_and_not_closed_since(steps: list[tuple[str, bool]]) -> None:
    record: list[Happened] = []
    held: set[str] = set()
    for key, opens in steps:
        record.append(opened(key) if opens else BikeJointClosed(joint=key))
        held = held | {key} if opens else held - {key}
    assert {o.joint for o in open_on_bike(record)} == held


def test_a_screw_is_closed_by_its_manuals_torque_or_with_a_reason(choosing: Job) -> None:
    peg = BikeJoint("peg", "foot-peg bolt", "M10", 44.0)
    job = replace(choosing, bike=replace(choosing.bike, joints=(peg,)))
    entry = loosen(job, (), "Foot-peg bolt", "screw")
    record: tuple[Event, ...] = (replace(entry.event, seq=1, at=AT),)
    assert isinstance(entry.event, BikeJointOpened)
    assert entry.event.joint == "peg", "the bike's own list knows it"
    with pytest.raises(InputError, match="open already"):
        loosen(job, record, "foot-peg bolt", "screw")
    with pytest.raises(InputError, match="manual"):
        close_bike_joint(job, record, "peg", 20.0, "")
    with pytest.raises(InputError, match="say how"):
        close_bike_joint(job, record, "peg", None, "")
    with pytest.raises(InputError, match="joint"):
        close_bike_joint(job, record, "nobody", 44.0, "")
    assert close_bike_joint(job, record, "peg", 45.0, "").event
    assert close_bike_joint(job, record, "peg", 20.0, "the workshop said so").event
    hose = loosen(job, record, "vapour hose", "hose").event
    both = (*record, replace(hose, seq=2, at=AT))
    assert isinstance(hose, BikeJointOpened)
    assert close_bike_joint(job, both, hose.joint, None, "").event
    with pytest.raises(InputError, match="name"):
        loosen(job, record, "  ", "screw")


def test_nothing_is_ready_while_something_of_the_bike_is_open(half_fitted: JobFile) -> None:
    record = (*half_fitted.records, replace(opened("foot-peg bolt"), seq=9000))
    missing = ready_of(half_fitted.job, record).missing_words
    assert "foot-peg bolt is open on the bike." in missing
    closed = (*record, BikeJointClosed(joint="foot-peg bolt", torque_nm=44.0, seq=9001, at=AT))
    assert not any("open on the bike" in m for m in ready_of(half_fitted.job, closed).missing_words)


def lockered(job: Job) -> tuple[Job, str]:
    """The job with locker on joint a1 of the plate in hand."""
    own = job.as_entered(job.in_hand.key)
    joints = tuple(
        replace(j, treatment="medium locker" if j.key == "a1" else "dry zinc") for j in own.joints
    )
    return job.with_candidate(replace(own, joints=joints)), own.key


@pytest.mark.parametrize(("celsius", "hours"), [(5.0, 72), (10.0, 48), (22.0, 24), (None, 48)])
def test_locker_is_never_called_cured_early(
    choosing: Job, celsius: float | None, hours: int
) -> None:
    job, plate = lockered(choosing)
    job = replace(job, picked=plate, use=replace(job.use, garage_c=celsius))
    built = plan_of(job, plate).built["a1"]
    record: tuple[Event, ...] = (
        Started(plate=plate, joint="a1", seq=1, at=AT),
        Reading(plate=plate, joint="a1", torque_nm=21.0, as_built=built, seq=2, at=AT),
    )
    start = datetime.fromisoformat(AT)
    before = (start + timedelta(hours=hours) - timedelta(seconds=1)).isoformat()
    after = (start + timedelta(hours=hours)).isoformat()
    assert any("cures until" in m for m in ready_of(job, record, before).missing_words)
    assert not any("locker" in m for m in ready_of(job, record, after).missing_words)
    assert any("locker" in m for m in ready_of(job, record).missing_words), (
        "no clock: as of the record"
    )


def test_below_five_degrees_a_locker_is_not_known(choosing: Job) -> None:
    job, plate = lockered(choosing)
    job = replace(job, picked=plate, use=replace(job.use, garage_c=-2.0))
    built = plan_of(job, plate).built["a1"]
    record: tuple[Event, ...] = (
        Reading(plate=plate, joint="a1", torque_nm=21.0, as_built=built, seq=2, at=AT),
    )
    far = "2030-01-01T00:00:00+00:00"
    assert any("too cold" in m for m in ready_of(job, record, far).missing_words)


def test_open_time_runs_from_the_first_drop(choosing: Job) -> None:
    job, plate = lockered(choosing)
    job = replace(job, use=replace(job.use, garage_c=22.0))
    record: tuple[Event, ...] = (Started(plate=plate, joint="a1", seq=1, at=AT),)
    [clock] = clocks_of(job, of_plate(record, plate))
    assert (clock.kind, clock.until) == ("open", "2026-03-01T10:15:00+00:00")
    assert clocks_of(job, of_plate((), plate)) == ()


@pytest.mark.parametrize(("minutes", "late"), [(14.9, False), (15.0, True), (600.0, True)])
def test_locker_that_had_set_before_the_torque_holds_nothing(
    choosing: Job, minutes: float, late: bool
) -> None:
    job, plate = lockered(choosing)
    job = replace(job, picked=plate, use=replace(job.use, garage_c=22.0))
    built = plan_of(job, plate).built["a1"]
    torqued = (datetime.fromisoformat(AT) + timedelta(minutes=minutes)).isoformat()
    record: tuple[Event, ...] = (
        Started(plate=plate, joint="a1", seq=1, at=AT),
        Reading(plate=plate, joint="a1", torque_nm=21.0, as_built=built, seq=2, at=torqued),
    )
    [clock] = clocks_of(job, of_plate(record, plate))
    assert clock.set_before is late
    words = "The locker of joint 1 had set before it was torqued: it was broken."
    assert (words in ready_of(job, record, "2027-01-01T00:00:00+00:00").missing_words) is late
    fresh = (
        *record,
        Started(plate=plate, joint="a1", seq=3, at=torqued),
        replace(record[1], seq=4),
    )
    [again] = clocks_of(job, of_plate(fresh, plate))
    assert not again.set_before, "a fresh drop"


def test_a_joint_that_fit_up_blocks_is_not_ridden_on(choosing: Job) -> None:
    own = choosing.as_entered(choosing.in_hand.key)
    short = tuple(replace(j, length_mm=8.0) if j.key == "a1" else j for j in own.joints)
    job = choosing.with_candidate(replace(own, joints=short))
    job = replace(job, picked=own.key)
    missing = ready_of(job, (), AT).missing
    assert ("too short", "a1", "blocked") in {(m.code, m.about, m.verdict) for m in missing}


@given(st.floats(5.0, 50.0), st.floats(0.0, 20.0))
def test_warmer_sets_and_cures_sooner(celsius: float, more: float) -> None:
    cold, warm = cure_hours(celsius), cure_hours(celsius + more)
    assert cold is not None
    assert warm is not None
    assert warm <= cold
    assert (open_minutes(celsius + more) or 0.0) <= (open_minutes(celsius) or 0.0)


@given(st.integers(-2_000_000_000, 4_000_000_000), st.integers(-14 * 60, 14 * 60))
def test_moments_agree_with_the_calendar(seconds: int, zone: int) -> None:
    there = datetime.fromtimestamp(seconds, UTC)
    assert seconds_of(there.isoformat()) == seconds
    assert later("1970-01-01T00:00:00Z", seconds) == there.isoformat()
    hours, minutes = divmod(abs(zone), 60)
    moved = there + timedelta(minutes=zone)
    text = f"{moved:%Y-%m-%dT%H:%M:%S}{'+' if zone >= 0 else '-'}{hours:02}:{minutes:02}"
    assert seconds_of(text) == seconds


NO_MOMENTS = ["", "soon", "2026-13-01T10:00:00", "2026-03-01", "2026-03-01T10",
              "2026-03-01T10:00:00+25:00", "2026-03-01T10:00:00-00:75"]  # fmt: skip


@pytest.mark.parametrize("text", NO_MOMENTS[1:])
def test_a_line_at_no_moment_is_refused(text: str) -> None:
    with pytest.raises(InputError, match="at"):
        StepDone(plate="alu5", step="sweep", at=text)


@pytest.mark.parametrize("text", NO_MOMENTS)
def test_what_is_no_moment_is_never_over(text: str) -> None:
    assert seconds_of(text) is None
    assert not has_passed(text, "2030-01-01T00:00:00+00:00")
    assert not has_passed("2020-01-01T00:00:00+00:00", text)


@pytest.mark.parametrize("nut", ["ISO 7040", "ISO 7042"])
def test_locker_on_a_locking_nut_is_blocked(choosing: Job, nut: str) -> None:
    joint = choosing.in_hand.settled_joints()[0]
    wet = replace(joint, nut=nut, treatment="medium locker")  # type: ignore[arg-type]
    found = assess_joint(wet, choosing.mount_of(wet))
    assert "locker on a locking nut" in {f.code for f in found.findings}
    assert found.verdict == "blocked"
    dry = assess_joint(replace(wet, treatment="dry zinc"), choosing.mount_of(wet))
    assert "locker on a locking nut" not in {f.code for f in dry.findings}


def test_riding_all_the_same_wants_a_reason_and_keeps_what_was_missing(
    half_fitted: JobFile,
) -> None:
    job = half_fitted.job
    missing = ready_of(job, half_fitted.records).missing_words
    with pytest.raises(InputError, match="reason"):
        ride_anyway(job, missing, " ")
    with pytest.raises(InputError, match="nothing is missing"):
        ride_anyway(job, (), "because")
    event = ride_anyway(job, missing, "to the workshop, at walking pace").event
    assert event.missing == missing  # type: ignore[union-attr]


def test_a_plate_over_the_stock_one_asks_nobody_to_take_that_off(choosing: Job) -> None:
    own = choosing.as_entered(choosing.in_hand.key)
    over = choosing.with_candidate(replace(own, plate=replace(own.plate, over_stock=True)))
    steps = {s.key for s in plan_of(choosing, own.key).steps}
    assert {"strip", "bag"} <= steps
    assert steps - {s.key for s in plan_of(over, own.key).steps} == {"strip", "bag"}


def test_no_pass_is_set_on_a_wrench_below_its_fifth(choosing: Job) -> None:
    large = replace(choosing, wrench=replace(choosing.wrench, scale_max_nm=100.0))
    plan = plan_of(large, large.in_hand.key)
    for step in plan.steps:
        if step.kind == "half":
            assert step.setting_nm is None or step.setting_nm >= 20.0
    by_feel = [s.text for s in plan.steps if s.kind == "half" and s.setting_nm is None]
    assert any("° more: half the torque" in text for text in by_feel)
    assert not any("quarter turn" in text for text in by_feel), "on M8 it would be ten times that"
