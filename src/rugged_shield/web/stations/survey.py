"""Survey: the bike drawn from its numbers, and the numbers to correct."""

from __future__ import annotations

from flask import Blueprint

from rugged_shield.core.assess import hang, weigh
from rugged_shield.core.mechanics.frames import side_words
from rugged_shield.core.survey import Mount, Part, creeper_view, part_letters, profile_view
from rugged_shield.core.tables.thread_materials import THREAD_MATERIALS
from rugged_shield.core.tables.threads import THREADS
from rugged_shield.web.api import route
from rugged_shield.web.fields import field_view, field_views
from rugged_shield.web.jobs import row_of
from rugged_shield.web.views import PartView, SurveyView

blueprint = Blueprint("survey", __name__, url_prefix="/api/jobs/<job_id>/survey")

_PART_FIELDS = (
    "x_min_mm", "x_max_mm", "y_min_mm", "y_max_mm", "z_min_mm", "z_max_mm", "required_gap_mm",
    "consequence", "surface_c", "known",
)  # fmt: skip
_MOUNT_FIELDS = (
    "x_mm", "y_mm", "z_mm", "thread_start_mm", "thread_end_mm", "overall_height_mm",
    "free_space_mm", "manual_torque_nm", "known",
)  # fmt: skip


def _part(part: Part, letter: str) -> PartView:
    prefix = f"bike.parts.{part.key}"
    return PartView(
        part.key, letter, part.name, part.kind, side_words(part.centre_mm[1]), part.known,
        field_views(part, _PART_FIELDS, prefix),
    )  # fmt: skip


def _mount(mount: Mount) -> PartView:
    prefix = f"bike.mounts.{mount.key}"
    fields = (
        *field_views(mount, _MOUNT_FIELDS, prefix),
        field_view(mount, "thread", prefix, choices=tuple(THREADS)),
        field_view(mount, "material", prefix, choices=tuple(THREAD_MATERIALS)),
    )
    return PartView(
        mount.key, str(mount.number), mount.name, mount.kind, side_words(mount.y_mm), mount.known,
        fields,
    )  # fmt: skip


@route(blueprint, "GET", "", SurveyView)
def survey(job_id: str) -> SurveyView:
    """The bike from below and from the side, with every number behind the drawing."""
    job = row_of(job_id).job
    bike = job.bike
    stock, plate = hang(bike, job.stock), hang(bike, job.in_hand)
    letters = part_letters(bike)
    figures = weigh(job, job.in_hand.key).figures
    own = None if job.in_hand.key == job.stock.key else plate.folded
    return SurveyView(
        creeper_view(bike, stock.folded, None),
        profile_view(bike, stock.folded, own, plate.low),
        tuple(_part(p, letters[p.key]) for p in bike.parts),
        tuple(_mount(m) for m in bike.mounts),
        field_views(
            bike, ("wheelbase_mm", "front_wheel_radius_mm", "rear_wheel_radius_mm"), "bike"
        ),
        figures["clearance"],
        figures["breakover"],
    )
