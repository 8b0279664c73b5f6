"""Nuts beyond the first thread of a joint: shown with what they hold, added and taken off."""

from __future__ import annotations

from dataclasses import dataclass

from flask import Blueprint

from rugged_shield.core.assess.fitup.joints import FarNut
from rugged_shield.core.assess.tighten.cards import far_cards
from rugged_shield.core.figures import figure_of
from rugged_shield.core.fitup.joint import Joint
from rugged_shield.core.job.edits.joints import add_far_nut, remove_far_nut
from rugged_shield.core.job.model import Job
from rugged_shield.core.result import Figure, Finding, Outcome, Verdict, verdict_of, worst
from rugged_shield.core.tables.friction import CONDITIONS
from rugged_shield.core.tables.materials import LAYER_MATERIALS
from rugged_shield.core.tighten.torque import TorqueCard
from rugged_shield.web.api import route
from rugged_shield.web.fields import field_view
from rugged_shield.web.jobs import write
from rugged_shield.web.views import FieldView, SavedView, Write

blueprint = Blueprint("far", __name__, url_prefix="/api/jobs/<job_id>/fit-up/joints/<key>/far")


@dataclass(frozen=True, kw_only=True)
class FarNutView:
    """A nut beyond the first thread: what it holds, its torque, what is entered of it."""

    key: str
    name: str
    verdict: Verdict
    findings: tuple[Finding, ...]
    figures: tuple[Figure, ...]
    fields: tuple[FieldView, ...]


def _figures(nut: FarNut, card: Outcome[TorqueCard]) -> tuple[Figure, ...]:
    stack, e = nut.stack, nut.evaluation
    rows = (
        ("held", "Thread held, worst case", e.engagement_effective_worst_mm),
        ("protrusion", "Stands out, least", e.protrusion_worst_min_mm),
        ("gap", "Free beyond its end, worst case", e.neighbour_gap_worst_mm),
    )
    lengths = tuple(
        figure_of(stack, key, label, value, "mm", judged=False)
        for key, label, value in rows
        if value is not None
    )
    target = card.result.target_nm
    torque = figure_of(card, "torque", "Torque of the nut", target, "N·m", judged=False)
    return (*lengths, torque)


def far_views(job: Job, joint: Joint, prefix: str) -> tuple[FarNutView, ...]:
    """Every nut beyond a joint's first thread."""
    judged = {
        nut.engagement.key: (nut, card)
        for nut, card in far_cards(joint, job.mount_of(joint), job.wrench)
    }
    views = []
    for far in joint.beyond:
        at = f"{prefix}.beyond.{far.key}"
        findings: tuple[Finding, ...] = ()
        figures: tuple[Figure, ...] = ()
        if far.key in judged:
            nut, card = judged[far.key]
            findings, figures = (*nut.findings, *card.findings), _figures(nut, card)
        views.append(
            FarNutView(
                key=far.key,
                name=far.name,
                verdict=worst(f.verdict for f in findings) if figures else verdict_of("no value"),
                findings=findings,
                figures=figures,
                fields=(
                    field_view(far, "name", at),
                    field_view(far, "nut", at),
                    field_view(far, "treatment", at, choices=tuple(CONDITIONS)),
                    field_view(far, "torque_nm", at, label="torque on the sheet"),
                    field_view(far, "washer", at, label="a washer under it"),
                    field_view(far, "between", at, label="what lies between"),
                    field_view(far, "between_mm", at, label="its thickness"),
                    field_view(
                        far,
                        "between_material",
                        at,
                        label="its material",
                        choices=tuple(LAYER_MATERIALS),
                    ),
                    field_view(far, "free_space_mm", at, label="free space beyond the nut"),
                ),
            )
        )
    return tuple(views)


@route(blueprint, "POST", "", SavedView, Write)
def add_one(job_id: str, key: str, body: Write) -> SavedView:
    """A nut on the end of a joint's screw."""
    return write(job_id, body, lambda job: add_far_nut(job, job.in_hand.key, key))


@route(blueprint, "POST", "/<far>/remove", SavedView, Write)
def remove_one(job_id: str, key: str, far: str, body: Write) -> SavedView:
    """Take a nut off the end of a joint's screw."""
    return write(job_id, body, lambda job: remove_far_nut(job, job.in_hand.key, key, far))
