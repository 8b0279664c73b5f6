"""A remembered hash is the same hash, and no part of what a thing is."""

from __future__ import annotations

from dataclasses import fields, replace

from rugged_shield.core.assess import Job
from rugged_shield.formats.jobfile import job_to_json


def test_equal_things_hash_alike_and_changed_ones_do_not(choosing: Job) -> None:
    bike = choosing.bike
    first = hash(bike)
    twin = replace(bike)
    assert (hash(twin), twin) == (first, bike)
    other = replace(bike, wheelbase_mm=bike.wheelbase_mm + 1)
    assert hash(other) != first
    assert hash(bike) == first


def test_nothing_of_it_shows(choosing: Job) -> None:
    before = job_to_json(replace(choosing))
    hash(choosing)
    assert job_to_json(choosing) == before
    assert "_hash" not in {f.name for f in fields(choosing)}
    assert "_hash" not in repr(choosing)
