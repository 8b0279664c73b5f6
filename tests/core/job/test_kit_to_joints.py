"""A list spread over mounts, parts put to joints, substitutes that are judged and owed."""

from __future__ import annotations

from dataclasses import replace

import pytest

from rugged_shield.core.amounts import in_system
from rugged_shield.core.assess.fitup.pose import fitted_joints
from rugged_shield.core.assess.kit.buying import to_buy
from rugged_shield.core.assess.kit.debts import debts_of, owed
from rugged_shield.core.assess.kit.lines import kit_check
from rugged_shield.core.assess.kit.tools import tools_of
from rugged_shield.core.errors import InputError
from rugged_shield.core.fitup.substitute import Substitute
from rugged_shield.core.job.edits.from_list import propose_joints
from rugged_shield.core.job.edits.kit import add_lines, count_all, revise
from rugged_shield.core.job.edits.plates import new_plate
from rugged_shield.core.job.edits.substitutes import (
    add_substitute,
    confirm_all,
    confirm_joint,
    pay_debt,
    put_line,
    remove_substitute,
)
from rugged_shield.core.job.model import Candidate, Job, mounted
from rugged_shield.core.kit.hardware import KitLine
from rugged_shield.core.survey.bike import OwnTool
from rugged_shield.core.survey.layouts import LayoutRequest, bike_from_layout, stock_plate
from rugged_shield.core.tighten.torque import WrenchTool

NONE: frozenset[str] = frozenset()
SCREW = KitLine(
    key="s",
    kind="screw",
    name="belly screw",
    thread="M8",
    length_mm=20,
    head="ISO 4762",
    grade="8.8",
    count=4,
)
WASHER = KitLine(key="w", kind="washer", name="washer", thread="M8", count=4)


@pytest.fixture
def bare() -> Job:
    """A bike from its layout and a new plate: no list, no joints."""
    asked = LayoutRequest(layout="single", name="Own", wheelbase_mm=1450, clearance_mm=260)
    bike = bike_from_layout(asked)
    job = Job(
        title="A plate to fit",
        bike=bike,
        stock=Candidate(plate=stock_plate(bike), joints=()),
        candidates=(),
        wrench=WrenchTool("click wrench", 60.0, 300.0),
    )
    return new_plate(job, "Plate on the floor", NONE).job


def listed(job: Job, *lines: KitLine) -> Job:
    return add_lines(job, job.in_hand.key, lines).job


def test_no_flat_washer_goes_under_a_cone(bare: Job) -> None:
    """The list has enough of them; the way in from a kit leaves them out all the same."""
    sunk = replace(SCREW, head="ISO 10642")
    joints = propose_joints(listed(bare, sunk, WASHER), "own", NONE).job.in_hand.joints
    assert joints
    assert all(layer.kind != "washer" for j in joints for layer in j.present())


def test_screws_are_spread_over_mounts_each_to_confirm(bare: Job) -> None:
    job = propose_joints(listed(bare, SCREW, WASHER), "own", NONE).job
    joints = job.in_hand.joints
    assert sorted(j.mount for j in joints) == ["m1", "m2", "m3", "m4"]
    assert all(j.proposed and j.length_mm == 20 and j.head == "ISO 4762" for j in joints)
    assert all([layer.kind for layer in j.present()] == ["washer", "plate"] for j in joints)
    judged = fitted_joints(job.in_hand.plate, mounted(job.bike, job.in_hand))
    assert all("joint proposed" in {f.code for f in a.findings} for a in judged)
    assert all(a.verdict != "sound" for a in judged)
    one = confirm_joint(job, "own", joints[0].key).job
    assert [j.proposed for j in one.in_hand.joints] == [False, True, True, True]
    done = confirm_all(one, "own")
    assert done.words == "3 joints confirmed"
    with pytest.raises(InputError, match="confirmed"):
        confirm_all(done.job, "own")


