"""Every act on the store that is not one small write: killed, on a full disk, on one read only.

Writing, backup and restore stand in ``test_care``, ``test_copies`` and ``test_full_disk``.
"""

from __future__ import annotations

import io
import os
import random
import shutil
import signal
import sqlite3
import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from contextlib import closing
from dataclasses import dataclass
from functools import partial
from pathlib import Path

import pytest
from PIL import Image
from sqlalchemy.exc import DBAPIError

from rugged_shield.formats.bundle import read_brought, write_bundle
from rugged_shield.formats.jobfile import JobFile, write_job_file
from rugged_shield.formats.photos import clean_photo
from rugged_shield.store.care import check, plain_words, problems_of
from rugged_shield.store.copies import backup, restore
from rugged_shield.store.database import FILE_NAME, Database, StoreTroubleError
from rugged_shield.store.repository import add_job, job_ids, load_job
from rugged_shield.store.shelf import add_photo, photos
from rugged_shield.store.worklist import forget, put
from tests.conftest import demo_file
from tests.store.faulty import Acknowledge, fill, killed, small_disk

KILLS = int(os.environ.get("SHIELD_KILLS", "8"))
"""Of each act; ``make hostile`` asks for 100 of each."""
STORED = Path(__file__).parents[1] / "data/stored"
ID = "{:020x}".format


def picture(seed: int) -> bytes:
    out = io.BytesIO()
    Image.effect_noise((90, 60), 40 + seed).convert("RGB").save(out, "JPEG")
    return clean_photo(out.getvalue())


def _read_bundle() -> tuple[JobFile, dict[str, bytes]]:
    return read_brought(BUNDLE)


FILE = demo_file("half_fitted")
BUNDLE = write_bundle(
    write_job_file(FILE.job, FILE.records), {ID(i): picture(i) for i in range(12)}
)
PICTURES = _read_bundle()[1]
"""As they are kept: each is cleaned again on its way in."""


def a_job_with_photos(folder: Path, job_id: str) -> None:
    file, pictures = _read_bundle()
    db = Database(folder)
    db.migrate()
    add_job(db, job_id, file.job, file.records, pictures)
    db.close()


def rows_of(folder: Path, job_id: str) -> dict[str, int]:
    """How many rows of each table belong to a job."""
    with closing(sqlite3.connect(folder / FILE_NAME)) as raw:
        return {
            table: raw.execute(
                f"SELECT count(*) FROM {table} WHERE {column} = ?", (job_id,)
            ).fetchone()[0]
            for table, column in (("job", "id"), ("event", "job_id"), ("edit", "job_id"),
                                  ("photo", "job_id"))
        }  # fmt: skip


@dataclass(frozen=True)
class Act:
    """What is done to a folder that ``before`` made; ``states`` tells which it is in after it.

    ``work`` tells of what it did by calling; what was told has to be there afterwards.
    """

    before: Callable[[Path], None]
    work: Callable[[Path, Acknowledge], None]
    state: Callable[[Path, list[str]], str]


def _old_database(folder: Path) -> None:
    folder.mkdir()
    shutil.copy(STORED / "version_1.sqlite3", folder / FILE_NAME)


def _migrate(folder: Path, tell: Acknowledge) -> None:
    db = Database(folder)
    db.migrate()
    db.close()
    tell("up")


def _migrated(folder: Path, told: list[str]) -> str:
    """The next start finishes what was begun, and every job is what it was."""
    db = Database(folder)
    was_up = db.is_current()
    assert was_up or not told
    db.migrate()
    assert [load_job(db, job).id for job in job_ids(db)] == list(job_ids(db))
    assert len(job_ids(db)) == 4
    db.close()
    return "after" if was_up else "before"


def _in_the_bin(folder: Path) -> None:
    a_job_with_photos(folder, "goes")
    a_job_with_photos(folder, "stays")
    db = Database(folder)
    put(db, "goes", "bin")
    db.close()


