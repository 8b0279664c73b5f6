"""What is told while a plate is fitted: starts, readings, steps, what is open, what is passed."""

from __future__ import annotations

from flask import Blueprint

from rugged_shield.core.assess.gate.ready import ready_of
from rugged_shield.core.assess.gate.reasons import pass_finding
from rugged_shield.core.assess.tighten.cards import card_of, limit_of
from rugged_shield.core.assess.tighten.commands import (
    change_to_tick,
    close_bike_joint,
    loosen,
    reopen_stage,
    ride_anyway,
    tick_step,
)
from rugged_shield.core.errors import InputError
from rugged_shield.core.fitup.joint import Joint
from rugged_shield.core.job.edits.modify import tick_change
from rugged_shield.core.job.edits.path import read_field
from rugged_shield.core.job.edits.readings import (
    damage_thread,
    renew_joint,
    start_joint,
    take_reading,
    take_reading_back,
)
from rugged_shield.core.job.model import Job, mounted
from rugged_shield.core.tighten.wrench import check_setting
from rugged_shield.web.api import route
from rugged_shield.web.jobs import now_iso, record, row_of, write
from rugged_shield.web.stations.tighten.views import (
    AnywayWrite,
    CloseWrite,
    DamagedWrite,
    LoosenWrite,
    PassWrite,
    ReadingWrite,
    RenewedWrite,
    StageWrite,
    StepWrite,
    TakeBackWrite,
)
from rugged_shield.web.views import SavedView

blueprint = Blueprint("tighten_acts", __name__, url_prefix="/api/jobs/<job_id>/tighten")


def _torque_read(job: Job, body: ReadingWrite) -> float:
    """The torque as typed; of a wrench that clicked, the target that it was set for."""
    if body.clicked:
        for at in mounted(job.bike, job.in_hand):
            if at.joint.key == body.joint:
                card = card_of(at.joint, at.mount, job.wrench).result
                check_setting(card.setting_nm, job.wrench.scale_max_nm)
                return card.target_nm
    value = read_field(Joint, "chosen_torque_nm", body.text, "torque_nm", body.system)
    if value is None:
        raise InputError("torque_nm", body.text, "a torque in N·m or ft·lb", "nothing was entered")
    return float(value)


@route(blueprint, "POST", "/started", SavedView, ReadingWrite)
def started(job_id: str, body: ReadingWrite) -> SavedView:
    """A screw was started by hand."""
    return record(job_id, body, lambda row: start_joint(row.job, body.joint))


@route(blueprint, "POST", "/reading", SavedView, ReadingWrite)
def reading(job_id: str, body: ReadingWrite) -> SavedView:
    """Record a torque reading; whether all of its stage are started is checked."""
    return record(
        job_id,
        body,
        lambda row: take_reading(
            row.job,
            row.records,
            body.joint,
            _torque_read(row.job, body),
            body.override,
            body.accepted,
            limit_of(row.job, body.joint),
        ),
    )


@route(blueprint, "POST", "/take-back", SavedView, TakeBackWrite)
def take_back(job_id: str, body: TakeBackWrite) -> SavedView:
    """Take a reading back; both lines stay in the record."""
    return record(
        job_id,
        body,
        lambda row: take_reading_back(row.job, row.records, body.seq, body.reason),
    )


@route(blueprint, "POST", "/step", SavedView, StepWrite)
def step(job_id: str, body: StepWrite) -> SavedView:
    """Tick a step of the work, or open it again; a change of the plate is ticked as a fact."""
    change = change_to_tick(row_of(job_id).job, body.step, body.done)
    if change:
        return write(job_id, body, lambda job: tick_change(job, job.in_hand.key, change, body.done))
    return record(job_id, body, lambda row: tick_step(row.job, row.records, body.step, body.done))


@route(blueprint, "POST", "/stage", SavedView, StageWrite)
def stage(job_id: str, body: StageWrite) -> SavedView:
    """A stage came loose again: its joints start anew, the lines stay."""
    return record(
        job_id, body, lambda row: reopen_stage(row.job, row.records, body.stage, body.reason)
    )


@route(blueprint, "POST", "/loosened", SavedView, LoosenWrite)
def loosened(job_id: str, body: LoosenWrite) -> SavedView:
    """Something of the bike was loosened: it is open until it is closed."""
    return record(job_id, body, lambda row: loosen(row.job, row.records, body.name, body.what))


@route(blueprint, "POST", "/closed", SavedView, CloseWrite)
def closed(job_id: str, body: CloseWrite) -> SavedView:
    """It is closed again, by torque or with what was done."""
    torque = None
    if body.text.strip():
        torque = read_field(Joint, "chosen_torque_nm", body.text, "torque_nm", body.system)
    return record(
        job_id,
        body,
        lambda row: close_bike_joint(row.job, row.records, body.joint, torque, body.how),
    )


@route(blueprint, "POST", "/damaged", SavedView, DamagedWrite)
def damaged(job_id: str, body: DamagedWrite) -> SavedView:
    """A joint's thread is damaged: it stays open until it is made good."""
    return record(job_id, body, lambda row: damage_thread(row.job, body.joint, body.what))


@route(blueprint, "POST", "/renewed", SavedView, RenewedWrite)
def renewed(job_id: str, body: RenewedWrite) -> SavedView:
    """A joint was made good, with a new screw or nut, or an insert: it is torqued anew."""
    return record(job_id, body, lambda row: renew_joint(row.job, body.joint, body.how))


@route(blueprint, "POST", "/pass", SavedView, PassWrite)
def passed(job_id: str, body: PassWrite) -> SavedView:
    """One finding is gone past for a reason, which stands on every sheet."""
    return record(
        job_id,
        body,
        lambda row: pass_finding(
            row.job, row.records, body.code, body.about, body.reason, now_iso()
        ),
    )


@route(blueprint, "POST", "/ride-anyway", SavedView, AnywayWrite)
def anyway(job_id: str, body: AnywayWrite) -> SavedView:
    """Ridden though something is missing; the reason is kept."""
    return record(
        job_id,
        body,
        lambda row: ride_anyway(
            row.job, ready_of(row.job, row.records, now_iso()).missing_words, body.reason
        ),
    )
