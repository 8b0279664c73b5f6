"""The day of what is due is the rider's day, wherever the clock of the record runs."""

from __future__ import annotations

from datetime import date

import pytest
from icalendar import Calendar

from rugged_shield.formats.calendar import CalendarHead, calendar
from tests.core.keep.test_due import event


@pytest.mark.parametrize(
    ("now", "day"),
    [
        ("2026-12-01T00:30:00+11:00", date(2026, 12, 1)),
        ("2026-11-30T20:30:00-05:00", date(2026, 11, 30)),
        ("2026-12-01T01:30:00+00:00", date(2026, 12, 1)),
    ],
)
def test_what_is_due_now_is_due_on_the_riders_day(now: str, day: date) -> None:
    made = calendar(CalendarHead("j", "Job", 1, now), (event("wash"),))
    found = Calendar.from_ical(made).walk("VEVENT")[0]
    assert found.decoded("dtstart") == day
