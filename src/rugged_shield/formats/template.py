"""A plate at 1:1 as a PDF on tiles that overlap, each with its marks and a 100 mm bar."""

from __future__ import annotations

import io
import math
from dataclasses import dataclass

from reportlab.lib.pagesizes import A4, LETTER
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from rugged_shield.core.assess.fitup.template import Template
from rugged_shield.core.errors import InputError
from rugged_shield.core.mechanics.frames import Vec2
from rugged_shield.formats.paper import BOLD_FACE, FACE, plain_text

PAPERS: dict[str, tuple[float, float]] = {"a4": A4, "letter": LETTER}
MARGIN_MM = 12.0
HEAD_MM = 16.0
OVERLAP_MM = 10.0
BAR_MM = 100.0
MAX_TILES = 60


@dataclass(frozen=True, kw_only=True)
class _Tiles:
    """Where the tiles lie: the pattern's corner, the step and the size of one, how many."""

    x0: float
    y0: float
    step_x: float
    step_y: float
    wide: float
    high: float
    columns: int
    rows: int


def _extent(template: Template) -> tuple[float, float, float, float]:
    points = [p for ring in template.pattern.cuts_mm() for p in ring]
    xs, ys = [p[0] for p in points], [p[1] for p in points]
    return min(xs), min(ys), max(xs), max(ys)


def _tiles(template: Template, page: tuple[float, float]) -> _Tiles:
    wide = page[0] / mm - 2 * MARGIN_MM
    high = page[1] / mm - 2 * MARGIN_MM - HEAD_MM
    x0, y0, x1, y1 = _extent(template)
    step_x, step_y = wide - OVERLAP_MM, high - OVERLAP_MM
    columns = max(1, math.ceil((x1 - x0 - OVERLAP_MM) / step_x))
    rows = max(1, math.ceil((y1 - y0 - OVERLAP_MM) / step_y))
    if columns * rows > MAX_TILES:
        raise InputError("plate", columns * rows, f"a plate on at most {MAX_TILES} tiles")
    return _Tiles(
        x0=x0,
        y0=y0,
        step_x=step_x,
        step_y=step_y,
        wide=wide,
        high=high,
        columns=columns,
        rows=rows,
    )


def _ring(canvas: Canvas, ring: tuple[Vec2, ...]) -> None:
    path = canvas.beginPath()
    path.moveTo(ring[0][0] * mm, ring[0][1] * mm)
    for x, y in ring[1:]:
        path.lineTo(x * mm, y * mm)
    path.close()
    canvas.drawPath(path)


def _pattern(canvas: Canvas, template: Template) -> None:
    """Cuts, folds and screws in the pattern's own millimetres."""
    canvas.setLineWidth(0.25 * mm)
    for ring in template.pattern.cuts_mm():
        _ring(canvas, ring)
    canvas.setDash([4 * mm, 2 * mm])
    for fold in template.pattern.folds:
        (ax, ay), (bx, by) = fold.start_mm, fold.end_mm
        canvas.line(ax * mm, ay * mm, bx * mm, by * mm)
    canvas.setDash([])
    canvas.setLineWidth(0.12 * mm)
    for screw in template.screws:
        x, y = screw.at_mm
        canvas.circle(x * mm, y * mm, screw.hole_mm / 2 * mm)
        for (ax, ay), (bx, by) in screw.cross_mm:
            canvas.line(ax * mm, ay * mm, bx * mm, by * mm)


def _numbers(canvas: Canvas, template: Template, tiles: _Tiles, left: float, top: float) -> None:
    """Numbers of screws and angles of folds, upright on the page."""
    canvas.setFont(BOLD_FACE, 8)
    said = [(s.at_mm, str(s.number)) for s in template.screws]
    said += [
        (
            ((f.start_mm[0] + f.end_mm[0]) / 2, (f.start_mm[1] + f.end_mm[1]) / 2),
            f"bend {f.angle_deg:.0f}°",
        )
        for f in template.pattern.folds
    ]
    for (x, y), words in said:
        at_x, at_y = x - left + 3.0, top - y + 3.0
        if 0 <= at_x <= tiles.wide - 4 and 0 <= at_y <= tiles.high - 4:
            canvas.drawString(at_x * mm, at_y * mm, plain_text(words))


def _head(canvas: Canvas, template: Template, tile: str, page: tuple[float, float]) -> None:
    top = page[1] - MARGIN_MM * mm
    canvas.setFont(BOLD_FACE, 9)
    canvas.drawString(MARGIN_MM * mm, top - 3 * mm, plain_text(f"{template.title}: tile {tile}"))
    canvas.setFont(FACE, 6.5)
    for i, line in enumerate(template.lines):
        canvas.drawString(MARGIN_MM * mm, top - (6 + 2.8 * i) * mm, plain_text(line))


def _bar(canvas: Canvas, page: tuple[float, float]) -> None:
    """The bar to measure before anything is cut."""
    x, y = MARGIN_MM * mm, 6 * mm
    canvas.setLineWidth(0.3 * mm)
    canvas.line(x, y, x + BAR_MM * mm, y)
    for i in range(11):
        tall = 2.5 if i % 5 == 0 else 1.5
        canvas.line(x + i * 10 * mm, y, x + i * 10 * mm, y + tall * mm)
    canvas.setFont(FACE, 7)
    canvas.drawString(x + (BAR_MM + 3) * mm, y, "100 mm: measure it before you cut")
    del page


def _marks(canvas: Canvas, tiles: _Tiles) -> None:
    """Lines at which the neighbour's edge lies, in the frame of the tile."""
    canvas.setLineWidth(0.1 * mm)
    canvas.rect(0, 0, tiles.wide * mm, tiles.high * mm)
    canvas.setDash([1 * mm, 1 * mm])
    for x in (OVERLAP_MM, tiles.wide - OVERLAP_MM):
        canvas.line(x * mm, 0, x * mm, tiles.high * mm)
    for y in (OVERLAP_MM, tiles.high - OVERLAP_MM):
        canvas.line(0, y * mm, tiles.wide * mm, y * mm)
    canvas.setDash([])


def template_pdf(template: Template, paper: str) -> bytes:
    """Tiles from left to right and top to bottom (A1, B1, … then A2), at 1:1, 10 mm overlapping.

    Raises InputError for another paper, or a plate on more than 60 tiles.
    """
    if paper not in PAPERS:
        raise InputError("paper", paper, "one of " + ", ".join(PAPERS))
    page = PAPERS[paper]
    tiles = _tiles(template, page)
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=page, invariant=1)
    canvas.setTitle(plain_text(f"{template.title}, template 1:1"))
    canvas.setAuthor("Rugged Shield")
    for row in range(tiles.rows):
        for column in range(tiles.columns):
            left = tiles.x0 + column * tiles.step_x
            top = tiles.y0 + row * tiles.step_y
            _head(canvas, template, f"{chr(65 + column)}{row + 1}", page)
            _bar(canvas, page)
            canvas.saveState()
            canvas.translate(MARGIN_MM * mm, MARGIN_MM * mm)
            _marks(canvas, tiles)
            clip = canvas.beginPath()
            clip.rect(0, 0, tiles.wide * mm, tiles.high * mm)
            canvas.clipPath(clip, stroke=0)
            _numbers(canvas, template, tiles, left, top + tiles.high)
            canvas.transform(1, 0, 0, -1, -left * mm, (tiles.high + top) * mm)
            _pattern(canvas, template)
            canvas.restoreState()
            canvas.showPage()
    canvas.save()
    return out.getvalue()
