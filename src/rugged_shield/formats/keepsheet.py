"""What is handed over with a fitted plate, as a PDF; and the trail roll at pocket size."""

from __future__ import annotations

from dataclasses import dataclass

from reportlab.lib import colors
from reportlab.lib.pagesizes import A6
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, Paragraph, Spacer, Table, TableStyle

from rugged_shield.core.amounts import amount
from rugged_shield.core.figures import NO_VALUE
from rugged_shield.formats.paper import BOLD, PLAIN, SMALL, TITLE, as_pdf, marked_text
from rugged_shield.formats.stepsheet import CAUTION


@dataclass(frozen=True, kw_only=True)
class JointRow:
    """One joint as it was fitted and as it was found last, in words."""

    number: int
    name: str
    hardware: str
    treatment: str
    target_nm: float
    recorded_nm: float | None
    found: str


@dataclass(frozen=True, kw_only=True)
class HandOver:
    """All that the sheet says: whose bike, which plate, its joints, what was changed, owed, due."""

    title: str
    customer: str
    bike: str
    plate: str
    fitted: str
    joints: tuple[JointRow, ...]
    deviations: tuple[str, ...]
    debts: tuple[str, ...]
    doubts: tuple[str, ...]
    passed: tuple[str, ...]
    overrides: tuple[str, ...]
    due: tuple[str, ...]
    history: tuple[str, ...]


def _table(rows: list[list[str]], widths: list[float]) -> Table:
    head, *body = rows
    cells = [[Paragraph(marked_text(h), BOLD) for h in head]]
    cells += [[Paragraph(marked_text(c), PLAIN) for c in row] for row in body]
    table = Table(cells, colWidths=[w * mm for w in widths], repeatRows=1)
    table.setStyle(
        TableStyle(
            [
                ("LINEBELOW", (0, 0), (-1, 0), 1.2, colors.black),
                ("LINEBELOW", (0, 1), (-1, -1), 0.4, colors.grey),
                ("VALIGN", (0, 0), (-1, -1), "TOP"),
                ("LEFTPADDING", (0, 0), (-1, -1), 2),
                ("RIGHTPADDING", (0, 0), (-1, -1), 2),
            ]
        )
    )
    return table


MOST_LINES = 300
"""Of what happened, a sheet that somebody reads tells the newest: ten pages of it at most."""


def _newest(lines: tuple[str, ...]) -> tuple[str, ...]:
    """The newest lines, and before them how many more there are and where."""
    earlier = len(lines) - MOST_LINES
    if earlier <= 0:
        return lines
    return (f"{earlier} earlier lines are in the job file", *lines[earlier:])


def _list(title: str, lines: tuple[str, ...], none: str) -> list[Flowable]:
    said = lines or (none,)
    return [
        Spacer(1, 3 * mm),
        Paragraph(marked_text(title), BOLD),
        *(Paragraph(marked_text(f"· {line}"), PLAIN) for line in said),
    ]


def hand_over_sheet(said: HandOver) -> bytes:
    """The sheet for whoever gets the bike: torque reached by joint, deviations, debts, next due."""
    rows = [["", "Joint", "Hardware", "Thread", "Wanted", "Reached", "Found since"]]
    rows += [
        [
            str(j.number),
            j.name,
            j.hardware,
            j.treatment,
            amount(j.target_nm, "N·m"),
            NO_VALUE if j.recorded_nm is None else amount(j.recorded_nm, "N·m"),
            j.found,
        ]
        for j in said.joints
    ]
    story: list[Flowable] = [
        Paragraph(marked_text(said.title), TITLE),
        Paragraph(
            marked_text(" · ".join(w for w in (said.customer, said.bike, said.plate) if w)), PLAIN
        ),
        Paragraph(marked_text(said.fitted), PLAIN),
        Spacer(1, 3 * mm),
        _table(rows, [8, 34, 40, 30, 24, 24, 22]),
        *_list("Changed against its maker's sheet", said.deviations, "nothing"),
        *_list("What speaks against riding, or is to be minded", said.doubts, "nothing"),
        *_list("Passed for a reason", _newest(said.passed), "nothing"),
        *_list("Owed", said.debts, "nothing"),
        *_list("Ridden though something was missing", _newest(said.overrides), "never"),
        *_list("What is due next", said.due, "not known: the plate is not fitted yet"),
        *_list("What happened since", _newest(said.history), "nothing told yet"),
        Spacer(1, 4 * mm),
        Paragraph(marked_text(CAUTION), SMALL),
    ]
    return as_pdf(story, said.title)


@dataclass(frozen=True, kw_only=True)
class RollRow:
    """One line of the trail roll: how many, what, for which joints."""

    count: str
    what: str
    joints: str


def pocket_sheet(bike: str, plate: str, rows: tuple[RollRow, ...], tools: tuple[str, ...]) -> bytes:
    """What to carry, at pocket size (A6): spares by joint, tools of the roll."""
    table = [["", "Carry", "for joint"], *([r.count, r.what, r.joints] for r in rows)]
    story: list[Flowable] = [
        Paragraph(marked_text("Trail roll"), TITLE),
        Paragraph(marked_text(f"{bike} · {plate}"), SMALL),
        Spacer(1, 2 * mm),
        _table(table, [10, 58, 20]),
        *_list("Tools", tools, "none: nothing is screwed on"),
    ]
    return as_pdf(story, f"Trail roll, {bike}", A6, 7.0, 7.0)
