"""What all printed sheets share: faces, and text that the built-in faces can set."""

from __future__ import annotations

from xml.sax.saxutils import escape

from reportlab.lib.styles import ParagraphStyle

from rugged_shield.core.amounts import in_both

PLAIN = ParagraphStyle("plain", fontName="Helvetica", fontSize=8.5, leading=10.5)
SMALL = ParagraphStyle("small", parent=PLAIN, fontSize=7.5, leading=9)
BOLD = ParagraphStyle("bold", parent=PLAIN, fontName="Helvetica-Bold")
TITLE = ParagraphStyle("title", parent=BOLD, fontSize=15, leading=19)


def latin_plain(text: str) -> str:
    """Text for the built-in PDF faces, drawn as it is: what they lack is written out."""
    text = in_both(text)
    for mark, words in (
        ("×", "x"),
        ("−", "-"),
        ("≤", "<="),
        ("→", "to"),
        ("“", '"'),
        ("”", '"'),
    ):
        text = text.replace(mark, words)
    return text.encode("latin-1", "replace").decode("latin-1")


def latin(text: str) -> str:
    """The same for paragraphs, its marks escaped."""
    return escape(latin_plain(text))
