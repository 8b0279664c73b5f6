"""The plate's sheet: pages kept as pictures, a revised list taken in line by line."""

from __future__ import annotations

from flask import Blueprint, Response, request

from rugged_shield.core.amounts import System
from rugged_shield.core.assess.kit.lines import KitCheck, kit_check
from rugged_shield.core.errors import InputError
from rugged_shield.core.job.edits.kit import add_page, remove_page, revise
from rugged_shield.core.kit.hardware import KitLine
from rugged_shield.core.kit.revision import LineChange, differences
from rugged_shield.formats.guarded import read_guarded
from rugged_shield.formats.hardwarecsv import read_hardware
from rugged_shield.store.shelf import add_photo, photos
from rugged_shield.web.access import PDF, takes_files
from rugged_shield.web.api import adapter, file_route, route
from rugged_shield.web.jobs import database, row_of, write
from rugged_shield.web.stations.kit.views import (
    ChangeView,
    PagesKept,
    PageWrite,
    RevisionView,
    RevisionWrite,
)
from rugged_shield.web.views import CsvText, SavedView

blueprint = Blueprint("sheet", __name__, url_prefix="/api/jobs/<job_id>/kit")


def _change(change: LineChange, check: KitCheck) -> ChangeView:
    line = change.old or change.new
    assert line is not None
    met = check.shared.by_line.get(change.old.key, ()) if change.old else ()
    return ChangeView(
        key=change.key,
        kind=change.kind,
        name=f"{line.name} {line.size}".strip(),
        words=change.words,
        joints=tuple(n.joint for n in met),
    )


def _read(text: str, system: System) -> tuple[tuple[KitLine, ...], tuple[str, ...]]:
    found = read_guarded(read_hardware, text, system)
    lines = tuple(r.line for r in found.lines if r.line)
    bad = tuple(f"line {r.row}: {r.trouble}" for r in found.lines if r.line is None)
    if not lines:
        raise InputError("text", "", "at least one line that is understood", "no line was read")
    return lines, bad


@route(blueprint, "POST", "/revision/preview", RevisionView, CsvText)
def preview_revision(job_id: str, body: CsvText) -> RevisionView:
    """What a revised list would alter, line by line; nothing is saved."""
    job = row_of(job_id).job
    lines, bad = _read(body.text, body.system)
    kit = job.as_entered(job.in_hand.key).kit
    changes = differences(kit, lines)
    check = kit_check(job)
    touched = sum(1 for c in changes if c.old is not None)
    return RevisionView(tuple(_change(c, check) for c in changes), len(kit) - touched, bad)


@route(blueprint, "POST", "/revision", SavedView, RevisionWrite)
def take_revision(job_id: str, body: RevisionWrite) -> SavedView:
    """Take the chosen changes of a revised list; the others are refused."""
    lines, _ = _read(body.text, body.system)
    take = frozenset(body.take)
    return write(job_id, body, lambda job: revise(job, job.in_hand.key, lines, take))


def _kept(job_id: str, photo: str) -> str:
    if photo not in photos(database(), job_id):
        raise InputError("photo", photo, "a picture kept beside this job")
    return photo


takes_files("sheet.pdf_in", PDF)


@file_route(blueprint, "/pdf", "application/json", PDF)
def pdf_in(job_id: str) -> Response:
    """Keep the pages of a PDF as pictures beside the job; the PDF itself is thrown away."""
    from rugged_shield.formats.pdfpages import pdf_pages
    from rugged_shield.formats.photos import MAX_BYTES

    request.max_content_length = MAX_BYTES + 1000
    row_of(job_id)
    made = read_guarded(pdf_pages, request.get_data())
    kept = PagesKept(tuple(add_photo(database(), job_id, page) for page in made))
    return Response(adapter(PagesKept).dump_json(kept), mimetype="application/json")


@route(blueprint, "POST", "/pages", SavedView, PageWrite)
def keep_page(job_id: str, body: PageWrite) -> SavedView:
    """A picture beside the job becomes a page of the sheet."""
    photo = _kept(job_id, body.photo)
    return write(job_id, body, lambda job: add_page(job, job.in_hand.key, photo))


@route(blueprint, "POST", "/pages/remove", SavedView, PageWrite)
def drop_page(job_id: str, body: PageWrite) -> SavedView:
    """Take a page off the sheet."""
    return write(job_id, body, lambda job: remove_page(job, job.in_hand.key, body.photo))
