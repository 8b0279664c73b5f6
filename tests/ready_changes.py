"""Changes to a job that is ready in every way: each way to hurt bike or rider is made of them."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any

from rugged_shield.core.assess.gate.reasons import pass_finding
from rugged_shield.core.assess.tighten.cards import card_of
from rugged_shield.core.fitup.gap_seen import GapSeen
from rugged_shield.core.fitup.layer import Layer
from rugged_shield.core.fitup.presets import nut_female
from rugged_shield.core.fitup.seen import SeenHole
from rugged_shield.core.fitup.stack_model import Countersink
from rugged_shield.core.fitup.stud import Stud
from rugged_shield.core.fitup.substitute import Substitute
from rugged_shield.core.job.edits.path import set_text
from rugged_shield.core.job.events import Record
from rugged_shield.core.job.model import Job
from rugged_shield.core.keep.events import LookedOver, PlateStruck
from rugged_shield.core.survey.bike import AddedMass, SagReadings
from rugged_shield.core.survey.plate import Cutout, Piece
from rugged_shield.core.tables.dues import AFTER_A_BLOW
from rugged_shield.core.tighten.events import Reading, Started
from tests.ready_job import NOW, PLATE, finished, told, torqued

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


def laden(mass_kg: float) -> Change:
    """A bike with so much more on it, whose springs nobody measured."""

    def change(job: Job, record: Record) -> tuple[Job, Record]:
        load = AddedMass(key="load", name="luggage", mass_kg=mass_kg, x_mm=1300.0)
        return replace(job, bike=replace(job.bike, added=(load,), sag=SagReadings())), record

    return change


def on_the_flank(job: Job, record: Record) -> tuple[Job, Record]:
    """A grave part low beside the belly, where no sheet stands before it."""
    found = next(p for p in job.bike.parts if p.key == "clutch")
    low = replace(found, x_min_mm=640.0, x_max_mm=700.0, y_min_mm=210.0, y_max_mm=260.0,
                  z_min_mm=330.0, z_max_mm=380.0)  # fmt: skip
    parts = tuple(low if p.key == "clutch" else p for p in job.bike.parts)
    return replace(job, bike=replace(job.bike, parts=parts)), record


def slotted(long_mm: float) -> Change:
    """A slot across the belly behind its middle, so long."""

    def change(job: Job, record: Record) -> tuple[Job, Record]:
        own_plate = job.as_entered(PLATE).plate
        slot = Cutout(
            key="slot", panel="belly", shape="rectangle", purpose="vent", u_mm=255.0, v_mm=0.0,
            width_mm=6.0, height_mm=long_mm,
        )  # fmt: skip
        return plate(cutouts=(*own_plate.cutouts, slot))(job, record)

    return change
