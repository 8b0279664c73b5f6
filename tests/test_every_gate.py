"""Each finding that gates, made in a job that is ready in every other way, keeps it from sound."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any

import pytest

from rugged_shield.core.assess.gate import Ready, pass_finding, ready_of
from rugged_shield.core.assess.tighten import card_of
from rugged_shield.core.fitup import (
    Countersink,
    Engagement,
    GapSeen,
    Layer,
    SeenHole,
    Stud,
    Substitute,
)
from rugged_shield.core.fitup.presets import nut_female
from rugged_shield.core.job import Job, Record
from rugged_shield.core.job.edits import set_text
from rugged_shield.core.judgement.table import FINDINGS, gating
from rugged_shield.core.keep import FoundTorque, LookedOver, OilChanged, PlateStruck
from rugged_shield.core.survey import Piece
from rugged_shield.core.tables.dues import AFTER_A_BLOW
from rugged_shield.core.tighten import (
    BikeJointOpened,
    JointRenewed,
    Reading,
    Started,
    StepDone,
    ThreadDamaged,
)
from tests.ready_job import NOW, PLATE, finished, ready_job, told, torqued

Change = Callable[[Job, Record], tuple[Job, Record]]
ALL = ("a1", "a2", "a3", "a4", "a5", "a6")


def again(job: Job, record: Record, *keys: str) -> tuple[Job, Record]:
    """Joints torqued once more, as they are made now, and every step that is left done."""
    for key in keys:
        record = torqued(job, record, key)
    return job, finished(job, record)


def own(job: Job, **changes: Any) -> Job:
    return job.with_candidate(replace(job.as_entered(PLATE), **changes))


def joint(key: str, **fields: Any) -> Change:
    def change(job: Job, record: Record) -> tuple[Job, Record]:
        joints = job.as_entered(PLATE).joints
        job = own(job, joints=tuple(replace(j, **fields) if j.key == key else j for j in joints))
        return again(job, record, key)

    return change


def layers(key: str, made: Callable[[tuple[Layer, ...]], tuple[Layer, ...]]) -> Change:
    def change(job: Job, record: Record) -> tuple[Job, Record]:
        found = next(j for j in job.as_entered(PLATE).joints if j.key == key)
        return joint(key, layers=made(found.layers))(job, record)

    return change


def spacer(key: str, thickness_mm: float, **more: Any) -> Change:
    return layers(
        key,
        lambda ls: tuple(
            replace(x, thickness_mm=thickness_mm, **more) if x.kind == "spacer" else x for x in ls
        ),
    )


def mount(key: str, then: tuple[str, ...] = (), **fields: Any) -> Change:
    def change(job: Job, record: Record) -> tuple[Job, Record]:
        mounts = tuple(replace(m, **fields) if m.key == key else m for m in job.bike.mounts)
        return again(replace(job, bike=replace(job.bike, mounts=mounts)), record, *then)

    return change


def part(key: str, **fields: Any) -> Change:
    def change(job: Job, record: Record) -> tuple[Job, Record]:
        parts = tuple(replace(p, **fields) if p.key == key else p for p in job.bike.parts)
        return replace(job, bike=replace(job.bike, parts=parts)), record

    return change


def bike(**fields: Any) -> Change:
    return lambda job, record: (replace(job, bike=replace(job.bike, **fields)), record)


def plate(then: tuple[str, ...] = (), **fields: Any) -> Change:
    def change(job: Job, record: Record) -> tuple[Job, Record]:
        now = replace(job.as_entered(PLATE).plate, **fields)
        return again(own(job, plate=now), record, *then)

    return change


def typed(path: str, text: str, *then: str) -> Change:
    return lambda job, record: again(set_text(job, path, text).job, record, *then)


def told_of(*events: Any) -> Change:
    return lambda job, record: (job, told(record, *events))


def both(*changes: Change) -> Change:
    def change(job: Job, record: Record) -> tuple[Job, Record]:
        for one in changes:
            job, record = one(job, record)
        return job, record

    return change


def seen(**holes: SeenHole) -> Change:
    def change(job: Job, record: Record) -> tuple[Job, Record]:
        joints = job.as_entered(PLATE).joints
        given = {k: SeenHole(right_mm=0.0, forward_mm=0.0, off_u_mm=0.05) for k in ALL} | holes
        return own(
            job, joints=tuple(replace(j, seen=given.get(j.key, j.seen)) for j in joints)
        ), record

    return change


def hole(right: float, forward: float = 0.0, u: float = 0.05, **more: Any) -> SeenHole:
    return SeenHole(right_mm=right, forward_mm=forward, off_u_mm=u, **more)


def gaps(**found: GapSeen) -> Change:
    def change(job: Job, record: Record) -> tuple[Job, Record]:
        kept = tuple(found.get(g.key, g) for g in job.as_entered(PLATE).gaps)
        return own(job, gaps=kept), record

    return change


def over(share: float, **more: Any) -> Change:
    """Joint 3 read at a share of what it bears; then once more, as it should be."""

    def change(job: Job, record: Record) -> tuple[Job, Record]:
        at = next(j for j in job.in_hand.settled_joints() if j.key == "a3")
        card = card_of(at, job.mount_of(at), job.wrench).result
        record = torqued(job, record, "a3", share * max(card.limit_nm, card.high_nm))
        read = record[-1]
        assert isinstance(read, Reading)
        record = (*record[:-1], replace(read, **more))
        return job, torqued(job, record, "a3")

    return change


def last_reading(**fields: Any) -> Change:
    def change(job: Job, record: Record) -> tuple[Job, Record]:
        record = torqued(job, record, "a3")
        read = record[-1]
        assert isinstance(read, Reading)
        return job, (*record[:-1], replace(read, **fields))

    return change


def lockered(celsius: float | None, torqued_at: str) -> Change:
    def change(job: Job, record: Record) -> tuple[Job, Record]:
        job = replace(job, use=replace(job.use, garage_c=celsius))
        joints = job.as_entered(PLATE).joints
        job = own(
            job,
            joints=tuple(
                replace(j, treatment="medium locker") if j.key == "a3" else j for j in joints
            ),
        )
        record = told(record, Started(plate=PLATE, joint="a3", at="2027-03-01T11:00:00+00:00"))
        record = torqued(job, record, "a3")
        return finished_at(job, (*record[:-1], replace(record[-1], at=torqued_at)))

    return change


def finished_at(job: Job, record: Record) -> tuple[Job, Record]:
    return job, finished(job, record)


def stud(**fields: Any) -> Change:
    def change(job: Job, record: Record) -> tuple[Job, Record]:
        joints = []
        for j in job.as_entered(PLATE).joints:
            if j.key == "a3":
                turned = tuple(reversed([x for x in j.layers if x.kind != "washer"]))
                washer = next(x for x in j.layers if x.kind == "washer")
                given: dict[str, Any] = {
                    "head": "stud", "nut": "ISO 4032", "female": nut_female("ISO 4032", "M8", None),
                    "layers": (*turned, washer), "length_mm": 30.0,
                    "stud": Stud(seated_mm=16.0, treatment="medium locker"), **fields,
                }  # fmt: skip
                j = replace(j, **given)
            joints.append(j)
        return again(own(job, joints=tuple(joints)), record, "a3")

    return change


def through(nut: str = "", **fields: Any) -> Change:
    """Joint 3 as a screw through a tab with a nut behind."""
    given: dict[str, Any] = {"nut": nut, "thread_owner": "kit", **fields}
    if nut:
        given |= {"female": nut_female(nut, "M8", 40.0), "female_material": "S235 steel"}
    return joint("a3", **given)


def only(*keys: str) -> Change:
    def change(job: Job, record: Record) -> tuple[Job, Record]:
        joints = tuple(j for j in job.as_entered(PLATE).joints if j.key in keys)
        return finished_at(own(job, joints=joints), record)

    return change


def instead(**fields: Any) -> Change:
    """Something stands in for joint 3's own screw."""

    def change(job: Job, record: Record) -> tuple[Job, Record]:
        sub = Substitute(key="s1", joint="a3", part="screw", name="from the jar", **fields)
        return again(own(job, substitutes=(sub,)), record, "a3")

    return change


