"""The steps of a job on paper: order, place, tool, hardware, treatment, torque, a box to tick."""

from __future__ import annotations

from dataclasses import dataclass

from reportlab.lib import colors
from reportlab.lib.units import mm
from reportlab.platypus import Paragraph, Spacer, Table, TableStyle

from rugged_shield.core.amounts import show
from rugged_shield.core.tighten.plan import Plan
from rugged_shield.core.tighten.steps import Step
from rugged_shield.formats.paper import BOLD, PLAIN, SMALL, TITLE, Box, as_pdf, marked_text

CAUTION = (
    "Support the bike so that it cannot fall. The bike maker's service manual and the plate's "
    "sheet come first; where they conflict, or a structural, brake or exhaust part is changed, "
    "ask a licensed workshop."
)


@dataclass(frozen=True)
class SheetHead:
    """What stands on top of the sheet; ``owed``: substitutes whose own part is still to come.

    ``ridden``: when it was ridden though something was missing, why, and what.
    """

    title: str
    bike: str
    plate: str
    owed: tuple[str, ...] = ()
    ridden: tuple[str, ...] = ()


def _row(step: Step, done: bool) -> list[object]:
    what = f"<b>{marked_text(step.title)}</b>"
    if step.where:
        what += f"<br/>{marked_text(step.where)}"
    if step.kind == "task" and step.text:
        what += f"<br/>{marked_text(step.text)}"
    with_what = marked_text(" · ".join(p for p in (step.tool, step.hardware) if p))
    torque = ""
    if step.setting_nm is not None:
        metric, us = show(step.setting_nm, "N·m"), show(step.setting_nm, "N·m", "us")
        torque = f"<b>{marked_text(metric)}</b><br/>{marked_text(us)}"
    minds = " ".join(p for p in (step.treatment, step.caution) if p)
    return [
        Paragraph(str(step.number), BOLD),
        Paragraph(what, PLAIN),
        Paragraph(with_what, SMALL),
        Paragraph(torque, PLAIN),
        Paragraph(marked_text(minds), SMALL),
        Box(done),
    ]


def step_sheet(head: SheetHead, plan: Plan, done: frozenset[str]) -> bytes:
    """The plan as a PDF on A4: the same steps, in the same order, as garage mode."""
    headings = ("", "Step", "Tool, hardware", "Set to", "Treatment, caution", "")
    rows: list[list[object]] = [[Paragraph(h, BOLD) for h in headings]]
    rows += [_row(step, step.key in done) for step in plan.steps]
    table = Table(
        rows, colWidths=[9 * mm, 56 * mm, 42 * mm, 22 * mm, 44 * mm, 9 * mm], repeatRows=1
    )
    table.setStyle(
        TableStyle(
            [
                ("LINEBELOW", (0, 0), (-1, 0), 1.2, colors.black),
                ("LINEBELOW", (0, 1), (-1, -1), 0.4, colors.grey),
                ("VALIGN", (0, 0), (-1, -1), "TOP"),
            ]
        )
    )
    return as_pdf(
        [
            Paragraph(marked_text(head.title), TITLE),
            Paragraph(
                marked_text(f"{head.bike} · {head.plate} · about {plan.minutes:.0f} min"), PLAIN
            ),
            *(Paragraph(marked_text(f"Owed: {words}"), BOLD) for words in head.owed),
            *(
                Paragraph(marked_text(f"Ridden all the same: {words}"), BOLD)
                for words in head.ridden
            ),
            Spacer(1, 3 * mm),
            Paragraph(marked_text(CAUTION), SMALL),
            Spacer(1, 3 * mm),
            table,
        ],
        head.title,
    )