def _forget(folder: Path, tell: Acknowledge) -> None:
    db = Database(folder)
    forget(db, "goes")
    tell("gone")
    db.close()


def _whole_or_none(folder: Path, job_id: str) -> str:
    """A job with all its rows and pictures, or not one of them."""
    rows = rows_of(folder, job_id)
    if not any(rows.values()):
        return "none"
    db = Database(folder)
    assert photos(db, job_id) == PICTURES
    assert rows["event"] == len(load_job(db, job_id).records) > 0
    assert rows["edit"] > 0
    db.close()
    return "whole"


def _forgotten(folder: Path, told: list[str]) -> str:
    assert _whole_or_none(folder, "stays") == "whole"
    state = _whole_or_none(folder, "goes")
    assert state == "none" or not told
    return "after" if state == "none" else "before"


def _nothing_yet(folder: Path) -> None:
    db = Database(folder)
    db.migrate()
    db.close()


def _bring_in(folder: Path, tell: Acknowledge) -> None:
    file, pictures = _read_bundle()
    db = Database(folder)
    add_job(db, "came", file.job, file.records, pictures)
    tell("came")
    db.close()


def _brought_in(folder: Path, told: list[str]) -> str:
    state = _whole_or_none(folder, "came")
    assert state == "whole" or not told
    return "after" if state == "whole" else "before"


def _without_photos(folder: Path) -> None:
    file, _ = _read_bundle()
    db = Database(folder)
    db.migrate()
    add_job(db, "one", file.job, file.records)
    db.close()


def _take_photos(folder: Path, tell: Acknowledge) -> None:
    db = Database(folder)
    for i, jpeg in enumerate(PICTURES.values()):
        tell(add_photo(db, "one", jpeg, ID(i)))
    db.close()


def _photos_taken(folder: Path, told: list[str]) -> str:
    db = Database(folder)
    there = photos(db, "one")
    db.close()
    assert set(told) <= set(there)
    assert all(PICTURES[key] == jpeg for key, jpeg in there.items())
    return "after" if len(there) == len(PICTURES) else "before" if not there else "between"


ACTS = {
    "migration": Act(_old_database, _migrate, _migrated),
    "delete for good": Act(_in_the_bin, _forget, _forgotten),
    "photos": Act(_without_photos, _take_photos, _photos_taken),
    "zip import": Act(_nothing_yet, _bring_in, _brought_in),
}


@pytest.fixture(scope="module")
def made(tmp_path_factory: pytest.TempPathFactory) -> dict[str, Path]:
    """For each act the folder as it stands before it."""
    root = tmp_path_factory.mktemp("made")
    for name, act in ACTS.items():
        act.before(root / name)
    return {name: root / name for name in ACTS}


@pytest.mark.parametrize("name", sorted(ACTS))
def test_killed_anywhere_it_is_done_or_not_begun(
    name: str, made: dict[str, Path], tmp_path: Path
) -> None:
    act, rng = ACTS[name], random.Random(len(name))
    began = time.perf_counter()
    whole = shutil.copytree(made[name], tmp_path / "undisturbed")
    act.work(whole, lambda _: None)
    takes_s = time.perf_counter() - began
    assert act.state(whole, []) == "after"
    states = set()
    for i in range(KILLS):
        folder = shutil.copytree(made[name], tmp_path / f"kill-{i}")
        after_s = rng.uniform(0.0, 1.3 * takes_s)
        told = killed(partial(act.work, folder), lambda _, s=after_s: time.sleep(s))
        assert problems_of(folder / FILE_NAME) == [], f"kill {i}"
        states.add(act.state(folder, told))
        assert check(folder) == [], f"kill {i}"
        shutil.rmtree(folder)
    assert "before" in states, "some kills came before it was done"


@pytest.fixture
def small(tmp_path: Path) -> Iterator[Path]:
    with small_disk(tmp_path / "small", "12m") as at:
        yield at


