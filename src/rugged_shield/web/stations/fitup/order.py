"""Drawing the plate home: gaps, orders, forces, and what helps."""

from __future__ import annotations

from flask import Blueprint

from rugged_shield.core.assess.tighten.draw_home import DrawHome, draw_home
from rugged_shield.core.figures import figure
from rugged_shield.core.job.edits.clearances import take_order
from rugged_shield.core.job.edits.plates import plate_path
from rugged_shield.core.job.model import Job, mounted
from rugged_shield.core.result import Source, worst
from rugged_shield.web.api import route
from rugged_shield.web.fields import field_views
from rugged_shield.web.jobs import row_of, write
from rugged_shield.web.stations.fitup.views import (
    GapView,
    OrderView,
    OrderWrite,
    SchoolView,
    TurnView,
)
from rugged_shield.web.views import SavedView

blueprint = Blueprint("order", __name__, url_prefix="/api/jobs/<job_id>/fit-up/order")


def _gaps(job: Job, found: DrawHome) -> tuple[GapView, ...]:
    plate = job.in_hand.key
    joints = {j.key: j for j in job.as_entered(plate).joints}
    at = f"{plate_path(job, plate)}.joints"
    return tuple(
        GapView(
            key=gap.key,
            number=gap.number,
            name=gap.name,
            gap=figure("gap", "Gap", gap.gap_mm, "mm", reasons=(gap.words,)),
            reach=figure("reach", "Screw past the face", gap.reach_mm, "mm"),
            words=gap.words,
            eaten=figure(
                "eaten",
                "Share of its preload spent on the plate",
                100.0 * found.eaten[gap.key] if gap.key in found.eaten else None,
                "%",
                sources=found.sources,
            ),
            fields=field_views(
                joints[gap.key].seen, ("gap_mm", "gap_u_mm"), f"{at}.{gap.key}.seen"
            ),
        )
        for gap in found.gaps
    )


def _schools(found: DrawHome, sources: tuple[Source, ...]) -> tuple[SchoolView, ...]:
    return tuple(
        SchoolView(
            key=order.key,
            label=order.label,
            order=order.order,
            all_start=order.all_start,
            is_plan=order.is_plan,
            against=order.against,
            most=figure(
                "most", "Largest pull at its turn", order.most_force_n, "N", sources=sources
            ),
            turns=tuple(
                TurnView(
                    number=turn.number,
                    starts=turn.starts,
                    gap=figure("gap", "Gap at its turn", turn.gap_mm, "mm"),
                    words=turn.words,
                )
                for turn in order.turns
            ),
        )
        for order in found.orders
    )


@route(blueprint, "GET", "", OrderView)
def order(job_id: str) -> OrderView:
    """Gaps of the plate in hand, the orders that close them, and what each takes."""
    job = row_of(job_id).job
    found = draw_home(job.in_hand.plate, mounted(job.bike, job.in_hand), job.wrench)
    return OrderView(
        plate=job.in_hand.plate.name,
        gaps=_gaps(job, found),
        schools=_schools(found, found.sources),
        cures=found.cures,
        findings=found.findings,
        verdict=worst(f.verdict for f in found.findings),
        not_known=found.not_known,
        chosen=bool(job.in_hand.order),
    )


@route(blueprint, "POST", "", SavedView, OrderWrite)
def take(job_id: str, body: OrderWrite) -> SavedView:
    """The plan tightens in this order, and starts screws in that; none: as worked out."""
    return write(
        job_id, body, lambda job: take_order(job, job.in_hand.key, body.order, body.starts)
    )
