"""Backup, restore and the copies before each start: the old or the new, never something between.

A copy is made under a name of its own beside its place, verified there, and put in place by one
rename. A restore says in a note what it is about to do, so that the next start can finish it.
"""

from __future__ import annotations

import hashlib
import os
import shutil
import sqlite3
from contextlib import closing, suppress
from pathlib import Path

from rugged_shield.store.care import check, looked_at, owned, plain_words, problems_of
from rugged_shield.store.database import FILE_NAME, StoreTroubleError

COPIES = "copies"
KEPT_COPIES = 7
_INCOMING = f"{FILE_NAME}.incoming"
_NOTE = f"{FILE_NAME}.restoring"
_NOTE_PART = f"{_NOTE}.part"
_ASIDE = f"{FILE_NAME}.aside-"
_SIDES = ("-wal", "-shm", "-journal")


def _synced(path: Path) -> None:
    """Wait until a file or folder is on the disk."""
    handle = os.open(path, os.O_RDONLY)
    try:
        os.fsync(handle)
    finally:
        os.close(handle)


def _swept(file: Path) -> None:
    """Take away what was half made, where that can be; the trouble that left it is what is said."""
    with suppress(OSError):
        file.unlink(missing_ok=True)


def _put(part: Path, target: Path) -> None:
    _synced(part)
    os.replace(part, target)
    _synced(target.parent)


def _copy(source: Path, target: Path) -> None:
    """An online copy of a database at a place where nothing is; trouble leaves nothing behind."""
    try:
        with (
            looked_at(source) as a,
            closing(sqlite3.connect(target)) as b,
        ):
            a.backup(b)
            b.execute("PRAGMA journal_mode=DELETE")
    except sqlite3.Error as error:
        _swept(target)
        raise plain_words(error) from error


def _verified(part: Path) -> None:
    """Refuse a copy that does not open, is damaged, or holds a job that cannot be read."""
    found = _problems_of_all(part)
    if found:
        _swept(part)
        raise StoreTroubleError(f"The copy is not sound: {found[0]}", "Run “shield check”.")


def _problems_of_all(file: Path) -> list[str]:
    """What is wrong with a lone database file, each job read, in a folder of its own."""
    from tempfile import TemporaryDirectory

    with TemporaryDirectory(dir=file.parent, prefix=_ASIDE) as aside:
        there = Path(aside) / FILE_NAME
        try:
            os.link(file, there)
        except OSError:
            _copy(file, there)
        return check(Path(aside))


def _is_ours(folder: Path, target: Path) -> bool:
    """Whether a path is the live database or a file beside it, by whatever name or link."""
    own = [folder / FILE_NAME, *(folder / f"{FILE_NAME}{side}" for side in _SIDES)]
    if target.exists():
        return any(file.exists() and os.path.samefile(file, target) for file in own)
    return target.resolve() in [file.resolve() for file in own]


def backup(folder: Path, target: Path, overwrite: bool = False) -> None:
    """A verified copy of the database, while it may be in use.

    Raises StoreTroubleError when it would fall on the live database, on a folder, or on a file
    that is there and was not to be overwritten.
    """
    source = folder / FILE_NAME
    if not source.is_file():
        raise StoreTroubleError(f"There is no database in {folder}.", "Check --data.")
    if _is_ours(folder, target):
        raise StoreTroubleError(
            f"{target} is the database itself.", "Choose another place for the backup."
        )
    if target.is_dir():
        raise StoreTroubleError(f"{target} is a folder.", "Name a file in it.")
    if target.exists() and not overwrite:
        raise StoreTroubleError(
            f"There is already a file at {target}.", "Choose another name, or add --overwrite."
        )
    part = _free_beside(target)
    try:
        _copy(source, part)
        _verified(part)
        _put(part, target)
    except OSError as error:
        raise plain_words(error) from error
    finally:
        _swept(part)


def _free_beside(target: Path) -> Path:
    """A name beside a file that nothing has, of this process alone."""
    return target.with_name(f"{target.name}.{os.getpid()}.part")


def restore(folder: Path, source: Path) -> Path | None:
    """Put a backup in place; what was there is kept beside it and its path returned.

    Interrupted at any point the folder holds the old database or the new one (``finish_restore``).
    """
    if _is_ours(folder, source):
        raise StoreTroubleError(
            f"{source} is this folder's own database.", "Name a backup of it, not itself."
        )
    found = problems_of(source)
    if found:
        raise StoreTroubleError(f"This backup is not sound: {found[0]}", "Choose another one.")
    try:
        folder.mkdir(parents=True, exist_ok=True)
        with owned(folder):
            finish_restore(folder)
            incoming = folder / _INCOMING
            _copy(source, incoming)
            _verified(incoming)
            _synced(incoming)
            kept = _keep_name(folder)
            _write_note(folder, kept)
            return _swap(folder, kept)
    except OSError as error:
        raise plain_words(error) from error
    finally:
        if not (folder / _NOTE).exists():
            _swept(folder / _INCOMING)