def refused(act: Act, folder: Path, told: list[str]) -> str:
    """What a person reads where the act cannot be done; empty where it was."""
    try:
        act.work(folder, told.append)
    except StoreTroubleError as error:
        return error.message
    except (DBAPIError, sqlite3.Error, OSError) as error:
        return plain_words(error).message
    return ""


@pytest.mark.parametrize("name", sorted(ACTS))
@pytest.mark.parametrize("left", [0, 40_000, 150_000])
def test_on_a_full_disk_it_is_refused_and_nothing_lost(
    name: str, left: int, made: dict[str, Path], small: Path
) -> None:
    act, told = ACTS[name], list[str]()
    folder = shutil.copytree(made[name], small / "data")
    fill(small / "ballast", left)
    words = refused(act, folder, told)
    assert "disk is full" in words or (not words and left)
    (small / "ballast").unlink()
    assert problems_of(folder / FILE_NAME) == []
    assert list(folder.glob("*.part")) == [], "no copy that is half a copy"
    assert (act.state(folder, told) == "after") == (not words)
    # Room is made: the same is done again, and whole.
    again = shutil.copytree(made[name], small / "again")
    assert refused(act, again, []) == ""
    assert act.state(again, []) == "after"


@pytest.mark.parametrize("name", sorted(ACTS))
def test_on_a_disk_that_is_read_only_it_is_said(
    name: str, made: dict[str, Path], small: Path
) -> None:
    act, told = ACTS[name], list[str]()
    folder = shutil.copytree(made[name], small / "data")
    subprocess.run(["mount", "-o", "remount,ro", str(small)], check=True)
    assert "cannot be written to" in refused(act, folder, told)
    subprocess.run(["mount", "-o", "remount,rw", str(small)], check=True)
    assert not told
    assert act.state(folder, told) == "before"


def test_a_backup_and_a_restore_on_a_disk_that_is_read_only(
    made: dict[str, Path], small: Path, tmp_path: Path
) -> None:
    backup(made["photos"], tmp_path / "copy.sqlite3")
    folder = shutil.copytree(made["zip import"], small / "data")
    subprocess.run(["mount", "-o", "remount,ro", str(small)], check=True)
    for act in (lambda: backup(folder, small / "copy"),
                lambda: restore(folder, tmp_path / "copy.sqlite3")):  # fmt: skip
        with pytest.raises(StoreTroubleError, match="cannot be written to"):
            act()
    subprocess.run(["mount", "-o", "remount,rw", str(small)], check=True)
    assert check(folder) == []
    assert sorted(p.name for p in small.iterdir()) == ["data"]


ROUNDS = 1 if KILLS < 100 else 10


def test_of_two_servers_on_one_folder_one_serves(tmp_path: Path) -> None:
    """Both begin within two seconds, on a folder that neither knows yet."""
    rng = random.Random(2)
    for i in range(ROUNDS):
        command = [sys.executable, "-m", "rugged_shield.cli", "demo", "--port", "0",
                   "--data", str(tmp_path / f"data-{i}")]  # fmt: skip
        servers = []
        for _ in range(2):
            servers.append(
                subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True)
            )
            time.sleep(rng.uniform(0.0, 2.0) if i else 0.0)
        end = time.monotonic() + 120.0
        while all(server.poll() is None for server in servers):
            assert time.monotonic() < end, "neither gave way"
            time.sleep(0.05)
        late = next(server for server in servers if server.poll() is not None)
        first = next(server for server in servers if server is not late)
        _, words = late.communicate(timeout=30)
        assert late.returncode == 3
        assert "already running" in words
        assert first.stdout is not None
        assert any("Rugged Shield is at" in line for line in first.stdout)
        first.send_signal(signal.SIGINT)
        first.communicate(timeout=60)
        assert check(tmp_path / f"data-{i}") == []