def test_a_pair_of_mounts_takes_one_kind_of_screw(bare: Job) -> None:
    two = replace(SCREW, count=2)
    longer = replace(SCREW, key="l", name="rear screw", length_mm=30, count=2)
    joints = propose_joints(listed(bare, two, longer), "own", NONE).job.in_hand.joints
    by_mount = {j.mount: j.length_mm for j in joints}
    assert by_mount["m1"] == by_mount["m2"]
    assert by_mount["m3"] == by_mount["m4"]
    assert len(set(by_mount.values())) == 2


def test_of_two_lengths_the_one_that_the_stack_takes_is_proposed(bare: Job) -> None:
    short = replace(SCREW, key="x", name="short screw", length_mm=10)
    joints = propose_joints(listed(bare, short, SCREW), "own", NONE).job.in_hand.joints
    assert {j.length_mm for j in joints} == {20}


def test_nuts_of_the_list_go_behind_their_tabs(bare: Job) -> None:
    nut = KitLine(key="n", kind="nut", name="nylon-insert nut", thread="M8", count=4)
    job = propose_joints(listed(bare, replace(SCREW, length_mm=30), WASHER, nut), "own", NONE).job
    assert {j.nut for j in job.in_hand.joints} == {"ISO 7040"}
    assert not kit_check(job).shared.unmet


def test_three_screws_leave_a_pair_open_rather_than_half(bare: Job) -> None:
    joints = propose_joints(listed(bare, replace(SCREW, count=3)), "own", NONE).job.in_hand.joints
    assert [j.mount for j in joints] == ["m1", "m2"]


def test_an_assumed_mount_takes_the_thread_of_its_screw_and_a_measured_one_does_not(
    bare: Job,
) -> None:
    six = listed(bare, replace(SCREW, thread="M6"))
    job = propose_joints(six, "own", NONE).job
    assert {m.thread for m in job.bike.mounts} == {"M6"}
    measured = tuple(replace(m, known="measured") for m in six.bike.mounts)
    with pytest.raises(InputError, match="no screw"):
        propose_joints(replace(six, bike=replace(six.bike, mounts=measured)), "own", NONE)


def test_what_the_list_leaves_open_is_not_guessed(bare: Job) -> None:
    with pytest.raises(InputError, match="no screw"):
        propose_joints(listed(bare, replace(SCREW, head="")), "own", NONE)
    full = propose_joints(listed(bare, SCREW), "own", NONE).job
    with pytest.raises(InputError, match="every mount"):
        propose_joints(full, "own", NONE)


def test_sleeves_and_spacers_of_the_list_go_into_the_stack(bare: Job) -> None:
    spacer = KitLine(key="p", kind="spacer", name="spacer", thread="M8", length_mm=8, count=4)
    job = propose_joints(listed(bare, SCREW, WASHER, spacer), "own", NONE).job
    kinds = [layer.kind for layer in job.in_hand.joints[0].present()]
    assert kinds == ["washer", "plate", "spacer"]
    check = kit_check(job)
    assert {n.part for n in check.shared.unmet} <= {"screw"}


def test_a_line_is_put_to_a_joint(choosing: Job) -> None:
    plate = choosing.in_hand.key
    other = replace(SCREW, length_mm=35, head="ISO 4017", grade="")
    job = add_lines(choosing, plate, (other,)).job
    joint = next(j for j in job.in_hand.joints if j.thread == "M8")
    put = put_line(job, plate, "s", joint.key).job
    now = next(j for j in put.in_hand.joints if j.key == joint.key)
    assert (now.length_mm, now.head, now.grade) == (35, "ISO 4017", "not read")
    foreign = add_lines(job, plate, (replace(other, key="f", thread="M10"),)).job
    with pytest.raises(InputError, match="does not go into"):
        put_line(foreign, plate, "f", joint.key)
    unseen = add_lines(job, plate, (replace(other, key="f", head=""),)).job
    with pytest.raises(InputError, match="not known yet"):
        put_line(unseen, plate, "f", joint.key)