def _keep_name(folder: Path) -> Path | None:
    """Where what is there now is kept; None when nothing is."""
    target = folder / FILE_NAME
    if not target.exists():
        return None
    names = (target.with_name(f"{FILE_NAME}.replaced-{n}") for n in range(1, 10_000))
    return next(name for name in names if not name.exists())


def _write_note(folder: Path, kept: Path | None) -> None:
    part = folder / _NOTE_PART
    part.write_text(kept.name if kept else "", encoding="utf-8")
    _put(part, folder / _NOTE)


def _swap(folder: Path, kept: Path | None) -> Path | None:
    """From a verified copy beside it to the copy in place; each step may have been done before."""
    target, incoming = folder / FILE_NAME, folder / _INCOMING
    if incoming.exists():
        if kept is not None and target.exists() and not kept.exists():
            _settle(target)
            _keep(target, kept)
        # What belongs to the old file must not be read into the new one.
        for side in _SIDES:
            target.with_name(target.name + side).unlink(missing_ok=True)
        os.replace(incoming, target)
        _synced(folder)
    (folder / _NOTE).unlink(missing_ok=True)
    _synced(folder)
    return kept


def _settle(target: Path) -> None:
    """Bring what stands in the write-ahead log into the file itself, if it can be read at all."""
    with suppress(sqlite3.Error), closing(sqlite3.connect(target)) as raw:
        raw.execute("PRAGMA wal_checkpoint(TRUNCATE)")
        raw.execute("PRAGMA journal_mode=DELETE")


def _keep(target: Path, kept: Path) -> None:
    """A second name for the old file, and for what a damaged one leaves in its log."""
    for side in ("-wal", ""):
        own = target.with_name(target.name + side)
        if own.exists() and (own.stat().st_size or not side):
            other = kept.with_name(kept.name + side)
            other.unlink(missing_ok=True)
            try:
                os.link(own, other)
            except OSError:
                shutil.copyfile(own, other)
            _synced(other)


def finish_restore(folder: Path) -> str:
    """After an interrupted restore: finish or forget it, and say which; empty for none.

    To be called by the owner of the folder, before the database is opened.
    """
    note, incoming = folder / _NOTE, folder / _INCOMING
    # A note that was not put in place says nothing, and what was looked at aside is looked at anew.
    (folder / _NOTE_PART).unlink(missing_ok=True)
    for aside in folder.glob(f"{_ASIDE}*"):
        shutil.rmtree(aside)
    if note.exists():
        name = note.read_text(encoding="utf-8").strip()
        kept = folder / Path(name).name if name else None
        _swap(folder, kept)
        what = f" What was there before is kept as {kept}." if kept else ""
        return f"A restore had been interrupted and was finished: the backup is in place.{what}"
    if incoming.exists():
        for side in ("", *_SIDES):
            incoming.with_name(incoming.name + side).unlink(missing_ok=True)
        return "A restore had been interrupted before it changed anything: your data is as it was."
    return ""


def copy_before_start(folder: Path) -> Path | None:
    """A verified copy of the database if it changed since the last one; the newest 7 are kept.

    Returns the new copy, or None where nothing changed or there is nothing yet. A database that
    is not sound is not copied: it would push out a good copy.
    """
    source = folder / FILE_NAME
    if not source.is_file() or problems_of(source):
        return None
    _settle(source)
    with source.open("rb") as file:
        digest = hashlib.file_digest(file, "sha256").hexdigest()[:16]
    room = folder / COPIES
    room.mkdir(exist_ok=True)
    there = sorted(room.glob("[0-9][0-9][0-9][0-9][0-9][0-9]-*.sqlite3"))
    if there and there[-1].stem.endswith(digest):
        return None
    number = int(there[-1].name[:6]) + 1 if there else 1
    target = room / f"{number:06d}-{digest}.sqlite3"
    part = _free_beside(target)
    try:
        _copy(source, part)
        _put(part, target)
    finally:
        _swept(part)
    for old in [*there, target][:-KEPT_COPIES]:
        old.unlink(missing_ok=True)
    return target
