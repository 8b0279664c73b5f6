"""Killed, full, read-only, locked, damaged, newer: said plainly, and nothing made worse."""

from __future__ import annotations

import os
import random
import shutil
import sqlite3
import time
from collections.abc import Callable
from contextlib import closing
from dataclasses import replace
from functools import partial
from pathlib import Path

import pytest
from sqlalchemy import event
from sqlalchemy.exc import DBAPIError

from rugged_shield.core.job.edits.path import set_text
from rugged_shield.core.job.model import Job
from rugged_shield.demo.jobs import load_demo
from rugged_shield.store.care import check, owned, plain_words, problems_of
from rugged_shield.store.copies import backup, restore
from rugged_shield.store.database import FILE_NAME, HEAD, Database, StoreTroubleError
from rugged_shield.store.repository import add_job, edit_job, load_job
from rugged_shield.web.app import create_app
from tests.conftest import Client
from tests.store.faulty import Acknowledge, killed

THICKNESS = "candidates.alu5.plate.thickness_mm"
KILLS = int(os.environ.get("SHIELD_KILLS", "25"))


def write_once(db: Database, version: int) -> int:
    text = f"{1 + version % 200 / 10:.1f}"
    saved = edit_job(
        db, "one", version, f"kill-key-{version}", lambda j: set_text(j, THICKNESS, text)
    )
    return saved.row.version


def write_until_killed(folder: Path, tell: Acknowledge) -> None:
    """A process of its own on the real store; each write is acknowledged when it returned."""
    db = Database(folder)
    db.migrate()
    version = load_job(db, "one").version
    while True:
        version = write_once(db, version)
        tell(str(version))


def test_kills_lose_nothing_that_was_acknowledged(tmp_path: Path, choosing: Job) -> None:
    folder = tmp_path / "store"
    db = Database(folder)
    db.migrate()
    add_job(db, "one", replace(choosing, candidates=choosing.candidates[:3]), ())
    db.close()
    rng = random.Random(11)
    acknowledged = 0
    for kill in range(KILLS):
        # Three of four are killed while they write, however slow the machine; one while it starts.
        def when(spoke: Callable[[], bool], starts: bool = kill % 4 == 0) -> None:
            assert starts or spoke(), "the writer never wrote"
            time.sleep(rng.uniform(0.0, 0.1))

        lines = killed(partial(write_until_killed, folder), when)
        last = int(lines[-1]) if lines else 0
        acknowledged += len(lines)
        after = Database(folder)
        row = load_job(after, "one")
        assert row.version >= last, f"kill {kill}: version {row.version}, acknowledged {last}"
        expected = 1 + (row.version - 1) % 200 / 10 if row.version > 1 else 5
        assert row.job.candidate("alu5").plate.thickness_mm == pytest.approx(expected)
        assert problems_of(folder / FILE_NAME) == []
        after.close()
    assert acknowledged >= KILLS * 3 // 4, "the writer really wrote between the kills"
    assert check(folder) == []
    assert create_app(folder).test_client().get("/api/jobs").status_code == 200


@pytest.fixture
def filled(tmp_path: Path) -> Path:
    folder = tmp_path / "filled"
    db = Database(folder)
    db.migrate()
    load_demo(db)
    db.close()
    return folder


def damage(folder: Path) -> bytes:
    file = folder / FILE_NAME
    data = bytearray(file.read_bytes())
    for at in range(5000, len(data), 4096):
        data[at : at + 2000] = os.urandom(min(2000, len(data) - at))
    file.write_bytes(data)
    return bytes(data)


def test_a_damaged_database_is_found_and_left_alone(filled: Path, tmp_path: Path) -> None:
    good = tmp_path / "good"
    backup(filled, good)
    before = damage(filled)
    assert check(filled)
    with pytest.raises(StoreTroubleError):
        backup(filled, tmp_path / "bad")
    assert not (tmp_path / "bad").exists()
    assert (filled / FILE_NAME).read_bytes() == before
    restore(filled, good)
    assert check(filled) == []


