"""Numbers of a job that nobody measured: where they are, and the job with another in place."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Any, Literal

from rugged_shield.core.job import Candidate, Job
from rugged_shield.core.job.edits import label_of
from rugged_shield.core.judgement.known import band_of, banded, fact_of

About = Literal["bike", "part", "mount", "plate"]


@dataclass(frozen=True)
class UncertainNumber:
    """An uncertain number of the job and how to put another in its place."""

    about: About
    key: str
    path: str
    owner: Any
    field: str

    @property
    def words(self) -> str:
        """Whose it is and what it is called."""
        return f"{self.owner.name}: {label_of(self.field)}"


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
            if fact_of(owner, field).known != "measured" and band_of(owner, field) > 0:
                yield UncertainNumber(about, key, path, owner, field)


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
