"""The shelf and the photos beside a job."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path

import pytest

from rugged_shield.core.errors import InputError
from rugged_shield.core.job.model import Job
from rugged_shield.store.database import Database
from rugged_shield.store.repository import NotFoundError, add_job
from rugged_shield.store.shelf import (
    MAX_PHOTOS,
    add_photo,
    keep_bike,
    keep_plate,
    photo,
    photos,
    remove_from_shelf,
    shelf,
    shelf_item,
)


@pytest.fixture
def db(tmp_path: Path) -> Iterator[Database]:
    found = Database(tmp_path)
    found.migrate()
    yield found
    found.close()


def test_what_is_put_there_comes_back_whole(db: Database, choosing: Job) -> None:
    kept = keep_bike(db, choosing.bike)
    own = keep_plate(db, choosing.as_entered("alu5"))
    assert shelf_item(db, kept.id).bike == choosing.bike
    assert shelf_item(db, own.id).plate == choosing.as_entered("alu5")
    assert {i.id for i in shelf(db)} == {kept.id, own.id}
    remove_from_shelf(db, kept.id)
    assert [i.kind for i in shelf(db)] == ["plate"]
    for act in (shelf_item, remove_from_shelf):
        with pytest.raises(InputError):
            act(db, kept.id)


def test_the_same_name_takes_the_place_of_the_old(db: Database, choosing: Job) -> None:
    keep_bike(db, choosing.bike)
    newer = replace(choosing.bike, wheelbase_mm=1500.0)
    keep_bike(db, newer)
    assert [i.bike for i in shelf(db)] == [newer]


def test_photos_belong_to_their_job(db: Database, choosing: Job) -> None:
    add_job(db, "one", choosing, ())
    add_job(db, "two", choosing, ())
    kept = add_photo(db, "one", b"jpeg")
    add_photo(db, "two", b"other", kept)
    assert photo(db, "one", kept) == b"jpeg"
    assert photos(db, "two") == {kept: b"other"}
    with pytest.raises(InputError):
        photo(db, "one", "nothing")
    with pytest.raises(NotFoundError):
        add_photo(db, "three", b"jpeg")
    for _ in range(MAX_PHOTOS - 1):
        add_photo(db, "one", b"jpeg")
    with pytest.raises(InputError, match=str(MAX_PHOTOS)):
        add_photo(db, "one", b"jpeg")
