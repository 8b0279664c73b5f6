"""Fixtures: reference data, the demo jobs, a fresh application per test."""

from __future__ import annotations

import gc
import json
import shutil
import time
from collections.abc import Iterator
from dataclasses import replace
from importlib.resources import files
from pathlib import Path
from typing import Any

import pytest
from flask import Flask
from flask.testing import FlaskClient
from hypothesis import settings
from pypdfium2 import PdfDocument
from werkzeug.exceptions import HTTPException

from rugged_shield.core.job.model import Job
from rugged_shield.core.survey.plate import Plate
from rugged_shield.demo.jobs import load_demo
from rugged_shield.formats.jobfile import JobFile, read_job_file
from rugged_shield.garbage import collect_seldom
from rugged_shield.instruments.link import Link, Tray
from rugged_shield.instruments.simulate import DEVICES, MOST_PACE, serve_simulators
from rugged_shield.store.database import FILE_NAME, Database
from rugged_shield.store.repository import version_of
from rugged_shield.web.api import ROUTES
from rugged_shield.web.app import create_app, open_folder, routes
from rugged_shield.web.views import Write

# The same examples in every run: a red run must be one that anybody can repeat.
settings.register_profile("repeatable", derandomize=True, deadline=None)
settings.load_profile("repeatable")

DATA = Path(__file__).parent / "data"

# What is loaded before the first test stays: looking through it for garbage takes a fifth of
# the collection, and a share of every test after it.
gc.disable()


SLOW = (
    "test_fuzz.py",
    "test_measure_next.py",
    "test_walk.py",
    "test_legible.py",
    "test_survey.py",
    "test_weighup.py",
    "test_keyboard.py",
    "test_wheel.py",
    "test_care.py",
    "test_weighup_api.py",
    "test_survey_api.py",
    "test_cli.py",
    "test_runs.py",
    "test_choosing_api.py",
    "test_hostile.py",
    "test_us_units.py",
    "test_instruments.py",
    "test_tighten_again.py",
    "test_copies.py",
    "test_cli_bench.py",
    "test_api.py",
    "test_coverage.py",
)


def _rank(item: pytest.Item) -> int:
    if item.path.name in SLOW:
        return SLOW.index(item.path.name)
    return len(SLOW) if item.path.parent.name == "ui" else len(SLOW) + 1


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """Slow files first, then all with a browser: the workers then end together."""
    items.sort(key=_rank)


def pytest_collection_finish() -> None:
    gc.freeze()
    collect_seldom()
    gc.enable()


@pytest.fixture(scope="session")
def reference() -> dict[str, Any]:
    data: dict[str, Any] = json.loads((DATA / "joints.json").read_text())
    return data


def demo_file(name: str) -> JobFile:
    return read_job_file((files("rugged_shield.demo") / f"{name}.json").read_bytes())


def words_of_pdf(data: bytes) -> str:
    """All words of a PDF, pages one after the other, with single spaces."""
    with PdfDocument(data) as pdf:
        return " ".join(" ".join(page.get_textpage().get_text_range().split()) for page in pdf)


def small_sheet(plate: Plate) -> Plate:
    """The plate cut to a hand's breadth under the sump: no mount is over it, nothing holds it."""
    belly = replace(
        plate.belly, start_x_mm=690.0, length_mm=60.0, front_width_mm=60.0, rear_width_mm=60.0
    )
    return replace(
        plate, belly=belly, apron=None, wing_left=None, wing_right=None, tail=None, cutouts=()
    )


@pytest.fixture(scope="session")
def choosing() -> Job:
    return demo_file("choosing").job


@pytest.fixture(scope="session")
def half_fitted() -> JobFile:
    return demo_file("half_fitted")


