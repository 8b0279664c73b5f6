"""Tables that are typed or pasted: many mounts, parts, openings or layers at once."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from flask import Blueprint
from pydantic import StringConstraints

from rugged_shield.core.amounts import System
from rugged_shield.core.job.edits.rows import TABLES, add_rows, read_rows
from rugged_shield.formats.guarded import read_guarded
from rugged_shield.formats.pasted import Pasted, read_pasted
from rugged_shield.web.api import route
from rugged_shield.web.jobs import row_of, write
from rugged_shield.web.views import CsvLineView, CsvPreview, PastedText, SavedView, Write

blueprint = Blueprint("rows", __name__, url_prefix="/api/jobs/<job_id>/rows")

Where = Literal["mounts", "parts", "openings", "layers"]
Key = Annotated[str, StringConstraints(pattern=r"^[A-Za-z0-9_-]{0,60}$")]


@dataclass(frozen=True)
class RowsText:
    """A typed table: what its rows are, and the plate that openings and layers belong to."""

    where: Where
    text: PastedText = ""
    plate: Key = ""
    system: System = "metric"


@dataclass(frozen=True, kw_only=True)
class RowsWrite(Write):
    """A typed table to take in, every row that is understood."""

    where: Where
    text: PastedText = ""
    plate: Key = ""
    system: System = "metric"


def _read(body: RowsText | RowsWrite) -> Pasted:
    table = TABLES[body.where]
    return read_guarded(read_pasted, body.text, table.columns, dict(table.also))


@route(blueprint, "POST", "/preview", CsvPreview, RowsText)
def preview(job_id: str, body: RowsText) -> CsvPreview:
    """What a typed table would become; nothing is saved."""
    job = row_of(job_id).job
    found = _read(body)
    plate = body.plate or job.in_hand.key
    _, said = read_rows(job, body.where, plate, found.rows, body.system)
    lines = tuple(
        CsvLineView(found.first + i, row.words, row.trouble, "") for i, row in enumerate(said)
    )
    good = sum(1 for row in said if not row.trouble)
    return CsvPreview(lines, good, len(lines) - good, found.columns, found.separator)


@route(blueprint, "POST", "", SavedView, RowsWrite)
def take_in(job_id: str, body: RowsWrite) -> SavedView:
    """Add every row that is understood, as one change."""
    rows = _read(body).rows
    return write(
        job_id,
        body,
        lambda job: add_rows(job, body.where, body.plate or job.in_hand.key, rows, body.system),
    )
