"""Tighten on paper: the whole plan as a sheet, and two cards for the bench."""

from __future__ import annotations

from flask import Blueprint, Response

from rugged_shield.core.assess.fitup.pose import plate_pose
from rugged_shield.core.assess.kit.debts import debts_of
from rugged_shield.core.assess.tighten.cards import card_of
from rugged_shield.core.assess.tighten.plan import done_steps, plan_joints, plan_of
from rugged_shield.core.event import PlateRecord, of_kind, of_plate
from rugged_shield.core.job.model import Job, mounted
from rugged_shield.core.moments import minute_words
from rugged_shield.core.survey.drawings import underside_drawing
from rugged_shield.core.tighten.all_started import joint_states
from rugged_shield.core.tighten.events import RiddenAnyway
from rugged_shield.core.tighten.plan import Plan
from rugged_shield.formats.cards import TorqueRow, bench_cards
from rugged_shield.formats.stepsheet import SheetHead, step_sheet
from rugged_shield.store.repository import JobRow
from rugged_shield.web.api import file_route
from rugged_shield.web.downloads import download
from rugged_shield.web.jobs import row_of
from rugged_shield.web.stations.tighten.order import order_marks

blueprint = Blueprint("tighten_paper", __name__, url_prefix="/api/jobs/<job_id>/tighten")


def _head(row: JobRow, lines: PlateRecord) -> SheetHead:
    job = row.job
    owed = tuple(
        f"joint {d.joint}, {d.instead_of}; {d.used} stands in" for d in debts_of(job) if d.owed
    )
    ridden = tuple(
        f"{minute_words(e.at)}, {e.reason} (missing: {'; '.join(e.missing)})"
        for e in of_kind(lines, RiddenAnyway)
    )
    return SheetHead(job.title, job.bike.name, job.in_hand.plate.name, owed, ridden)


def _torque_rows(job: Job, plan: Plan, lines: PlateRecord) -> tuple[TorqueRow, ...]:
    """Every joint at its turn, with what the record holds of it."""
    states = joint_states(lines, plan.built)
    joints = mounted(job.bike, job.in_hand)
    by_key = {at.joint.key: at for at in joints}
    said = {j.key: j for j in plan_joints(joints, job.wrench)}
    rows = []
    for turn, key in enumerate(plan.joint_order, 1):
        at, state = by_key[key], states[key]
        card = card_of(at.joint, at.mount, job.wrench).result
        rows.append(
            TorqueRow(
                turn=turn,
                number=at.joint.number,
                name=at.joint.name,
                hardware=said[key].hardware,
                treatment=said[key].treatment,
                tool=said[key].tool,
                target_nm=card.target_nm,
                setting_nm=card.setting_nm,
                low_nm=card.low_nm,
                high_nm=card.high_nm,
                started=state.started,
                reading_nm=None if state.reading is None else state.reading.torque_nm,
            )
        )
    return tuple(rows)


@file_route(blueprint, "/steps.pdf", "application/pdf")
def steps_on_paper(job_id: str) -> Response:
    """The plan as a sheet to print."""
    row = row_of(job_id)
    key = row.job.in_hand.key
    plan, lines = plan_of(row.job, key), of_plate(row.records, key)
    made = step_sheet(_head(row, lines), plan, done_steps(plan, lines))
    return download(made, "application/pdf", "steps.pdf", inline=True)


@file_route(blueprint, "/cards.pdf", "application/pdf")
def cards_on_paper(job_id: str) -> Response:
    """A card of the steps and a card of the torques, a page each, to tick under the bike."""
    row = row_of(job_id)
    job, key = row.job, row.job.in_hand.key
    plan, lines = plan_of(job, key), of_plate(row.records, key)
    drawn = underside_drawing(
        job.bike, None, plate_pose(job.bike, job.in_hand).folded, order=order_marks(job, plan)
    )
    made = bench_cards(
        _head(row, lines), plan, done_steps(plan, lines), _torque_rows(job, plan, lines), drawn
    )
    return download(made, "application/pdf", "cards.pdf", inline=True)
