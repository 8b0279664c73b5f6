"""A real small file system that fills up: nothing acknowledged is lost, and it is said plainly."""

from __future__ import annotations

import subprocess
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path

import pytest
from sqlalchemy.exc import DBAPIError

from rugged_shield.core.job.edits.path import Change, set_text
from rugged_shield.core.job.model import Job
from rugged_shield.store.care import check, plain_words
from rugged_shield.store.copies import backup, restore
from rugged_shield.store.database import Database, StoreTroubleError
from rugged_shield.store.repository import add_job, edit_job, load_job
from tests.store.faulty import fill, small_disk


@pytest.fixture
def small(tmp_path: Path) -> Iterator[Path]:
    with small_disk(tmp_path / "small", "3m") as at:
        yield at


def test_writing_until_it_is_full_loses_nothing(small: Path, choosing: Job) -> None:
    folder = small / "data"
    db = Database(folder)
    db.migrate()
    add_job(db, "one", replace(choosing, candidates=choosing.candidates[:1]), ())
    version, full = 1, ""
    for i in range(20_000):
        title = f"t{i} " * 20

        def renamed(job: Job, title: str = title) -> Change:
            return set_text(job, "title", title)

        try:
            saved = edit_job(db, "one", version, f"full-{i:06d}", renamed)
            version = saved.row.version
        except DBAPIError as error:
            full = plain_words(error).message
            break
    assert "disk is full" in full
    row = load_job(db, "one")
    assert row.version == version
    db.close()
    copy = small / "copy"
    with pytest.raises(StoreTroubleError, match="disk is full"):
        backup(folder, copy)
    assert not copy.exists()
    assert list(small.glob("copy*")) == []
    # Room is made: everything that was acknowledged is there.
    subprocess.run(["mount", "-o", "remount,size=40m", str(small)], check=True)
    assert check(folder) == []
    again = Database(folder)
    assert load_job(again, "one").version == version
    again.close()


def test_a_restore_onto_a_full_disk_leaves_the_old(
    small: Path, tmp_path: Path, choosing: Job
) -> None:
    def made(folder: Path, title: str) -> Path:
        db = Database(folder)
        db.migrate()
        add_job(db, "one", replace(choosing, title=title, candidates=choosing.candidates[:1]), ())
        db.close()
        return folder

    backup(made(tmp_path / "new", "the new"), tmp_path / "new.sqlite3")
    folder = made(small / "data", "the old")
    ballast = small / "ballast"
    fill(ballast)
    with pytest.raises(StoreTroubleError, match="disk is full"):
        restore(folder, tmp_path / "new.sqlite3")
    ballast.unlink()
    assert check(folder) == []
    db = Database(folder)
    assert load_job(db, "one").job.title == "the old"
    db.close()
