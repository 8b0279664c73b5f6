"""What happened to a plate as a sheet tells it: rides one after the other in one line."""

from __future__ import annotations

from itertools import groupby

from rugged_shield.core.amounts import amount
from rugged_shield.core.assess.keep.history import Moment, moments
from rugged_shield.core.event import of_kind
from rugged_shield.core.job.events import Record
from rugged_shield.core.job.model import Job
from rugged_shield.core.keep.events import Ridden


def _line(moment: Moment) -> str:
    voided = f" (voided: {moment.voided})" if moment.voided else ""
    return f"{moment.at[:10]} {moment.words}{voided}"


def _rides(run: list[Moment], rides: dict[int, Ridden]) -> str:
    """Rides of which none stands apart: from when to when, how many, how far and how long.

    What was not said of one of them is in no sum: the line says of how many it is.
    """
    told = [rides[m.seq] for m in run]
    km = [r.km for r in told if r.km is not None]
    hours = [r.hours for r in told if r.hours is not None]
    said = [f"ridden {len(run)} times"]
    for values, unit, places in ((km, "km", 0), (hours, "h", 1)):
        if values:
            of = "" if len(values) == len(run) else f" in {len(values)} of them"
            said.append(amount(sum(values), unit, places) + of)
    return f"{run[0].at[:10]} to {run[-1].at[:10]} {', '.join(said)}"


def story(job: Job, record: Record) -> tuple[str, ...]:
    """A line for each moment, the newest last; rides in a row are one. Voided ones stay apart."""
    rides = {e.seq: e for e in of_kind(record, Ridden)}
    lines: list[str] = []
    told = moments(job, record)
    for is_ride, group in groupby(told, key=lambda m: m.seq in rides and not m.voided):
        run = list(group)
        if is_ride and len(run) > 1:
            lines.append(_rides(run, rides))
        else:
            lines.extend(map(_line, run))
    return tuple(lines)