def a_debt(job: Job, **said: object) -> tuple[Job, str]:
    joint = next(j for j in job.in_hand.joints if j.length_mm is not None)
    asked = Substitute(key="new", joint=joint.key, part="screw", name="stock screw", **said)  # type: ignore[arg-type]
    return add_substitute(job, job.in_hand.key, asked).job, joint.key


def test_a_substitute_is_judged_by_the_joints_own_stack(choosing: Job) -> None:
    job, joint = a_debt(choosing, length_mm=10.0, replace_by="2027-04-01")
    (debt,) = debts_of(job)
    assert (debt.verdict, debt.owed, debt.joint_key) == ("blocked", True, joint)
    assert "too short" in {f.code for f in debt.findings}
    judged = fitted_joints(job.in_hand.plate, mounted(job.bike, job.in_hand))
    assert next(a for a in judged if a.joint.key == joint).verdict == "blocked"
    assert [s.name for s in owed(job)] == ["stock screw"]
    bought = [b for b in to_buy(job, kit_check(job)) if b.why == "to pay a debt"]
    assert [(b.count, b.kind) for b in bought] == [(1, "screw")]


def test_paying_a_debt_gives_the_joint_its_own_part_back(choosing: Job) -> None:
    before = choosing.in_hand.joints
    job, _ = a_debt(choosing, length_mm=10.0)
    (debt,) = job.in_hand.substitutes
    paid = pay_debt(job, job.in_hand.key, debt.key).job
    assert paid.in_hand.joints == before
    assert not owed(paid)
    assert debts_of(paid)[0].verdict == "sound"
    with pytest.raises(InputError, match="paid already"):
        pay_debt(paid, paid.in_hand.key, debt.key)
    assert not remove_substitute(job, job.in_hand.key, debt.key).job.in_hand.substitutes


def test_a_good_substitute_for_good_is_no_debt(choosing: Job) -> None:
    job, _ = a_debt(choosing, grade="10.9", for_good=True)
    assert not owed(job)
    assert "owed" not in {f.code for f in debts_of(job)[0].findings}


def test_a_weaker_screw_and_one_not_read_are_said(choosing: Job) -> None:
    weak, _ = a_debt(choosing, grade="A2-70")
    assert any("holds less" in f.text for f in debts_of(weak)[0].findings)
    unread, _ = a_debt(choosing, grade="not read", for_good=True)
    assert debts_of(unread)[0].verdict != "sound"
    texts = [in_system(f.text) for f in debts_of(weak)[0].findings]
    assert any("eaten beside stainless" in text for text in texts), texts


def test_an_inch_washer_is_judged_by_its_own_sizes(choosing: Job) -> None:
    joint = next(j for j in choosing.in_hand.joints if any(k.kind == "washer" for k in j.layers))
    washer = next(k for k in joint.layers if k.kind == "washer")
    asked = Substitute(
        key="new",
        joint=joint.key,
        part=washer.key,
        name="inch washer",
        thickness_mm=2.1,
        outer_mm=17.5,
        hole_mm=8.7,
    )
    job = add_substitute(choosing, choosing.in_hand.key, asked).job
    now = next(j for j in job.in_hand.joints if j.key == joint.key)
    own = next(k for k in now.layers if k.key == washer.key)
    assert (own.name, own.thickness_mm, own.hole_mm) == ("inch washer", 2.1, 8.7)
    too_small = replace(asked, hole_mm=6.6)
    with pytest.raises(InputError, match="smaller than the screw"):
        add_substitute(choosing, choosing.in_hand.key, too_small)


def test_a_change_that_a_substitute_cannot_follow_is_refused_and_the_job_stays_readable(
    choosing: Job,
) -> None:
    plate = choosing.in_hand.key
    joint = next(j for j in choosing.in_hand.joints if any(k.kind == "washer" for k in j.layers))
    washer = next(k for k in joint.layers if k.kind == "washer")
    asked = Substitute(key="n", joint=joint.key, part=washer.key, name="inch washer", hole_mm=8.7)
    job = add_substitute(choosing, plate, asked).job
    entered = job.as_entered(plate)
    wider = replace(
        joint,
        thread="M10",
        layers=tuple(replace(k, hole_mm=11.0, outer_mm=60.0) for k in joint.layers),
    )
    joints = tuple(wider if j.key == joint.key else j for j in entered.joints)
    with pytest.raises(InputError, match="smaller than the screw"):
        replace(entered, joints=joints)
    assert job.in_hand.key == plate


