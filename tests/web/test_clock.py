"""The clock of the pages: set on, set back, across starts of the server and of the computer."""

from __future__ import annotations

import json
import time
from datetime import datetime, timedelta
from pathlib import Path

import pytest

from rugged_shield.web.clock import MARK, Clock, clock_of

DAY_S = 86_400.0


@pytest.fixture
def boot(tmp_path: Path) -> Path:
    file = tmp_path / "boot_id"
    file.write_text("one\n")
    return file


@pytest.fixture
def set_on(monkeypatch: pytest.MonkeyPatch) -> list[float]:
    """How far the time of day is set on, s; a test changes it."""
    by, real = [0.0], time.time
    monkeypatch.setattr(time, "time", lambda: real() + by[0])
    return by


def ahead(clock: Clock, of: datetime) -> timedelta:
    return datetime.fromisoformat(clock.now_iso()) - of


MINUTE = timedelta(minutes=1)


def test_a_clock_that_is_set_on_lets_no_time_pass(tmp_path: Path, set_on: list[float]) -> None:
    """What the pages call now follows the clock back, and not ahead of what has passed."""
    clock = clock_of(tmp_path)
    true = datetime.fromisoformat(clock.now_iso())
    set_on[0] = 3 * DAY_S
    assert ahead(clock, true) < MINUTE
    set_on[0] = -DAY_S
    assert ahead(clock, true) < -timedelta(hours=23)
    set_on[0] = 0.0
    assert timedelta(0) <= ahead(clock, true) < MINUTE, "set right again"


def test_nor_between_two_starts_of_the_server(
    tmp_path: Path, boot: Path, set_on: list[float]
) -> None:
    true = datetime.fromisoformat(clock_of(tmp_path, boot).now_iso())
    set_on[0] = 2 * DAY_S
    assert ahead(clock_of(tmp_path, boot), true) < MINUTE
    assert ahead(clock_of(tmp_path, boot), true) < MINUTE, "and the one after"
    boot.write_text("two\n")
    fresh = clock_of(tmp_path, boot)
    assert ahead(fresh, true) > timedelta(hours=47), "the computer started anew: it is believed"


@pytest.mark.parametrize("text", ["", "[]", '{"boot": "one"}', '{"boot": "one", "told_s": []}'])
def test_a_mark_that_says_nothing_is_made_anew(tmp_path: Path, boot: Path, text: str) -> None:
    (tmp_path / MARK).write_text(text)
    now = datetime.fromisoformat(clock_of(tmp_path, boot).now_iso())
    assert abs(now.timestamp() - time.time()) < 60.0
    assert json.loads((tmp_path / MARK).read_text())["boot"] == "one"


def test_a_system_that_numbers_no_starts_is_believed(tmp_path: Path) -> None:
    clock = clock_of(tmp_path, tmp_path / "none")
    assert abs(datetime.fromisoformat(clock.now_iso()).timestamp() - time.time()) < 60.0
    assert not (tmp_path / MARK).exists()


@pytest.mark.parametrize("zone", ["UTC0", "CET-1CEST,M3.5.0,M10.5.0/3", "<+1245>-12:45"])
def test_now_is_the_same_moment_in_every_zone(
    zone: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    with monkeypatch.context() as there:
        there.setenv("TZ", zone)
        time.tzset()
        now = datetime.fromisoformat(clock_of(tmp_path).now_iso())
        offset = now.astimezone().utcoffset()
    time.tzset()
    assert abs(now.timestamp() - time.time()) < 5.0
    assert now.utcoffset() == offset
