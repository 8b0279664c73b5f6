"""Kit: the sheet's lines against the bench, and the list out as CSV."""

from __future__ import annotations

import re
import secrets
from dataclasses import replace
from typing import get_args

from flask import Blueprint, Response

from rugged_shield.core.assess.fitup import assess_joints
from rugged_shield.core.assess.kit import screw_needs
from rugged_shield.core.errors import InputError
from rugged_shield.core.job import Job, KitCount
from rugged_shield.core.job.edits import (
    Change,
    add_lines,
    drop_item,
    plate_path,
    put_item,
    read_field,
)
from rugged_shield.core.kit import KitLine, LineKind, LineState, ScrewNeed, check_line, to_buy
from rugged_shield.core.survey import applies
from rugged_shield.core.tables.friction import CONDITIONS
from rugged_shield.core.tables.grades import GRADES
from rugged_shield.core.tables.heads import HEADS
from rugged_shield.core.tables.threads import THREADS
from rugged_shield.formats.hardwarecsv import read_hardware
from rugged_shield.formats.kitlist import kit_csv
from rugged_shield.web.api import route
from rugged_shield.web.fields import field_view
from rugged_shield.web.hardware_views import CountWrite, KitLineView, KitView, LineWrite
from rugged_shield.web.jobs import row_of, write
from rugged_shield.web.survey_views import CsvLineView, CsvPreview, CsvText, CsvWrite
from rugged_shield.web.views import SavedView, Write

blueprint = Blueprint("kit", __name__, url_prefix="/api/jobs/<job_id>/kit")


def _at(job: Job) -> str:
    return plate_path(job, job.in_hand.key)


def _states(job: Job) -> tuple[dict[str, LineState], tuple[ScrewNeed, ...]]:
    needs = screw_needs(assess_joints(job.bike, job.in_hand))
    counted = job.counted(job.in_hand)
    lines = job.as_entered(job.in_hand.key).kit
    states = {line.key: check_line(line, counted.get(line.key), needs) for line in lines}
    return states, to_buy(job.in_hand.kit, needs)


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
    )


@route(blueprint, "GET", "", KitView)
def kit(job_id: str) -> KitView:
    """The kit of the plate in hand: listed, counted, needed, to buy."""
    job = row_of(job_id).job
    states, buy = _states(job)
    lines = job.as_entered(job.in_hand.key).kit
    return KitView(
        plate=job.in_hand.plate.name,
        lines=tuple(_line(job, line, states[line.key]) for line in lines),
        buy=buy,
        kinds=get_args(LineKind),
        threads=tuple(THREADS),
        heads=tuple(HEADS),
        grades=tuple(GRADES),
    )


@blueprint.get("/list.csv")
def kit_list(job_id: str) -> Response:
    """The list as a CSV file."""
    job = row_of(job_id).job
    states, buy = _states(job)
    answer = Response(
        kit_csv(job.as_entered(job.in_hand.key).kit, states, buy), mimetype="text/csv"
    )
    answer.headers["Content-Disposition"] = 'attachment; filename="kit-list.csv"'
    return answer


@route(blueprint, "POST", "/count", SavedView, CountWrite)
def count(job_id: str, body: CountWrite) -> SavedView:
    """Note what was counted for a line; empty text takes the count back."""

    def change(job: Job) -> Change:
        line = next((k for k in job.in_hand.kit if k.key == body.line), None)
        if line is None:
            raise InputError("line", body.line, "a line of this kit")
        key = job.in_hand.count_key(line.key)
        if not body.text.strip():
            left = tuple(c for c in job.counts if c.key != key)
            return Change(replace(job, counts=left), f"count of {line.name} taken back")
        number = read_field(KitCount, "counted", body.text, f"counts.{body.line}", "metric")
        words = f"counted {number} of {line.count} {line.name} {line.size}".strip()
        return put_item(job, "counts", KitCount(key, number), words)

    return write(job_id, body, change)


def _typed_line(body: LineWrite) -> KitLine:
    length = None
    if body.length.strip():
        length = read_field(KitLine, "length_mm", body.length, "length_mm", body.system)
    number = read_field(KitLine, "count", body.count, "count", "metric")
    if not body.name.strip():
        raise InputError("name", body.name, "a name", "the line needs a name")
    kind = read_field(KitLine, "kind", body.kind, "kind", "metric")
    return KitLine(
        key=f"own-{secrets.token_hex(4)}",
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
def add_line(job_id: str, body: LineWrite) -> SavedView:
    """Add a line to the kit."""
    line = _typed_line(body)
    return write(
        job_id,
        body,
        lambda job: put_item(job, f"{_at(job)}.kit", line, f"added to the kit: {line.name}"),
    )


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
    found = read_hardware(body.text, body.system)
    lines = tuple(
        CsvLineView(r.row, _in_words(r.line) if r.line else "", r.trouble, "; ".join(r.assumed))
        for r in found.lines
    )
    good = sum(1 for r in found.lines if r.line)
    return CsvPreview(lines, good, len(lines) - good, found.columns, found.separator)


@route(blueprint, "POST", "/import", SavedView, CsvWrite)
def take_in(job_id: str, body: CsvWrite) -> SavedView:
    """Add every line that is understood; the others stay out."""
    lines = tuple(r.line for r in read_hardware(body.text, body.system).lines if r.line)
    if not lines:
        raise InputError("text", "", "at least one line that is understood", "no line was read")
    return write(job_id, body, lambda job: add_lines(job, job.in_hand.key, lines))


@route(blueprint, "POST", "/lines/<key>/drop", SavedView, Write)
def drop_line(job_id: str, key: str, body: Write) -> SavedView:
    """Take a line out of the kit."""
    if not re.fullmatch(r"[A-Za-z0-9_-]{1,60}", key):
        raise InputError("key", key, "a line of this kit")
    return write(
        job_id, body, lambda job: drop_item(job, f"{_at(job)}.kit.{key}", "kit line taken out")
    )
