"""Keep: what is due, what happened, what became of the plate."""

from __future__ import annotations

from typing import get_args

from flask import Blueprint

from rugged_shield.core.amounts import amount
from rugged_shield.core.assess.fitup.pose import plate_pose
from rugged_shield.core.assess.gate.ready import ready_of
from rugged_shield.core.assess.keep.blows import blow_detail, blows_of
from rugged_shield.core.assess.keep.due import Kept, kept, rechecks
from rugged_shield.core.assess.keep.history import moments, torque_history
from rugged_shield.core.assess.keep.log import oil_joints
from rugged_shield.core.assess.keep.mass_years import mass_years
from rugged_shield.core.assess.keep.pick import back_to_stock, pick_became
from rugged_shield.core.assess.keep.wear import WornPlace, worn_places
from rugged_shield.core.assess.kit.debts import debts_of
from rugged_shield.core.assess.tighten.cards import card_of
from rugged_shield.core.errors import InputError
from rugged_shield.core.event import of_kind, of_plate
from rugged_shield.core.figures import NO_VALUE, figure, figure_of
from rugged_shield.core.job.events import Record
from rugged_shield.core.job.model import Job, mounted
from rugged_shield.core.keep.blows import Blow
from rugged_shield.core.keep.events import Felt, Mended, PlateStruck, counting
from rugged_shield.core.keep.warmth import warmer
from rugged_shield.core.mechanics.drawing import Drawing
from rugged_shield.core.result import Figure, FindingCode, Input, verdict_of
from rugged_shield.core.survey.drawings import underside_drawing, with_faults
from rugged_shield.core.tables.cautions import CAUTIONS
from rugged_shield.core.tables.dues import AFTER_A_BLOW, LOOKS
from rugged_shield.core.tables.hardware import LOCKING_NUTS
from rugged_shield.web.api import route
from rugged_shield.web.fields import field_view
from rugged_shield.web.jobs import now_iso, row_of
from rugged_shield.web.runs import worker
from rugged_shield.web.stations.keep.views import (
    BlowAsk,
    BlowDetailView,
    BlowView,
    KeepView,
    MountTook,
    RecheckView,
    TorquePoint,
    WearPoint,
    WornView,
)

blueprint = Blueprint("keep", __name__, url_prefix="/api/jobs/<job_id>/keep")


def _counter(now: Kept, fitted_at: float | None) -> Figure:
    return figure(
        "km",
        "Counter now",
        now.odometer.counter_km,
        "km",
        inputs=(
            Input("Counter when fitted", fitted_at, "km"),
            Input("Ridden since", now.odometer.km, "km"),
        ),
        reasons=("The last counter noted here and the rides after it.",),
    )


def _torques(job: Job, record: Record, now: Kept) -> tuple[RecheckView, ...]:
    points = torque_history(job, record)
    bands = {
        at.joint.key: card_of(at.joint, at.mount, job.wrench).result
        for at in mounted(job.bike, job.in_hand)
    }
    return tuple(
        RecheckView(
            recheck=found,
            low=figure("low", "Low", bands[found.joint.key].low_nm, "N·m"),
            high=figure("high", "High", bands[found.joint.key].high_nm, "N·m"),
            points=tuple(
                TorquePoint(at=at, torque=figure("at", what, nm, "N·m"), what=what)
                for at, nm, what in points[found.joint.key]
            ),
        )
        for found in rechecks(job, now.joints)
    )


def _loaded(share: float | None) -> FindingCode | None:
    """What a mount's load over its limit says after a blow."""
    if share is None:
        return "no value"
    return "look at it after a blow" if share > 0.5 else None


def _length(key: str, label: str, value_mm: float | None) -> Figure:
    return figure(key, label, value_mm, "mm", text="" if value_mm is not None else NO_VALUE)


def _blow(number: int, struck: PlateStruck, blow: Blow) -> BlowView:
    return BlowView(
        seq=struck.seq,
        number=number,
        at=struck.at,
        felt=struck.felt,
        note=struck.note,
        dent=_length("dent", "Dent", struck.dent_mm),
        room=_length("room", "Room behind the sheet", blow.room_mm),
        left=_length("left", "Left behind the dent", blow.left_mm),
        near=blow.near,
        energy=blow.energy,
        act=blow.act,
        verdict=blow.verdict,
        findings=blow.findings,
    )


def _struck_drawing(job: Job, struck: tuple[PlateStruck, ...]) -> Drawing:
    """The plate from below with a numbered ring where it was struck."""
    posed = plate_pose(job.bike, job.in_hand)
    places = tuple((f"blow-{e.seq}", e.x_mm, e.y_mm, str(n)) for n, e in enumerate(struck, 1))
    return with_faults(underside_drawing(job.bike, None, posed.folded), places, "blow")


