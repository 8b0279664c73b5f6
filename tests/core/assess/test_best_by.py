"""Which plate ranks first, asked of bounds that come closer: the same as by all that is known."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rugged_shield.core.assess.weighup.ranking import (
    Bounds,
    Values,
    best_by,
    bounds_of,
    criteria_of,
    values_of,
)
from rugged_shield.core.assess.weighup.scorecard import weigh
from rugged_shield.core.job.model import Job, Priorities
from rugged_shield.core.weighup.decide import UNKNOWN_VALUE, DecideInput, Option, first_of, value_of
from tests.conftest import demo_file, small_sheet

JOB = demo_file("choosing").job
SHARES = st.floats(0.0, 1.0)
HELD = st.one_of(st.none(), st.floats(20.0, 95.0))
"""What is shielded and held, %; None: the plate has no map."""


def values(job: Job, held: float | None) -> Values:
    """A plate that differs from others in nothing else."""
    return tuple(held if c.name == "protect the engine" else 2.0 for c in criteria_of(job))


@given(st.lists(st.tuples(HELD, SHARES, SHARES), min_size=8, max_size=8), st.integers(1, 5))
def test_it_is_the_first_of_what_is_known_in_the_end(
    plates: list[tuple[float | None, float, float]], weight: int
) -> None:
    job = replace(JOB, priorities=Priorities(protect_the_engine=weight, keep_it_light=3))
    told = dict(zip((c.key for c in job.candidates), plates, strict=True))
    looked: list[str] = []

    def closer(key: str) -> Iterator[Bounds]:
        held, above, below = told[key]
        most = 95.0 if held is None else held + above * (95.0 - held)
        yield values(job, most), values(job, (held or 0.0) * below)
        looked.append(key)
        yield values(job, held), values(job, held)

    options = [Option(c.key, c.plate.name, values(job, told[c.key][0])) for c in job.candidates]
    known = first_of(DecideInput(criteria_of(job), tuple(options)))
    assert best_by(job, job.candidates, closer) == known
    assert len(looked) == len(set(looked))


def test_who_cannot_lead_is_not_looked_at() -> None:
    best, worst = (tuple(getattr(c, end) for c in criteria_of(JOB)) for end in ("best", "worst"))

    def closer(key: str) -> Iterator[Bounds]:
        yield (best, best) if key == "alu5" else (worst, worst)
        pytest.fail(f"{key} was looked at")

    assert best_by(JOB, JOB.candidates, closer) == "alu5"


@pytest.mark.parametrize("without_map", [False, True])
def test_what_a_shell_says_lies_within_the_bounds(without_map: bool) -> None:
    job = JOB
    if without_map:  # nothing holds it: no strike, and its share is not known
        own = job.as_entered("alu35")
        job = job.with_candidate(replace(own, joints=(), plate=small_sheet(own.plate)))
    place = [c.name for c in criteria_of(job)].index("protect the engine")
    scale = criteria_of(job)[place]

    def scored(held: float | None) -> float:
        return UNKNOWN_VALUE if held is None else value_of(scale, held)

    for plate in job.candidates:
        weighed = weigh(job, plate.key)
        most, least = bounds_of(job, weighed)
        known = values_of(job, weighed)
        assert scored(least[place]) <= scored(known[place]) <= scored(most[place])
        rest = [v[:place] + v[place + 1 :] for v in (least, known, most)]
        assert rest[0] == rest[1] == rest[2]
        if plate.key == "alu35":
            assert (known[place] is None) == without_map
