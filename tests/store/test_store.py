"""The store: one transaction a write, versions, repeats, restarts, sound settings."""

from __future__ import annotations

import sqlite3
import threading
from dataclasses import replace
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from sqlalchemy import select, text

from rugged_shield.core.amounts import in_system
from rugged_shield.core.errors import InputError
from rugged_shield.core.job.edits.path import Change, set_text
from rugged_shield.core.job.events import Entry
from rugged_shield.core.job.model import Job
from rugged_shield.core.tighten.events import Started
from rugged_shield.formats.codec import job_to_json
from rugged_shield.formats.jobfile import JobFile
from rugged_shield.store.database import HEAD, Database, default_folder
from rugged_shield.store.diff import diff, revert
from rugged_shield.store.models import Base, EditModel
from rugged_shield.store.repository import (
    NotFoundError,
    StaleError,
    add_job,
    append_record,
    edit_job,
    job_ids,
    load_job,
    standing,
    step_back,
)

THICKNESS = "candidates.alu5.plate.thickness_mm"


@pytest.fixture
def db(tmp_path: Path) -> Database:
    database = Database(tmp_path / "store")
    database.migrate()
    return database


def thick(value: str):  # type: ignore[no-untyped-def]
    return lambda job: set_text(job, THICKNESS, value)


def test_what_goes_in_comes_out(db: Database, half_fitted: JobFile) -> None:
    add_job(db, "one", half_fitted.job, half_fitted.records)
    row = load_job(db, "one")
    assert row.job == half_fitted.job
    assert row.records == half_fitted.records
    assert row.version == 1
    assert job_ids(db) == ("one",)


def test_other_facts_under_the_same_version_are_read(db: Database, half_fitted: JobFile) -> None:
    """What is remembered goes by the stored text: a restore brings others under old numbers."""
    first = half_fitted.records[0]
    add_job(db, "one", half_fitted.job, half_fitted.records)
    assert load_job(db, "one").records[0].at == first.at
    with db.writing() as session:
        session.execute(
            text("UPDATE job SET facts = json_set(facts, '$.title', 'another') WHERE id = 'one'")
        )
        session.execute(text("UPDATE event SET at = '2026-01-02T03:04:05+00:00' WHERE seq = 1"))
    row = load_job(db, "one")
    assert (row.version, row.job.title) == (1, "another")
    assert row.records == (replace(first, at="2026-01-02T03:04:05+00:00"), *half_fitted.records[1:])


def test_the_job_before_an_edit_is_the_one_that_was(db: Database, half_fitted: JobFile) -> None:
    add_job(db, "one", half_fitted.job, half_fitted.records)
    before = load_job(db, "one").job
    first = edit_job(db, "one", 1, "key-0000001", thick("6"))
    second = edit_job(db, "one", 2, "key-0000002", thick("4"))
    back = step_back(db, "one", 3, "key-0000003")
    assert first.standing.before == before != first.row.job
    assert second.standing.before == first.row.job == back.row.job
    assert back.standing.before == second.row.job


def test_a_restart_loses_nothing(tmp_path: Path, choosing: Job) -> None:
    first = Database(tmp_path / "s")
    first.migrate()
    add_job(first, "one", choosing, ())
    edit_job(first, "one", 1, "key-aaaa-1", thick("6"))
    first.close()
    second = Database(tmp_path / "s")
    second.migrate()
    assert load_job(second, "one").job.candidate("alu5").plate.thickness_mm == 6
    assert load_job(second, "one").version == 2


def test_a_write_leaves_an_edit_that_can_be_reverted(db: Database, choosing: Job) -> None:
    add_job(db, "one", choosing, ())
    saved = edit_job(db, "one", 1, "key-aaaa-1", thick("6"))
    assert saved.row.version == 2
    now = standing(db, "one")
    words, before = now.last_act, now.before
    assert words == saved.words
    assert in_system(words) == "Pressed aluminium pan: thickness from 5 mm to 6 mm"
    assert before == choosing
    with db.reading() as session:
        edits = session.scalars(select(EditModel).order_by(EditModel.id)).all()
    assert [e.version for e in edits] == [1, 2]
    plate = ["candidates", 0, "plate"]
    number, fact = edits[1].changes
    assert number == {"path": [*plate, "thickness_mm"], "before": 5, "after": 6.0}
    assert fact["path"] == [*plate, "facts"]
    assert fact["after"][0]["known"] == "printed", "a plate is typed from its sheet"


def test_a_stale_write_is_refused_with_the_newer_content(db: Database, choosing: Job) -> None:
    add_job(db, "one", choosing, ())
    edit_job(db, "one", 1, "key-aaaa-1", thick("6"))
    with pytest.raises(StaleError) as caught:
        edit_job(db, "one", 1, "key-aaaa-2", thick("7"))
    assert caught.value.newer.version == 2
    assert caught.value.newer.job.candidate("alu5").plate.thickness_mm == 6
    assert "6 mm" in caught.value.words
    assert load_job(db, "one").job.candidate("alu5").plate.thickness_mm == 6


