"""A number with its words and its reasons, as every screen, print and file shows it."""

from __future__ import annotations

from typing import Any

from rugged_shield.core.amounts import show
from rugged_shield.core.result import Figure, Finding, Input, Outcome, Source, verdict_of, worst

NO_VALUE = "not known"
"""How a number that nobody knows reads."""


def figure(
    key: str,
    label: str,
    value: float | None,
    unit: str,
    *,
    text: str = "",
    none: str = "",
    findings: tuple[Finding, ...] = (),
    inputs: tuple[Input, ...] = (),
    reasons: tuple[str, ...] = (),
    assumptions: tuple[str, ...] = (),
    warnings: tuple[str, ...] = (),
    sources: tuple[Source, ...] = (),
) -> Figure:
    """A figure with its words in both systems; ``text`` stands for both when given.

    One without a value is not known, unless ``none`` says what is not there to have one.
    """
    metric = us = text or (none if value is None else "")
    if value is not None and not text:
        metric, us = show(value, unit), show(value, unit, "us")
    verdicts = [f.verdict for f in findings]
    if value is None and not none:
        verdicts.append(verdict_of("no value"))
    return Figure(
        key=key,
        label=label,
        value=value,
        unit=unit,
        metric=metric or NO_VALUE,
        us=us or NO_VALUE,
        verdict=worst(verdicts),
        findings=findings,
        inputs=inputs,
        reasons=reasons,
        assumptions=assumptions,
        warnings=warnings,
        sources=sources,
    )


def figure_of(
    outcome: Outcome[Any],
    key: str,
    label: str,
    value: float | None,
    unit: str,
    *,
    text: str = "",
    none: str = "",
    inputs: tuple[Input, ...] = (),
    reasons: tuple[str, ...] = (),
    judged: bool = True,
) -> Figure:
    """A figure with all that a computation says; ``judged`` takes its findings over too."""
    return figure(
        key,
        label,
        value,
        unit,
        text=text,
        none=none,
        findings=outcome.findings if judged else (),
        inputs=(*inputs, *outcome.inputs),
        reasons=(*reasons, *outcome.reasons),
        assumptions=outcome.assumptions,
        warnings=outcome.warnings,
        sources=outcome.sources,
    )


def capital(text: str) -> str:
    """The text with its first letter raised, the rest as it is."""
    return text[:1].upper() + text[1:]
