"""Stored facts, events, edits and shelved things brought to today's form, job by job."""

from __future__ import annotations

import json
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from rugged_shield.core.job.upgrade import VERSION, upgrade
from rugged_shield.store.diff import Changes, diff, revert
from rugged_shield.store.models import EditModel, EventModel, JobModel, ShelfModel


def forms_of(session: Session) -> set[int]:
    """The versions of the form that what is stored is in."""
    jobs = session.scalars(select(JobModel.facts_version).distinct())
    shelved = session.scalars(select(ShelfModel.facts_version).distinct())
    return {*jobs, *shelved}


def upgrade_stored(session: Session) -> None:
    """Bring everything to today's form in the session's transaction: all of it, or nothing.

    Raises InputError where something stored is not understood, with its place.
    """
    for model in session.scalars(select(JobModel).where(JobModel.facts_version < VERSION)):
        _upgrade_job(session, model)
    for item in session.scalars(select(ShelfModel).where(ShelfModel.facts_version < VERSION)):
        document = upgrade({item.kind: item.content}, item.facts_version)
        item.content, item.facts_version = document[item.kind], VERSION


def _facts(facts: Any, version: int) -> Any:
    return upgrade({"job": facts}, version)["job"]


def _upgrade_job(session: Session, model: JobModel) -> None:
    version = model.facts_version
    _upgrade_edits(session, model, version)
    events = list(
        session.scalars(
            select(EventModel).where(EventModel.job_id == model.id).order_by(EventModel.seq)
        )
    )
    lines = [{"seq": e.seq, "at": e.at, "kind": e.kind, **json.loads(e.payload)} for e in events]
    document = upgrade({"job": json.loads(model.facts), "records": lines}, version)
    model.facts = json.dumps(document["job"])
    for event, line in zip(events, document["records"], strict=True):
        event.kind = line["kind"]
        held = {k: v for k, v in line.items() if k not in ("seq", "at", "kind")}
        event.payload = json.dumps(held)
    model.facts_version = VERSION


def _upgrade_edits(session: Session, model: JobModel, version: int) -> None:
    """Edits say what they changed in the old form: walked back one by one, and said anew."""
    edits = session.scalars(
        select(EditModel).where(EditModel.job_id == model.id).order_by(EditModel.id.desc())
    )
    after = json.loads(model.facts)
    for edit in edits:
        facts: Changes = [c for c in edit.changes if "path" in c]
        before = revert(after, facts)
        if facts:
            others = [c for c in edit.changes if "path" not in c]
            edit.changes = [*diff(_facts(before, version), _facts(after, version)), *others]
        after = before