def test_a_repeated_key_is_answered_and_not_done_twice(db: Database, choosing: Job) -> None:
    add_job(db, "one", choosing, ())
    entry = Entry(Started(joint="a1"), "started")
    for _ in range(3):
        append_record(db, "one", 1, "key-aaaa-1", lambda _row: entry)
    row = load_job(db, "one")
    assert row.version == 2
    assert len(row.records) == 1


def test_a_write_that_changes_nothing_takes_no_version(db: Database, choosing: Job) -> None:
    add_job(db, "one", choosing, ())
    assert edit_job(db, "one", 1, "key-aaaa-1", thick("5")).row.version == 1


def test_a_refused_change_leaves_no_trace(db: Database, choosing: Job) -> None:
    add_job(db, "one", choosing, ())
    with pytest.raises(InputError):
        edit_job(db, "one", 1, "key-aaaa-1", thick("5000"))

    def half_way(job: Job) -> Change:
        raise RuntimeError("in the middle")

    with pytest.raises(RuntimeError):
        edit_job(db, "one", 1, "key-aaaa-2", half_way)
    assert load_job(db, "one").version == 1
    assert load_job(db, "one").job == choosing


def starting(joint: str):  # type: ignore[no-untyped-def]
    return lambda _row: Entry(Started(seq=99, at="2020-01-01T00:00Z", joint=joint), "started")


def test_record_lines_are_numbered_and_timed_by_the_store(db: Database, choosing: Job) -> None:
    add_job(db, "one", choosing, ())
    for i in range(1, 4):
        append_record(db, "one", i, f"key-aaaa-{i}", starting(f"a{i}"))
    records = load_job(db, "one").records
    assert [r.seq for r in records] == [1, 2, 3]
    assert all(r.at.startswith("20") for r in records)


def test_unknown_job(db: Database) -> None:
    with pytest.raises(NotFoundError):
        load_job(db, "nope")
    with pytest.raises(NotFoundError):
        edit_job(db, "nope", 1, "key-aaaa-1", thick("6"))


def test_settings_of_the_file(db: Database) -> None:
    with db.reading() as session:
        assert session.execute(text("PRAGMA journal_mode")).scalar() == "wal"
        assert session.execute(text("PRAGMA foreign_keys")).scalar() == 1
        assert session.execute(text("PRAGMA synchronous")).scalar() == 2
        assert session.execute(text("PRAGMA integrity_check")).scalar() == "ok"


def test_the_newest_migration_is_the_head_and_gives_the_models_tables(db: Database) -> None:
    versions = Path(__file__).parents[2] / "src/rugged_shield/store/migrations/versions"
    assert max(p.name.split("_")[0] for p in versions.glob("0*.py")) == HEAD
    assert db.revision() == HEAD
    db.migrate()
    with sqlite3.connect(db.path) as raw:
        for table in Base.metadata.sorted_tables:
            columns = {row[1] for row in raw.execute(f"PRAGMA table_info({table.name})")}
            assert columns == {c.name for c in table.columns}


def test_many_writers_none_locked_out(db: Database, choosing: Job) -> None:
    """Four threads write 40 times; each retries on a newer version; nothing is lost."""
    add_job(db, "one", choosing, ())
    failures: list[BaseException] = []

    def work(name: int) -> None:
        done = 0
        while done < 10:
            try:
                version = load_job(db, "one").version
                append_record(db, "one", version, f"thread-{name}-{done}", starting("a1"))
                done += 1
            except StaleError:
                continue
            except BaseException as error:
                failures.append(error)
                return

    threads = [threading.Thread(target=work, args=(i,)) for i in range(4)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert failures == []
    row = load_job(db, "one")
    assert row.version == 41
    assert [r.seq for r in row.records] == list(range(1, 41))


def test_the_data_folder_follows_the_platform(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("XDG_DATA_HOME", "/somewhere")
    assert default_folder() == Path("/somewhere/rugged-shield")


json_values = st.recursive(
    st.none() | st.booleans() | st.integers(-5, 5) | st.text(max_size=3),
    lambda inner: (
        st.lists(inner, max_size=3) | st.dictionaries(st.sampled_from("abc"), inner, max_size=3)
    ),
    max_leaves=12,
)


@given(json_values, json_values)
def test_revert_undoes_any_diff(before: object, after: object) -> None:
    assert revert(after, diff(before, after)) == before


def test_a_small_change_has_a_small_diff(choosing: Job) -> None:
    changed = job_to_json(set_text(choosing, THICKNESS, "6").job)
    assert len(diff(job_to_json(choosing), changed)) == 2
    other = job_to_json(replace(choosing, title="other"))
    assert diff(job_to_json(choosing), other)[0]["path"] == ["title"]
