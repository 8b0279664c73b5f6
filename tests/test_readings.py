"""Readings beside their joint: too much, too little, and of a joint that was changed since."""

from __future__ import annotations

from dataclasses import replace

import pytest

from rugged_shield.core.assess.frame.assessment import assessment, plate_said
from rugged_shield.core.assess.frame.next_act import next_act
from rugged_shield.core.assess.frame.stations import station_states
from rugged_shield.core.assess.gate.ready import ready_of
from rugged_shield.core.assess.tighten.cards import card_of, reading_figure
from rugged_shield.core.assess.tighten.plan import done_steps, plan_of
from rugged_shield.core.errors import InputError
from rugged_shield.core.job.edits.path import set_text
from rugged_shield.core.job.edits.readings import start_joint, take_reading, take_reading_back
from rugged_shield.core.job.events import Event, Record
from rugged_shield.core.job.model import Job
from rugged_shield.core.tighten.all_started import joint_states
from rugged_shield.core.tighten.torque import TorqueCard
from rugged_shield.formats.jobfile import JobFile


def added(record: Record, event: Event) -> Record:
    return (*record, replace(event, seq=max((e.seq for e in record), default=0) + 1))


def card(job: Job, key: str) -> TorqueCard:
    joint = next(j for j in job.in_hand.settled_joints() if j.key == key)
    return card_of(joint, job.mount_of(joint), job.wrench).result


def torqued(job: Job, record: Record, key: str, nm: float, accepted: str = "") -> Record:
    record = added(record, start_joint(job, key).event)
    entry = take_reading(job, record, key, nm, override="for the test", accepted=accepted)
    return added(record, entry.event)


def verdict_of(job: Job, record: Record, key: str) -> tuple[str, set[str]]:
    state = joint_states(record, plan_of(job, job.in_hand.key).built)[key]
    figure = reading_figure(state, card(job, key))
    assert figure is not None
    return figure.verdict, {f.code for f in figure.findings}


def said_of(job: Job, record: Record, key: str) -> tuple[str, str]:
    plates = {c.key: plate_said(job, c.key, False) for c in (job.stock, *job.candidates)}
    said = assessment(job, record, plates).joints[key]
    return said.verdict, said.state


@pytest.mark.parametrize("key", ["a3", "a5"])
def test_a_reading_above_the_limit_blocks_until_somebody_deals_with_it(
    half_fitted: JobFile, key: str
) -> None:
    job = half_fitted.job
    far = 1.4 * card(job, key).limit_nm
    record = torqued(job, half_fitted.records, key, far)
    verdict, found = verdict_of(job, record, key)
    assert verdict == "blocked"
    assert "torqued above its limit" in found
    assert said_of(job, record, key) == ("blocked", "above its limit")
    assert f"full:{key}" not in done_steps(plan_of(job, "alu5"), record)
    assert ready_of(job, record).verdict == "blocked"
    tighten = next(s for s in station_states(job, record) if s.key == "tighten")
    assert tighten.verdict == "blocked"
    words = next_act(job, record).words
    assert "torque" in words or "joint" in words

    kept = torqued(job, record, key, far, accepted="the manual was misread by us")
    assert "torqued above its limit, accepted" in verdict_of(job, kept, key)[1]
    assert f"full:{key}" in done_steps(plan_of(job, "alu5"), kept)
    seq = record[-1].seq
    new_screw = added(record, take_reading_back(job, record, seq, "new screw").event)
    good = torqued(job, new_screw, key, card(job, key).target_nm)
    assert "torqued above its limit" not in verdict_of(job, good, key)[1]


def test_a_reading_below_its_band_is_asked_for_again(half_fitted: JobFile) -> None:
    job = half_fitted.job
    record = torqued(job, half_fitted.records, "a3", 0.7 * card(job, "a3").target_nm)
    assert verdict_of(job, record, "a3")[1] >= {"outside band"}
    assert "full:a3" not in done_steps(plan_of(job, "alu5"), record)
    again = torqued(job, record, "a3", card(job, "a3").target_nm)
    assert "outside band" not in verdict_of(job, again, "a3")[1]
    assert "full:a3" in done_steps(plan_of(job, "alu5"), again)


CHANGES = {
    "layer": ("candidates.alu5.joints.a3.layers.spacer.thickness_mm", "12.5"),
    "screw": ("candidates.alu5.joints.a3.length_mm", "40"),
    "class": ("candidates.alu5.joints.a3.grade", "10.9"),
    "treatment": ("candidates.alu5.joints.a3.treatment", "anti-seize"),
    "plate": ("candidates.alu5.plate.thickness_mm", "6"),
}


@pytest.mark.parametrize("change", CHANGES)
def test_a_changed_joint_is_loose_again(half_fitted: JobFile, change: str) -> None:
    job = half_fitted.job
    record = torqued(job, half_fitted.records, "a3", card(job, "a3").target_nm)
    assert said_of(job, record, "a3")[1] == "torqued"
    path, value = CHANGES[change]
    after = set_text(job, path, value).job
    verdict, found = verdict_of(after, record, "a3")
    assert (verdict, found) == ("blocked", {"changed since it was torqued"})
    assert said_of(after, record, "a3")[1] == "changed since it was torqued"
    done = done_steps(plan_of(after, "alu5"), record)
    assert not done & {"full:a3", "start:a3"}
    assert any("Joint 3 was changed" in m for m in ready_of(after, record).missing_words)
    back = set_text(after, path, _was(job, path)).job
    assert said_of(back, record, "a3")[1] == "torqued", "as it was, its reading stands"
    again = torqued(after, record, "a3", card(after, "a3").target_nm)
    assert said_of(after, again, "a3")[1] == "torqued"


def _was(job: Job, path: str) -> str:
    from rugged_shield.core.job.edits.path import value_at

    return str(value_at(job, path))


def test_a_name_is_no_change(half_fitted: JobFile) -> None:
    job = half_fitted.job
    record = torqued(job, half_fitted.records, "a3", card(job, "a3").target_nm)
    named = set_text(job, "candidates.alu5.joints.a3.name", "rear, left side").job
    assert said_of(named, record, "a3")[1] == "torqued"


def test_a_reason_of_two_letters_is_none(half_fitted: JobFile) -> None:
    job, records = half_fitted.job, half_fitted.records
    with pytest.raises(InputError, match="three letters"):
        take_reading(job, records, "a3", 80.0, override="for the test", accepted="no")
