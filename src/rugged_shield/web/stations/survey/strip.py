"""Stripping the stock plate: what to undo, what was found, labels for the bag."""

from __future__ import annotations

from typing import get_args

from flask import Blueprint, Response

from rugged_shield.core.survey.found import StripItem, StripKind
from rugged_shield.core.tables.cautions import CAUTIONS
from rugged_shield.store.shelf import photos
from rugged_shield.web.api import file_route, route
from rugged_shield.web.downloads import download
from rugged_shield.web.jobs import database, now_iso, row_of
from rugged_shield.web.stations.survey.items import items_of
from rugged_shield.web.stations.survey.views import StripView

blueprint = Blueprint("strip", __name__, url_prefix="/api/jobs/<job_id>/strip")


@route(blueprint, "GET", "", StripView)
def strip(job_id: str) -> StripView:
    """The list of stripping with what was found."""
    job = row_of(job_id).job
    return StripView(
        plate=job.stock.plate.name,
        cautions=CAUTIONS["strip"],
        items=items_of(job, "strip", _in_turn(job.strip)),
        kinds=get_args(StripKind),
        done=sum(1 for item in job.strip if item.undone),
        to_bag=sum(1 for item in job.strip if item.keeping == "into the stock bag"),
        photo_of={i.key: i.photo for i in job.strip if i.photo},
        photos=tuple(photos(database(), job_id)),
    )


def _in_turn(items: tuple[StripItem, ...]) -> tuple[StripItem, ...]:
    """As they come off: what has its turn by it, the rest as entered."""
    last = max((i.turn or 0 for i in items), default=0) + 1
    return tuple(sorted(items, key=lambda i: i.turn or last))


def _items(items: tuple[StripItem, ...]) -> tuple[StripItem, ...]:
    return tuple(sorted(items, key=lambda i: (i.kind, i.name)))


@file_route(blueprint, "/labels.pdf", "application/pdf")
def labels(job_id: str) -> Response:
    """Labels for the stock bag."""
    from rugged_shield.formats.labels import BagHead, bag_labels

    job = row_of(job_id).job
    head = BagHead(job.bike.name, job.stock.plate.name, now_iso()[:10])
    made = bag_labels(head, _items(job.strip))
    return download(made, "application/pdf", "stock-bag-labels.pdf", inline=True)
