"""The application: blueprints, security, errors, static front end."""

from __future__ import annotations

import importlib
import logging
import mimetypes
import pkgutil
import secrets
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from flask import Blueprint, Flask, Response, abort, current_app, request
from sqlalchemy.exc import DBAPIError
from werkzeug.exceptions import HTTPException, MethodNotAllowed

from rugged_shield.core.errors import InputError
from rugged_shield.core.job.edits.path import value_at
from rugged_shield.formats.guarded import BusyError
from rugged_shield.instruments.link import Tray
from rugged_shield.places import places_of
from rugged_shield.store.care import plain_words
from rugged_shield.store.database import Database, StoreTroubleError
from rugged_shield.store.repository import NotFoundError, StaleError
from rugged_shield.web import (
    calculate,
    instruments,
    jobs,
    live,
    newjob,
    pairing,
    photos,
    runs,
    shelf,
    space,
    stations,
    worklist,
)
from rugged_shield.web.access import LOOPBACK, check_request, is_known_host, status_of
from rugged_shield.web.api import Newer, error_response, openapi
from rugged_shield.web.clock import clock_of
from rugged_shield.web.live import Streams
from rugged_shield.web.memory import give_back_after
from rugged_shield.web.phones import Phones
from rugged_shield.web.runs import Newest, Runs
from rugged_shield.web.worker import SHARED

log = logging.getLogger("rugged_shield")

STATIC = Path(__file__).parent / "static"
LONGEST_NAME = 200
MAX_BODY = 5_000_000
CONTENT_POLICY = (
    "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; "
    "font-src 'self'; connect-src 'self'; worker-src 'self'; base-uri 'none'; form-action 'self'; "
    "frame-ancestors 'none'"
)
HEADERS = {
    "Content-Security-Policy": CONTENT_POLICY,
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "no-referrer",
    "Cross-Origin-Opener-Policy": "same-origin",
    "Permissions-Policy": "accelerometer=(), autoplay=(), camera=(), display-capture=(), "
    "geolocation=(), gyroscope=(), magnetometer=(), microphone=(), midi=(), payment=(), "
    "publickey-credentials-get=(), usb=(), xr-spatial-tracking=()",
}
"""On every answer, built files included."""


def _of_stations() -> Iterator[Blueprint]:
    """The addresses of every module of the six stations that answers any."""
    for found in pkgutil.walk_packages(stations.__path__, f"{stations.__name__}."):
        blueprint = getattr(importlib.import_module(found.name), "blueprint", None)
        if isinstance(blueprint, Blueprint):
            yield blueprint


STATIONS = tuple(_of_stations())
ROOMS = (jobs, worklist, newjob, shelf, instruments, runs, calculate, live, pairing, photos, space)

pages = Blueprint("pages", __name__)


@pages.get("/api/openapi.json")
def openapi_document() -> dict[str, Any]:
    """The OpenAPI document."""
    return openapi()


@pages.get("/")
@pages.get("/<path:name>")
def page(name: str = "") -> Response:
    """A built file, or the application's page for a client route."""
    if name.startswith("api/"):
        abort(404)
    file = STATIC / name if 0 < len(name) < LONGEST_NAME else STATIC / "index.html"
    if not (file.is_file() and STATIC in file.resolve().parents):
        file = STATIC / "index.html"
    if not file.is_file():
        return Response("The front end is not built: run “make setup”.", 503, mimetype="text/plain")
    return Response(file.read_bytes(), mimetype=mimetypes.guess_type(file.name)[0])


def _stale(error: StaleError) -> Response:
    """409: what is stored now at the place that was written to."""
    value = ""
    body = request.get_json(silent=True)
    path = str(body.get("path", "")) if isinstance(body, dict) else ""
    if path:
        try:
            value = str(value_at(error.newer.job, path))
        except InputError:
            value = "no longer there"
    refusal = InputError(
        path or "version",
        value,
        f"based on version {error.newer.version}",
        "this job was changed elsewhere meanwhile",
        "Look at both values and choose.",
    )
    return error_response(refusal, 409, Newer(error.newer.version, value, error.words))


_REFUSALS = {
    404: ("a known address", "there is nothing at this address"),
    405: ("another method", "this address does not take that method"),
    413: ("", "this is more than can be taken in at once"),
}


def _refused_by_server(error: HTTPException, status: int) -> Response:
    """What the server itself refuses, in plain words; with the methods that would do."""
    allowed, words = _REFUSALS.get(status, (error.name, error.description or error.name))
    if status == 413:
        allowed = f"at most {(request.max_content_length or MAX_BODY) / 1e6:.3g} MB"
    answer = error_response(InputError("request", request.path[:200], allowed, words), status)
    if isinstance(error, MethodNotAllowed) and error.valid_methods:
        answer.headers["Allow"] = ", ".join(sorted(error.valid_methods))
    return answer


