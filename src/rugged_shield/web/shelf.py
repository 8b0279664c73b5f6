"""The shelf between jobs: bikes and plates to keep, to take up again, to throw away."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from flask import Blueprint
from pydantic import StringConstraints

from rugged_shield.core.amounts import entered
from rugged_shield.core.errors import InputError
from rugged_shield.core.job.edits.lists import with_roll_tool, without_tool
from rugged_shield.core.job.edits.plates import add_shelved_plate
from rugged_shield.core.job.model import Candidate
from rugged_shield.core.survey.bike import Bike
from rugged_shield.store.shelf import keep_bike, keep_plate, remove_from_shelf, shelf, shelf_item
from rugged_shield.web.api import route
from rugged_shield.web.jobs import database, row_of, spent, write
from rugged_shield.web.views import Key, SavedView, Text, Write

blueprint = Blueprint("shelf", __name__, url_prefix="/api")


@dataclass(frozen=True)
class ShelfLine:
    """A bike or plate on the shelf."""

    id: str
    kind: Literal["bike", "plate"]
    name: str
    at: str
    note: str
    roll: dict[str, str]


@dataclass(frozen=True)
class RollTool:
    """A tool for the trail roll of a bike on the shelf."""

    tool: Text


@dataclass(frozen=True)
class ShelfView:
    """Everything on the shelf."""

    items: tuple[ShelfLine, ...]


@dataclass(frozen=True)
class ShelfTake:
    """Something to put on the shelf: this job's bike, or one of its plates."""

    kind: Literal["bike", "plate"]
    plate: Annotated[str, StringConstraints(pattern=r"^[A-Za-z0-9_-]{0,60}$")] = ""


@dataclass(frozen=True, kw_only=True)
class ShelfWrite(Write):
    """A plate of the shelf to take into the job."""

    item: Key


def _note(bike: Bike | None, plate: Candidate | None) -> str:
    if bike is not None:
        year = f"model year {bike.year}, " if bike.year else ""
        return f"{year}{len(bike.parts)} parts, {len(bike.mounts)} mounts"
    if plate is None:
        return ""
    p = plate.plate
    return (
        f"{p.material}, {entered(p.thickness_mm, 'mm')}, {len(plate.joints)} joints, "
        f"{len(plate.kit)} lines"
    )


def _roll(bike: Bike | None) -> dict[str, str]:
    """What lies in a bike's trail roll, by key."""
    if bike is None:
        return {}
    return {t.key: t.tool for t in bike.tools if t.place == "trail roll"}


def _shelved_bike(item: str) -> Bike:
    found = shelf_item(database(), item)
    if found.bike is None:
        raise InputError("item", found.name, "a bike of the shelf", "this is a plate")
    return found.bike


def shelf_view() -> ShelfView:
    """Everything on the shelf, newest first."""
    return ShelfView(
        tuple(
            ShelfLine(i.id, i.kind, i.name, i.at, _note(i.bike, i.plate), _roll(i.bike))
            for i in shelf(database())
        )
    )


@route(blueprint, "GET", "/shelf", ShelfView)
def whole_shelf() -> ShelfView:
    """Bikes and plates kept for the next job."""
    return shelf_view()


@route(blueprint, "POST", "/shelf/<item>/remove", ShelfView, dict[str, str])
def remove_shelved(item: str, body: dict[str, str]) -> ShelfView:
    """Take something off the shelf for good."""
    del body
    remove_from_shelf(database(), item)
    return shelf_view()


@route(blueprint, "POST", "/shelf/<item>/roll", ShelfView, RollTool)
def add_to_roll(item: str, body: RollTool) -> ShelfView:
    """One more tool in the trail roll of a bike on the shelf."""
    keep_bike(database(), with_roll_tool(_shelved_bike(item), body.tool))
    return shelf_view()


@route(blueprint, "POST", "/shelf/<item>/roll/<key>/remove", ShelfView, dict[str, str])
def take_from_roll(item: str, key: str, body: dict[str, str]) -> ShelfView:
    """Take a tool out of the trail roll of a bike on the shelf."""
    del body
    keep_bike(database(), without_tool(_shelved_bike(item), key))
    return shelf_view()


@route(blueprint, "POST", "/jobs/<job_id>/shelf", ShelfView, ShelfTake)
def put_on_shelf(job_id: str, body: ShelfTake) -> ShelfView:
    """Put this job's bike, or one of its plates, on the shelf."""
    job = row_of(job_id).job
    if body.kind == "bike":
        keep_bike(database(), job.bike)
    else:
        keep_plate(database(), job.as_entered(body.plate))
    return shelf_view()


@route(blueprint, "POST", "/jobs/<job_id>/plates/from-shelf", SavedView, ShelfWrite)
def take_from_shelf(job_id: str, body: ShelfWrite) -> SavedView:
    """Take a plate of the shelf into the job as a candidate."""
    found = shelf_item(database(), body.item)
    if found.plate is None:
        raise InputError("item", found.name, "a plate of the shelf", "this is a bike")
    plate = found.plate
    names = spent(job_id)
    return write(job_id, body, lambda job: add_shelved_plate(job, plate, names))
