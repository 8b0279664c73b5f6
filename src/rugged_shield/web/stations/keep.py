"""Keep: what is due, and the torque found at a re-check."""

from __future__ import annotations

from flask import Blueprint

from rugged_shield.core.assess.keep import due_of
from rugged_shield.core.assess.tighten import card_of
from rugged_shield.core.errors import InputError
from rugged_shield.core.figures import figure
from rugged_shield.core.fitup import Joint
from rugged_shield.core.job import Job
from rugged_shield.core.job.edits import read_field
from rugged_shield.core.keep import FittedJoint
from rugged_shield.core.quantity import show
from rugged_shield.core.result import Figure, Input, Verdict
from rugged_shield.core.tighten import Record
from rugged_shield.store import JobRow
from rugged_shield.web.api import route
from rugged_shield.web.fields import field_view
from rugged_shield.web.jobs import new_record, record, row_of
from rugged_shield.web.views import KeepJoint, KeepView, KmWrite, ReadingWrite, SavedView

blueprint = Blueprint("keep", __name__, url_prefix="/api/jobs/<job_id>/keep")

CAUTIONS = (
    "Support the bike so that it cannot fall before going under it, and let the exhaust cool.",
    "The bike maker's service manual and the plate's sheet come first. Where they conflict, or a "
    "structural, brake or exhaust part is changed, ask a licensed workshop.",
)


def _joint(job: Job, joint: FittedJoint, losses: dict[str, str]) -> KeepJoint:
    own = next(j for j in job.in_hand.settled_joints() if j.key == joint.key)
    why = card_of(own, job.mount_of(own), job.wrench)
    target = figure(
        "target",
        "Target",
        joint.target_nm,
        "N·m",
        inputs=why.inputs,
        reasons=why.reasons,
        assumptions=why.assumptions,
        sources=why.sources,
    )
    found = None
    if joint.found_nm is not None:
        found = figure(
            "found",
            "Found at the re-check",
            joint.found_nm,
            "N·m",
            inputs=(Input("Target", joint.target_nm, "N·m"),),
            reasons=("A loss is what is found below 80 % of the target.",),
        )
    lost = losses.get(joint.key, "")
    words = lost or ("holds" if found else "not re-checked yet")
    verdict: Verdict = "mind" if lost else "sound" if found else "not known"
    return KeepJoint(joint, target, found, verdict, words)


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
    due, fitted = due_of(row.job, row.records)
    losses = {f.where: f.text for f in due.findings if f.code == "loss found"}
    km = [r.km for r in row.records if r.kind == "km" and r.km is not None]
    now = km[-1] if km else row.job.odometer_km
    return KeepView(
        plate=row.job.in_hand.plate.name,
        due=due,
        joints=tuple(_joint(row.job, j, losses) for j in fitted),
        odometer=field_view(row.job, "odometer_km", "", label="counter when fitted"),
        km=_counter(now, row.job.odometer_km),
        records=row.records,
        cautions=CAUTIONS,
    )


@route(blueprint, "POST", "/found", SavedView, ReadingWrite)
def found(job_id: str, body: ReadingWrite) -> SavedView:
    """Record the torque found on a joint at a re-check."""

    def make(row: JobRow) -> tuple[Record, str]:
        due, fitted = due_of(row.job, row.records)
        joint = next((j for j in fitted if j.key == body.joint), None)
        if joint is None:
            raise InputError("joint", body.joint, "a joint of this plate")
        if due.state == "not fitted":
            raise InputError(
                "joint",
                body.joint,
                "a fitted plate",
                "the plate is not fitted yet",
                "Torque every joint first, and enter the counter's km.",
            )
        value = read_field(Joint, "chosen_torque_nm", body.text, "torque_nm", body.system)
        if value is None:
            raise InputError("torque_nm", "", "a torque in N·m or ft·lb", "nothing was entered")
        words = f"joint {joint.number} found at {show(value, 'N·m', body.system)}"
        return new_record("found", joint=body.joint, torque_nm=value), words

    return record(job_id, body, make)


@route(blueprint, "POST", "/km", SavedView, KmWrite)
def km(job_id: str, body: KmWrite) -> SavedView:
    """Note the bike's counter now."""

    def make(row: JobRow) -> tuple[Record, str]:
        value = read_field(Job, "odometer_km", body.text, "km", body.system)
        if value is None:
            raise InputError("km", "", "the counter in km or mi", "nothing was entered")
        fitted_at = row.job.odometer_km
        if fitted_at is not None and value < fitted_at:
            raise InputError(
                "km", f"{value:g} km", f"at least {fitted_at:g} km, the counter when fitted"
            )
        return new_record("km", km=value), f"counter at {show(value, 'km', body.system)}"

    return record(job_id, body, make)
