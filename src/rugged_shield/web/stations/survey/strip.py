"""Stripping the stock plate: what to undo, what was found, photos, labels for the bag."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import get_args

from flask import Blueprint, Response, request

from rugged_shield.core.survey import StripItem, StripKind
from rugged_shield.core.tables.cautions import CAUTIONS
from rugged_shield.store import add_photo, photo, photos
from rugged_shield.web.access import PICTURES, takes_files
from rugged_shield.web.api import adapter, file_route, route
from rugged_shield.web.downloads import download
from rugged_shield.web.jobs import database, row_of
from rugged_shield.web.stations.survey.items import items_of
from rugged_shield.web.stations.survey.views import PhotoKept, StripView

blueprint = Blueprint("strip", __name__, url_prefix="/api/jobs/<job_id>/strip")

takes_files("strip.photo_in", PICTURES)


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


@file_route(blueprint, "/photos", "application/json", PICTURES)
def photo_in(job_id: str) -> Response:
    """Keep a picture beside the job: re-encoded, without place, time or camera."""
    from rugged_shield.formats.guarded import read_guarded
    from rugged_shield.formats.photos import MAX_BYTES, clean_photo

    request.max_content_length = MAX_BYTES + 1000
    row_of(job_id)
    kept = add_photo(database(), job_id, read_guarded(clean_photo, request.get_data()))
    return Response(adapter(PhotoKept).dump_json(PhotoKept(kept)), mimetype="application/json")


@file_route(blueprint, "/photos/<photo_id>", "image/jpeg")
def photo_out(job_id: str, photo_id: str) -> Response:
    """One picture as JPEG."""
    return Response(photo(database(), job_id, photo_id), mimetype="image/jpeg")


@file_route(blueprint, "/photos.zip", "application/zip")
def photos_out(job_id: str) -> Response:
    """All pictures of the job, to keep beside the job file."""
    from rugged_shield.formats.photos import photos_zip

    row_of(job_id)
    return download(photos_zip(photos(database(), job_id)), "application/zip", "job-photos.zip")


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
    head = BagHead(job.bike.name, job.stock.plate.name, datetime.now(UTC).date().isoformat())
    made = bag_labels(head, _items(job.strip))
    return download(made, "application/pdf", "stock-bag-labels.pdf", inline=True)
