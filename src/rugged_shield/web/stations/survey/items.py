"""Items of the job's lists and heads of its plates, as several sheets of Survey show them."""

from __future__ import annotations

from typing import Any

from rugged_shield.core.assess.fitup.pose import plate_pose
from rugged_shield.core.job.model import Job
from rugged_shield.core.survey.found import Fault, StripItem
from rugged_shield.core.tables.threads import THREADS
from rugged_shield.web.fields import field_view, field_views
from rugged_shield.web.stations.survey.views import PlateHead
from rugged_shield.web.views import ItemView

_LIST_FIELDS: dict[str, tuple[str, ...]] = {
    "bike.joints": ("name", "manual_torque_nm", "note"),
    "bike.added": ("name", "mass_kg", "x_mm", "since"),
    "scars": ("kind", "u_mm", "v_mm", "length_mm", "width_mm", "depth_mm", "note"),
    "faults": ("name", "kind", "x_mm", "y_mm", "note", "mended"),
    "strip": (
        "name",
        "kind",
        "count",
        "where",
        "keeping",
        "turn",
        "why",
        "fault",
        "note",
        "undone",
    ),
}


def _note(item: Any) -> str:
    """What a list shows of an item beside its name."""
    note = str(getattr(item, "note", ""))
    if isinstance(item, Fault):
        done = "mended" if item.mended else ""
        return " · ".join(p for p in (item.kind, item.part, done, note) if p)
    if not isinstance(item, StripItem):
        return note
    turn = f"number {item.turn}: {item.why}".removesuffix(": ") if item.turn else ""
    many = f"{item.count} × {item.thread}" if item.thread else f"{item.count}"
    kept = "" if item.keeping == "not decided" else item.keeping
    return " · ".join(p for p in (turn, many, item.kind, kept, item.fault, note) if p)


def items_of(job: Job, where: str, items: tuple[Any, ...]) -> tuple[ItemView, ...]:
    """Items of one of the job's lists with their fields."""
    out = []
    for item in items:
        prefix = f"{where}.{item.key}"
        fields = field_views(item, _LIST_FIELDS[where], prefix)
        if where in ("bike.joints", "strip"):
            empty = () if where == "bike.joints" else ("",)
            fields = (*fields, field_view(item, "thread", prefix, choices=(*empty, *THREADS)))
        if where == "faults":
            parts = ("", *(p.key for p in job.bike.parts))
            fields = (fields[0], field_view(item, "part", prefix, choices=parts), *fields[1:])
        if where == "scars":
            panels = tuple(p.name for p in plate_pose(job.bike, job.stock).folded.panels)
            fields = (field_view(item, "panel", prefix, choices=panels), *fields)
        name = getattr(item, "name", "") or f"{item.kind} on the {item.panel}"
        out.append(ItemView(item.key, where, name, _note(item), fields))
    return tuple(out)


def plate_heads(job: Job) -> tuple[PlateHead, ...]:
    """Every plate of the job, stock first."""
    return tuple(
        PlateHead(c.key, c.plate.name, c.plate.role, c.key == job.in_hand.key)
        for c in (job.stock, *job.candidates)
    )
