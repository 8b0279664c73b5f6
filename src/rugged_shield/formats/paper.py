"""What all printed sheets share: faces, and text that the built-in faces can set."""

from __future__ import annotations

from xml.sax.saxutils import escape

from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.platypus import Flowable

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


class Box(Flowable):
    """A box to tick, crossed when the step is done."""

    def __init__(self, done: bool) -> None:
        super().__init__()
        self.width = self.height = 5 * mm
        self.done = done

    def draw(self) -> None:
        """Square, and a cross in it."""
        self.canv.rect(0, 0, self.width, self.height)
        if self.done:
            self.canv.line(0, 0, self.width, self.height)
            self.canv.line(0, self.height, self.width, 0)
