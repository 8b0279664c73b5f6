"""A slider under the belly is judged in the belly, not at the bare apron in front of the pipe."""

from __future__ import annotations

from dataclasses import replace

import pytest

from rugged_shield.core.assess.fitup.pose import plate_pose
from rugged_shield.core.assess.weighup.heat import HeatExposure, heat_exposures, heat_judged
from rugged_shield.core.job.model import Candidate, Job
from rugged_shield.core.survey.bike import Bike

BARE, SLIDER = 150.0, 80.0
"""What the metal and the plastic bear for long, °C."""


def exposed(bike: Bike, candidate: Candidate) -> tuple[HeatExposure, ...]:
    return heat_exposures(bike, candidate.plate, plate_pose(bike, candidate))


def test_the_slider_counts_where_it_is(choosing: Job) -> None:
    candidate = choosing.candidate("slide4")
    found = exposed(choosing.bike, candidate)
    assert {(e.plastic, e.given.service_limit_c) for e in found} == {(False, BARE), (True, SLIDER)}
    for e in found:
        thick = candidate.plate.thickness_mm + (6.0 if e.plastic else 0.0)
        assert e.given.thickness_mm == pytest.approx(thick)


def test_a_hot_apron_alone_is_metal_that_ages(choosing: Job) -> None:
    """With the belly far below everything hot the plastic has nothing to bear."""
    candidate = choosing.candidate("slide4")
    parts = tuple(
        replace(p, surface_c=700.0 if p.shape == "pipe" else None) for p in choosing.bike.parts
    )
    found = exposed(replace(choosing.bike, parts=parts), candidate)
    bare = [e for e in found if not e.plastic]
    assert bare
    judged = heat_judged(candidate.plate, tuple(bare)).gravest
    assert judged is not None
    assert (judged.code, judged.verdict) == ("ages in the heat", "mind")


def test_stainless_takes_more_than_aluminium_and_less_than_paint(choosing: Job) -> None:
    def absorbs(key: str) -> float:
        return exposed(choosing.bike, choosing.candidate(key))[0].given.plate_emissivity

    assert absorbs("alu5") < absorbs("stain2") < absorbs("steel25")
