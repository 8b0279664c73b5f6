"""Ways to damage a bike or its rider, each as a job: none of them is ever sound."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any

import pytest

from rugged_shield.core.assess.frame.assessment import Assessment, assessment, plate_said
from rugged_shield.core.assess.tighten.cards import card_of
from rugged_shield.core.job.edits.path import set_text
from rugged_shield.core.job.edits.readings import take_reading
from rugged_shield.core.job.events import Record
from rugged_shield.core.job.model import Job
from rugged_shield.core.tighten.events import Started
from rugged_shield.formats.jobfile import read_job_file, write_job_file
from tests.conftest import demo_file

Change = Callable[[Job, Record], tuple[Job, Record]]
J = "candidates.alu5.joints."
"""The half fitted job: an aluminium pan on six joints, the second half still loose."""


def typed(*edits: tuple[str, str]) -> Change:
    def change(job: Job, record: Record) -> tuple[Job, Record]:
        for path, text in edits:
            job = set_text(job, path, text).job
        return job, record

    return change


def mount(key: str, **fields: Any) -> Change:
    def change(job: Job, record: Record) -> tuple[Job, Record]:
        mounts = tuple(replace(m, **fields) if m.key == key else m for m in job.bike.mounts)
        return replace(job, bike=replace(job.bike, mounts=mounts)), record

    return change


def joint(key: str, **fields: Any) -> Change:
    def change(job: Job, record: Record) -> tuple[Job, Record]:
        own = job.in_hand
        joints = tuple(replace(j, **fields) if j.key == key else j for j in own.joints)
        new = replace(own, joints=joints)
        candidates = tuple(new if c.key == own.key else c for c in job.candidates)
        return replace(job, candidates=candidates), record

    return change


def no_joints(job: Job, record: Record) -> tuple[Job, Record]:
    bare = tuple(replace(c, joints=()) if c.key == "alu5" else c for c in job.candidates)
    return replace(job, candidates=bare), ()


def torqued(share: float, then: Change | None = None) -> Change:
    """Joint 3 torqued to a share of its target, and what is changed afterwards."""

    def change(job: Job, record: Record) -> tuple[Job, Record]:
        own = next(j for j in job.in_hand.settled_joints() if j.key == "a3")
        target = card_of(own, job.mount_of(own), job.wrench).result.target_nm
        entry = take_reading(job, record, "a3", share * target, override="alone in the garage")
        after = (*record, replace(entry.event, seq=record[-1].seq + 1))
        return then(job, after) if then else (job, after)

    return change


def both(first: Change, second: Change) -> Change:
    return lambda job, record: second(*first(job, record))


def not_started(key: str) -> Change:
    def change(job: Job, record: Record) -> tuple[Job, Record]:
        kept = (e for e in record if not (isinstance(e, Started) and e.joint == key))
        return job, tuple(kept)

    return change


SPACER = "a3.layers.spacer.thickness_mm"
HARMS: dict[str, tuple[Change, str]] = {
    "a spacer forgotten": (
        typed((f"{J}a4.layers.spacer.thickness_mm", "11.5")),
        "joint does not close",
    ),
    "a spacer of 76 mm for one of 3": (typed((J + SPACER, "76")), "joint does not close"),
    "a washer too many at one mount": (typed((J + SPACER, "13.2")), "gap at a joint"),
    "a mount measured 360 mm higher": (
        mount("m3", z_mm=661.0, known="measured"),
        "joint does not close",
    ),
    "a mount measured 150 mm lower": (
        mount("m3", z_mm=151.0, known="measured"),
        "joint does not close",
    ),
    "a joint beside its mount": (joint("a3", x_mm=790.0, y_mm=-68.0), "joint does not close"),
    "a joint where no sheet is": (
        joint("a3", x_mm=1250.0, y_mm=0.0),
        "joint off the sheet",
    ),
    "two joints in one hole": (joint("a3", mount="m2"), "two joints at one place"),
    "a screw that does not reach": (typed((J + "a3.length_mm", "20")), "too short"),
    "a screw that bottoms": (typed((J + "a3.length_mm", "70")), "bottoms"),
    "a shank that jams": (
        typed((J + "a3.head", "EN 1665"), (J + "a3.length_mm", "60")),
        "bottoms",
    ),
    "torque far above the limit": (torqued(2.2), "torqued above its limit"),
    "torque far below": (torqued(0.6), "outside band"),
    "torqued before the others were started": (
        both(not_started("a4"), torqued(1.0)),
        "not all were started",
    ),
    "a mount as high as nobody measured": (
        both(mount("m3", z_mm=318.0, known="assumed"), typed((J + "a3.grade", "8.8"))),
        "gap not known",
    ),
    "a layer changed after the torque": (
        torqued(1.0, typed((J + SPACER, "12.4"))),
        "changed since it was torqued",
    ),
    "grease added after the torque": (
        torqued(1.0, typed((J + "a3.treatment", "anti-seize"))),
        "changed since it was torqued",
    ),
    "a thicker plate after the torque": (
        torqued(1.0, typed(("candidates.alu5.plate.thickness_mm", "6"))),
        "changed since it was torqued",
    ),
    "a screw whose class nobody read": (
        typed((J + "a3.grade", "not read")),
        "screw's class not read",
    ),
    "a joint without any figure": (
        both(mount("m3", manual_torque_nm=None), joint("a3", sheet_torque_nm=None)),
        "no torque source",
    ),
    "dry stainless": (
        typed((J + "a3.treatment", "dry stainless"), (J + "a3.grade", "A2-70")),
        "galls",
    ),
    "a sheet's figure above the limit": (
        joint("a3", thread_owner="kit", sheet_torque_nm=60.0),
        "held at the limit",
    ),
    "a manual's figure above the limit": (
        joint("a3", manual_torque_nm=60.0),
        "manual above our limit",
    ),
    "a wrench too large to be true": (
        typed(("wrench.scale_max_nm", "210")),
        "outside wrench range",
    ),
    "a plate without joints": (no_joints, "joints not known"),
    "a sump lower than the plate": (typed(("bike.parts.sump.z_min_mm", "270")), "touches vital"),
    "an apron inside the front wheel": (
        typed(("candidates.alu5.plate.belly.start_x_mm", "380")),
        "does not fit",
    ),
    "an apron that the wheel meets in its travel": (
        typed(("bike.front_travel_mm", "260"), ("bike.rake_deg", "26")),
        "does not fit",
    ),
    "a travel that nobody measured": (typed(), "fit not known"),
    "plastic beside the header pipe": (
        typed(
            ("candidates.alu5.plate.material", "HDPE"),
            ("candidates.alu5.plate.thickness_mm", "10"),
        ),
        "too hot",
    ),
    "a slider of plastic above a glowing pipe": (
        typed(
            ("candidates.alu5.plate.slider_thickness_mm", "6"),
            ("candidates.alu5.plate.slider_material", "HDPE"),
            ("bike.parts.header.surface_c", "600"),
        ),
        "too hot",
    ),
    "a countersink through a thin sheet": (
        typed((J + "a3.head", "DIN 7991"), ("candidates.alu5.plate.thickness_mm", "2")),
        "knife-edged countersink",
    ),
    "a thread too shallow to hold": (mount("m3", thread_end_mm=5.0), "no length fits"),
    "a plate for another year": (
        typed(("candidates.alu5.plate.needs.year_to", "2001")),
        "does not fit",
    ),
    "a plate that hangs on bars the bike lacks": (
        typed(("candidates.alu5.plate.needs.bars", "true")),
        "does not fit",
    ),
    "a belly into the rear wheel": (
        typed(("candidates.alu5.plate.belly.length_mm", "900")),
        "does not fit",
    ),
    "a mudguard that the apron meets": (
        typed(
            ("bike.front_travel_mm", "60"),
            ("bike.rake_deg", "26"),
            ("bike.front_mudguard_mm", "60"),
        ),
        "does not fit",
    ),
    "a wing that grounds in a lean": (
        typed(
            ("candidates.alu5.plate.wing_right.slant_height_mm", "300"),
            ("candidates.alu5.plate.wing_right.dihedral_deg", "10"),
        ),
        "grounds in a lean",
    ),
    "a plate half as heavy as its sheet must be": (
        typed(("candidates.alu5.plate.claimed_mass_kg", "1.9")),
        "mass differs from claim",
    ),
    "a filter lower than its wing": (
        typed(("bike.parts.filter.y_min_mm", "-60"), ("bike.parts.filter.z_min_mm", "300")),
        "touches vital",
    ),
    "spacers of a hand's breadth": (
        typed(*((f"{J}a{i}.layers.spacer.thickness_mm", "60") for i in range(1, 7))),
        "low clearance",
    ),
}


def judged(change: Change) -> Assessment:
    """The changed job out as a file, in again, and judged as ``shield assess --quick`` does."""
    base = demo_file("half_fitted")
    job, record = change(base.job, base.records)
    back = read_job_file(write_job_file(job, record))
    job = back.job
    plates = {c.key: plate_said(job, c.key, False) for c in (job.stock, *job.candidates)}
    return assessment(job, back.records, plates)


@pytest.mark.parametrize("harm", HARMS)
def test_no_harm_is_sound(harm: str) -> None:
    change, code = HARMS[harm]
    found = judged(change)
    said = [f for f in found.findings if f.code == code]
    assert said, sorted({f.code for f in found.findings})
    assert found.verdict != "sound"
    assert all(f.verdict != "sound" for f in said)
    assert found.ready.verdict != "sound"
    about = {f.about for f in said}
    for key in about & set(found.joints):
        assert found.joints[key].verdict != "sound", key


def test_the_job_that_they_start_from_has_none_of_them() -> None:
    """Each harm is found for itself, not because the job was bad before."""
    before = {f.code for f in judged(lambda job, record: (job, record)).findings}
    harms = {code for _, code in HARMS.values()}
    assert not before & harms - {"manual above our limit", "fit not known"}