def _unexpected(error: Exception) -> Response:
    """Anything unforeseen: logged with a reference, answered without its insides."""
    if isinstance(error, HTTPException):
        status = error.code or 500
        return _refused_by_server(error, status)
    reference = secrets.token_hex(4)
    log.error(
        "reference %s: on %s %s %s",
        reference,
        request.method,
        request.url_rule,
        places_of(error),
    )
    refusal = InputError(
        "server",
        "",
        "",
        f"Something went wrong in here (reference {reference}).",
        "Nothing was changed. Try again; the log has the details under the reference.",
    )
    return error_response(refusal, 500, reference=reference)


def _store_trouble(error: Exception) -> Response:
    """The database failed: plain words, nothing changed, a code that says “later”."""
    trouble = error if isinstance(error, StoreTroubleError) else plain_words(error)
    log.error("store: %s on %s", trouble.message, request.url_rule)
    return error_response(InputError("store", "", "", trouble.message, trouble.remedy), 503)


def _busy(_error: Exception) -> Response:
    """Too much at once: a code that says “later”, and no thread of the server waits."""
    refusal = InputError(
        "request", "", "one after the other", "others are being worked at", "Try again in a moment."
    )
    answer = error_response(refusal, 503)
    answer.headers["Retry-After"] = "1"
    return answer


def _headers(answer: Response) -> Response:
    answer.headers.update(HEADERS)
    if request.path.startswith("/api/"):
        answer.headers["Cache-Control"] = "no-store"
    return answer


def routes() -> Flask:
    """The application without a data folder: every address, who may ask, how trouble is said."""
    mimetypes.add_type("text/javascript", ".js")
    app = Flask(__name__, static_folder=None)
    app.config["MAX_CONTENT_LENGTH"] = MAX_BODY
    for blueprint in STATIONS:
        app.register_blueprint(blueprint)
    for room in ROOMS:
        app.register_blueprint(room.blueprint)
    app.register_blueprint(pages)
    app.before_request(_check)
    app.after_request(_headers)
    app.after_request(give_back_after)
    app.register_error_handler(InputError, lambda e: error_response(e, status_of(e)))
    app.register_error_handler(
        NotFoundError,
        lambda e: error_response(InputError("job", str(e), "a job of the work list"), 404),
    )
    app.register_error_handler(StaleError, _stale)
    app.register_error_handler(StoreTroubleError, _store_trouble)
    app.register_error_handler(DBAPIError, _store_trouble)
    app.register_error_handler(BusyError, _busy)
    app.register_error_handler(Exception, _unexpected)
    return app


def _check() -> None:
    check_request(
        current_app.config["SHIELD_HOSTS"], current_app.extensions["rugged_shield_phones"]
    )


def open_folder(
    app: Flask, folder: Path, hosts: tuple[str, ...] = LOOPBACK, tray: Tray | None = None
) -> None:
    """Everything that an application knows from now on: its data folder, and all that runs.

    ``hosts`` are the host names it answers to. ``tray`` holds the instruments, which whoever
    gives it starts and stops.
    """
    db = Database(folder)
    db.migrate()
    app.config["SHIELD_HOSTS"] = hosts
    app.extensions["rugged_shield_db"] = db
    app.extensions["rugged_shield_clock"] = clock_of(folder)
    app.extensions["rugged_shield_worker"] = SHARED
    app.extensions["rugged_shield_runs"] = Runs(SHARED)
    app.extensions["rugged_shield_newest"] = Newest()
    app.extensions["rugged_shield_tray"] = tray or Tray()
    app.extensions["rugged_shield_streams"] = Streams()
    app.extensions["rugged_shield_phones"] = Phones()


def create_app(folder: Path, hosts: tuple[str, ...] = LOOPBACK, tray: Tray | None = None) -> Flask:
    """The application on one data folder, as ``open_folder`` takes it."""
    app = routes()
    open_folder(app, folder, hosts, tray)
    return app


def with_static_files(app: Flask) -> Any:
    """The WSGI application with built files served compressed and cacheable for good.

    A foreign host gets no file either: its request goes on to the application, which refuses it.
    """
    from whitenoise import WhiteNoise

    if not STATIC.is_dir():
        return app

    def headed(headers: Any, _path: str, _url: str) -> None:
        for name, value in HEADERS.items():
            headers[name] = value

    files = WhiteNoise(
        app.wsgi_app,
        root=STATIC,
        max_age=0,
        immutable_file_test=lambda path, url: url.startswith("/assets/"),
        add_headers_function=headed,
    )

    def served(environ: dict[str, Any], start: Any) -> Any:
        phones = app.extensions["rugged_shield_phones"]
        known = is_known_host(environ, app.config["SHIELD_HOSTS"], phones)
        return (files if known else app.wsgi_app)(environ, start)

    return served
