"""A calendar to subscribe to: a private address, on this computer and on the garage's network."""

from __future__ import annotations

from dataclasses import dataclass

from flask import Blueprint, Response, current_app, request

from rugged_shield.core.errors import InputError
from rugged_shield.store.calendar_key import calendar_token, is_calendar_token, renew_calendars
from rugged_shield.web.api import file_route, route
from rugged_shield.web.jobs import database, row_of
from rugged_shield.web.phones import Phones
from rugged_shield.web.stations.keep.files import due_calendar

blueprint = Blueprint("subscribed", __name__)


@dataclass(frozen=True)
class CalendarView:
    """Where the job's calendar can be subscribed to; whoever has an address can read it."""

    addresses: tuple[str, ...]


@dataclass(frozen=True)
class Renew:
    """Every address given out before ends."""


def _addresses(job_id: str) -> CalendarView:
    row_of(job_id)
    phones: Phones = current_app.extensions["rugged_shield_phones"]
    path = f"/calendar/{job_id}/{calendar_token(database(), job_id)}.ics"
    origins = (request.host_url.rstrip("/"), *phones.addresses)
    return CalendarView(tuple(f"{origin}{path}" for origin in dict.fromkeys(origins)))


@route(blueprint, "GET", "/api/jobs/<job_id>/calendar", CalendarView)
def calendar_of(job_id: str) -> CalendarView:
    """The job's private calendar addresses."""
    return _addresses(job_id)


@route(blueprint, "POST", "/api/jobs/<job_id>/calendar/renew", CalendarView, Renew)
def renew(job_id: str, body: Renew) -> CalendarView:
    """New addresses for the calendars of all jobs; those given out before lead nowhere."""
    renew_calendars(database())
    return _addresses(job_id)


@file_route(blueprint, "/calendar/<job_id>/<token>.ics", "text/calendar")
def private_calendar(job_id: str, token: str) -> Response:
    """The calendar, to whoever has its address; every other address is answered alike."""
    if not is_calendar_token(database(), job_id, token):
        raise InputError("address", "", "an address that was given out", "there is nothing here")
    return due_calendar(job_id)