class Client:
    """A test client that knows the API's manners: versions, keys, JSON."""

    def __init__(self, flask: FlaskClient) -> None:
        self.flask = flask
        self.count = 0

    def get(self, path: str, status: int = 200) -> Any:
        answer = self.flask.get(f"/api/jobs{path}")
        assert answer.status_code == status, answer.get_data(as_text=True)[:500]
        return answer.get_json()

    def jobs(self) -> dict[str, Any]:
        """The work list once every job on it is worked out: a slow machine needs several looks."""
        for _ in range(60):
            found = {job["id"]: job for job in self.get("")["jobs"]}
            if not any(job["pending"] for job in found.values()):
                return found
        raise AssertionError("the work list was never worked out")

    def version(self, job: str) -> int:
        return version_of(self.flask.application.extensions["rugged_shield_db"], job)

    def _is_write(self, method: str, path: str) -> bool:
        """Whether a route's body carries a version and a key."""
        places = self.flask.application.url_map.bind("")
        try:
            rule = places.match(path.split("?")[0], method, return_rule=True)[0].rule
        except HTTPException:
            return False
        body = ROUTES[method, rule].body if (method, rule) in ROUTES else None
        return isinstance(body, type) and issubclass(body, Write)

    def write(self, method: str, url: str, status: int = 200, **body: Any) -> Any:
        job = url.split("/")[1]
        if self._is_write(method, f"/api/jobs{url}"):
            self.count += 1
            body.setdefault("version", self.version(job))
            body.setdefault("key", f"test-key-{self.count:06d}")
        answer = self.flask.open(f"/api/jobs{url}", method=method, json=body)
        assert answer.status_code == status, answer.get_data(as_text=True)[:500]
        return answer.get_json()

    def post(self, url: str, status: int = 200, **body: Any) -> Any:
        return self.write("POST", url, status, **body)

    def field(self, job: str, path: str, text: str, status: int = 200, **more: Any) -> Any:
        return self.write("PATCH", f"/{job}/field", status, path=path, text=text, **more)


@pytest.fixture
def app_folder(tmp_path: Path) -> Path:
    return tmp_path / "data"


@pytest.fixture(scope="session")
def demo_database(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A database with the demo jobs, made once and copied for every test."""
    folder = tmp_path_factory.mktemp("demo")
    db = Database(folder)
    db.migrate()
    load_demo(db)
    db.close()
    return folder / FILE_NAME


@pytest.fixture(scope="session")
def all_routes() -> Flask:
    """The application's addresses, which take a tenth of a second to set up."""
    return routes()


@pytest.fixture
def client(app_folder: Path, demo_database: Path, all_routes: Flask) -> Iterator[Client]:
    app_folder.mkdir()
    shutil.copy(demo_database, app_folder)
    app = all_routes
    open_folder(app, app_folder)
    yield Client(app.test_client())
    app.extensions["rugged_shield_db"].close()


@pytest.fixture
def bench(app_folder: Path) -> Iterator[Client]:
    """The application with its three simulated instruments."""
    running = serve_simulators(pace=MOST_PACE)
    links = tuple(Link(k, d.kind, d.name, running.urls[k], True) for k, d in DEVICES.items())
    tray = Tray((*links, Link("spare", "scale", "spare scale", "socket://127.0.0.1:9", False)))
    app = create_app(app_folder, tray=tray)
    load_demo(app.extensions["rugged_shield_db"])
    tray.start()
    yield Client(app.test_client())
    for link in tray.links.values():
        link.end()  # that a port is closed need not be waited for
    running.stop()
    app.extensions["rugged_shield_db"].close()


def stands(client: Client, key: str, value: float) -> None:
    """Waits until an instrument stands still at a value."""
    end = time.monotonic() + 120
    while time.monotonic() < end:
        states = client.flask.get("/api/instruments").get_json()["instruments"]
        one = next(s for s in states if s["key"] == key)
        if one["state"] == "stable" and abs(float(one["shown"]) - value) < 0.2:
            return
        time.sleep(0.05)
    raise AssertionError(f"{key} never stood still at {value}")
