"""A drawing of the core on paper: line weights and fills in ink, to the scale that fits."""

from __future__ import annotations

from reportlab.lib import colors
from reportlab.platypus import Flowable

from rugged_shield.core.amounts import in_system
from rugged_shield.core.mechanics.drawing import Drawing
from rugged_shield.formats.paper import BOLD_FACE, plain_text

_WIDTH = {
    "outline": 1.0,
    "section": 1.4,
    "thin": 0.5,
    "hidden": 0.6,
    "centre": 0.4,
    "fold": 0.5,
    "ground": 1.2,
    "dimension": 0.4,
}
_DASH: dict[str, tuple[float, ...]] = {"hidden": (3, 2), "centre": (6, 2, 1, 2), "fold": (2, 2)}
_GREY = {
    "band 1": 0.32,
    "band 2": 0.48,
    "band 3": 0.62,
    "band 4": 0.75,
    "band 5": 0.86,
    "band 6": 0.95,
    "part": 0.9,
    "part bare": 0.6,
    "plate": 0.93,
    "wheel": 0.85,
    "screw": 0.2,
    "hole": 1.0,
    "paper": 1.0,
}


class DrawingBox(Flowable):
    """A drawing as large as fits into a width and height, points; what leaves it is cut off.

    ``without``: kinds of marks that are not written; ``size``: of the others' letters, points.
    """

    def __init__(
        self,
        drawing: Drawing,
        width: float,
        height: float,
        without: tuple[str, ...] = ("word",),
        size: float = 6.0,
    ) -> None:
        super().__init__()
        self.drawing, self.without, self.size = drawing, without, size
        self.scale = min(width / drawing.width, height / drawing.height)
        self.width, self.height = width, height
        self.hAlign = "CENTER"

    def _at(self, x: float, y: float) -> tuple[float, float]:
        d = self.drawing
        left = (self.width - d.width * self.scale) / 2
        return left + (x - d.x) * self.scale, self.height - (y - d.y) * self.scale

    def _style(self, weight: str, fill: str) -> tuple[int, int]:
        self.canv.setLineWidth(_WIDTH.get(weight, 0.5))
        self.canv.setDash(list(_DASH.get(weight, ())))
        grey = _GREY.get(fill)
        if grey is not None:
            self.canv.setFillColor(colors.Color(grey, grey, grey))
        return int(weight != "none"), int(grey is not None)

    def draw(self) -> None:
        """Paths, circles, marks, in their order."""
        self.canv.saveState()
        frame = self.canv.beginPath()
        frame.rect(0, 0, self.width, self.height)
        self.canv.clipPath(frame, stroke=0, fill=0)
        for shape in self.drawing.paths:
            stroke, fill = self._style(shape.weight, shape.fill)
            path = self.canv.beginPath()
            path.moveTo(*self._at(*shape.points[0]))
            for point in shape.points[1:]:
                path.lineTo(*self._at(*point))
            if shape.closed:
                path.close()
            self.canv.drawPath(path, stroke=stroke, fill=fill if shape.closed else 0)
        for circle in self.drawing.circles:
            stroke, fill = self._style(circle.weight, circle.fill)
            x, y = self._at(circle.cx, circle.cy)
            self.canv.circle(x, y, circle.r * self.scale, stroke=stroke, fill=fill)
        size = self.size
        self.canv.setFont(BOLD_FACE, size)
        for mark in self.drawing.marks:
            if mark.kind not in self.without:
                text = plain_text(in_system(mark.text))
                x, y = self._at(mark.x, mark.y)
                half = self.canv.stringWidth(text, BOLD_FACE, size) / 2 + 1
                self.canv.setFillColor(colors.white)
                self.canv.rect(x - half, y - 0.55 * size, 2 * half, 1.1 * size, stroke=0, fill=1)
                self.canv.setFillColor(colors.black)
                self.canv.drawCentredString(x, y - 0.35 * size, text)
        self.canv.restoreState()
