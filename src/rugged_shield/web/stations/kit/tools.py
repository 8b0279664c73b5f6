"""Tools: both sides of every joint, against the garage and the trail roll."""

from __future__ import annotations

from flask import Blueprint

from rugged_shield.core.assess.kit.carry import Carry, carry_of
from rugged_shield.core.assess.kit.tools import tools_of
from rugged_shield.core.job.edits.lists import add_tool
from rugged_shield.core.job.edits.path import read_field
from rugged_shield.core.job.edits.plates import plate_path
from rugged_shield.core.kit.hardware import KitLine
from rugged_shield.core.kit.line_drawing import line_drawing
from rugged_shield.core.survey.bike import OwnTool
from rugged_shield.core.tighten.tools import ToolUse
from rugged_shield.web.api import route
from rugged_shield.web.fields import field_views
from rugged_shield.web.jobs import row_of, write
from rugged_shield.web.stations.kit.views import (
    JointToolsView,
    SideView,
    SpareView,
    ToolsView,
    ToolWrite,
)
from rugged_shield.web.views import ItemView, SavedView

blueprint = Blueprint("tools", __name__, url_prefix="/api/jobs/<job_id>/kit/tools")

_DECIDES = ("room_mm", "room_deep_mm", "second_drive", "special_tool")


@route(blueprint, "POST", "", SavedView, ToolWrite)
def have(job_id: str, body: ToolWrite) -> SavedView:
    """A tool that one has: in the garage, or in the trail roll of this bike."""
    place = read_field(OwnTool, "place", body.place, "place", "metric")
    return write(job_id, body, lambda job: add_tool(job, body.tool, place))


def _side(use: ToolUse) -> SideView:
    return SideView(tools=use.tools, fits=use.fits, words=use.words, known=use.known)


def _spares(carry: Carry) -> tuple[SpareView, ...]:
    out = []
    for head, spare in ((s.head, s.spare) for s in carry.screws):
        screw = KitLine(
            key="spare",
            kind="screw",
            name="screw",
            thread=spare.thread,
            length_mm=spare.length_mm,
            head=head,
        )
        out.append(
            SpareView(
                what=f"{screw.size} {head}",
                drive=spare.drive,
                count=spare.count,
                joints=tuple(int(key) for key in spare.joints),
                drawing=line_drawing(screw),
            )
        )
    return tuple(out)


@route(blueprint, "GET", "", ToolsView)
def tools(job_id: str) -> ToolsView:
    """The tools of the plate in hand: by joint, in sum, lacking now and on the trail."""
    job = row_of(job_id).job
    found, carry = tools_of(job), carry_of(job)
    plate = job.in_hand.key
    joints = {j.key: j for j in job.as_entered(plate).joints}
    prefix = f"{plate_path(job, plate)}.joints"
    return ToolsView(
        plate=job.in_hand.plate.name,
        by_joint=tuple(
            JointToolsView(
                joint=t.joint,
                name=t.name,
                turned=_side(t.turned),
                held=_side(t.held) if t.held else None,
                special=t.special,
                fields=()
                if t.is_far
                else field_views(joints[t.key], _DECIDES, f"{prefix}.{t.key}"),
            )
            for t in found.by_joint
        ),
        needed=found.needed,
        lacking=found.lacking,
        roll_lacks=found.roll_lacks,
        own=tuple(
            ItemView(
                key=tool.key,
                where="bike.tools",
                name=tool.tool,
                note=tool.place,
                fields=field_views(tool, ("tool", "place"), f"bike.tools.{tool.key}"),
            )
            for tool in job.bike.tools
        ),
        spares=_spares(carry),
        loose=carry.loose,
        no_spare=carry.none_fits,
        sources=(*found.sources, *carry.sources),
    )
