"""Moments over the nights in which clocks are changed, and in every zone."""

from __future__ import annotations

import time
from collections.abc import Iterator
from datetime import UTC, datetime, timedelta, timezone

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rugged_shield.core.assess.keep.due import put_off_stands
from rugged_shield.core.assess.keep.history import moments
from rugged_shield.core.event import PlateRecord
from rugged_shield.core.keep.events import Noted, Snoozed
from rugged_shield.core.moments import later, minute_words, seconds_of
from rugged_shield.core.tighten.curing import has_passed, lies_ahead
from tests.conftest import demo_file

ZONES = {
    "CET-1CEST,M3.5.0,M10.5.0/3": ("2026-03-29T02:59:59", "2026-10-25T02:30:00"),
    "EST5EDT,M3.2.0,M11.1.0": ("2026-03-08T01:59:59", "2026-11-01T01:30:00"),
    "NZST-12NZDT,M9.5.0,M4.1.0/3": ("2026-09-27T01:59:59", "2026-04-05T02:30:00"),
    "<+1245>-12:45<+1345>,M9.5.0/2:45,M4.1.0/3:45": ("2026-09-27T02:44:59", "2026-04-05T03:00:00"),
    "IST-5:30": ("2026-03-29T02:30:00", "2026-10-25T02:30:00"),
    "UTC0": ("2026-03-29T02:30:00", "2026-10-25T02:30:00"),
}
"""Rules of a zone (POSIX), with a moment before clocks go on there and one before they go back."""


@pytest.fixture(params=sorted(ZONES))
def zone(request: pytest.FixtureRequest, monkeypatch: pytest.MonkeyPatch) -> Iterator[str]:
    monkeypatch.setenv("TZ", request.param)
    time.tzset()
    yield request.param
    monkeypatch.undo()
    time.tzset()


def told(moment: datetime) -> str:
    """As a line of the record is stamped: with the offset that holds here at that moment."""
    return moment.astimezone().isoformat(timespec="seconds")


@pytest.mark.parametrize("hours", [0.25, 3.0, 24.0, 72.0])
def test_a_cure_takes_its_hours_over_every_change_of_clocks(zone: str, hours: float) -> None:
    for local in ZONES[zone]:
        torqued = datetime.fromisoformat(local).astimezone()
        until = later(told(torqued), int(hours * 3600))
        holds = torqued.astimezone(UTC) + timedelta(hours=hours)
        assert seconds_of(until) == int(holds.timestamp())
        assert until[-6:] == told(torqued)[-6:], "in the zone in which it was told"
        assert not has_passed(until, told(holds - timedelta(seconds=1)))
        assert has_passed(until, told(holds))
        assert not lies_ahead(told(torqued), told(torqued))


def test_what_is_put_off_until_a_day_comes_with_the_riders_midnight(zone: str) -> None:
    for local in ZONES[zone]:
        day = datetime.fromisoformat(local).astimezone().date() + timedelta(days=1)
        midnight = datetime(day.year, day.month, day.day).astimezone()
        off = Snoozed(plate="p", due="look", until=f"{day}", reason="away")
        before = told(midnight - timedelta(minutes=1))
        assert put_off_stands(off, PlateRecord(()), None, before)
        assert not put_off_stands(off, PlateRecord(()), None, told(midnight))


def test_lines_from_two_zones_stand_in_the_order_in_which_they_happened() -> None:
    file = demo_file("in_service")
    last = file.records[-1].seq
    east = Noted(seq=last + 1, at="2027-01-02T01:00:00+13:00", text="noon of the first in UTC")
    west = Noted(seq=last + 2, at="2027-01-01T14:00:00+01:00", text="an hour later")
    found = moments(file.job, (*file.records, east, west))
    assert [m.words for m in found[-2:]] == [east.text, west.text]


OFFSETS = st.integers(-14 * 60, 14 * 60).map(lambda m: timezone(timedelta(minutes=m)))


@given(st.datetimes(datetime(1990, 1, 1), datetime(2090, 1, 1)), OFFSETS, st.integers(0, 10**7))
def test_later_is_so_much_later(local: datetime, offset: timezone, seconds: int) -> None:
    at = local.replace(microsecond=0, tzinfo=offset)
    said = later(at.isoformat(), seconds)
    assert datetime.fromisoformat(said) == at + timedelta(seconds=seconds)
    assert said[-6:] == at.isoformat()[-6:]


@pytest.mark.parametrize(
    ("at", "words"),
    [
        ("2026-12-02T09:30:12+00:00", "2026-12-02 09:30"),
        ("2026-12-02T09:30:12Z", "2026-12-02 09:30"),
        ("2026-03-29T01:30:00+13:45", "2026-03-29 01:30 +13:45"),
        ("", ""),
    ],
)
def test_a_moment_in_words(at: str, words: str) -> None:
    assert minute_words(at) == words
    assert at or later(at, 5) == ""
