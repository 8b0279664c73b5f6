"""A new job from nothing but the bike: a starting layout, or a bike of the shelf."""

from __future__ import annotations

import hashlib
import secrets
from dataclasses import dataclass, replace
from typing import Annotated, Any

from flask import Blueprint
from pydantic import StringConstraints

from rugged_shield.core.amounts import System
from rugged_shield.core.errors import InputError, choose
from rugged_shield.core.figures import figure
from rugged_shield.core.job.edits.from_list import propose_joints
from rugged_shield.core.job.edits.kit import add_lines
from rugged_shield.core.job.edits.path import read_field
from rugged_shield.core.job.edits.plates import plate_to_fit
from rugged_shield.core.job.model import Candidate, Job, Use
from rugged_shield.core.judgement.known import Fact
from rugged_shield.core.mechanics.drawing import Drawing
from rugged_shield.core.result import Figure
from rugged_shield.core.survey.bike import Bike
from rugged_shield.core.survey.first_sketches import FirstSize, first_sketch
from rugged_shield.core.survey.geometry import fold
from rugged_shield.core.survey.layouts import (
    LAYOUTS,
    TYPICAL_MM,
    LayoutRequest,
    bike_from_layout,
    stock_plate,
    typical_bike,
)
from rugged_shield.core.survey.plate import Plate
from rugged_shield.core.survey.small_drawings import small_underside
from rugged_shield.core.tables.materials import SHEET_MATERIALS
from rugged_shield.core.tables.profiles import PROFILES
from rugged_shield.core.tighten.torque import WrenchTool
from rugged_shield.demo.jobs import EXAMPLE, demo_job
from rugged_shield.formats.guarded import read_guarded
from rugged_shield.formats.hardwarecsv import read_hardware
from rugged_shield.store.repository import NotFoundError, add_job
from rugged_shield.store.shelf import shelf_item
from rugged_shield.web.api import route
from rugged_shield.web.jobs import Brought, database, row_of
from rugged_shield.web.lists import list_preview
from rugged_shield.web.views import CsvPreview, CsvText, PastedText, SizeAsk, Text, size_figure

blueprint = Blueprint("new_job", __name__, url_prefix="/api")


@dataclass(frozen=True)
class LayoutView:
    """A starting layout in words, drawn from its own geometry, with sizes usual for it."""

    key: str
    words: str
    picture: Drawing
    sizes: tuple[SizeAsk, ...]


@dataclass(frozen=True)
class RidingView:
    """A way of riding, in words, and what a hard strike of it carries."""

    key: str
    words: str
    energy: Figure


@dataclass(frozen=True)
class LayoutsView:
    """Starting layouts by key, in words and pictures; ways of riding; sheet materials."""

    layouts: dict[str, str]
    pictures: tuple[LayoutView, ...]
    riding: tuple[RidingView, ...]
    materials: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class NewJob:
    """A bike by its layout, as a person types it: the start of a job.

    ``assume``: a name or size that is left empty is not known, and taken as usual for the layout.
    """

    title: Text = ""
    layout: Text = "single"
    name: Text = ""
    wheelbase: Text = ""
    clearance: Text = ""
    front_tyre: Text = "90/90-21"
    rear_tyre: Text = "150/70 R18"
    year: Text = "2024"
    variant: Text = ""
    market: Text = ""
    has_bars: bool = False
    has_centre_stand: bool = False
    has_side_stand: bool = True
    engine_is_frame: bool = False
    riding: Text = ""
    assume: bool = False
    system: System = "metric"
    shelf_bike: Text = ""
    key: Annotated[str, StringConstraints(pattern=r"^[A-Za-z0-9_:-]{0,80}$")] = ""


UNNAMED = "my bike"
"""What a bike is called that was given no name."""
FIRST_WRENCH = WrenchTool("click wrench, 10 to 60 N·m", 60.0, 300.0)
"""What most garages own; Tighten has the fields to say otherwise."""


def _first(title: str, bike: Bike) -> Job:
    """A job of nothing but a bike with its stock guard."""
    return Job(
        title=title[:120],
        bike=bike,
        stock=Candidate(plate=stock_plate(bike), joints=()),
        candidates=(),
        wrench=FIRST_WRENCH,
    )


def _name(key: str) -> str:
    return hashlib.sha256((key or secrets.token_hex(8)).encode()).hexdigest()[:8]


@route(blueprint, "GET", "/layouts", LayoutsView)
def layouts() -> LayoutsView:
    """The starting layouts in words."""
    riding = tuple(
        RidingView(key, of.words, figure("energy", "a hard strike", of.energy_j, "J"))
        for key, of in PROFILES.items()
    )
    pictures = tuple(_layout_view(layout) for layout in LAYOUTS)
    return LayoutsView(LAYOUTS, pictures, riding, tuple(SHEET_MATERIALS))


def _layout_view(layout: str) -> LayoutView:
    bike = typical_bike(layout, LAYOUTS[layout])
    asked: tuple[tuple[FirstSize, str], ...] = (
        ("wheelbase", "wheelbase, axle to axle"),
        ("clearance", "ground clearance, stock"),
    )
    sizes = tuple(
        SizeAsk(name, label, size_figure(name, usual), first_sketch(bike, name, usual))
        for (name, label), usual in zip(asked, TYPICAL_MM[layout], strict=True)
    )
    picture = small_underside(bike, fold(stock_plate(bike)))
    return LayoutView(layout, LAYOUTS[layout], picture, sizes)


