"""The kit as CSV: what is listed, counted and needed by joints; and what is to buy."""

from __future__ import annotations

import csv
import io
import re

from rugged_shield.core.amounts import in_both
from rugged_shield.core.assess.kit.buying import ToBuy
from rugged_shield.core.kit.hardware import KitLine, LineState

HEADER = (
    "kind",
    "name",
    "thread",
    "length_mm",
    "head",
    "grade",
    "count_on_sheet",
    "already_fitted",
    "counted",
    "missing",
    "extra",
    "needed_by_joints",
    "bag",
    "part_number",
    "came",
    "outer_mm",
    "hole_mm",
    "drive",
    "fitted_to",
    "treatment",
    "when",
)
_RISKY = re.compile(
    r"[\s\u00ad\u034f\u061c\u200b-\u200f\u2028-\u202e\u2060-\u206f\ufe00-\ufe0f\ufeff'\"]*"
    r"[=+\-@\uff1d\uff0b\uff0d\uff20\ufe62\ufe63\ufe66\ufe6b]"
    r"|[\t\r\n]"
)


def safe_cell(text: str) -> str:
    """Text that a spreadsheet will not take for a formula.

    Signs of full width and small ones count, also after blanks, marks that nobody sees and
    quotes: some readers drop these first.
    """
    return f"'{text}" if _RISKY.match(text) else text


def plain_cell(text: str) -> str:
    """The text of a cell that was made safe for spreadsheets."""
    return text[1:] if text.startswith("'") and _RISKY.match(text[1:]) else text


def kit_csv(lines: tuple[KitLine, ...], states: dict[str, LineState]) -> str:
    """The list as CSV (RFC 4180, UTF-8, header row)."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(HEADER)
    for line in lines:
        state = states[line.key]
        writer.writerow(
            [
                line.kind,
                safe_cell(line.name),
                line.thread,
                _mm(line.length_mm),
                line.head,
                line.grade,
                line.count,
                line.already_fitted,
                "" if state.counted is None else state.counted,
                state.missing,
                state.extra,
                " ".join(map(str, state.needed_by)),
                safe_cell(line.bag),
                safe_cell(line.part_number),
                line.came,
                _mm(line.outer_mm),
                _mm(line.hole_mm),
                safe_cell(line.drive),
                safe_cell(line.fitted_to),
                line.treatment,
                line.when,
            ]
        )
    return out.getvalue()


def _mm(value: float | None) -> str:
    return "" if value is None else f"{value:g}"


BUY_HEADER = ("count", "what", "kind", "or_else", "for_joints", "why")


def buy_csv(items: tuple[ToBuy, ...]) -> str:
    """The shopping list as CSV (RFC 4180, UTF-8, header row); sizes in both systems."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(BUY_HEADER)
    for item in items:
        writer.writerow(
            [
                item.count,
                safe_cell(in_both(item.what)),
                item.kind,
                " or ".join(item.or_else),
                " ".join(map(str, item.joints)),
                in_both(item.why),
            ]
        )
    return out.getvalue()