def _rate(mm_per_1000km: float) -> str:
    return f"{amount(mm_per_1000km, 'mm', 2)} in {amount(1000.0, 'km', 0)}"


def _worn(worn: WornPlace) -> WornView:
    points = tuple(WearPoint(km=r.km, thickness_mm=r.thickness_mm) for r in worn.readings)
    limit = figure("limit", "Changed at", worn.limit_mm, "mm")
    if worn.left is None:
        return WornView(
            place=worn.place,
            points=points,
            limit_mm=worn.limit_mm,
            figures=(limit, figure("left", "Left", None, "km")),
            end_km=(None, None, None),
            reasons=("Two readings at different counters tell how fast it wears.",),
        )
    r = worn.left.result
    last = max(p.km for p in points)

    def end(left: float | None) -> float | None:
        return None if left is None else last + left

    def said(key: str, label: str, value: float | None, unit: str, text: str = "") -> Figure:
        assert worn.left is not None
        return figure_of(worn.left, key, label, value, unit, judged=False, text=text)

    endless = "no end in sight"
    return WornView(
        place=worn.place,
        points=points,
        limit_mm=worn.limit_mm,
        figures=(
            said("now", "Now", r.thickness_now_mm, "mm"),
            limit,
            said("rate", "Wears", r.rate_mm_per_1000km, "mm", _rate(r.rate_mm_per_1000km)),
            said("left", "Left", r.km_left, "km", "" if r.km_left is not None else endless),
            said(
                "low",
                "At the earliest",
                r.km_left_low,
                "km",
                "" if r.km_left_low is not None else endless,
            ),
        ),
        end_km=(end(r.km_left_low), end(r.km_left), end(r.km_left_high)),
        reasons=worn.left.reasons,
    )


@route(blueprint, "GET", "", KeepView)
def keep(job_id: str) -> KeepView:
    """What is due next, what happened, how every joint was found, what became of the plate."""
    row = row_of(job_id)
    job, now = row.job, now_iso()
    found = kept(job, row.records, now)
    lines = counting(of_plate(row.records, job.in_hand.key))
    blows = blows_of(job, lines)
    return KeepView(
        plate=job.in_hand.plate.name,
        fitted=found.fitted_at is not None,
        due=found.state,
        dues=found.dues,
        joints=_torques(job, row.records, found),
        odometer=field_view(job, "odometer_km", "", label="counter when fitted"),
        customer=field_view(job, "customer", "", label="whose bike it is"),
        km=_counter(found, job.odometer_km),
        now=now,
        moments=moments(job, row.records),
        struck=_struck_drawing(job, tuple(e for e, _ in blows)),
        blows=tuple(_blow(n, e, b) for n, (e, b) in enumerate(blows, 1)),
        felt=get_args(Felt),
        mended=get_args(Mended),
        worn=tuple(_worn(w) for w in worn_places(job, lines)),
        warmth=warmer(lines),
        became=pick_became(job, row.records),
        mass_years=mass_years(job, row.records, now_iso()),
        back=back_to_stock(job),
        looks=LOOKS,
        after_blow=AFTER_A_BLOW,
        cautions=(*CAUTIONS["under"], *CAUTIONS["strip"], *CAUTIONS["first"]),
        debts=debts_of(job),
        oil_joints=oil_joints(job),
        lock_nuts=tuple(j.key for j in job.in_hand.joints if j.nut in LOCKING_NUTS),
        ready=ready_of(job, row.records, now),
    )


@route(blueprint, "POST", "/blow", BlowDetailView, BlowAsk)
def blow(job_id: str, body: BlowAsk) -> BlowDetailView:
    """A blow run through the plate's own shell: what its mounts took."""
    row = row_of(job_id)
    lines = counting(of_plate(row.records, row.job.in_hand.key))
    struck = next((e for e in of_kind(lines, PlateStruck) if e.seq == body.seq), None)
    if struck is None:
        raise InputError("seq", body.seq, "a blow of this plate")
    return worker().call(_detail, row.job, struck)


def _detail(job: Job, struck: PlateStruck) -> BlowDetailView:
    said = blow_detail(job, struck)
    return BlowDetailView(
        energy=said.blow.energy,
        mounts=tuple(
            MountTook(
                name=m.name,
                share=figure(
                    "share",
                    "Of its limit",
                    None if m.share is None else 100.0 * m.share,
                    "%",
                ),
                fails=m.fails,
                verdict=verdict_of(_loaded(m.share)),
            )
            for m in said.mounts
        ),
        why_not=said.why_not,
        findings=said.point.findings if said.point else (),
    )
