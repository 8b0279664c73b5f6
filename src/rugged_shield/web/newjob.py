"""A new job from nothing but the bike: a starting layout, or a bike of the shelf."""

from __future__ import annotations

import hashlib
import secrets
from dataclasses import dataclass
from typing import Annotated

from flask import Blueprint
from pydantic import StringConstraints

from rugged_shield.core.amounts import System
from rugged_shield.core.errors import InputError
from rugged_shield.core.job import Candidate, Job
from rugged_shield.core.job.edits import read_field
from rugged_shield.core.survey import LAYOUTS, Bike, LayoutRequest, bike_from_layout, stock_plate
from rugged_shield.core.tighten import WrenchTool
from rugged_shield.store import NotFoundError, add_job, shelf_item
from rugged_shield.web.api import route
from rugged_shield.web.jobs import Brought, database, row_of
from rugged_shield.web.views import Text

blueprint = Blueprint("new_job", __name__, url_prefix="/api")


@dataclass(frozen=True)
class LayoutsView:
    """Starting layouts by key, in words."""

    layouts: dict[str, str]


@dataclass(frozen=True, kw_only=True)
class NewJob:
    """A bike by its layout, as a person types it: the start of a job."""

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
    system: System = "metric"
    shelf_bike: Text = ""
    key: Annotated[str, StringConstraints(pattern=r"^[A-Za-z0-9_:-]{0,80}$")] = ""


FIRST_WRENCH = WrenchTool("click wrench, 10 to 60 N·m", 60.0, 300.0)
"""What most garages own; Tighten has the fields to say otherwise."""


def _name(key: str) -> str:
    return hashlib.sha256((key or secrets.token_hex(8)).encode()).hexdigest()[:8]


@route(blueprint, "GET", "/layouts", LayoutsView)
def layouts() -> LayoutsView:
    """The starting layouts in words."""
    return LayoutsView(LAYOUTS)


def _typed_bike(body: NewJob) -> Bike:
    numbers = {}
    for name, text in (("wheelbase_mm", body.wheelbase), ("clearance_mm", body.clearance)):
        if not text.strip():
            raise InputError(name, "", "a length in mm or in", f"{name[:-3]} was not entered")
        numbers[name] = read_field(LayoutRequest, name, text, name, body.system)
    year = read_field(LayoutRequest, "year", body.year, "year", "metric")
    return bike_from_layout(
        LayoutRequest(
            layout=body.layout,
            name=body.name,
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
    job = Job(
        title=title[:120],
        bike=bike,
        stock=Candidate(stock_plate(bike), ()),
        candidates=(),
        wrench=FIRST_WRENCH,
    )
    row = add_job(database(), own, job, ())
    return Brought(row.id, row.job.title)
