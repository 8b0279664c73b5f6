"""The torque card: who decides, what limits, what a lubricant changes."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from rugged_shield.core.assess.fitup.joints import assess_joint
from rugged_shield.core.assess.tighten.cards import card_of
from rugged_shield.core.fitup.joint import Joint
from rugged_shield.core.fitup.presets import nut_female
from rugged_shield.core.job.model import Job
from rugged_shield.core.survey.mass import PlateMassInput, plate_mass
from rugged_shield.core.tighten.faces import weakest_face
from rugged_shield.core.tighten.strength import least_preload_n
from rugged_shield.core.tighten.torque import TorqueCard
from tests.conftest import demo_file


def joint_of(job: Job, plate: str, key: str) -> Joint:
    return next(j for j in job.candidate(plate).settled_joints() if j.key == key)


def card(job: Job, joint: Joint, **wrench: Any) -> TorqueCard:
    return card_of(joint, job.mount_of(joint), replace(job.wrench, **wrench)).result


def codes(job: Job, joint: Joint, **wrench: Any) -> set[str]:
    found = card_of(joint, job.mount_of(joint), replace(job.wrench, **wrench)).findings
    return {f.code for f in found}


def decides(c: TorqueCard) -> str:
    return next(s.key for s in c.sources if s.decides)


def test_the_owner_of_the_thread_decides(choosing: Job) -> None:
    joint = joint_of(choosing, "alu5", "a3")
    assert decides(card(choosing, joint)) == "bike manual"
    assert card(choosing, joint).target_nm == 18
    kit = replace(joint, thread_owner="kit")
    assert decides(card(choosing, kit)) == "plate sheet"
    assert card(choosing, kit).high_nm == pytest.approx(card(choosing, kit).limit_nm)


def test_who_is_silent_does_not_decide(choosing: Job) -> None:
    joint = replace(joint_of(choosing, "alu5", "a3"), thread_owner="kit", sheet_torque_nm=None)
    assert decides(card(choosing, joint)) == "bike manual"
    mount = choosing.mount_of(joint)
    assert mount is not None
    mute = replace(mount, manual_torque_nm=None)
    outcome = card_of(joint, mute, choosing.wrench)
    assert decides(outcome.result) == "computed limit"
    found = outcome.result
    assert found.high_nm < found.limit_nm
    assert found.yield_share_max <= 0.9 + 1e-9, "VDI 2230: 90 % of yield at the least friction"
    assert "limit reached by scatter" not in {f.code for f in outcome.findings}
    assert "no torque source" in {f.code for f in outcome.findings}


def test_a_riders_decision_is_kept_with_its_reason_but_never_passes_the_limit(
    choosing: Job,
) -> None:
    joint = joint_of(choosing, "alu5", "a3")
    mine = replace(joint, chosen_torque_nm=15.0, chosen_reason="old thread")
    assert card(choosing, mine).target_nm == 15
    assert "old thread" in card(choosing, mine).decision
    wild = card(choosing, replace(mine, chosen_torque_nm=200.0))
    assert wild.high_nm == pytest.approx(wild.limit_nm)
    assert "held at the limit" in codes(choosing, replace(mine, chosen_torque_nm=200.0))


@settings(max_examples=60, deadline=None)
@given(
    st.one_of(st.none(), st.floats(1, 60)),
    st.one_of(st.none(), st.floats(1, 60)),
    st.sampled_from(["dry zinc", "medium locker", "anti-seize"]),
    st.sampled_from(["bike", "kit"]),
)
def test_only_the_bikes_own_manual_passes_the_limit_and_is_challenged(
    choosing: Job, manual: float | None, sheet: float | None, treatment: str, owner: Any
) -> None:
    joint = replace(
        joint_of(choosing, "alu5", "a3"),
        manual_torque_nm=manual,
        sheet_torque_nm=sheet,
        treatment=treatment,
        thread_owner=owner,
    )
    c = card(choosing, joint)
    own = decides(c) == "bike manual" and owner == "bike"
    if own:
        assert c.target_nm == pytest.approx((manual or 18.0) * c.lubricant_factor)
        assert ("manual above our limit" in codes(choosing, joint)) == (c.target_nm > c.limit_nm)
    else:
        assert c.high_nm <= c.limit_nm + 1e-9
    assert c.low_nm < c.target_nm < c.high_nm
    assert c.preload_min_n < c.preload_max_n
    assert sum(s.decides for s in c.sources) == 1
    assert sum(k.governs for k in c.limits) == 1


def test_anti_seize_lowers_a_dry_figure(choosing: Job) -> None:
    dry = replace(joint_of(choosing, "alu5", "a3"), treatment="dry zinc")
    greased = replace(dry, treatment="anti-seize")
    factor = card(choosing, greased).lubricant_factor
    assert 0.65 < factor < 0.85
    assert card(choosing, greased).target_nm == pytest.approx(18 * factor)
    assert f"{factor:.2f}" in card(choosing, greased).treatment_note
    assert card(choosing, replace(dry, treatment="medium locker")).lubricant_factor == 1


def test_conflict_of_more_than_a_fifth_is_said(choosing: Job) -> None:
    joint = joint_of(choosing, "alu5", "a3")
    assert "sources conflict" in codes(choosing, joint)
    assert "sources conflict" not in codes(choosing, replace(joint, sheet_torque_nm=19.0))


def test_plastic_without_its_sleeve_is_limited_by_its_face(choosing: Job) -> None:
    joint = joint_of(choosing, "hdpe10", "h1")
    bare = replace(joint, layers=tuple(k for k in joint.layers if k.kind != "sleeve"))
    with_sleeve, without = card(choosing, joint), card(choosing, replace(bare, length_mm=None))
    assert without.governing == "bearing pressure on plate"
    assert without.limit_nm < with_sleeve.limit_nm / 2
    face = weakest_face(joint, choosing.mount_of(joint))
    assert face is not None
    assert face.weaker != "plate"


def test_stainless_and_rubber_are_minded(choosing: Job) -> None:
    joint = joint_of(choosing, "hdpe10", "h3")
    assert "isolator by feel" in codes(choosing, joint)
    assert "galls" in codes(choosing, replace(joint, treatment="dry stainless"))


def test_extension_and_range_of_the_wrench(choosing: Job) -> None:
    joint = joint_of(choosing, "alu5", "a3")
    straight = card(choosing, joint, extension_mm=90, angle_deg=0)
    assert straight.setting_nm == pytest.approx(18 * 270 / 360)
    assert "90 mm" in straight.setting_note
    assert card(choosing, joint, extension_mm=90, angle_deg=90).setting_nm == pytest.approx(18)
    assert "outside wrench range" in codes(choosing, joint, scale_max_nm=15)
    assert "outside wrench range" in codes(choosing, joint, scale_max_nm=100)
    assert "outside wrench range" not in codes(choosing, joint, scale_max_nm=60)


def test_a_nut_is_turned_and_the_head_held(choosing: Job) -> None:
    joint = replace(
        joint_of(choosing, "steel25", "t1"), nut="ISO 7040", turned="nut", thread_owner="kit"
    )
    c = card(choosing, joint)
    assert c.turned == "turn the nut, hold the head"
    assert c.tool == "13 mm spanner"
    assert c.counter_tool == "13 mm socket"
    plain = card(choosing, replace(joint, nut="ISO 4032"))
    assert c.limit_nm == pytest.approx(plain.limit_nm + 6.0)
    assert c.preload_min_n < plain.preload_min_n


def test_tools_in_the_standards_words(choosing: Job) -> None:
    joint = joint_of(choosing, "alu5", "a3")
    assert card(choosing, joint).tool == "6 mm hex key"
    assert card(choosing, replace(joint, head="ISO 14579")).tool == "six-lobe T45"
    assert card(choosing, replace(joint, head="ISO 4017")).tool == "13 mm socket"


def test_less_thread_lowers_the_strip_limit(choosing: Job) -> None:
    joint = joint_of(choosing, "alu5", "a3")
    long, short = card(choosing, joint), card(choosing, replace(joint, length_mm=30.0))
    strip = {c: {k.name: k.torque_nm for k in c.limits} for c in (long, short)}
    assert strip[short]["female thread strip"] < strip[long]["female thread strip"]
    assert (
        assess_joint(replace(joint, length_mm=30.0), choosing.mount_of(joint)).verdict == "blocked"
    )


def test_a_class_that_nobody_read_is_asked_for_and_the_limits_hold(choosing: Job) -> None:
    joint = replace(joint_of(choosing, "alu5", "a3"), grade="10.9", sheet_torque_nm=21.0)
    kit = replace(joint, thread_owner="kit")
    unread = replace(kit, grade="not read")
    outcome = card_of(unread, choosing.mount_of(unread), choosing.wrench)
    assert outcome.verdict != "sound"
    assert "screw's class not read" in {f.code for f in outcome.findings}
    hexagon = replace(unread, head="ISO 4017", sheet_torque_nm=40.0)
    held = card_of(hexagon, choosing.mount_of(unread), choosing.wrench).result
    assert held.high_nm <= held.limit_nm + 1e-9, "limits hold whatever the class"
    bare = replace(unread, head="ISO 4017", sheet_torque_nm=None, manual_torque_nm=None)
    mute = replace(choosing.mount_of(joint), manual_torque_nm=None)  # type: ignore[type-var]
    weak = card_of(bare, mute, choosing.wrench).result
    known = card_of(replace(bare, grade="8.8"), mute, choosing.wrench).result
    assert weak.target_nm < known.target_nm, "counted as the weakest that is on sale"


def limits_of(job: Job, joint: Joint) -> dict[str, float]:
    return {limit.name: limit.torque_nm for limit in card(job, joint).limits}


def thin_nut(joint: Joint, kind: str, **more: Any) -> Joint:
    """A joint into a nut that thin sheet holds."""
    female = replace(nut_female("ISO 4032", joint.thread, 40.0), kind=kind)  # type: ignore[arg-type]
    return replace(joint, mount="", x_mm=640.0, y_mm=0.0, female=female,
                   female_material="S235 steel", thread_owner="kit", **more)  # fmt: skip


@pytest.mark.parametrize(("head", "most_nm"), [("ISO 7380-2", 30.0), ("ISO 4762", 52.0)])
def test_a_recess_bears_what_its_key_is_tested_to(choosing: Job, head: str, most_nm: float) -> None:
    """ISO 2936: 30 N·m on a key of 5 mm, 52 on one of 6."""
    joint = replace(joint_of(choosing, "alu5", "a3"), head=head)
    assert limits_of(choosing, joint)["recess"] == pytest.approx(most_nm, rel=0.01)
    said = card_of(joint, choosing.mount_of(joint), choosing.wrench).sources
    assert any("ISO 2936" in s.text for s in said)
    hexagon = replace(joint, head="ISO 4017")
    assert "recess" not in limits_of(choosing, hexagon)


@pytest.mark.parametrize(
    ("kind", "name", "most_nm"),
    [
        ("clip_nut", "clip nut", 18.0),
        ("cage_nut", "cage nut", 20.0),
        ("rivet_nut", "rivet nut", 25.0),
    ],
)
def test_a_nut_that_thin_sheet_holds_is_held_at_its_rating(
    choosing: Job, kind: str, name: str, most_nm: float
) -> None:
    joint = thin_nut(joint_of(choosing, "alu5", "a3"), kind, grade="10.9", sheet_torque_nm=40.0)
    assert limits_of(choosing, joint)[name] == pytest.approx(most_nm, rel=0.01)
    assert card(choosing, joint).high_nm <= most_nm * 1.01
    assert "held at the limit" in codes(choosing, joint)


JOLT_G, LEAST_FRICTION = 10.0, 0.1


@pytest.mark.parametrize("name", ["choosing", "kit_open", "in_service"])
def test_the_floor_of_preload_is_above_what_the_plate_pulls(name: str) -> None:
    """Its own weight at a jolt, held by friction alone, shared by its joints."""
    job = demo_file(name).job
    seen = 0
    for candidate in (c for c in job.candidates if c.joints):
        held = [j for j in candidate.settled_joints() if j.clamps_plate]
        mass = plate_mass(PlateMassInput(plate=candidate.plate)).result.held_mass_kg
        pull_n = mass * 9.81 * JOLT_G / (len(held) * LEAST_FRICTION)
        for joint in held:
            seen += 1
            assert least_preload_n(joint) > pull_n, (candidate.key, joint.number)
    assert seen >= 4
