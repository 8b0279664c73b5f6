"""A linked torque wrench: its reading goes to the joint that is next, and once."""

from __future__ import annotations

from flask import Blueprint

from rugged_shield.core.assess.tighten.cards import limit_of
from rugged_shield.core.assess.tighten.plan import done_steps, next_to_torque, plan_of
from rugged_shield.core.errors import InputError
from rugged_shield.core.event import of_plate
from rugged_shield.core.job.edits.readings import take_reading
from rugged_shield.core.job.events import Entry
from rugged_shield.core.quantity import parse
from rugged_shield.store.repository import JobRow
from rugged_shield.web.api import route
from rugged_shield.web.instruments import tray
from rugged_shield.web.jobs import record
from rugged_shield.web.stations.tighten.views import WrenchWrite
from rugged_shield.web.views import SavedView

blueprint = Blueprint("wrench", __name__, url_prefix="/api/jobs/<job_id>/tighten/wrench")
LINK = "wrench"


def _next(row: JobRow) -> str:
    """The joint that is next in the plan; raises InputError where all are torqued."""
    key = row.job.in_hand.key
    plan = plan_of(row.job, key)
    found = next_to_torque(plan, done_steps(plan, of_plate(row.records, key)))
    if not found:
        raise InputError(
            "joint", "", "a joint by name", "every joint has its torque", "Name the joint."
        )
    return found


def _from_wrench(row: JobRow, body: WrenchWrite) -> Entry:
    link = tray().link(LINK)
    taken, rest = link.take_once("N·m")
    torque_nm = parse(taken.text, "N·m", "torque_nm")
    if torque_nm <= 0:
        raise InputError("torque_nm", taken.text, "more than 0", f"the {link.name} is at rest")
    joint = body.joint or _next(row)
    entry = take_reading(
        row.job,
        row.records,
        joint,
        torque_nm,
        body.override,
        body.accepted,
        limit_of(row.job, joint),
    )
    link.spend(rest)
    return entry


@route(blueprint, "POST", "", SavedView, WrenchWrite)
def from_wrench(job_id: str, body: WrenchWrite) -> SavedView:
    """Record the reading that the linked wrench shows."""
    return record(job_id, body, lambda row: _from_wrench(row, body))
