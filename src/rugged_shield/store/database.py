"""The SQLite file: where it is, how it is opened, read and write transactions."""

from __future__ import annotations

import os
import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager, suppress
from pathlib import Path

import platformdirs
from sqlalchemy import Connection, Engine, create_engine, event, text
from sqlalchemy.orm import Session

from rugged_shield.core.job.upgrade import VERSION
from rugged_shield.store.upgrading import forms_of, upgrade_stored

HEAD = "0005"
SAYS_ITS_FORM = "0004"
"""The first schema in which each job says the form of its facts."""
FILE_NAME = "rugged-shield.sqlite3"
SYNCHRONOUS = "FULL"
"""A lost last second matters here: a write is on the disk before it is acknowledged."""
_WRITE = "shield_write"


def default_folder() -> Path:
    """The data folder by the platform's convention."""
    return Path(platformdirs.user_data_dir("rugged-shield", appauthor=False))


def _on_connect(connection: sqlite3.Connection, _record: object) -> None:
    # pysqlite's own transaction handling would start deferred ones: switch it off,
    # so that BEGIN is said below and a writer can take its lock at once.
    connection.isolation_level = None
    cursor = connection.cursor()
    for pragma in (
        "journal_mode=WAL",
        f"synchronous={SYNCHRONOUS}",
        "foreign_keys=ON",
        "busy_timeout=5000",
    ):
        cursor.execute(f"PRAGMA {pragma}")
    cursor.close()


def _on_begin(connection: Connection) -> None:
    write = connection.get_execution_options().get(_WRITE, False)
    connection.exec_driver_sql("BEGIN IMMEDIATE" if write else "BEGIN")


def is_writing(engine: Engine) -> bool:
    """Whether this is the engine of writes, whose transactions may be taken back."""
    return bool(engine.get_execution_options().get(_WRITE, False))


class StoreTroubleError(Exception):
    """The store cannot be used: what is wrong and what to do, in plain words."""

    def __init__(self, message: str, remedy: str) -> None:
        super().__init__(message)
        self.message = message
        self.remedy = remedy


def _own_alone(file: Path) -> None:
    """The file is its owner's alone; SQLite gives its logs the rights of the file itself."""
    with suppress(OSError):  # a folder that may only be read, or a file of somebody else's
        os.close(os.open(file, os.O_RDWR | os.O_CREAT, 0o600))
        file.chmod(0o600)


class Database:
    """One data folder. ``migrate`` brings its schema up before first use."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        folder.mkdir(parents=True, exist_ok=True, mode=0o700)
        self.path = folder / FILE_NAME
        _own_alone(self.path)
        self.engine = create_engine(f"sqlite:///{self.path}")
        event.listen(self.engine, "connect", _on_connect)
        event.listen(self.engine, "begin", _on_begin)
        self._writer = self.engine.execution_options(**{_WRITE: True})

    def revision(self) -> str:
        """The schema revision of the file, empty for a new one."""
        with self.engine.connect() as connection:
            known = connection.execute(
                text("SELECT name FROM sqlite_master WHERE name = 'alembic_version'")
            ).first()
            if known is None:
                return ""
            return str(connection.execute(text("SELECT version_num FROM alembic_version")).scalar())

    def migrate(self) -> None:
        """Bring schema and stored facts to today's form; a copy is made before anything changes.

        Raises StoreTroubleError for a file of a newer version, and InputError with its place
        for stored facts that are not understood.
        """
        found = self.revision()
        forms = self._forms(found)
        if found > HEAD or max(forms, default=VERSION) > VERSION:
            raise StoreTroubleError(
                "This data was written by a newer version of Rugged Shield and was left alone.",
                "Use that version, or another data folder.",
            )
        if found == HEAD and forms <= {VERSION}:
            return
        if found:
            self._copy_beside(f"before-{HEAD}" if found < HEAD else f"before-facts-{VERSION}")
        if found < HEAD:
            self._migrate_schema()
        with self.writing() as session:
            upgrade_stored(session)

    def is_current(self) -> bool:
        """Whether schema and stored facts are in today's form."""
        found = self.revision()
        return found == HEAD and self._forms(found) <= {VERSION}

    def _forms(self, revision: str) -> set[int]:
        """Forms of what is stored; none where the schema does not say so yet."""
        if revision < SAYS_ITS_FORM:
            return set()
        with self.reading() as session:
            return forms_of(session)

    def _copy_beside(self, word: str) -> None:
        copy = self.path.with_name(f"{FILE_NAME}.{word}")
        part = copy.with_name(f"{copy.name}.part")
        try:
            with closing(sqlite3.connect(self.path)) as a, closing(sqlite3.connect(part)) as b:
                a.backup(b)
            os.replace(part, copy)
        finally:
            with suppress(OSError):
                part.unlink(missing_ok=True)

    def _migrate_schema(self) -> None:
        """Alembic is imported only when there is something to do."""
        from alembic import command
        from alembic.config import Config

        config = Config()
        config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
        with self._writer.connect() as connection:
            config.attributes["connection"] = connection
            command.upgrade(config, "head")
            connection.commit()

    @contextmanager
    def reading(self) -> Iterator[Session]:
        """A session that only reads."""
        with Session(self.engine, expire_on_commit=False) as session:
            yield session

    @contextmanager
    def writing(self) -> Iterator[Session]:
        """One write transaction; takes the write lock at its start."""
        with Session(self._writer, expire_on_commit=False) as session, session.begin():
            yield session

    def close(self) -> None:
        """Let go of the file."""
        self.engine.dispose()
