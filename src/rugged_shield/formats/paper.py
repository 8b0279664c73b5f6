"""What all printed sheets share: faces that ship with the printer's library, text, boxes."""

from __future__ import annotations

import io
from xml.sax.saxutils import escape

from reportlab.lib.pagesizes import A4
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.platypus import Flowable, SimpleDocTemplate, Table
from reportlab.platypus.doctemplate import LayoutError

from rugged_shield.core.amounts import in_both

FACE, BOLD_FACE = "Vera", "VeraBd"
"""Faces that have ×, −, ≤, quotation marks and the letters of Europe's names."""
_PLAIN_FACE = TTFont(FACE, "Vera.ttf")
pdfmetrics.registerFont(_PLAIN_FACE)
pdfmetrics.registerFont(TTFont(BOLD_FACE, "VeraBd.ttf"))
pdfmetrics.registerFontFamily(FACE, normal=FACE, bold=BOLD_FACE, italic=FACE, boldItalic=BOLD_FACE)
_KNOWN = _PLAIN_FACE.face.charToGlyph

PLAIN = ParagraphStyle("plain", fontName=FACE, fontSize=7.5, leading=9.8)
SMALL = ParagraphStyle("small", parent=PLAIN, fontSize=6.6, leading=8.4)
BOLD = ParagraphStyle("bold", parent=PLAIN, fontName=BOLD_FACE)
TITLE = ParagraphStyle("title", parent=BOLD, fontSize=14, leading=18)


def plain_text(text: str) -> str:
    """Text for the sheets' faces, drawn as it is; a letter that they lack is shown as missing."""
    text = in_both(text).replace("→", "to")
    return "".join(c if ord(c) in _KNOWN or c in "\n\t" else "?" for c in text)


def marked_text(text: str) -> str:
    """The same for paragraphs, its marks escaped."""
    return escape(plain_text(text))


def as_pdf(
    story: list[Flowable],
    title: str,
    size: tuple[float, float] = A4,
    side_mm: float = 14.0,
    top_mm: float = 14.0,
    bottom_mm: float | None = None,
) -> bytes:
    """A story as a PDF with these margins, mm; the same story gives the same bytes.

    A row goes onto the next page whole. Where one is higher than a page, for the longest words
    in a narrow column, rows may be cut.
    """
    margins = side_mm, top_mm, top_mm if bottom_mm is None else bottom_mm
    try:
        return _built(story, title, size, margins)
    except LayoutError:
        for flowable in story:
            if isinstance(flowable, Table):
                flowable.splitInRow = 1
        return _built(story, title, size, margins)


def _built(
    story: list[Flowable], title: str, size: tuple[float, float], margins: tuple[float, ...]
) -> bytes:
    side_mm, top_mm, bottom_mm = margins
    out = io.BytesIO()
    SimpleDocTemplate(
        out,
        pagesize=size,
        leftMargin=side_mm * mm,
        rightMargin=side_mm * mm,
        topMargin=top_mm * mm,
        bottomMargin=bottom_mm * mm,
        title=title,
        author="Rugged Shield",
        invariant=1,
    ).build(list(story))
    return out.getvalue()


class Box(Flowable):
    """A box to tick, crossed when the step is done."""

    def __init__(self, done: bool, size_mm: float = 5.0) -> None:
        super().__init__()
        self.width = self.height = size_mm * mm
        self.done = done

    def draw(self) -> None:
        """Square, and a cross in it."""
        self.canv.rect(0, 0, self.width, self.height)
        if self.done:
            self.canv.line(0, 0, self.width, self.height)
            self.canv.line(0, self.height, self.width, 0)
