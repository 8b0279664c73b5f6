"""The instruments of the running application: how they stand, a reading for a field."""

from __future__ import annotations

from dataclasses import dataclass

from flask import Blueprint, current_app

from rugged_shield.core.quantity import parse
from rugged_shield.instruments.link import LinkState, Tray
from rugged_shield.web.api import route
from rugged_shield.web.views import Text

blueprint = Blueprint("instruments", __name__, url_prefix="/api/instruments")


@dataclass(frozen=True)
class InstrumentsView:
    """How every instrument stands."""

    instruments: tuple[LinkState, ...]


@dataclass(frozen=True)
class TakenView:
    """A reading taken for a field."""

    text: str
    instrument: str
    resolution: float
    at: str


@dataclass(frozen=True)
class TakeReading:
    """The unit of the field that a reading is for."""

    unit: Text = "mm"


@dataclass(frozen=True)
class PutLoad:
    """What is put on a simulated instrument, as typed; a bare number is in its own unit."""

    text: str = ""


def tray() -> Tray:
    """The instruments that this application was started with."""
    found: Tray = current_app.extensions["rugged_shield_tray"]
    return found


@route(blueprint, "GET", "", InstrumentsView)
def instruments() -> InstrumentsView:
    """Every instrument: absent, settling, stable or stale, its reading, its last trouble."""
    return InstrumentsView(tray().states())


@route(blueprint, "POST", "/<key>/take", TakenView, TakeReading)
def take(key: str, body: TakeReading) -> TakenView:
    """The stable reading there is now, for a field in the unit named."""
    taken = tray().link(key).take(body.unit)
    step = parse(f"{taken.step:g} {taken.unit}", body.unit, "resolution")
    return TakenView(taken.text, taken.instrument, step, taken.at)


@route(blueprint, "POST", "/<key>/put", InstrumentsView, PutLoad)
def put(key: str, body: PutLoad) -> InstrumentsView:
    """Put a load on a simulated instrument, as hands would."""
    link = tray().link(key)
    link.put(parse(body.text, link.state().unit, "load"))
    return InstrumentsView(tray().states())
