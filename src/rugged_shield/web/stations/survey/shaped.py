"""A plate from its shape: what there is to pick from, and what was said of one taken in."""

from __future__ import annotations

from dataclasses import dataclass, fields

from flask import Blueprint

from rugged_shield.core.amounts import System
from rugged_shield.core.job.edits.path import read_field
from rugged_shield.core.job.edits.shaped import PlateSaid, add_shaped
from rugged_shield.core.job.model import Job
from rugged_shield.core.mechanics.drawing import Drawing
from rugged_shield.core.result import Figure
from rugged_shield.core.survey.plate import Plate
from rugged_shield.core.survey.plate_shapes import (
    SHAPES,
    SHEETS,
    OverallSizes,
    Shape,
    shape_drawing,
    usual_sizes,
)
from rugged_shield.web.api import route
from rugged_shield.web.jobs import row_of, spent, write
from rugged_shield.web.views import SavedView, SizeAsk, Text, Write, size_figure

blueprint = Blueprint("shaped", __name__, url_prefix="/api/jobs/<job_id>/shapes")
_SIZES = {
    "length": "length over all, front to rear",
    "width": "width over all",
    "height": "height over all, with what rises",
}
_OF_PLATE = {"thickness": "thickness_mm", "mass": "claimed_mass_kg", "price": "price"}


@dataclass(frozen=True)
class ShapeView:
    """A shape in words, drawn as it would be on this bike, with the sizes to ask for."""

    key: str
    words: str
    picture: Drawing
    sizes: tuple[SizeAsk, ...]


@dataclass(frozen=True)
class SheetView:
    """A sheet by a rider's word, and how thick it usually is."""

    key: str
    words: str
    thickness: Figure


@dataclass(frozen=True, kw_only=True)
class ShapesView:
    """Shapes and sheets to pick from; plates that are entered already; the bike's name."""

    title: str
    bike: str
    currency: str
    shapes: tuple[ShapeView, ...]
    sheets: tuple[SheetView, ...]
    plates: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class ShapedWrite(Write):
    """What was said of a plate, as it was typed; empty: not known."""

    shape: Text
    sheet: Text = ""
    name: Text = ""
    thickness: Text = ""
    length: Text = ""
    width: Text = ""
    height: Text = ""
    mass: Text = ""
    price: Text = ""
    system: System = "metric"


def _shape(job: Job, shape: Shape) -> ShapeView:
    usual = usual_sizes(shape, job.bike, job.stock.plate)
    asked = ((key, getattr(usual, f"{key}_mm")) for key in _SIZES)
    sizes = tuple(SizeAsk(k, _SIZES[k], size_figure(k, mm)) for k, mm in asked if mm is not None)
    drawn = shape_drawing(shape, job.bike, job.stock.plate)
    return ShapeView(shape, SHAPES[shape], drawn, sizes)


@route(blueprint, "GET", "", ShapesView)
def shapes(job_id: str) -> ShapesView:
    """Every shape as it would be on this bike, and every sheet by a rider's word."""
    job = row_of(job_id).job
    return ShapesView(
        title=job.title,
        bike=job.bike.name,
        currency=job.currency,
        shapes=tuple(_shape(job, shape) for shape in SHAPES),
        sheets=tuple(
            SheetView(key, start.words, size_figure("thickness", start.thickness_mm))
            for key, start in SHEETS.items()
        ),
        plates=tuple(c.plate.name for c in job.candidates),
    )


def _said(body: ShapedWrite) -> PlateSaid:
    """What was typed, read against the ranges of the fields it goes into."""
    shape: Shape = read_field(PlateSaid, "shape", body.shape, "shape", "metric")
    numbers: dict[str, float | None] = {}
    for name, field in _OF_PLATE.items():
        if text := getattr(body, name).strip():
            numbers[field] = read_field(Plate, field, text, name, body.system)
    for size in fields(OverallSizes):
        name = size.name.removesuffix("_mm")
        if text := getattr(body, name).strip():
            numbers[size.name] = read_field(OverallSizes, size.name, text, name, body.system)
    name = read_field(Plate, "name", body.name, "name", "metric") if body.name.strip() else ""
    return PlateSaid(shape=shape, sheet=body.sheet, name=name, **numbers)


@route(blueprint, "POST", "", SavedView, ShapedWrite)
def add_a_shaped(job_id: str, body: ShapedWrite) -> SavedView:
    """A plate as somebody told it, on the mounts that it reaches."""
    said = _said(body)
    names = spent(job_id)
    return write(job_id, body, lambda job: add_shaped(job, said, names))
