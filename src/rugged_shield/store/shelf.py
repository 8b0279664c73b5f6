"""The shelf: bikes and plates kept for the next job, and the photos beside a job."""

from __future__ import annotations

import secrets
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any, Literal

from sqlalchemy import func, select

from rugged_shield.core.errors import InputError
from rugged_shield.core.job.model import Candidate
from rugged_shield.core.job.upgrade import VERSION
from rugged_shield.core.survey.bike import Bike
from rugged_shield.formats.codec import bike_from_json, bike_to_json, plate_from_json, plate_to_json
from rugged_shield.formats.photos import MAX_PHOTOS
from rugged_shield.store.database import Database
from rugged_shield.store.models import JobModel, PhotoModel, ShelfModel
from rugged_shield.store.repository import NotFoundError

ShelfKind = Literal["bike", "plate"]
MAX_SHELF = 300


@dataclass(frozen=True)
class ShelfItem:
    """One thing on the shelf: a bike, or a plate with its joints and hardware."""

    id: str
    kind: ShelfKind
    name: str
    at: str
    bike: Bike | None = None
    plate: Candidate | None = None


def _item(model: ShelfModel) -> ShelfItem:
    at = model.at.date().isoformat()
    if model.kind == "bike":
        return ShelfItem(model.id, "bike", model.name, at, bike_from_json(model.content))
    plate = plate_from_json(model.content)
    return ShelfItem(model.id, "plate", model.name, at, plate=plate)


def shelf(db: Database) -> tuple[ShelfItem, ...]:
    """Everything on the shelf, newest first."""
    with db.reading() as session:
        models = session.scalars(select(ShelfModel).order_by(ShelfModel.at.desc(), ShelfModel.id))
        return tuple(_item(m) for m in models)


def shelf_item(db: Database, item_id: str) -> ShelfItem:
    """One thing on the shelf; raises InputError."""
    with db.reading() as session:
        model = session.get(ShelfModel, item_id)
        if model is None:
            raise InputError("item", item_id, "something on the shelf")
        return _item(model)


def _keep(db: Database, kind: ShelfKind, name: str, content: Any) -> ShelfItem:
    with db.writing() as session:
        if (session.scalar(select(func.count()).select_from(ShelfModel)) or 0) >= MAX_SHELF:
            raise InputError("shelf", MAX_SHELF, f"at most {MAX_SHELF} things", "the shelf is full")
        # The same thing put there again takes the place of what was there.
        for old in session.scalars(
            select(ShelfModel).where(ShelfModel.kind == kind, ShelfModel.name == name)
        ):
            session.delete(old)
        model = ShelfModel(
            id=secrets.token_hex(8),
            kind=kind,
            name=name[:200],
            content=content,
            facts_version=VERSION,
            at=datetime.now(UTC),
        )
        session.add(model)
        session.flush()
        return _item(model)


def keep_bike(db: Database, bike: Bike) -> ShelfItem:
    """Put a bike on the shelf, in place of one of the same name."""
    return _keep(db, "bike", bike.name, bike_to_json(bike))


def keep_plate(db: Database, candidate: Candidate) -> ShelfItem:
    """Put a plate with its joints and hardware on the shelf."""
    content = plate_to_json(candidate)
    return _keep(db, "plate", candidate.plate.name, content)


def remove_from_shelf(db: Database, item_id: str) -> None:
    """Take something off the shelf for good."""
    with db.writing() as session:
        model = session.get(ShelfModel, item_id)
        if model is None:
            raise InputError("item", item_id, "something on the shelf")
        session.delete(model)


def add_photo(db: Database, job_id: str, jpeg: bytes, photo_id: str = "") -> str:
    """Keep a re-encoded picture beside a job; returns its id."""
    with db.writing() as session:
        if session.get(JobModel, job_id) is None:
            raise NotFoundError(job_id)
        own = select(func.count()).select_from(PhotoModel).where(PhotoModel.job_id == job_id)
        if (session.scalar(own) or 0) >= MAX_PHOTOS:
            raise InputError("photo", MAX_PHOTOS, f"at most {MAX_PHOTOS} photos a job")
        photo_id = photo_id or secrets.token_hex(10)
        session.add(PhotoModel(id=photo_id, job_id=job_id, jpeg=jpeg, at=datetime.now(UTC)))
    return photo_id


def photos(db: Database, job_id: str) -> dict[str, bytes]:
    """All pictures of a job by id."""
    with db.reading() as session:
        found = session.scalars(
            select(PhotoModel).where(PhotoModel.job_id == job_id).order_by(PhotoModel.id)
        )
        return {photo.id: photo.jpeg for photo in found}


def photo(db: Database, job_id: str, photo_id: str) -> bytes:
    """One picture; raises InputError."""
    with db.reading() as session:
        found = session.get(PhotoModel, (photo_id, job_id))
        if found is None:
            raise InputError("photo", photo_id, "a photo of this job")
        return found.jpeg
