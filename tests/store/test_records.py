"""A record that was read is not read again, and nobody reads what was not written."""

from __future__ import annotations

from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from sqlalchemy import event

from rugged_shield.core.errors import InputError
from rugged_shield.core.job.events import Entry, Record
from rugged_shield.core.keep.events import Noted
from rugged_shield.demo.jobs import load_demo
from rugged_shield.store.database import Database
from rugged_shield.store.repository import append_record, load_job, step_back, step_forward

JOB = "in-service"


@pytest.fixture(scope="module")
def demo(tmp_path_factory: pytest.TempPathFactory) -> Database:
    db = Database(tmp_path_factory.mktemp("records"))
    db.migrate()
    load_demo(db)
    return db


def anew(db: Database) -> Record:
    """The record as somebody reads it who knows nothing yet."""
    other = Database(db.folder)
    try:
        return load_job(other, JOB).records
    finally:
        other.close()


def note(db: Database, key: str) -> None:
    def make(_row: object) -> Entry:
        return Entry(Noted(text=key), f"note: {key}")

    append_record(db, JOB, load_job(db, JOB).version, key, make)


def test_the_same_record_is_the_very_same(demo: Database) -> None:
    first = load_job(demo, JOB).records
    asked: list[str] = []
    event.listen(demo.engine, "before_cursor_execute", lambda *a: asked.append(a[2]))
    assert load_job(demo, JOB).records is first
    assert not any("event.kind" in sql for sql in asked)
    note(demo, "one-more-line")
    assert load_job(demo, JOB).records[:-1] == first


def test_a_write_that_is_taken_back_leaves_no_trace(demo: Database) -> None:
    """Its number is given to the next line: whoever kept it would show the wrong one."""
    before = load_job(demo, JOB)

    def fails(_row: object) -> Entry:
        raise InputError("note", "", "words")

    with pytest.raises(InputError):
        append_record(demo, JOB, before.version, "fails", fails)
    note(demo, "after-the-failure")
    assert load_job(demo, JOB).records == anew(demo)


@settings(max_examples=25, deadline=None)
@given(st.lists(st.sampled_from(["note", "back", "forward", "look"]), max_size=12))
def test_whatever_is_done_everybody_reads_the_same(demo: Database, acts: list[str]) -> None:
    for i, act in enumerate(acts):
        version = load_job(demo, JOB).version
        key = f"act-{version}-{i}-{act}"
        if act == "note":
            note(demo, key)
        elif act != "look":
            step = step_back if act == "back" else step_forward
            try:
                step(demo, JOB, version, key)
            except InputError:
                continue  # nothing to take back
        assert load_job(demo, JOB).records == anew(demo)


def test_two_folders_know_nothing_of_each_other(tmp_path: Path, demo: Database) -> None:
    other = Database(tmp_path / "other")
    other.migrate()
    load_demo(other)
    note(other, "only-there")
    assert load_job(other, JOB).records != load_job(demo, JOB).records
    other.close()


def test_what_a_write_saw_is_kept_once_it_stands(demo: Database) -> None:
    """Whoever looks after a write reads nothing of it again; the record is the very same."""
    note(demo, "kept-when-it-stands")
    asked: list[str] = []
    event.listen(demo.engine, "before_cursor_execute", lambda *a: asked.append(a[2]))
    grown = load_job(demo, JOB).records
    assert not any("event.kind" in sql for sql in asked)
    assert grown == anew(demo)


def test_a_transaction_that_fails_at_its_end_keeps_nothing(demo: Database) -> None:
    before = load_job(demo, JOB)

    def fails(_connection: object) -> None:
        raise InputError("disk", "full", "room")

    event.listen(demo.engine, "commit", fails, once=True)
    with pytest.raises(InputError):
        note(demo, "fails-at-the-end")
    assert load_job(demo, JOB) == before
    note(demo, "after-the-end")
    assert load_job(demo, JOB).records == anew(demo)
