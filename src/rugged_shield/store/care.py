"""Taking care of the file: what is wrong in plain words, check, one owner."""

from __future__ import annotations

import fcntl
import os
import shutil
import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager
from pathlib import Path
from tempfile import TemporaryDirectory

from rugged_shield.core.job.upgrade import VERSION
from rugged_shield.store.database import FILE_NAME, HEAD, SAYS_ITS_FORM, Database, StoreTroubleError

_NO_ROOM = ("SQLITE_IOERR_SHMSIZE", "SQLITE_IOERR_SHMMAP")
LOCK_NAME = "in-use.lock"
TABLES = frozenset({"alembic_version", "job", "edit"})
"""Tables that every version of this program has had."""


def plain_words(error: BaseException) -> StoreTroubleError:
    """A failure of SQLite as a person should read it."""
    text = str(getattr(error, "orig", error)).lower()
    # The file that SQLite shares a log by could not grow: it calls that a failure of the disk.
    no_log = getattr(getattr(error, "orig", error), "sqlite_errorname", "") in _NO_ROOM
    if "disk is full" in text or "no space" in text or no_log:
        return StoreTroubleError(
            "The disk is full, so nothing was saved.", "Make room, then try again."
        )
    if any(w in text for w in ("readonly", "read-only", "unable to open", "permission denied")):
        return StoreTroubleError(
            "The data folder cannot be written to, so nothing was saved.",
            "Give this user the right to write there, or choose another folder with --data.",
        )
    if "locked" in text or "busy" in text:
        return StoreTroubleError(
            "Another program holds the database, so nothing was saved.",
            "Close it, then try again.",
        )
    if "not a database" in text or "malformed" in text or "corrupt" in text:
        return StoreTroubleError(
            "The database is damaged and was left as it is.",
            "Run “shield check”, and “shield restore” with your latest backup.",
        )
    return StoreTroubleError(
        "The database could not be used, and nothing was changed.", "Run “shield check”."
    )


def problems_of(file: Path) -> list[str]:
    """What is wrong with a database file; empty when it is sound."""
    if not file.is_file():
        return [f"There is no database at {file}."]
    try:
        with looked_at(file) as raw:
            found = [row[0] for row in raw.execute("PRAGMA integrity_check") if row[0] != "ok"]
            found += [
                f"line without its job: {row}" for row in raw.execute("PRAGMA foreign_key_check")
            ]
            there = {row[0] for row in raw.execute("SELECT name FROM sqlite_master")}
            missing = sorted(TABLES - there)
            if missing:
                return [*found, f"It lacks tables of this program: {', '.join(missing)}."]
            revision = raw.execute("SELECT version_num FROM alembic_version").fetchone()
            if revision is None or revision[0] > HEAD or _newest_form(raw, revision[0]) > VERSION:
                found.append("It was made by a newer version of this program.")
            last = raw.execute(
                "SELECT job.id, job.version, max(edit.version) FROM job LEFT JOIN edit "
                "ON edit.job_id = job.id GROUP BY job.id"
            )
            found += [f"job {j}: version {v}, last edit {e}" for j, v, e in last if v != e]
            return found
    except sqlite3.Error as error:
        return [plain_words(error).message]


@contextmanager
def looked_at(file: Path) -> Iterator[sqlite3.Connection]:
    """A connection that only reads, also in a folder that cannot be written to.

    A change that was cut off is taken back first, as the next start would: only who may write can.
    """
    if not os.access(file.parent, os.W_OK):
        mode = "ro&immutable=1"  # SQLite cannot share a log here: nothing else writes either
    else:
        mode = "rw" if file.with_name(f"{file.name}-journal").exists() else "ro"
    with closing(sqlite3.connect(f"{file.resolve().as_uri()}?mode={mode}", uri=True)) as raw:
        raw.execute("PRAGMA query_only=ON")
        yield raw


def _newest_form(raw: sqlite3.Connection, revision: str) -> int:
    """The newest form that a job of the file is in; before the file said so it was the first."""
    if revision < SAYS_ITS_FORM:
        return 1
    return int(raw.execute("SELECT coalesce(max(facts_version), 1) FROM job").fetchone()[0])


def check(folder: Path) -> list[str]:
    """Problems of a data folder's database, every job read through the core and named.

    It is looked at on a copy: one of an older version as it would come up, and one in a folder
    that cannot be written to as it is.
    """
    found = problems_of(folder / FILE_NAME)
    if found:
        return found
    from rugged_shield.store.repository import unreadable_jobs

    with aside(folder) as db:
        try:
            if not db.is_current():
                db.migrate()
        except ValueError as error:
            return [f"Something stored is not understood: {error}"]
        return [f"Job {job} cannot be read: {why}" for job, why in unreadable_jobs(db).items()]


@contextmanager
def aside(folder: Path) -> Iterator[Database]:
    """The database of a folder as a copy, to look at without touching what is there."""
    with TemporaryDirectory() as room:
        if os.access(folder, os.W_OK):
            with (
                looked_at(folder / FILE_NAME) as a,
                closing(sqlite3.connect(Path(room) / FILE_NAME)) as b,
            ):
                a.backup(b)
        else:  # nothing writes there: the file and its log are as they are
            for side in ("", "-wal"):
                file = folder / f"{FILE_NAME}{side}"
                if file.is_file():
                    shutil.copyfile(file, Path(room) / file.name)
        db = Database(Path(room))
        try:
            yield db
        finally:
            db.close()


@contextmanager
def owned(folder: Path) -> Iterator[None]:
    """One server a data folder: the lock goes with the process, however it ends."""
    try:
        lock = (folder / LOCK_NAME).open("w")
    except OSError as error:
        raise plain_words(sqlite3.OperationalError("readonly")) from error
    with lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError as error:
            raise StoreTroubleError(
                f"Rugged Shield is already running on {folder}.",
                "Use the address it printed, or stop it first.",
            ) from error
        yield
