"""The sheet that lies in a photograph: a frame of known size, its top named, a bar to check it."""

from __future__ import annotations

import io

from reportlab.lib.pagesizes import A4, LETTER
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from rugged_shield.core.survey.photo_scale import SHEETS_MM
from rugged_shield.formats.paper import BOLD_FACE, FACE, plain_text

PAGES: dict[str, tuple[float, float]] = {"a4": A4, "letter": LETTER}
BAR_MM = 100.0
LINE_MM = 1.2
SAYS = (
    "Print at 100 %, not “fit to page”. Measure the bar: it must be 100 mm.",
    "Lay it flat in the plane of the holes, its top to the front of the bike.",
    "In the picture tap the four outer corners of the thick frame.",
)


def check_sheet(paper: str) -> bytes:
    """The frame of the list of sheets in the middle of a page, outer edge to outer edge."""
    page = PAGES[paper]
    wide, high = (side * mm for side in SHEETS_MM["check sheet"])
    x, y = (page[0] - wide) / 2, (page[1] - high) / 2
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=page, invariant=1)
    canvas.setTitle("Check sheet")
    inset = LINE_MM * mm / 2
    canvas.setLineWidth(LINE_MM * mm)
    # The stroke lies inside: its outer edge is the frame's size.
    canvas.rect(x + inset, y + inset, wide - 2 * inset, high - 2 * inset)
    canvas.setFont(BOLD_FACE, 16)
    canvas.drawCentredString(page[0] / 2, y + high - 16 * mm, "TOP: to the front of the bike")
    canvas.setFont(FACE, 10)
    for i, words in enumerate(SAYS):
        canvas.drawString(x + 12 * mm, y + high - (30 + 6 * i) * mm, plain_text(words))
    canvas.setLineWidth(0.5 * mm)
    left, at = (page[0] - BAR_MM * mm) / 2, y + 20 * mm
    canvas.line(left, at, left + BAR_MM * mm, at)
    for end in (left, left + BAR_MM * mm):
        canvas.line(end, at - 3 * mm, end, at + 3 * mm)
    canvas.drawCentredString(page[0] / 2, at + 4 * mm, "100 mm")
    canvas.showPage()
    canvas.save()
    return out.getvalue()
