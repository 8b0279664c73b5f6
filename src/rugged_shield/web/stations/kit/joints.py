"""Parts of the kit put to joints: proposed, confirmed, substituted, paid."""

from __future__ import annotations

from typing import Any

from flask import Blueprint

from rugged_shield.core.amounts import System
from rugged_shield.core.fitup.substitute import Substitute
from rugged_shield.core.job.edits.from_list import propose_joints
from rugged_shield.core.job.edits.path import read_field
from rugged_shield.core.job.edits.substitutes import (
    add_substitute,
    confirm_all,
    confirm_joint,
    pay_debt,
    put_line,
    remove_substitute,
)
from rugged_shield.web.api import route
from rugged_shield.web.jobs import spent, write
from rugged_shield.web.stations.kit.views import LookedAtWrite, PutWrite, SubstituteWrite
from rugged_shield.web.views import SavedView, Write

blueprint = Blueprint("kit_joints", __name__, url_prefix="/api/jobs/<job_id>/kit")


@route(blueprint, "POST", "/put", SavedView, PutWrite)
def put(job_id: str, body: PutWrite) -> SavedView:
    """A listed part becomes a joint's own."""
    return write(
        job_id, body, lambda job: put_line(job, job.in_hand.key, body.line, body.joint, body.part)
    )


@route(blueprint, "POST", "/propose", SavedView, Write)
def propose(job_id: str, body: Write) -> SavedView:
    """Spread the list's screws over mounts without a joint, each to confirm or change."""
    names = spent(job_id)
    return write(job_id, body, lambda job: propose_joints(job, job.in_hand.key, names))


@route(blueprint, "POST", "/confirm", SavedView, LookedAtWrite)
def confirm(job_id: str, body: LookedAtWrite) -> SavedView:
    """A proposed joint was looked at; without a name all of them were."""
    if not body.joint:
        return write(job_id, body, lambda job: confirm_all(job, job.in_hand.key))
    return write(job_id, body, lambda job: confirm_joint(job, job.in_hand.key, body.joint))


_SIZES = {
    "length_mm": "length",
    "thickness_mm": "thickness",
    "outer_mm": "outer",
    "hole_mm": "hole",
}


def _substitute(body: SubstituteWrite) -> Substitute:
    system: System = body.system
    sizes: dict[str, Any] = {
        field: read_field(Substitute, field, getattr(body, typed), typed, system)
        for field, typed in _SIZES.items()
    }
    return Substitute(
        key="new",
        joint=body.joint,
        part=body.part,
        name=body.name.strip() or "substitute",
        head=body.head,
        grade=body.grade,
        nut=read_field(Substitute, "nut", body.nut, "nut", system),
        material=body.material,
        for_good=body.for_good,
        replace_by=body.replace_by.strip(),
        note=body.note.strip(),
        **sizes,
    )


@route(blueprint, "POST", "/substitutes", SavedView, SubstituteWrite)
def substitute(job_id: str, body: SubstituteWrite) -> SavedView:
    """Use another part in a joint's place, for good or until its own is there."""
    asked = _substitute(body)
    return write(job_id, body, lambda job: add_substitute(job, job.in_hand.key, asked))


@route(blueprint, "POST", "/substitutes/<key>/pay", SavedView, Write)
def pay(job_id: str, key: str, body: Write) -> SavedView:
    """The joint has its own part again."""
    return write(job_id, body, lambda job: pay_debt(job, job.in_hand.key, key))


@route(blueprint, "POST", "/substitutes/<key>/remove", SavedView, Write)
def take_out(job_id: str, key: str, body: Write) -> SavedView:
    """Take a substitute out, as if it had never been put in."""
    return write(job_id, body, lambda job: remove_substitute(job, job.in_hand.key, key))
