"""Each finding that gates, made in a job that is ready in every other way, keeps it from sound."""

from __future__ import annotations

from dataclasses import replace

import pytest

from rugged_shield.core.assess.gate.ready import Ready, ready_of
from rugged_shield.core.fitup.engagement import Engagement
from rugged_shield.core.fitup.gap_seen import GapSeen
from rugged_shield.core.fitup.presets import nut_female
from rugged_shield.core.fitup.seen import SeenHole
from rugged_shield.core.fitup.stud import Stud
from rugged_shield.core.job.edits.path import set_text
from rugged_shield.core.judgement.table import FINDINGS, gating
from rugged_shield.core.keep.events import FoundTorque, OilChanged
from rugged_shield.core.tighten.events import BikeJointOpened, JointRenewed, StepDone, ThreadDamaged
from tests.ready_changes import (
    ALL,
    GEAR,
    GUARD,
    Change,
    again,
    bike,
    both,
    both_say,
    gaps,
    hole,
    instead,
    joint,
    lacking,
    laden,
    last_reading,
    layers,
    lockered,
    mount,
    narrow,
    on_the_flank,
    only,
    over,
    part,
    passed,
    plate,
    seen,
    sink,
    sleeved,
    slotted,
    spacer,
    struck,
    stud,
    through,
    told_of,
    typed,
    washered,
    with_hole_sets,
    worn_washer,
)
from tests.ready_job import NOW, PLATE, ready_job

