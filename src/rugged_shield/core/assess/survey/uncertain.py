"""Numbers of a job that nobody measured: where they are, and the job with another in place."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Any, Literal

from rugged_shield.core.job.edits.path import label_of
from rugged_shield.core.job.model import Candidate, Job
from rugged_shield.core.judgement.known import band_of, banded, fact_of
from rugged_shield.core.survey.front_wheel import (
    ASSUMED_TRAVEL_MM,
    MOST_TRAVEL_MM,
    PLAUSIBLE_RAKES_DEG,
)

_SURE = ("measured", "tried")
About = Literal["bike", "part", "mount", "plate"]


@dataclass(frozen=True)
class UncertainNumber:
    """An uncertain number of the job and how to put another in its place."""

    about: About
    key: str
    path: str
    owner: Any
    field: str
    plausible: tuple[float, float, float] | None = None
    """Least, usual and most of a number that nobody entered at all; None where one stands."""

    @property
    def known(self) -> str:
        """How it is known; a number that is not there is missing."""
        return "missing" if self.plausible else fact_of(self.owner, self.field).known

    @property
    def value(self) -> float:
        """The number that stands; of one that is missing, the usual one."""
        return self.plausible[1] if self.plausible else float(getattr(self.owner, self.field))

    @property
    def band(self) -> float:
        """Half the width of what it may be."""
        if self.plausible is None:
            return band_of(self.owner, self.field)
        return (self.plausible[2] - self.plausible[0]) / 2

    @property
    def ends(self) -> tuple[float, float]:
        """The least and the most that it may be."""
        if self.plausible is not None:
            return self.plausible[0], self.plausible[2]
        return self.value - self.band, self.value + self.band

    @property
    def words(self) -> str:
        """Whose it is and what it is called."""
        return f"{self.owner.name}: {label_of(self.field)}"


MISSING: dict[str, tuple[float, float, float]] = {
    "front_travel_mm": (100.0, ASSUMED_TRAVEL_MM, MOST_TRAVEL_MM),
    "rake_deg": PLAUSIBLE_RAKES_DEG,
}
"""Numbers of a bike that may be missing: least, usual and most plausible."""


def uncertain_numbers(job: Job) -> tuple[UncertainNumber, ...]:
    """Every number of the job that is not measured and has a band."""
    return tuple(_all(job))


def _all(job: Job) -> Iterator[UncertainNumber]:
    owners: list[tuple[About, str, str, Any]] = [("bike", "", "bike", job.bike)]
    owners += [("part", p.key, f"bike.parts.{p.key}", p) for p in job.bike.parts]
    owners += [("mount", m.key, f"bike.mounts.{m.key}", m) for m in job.bike.mounts]
    owners += [("plate", c.key, f"candidates.{c.key}.plate", c.plate) for c in job.candidates]
    for about, key, path, owner in owners:
        for field in banded(owner):
            if fact_of(owner, field).known not in _SURE and band_of(owner, field) > 0:
                yield UncertainNumber(about, key, path, owner, field)
    for field, plausible in MISSING.items():
        if getattr(job.bike, field) is None:
            yield UncertainNumber("bike", "", "bike", job.bike, field, plausible)


def job_at(job: Job, path: str, field: str, value: Any) -> Job:
    """The job with one number of bike, part, mount or plate put to ``value``.

    Raises InputError where the number cannot be that.
    """
    names = path.split(".")
    if names[0] == "candidates":
        own: Candidate = job.as_entered(names[1])
        return job.with_candidate(replace(own, plate=replace(own.plate, **{field: value})))
    if len(names) == 1:
        return replace(job, bike=replace(job.bike, **{field: value}))
    _, listed, key = names
    items: Any = tuple(
        replace(item, **{field: value}) if item.key == key else item
        for item in getattr(job.bike, listed)
    )
    changed: dict[str, Any] = {listed: items}
    return replace(job, bike=replace(job.bike, **changed))
