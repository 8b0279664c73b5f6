"""What a person pastes from a sheet or a spreadsheet: rows of cells, and headings with units."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Mapping
from dataclasses import dataclass

from rugged_shield.core.errors import InputError
from rugged_shield.core.kit.read_list import MAX_LETTERS, MAX_ROWS

SEPARATORS = {";": "semicolon", "\t": "tab", "|": "bar", ",": "comma"}


def _separator(text: str) -> str:
    """The separator that most rows split by into the same number of cells, above one."""
    rows = [r for r in text.splitlines() if r.strip()][:30]
    best, score = ",", 0
    for separator in SEPARATORS:
        cells = [len(next(csv.reader([row], delimiter=separator))) for row in rows]
        common = max(set(cells), key=cells.count)
        agree = cells.count(common) if common > 1 else 0
        if agree > score:
            best, score = separator, agree
    return best


def bare_heading(heading: str) -> tuple[str, str]:
    """A heading without its unit, and the unit: ``Length (mm)`` is length in mm."""
    text = heading.strip().casefold()
    unit = re.search(r"[\[(_ ](mm|in|inch)[\])]?\s*$", text)
    if unit:
        text = text[: unit.start()]
    return re.sub(r"[_\s]+", " ", text).strip(" .:"), (
        "mm" if unit[1] == "mm" else "in"
    ) if unit else ""


def split_rows(text: str) -> tuple[str, list[list[str]]]:
    """The separator of a pasted text and its rows of cells, empty ones left out.

    Raises InputError for no text, a text too long, or one that is no list.
    """
    if len(text) > MAX_LETTERS or "\x00" in text:
        raise InputError("text", f"{len(text)} characters", f"text of at most {MAX_LETTERS}")
    if not text.strip():
        raise InputError("text", "", "a list with a line for each part", "nothing was pasted")
    try:
        separator = _separator(text)
        rows = [
            r for r in csv.reader(io.StringIO(text), delimiter=separator) if any(map(str.strip, r))
        ]
    except csv.Error as error:
        raise InputError("text", str(error), "lines of cells", "not read as a list") from error
    if not rows:
        raise InputError("text", "", "a list with a line for each part", "every line is empty")
    if len(rows) > MAX_ROWS + 1:
        raise InputError("text", f"{len(rows)} lines", f"at most {MAX_ROWS} lines")
    return separator, rows


@dataclass(frozen=True)
class Pasted:
    """A table as understood: separator, our field by heading, and each row's cells by field."""

    separator: str
    columns: dict[str, str]
    rows: tuple[dict[str, str], ...]
    first: int
    """The line of the text that the first row stands on."""


def read_pasted(text: str, order: tuple[str, ...], also: Mapping[str, tuple[str, ...]]) -> Pasted:
    """A pasted table by its headings, or in ``order`` where it has none.

    A heading's unit goes to every bare number below it. Raises InputError for no table at all.
    """
    separator, rows = split_rows(text.lstrip("\ufeff"))
    known = {word: field for field, words in also.items() for word in words}
    known |= {field.removesuffix("_mm").replace("_", " "): field for field in order}
    found: dict[int, tuple[str, str]] = {}
    for i, cell in enumerate(rows[0]):
        bare, unit = bare_heading(cell)
        field = known.get(bare)
        if field and field not in {f for f, _ in found.values()}:
            found[i] = (field, unit)
    headed = len(found) >= 2
    if not headed:
        found = {i: (field, "") for i, field in enumerate(order[: len(rows[0])])}
    columns = {
        rows[0][i] if headed else f"column {i + 1}": field for i, (field, _) in found.items()
    }
    body = rows[1:] if headed else rows
    out = tuple(
        {field: _with_unit(cells[i], unit) for i, (field, unit) in found.items() if i < len(cells)}
        for cells in body
    )
    return Pasted(SEPARATORS[separator], columns, out, 2 if headed else 1)


def _with_unit(cell: str, unit: str) -> str:
    cell = cell.strip()
    return f"{cell} {unit}" if unit and re.fullmatch(r"[-+−]?[\d.,/ ]+", cell) else cell
