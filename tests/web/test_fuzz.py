"""A fuzz over the OpenAPI document: no answer is a 5xx, the database stays sound."""

from __future__ import annotations

import os
from pathlib import Path
from typing import Any

import pytest
import schemathesis
from hypothesis import HealthCheck, Phase, given, settings

from rugged_shield.demo.jobs import load_demo
from rugged_shield.store.care import check
from rugged_shield.web.app import create_app

REQUESTS = int(os.environ.get("SHIELD_FUZZ", "400"))
JOBS = ("half-fitted", "kit-open", "nope")
HEAVY = (
    "/strike",
    "/rank-shifts",
    "/schools",
    "/measure-next",
    "/priorities",
    "/decision",
    "/assess",
)
"""Paths whose answers take a second: what is sent to them has the same few faces."""


@schemathesis.serializer("application/pdf")
def as_it_is(_context: Any, value: Any) -> bytes:
    return value if isinstance(value, bytes) else str(value).encode()


def known_places(case: Any, turn: int) -> None:
    """Most requests go to a job that is there: what is behind 404 would never be reached."""
    if "job_id" in (case.path_parameters or {}) and turn % 8:
        case.path_parameters["job_id"] = JOBS[turn % 2]
    if isinstance(case.body, dict) and "version" in case.body and turn % 3:
        case.body["key"] = f"fuzz-key-{turn:08d}"


def test_no_request_breaks_it(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("rugged_shield.store.database.SYNCHRONOUS", "OFF")
    app = create_app(tmp_path)
    app.extensions["rugged_shield_streams"].ending.set()  # a stream of changes never ends itself
    db = app.extensions["rugged_shield_db"]
    load_demo(db)
    api = schemathesis.openapi.from_wsgi("/api/openapi.json", app)
    operations = [found.ok() for found in api.get_all_operations()]
    # A read without parameters has few faces: most requests go where something can be sent.
    reads = [o for o in operations if o.method == "get"]
    few = max(3, REQUESTS // 125)
    heavy = [o for o in operations if any(word in o.path for word in HEAVY)]
    quick = [o for o in operations if o not in heavy and o not in reads]
    plain = [o for o in reads if o not in heavy]
    many = -(-(REQUESTS - few * len(plain) - max(1, few // 4) * len(heavy)) // len(quick))

    def faces(operation: Any) -> int:
        return max(1, few // 4) if operation in heavy else few if operation in reads else many

    sent = 0
    statuses: set[int] = set()
    client = app.test_client()

    for operation in operations:

        @settings(
            max_examples=faces(operation),
            deadline=None,
            database=None,
            phases=[Phase.generate],
            derandomize=True,
            suppress_health_check=list(HealthCheck),
        )
        @given(case=operation.as_strategy())
        def send(case: Any) -> None:
            nonlocal sent
            sent += 1
            known_places(case, sent)
            if isinstance(case.body, dict) and "version" in case.body and sent % 3 == 1:
                job = case.path_parameters["job_id"]
                frame = client.get(f"/api/jobs/{job}")
                if frame.status_code == 200:
                    case.body["version"] = frame.get_json()["version"]
            answer = case.call()
            statuses.add(answer.status_code)
            assert answer.status_code < 500, (case.method, case.path, case.body, answer.text)

        send()
    assert sent >= REQUESTS * 0.9
    assert {200, 422, 404, 409} <= statuses
    db.close()
    assert check(tmp_path) == []
