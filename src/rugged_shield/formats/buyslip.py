"""What is to buy, as a slip for the shop: narrow, to fold and tick."""

from __future__ import annotations

from reportlab.lib import colors
from reportlab.lib.pagesizes import A6
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, Paragraph, Spacer, Table, TableStyle

from rugged_shield.core.assess.kit.buying import ToBuy
from rugged_shield.formats.paper import BOLD, PLAIN, SMALL, Box, as_pdf, marked_text


def _row(item: ToBuy) -> list[object]:
    words = f"<b>{marked_text(item.what)}</b>"
    if item.or_else:
        words += f"<br/>or {marked_text(', '.join(item.or_else))}"
    joints = f"joint {', '.join(map(str, item.joints))} · " if item.joints else ""
    return [
        Box(False),
        Paragraph(str(item.count), BOLD),
        [Paragraph(words, PLAIN), Paragraph(marked_text(f"{joints}{item.why}"), SMALL)],
    ]


def buy_slip(title: str, items: tuple[ToBuy, ...]) -> bytes:
    """The shopping list as a PDF on A6, sizes in both systems, a box for each line."""
    story: list[Flowable] = [Paragraph(marked_text(f"To buy: {title}"), BOLD), Spacer(1, 2 * mm)]
    if items:
        table = Table([_row(i) for i in items], colWidths=[8 * mm, 8 * mm, 75 * mm])
        table.setStyle(
            TableStyle(
                [
                    ("LINEBELOW", (0, 0), (-1, -1), 0.4, colors.grey),
                    ("VALIGN", (0, 0), (-1, -1), "TOP"),
                    ("LEFTPADDING", (0, 0), (-1, -1), 1),
                ]
            )
        )
        story.append(table)
    else:
        story.append(Paragraph("Nothing is to buy.", PLAIN))
    return as_pdf(story, title, A6, 7.0, 7.0)
