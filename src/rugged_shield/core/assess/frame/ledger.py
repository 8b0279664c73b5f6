"""The running ledger against stock, and where each station stands."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache

from rugged_shield.core.assess.weighup.scorecard import against, weigh
from rugged_shield.core.job.model import Job
from rugged_shield.core.result import Figure

LEDGER_KEYS: tuple[tuple[str, str], ...] = (
    ("mass", "Mass"),
    ("clearance", "Clearance"),
    ("breakover", "Breakover"),
    ("coverage:from below", "Shielded below"),
    ("coverage:from ahead 20° upward", "Shielded ahead"),
    ("standoff", "Least standoff"),
    ("heat_gap", "Heat gap"),
    ("oil_screws", "Screws for oil"),
    ("effort", "Fitting"),
    ("money", "Money"),
)


BRIEF_KEYS = ("mass", "clearance", "money")
"""What a narrow screen shows before the rest is asked for."""


@dataclass(frozen=True, kw_only=True)
class LedgerLine:
    """One quantity: with this plate, with stock, the difference, and what moved last.

    ``brief`` lines are those that a phone shows first.
    """

    key: str
    label: str
    now: Figure
    stock: Figure
    delta: Figure
    moved_metric: str = ""
    moved_us: str = ""
    brief: bool = False


@lru_cache(maxsize=128)
def ledger(job: Job) -> tuple[LedgerLine, ...]:
    """The plate in hand against stock, line by line."""
    now, base = weigh(job, job.in_hand.key).figures, weigh(job, job.stock.key).figures
    return tuple(
        LedgerLine(
            key=key,
            label=label,
            now=now[key],
            stock=base[key],
            delta=_delta(now[key], base[key], label),
            brief=key in BRIEF_KEYS,
        )
        for key, label in LEDGER_KEYS
    )


def _delta(now: Figure, stock: Figure, label: str) -> Figure:
    """The difference; what is there now where one of the two has no number."""
    known = now.value is not None and stock.value is not None
    return against(now, stock, label) if known else replace(now, label=label)


def marked(lines: tuple[LedgerLine, ...], before: tuple[LedgerLine, ...]) -> tuple[LedgerLine, ...]:
    """The ledger with what moved since ``before`` shown on its lines."""
    earlier = {line.key: line for line in before}
    out = []
    for line in lines:
        old = earlier[line.key].now
        change = against(line.now, old, line.label)
        moved = change.metric if line.now.metric != old.metric else ""
        moved_us = change.us if line.now.us != old.us else ""
        out.append(replace(line, moved_metric=moved, moved_us=moved_us))
    return tuple(out)
