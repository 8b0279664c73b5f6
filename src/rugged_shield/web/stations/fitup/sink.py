"""The sink under a countersunk head: shown, and entered as it was measured."""

from __future__ import annotations

from dataclasses import dataclass

from flask import Blueprint

from rugged_shield.core.amounts import System
from rugged_shield.core.fitup.joint import Joint
from rugged_shield.core.fitup.stack_model import Countersink
from rugged_shield.core.job.edits.joints import enter_sink
from rugged_shield.core.job.edits.path import read_field
from rugged_shield.web.api import route
from rugged_shield.web.fields import field_view
from rugged_shield.web.jobs import write
from rugged_shield.web.views import FieldView, SavedView, Text, Write

blueprint = Blueprint("sink", __name__, url_prefix="/api/jobs/<job_id>/fit-up/joints/<key>/sink")

_LABELS = {
    "sink_diameter_mm": "sink, across at the surface",
    "hole_diameter_mm": "hole under the sink",
    "angle_deg": "angle of the sink",
    "head_below_surface_mm": "head below the surface; minus: it stands proud",
    "required_land_mm": "land that must be left under it",
}


@dataclass(frozen=True, kw_only=True)
class SinkWrite(Write):
    """A sink as it was measured: across, its angle ("": not known), how far the head lies below."""

    diameter: Text = ""
    angle: Text = ""
    below: Text = ""
    system: System = "metric"


def sink_fields(joint: Joint, prefix: str) -> tuple[FieldView, ...]:
    """What is entered of a joint's sink; nothing while none is."""
    if joint.countersink is None or not joint.is_countersunk:
        return ()
    at = f"{prefix}.countersink"
    return tuple(
        field_view(joint.countersink, name, at, label=label) for name, label in _LABELS.items()
    )


@route(blueprint, "POST", "", SavedView, SinkWrite)
def enter_one(job_id: str, key: str, body: SinkWrite) -> SavedView:
    """The sink under a joint's head, as measured; its hole is that of the first layer."""

    def number(name: str, text: str) -> float:
        value: float = read_field(Countersink, name, text, name, body.system)
        return value

    sizes = (
        number("sink_diameter_mm", body.diameter),
        number("angle_deg", body.angle) if body.angle.strip() else None,
        number("head_below_surface_mm", body.below),
    )
    return write(job_id, body, lambda job: enter_sink(job, job.in_hand.key, key, *sizes))
