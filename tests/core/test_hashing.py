"""A remembered hash is the same hash, and no part of what a thing is."""

from __future__ import annotations

from dataclasses import asdict, fields, replace

from rugged_shield.core.job.model import Job


def test_equal_things_hash_alike_and_changed_ones_do_not(choosing: Job) -> None:
    bike = choosing.bike
    first = hash(bike)
    twin = replace(bike)
    assert (hash(twin), twin) == (first, bike)
    other = replace(bike, wheelbase_mm=bike.wheelbase_mm + 1)
    assert hash(other) != first
    assert hash(bike) == first


def test_nothing_of_it_shows(choosing: Job) -> None:
    before = asdict(replace(choosing))
    hash(choosing)
    assert asdict(choosing) == before
    assert "_hash" not in {f.name for f in fields(choosing)}
    assert "_hash" not in repr(choosing)