def test_a_nut_is_put_to_its_place_and_a_washer_of_another_size_is_not(bare: Job) -> None:
    nut = KitLine(key="n", kind="nut", name="nylon-insert nut", thread="M8", count=4)
    six = replace(WASHER, key="six", thread="M6", length_mm=1.6)
    job = listed(bare, replace(SCREW, length_mm=30), WASHER, nut, six)
    job = propose_joints(job, "own", NONE).job
    joint = job.in_hand.joints[0]
    plain = replace(nut, key="p", name="nut")
    put = put_line(listed(job, plain), "own", "p", joint.key, "nut").job
    assert put.in_hand.joints[0].nut == "ISO 4032"
    with pytest.raises(InputError, match="M8"):
        put_line(job, "own", "six", joint.key, "washer")
    with pytest.raises(InputError):
        put_line(job, "own", "w", joint.key, "nut")


def test_a_second_substitute_in_a_place_takes_over_from_the_first(choosing: Job) -> None:
    job, joint = a_debt(choosing, length_mm=10.0)
    again = Substitute(key="x", joint=joint, part="screw", name="longer one", length_mm=30.0)
    job = add_substitute(job, job.in_hand.key, again).job
    assert [s.name for s in owed(job)] == ["longer one"]
    now = next(j for j in job.in_hand.joints if j.key == joint)
    assert now.length_mm == 30.0


def test_alternatives_are_what_every_joint_takes(choosing: Job) -> None:
    entered = choosing.as_entered(choosing.in_hand.key)
    job = choosing.with_candidate(replace(entered, kit=()))
    for item in to_buy(job, kit_check(job)):
        if item.kind != "screw":
            continue
        stacks = [
            a.stack.result.acceptable_lengths_mm
            for a in fitted_joints(job.in_hand.plate, mounted(job.bike, job.in_hand))
            if a.joint.number in item.joints
        ]
        for words in item.or_else:
            length = float(words.split("× ")[1])
            assert all(length in stack for stack in stacks)


def test_all_there_counts_what_was_not_counted(choosing: Job) -> None:
    job = count_all(replace(choosing, counts=()), choosing.in_hand.key).job
    assert all(s.state == "matches" for s in kit_check(job).lines.values())
    with pytest.raises(InputError, match="counted already"):
        count_all(job, job.in_hand.key)


def test_a_revision_is_taken_change_by_change(bare: Job) -> None:
    job = count_all(listed(bare, SCREW, WASHER), "own").job
    new = (replace(SCREW, key="n", length_mm=25), replace(WASHER, key="n2", count=6))
    taken = revise(job, "own", new, frozenset({"changed:s"})).job
    kit = {k.key: k for k in taken.in_hand.kit}
    assert (kit["s"].length_mm, kit["w"].count) == (25, 4)
    gone = revise(job, "own", (SCREW,), frozenset({"gone:w"})).job
    assert [k.key for k in gone.in_hand.kit] == ["s"]
    assert [c.line for c in gone.counts] == ["s"]
    with pytest.raises(InputError, match="nothing was taken"):
        revise(job, "own", new, NONE)


def test_tools_of_both_sides_against_garage_and_roll(choosing: Job) -> None:
    tools = tools_of(choosing)
    assert set(tools.lacking) == {t.tool for t in tools.needed}
    first = tools.needed[0].tool
    own = (OwnTool(key="t", tool=first.upper(), place="trail roll"),)
    with_it = tools_of(replace(choosing, bike=replace(choosing.bike, tools=own)))
    assert first not in with_it.lacking
    assert first not in with_it.roll_lacks
