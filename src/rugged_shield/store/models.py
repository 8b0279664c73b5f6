"""Tables: a job with its facts, its append-only record, and every edit ever made.

A job is one aggregate: bike, plates, joints and decisions live and change
together and are checked by the core as a whole, so they are one JSON value in
one row; the record and the edits are rows of their own.
"""

from __future__ import annotations

from datetime import datetime
from typing import Any

from sqlalchemy import (
    JSON,
    Boolean,
    DateTime,
    ForeignKey,
    Integer,
    LargeBinary,
    String,
    Text,
    UniqueConstraint,
)
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column


class Base(DeclarativeBase):
    """Declarative base of all tables."""


class JobModel(Base):
    """One job; ``version`` grows with every write.

    ``facts`` are JSON as text: what was read of a text is remembered by it, and most are asked
    for many times. ``facts_version`` is their form and that of its events (``core.job.upgrade``).
    ``place``: empty on the work list, else ``archived`` or ``bin``. ``shown`` is what the list
    shows of it, made from what ``shown_of`` says; it is made anew whenever that is no longer so.
    """

    __tablename__ = "job"

    id: Mapped[str] = mapped_column(String(40), primary_key=True)
    title: Mapped[str] = mapped_column(String(200))
    facts: Mapped[str] = mapped_column(Text)
    facts_version: Mapped[int] = mapped_column(Integer)
    version: Mapped[int] = mapped_column(Integer, default=1)
    place: Mapped[str] = mapped_column(String(8), default="", server_default="")
    shown: Mapped[Any | None] = mapped_column(JSON)
    shown_of: Mapped[str] = mapped_column(String(40), default="", server_default="")
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    updated_at: Mapped[datetime] = mapped_column(DateTime(timezone=True))


class EventModel(Base):
    """One line of a job's record; never deleted. An undone line is only voided.

    ``payload`` holds what belongs to the kind, as JSON text; number, kind and time stand beside it.
    """

    __tablename__ = "event"
    __table_args__ = (UniqueConstraint("job_id", "seq", name="uq_event_job_seq"),)

    id: Mapped[int] = mapped_column(Integer, primary_key=True, autoincrement=True)
    job_id: Mapped[str] = mapped_column(ForeignKey("job.id"), index=True)
    seq: Mapped[int] = mapped_column(Integer)
    kind: Mapped[str] = mapped_column(String(40))
    at: Mapped[str] = mapped_column(String(40))
    payload: Mapped[str] = mapped_column(Text)
    voided: Mapped[bool] = mapped_column(Boolean, default=False)


class EditModel(Base):
    """One write: what it changed, before and after, and in words.

    ``kind`` is ``edit``, ``undo`` or ``redo``; the last two name in ``ref`` the
    edit they took back or did again.
    """

    __tablename__ = "edit"
    __table_args__ = (UniqueConstraint("job_id", "key", name="uq_edit_job_key"),)

    id: Mapped[int] = mapped_column(Integer, primary_key=True, autoincrement=True)
    job_id: Mapped[str] = mapped_column(ForeignKey("job.id"), index=True)
    key: Mapped[str] = mapped_column(String(64))
    version: Mapped[int] = mapped_column(Integer)
    at: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    words: Mapped[str] = mapped_column(String(400))
    changes: Mapped[Any] = mapped_column(JSON)
    kind: Mapped[str] = mapped_column(String(8), default="edit")
    ref: Mapped[int | None] = mapped_column(Integer)


class ShelfModel(Base):
    """A bike or a plate kept for the next job, as its facts were when it was put there."""

    __tablename__ = "shelf"

    id: Mapped[str] = mapped_column(String(40), primary_key=True)
    kind: Mapped[str] = mapped_column(String(8))
    name: Mapped[str] = mapped_column(String(200))
    content: Mapped[Any] = mapped_column(JSON)
    facts_version: Mapped[int] = mapped_column(Integer)
    at: Mapped[datetime] = mapped_column(DateTime(timezone=True))


class PhotoModel(Base):
    """A picture beside a job, re-encoded; the job's facts name it by its id.

    A job brought in again keeps the ids of its photos, so they are unique within a job.
    """

    __tablename__ = "photo"

    id: Mapped[str] = mapped_column(String(40), primary_key=True)
    job_id: Mapped[str] = mapped_column(ForeignKey("job.id"), primary_key=True, index=True)
    jpeg: Mapped[bytes] = mapped_column(LargeBinary)
    at: Mapped[datetime] = mapped_column(DateTime(timezone=True))
