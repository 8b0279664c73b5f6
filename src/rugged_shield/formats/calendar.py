"""What is due as a calendar (RFC 5545): an all-day event each, a locker's cure at its minute."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import UTC, date, datetime, timedelta

from icalendar import Alarm, Calendar, Event

from rugged_shield.core.amounts import in_system
from rugged_shield.core.keep.dues import Due
from rugged_shield.core.text import one_line
from rugged_shield.core.tighten.curing import LockerClock, has_passed

ALARM = timedelta(hours=8)
"""In the morning of the day."""


@dataclass(frozen=True)
class CalendarHead:
    """Whose calendar: the job's id and title, its version, and what moment it is (ISO 8601).

    Days are those of the moment's own offset: the rider's.
    """

    job: str
    title: str
    version: int
    now: str


def uid_of(job: str, due: str) -> str:
    """The same for the same due thing of the same job, whenever it is asked: it is updated."""
    plain = "".join(c if c.isalnum() else "-" for c in due)
    return f"{job}-{plain}@rugged-shield"


def _day(due: Due, now: datetime) -> date | None:
    """The day on which it is due; what is due now is due today; None where no day is known."""
    if due.state == "now":
        return now.date()
    if due.in_days is None:
        return None
    return (now + timedelta(days=max(0.0, due.in_days))).date()


def _event(head: CalendarHead, due: Due, day: date, now: datetime) -> Event:
    event = Event()
    event.add("uid", uid_of(head.job, due.key))
    event.add("sequence", head.version)
    event.add("dtstamp", now)
    event.add("dtstart", day)
    event.add("dtend", day + timedelta(days=1))
    event.add("summary", f"{due.label}: {head.title}")
    guess = ("The day is a guess from how much was ridden.",) if due.is_forecast else ()
    said = (due.words, due.left, *due.reasons, *guess)
    event.add("description", in_system("\n".join(x for x in said if x)))
    event.add("transp", "TRANSPARENT")
    event.add_component(_alarm(f"{due.label}: {head.title}", ALARM))
    return event


def _alarm(words: str, after: timedelta) -> Alarm:
    alarm = Alarm()
    alarm.add("action", "DISPLAY")
    alarm.add("description", words)
    alarm.add("trigger", after)
    return alarm


def _cure(head: CalendarHead, clock: LockerClock, now: datetime) -> Event:
    """The minute from which a joint's locker holds."""
    until = datetime.fromisoformat(clock.until).astimezone(UTC)
    words = f"Locker of joint {clock.number} holds: {head.title}"
    event = Event()
    event.add("uid", uid_of(head.job, f"cure:{clock.joint}:{clock.since}"))
    event.add("sequence", head.version)
    event.add("dtstamp", now)
    event.add("dtstart", until)
    event.add("dtend", until)
    event.add("summary", words)
    event.add("transp", "TRANSPARENT")
    event.add_component(_alarm(words, timedelta(0)))
    return event


def calendar(
    head: CalendarHead, dues: tuple[Due, ...], clocks: tuple[LockerClock, ...] = ()
) -> str:
    """Everything that is due and has a day, as one calendar; what was put off stays out.

    Lockers that still cure stand in it at the minute from which they hold.
    """
    # A title that came in before titles were one line would break the lines of the file.
    head = replace(head, title=one_line(head.title))
    here = datetime.fromisoformat(head.now)
    now = here.astimezone(UTC)
    made = Calendar()
    made.add("prodid", "-//Rugged Shield//Keep//EN")
    made.add("version", "2.0")
    made.add("x-wr-calname", head.title)
    for due in dues:
        day = _day(due, here)
        if day is not None and due.state != "put off":
            made.add_component(_event(head, due, day, now))
    for clock in clocks:
        if clock.kind == "cure" and clock.until and not has_passed(clock.until, head.now):
            made.add_component(_cure(head, clock, now))
    return str(made.to_ical().decode("utf-8"))