def test_a_file_that_is_no_database(tmp_path: Path) -> None:
    (tmp_path / FILE_NAME).write_text("not a database, " * 100)
    with pytest.raises(DBAPIError) as caught:
        create_app(tmp_path)
    assert "damaged" in plain_words(caught.value).message
    assert "not a database" in (tmp_path / FILE_NAME).read_text()
    with pytest.raises(StoreTroubleError, match="own database"):
        restore(tmp_path, tmp_path / FILE_NAME)


def test_a_change_that_was_cut_off_is_no_damage(filled: Path, tmp_path: Path) -> None:
    """Killed before its log was apart, SQLite leaves a journal that only a writer takes back."""
    file, cut = filled / FILE_NAME, tmp_path / "cut"
    cut.mkdir()
    with closing(sqlite3.connect(file, isolation_level=None)) as raw:
        raw.execute("PRAGMA journal_mode=DELETE")
        raw.execute("PRAGMA cache_size=1")
        raw.execute("BEGIN IMMEDIATE")
        raw.execute("UPDATE job SET facts = facts || ' '")
        for left in (file, file.with_name(f"{FILE_NAME}-journal")):
            shutil.copy(left, cut)
        raw.execute("ROLLBACK")
    assert (cut / f"{FILE_NAME}-journal").stat().st_size > 512
    assert problems_of(cut / FILE_NAME) == []


def test_a_newer_versions_data_is_left_alone(filled: Path) -> None:
    with sqlite3.connect(filled / FILE_NAME) as raw:
        raw.execute("UPDATE alembic_version SET version_num = '9999'")
    raw.close()
    with pytest.raises(StoreTroubleError, match="newer version"):
        create_app(filled)
    assert any("newer" in p for p in check(filled))


def test_a_copy_is_made_before_a_migration(tmp_path: Path) -> None:
    old = Path(__file__).parents[1] / "data/stored/first_slice.sqlite3"
    (tmp_path / FILE_NAME).write_bytes(old.read_bytes())
    db = Database(tmp_path)
    db.migrate()
    db.close()
    copy = tmp_path / f"{FILE_NAME}.before-{HEAD}"
    with sqlite3.connect(copy) as raw:
        assert raw.execute("SELECT version_num FROM alembic_version").fetchone() == ("0001",)
        assert raw.execute("SELECT count(*) FROM job").fetchone() == (2,)
    raw.close()


def refused(client: Client) -> str:
    before = client.version("choosing")
    answer = client.field("choosing", THICKNESS, "6", 503)
    assert answer["error"]["remedy"]
    assert client.version("choosing") == before
    return str(answer["error"]["message"])


def on_connect(client: Client, *pragmas: str) -> None:
    """Give every connection from now on these settings."""
    engine = client.flask.application.extensions["rugged_shield_db"].engine
    engine.dispose()

    def apply(connection: sqlite3.Connection, _record: object) -> None:
        for pragma in pragmas:
            connection.execute(f"PRAGMA {pragma}")

    event.listen(engine, "connect", apply)


def test_a_full_disk(client: Client) -> None:
    on_connect(client, "max_page_count=1")
    assert "disk is full" in refused(client)


def test_a_read_only_database(client: Client) -> None:
    on_connect(client, "query_only=ON")
    assert "cannot be written to" in refused(client)


def test_a_locked_database(client: Client, app_folder: Path) -> None:
    on_connect(client, "busy_timeout=50")
    other = sqlite3.connect(app_folder / FILE_NAME, isolation_level=None)
    other.execute("BEGIN EXCLUSIVE")
    assert "Another program" in refused(client)
    other.execute("ROLLBACK")
    other.close()
    client.field("choosing", THICKNESS, "6")


def test_one_server_a_folder(tmp_path: Path) -> None:
    with (
        owned(tmp_path),
        pytest.raises(StoreTroubleError, match="already running"),
        owned(tmp_path),
    ):
        pass
    with owned(tmp_path):
        pass


def test_a_folder_that_cannot_be(tmp_path: Path) -> None:
    with (
        pytest.raises(StoreTroubleError, match="cannot be written"),
        owned(tmp_path / "no" / "way"),
    ):
        pass
    assert check(tmp_path / "nothing")
    with pytest.raises(StoreTroubleError, match="no database"):
        backup(tmp_path / "nothing", tmp_path / "copy")
