"""What every computation returns: the number, how it is judged, and why.

Finding codes are the field's own words; ``judgement/table`` is the one place that turns a code
into a verdict.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field
from typing import Generic, Literal, TypeVar

from rugged_shield.core.amounts import in_words
from rugged_shield.core.judgement.codes import FindingCode, Verdict, worst
from rugged_shield.core.judgement.kinds import FindingKind
from rugged_shield.core.judgement.table import FINDINGS, verdict_of

__all__ = [
    "Confidence",
    "Decider",
    "Figure",
    "Finding",
    "FindingCode",
    "Input",
    "Outcome",
    "Source",
    "Verdict",
    "finding",
    "from_table",
    "merge_sources",
    "verdict_of",
    "worst",
]

Confidence = Literal["high", "medium", "low"]

R = TypeVar("R")


@dataclass(frozen=True)
class Source:
    """Where a number comes from and how sure the printed value is."""

    text: str
    confidence: Confidence


@dataclass(frozen=True)
class Input:
    """One input as it was used: what it is called, its value, its unit, and in words."""

    label: str
    value: float | int | str | None
    unit: str = ""
    metric: str = field(init=False, default="")
    us: str = field(init=False, default="")

    def __post_init__(self) -> None:
        for system in ("metric", "us"):
            object.__setattr__(self, system, in_words(self.value, self.unit, system))


@dataclass(frozen=True, kw_only=True)
class Decider:
    """A number that decides a finding: where it stands in the job, how it is known, its band."""

    path: str
    known: str
    value: float | str | None
    band: float = 0.0


@dataclass(frozen=True, kw_only=True)
class Finding:
    """Something judged: a code in the field's words and what follows from it.

    ``where`` is what it is about: the key of a joint, part, plate, hole, neighbour or step.
    ``amounts``: the named amounts of its sentence. ``remedy``: what clears it.
    """

    code: FindingCode
    text: str
    verdict: Verdict
    where: str = ""
    remedy: str = ""
    decided_by: tuple[Decider, ...] = ()
    amounts: tuple[tuple[str, str], ...] = ()

    @property
    def kind(self) -> FindingKind:
        """Its row of the table: whether it gates, where it bites."""
        return FINDINGS[self.code]


@dataclass(frozen=True, kw_only=True)
class Outcome(Generic[R]):
    """A computed result with everything needed to explain it."""

    result: R
    inputs: tuple[Input, ...] = ()
    findings: tuple[Finding, ...] = ()
    reasons: tuple[str, ...] = ()
    assumptions: tuple[str, ...] = ()
    warnings: tuple[str, ...] = ()
    sources: tuple[Source, ...] = ()

    @property
    def verdict(self) -> Verdict:
        """The worst of the findings; sound when there is none."""
        return worst(f.verdict for f in self.findings)


@dataclass(frozen=True, kw_only=True)
class Figure:
    """One number on a screen with its reason: the data behind every “why”."""

    key: str
    label: str
    value: float | None
    unit: str
    metric: str
    us: str
    verdict: Verdict
    findings: tuple[Finding, ...] = ()
    inputs: tuple[Input, ...] = ()
    reasons: tuple[str, ...] = ()
    assumptions: tuple[str, ...] = ()
    warnings: tuple[str, ...] = ()
    sources: tuple[Source, ...] = ()


def finding(
    code: FindingCode,
    text: str,
    where: str = "",
    *,
    remedy: str = "",
    decided_by: tuple[Decider, ...] = (),
) -> Finding:
    """A finding with the verdict its code stands for; ``remedy`` empty: that of its kind."""
    kind = FINDINGS[code]
    return Finding(
        code=code,
        text=text,
        verdict=kind.verdict,
        where=where,
        remedy=remedy or kind.remedy,
        decided_by=decided_by,
    )


def from_table(
    code: FindingCode, where: str = "", *, decided_by: tuple[Decider, ...] = (), **amounts: str
) -> Finding:
    """A finding in the words of the table, with its named amounts.

    Raises KeyError where the sentence names an amount that is not given: a mistake of the code.
    """
    kind = FINDINGS[code]
    assert kind.sentence, f"the table has no sentence for “{code}”"
    return Finding(
        code=code,
        text=kind.sentence.format_map(amounts),
        verdict=kind.verdict,
        where=where,
        remedy=kind.remedy.format_map(amounts),
        decided_by=decided_by,
        amounts=tuple(amounts.items()),
    )


def merge_sources(*groups: Iterable[Source]) -> tuple[Source, ...]:
    """Sources of several parts, each once, in order of first use."""
    return tuple(dict.fromkeys(s for group in groups for s in group))