def struck(
    dent: float | None, looked: bool = False, felt: str = "a drop onto a log or ledge"
) -> Change:
    blow = PlateStruck(plate=PLATE, x_mm=700.0, y_mm=0.0, felt=felt, dent_mm=dent)  # type: ignore[arg-type]
    look = LookedOver(plate=PLATE, looked=AFTER_A_BLOW)
    return told_of(blow, look) if looked else told_of(blow)


def with_hole_sets(used: str) -> Change:
    """Two sets of holes, one of them “narrow”."""

    def change(job: Job, record: Record) -> tuple[Job, Record]:
        names = dict.fromkeys(ALL, "wide") | {"a1": "narrow", "a2": "narrow"}
        joints = tuple(replace(j, hole_set=names[j.key]) for j in job.as_entered(PLATE).joints)
        return finished_at(own(job, joints=joints, hole_set=used), record)

    return change


def passed(code: str, about: str, change: Change) -> Change:
    def passing(job: Job, record: Record) -> tuple[Job, Record]:
        job, record = change(job, record)
        event = pass_finding(job, record, code, about, "seen with my own eyes", NOW).event
        return job, told(record, event)

    return passing


def sleeved(layers: tuple[Layer, ...]) -> tuple[Layer, ...]:
    plate = next(x for x in layers if x.kind == "plate")
    wide = replace(plate, hole_mm=14.5, outer_mm=40.0)
    sleeve = replace(
        plate, key="sleeve", kind="sleeve", name="sleeve", material="steel", thickness_mm=4.9,
        outer_mm=14.0, hole_mm=8.4,
    )  # fmt: skip
    return tuple(y for x in layers for y in ((sleeve, wide) if x is plate else (x,)))


