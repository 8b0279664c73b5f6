"""Backup and restore: killed anywhere, onto itself, on a full disk: the old or the new, said."""

from __future__ import annotations

import multiprocessing
import os
import random
import signal
import sqlite3
import time
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

import pytest

from rugged_shield.core.job.edits.path import set_text
from rugged_shield.core.job.model import Job
from rugged_shield.store import copies
from rugged_shield.store.care import check, owned, problems_of
from rugged_shield.store.copies import (
    COPIES,
    KEPT_COPIES,
    backup,
    copy_before_start,
    finish_restore,
    restore,
)
from rugged_shield.store.database import FILE_NAME, Database, StoreTroubleError
from rugged_shield.store.repository import (
    add_job,
    edit_job,
    job_ids,
    load_job,
    raw_job,
    unreadable_jobs,
)

KILLS = int(os.environ.get("SHIELD_KILLS", "16"))
"""Of backup and restore each; ``make hostile`` asks for 100 of each."""


def titled(folder: Path, job: Job, title: str) -> Path:
    """A data folder with one job of that title."""
    db = Database(folder)
    db.migrate()
    small = replace(job, title=title, candidates=job.candidates[:1], counts=())
    add_job(db, "one", small, ())
    db.close()
    return folder


def title_in(folder: Path) -> str:
    db = Database(folder)
    try:
        return load_job(db, "one").job.title
    finally:
        db.close()


@pytest.fixture
def old(tmp_path: Path, choosing: Job) -> Path:
    return titled(tmp_path / "old", choosing, "the old")


@pytest.fixture
def new(tmp_path: Path, choosing: Job) -> Path:
    """A backup of another folder."""
    backup(titled(tmp_path / "new", choosing, "the new"), tmp_path / "new.sqlite3")
    return tmp_path / "new.sqlite3"


def test_a_backup_comes_back_and_what_was_there_is_kept(old: Path, new: Path) -> None:
    kept = restore(old, new)
    assert kept is not None
    assert title_in(old) == "the new"
    assert check(old) == []
    restore(old, kept)
    assert title_in(old) == "the old"
    assert sorted(p.name for p in old.glob("*.replaced-*")) == [kept.name, kept.name[:-1] + "2"]


def test_a_backup_while_another_writes_is_sound(old: Path, tmp_path: Path) -> None:
    db = Database(old)
    for i in range(4):
        edit_job(db, "one", i + 1, f"key-{i}", lambda j, i=i: set_text(j, "title", f"t{i}"))
        backup(old, tmp_path / f"copy-{i}")
        assert problems_of(tmp_path / f"copy-{i}") == []
    with sqlite3.connect(tmp_path / "copy-2") as raw:
        assert raw.execute("SELECT version FROM job").fetchone() == (4,)
    raw.close()
    db.close()


def test_a_backup_never_falls_on_the_live_file(old: Path, tmp_path: Path) -> None:
    """By its own name, through a link of either kind, or onto its log."""
    live = old / FILE_NAME
    (tmp_path / "soft").symlink_to(live)
    (tmp_path / "hard").hardlink_to(live)
    before = live.read_bytes()
    for target in (live, tmp_path / "soft", tmp_path / "hard", old / f"{FILE_NAME}-wal"):
        with pytest.raises(StoreTroubleError, match="itself"):
            backup(old, target, overwrite=True)
        with pytest.raises(StoreTroubleError):
            restore(old, target)
    assert live.read_bytes() == before
    assert title_in(old) == "the old"


def test_a_backup_that_is_there_is_overwritten_only_when_asked(old: Path, tmp_path: Path) -> None:
    target = tmp_path / "notes.txt"
    target.write_text("my notes")
    with pytest.raises(StoreTroubleError, match="already a file"):
        backup(old, target)
    assert target.read_text() == "my notes"
    backup(old, target, overwrite=True)
    assert problems_of(target) == []
    with pytest.raises(StoreTroubleError, match="is a folder"):
        backup(old, tmp_path, overwrite=True)


def test_a_database_of_something_else_is_no_backup(old: Path, tmp_path: Path) -> None:
    with sqlite3.connect(tmp_path / "other.sqlite3") as raw:
        raw.execute("CREATE TABLE recipe (name TEXT)")
    raw.close()
    with pytest.raises(StoreTroubleError, match="lacks tables"):
        restore(old, tmp_path / "other.sqlite3")
    assert title_in(old) == "the old"


def test_an_unreadable_job_is_named_and_comes_out_raw(old: Path, choosing: Job) -> None:
    db = Database(old)
    add_job(db, "two", replace(choosing, title="fine", candidates=choosing.candidates[:1]), ())
    with sqlite3.connect(old / FILE_NAME) as raw:
        raw.execute("UPDATE job SET facts = json_remove(facts, '$.bike') WHERE id = 'one'")
    raw.close()
    assert set(unreadable_jobs(db)) == {"one"}
    assert load_job(db, "two").job.title == "fine"
    assert '"title": "the old"' in raw_job(db, "one")
    assert job_ids(db) == ("one", "two")
    db.close()
    assert [p.startswith("Job one cannot be read") for p in check(old)] == [True]
    with pytest.raises(StoreTroubleError, match="Job one"):
        backup(old, old / "copy")
    assert not (old / "copy").exists()


