"""Going past a finding: only past this one, only with a reason, and it stays in the record."""

from __future__ import annotations

from rugged_shield.core.assess.gate.ready import ready_of
from rugged_shield.core.errors import InputError
from rugged_shield.core.job.edits.readings import check_picked
from rugged_shield.core.job.events import Entry, Record
from rugged_shield.core.job.model import Job
from rugged_shield.core.text import check_text
from rugged_shield.core.tighten.events import FindingPassed

LEAST_LETTERS = 3


def pass_finding(
    job: Job, record: Record, code: str, about: str, reason: str, now: str = ""
) -> Entry:
    """One finding is gone past, and why; it stands on every sheet from then on.

    Raises InputError where nothing of that code about that thing holds from riding, and without
    a reason. Where its words change, it holds again.
    """
    check_picked(job)
    said = " ".join(reason.split())
    check_text("reason", said)
    if len(said) < LEAST_LETTERS:
        raise InputError("reason", reason, "a reason in words", "nothing was entered")
    held = next(
        (m for m in ready_of(job, record, now).missing if (m.code, m.about) == (code, about)), None
    )
    if held is None:
        raise InputError("code", code, "something that holds from riding", "this does not hold")
    event = FindingPassed(
        plate=job.in_hand.key, code=code, about=about, reason=said, words=held.words
    )
    return Entry(event, f"passed for a reason: {held.words} ({said})")