MAKERS: dict[str, Change] = {
    "bottoms": joint("a3", length_mm=70.0),
    "hits neighbour": joint("a1", length_mm=60.0),
    "too short": joint("a3", length_mm=20.0),
    "knife-edged countersink": plate(ALL, thickness_mm=2.0),
    "no length fits": mount("m3", ("a3",), thread_end_mm=5.0),
    "wrong screw in hand": joint("a3", length_mm=60.0),
    "pinched, must keep its play": joint("a3", floats=True),
    "locker on a locking nut": through("ISO 7040", treatment="medium locker"),
    "touches what it passes": joint("a3", passes="catalyst box", passes_gap_mm=1.0),
    "passes close to something hot": joint("a3", passes="catalyst box", passes_gap_mm=6.0),
    "passage not known": joint("a3", passes="catalyst box"),
    "joint proposed": joint("a3", proposed=True),
    "stud not measured": stud(length_mm=None),
    "stud's seat not known": stud(stud=Stud(treatment="medium locker")),
    "stud sits too shallow": stud(stud=Stud(seated_mm=3.0, treatment="medium locker")),
    "stud may turn": stud(stud=Stud(seated_mm=16.0, treatment="dry zinc"), nut="ISO 7040"),
    "joint does not close": spacer("a4", 11.0),
    "gap at a joint": spacer("a4", 14.2),
    "gap not known": both(mount("m4", z_mm=312.0, known="assumed")),
    "stands off unevenly": spacer("a4", 14.2),
    "joint off the sheet": joint("a3", x_mm=1250.0, y_mm=0.0),
    "two joints at one place": joint("a3", mount="m4"),
    "galls": both(
        joint("a3", treatment="dry stainless", grade="A2-70"),
    ),
    "on assumed numbers": spacer("a3", 12.0, known="assumed"),
    "turns within its band": both(
        joint("a3", length_mm=30.0), spacer("a3", 12.0, known="assumed"),
        mount("m3", ("a3",), thread_end_mm=12.5),
    ),
    "mount only assumed": mount("m3", known="assumed"),
    "height not explained": both(
        typed(f"candidates.{PLATE}.plate.belly.z_front_mm", "330"),
        typed(f"candidates.{PLATE}.plate.belly.z_rear_mm", "330", *ALL),
    ),
    "held at too few places": only("a1"),
    "turns about its joints": only("a1", "a4"),
    "screw will not start": seen(a3=hole(9.0)),
    "start not sure": seen(a3=hole(0.6, u=2.0)),
    "hole not seen": seen(a3=SeenHole()),
    "held at the limit": joint("a3", thread_owner="kit", **both_say(60.0)),
    "limit reached by scatter": joint(
        "a3", grade="A2-70", treatment="anti-seize", thread_owner="kit", **both_say(60.0)
    ),
    "sources conflict": joint("a3", sheet_torque_nm=10.0),
    "no torque source": both(
        mount("m3", manual_torque_nm=None), joint("a3", sheet_torque_nm=None, manual_torque_nm=None)
    ),
    "manual above our limit": joint("a3", **both_say(60.0)),
    "screw's class not read": joint("a3", grade="not read"),
    "torqued above its limit": over(1.4),
    "torqued above its limit, accepted": last_reading(torque_nm=33.0, accepted="a 12.9 screw"),
    "changed since it was torqued": lambda job, record: (
        set_text(job, f"candidates.{PLATE}.joints.a3.treatment", "anti-seize").job, record,
    ),
    "outside band": last_reading(torque_nm=9.0),
    "not all were started": last_reading(overridden=True, reason="alone"),
    "not torqued": told_of(JointRenewed(plate=PLATE, joint="a3", how="a new screw")),
    "thread damaged": told_of(ThreadDamaged(plate=PLATE, joint="a3", what="two turns gone")),
    "loose since the oil change": told_of(OilChanged(plate=PLATE, joints=ALL)),
    "lock nut not known": both(
        through("ISO 7040"), told_of(OilChanged(plate=PLATE, joints=("a3",))),
        lambda job, record: again(job, record, "a3"),
    ),
    "lock nut used again": both(
        through("ISO 7040"), told_of(OilChanged(plate=PLATE, joints=("a3",), nuts="used again")),
        lambda job, record: again(job, record, "a3"),
    ),
    "heavy, sag not known": laden(40.0),
    "vital not covered": on_the_flank,
    "can hook": both(narrow(236.0), plate(apron=None, cutouts=())),
    "does not fit": bike(front_travel_mm=260.0),
    "fits with a change": typed(f"candidates.{PLATE}.plate.needs.exhaust_off", "true"),
    "fit not known": bike(front_travel_mm=None),
    "touches vital": part("sump", z_min_mm=270.0),
    "standoff small": part("sump", required_gap_mm=40.0),
    "gap too small": gaps(**{GEAR: GapSeen(key=GEAR, gap_mm=0.0, looked_with="it touches")}),
    "gap small in the worst case": gaps(**{GEAR: GapSeen(key=GEAR, gap_mm=6.2, gap_u_mm=1.0)}),
    "nothing near it looked at": bike(neighbours=()),
    "too hot": both(
        plate(ALL, slider_material="HDPE", slider_thickness_mm=6.0, heat_foil=False),
        part("header", surface_c=600.0),
    ),
    "warm after a stop": plate(ALL, slider_material="HDPE", slider_thickness_mm=6.0),
    "heat near its limit": plate(ALL, slider_material="HDPE", slider_thickness_mm=6.0),
    "no joints entered": only(),
    "owed": instead(length_mm=35.0),
    "may not stand in": instead(length_mm=20.0),
    "no plate picked": lambda job, record: (replace(job, picked="", weighing=PLATE), record),
    "step open": lambda job, record: (
        job, tuple(e for e in record if not (isinstance(e, StepDone) and e.step == "sweep")),
    ),
    "open on the bike": told_of(BikeJointOpened(joint="bike-9", name="vapour hose", what="hose")),
    "locker cures": lockered(20.0, "2027-03-01T11:02:00+00:00"),
    "cure not known": lockered(-15.0, "2027-03-01T11:02:00+00:00"),
    "time lies ahead": lockered(20.0, "2028-03-01T11:02:00+00:00"),
    "locker had set": lockered(20.0, "2027-03-01T16:02:00+00:00"),
    "loss found": told_of(FoundTorque(plate=PLATE, joint="a3", torque_nm=4.0)),
    "dented to what lies behind": struck(60.0, looked=True),
    "short of room behind a dent": struck(9.0, looked=True),
    "blow not looked at": struck(None),
    "nothing beyond a blind thread": joint(
        "a3", beyond=(Engagement(key="far", name="far nut", nut="ISO 4032"),)
    ),
    "passed for a reason": passed("nothing near it looked at", "", bike(neighbours=())),
    "sleeve shorter than its plate": layers("a3", sleeved),
    "edge too near": both(
        seen(a6=hole(9.0)),
        typed(f"candidates.{PLATE}.plate.belly.front_width_mm", "232"),
        typed(f"candidates.{PLATE}.plate.belly.rear_width_mm", "232"),
    ),
    "must float": both(seen(), plate(ALL, material="HDPE", heat_foil=True)),
    "pieces cross": plate(
        pieces=(GUARD, replace(GUARD, key="other", name="other", z_mm=262.0, pitch_deg=12.0))
    ),
    "sheet not in the stack": plate(pieces=(GUARD,)),
    "not through that sheet": layers("a3", lacking),
    "hole set not chosen": with_hole_sets(""),
    "hole set tilts": with_hole_sets("narrow"),
    "nothing to bear on": layers("a3", worn_washer),
    "hole breaks the edge": narrow(189.0),
    "hole near an edge": narrow(205.0),
    "hole's place not known": both(narrow(189.0), mount("m5", known="assumed")),
    "panel cut in two": slotted(236.0),
    "panel on thin webs": slotted(220.0),
    "edge not known": both(narrow(205.0), plate(known="assumed")),
    "sink not known": joint("a5", countersink=None),
    "sink's angle not known": joint("a5", countersink=sink(angle_deg=None)),
    "cone on an edge": joint("a5", countersink=sink(angle_deg=120.0)),
    "head stands proud": joint("a5", countersink=sink(head_below_surface_mm=-2.0)),
    "flat washer under a cone": both(joint("a5", countersink=None), layers("a5", washered)),
    "turns in its hole": joint("a3", head="DIN 603"),
    "nothing holds the nut": joint(
        "a3", female=replace(nut_female("ISO 4032", "M8", 40.0), kind="loose_nut"),
        female_material="S235 steel",
    ),
    "plate not in its stack": layers("a3", lambda ls: tuple(x for x in ls if x.kind != "plate")),
    "no preload left": joint("a3", **both_say(1.0)),
    "little preload left": joint("a3", **both_say(7.0)),
    "figure past yield": joint("a3", **both_say(60.0)),
    "face crushed": spacer("a3", 12.0, outer_mm=10.6, hole_mm=8.5),
    "treatment does not suit": joint("a3", grade="A2-70", treatment="dry zinc"),
    "nut weaker than the screw": through("ISO 4032", grade="12.9"),
    "locker too hot": both(joint("a3", treatment="medium locker"), part("sump", surface_c=500.0)),
    "screws small for the strike": both(
        joint(
            "a3", thread="M5", nut="ISO 4032", female=nut_female("ISO 4032", "M5", 40.0),
            female_material="S235 steel",
        ),
        lambda job, record: (replace(job, use=replace(job.use, strike_energy_j=60.0)), record),
    ),
    "heat not known": both(
        plate(ALL, slider_material="HDPE", slider_thickness_mm=6.0),
        part("header", surface_c=None, x_min_mm=500.0, x_max_mm=620.0, z_min_mm=330.0),
    ),
}  # fmt: skip


def judged(change: Change) -> Ready:
    job, record = change(*ready_job())
    return ready_of(job, record, NOW)


def test_where_they_start_from_nothing_is_missing_and_nothing_minded() -> None:
    ready = ready_of(*ready_job(), NOW)
    assert (ready.verdict, ready.missing, ready.minds) == ("sound", (), ())


def test_no_code_that_gates_is_left_out() -> None:
    assert set(MAKERS) == set(gating())


@pytest.mark.parametrize("code", MAKERS)
def test_it_alone_keeps_ready_from_sound(code: str) -> None:
    ready = judged(MAKERS[code])
    said = [m for m in (*ready.missing, *ready.minds) if m.code == code]
    assert said, sorted({m.code for m in (*ready.missing, *ready.minds)})
    assert ready.verdict != "sound"
    assert all(m.remedy and m.words for m in said)
    if FINDINGS[code].verdict in ("blocked", "not known"):  # type: ignore[index]
        assert code in {m.code for m in ready.missing}
        assert ready.verdict in ("blocked", "not known")
