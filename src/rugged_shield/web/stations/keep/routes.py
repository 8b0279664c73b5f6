"""Keep: what is due, and the torque found at a re-check."""

from __future__ import annotations

from flask import Blueprint

from rugged_shield.core.assess.keep import note_counter, note_found, rechecks
from rugged_shield.core.assess.kit import debts_of
from rugged_shield.core.errors import InputError
from rugged_shield.core.figures import figure
from rugged_shield.core.fitup import Joint
from rugged_shield.core.job import Job
from rugged_shield.core.job.edits import read_field
from rugged_shield.core.keep import last_counter_km
from rugged_shield.core.result import Figure, Input
from rugged_shield.web.api import route
from rugged_shield.web.fields import field_view
from rugged_shield.web.jobs import record, row_of
from rugged_shield.web.stations.keep.views import FoundWrite, KeepView, KmWrite
from rugged_shield.web.views import SavedView

blueprint = Blueprint("keep", __name__, url_prefix="/api/jobs/<job_id>/keep")

CAUTIONS = (
    "Support the bike so that it cannot fall before going under it, and let the exhaust cool.",
    "The bike maker's service manual and the plate's sheet come first. Where they conflict, or a "
    "structural, brake or exhaust part is changed, ask a licensed workshop.",
)


def _counter(now: float | None, fitted_at: float | None) -> Figure:
    return figure(
        "km",
        "Counter now",
        now,
        "km",
        inputs=(Input("Counter when fitted", fitted_at, "km"),),
        reasons=("The last counter noted here; before that, the counter when fitted.",),
    )


@route(blueprint, "GET", "", KeepView)
def keep(job_id: str) -> KeepView:
    """What is due next and how every joint was found."""
    row = row_of(job_id)
    due, joints = rechecks(row.job, row.records)
    read = last_counter_km(row.records)
    now = row.job.odometer_km if read is None else read
    return KeepView(
        plate=row.job.in_hand.plate.name,
        due=due,
        joints=joints,
        odometer=field_view(row.job, "odometer_km", "", label="counter when fitted"),
        km=_counter(now, row.job.odometer_km),
        records=row.records,
        cautions=CAUTIONS,
        debts=debts_of(row.job),
    )


@route(blueprint, "POST", "/found", SavedView, FoundWrite)
def found(job_id: str, body: FoundWrite) -> SavedView:
    """Record the torque found on a joint at a re-check."""
    value = read_field(Joint, "chosen_torque_nm", body.text, "torque_nm", body.system)
    if value is None:
        raise InputError("torque_nm", "", "a torque in N·m or ft·lb", "nothing was entered")
    return record(
        job_id,
        body,
        lambda row: note_found(row.job, row.records, body.joint, value),
    )


@route(blueprint, "POST", "/km", SavedView, KmWrite)
def km(job_id: str, body: KmWrite) -> SavedView:
    """Note the bike's counter now."""
    value = read_field(Job, "odometer_km", body.text, "km", body.system)
    if value is None:
        raise InputError("km", "", "the counter in km or mi", "nothing was entered")
    return record(job_id, body, lambda row: note_counter(row.job, value))
