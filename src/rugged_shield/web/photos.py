"""Pictures beside a job: kept re-encoded, handed out one by one or together."""

from __future__ import annotations

from flask import Blueprint, Response, request

from rugged_shield.store.shelf import add_photo, photo, photos
from rugged_shield.web.access import PICTURES, takes_files
from rugged_shield.web.api import adapter, file_route
from rugged_shield.web.downloads import download
from rugged_shield.web.jobs import database, row_of
from rugged_shield.web.views import PhotoKept

blueprint = Blueprint("photos", __name__, url_prefix="/api/jobs/<job_id>/photos")

takes_files("photos.photo_in", PICTURES)


@file_route(blueprint, "", "application/json", PICTURES)
def photo_in(job_id: str) -> Response:
    """Keep a picture beside the job: re-encoded, without place, time or camera."""
    from rugged_shield.formats.guarded import read_guarded
    from rugged_shield.formats.photos import MAX_BYTES, clean_photo

    request.max_content_length = MAX_BYTES + 1000
    row_of(job_id)
    kept = add_photo(database(), job_id, read_guarded(clean_photo, request.get_data()))
    return Response(adapter(PhotoKept).dump_json(PhotoKept(kept)), mimetype="application/json")


@file_route(blueprint, "/<photo_id>", "image/jpeg")
def photo_out(job_id: str, photo_id: str) -> Response:
    """One picture as JPEG."""
    return Response(photo(database(), job_id, photo_id), mimetype="image/jpeg")


@file_route(blueprint, "/all.zip", "application/zip")
def photos_out(job_id: str) -> Response:
    """All pictures of the job, to keep beside the job file."""
    from rugged_shield.formats.photos import photos_zip

    row_of(job_id)
    return download(photos_zip(photos(database(), job_id)), "application/zip", "job-photos.zip")
