"""Kit: the sheet's lines against the bench, and the list out as CSV."""

from __future__ import annotations

from typing import get_args

from flask import Blueprint, Response

from rugged_shield.core.assess.kit import kit_check
from rugged_shield.core.errors import InputError
from rugged_shield.core.job import Job, KitCount
from rugged_shield.core.job.edits import (
    add_line,
    add_lines,
    plate_path,
    read_field,
    remove_count,
    remove_line,
    set_count,
)
from rugged_shield.core.kit import FORMS, KitLine, LineKind, LineState, line_drawing
from rugged_shield.core.survey import applies
from rugged_shield.core.tables.friction import CONDITIONS
from rugged_shield.core.tables.grades import GRADES
from rugged_shield.core.tables.heads import HEADS
from rugged_shield.core.tables.threads import THREADS
from rugged_shield.formats.guarded import read_guarded
from rugged_shield.formats.hardwarecsv import read_hardware
from rugged_shield.formats.kitlist import kit_csv
from rugged_shield.web.api import file_route, route
from rugged_shield.web.downloads import download
from rugged_shield.web.fields import field_view
from rugged_shield.web.jobs import row_of, write
from rugged_shield.web.stations.kit.views import (
    CountWrite,
    CsvText,
    CsvWrite,
    KitLineView,
    KitView,
    LineWrite,
)
from rugged_shield.web.views import CsvLineView, CsvPreview, SavedView, Write

blueprint = Blueprint("kit", __name__, url_prefix="/api/jobs/<job_id>/kit")


def _at(job: Job) -> str:
    return plate_path(job, job.in_hand.key)


def _line(job: Job, line: KitLine, state: LineState) -> KitLineView:
    prefix = f"{_at(job)}.kit.{line.key}"
    fields = (
        field_view(line, "name", prefix),
        field_view(line, "thread", prefix, choices=("", *THREADS)),
        field_view(line, "length_mm", prefix),
        field_view(line, "head", prefix, choices=("", *HEADS)),
        field_view(line, "grade", prefix, choices=("", *GRADES)),
        field_view(line, "count", prefix),
        field_view(line, "already_fitted", prefix),
    )
    more = (
        field_view(line, "drive", prefix),
        field_view(line, "fitted_to", prefix),
        field_view(line, "treatment", prefix, choices=("", *CONDITIONS)),
        field_view(line, "when", prefix, label="only if"),
    )
    return KitLineView(
        key=line.key,
        kind=line.kind,
        name=line.name,
        size=line.size,
        head=line.head,
        grade=line.grade,
        count=line.count,
        already_fitted=line.already_fitted,
        state=state,
        fields=fields,
        more=more,
        applies=applies(line.when, job.bike),
        when=line.when,
        drawing=line_drawing(line),
    )


@route(blueprint, "GET", "", KitView)
def kit(job_id: str) -> KitView:
    """The kit of the plate in hand: listed, counted, needed, to buy."""
    job = row_of(job_id).job
    found = kit_check(job)
    lines = job.as_entered(job.in_hand.key).kit
    return KitView(
        plate=job.in_hand.plate.name,
        lines=tuple(_line(job, line, found.lines[line.key]) for line in lines),
        buy=found.buy,
        kinds=get_args(LineKind),
        threads=tuple(THREADS),
        heads=tuple(HEADS),
        grades=tuple(GRADES),
        head_forms=FORMS,
    )


@file_route(blueprint, "/list.csv", "text/csv")
def kit_list(job_id: str) -> Response:
    """The list as a CSV file."""
    job = row_of(job_id).job
    found = kit_check(job)
    lines = job.as_entered(job.in_hand.key).kit
    return download(kit_csv(lines, found.lines, found.buy), "text/csv", "kit-list.csv")


@route(blueprint, "POST", "/count", SavedView, CountWrite)
def count(job_id: str, body: CountWrite) -> SavedView:
    """Note what was counted for a line; empty text takes the count back."""
    if not body.text.strip():
        return write(job_id, body, lambda job: remove_count(job, job.in_hand.key, body.line))
    number = read_field(KitCount, "counted", body.text, f"counts.{body.line}", "metric")
    return write(job_id, body, lambda job: set_count(job, job.in_hand.key, body.line, number))


def _typed_line(body: LineWrite) -> KitLine:
    length = None
    if body.length.strip():
        length = read_field(KitLine, "length_mm", body.length, "length_mm", body.system)
    number = read_field(KitLine, "count", body.count, "count", "metric")
    kind = read_field(KitLine, "kind", body.kind, "kind", "metric")
    return KitLine(
        key="own",
        kind=kind,
        name=body.name.strip(),
        thread=body.thread,
        length_mm=length,
        head=body.head,
        grade=body.grade,
        count=number,
        drive=body.drive.strip(),
        when=body.when.strip(),
    )


@route(blueprint, "POST", "/lines", SavedView, LineWrite)
def add_a_line(job_id: str, body: LineWrite) -> SavedView:
    """Add a line to the kit."""
    line = _typed_line(body)
    return write(job_id, body, lambda job: add_line(job, job.in_hand.key, line))


def _in_words(line: KitLine) -> str:
    """A line as understood, in words."""
    parts = [line.kind, line.name, line.size, line.head, line.grade, f"{line.count} pieces"]
    if line.already_fitted:
        parts.append(f"{line.already_fitted} of them on {line.fitted_to or 'a bracket'}")
    if line.treatment:
        parts.append(line.treatment)
    if line.when:
        parts.append(f"only if {line.when}")
    return " · ".join(p for p in parts if p)


@route(blueprint, "POST", "/preview", CsvPreview, CsvText)
def preview(job_id: str, body: CsvText) -> CsvPreview:
    """What a pasted list would become; nothing is saved."""
    row_of(job_id)
    found = read_guarded(read_hardware, body.text, body.system)
    lines = tuple(
        CsvLineView(r.row, _in_words(r.line) if r.line else "", r.trouble, "; ".join(r.assumed))
        for r in found.lines
    )
    good = sum(1 for r in found.lines if r.line)
    return CsvPreview(lines, good, len(lines) - good, found.columns, found.separator)


@route(blueprint, "POST", "/import", SavedView, CsvWrite)
def take_in(job_id: str, body: CsvWrite) -> SavedView:
    """Add every line that is understood; the others stay out."""
    lines = tuple(
        r.line for r in read_guarded(read_hardware, body.text, body.system).lines if r.line
    )
    if not lines:
        raise InputError("text", "", "at least one line that is understood", "no line was read")
    return write(job_id, body, lambda job: add_lines(job, job.in_hand.key, lines))


@route(blueprint, "POST", "/lines/<key>/remove", SavedView, Write)
def remove_a_line(job_id: str, key: str, body: Write) -> SavedView:
    """Take a line out of the kit."""
    return write(job_id, body, lambda job: remove_line(job, job.in_hand.key, key))
