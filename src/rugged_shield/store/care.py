"""Taking care of the file: what is wrong in plain words, backup, restore, check, one owner."""

from __future__ import annotations

import fcntl
import os
import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager
from pathlib import Path
from tempfile import TemporaryDirectory

from rugged_shield.core.job import VERSION
from rugged_shield.store.database import FILE_NAME, HEAD, Database, StoreTroubleError

LOCK_NAME = "in-use.lock"


def plain_words(error: BaseException) -> StoreTroubleError:
    """A failure of SQLite as a person should read it."""
    text = str(getattr(error, "orig", error)).lower()
    if "disk is full" in text or "no space" in text:
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


def _copy(source: Path, target: Path) -> None:
    """An online copy of a database, complete or not there at all."""
    part = target.with_name(target.name + ".part")
    part.unlink(missing_ok=True)
    try:
        with closing(sqlite3.connect(source)) as a, closing(sqlite3.connect(part)) as b:
            a.backup(b)
            b.execute("PRAGMA journal_mode=DELETE")
        os.replace(part, target)
    except sqlite3.Error as error:
        part.unlink(missing_ok=True)
        raise plain_words(error) from error


def problems_of(file: Path) -> list[str]:
    """What is wrong with a database file; empty when it is sound."""
    if not file.is_file():
        return [f"There is no database at {file}."]
    try:
        with closing(sqlite3.connect(f"file:{file}?mode=ro", uri=True)) as raw:
            found = [row[0] for row in raw.execute("PRAGMA integrity_check") if row[0] != "ok"]
            found += [
                f"line without its job: {row}" for row in raw.execute("PRAGMA foreign_key_check")
            ]
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


def _newest_form(raw: sqlite3.Connection, revision: str) -> int:
    """The newest form that a job of the file is in; before the file said so it was the first."""
    if revision < HEAD:
        return 1
    return int(raw.execute("SELECT coalesce(max(facts_version), 1) FROM job").fetchone()[0])


def check(folder: Path) -> list[str]:
    """Problems of a data folder's database, every job read through the core.

    One of an older version is looked at as it would come up: on a copy.
    """
    found = problems_of(folder / FILE_NAME)
    if found:
        return found
    from rugged_shield.store.repository import list_jobs

    with TemporaryDirectory() as aside:
        db = Database(folder)
        try:
            if not db.is_current():
                db.close()
                _copy(folder / FILE_NAME, Path(aside) / FILE_NAME)
                db = Database(Path(aside))
                db.migrate()
            list_jobs(db)
        except ValueError as error:
            return [f"A job cannot be read: {error}"]
        finally:
            db.close()
    return []


def backup(folder: Path, target: Path) -> None:
    """A verified copy of the database, while it may be in use."""
    source = folder / FILE_NAME
    if not source.is_file():
        raise StoreTroubleError(f"There is no database in {folder}.", "Check --data.")
    _copy(source, target)
    found = problems_of(target)
    if found:
        target.unlink()
        raise StoreTroubleError(f"The copy is not sound: {found[0]}", "Run “shield check”.")


def restore(folder: Path, source: Path) -> Path | None:
    """Put a backup in place; what was there is kept beside it and its path returned."""
    found = problems_of(source)
    if found:
        raise StoreTroubleError(f"This backup is not sound: {found[0]}", "Choose another one.")
    folder.mkdir(parents=True, exist_ok=True)
    target = folder / FILE_NAME
    kept: Path | None = None
    with owned(folder):
        if target.exists():
            number = next(n for n in range(1, 10_000) if not _replaced(target, n).exists())
            kept = _replaced(target, number)
            os.replace(target, kept)
        for suffix in ("-wal", "-shm"):
            side = target.with_name(target.name + suffix)
            if side.exists() and kept is not None:
                os.replace(side, kept.with_name(kept.name + suffix))
        _copy(source, target)
    return kept


def _replaced(target: Path, number: int) -> Path:
    return target.with_name(f"{target.name}.replaced-{number}")


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
