"""The kit list as CSV: what the sheet lists, what was counted, what joints need."""

from __future__ import annotations

import csv
import io

from rugged_shield.core.kit import KitLine, LineState, ScrewNeed

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
)
_RISKY = ("=", "+", "-", "@", "\t", "\r")


def safe_cell(text: str) -> str:
    """Text that a spreadsheet will not take for a formula."""
    return f"'{text}" if text.startswith(_RISKY) else text


def kit_csv(
    lines: tuple[KitLine, ...], states: dict[str, LineState], buy: tuple[ScrewNeed, ...]
) -> str:
    """The list as CSV (RFC 4180, UTF-8, header row); screws to buy come last."""
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
                "" if line.length_mm is None else f"{line.length_mm:g}",
                line.head,
                line.grade,
                line.count,
                line.already_fitted,
                "" if state.counted is None else state.counted,
                state.missing,
                state.extra,
                " ".join(map(str, state.needed_by)),
            ]
        )
    for need in buy:
        writer.writerow(
            [
                "screw",
                "to buy: no line of the sheet holds it",
                need.thread,
                f"{need.length_mm:g}",
                need.head,
                "",
                0,
                0,
                "",
                1,
                0,
                need.joint,
            ]
        )
    return out.getvalue()