GUARD = Piece(
    key="guard", name="tail guard", order=1, x_mm=700.0, y_mm=0.0, z_mm=281.0, length_mm=260.0,
    front_width_mm=260.0, rear_width_mm=260.0, thickness_mm=3.0,
)  # fmt: skip


def lacking(layers: tuple[Layer, ...]) -> tuple[Layer, ...]:
    """A stack that counts on a piece which is not there."""
    plate = next(x for x in layers if x.kind == "plate")
    extra = replace(plate, key="guard", kind="panel", name="guard", thickness_mm=1.0, piece="guard")
    return (*layers, extra)


def both_say(torque_nm: float) -> dict[str, float]:
    return {"sheet_torque_nm": torque_nm, "manual_torque_nm": torque_nm}


def worn_washer(layers: tuple[Layer, ...]) -> tuple[Layer, ...]:
    """The washer of an M12 under the head of an M8."""
    return tuple(
        replace(x, hole_mm=13.0, outer_mm=24.0) if x.kind == "washer" else x for x in layers
    )


def washered(layers: tuple[Layer, ...]) -> tuple[Layer, ...]:
    first = layers[0]
    flat = replace(
        first, key="flat", kind="washer", name="flat washer", material="steel", thickness_mm=1.6,
        outer_mm=12.0, hole_mm=6.4,
    )  # fmt: skip
    return (flat, *layers)


def sink(**fields: Any) -> Countersink:
    given = {
        "sink_diameter_mm": 12.6, "hole_diameter_mm": 6.6, "sink_diameter_tol_mm": 0.3,
        "head_below_surface_mm": 0.3, "head_below_surface_tol_mm": 0.2,
    }  # fmt: skip
    return Countersink(**{**given, **fields})


def narrow(width_mm: float) -> Change:
    """A sheet without wings, so wide at its rear: the rail tabs stand 108 mm beside its middle."""

    def change(job: Job, record: Record) -> tuple[Job, Record]:
        own_plate = job.as_entered(PLATE).plate
        belly = replace(own_plate.belly, rear_width_mm=width_mm)
        cutouts = tuple(c for c in own_plate.cutouts if c.panel == "belly")
        bare = plate(
            ALL, belly=belly, wing_left=None, wing_right=None, tail=None, cutouts=cutouts
        )  # fmt: skip
        return bare(job, record)

    return change


GEAR = "gear-lever"
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
    "edge not known": both(narrow(205.0), plate(known="assumed")),
    "sink not known": joint("a5", countersink=None),
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