def killed_at_random(work: Callable[[], None], rng: random.Random) -> None:
    """A process of its own that works until it is killed, a moment after it began."""
    child = multiprocessing.get_context("fork").Process(target=work)
    child.start()
    time.sleep(rng.uniform(0.0, 0.12))
    os.kill(child.pid or 0, signal.SIGKILL)
    child.join()


def test_backups_that_are_killed_ruin_nothing(old: Path, tmp_path: Path) -> None:
    target = tmp_path / "copy.sqlite3"
    backup(old, target)

    def over_and_over() -> None:
        while True:
            backup(old, target, overwrite=True)

    rng = random.Random(5)
    for _ in range(KILLS):
        killed_at_random(over_and_over, rng)
        assert problems_of(target) == []
        assert check(old) == []


def left_beside(folder: Path) -> list[str]:
    """What a restore may leave while it runs, and nobody after it."""
    marks = (".incoming", ".restoring", ".aside-")
    return [f.name for f in folder.iterdir() if any(mark in f.name for mark in marks)]


def test_the_next_start_sweeps_up_what_a_kill_left_half_written(old: Path) -> None:
    (old / f"{FILE_NAME}.restoring.part").write_text("half a no")
    aside = old / f"{FILE_NAME}.aside-x1"
    aside.mkdir()
    (aside / FILE_NAME).write_bytes(b"looked at")
    with owned(old):
        assert finish_restore(old) == ""
    assert left_beside(old) == []
    assert title_in(old) == "the old"


def test_restores_that_are_killed_leave_the_old_or_the_new(
    old: Path, new: Path, tmp_path: Path
) -> None:
    first = tmp_path / "first.sqlite3"
    backup(old, first)

    def over_and_over() -> None:
        while True:
            for source in (new, first):
                restore(old, source)
                for kept in old.glob("*.replaced-*"):
                    kept.unlink()

    rng, seen, said = random.Random(6), set(), set()
    for _ in range(KILLS):
        killed_at_random(over_and_over, rng)
        with owned(old):
            said.add(finish_restore(old)[:40])
        assert check(old) == []
        seen.add(title_in(old))
    assert seen <= {"the old", "the new"}
    assert len(said) > 1, "it was interrupted in the midst of it at least once"
    assert left_beside(old) == []


STEPS = ("_verified", "_write_note", "_keep", "_swap", "_synced", "_put", "_copy")


class Killed(BaseException):
    """Stands for the end of the process: nothing of it runs any more but the next start."""


@pytest.mark.parametrize("step", STEPS)
@pytest.mark.parametrize("before", [True, False])
def test_a_restore_that_ends_at_any_step(
    old: Path, new: Path, step: str, before: bool, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Each step in turn is the last one: just before it, or just after."""
    real = getattr(copies, step)

    def last(*given: object) -> object:
        if not before:
            real(*given)
        raise Killed

    monkeypatch.setattr(copies, step, last)
    with pytest.raises(Killed):
        restore(old, new)
    monkeypatch.undo()
    with owned(old):
        said = finish_restore(old)
    title = title_in(old)
    assert check(old) == []
    if "finished" in said:
        assert title == "the new"
        assert [title_of(kept) for kept in old.glob("*.replaced-*")] == ["the old"]
    else:
        assert title == ("the new" if step == "_swap" and not before else "the old")


def title_of(file: Path) -> str:
    with sqlite3.connect(file) as raw:
        found = raw.execute("SELECT title FROM job").fetchone()[0]
    raw.close()
    return str(found)


def test_a_full_disk_while_restoring_leaves_the_old(
    old: Path, new: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    def full(*_given: object) -> None:
        raise OSError(28, "No space left on device")

    for step, left in (("_copy", "the old"), ("_write_note", "the old"), ("_keep", "the new")):
        monkeypatch.setattr(copies, step, full)
        with pytest.raises(StoreTroubleError, match="disk is full"):
            restore(old, new)
        monkeypatch.undo()
        with owned(old):
            finish_restore(old)
        assert check(old) == []
        assert title_in(old) == left, "past its note a restore is finished, before it never was"


def test_a_copy_before_each_start_that_follows_a_change(old: Path) -> None:
    first = copy_before_start(old)
    assert first is not None
    assert problems_of(first) == []
    assert copy_before_start(old) is None, "nothing changed"
    for i in range(KEPT_COPIES + 2):
        db = Database(old)
        edit_job(db, "one", i + 1, f"key-{i}", lambda j, i=i: set_text(j, "title", f"t{i}"))
        db.close()
        assert copy_before_start(old) is not None
    there = sorted((old / COPIES).iterdir())
    assert len(there) == KEPT_COPIES
    assert title_of(there[-1]) == f"t{KEPT_COPIES + 1}"
    assert first not in there


def test_a_damaged_database_pushes_out_no_good_copy(old: Path) -> None:
    copy_before_start(old)
    data = bytearray((old / FILE_NAME).read_bytes())
    data[5000:9000] = os.urandom(4000)
    (old / FILE_NAME).write_bytes(data)
    assert copy_before_start(old) is None
    assert len(list((old / COPIES).iterdir())) == 1
