"""Two cards for the bench, a page each: steps with boxes, torques with places to note."""

from __future__ import annotations

from dataclasses import dataclass

from reportlab.lib import colors
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.platypus import (
    Flowable,
    PageBreak,
    Paragraph,
    Spacer,
    Table,
    TableStyle,
)

from rugged_shield.core.amounts import amount
from rugged_shield.core.mechanics.drawing import Drawing
from rugged_shield.core.tighten.plan import Plan
from rugged_shield.core.tighten.steps import Step
from rugged_shield.formats.drawn import DrawingBox
from rugged_shield.formats.paper import BOLD, PLAIN, SMALL, TITLE, Box, as_pdf, marked_text
from rugged_shield.formats.stepsheet import CAUTION, SheetHead

_RULED = TableStyle(
    [
        ("LINEBELOW", (0, 0), (-1, -1), 0.4, colors.grey),
        ("VALIGN", (0, 0), (-1, -1), "MIDDLE"),
        ("TOPPADDING", (0, 0), (-1, -1), 1),
        ("BOTTOMPADDING", (0, 0), (-1, -1), 1.5),
        ("LEFTPADDING", (0, 0), (-1, -1), 2),
        ("RIGHTPADDING", (0, 0), (-1, -1), 2),
    ]
)
_BOX_MM = 4.0
_FEW = 36
"""So many steps leave room for larger letters."""
_LARGE = ParagraphStyle("large", parent=PLAIN, fontSize=9, leading=11.5)
_LARGE_BOLD = ParagraphStyle("large bold", parent=BOLD, fontSize=10, leading=12.5)


@dataclass(frozen=True, kw_only=True)
class TorqueRow:
    """One joint of the torque card at its turn; torques N·m; ``done`` for what the record holds."""

    turn: int
    number: int
    name: str
    hardware: str
    treatment: str
    tool: str
    target_nm: float
    setting_nm: float
    low_nm: float
    high_nm: float
    started: bool
    reading_nm: float | None


def _step_cells(step: Step, done: bool, style: ParagraphStyle) -> list[object]:
    what = f"<b>{marked_text(step.title)}</b>"
    more = [step.where, step.tool, step.treatment]
    if step.kind == "task":
        more.append(step.text)
    if step.setting_nm is not None:
        more.insert(0, f"set {amount(step.setting_nm, 'N·m')}")
    small = " · ".join(part for part in more if part)
    if small:
        what += f"<br/>{marked_text(small)}"
    return [Paragraph(str(step.number), BOLD), Paragraph(what, style), Box(done, _BOX_MM)]


def _two_columns(cells: list[list[object]]) -> Table:
    """Down the left half, then down the right one."""
    half = (len(cells) + 1) // 2
    empty: list[object] = ["", "", ""]
    right = [*cells[half:], *([empty] * (2 * half - len(cells)))]
    rows = [[*a, "", *b] for a, b in zip(cells[:half], right, strict=True)]
    widths = [7, 75, 6, 6, 7, 75, 6]
    table = Table(rows, colWidths=[w * mm for w in widths])
    table.setStyle(_RULED)
    return table


def _cautions(plan: Plan) -> list[Flowable]:
    """Each caution once, with the steps that it stands at."""
    at: dict[str, list[str]] = {}
    for step in plan.steps:
        if step.caution:
            at.setdefault(step.caution, []).append(str(step.number))
    return [
        Paragraph(f"<b>{', '.join(numbers)}:</b> {marked_text(words)}", SMALL)
        for words, numbers in at.items()
    ]


def _torque_cells(row: TorqueRow) -> list[object]:
    band = f"{amount(row.low_nm, 'N·m')} to {amount(row.high_nm, 'N·m')}"
    stack = marked_text(f"{row.hardware} · {row.treatment} · {row.tool}")
    read = "" if row.reading_nm is None else marked_text(amount(row.reading_nm, "N·m"))
    return [
        Paragraph(str(row.turn), _LARGE),
        Paragraph(f"<b>{row.number} {marked_text(row.name)}</b><br/>{stack}", PLAIN),
        Paragraph(marked_text(amount(row.target_nm, "N·m")), _LARGE_BOLD),
        Paragraph(marked_text(amount(row.setting_nm, "N·m")), _LARGE),
        Paragraph(marked_text(band), PLAIN),
        Box(row.started, _BOX_MM),
        Box(False, _BOX_MM),
        Paragraph(read, PLAIN),
        Box(False, _BOX_MM),
    ]


def _torque_table(rows: tuple[TorqueRow, ...]) -> Table:
    titles = ("", "Joint", "Target", "Set to", "Band", "start", "half", "read", "round")
    cells: list[list[object]] = [[Paragraph(t, BOLD) for t in titles]]
    cells += [_torque_cells(row) for row in rows]
    widths = [6, 58, 23, 23, 27, 11, 10, 16, 13]
    table = Table(cells, colWidths=[w * mm for w in widths], repeatRows=1)
    table.setStyle(_RULED)
    return table


def bench_cards(
    head: SheetHead,
    plan: Plan,
    done: frozenset[str],
    torques: tuple[TorqueRow, ...],
    underside: Drawing,
) -> bytes:
    """A step card and a torque card on A4; more than some sixty steps take a further page."""
    style = PLAIN if len(plan.steps) <= _FEW else SMALL
    whose = marked_text(f"{head.bike} · {head.plate}")
    story: list[Flowable] = [
        Paragraph(f"Steps: {marked_text(head.title)}", TITLE),
        Paragraph(whose, PLAIN),
        Paragraph(marked_text(CAUTION), SMALL),
        Spacer(1, 2 * mm),
        _two_columns([_step_cells(step, step.key in done, style) for step in plan.steps]),
        Spacer(1, 2 * mm),
        *_cautions(plan),
        PageBreak(),
        Paragraph(f"Torques: {marked_text(head.title)}", TITLE),
        Paragraph(f"{whose} · in the order of the final torques", PLAIN),
        Spacer(1, 2 * mm),
        DrawingBox(underside, 186 * mm, 92 * mm, ("word", "part"), 8.0),
        Spacer(1, 2 * mm),
        _torque_table(torques),
        Spacer(1, 3 * mm),
        Paragraph(marked_text(CAUTION), SMALL),
    ]
    return as_pdf(story, head.title, side_mm=12.0, top_mm=10.0)
