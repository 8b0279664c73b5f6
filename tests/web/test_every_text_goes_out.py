"""Every text that a job file may hold goes out again: on every page, in every file, and home."""

from __future__ import annotations

import csv
import io
import json
import os
from collections.abc import Iterator
from importlib.resources import files
from typing import Any

import ezdxf
import pytest
from defusedxml import ElementTree
from flask import Flask
from hypothesis import HealthCheck, example, given, settings
from hypothesis import strategies as st
from icalendar import Calendar
from pypdfium2 import PdfDocument

from rugged_shield.core.errors import InputError
from rugged_shield.core.text import MAX_LETTERS, check_text, one_line
from rugged_shield.formats.bundle import read_brought
from rugged_shield.formats.jobfile import read_job_file
from rugged_shield.formats.photos import read_photos_zip
from tests.conftest import Client

EVERY = os.environ.get("SHIELD_HOSTILE_EVERY") == "1"
HEAVY = ("/weigh-up", "/measure-next", "/survey", "/assess")
"""What needs every strike map or looks at every plate."""
ENDLESS = ("/live", "/calendar/")
WORDS = frozenset(
    (
        *("title", "name", "note", "customer", "variant", "market", "model", "front_tyre"),
        *("rear_tyre", "stock_bolt", "orientation", "chosen_reason", "second_drive", "date"),
        *("special_tool", "revision", "sheet_date", "drive", "fitted_to", "bag", "part_number"),
        *("pick_reason", "currency", "reason", "by", "where", "why", "holder", "came_off"),
        *("found", "ride"),
    )
)
"""Fields in which a person writes what he likes."""


def filled(value: Any, text: str) -> Any:
    """The file with this text in every such field."""
    if isinstance(value, dict):
        return {
            key: text if key in WORDS and isinstance(inner, str) else filled(inner, text)
            for key, inner in value.items()
        }
    return [filled(inner, text) for inner in value] if isinstance(value, list) else value


def opened(kind: str, data: bytes) -> object:
    """A file as whoever gets it opens it; raises where it is broken."""
    if kind == "application/pdf":
        with PdfDocument(data) as pdf:
            return [page.get_textpage().get_text_range() for page in pdf]
    if kind == "text/calendar":
        return Calendar.from_ical(data.decode())
    if kind == "text/csv":
        return list(csv.reader(io.StringIO(data.decode()), strict=True))
    if kind == "image/vnd.dxf":
        return ezdxf.read(io.StringIO(data.decode())).audit()
    if kind == "image/svg+xml":
        return ElementTree.fromstring(data)
    if kind == "application/json":
        return json.loads(data)
    assert kind == "application/zip"
    return read_brought(data) if b"job.json" in data else read_photos_zip(data)


def addresses(app: Flask, job: str) -> Iterator[str]:
    """Everything that is told of one job without being asked for a part of it."""
    for rule in app.url_map.iter_rules():
        one = rule.arguments == {"job_id"} and "GET" in (rule.methods or ())
        passed_over = ENDLESS if EVERY else (*ENDLESS, *HEAVY)
        if one and not any(word in rule.rule for word in passed_over):
            yield rule.rule.replace("<job_id>", job)


def is_taken(text: str) -> bool:
    """Whether every field takes it: what one refuses, no file brings in, and the other way."""
    if not text.strip():
        return False  # a job has a title
    try:
        check_text("text", one_line(text))
    except InputError:
        return False
    return True


TEXTS = st.one_of(
    st.text(st.characters(exclude_categories=("Cs", "Co")), min_size=1, max_size=MAX_LETTERS),
    st.sampled_from(("<b>&amp;</i>", "a\nb", "%s {0} \\n", "]]>", "'\"`;--", "漢字 Ω 🛞", "=1+1")),
    st.sampled_from(("W", "漢", "“", "\\", "&", "🛞", "é")).map(lambda sign: sign * MAX_LETTERS),
)


@pytest.mark.parametrize("demo", ["choosing", "half_fitted", "in_service"])
@example(text="W" * MAX_LETTERS)
@settings(
    max_examples=12 if EVERY else 3,
    deadline=None,
    suppress_health_check=[HealthCheck.function_scoped_fixture, HealthCheck.filter_too_much],
)
@given(text=TEXTS)
def test_what_import_allows_is_exported(client: Client, demo: str, text: str) -> None:
    file = json.loads((files("rugged_shield.demo") / f"{demo}.json").read_text())
    sent = json.dumps(filled(file, text)).encode()
    came = client.flask.post("/api/jobs", data=sent, content_type="application/json")
    assert came.status_code == (200 if is_taken(text) else 422), came.get_json()
    if came.status_code == 422:
        return
    job = came.get_json()["id"]
    for address in addresses(client.flask.application, job):
        answer = client.flask.get(address)
        assert answer.status_code == 200, (address, answer.get_json())
        assert opened(answer.mimetype, answer.data) is not None, address
    out = client.flask.get(f"/api/jobs/{job}/file").data
    assert read_job_file(out) == read_job_file(sent)
