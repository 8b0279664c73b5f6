"""Costly questions: what they may take, what the server keeps of it, and who has to wait."""

from __future__ import annotations

import threading
import time
from dataclasses import replace
from importlib.resources import files
from pathlib import Path
from typing import Any

import pytest

from rugged_shield.calc.registry import example
from rugged_shield.core.errors import InputError
from rugged_shield.formats import guarded
from rugged_shield.formats.guarded import CALCULATING, READING, Budget, BusyError, within
from rugged_shield.web import calculate
from tests.conftest import Client

GREEDY = {
    **example("shell-response"),
    "panels": [
        {"name": "belly", "outline_mm": [[0, -400], [800, -400], [800, 400], [0, 400]],
         "origin_mm": [0, 0, 0], "u_axis": [1, 0, 0], "v_axis": [0, 1, 0]},
    ],
    "mesh_mm": 9,
}  # fmt: skip
"""A few hundred bytes that ask for ten thousand nodes."""


def resident_mb() -> float:
    return int(Path("/proc/self/statm").read_text().split()[1]) * 4096 / 1e6


def short(budget: Budget = CALCULATING, **fields: Any) -> Budget:
    return replace(budget, **fields)


def test_what_takes_too_long_or_too_much_is_put_away() -> None:
    """The last guard, behind all bounds: work that never ends, work that eats memory."""
    with pytest.raises(InputError, match="longer than 1 s"):
        within(short(READING, seconds=1.0), time.sleep, 60)
    with pytest.raises(InputError, match="too much memory"):
        within(READING, bytearray, 8_000_000_000)
    assert within(READING, len, "abc") == 3
    assert not guarded._AT_WORK


def test_who_leaves_ends_what_was_asked_for() -> None:
    began = time.monotonic()
    with pytest.raises(BusyError):
        within(CALCULATING, time.sleep, 60, is_gone=lambda: time.monotonic() - began > 0.5)
    assert time.monotonic() - began < 30.0
    assert not guarded._AT_WORK
    assert within(CALCULATING, abs, -2) == 2, "its place is free again"


def test_a_greedy_question_is_refused_in_words_and_nothing_of_it_stays(
    client: Client, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(calculate, "CALCULATING", short(memory_bytes=60_000_000, seconds=60.0))
    client.flask.post("/api/calc/convert-torque", json=example("convert-torque"))
    before = resident_mb()
    answer = client.flask.post("/api/calc/shell-response", json=GREEDY)
    assert answer.status_code == 422
    error = answer.get_json()["error"]
    assert "too much memory" in error["message"]
    assert "60 s and 0.06 GB" in str(error["allowed"])
    assert resident_mb() - before < 30.0


def test_who_comes_while_others_are_worked_at_is_told_when_to_ask_again(
    client: Client, monkeypatch: pytest.MonkeyPatch
) -> None:
    one = short(at_once=1)
    monkeypatch.setattr(calculate, "CALCULATING", one)
    monkeypatch.setattr(guarded, "WAIT_S", 0.1)
    at_work = threading.Thread(target=lambda: within(one, time.sleep, 3))
    at_work.start()
    time.sleep(1.0)
    given = example("convert-torque")
    busy = client.flask.post("/api/calc/convert-torque", json=given)
    assert busy.status_code == 503
    assert busy.headers["Retry-After"] == "1"
    at_work.join()
    assert client.flask.post("/api/calc/convert-torque", json=given).status_code == 200


def test_a_job_is_judged_beside_the_server_too(
    client: Client, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(calculate, "JUDGING", short(calculate.JUDGING, seconds=0.2))
    job = (files("rugged_shield.demo") / "choosing.json").read_bytes()
    answer = client.flask.post("/api/assess?quick=1", data=job, content_type="application/json")
    assert answer.status_code == 422
    assert "judging this job" in answer.get_json()["error"]["message"]
