"""The one codec of what a job is made of: facts and events, as the store and job files keep them.

What is read must be understood to the last field: one that today's form does not know is an
error that names its place, never dropped. Older forms go through ``core.job.upgrade`` first.
"""

from __future__ import annotations

from functools import cache
from typing import Annotated, Any

from pydantic import Discriminator, TypeAdapter, ValidationError

from rugged_shield.core.errors import InputError
from rugged_shield.core.job.events import Event
from rugged_shield.core.job.model import Candidate, Job
from rugged_shield.core.survey.bike import Bike
from rugged_shield.formats.jsontext import first_error, unknown_field

StoredEvent = Annotated[Event, Discriminator("kind")]
"""An event as JSON: its ``kind`` says which it is."""


@cache
def _adapter(kind: Any) -> TypeAdapter[Any]:
    """Built at its first use: a command that only reads a file needs none of these."""
    return TypeAdapter(kind)


def refuse_unknown(given: Any, known: Any, path: str = "") -> None:
    """Raise InputError for the first field of ``given`` that has no place in ``known``."""
    extra = unknown_field(given, known, path)
    if extra is not None:
        name = extra.split(".")[-1]
        raise InputError(extra, name, "a field of this version", f"unknown field “{name}”")


def _read(kind: Any, data: Any, path: str) -> Any:
    adapter = _adapter(kind)
    try:
        value = adapter.validate_python(data)
    except ValidationError as error:
        raise first_error(error) from error
    refuse_unknown(data, adapter.dump_python(value, mode="json"), path)
    return value


def job_to_json(job: Job) -> Any:
    """A job's facts as plain JSON values."""
    return _adapter(Job).dump_python(job, mode="json")


def job_from_json(data: Any) -> Job:
    """A job's facts from plain JSON values of today's version, checked on the way in."""
    job: Job = _read(Job, data, "job")
    return job


def bike_to_json(bike: Bike) -> Any:
    """A bike as plain JSON values."""
    return _adapter(Bike).dump_python(bike, mode="json")


def bike_from_json(data: Any) -> Bike:
    """A bike from plain JSON values."""
    bike: Bike = _read(Bike, data, "bike")
    return bike


def plate_to_json(plate: Candidate) -> Any:
    """A plate with its joints and hardware as plain JSON values."""
    return _adapter(Candidate).dump_python(plate, mode="json")


def plate_from_json(data: Any) -> Candidate:
    """A plate with its joints and hardware from plain JSON values."""
    plate: Candidate = _read(Candidate, data, "plate")
    return plate


def event_to_json(event: Event) -> dict[str, Any]:
    """A line of the record as plain JSON values."""
    data: dict[str, Any] = _adapter(StoredEvent).dump_python(event, mode="json")
    return data


def event_from_json(data: Any) -> Event:
    """A line of the record from plain JSON values."""
    event: Event = _read(StoredEvent, data, "records")
    return event
