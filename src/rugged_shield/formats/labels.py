"""Labels for the bag in which the stock plate's hardware is kept, as a PDF to cut out."""

from __future__ import annotations

from dataclasses import dataclass

from reportlab.lib import colors
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, Paragraph, Spacer, Table, TableStyle

from rugged_shield.core.survey.found import StripItem
from rugged_shield.formats.paper import BOLD, PLAIN, SMALL, TITLE, as_pdf, marked_text

_COLUMNS = 2


@dataclass(frozen=True)
class BagHead:
    """What stands on every label: whose bike, which plate, when it came off."""

    bike: str
    plate: str
    date: str


def _label(head: BagHead, item: StripItem) -> list[object]:
    size = f"{item.count} × {item.thread}".strip(" ×") if item.thread else f"{item.count} pieces"
    lines = [
        Paragraph(marked_text(item.name), BOLD),
        Paragraph(marked_text(f"{size} · {item.kind}"), PLAIN),
    ]
    if item.where:
        lines.append(Paragraph(marked_text(item.where), PLAIN))
    if item.note:
        lines.append(Paragraph(marked_text(item.note), SMALL))
    lines.append(Paragraph(marked_text(f"{head.bike} · {head.plate} · off on {head.date}"), SMALL))
    return list(lines)


def bag_labels(head: BagHead, items: tuple[StripItem, ...]) -> bytes:
    """One label for each item that goes into the stock bag, two abreast on A4."""
    cells = [_label(head, item) for item in items if item.keeping == "into the stock bag"]
    story: list[Flowable] = [
        Paragraph(marked_text(f"Stock bag: {head.bike}"), TITLE),
        Paragraph(marked_text(f"{head.plate} · {len(cells)} labels"), PLAIN),
        Spacer(1, 3 * mm),
    ]
    if cells:
        rows = [cells[i : i + _COLUMNS] for i in range(0, len(cells), _COLUMNS)]
        rows[-1] += [[]] * (_COLUMNS - len(rows[-1]))
        table = Table(rows, colWidths=[90 * mm] * _COLUMNS)
        table.setStyle(
            TableStyle(
                [
                    ("GRID", (0, 0), (-1, -1), 0.5, colors.grey),
                    ("VALIGN", (0, 0), (-1, -1), "TOP"),
                    ("TOPPADDING", (0, 0), (-1, -1), 6),
                    ("BOTTOMPADDING", (0, 0), (-1, -1), 8),
                ]
            )
        )
        story.append(table)
    else:
        story.append(
            Paragraph(marked_text("Nothing is marked “into the stock bag” on the list yet."), PLAIN)
        )
    return as_pdf(story, f"Stock bag, {head.bike}", top_mm=12.0)