def _typed_bike(body: NewJob) -> Bike:
    choose("layout", body.layout, LAYOUTS, "starting layout")
    wheelbase, clearance = TYPICAL_MM[body.layout]
    asked = (
        ("wheelbase_mm", body.wheelbase, wheelbase),
        ("clearance_mm", body.clearance, clearance),
    )
    numbers = {}
    for name, text, usual in asked:
        if not text.strip() and not body.assume:
            raise InputError(name, "", "a length in mm or in", f"{name[:-3]} was not entered")
        known = bool(text.strip())
        numbers[name] = read_field(LayoutRequest, name, text, name, body.system) if known else usual
    year = read_field(LayoutRequest, "year", body.year, "year", "metric")
    bike = bike_from_layout(
        LayoutRequest(
            layout=body.layout,
            name=body.name if body.name.strip() or not body.assume else UNNAMED,
            **numbers,
            front_tyre=body.front_tyre,
            rear_tyre=body.rear_tyre,
            year=year,
            variant=body.variant,
            market=body.market,
            has_bars=body.has_bars,
            has_centre_stand=body.has_centre_stand,
            has_side_stand=body.has_side_stand,
            engine_is_frame=body.engine_is_frame,
        )
    )
    if not body.assume:
        return bike
    said = (Fact("wheelbase_mm", "measured"),) if body.wheelbase.strip() else ()
    return replace(bike, known="assumed", facts=said)


@route(blueprint, "POST", "/new-job", Brought, NewJob)
def new_job(body: NewJob) -> Brought:
    """A job with a whole bike, every typical value assumed, and a stock guard to replace."""
    own = f"job-{_name(body.key)}"
    try:
        return Brought(own, row_of(own).job.title)  # asked again after a cut: answered, not doubled
    except NotFoundError:
        pass
    if body.shelf_bike:
        kept = shelf_item(database(), body.shelf_bike).bike
        if kept is None:
            raise InputError("shelf_bike", body.shelf_bike, "a bike of the shelf")
        bike = kept
    else:
        bike = _typed_bike(body)
    title = " ".join(body.title.split()) or f"Bash plate for {bike.name}"
    job = _first(title, bike)
    if body.riding:
        use = replace(job.use, profile=read_field(Use, "profile", body.riding, "riding", "metric"))
        job = replace(job, use=use)
    row = add_job(database(), own, job, ())
    return Brought(row.id, row.job.title)


@dataclass(frozen=True, kw_only=True)
class NewFit:
    """A plate that is already there: its bike's name and layout, its list, what it is of."""

    name: Text = ""
    layout: Text = "single"
    plate: Text = ""
    material: Text = ""
    thickness: Text = ""
    text: PastedText = ""
    system: System = "metric"
    key: Annotated[str, StringConstraints(pattern=r"^[A-Za-z0-9_:-]{0,80}$")] = ""


@dataclass(frozen=True)
class Begun:
    """A job that came of it, and what could be done with its list, in words."""

    id: str
    title: str
    words: str


def _of_plate(body: NewFit, plate: Plate) -> Plate:
    """What was said of the plate; the rest stays assumed."""
    said: dict[str, Any] = {}
    if body.material:
        said["material"] = read_field(Plate, "material", body.material, "material", body.system)
        choose("material", body.material, SHEET_MATERIALS, "sheet material")
    if body.thickness.strip():
        said["thickness_mm"] = read_field(
            Plate, "thickness_mm", body.thickness, "thickness", body.system
        )
    return replace(plate, **said)


def _begun(body: NewFit) -> tuple[Job, str]:
    """The job of a plate to fit: bike and plate assumed, its list, joints proposed from it."""
    if not body.name.strip():
        raise InputError("name", body.name, "a name", "the bike needs a name")
    bike = typical_bike(body.layout, body.name.strip())
    job = _first(f"{body.plate.strip() or 'Plate'} onto {bike.name}", bike)
    job = plate_to_fit(job, body.plate.strip() or "Plate to fit", frozenset()).job
    own = job.in_hand
    job = job.with_candidate(replace(own, plate=_of_plate(body, own.plate)))
    if not body.text.strip():
        return job, "No list yet: paste it, or add its lines."
    lines = read_guarded(read_hardware, body.text, body.system).lines
    good = tuple(r.line for r in lines if r.line)
    if not good:
        raise InputError("text", "", "at least one line that is understood", "no line was read")
    job = add_lines(job, own.key, good).job
    words = f"{len(good)} line{'s' if len(good) > 1 else ''} taken in"
    if len(good) < len(lines):
        words += f", {len(lines) - len(good)} not understood and left out"
    try:
        change = propose_joints(job, own.key, frozenset())
    except InputError as error:
        return job, f"{words}. No joint could be proposed: {error.message}."
    return change.job, f"{words}; {change.words}. Look at each: confirm or change it."


@route(blueprint, "POST", "/new-fit", Begun, NewFit)
def new_fit(body: NewFit) -> Begun:
    """A job for a plate that lies on the floor: straight to its kit, everything else assumed."""
    own = f"job-{_name(body.key)}"
    try:
        return Begun(own, row_of(own).job.title, "")  # asked again after a cut: not doubled
    except NotFoundError:
        pass
    job, words = _begun(body)
    row = add_job(database(), own, job, ())
    return Begun(row.id, row.job.title, words)


@route(blueprint, "POST", "/hardware/preview", CsvPreview, CsvText)
def preview(body: CsvText) -> CsvPreview:
    """What a pasted list would become, before there is a job for it."""
    return list_preview(body.text, body.system)


@route(blueprint, "POST", "/example", Brought, dict[str, str])
def example(body: dict[str, str]) -> Brought:
    """A job of our own invented scenario to look at and try on."""
    del body
    file = demo_job(EXAMPLE)
    row = add_job(database(), f"job-{secrets.token_hex(4)}", file.job, file.records)
    return Brought(row.id, row.job.title)
