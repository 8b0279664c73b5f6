"""Mass over the years: what was bolted on and when, its sum, and how far the springs give."""

from __future__ import annotations

from dataclasses import dataclass

from rugged_shield.core.assess.keep.due import kept
from rugged_shield.core.assess.weighup.scorecard import budget_of
from rugged_shield.core.figures import figure
from rugged_shield.core.job.events import Record
from rugged_shield.core.job.model import Job
from rugged_shield.core.result import Figure, Finding, Source
from rugged_shield.core.survey.ride import ride_of

_SOURCE = Source("statics of two wheels; wheel rates from the sag readings", "high")
UNDATED = "no date entered"


@dataclass(frozen=True, kw_only=True)
class MassMoment:
    """Something bolted on or taken off: when, its mass, all that is on since, what the springs
    give under it, mm (not known without sag readings).
    """

    at: str
    name: str
    mass: Figure
    total: Figure
    front: Figure
    rear: Figure


def _said(key: str, label: str, value: float | None, unit: str, why: tuple[Finding, ...]) -> Figure:
    reason = "Everything up to then; what has no date is taken as there before all else."
    findings = why if value is None else ()
    return figure(
        f"years:{key}", label, value, unit, findings=findings, reasons=(reason,), sources=(_SOURCE,)
    )


def mass_years(job: Job, record: Record, now: str = "") -> tuple[MassMoment, ...]:
    """Every mass by its date, the oldest first; the plate's is the day on which it was fitted.

    What is bought with the plate comes with it. Without a date it stands before all else.
    """
    budget = budget_of(job.bike, job.candidate(job.stock.key), job.in_hand)
    fitted = kept(job, record, now).fitted_at
    with_plate = UNDATED if fitted is None else fitted.at[:10]
    dates = {added.name: added.since or UNDATED for added in job.bike.added}
    lines = [(dates.get(line.name, with_plate), line) for line in budget.lines]
    lines.sort(key=lambda dated: "" if dated[0] == UNDATED else dated[0])
    ride = ride_of(job.bike)
    total, front, rear = 0.0, 0.0, 0.0
    found = []
    for at, line in lines:
        total += line.mass_kg
        if ride is not None:
            sags = ride.sags_mm(line.mass_kg, line.x_mm)
            front, rear = front + sags[0], rear + sags[1]
        why = budget.findings
        found.append(
            MassMoment(
                at=at,
                name=line.name,
                mass=_said("mass", line.name, line.mass_kg, "kg", why),
                total=_said("total", "On the bike since", total, "kg", why),
                front=_said("front", "Front sinks", None if ride is None else front, "mm", why),
                rear=_said("rear", "Rear sinks", None if ride is None else rear, "mm", why),
            )
        )
    return tuple(found)
