"""Ready to ride: the worst of every gating finding about the plate that is on."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from rugged_shield.core.assess.gate.deciders import deciders_of
from rugged_shield.core.assess.gate.judged import judged
from rugged_shield.core.event import of_kind, of_plate
from rugged_shield.core.job.events import Record
from rugged_shield.core.job.model import Job
from rugged_shield.core.judgement.codes import HOLDS, FindingCode
from rugged_shield.core.judgement.known import ENTERED
from rugged_shield.core.result import Decider, Finding, Verdict, from_table, worst
from rugged_shield.core.tighten.events import FindingPassed

TO_DO: tuple[FindingCode, ...] = (
    "no plate picked",
    "not torqued",
    "step open",
    "open on the bike",
    "locker cures",
)
"""Work that is only not done yet stands below what speaks against it."""


@dataclass(frozen=True, kw_only=True)
class Missing:
    """What holds from riding, or is to be minded: its code, what it is about, what clears it.

    ``decided_by``: the numbers that decide it.
    """

    code: FindingCode
    about: str
    words: str
    remedy: str
    verdict: Verdict
    caution: str = ""
    decided_by: tuple[Decider, ...] = ()


@dataclass(frozen=True, kw_only=True)
class Passed:
    """A finding that somebody went past, and why."""

    code: str
    about: str
    words: str
    reason: str
    at: str
    by: str


@dataclass(frozen=True, kw_only=True)
class Ready:
    """Sound only when nothing is missing and nothing speaks against it.

    ``missing``: what holds from riding, gravest first, with its words alone beside it; ``minds``:
    what is ridden with; ``passed``: what somebody went past with a reason.
    """

    verdict: Verdict
    missing: tuple[Missing, ...]
    missing_words: tuple[str, ...]
    minds: tuple[Missing, ...]
    passed: tuple[Passed, ...]


def _missing(job: Job, found: Finding) -> Missing:
    return Missing(
        code=found.code,
        about=found.where,
        words=found.text,
        remedy=found.remedy,
        verdict=found.verdict,
        caution=found.kind.caution,
        decided_by=deciders_of(job, job.in_hand, found),
    )


def gravest_first(findings: Iterable[Finding]) -> tuple[Finding, ...]:
    """Blocked, then not known, then to mind; work that is only not done stands last of its kind."""
    return tuple(sorted(findings, key=lambda f: (HOLDS[f.verdict], f.code in TO_DO)))


def _passed(job: Job, record: Record) -> dict[tuple[str, str, str], Passed]:
    """What was passed, by code, what it is about, and its words: another number is another."""
    return {
        (e.code, e.about, e.words): Passed(
            code=e.code, about=e.about, words=e.words, reason=e.reason, at=e.at, by=e.by
        )
        for e in of_kind(of_plate(record, job.in_hand.key), FindingPassed)
    }


def to_settle(ready: Ready) -> tuple[Missing, ...]:
    """What the gate holds for because a number is not known well enough: a reading settles it."""
    return tuple(
        m
        for m in ready.missing
        if m.verdict == "not known" and any(d.known not in ENTERED for d in m.decided_by)
    )


def ready_of(job: Job, record: Record, now: str = "") -> Ready:
    """Whether the plate in hand can be ridden with, by everything that is known of it.

    ``now`` is an ISO time; without one it is as late as the last line of the record.
    """
    told = _passed(job, record)
    gating = [f for f in judged(job, record, now) if f.kind.gates]
    used = {key: told[key] for f in gating if (key := (f.code, f.where, f.text)) in told}
    open_ = gravest_first(f for f in gating if (f.code, f.where, f.text) not in used)
    over = tuple(
        from_table("passed for a reason", p.about, reason=p.reason, what=p.words)
        for p in used.values()
    )
    holds = tuple(_missing(job, f) for f in open_ if f.verdict in ("blocked", "not known"))
    minds = tuple(_missing(job, f) for f in (*over, *open_) if f.verdict in ("mind", "assumed"))
    return Ready(
        verdict=holds[0].verdict if holds else worst(m.verdict for m in minds),
        missing=holds,
        missing_words=tuple(m.words for m in holds),
        minds=minds,
        passed=tuple(used.values()),
    )
