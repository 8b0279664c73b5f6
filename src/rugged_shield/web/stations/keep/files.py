"""Keep's files: the calendar of what is due, the sheet to hand over, the trail roll."""

from __future__ import annotations

from flask import Blueprint, Response

from rugged_shield.core.amounts import amount
from rugged_shield.core.assess.fitup.pose import fitted_joints
from rugged_shield.core.assess.gate.ready import ready_of
from rugged_shield.core.assess.keep.due import Kept, kept
from rugged_shield.core.assess.keep.story import story
from rugged_shield.core.assess.kit.carry import carry_of
from rugged_shield.core.assess.kit.debts import debts_of
from rugged_shield.core.assess.kit.tools import tools_of
from rugged_shield.core.assess.tighten.clocks import clocks_of
from rugged_shield.core.assess.tighten.plan import hardware_words
from rugged_shield.core.event import of_kind, of_plate
from rugged_shield.core.fitup.modification import change_words
from rugged_shield.core.job.model import Job, mounted
from rugged_shield.core.moments import minute_words
from rugged_shield.core.tables.friction import CONDITIONS
from rugged_shield.core.tighten.events import RiddenAnyway
from rugged_shield.formats.calendar import CalendarHead, calendar
from rugged_shield.formats.keepsheet import (
    HandOver,
    JointRow,
    RollRow,
    hand_over_sheet,
    pocket_sheet,
)
from rugged_shield.store.repository import JobRow
from rugged_shield.web.api import file_route
from rugged_shield.web.downloads import download
from rugged_shield.web.jobs import now_iso, row_of

blueprint = Blueprint("keep_files", __name__, url_prefix="/api/jobs/<job_id>/keep")


@file_route(blueprint, "/due.ics", "text/calendar")
def due_calendar(job_id: str) -> Response:
    """What is due as a calendar; asked again at this address it is updated, not doubled."""
    row, now = row_of(job_id), now_iso()
    head = CalendarHead(job_id, row.job.title, row.version, now)
    clocks = clocks_of(row.job, of_plate(row.records, row.job.in_hand.key))
    made = calendar(head, kept(row.job, row.records, now).dues, clocks)
    return download(made, "text/calendar; charset=utf-8", "due.ics", inline=True)


def _joint_rows(job: Job, now: Kept) -> tuple[JointRow, ...]:
    by_key = {j.key: j for j in now.joints}
    rows = []
    for assessed in fitted_joints(job.in_hand.plate, mounted(job.bike, job.in_hand)):
        joint, found = assessed.joint, by_key[assessed.joint.key]
        words = "not re-checked"
        if found.found_nm is not None:
            words = "did not move" if found.did_not_move else amount(found.found_nm, "N·m")
        rows.append(
            JointRow(
                number=joint.number,
                name=joint.name,
                hardware=hardware_words(assessed),
                treatment=CONDITIONS[joint.treatment].label,
                target_nm=found.target_nm,
                recorded_nm=found.recorded_nm,
                found=words,
            )
        )
    return tuple(rows)


def hand_over_of(row: JobRow, now: str) -> HandOver:
    """What the sheet says of a job, from its facts and its record."""
    job = row.job
    found = kept(job, row.records, now)
    lines = of_plate(row.records, job.in_hand.key)
    ready = ready_of(job, row.records, now)
    owed = (d for d in debts_of(job) if d.owed and not d.paid)
    fitted = "not fitted yet" if found.fitted_at is None else f"fitted {found.fitted_at.at[:10]}"
    return HandOver(
        title=job.title,
        customer=job.customer,
        bike=job.bike.name,
        plate=job.in_hand.plate.name,
        fitted=fitted,
        joints=_joint_rows(job, found),
        deviations=tuple(change_words(c) for c in job.in_hand.changes if c.done),
        debts=tuple(f"joint {d.joint}: {d.instead_of}; {d.used} stands in" for d in owed),
        doubts=tuple(f"{m.words} ({m.remedy})" for m in (*ready.missing, *ready.minds)),
        passed=tuple(f"{p.at[:10]} {p.words} ({p.reason})" for p in ready.passed),
        overrides=tuple(
            f"{minute_words(e.at)}: {e.reason} (missing: {'; '.join(e.missing)})"
            for e in of_kind(lines, RiddenAnyway)
        ),
        due=tuple(f"{d.label} {d.left}: {d.words}" for d in found.dues),
        history=story(job, row.records),
    )


@file_route(blueprint, "/sheet.pdf", "application/pdf")
def sheet(job_id: str) -> Response:
    """The sheet to hand over: joints, torques reached, deviations, debts, what is due."""
    made = hand_over_sheet(hand_over_of(row_of(job_id), now_iso()))
    return download(made, "application/pdf", "plate.pdf", inline=True)


@file_route(blueprint, "/roll.pdf", "application/pdf")
def roll(job_id: str) -> Response:
    """The trail roll at pocket size: spares by joint, tools."""
    job = row_of(job_id).job
    carry, tools = carry_of(job), tools_of(job)
    rows = tuple(
        RollRow(
            count=f"{s.spare.count} ×",
            what=f"{s.spare.thread} × {s.spare.length_mm:g} {s.head}, {s.spare.drive}",
            joints=", ".join(s.spare.joints),
        )
        for s in carry.screws
    ) + tuple(
        RollRow(count=f"{p.count} ×", what=p.what, joints=", ".join(map(str, p.joints)))
        for p in carry.loose
    )
    made = pocket_sheet(
        job.bike.name,
        job.in_hand.plate.name,
        rows,
        tuple(t.tool for t in tools.needed if t.for_trail),
    )
    return download(made, "application/pdf", "trail-roll.pdf", inline=True)
