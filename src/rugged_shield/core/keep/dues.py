"""When something is due again: by km, hours and months, sooner for what settles, or put off."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from rugged_shield.core.amounts import amount
from rugged_shield.core.result import Source, Verdict, verdict_of
from rugged_shield.core.tables.dues import (
    DAYS_A_MONTH,
    DAYS_AHEAD_MOST,
    SOON_SHARE,
    DueRule,
)

DAY_S = 86400.0
State = Literal["now", "soon", "later", "put off", "unread"]
ORDER: dict[State, int] = {"now": 0, "unread": 1, "soon": 2, "put off": 3, "later": 4}


@dataclass(frozen=True, kw_only=True)
class Gone:
    """What has gone by since a thing was done last: km, hours, days (None: not known)."""

    km: float
    hours: float
    days: float | None


@dataclass(frozen=True, kw_only=True)
class Due:
    """One thing that is due: when, what is left of it, and why.

    ``share`` of the interval that has gone by; ``in_days`` until it is due by the calendar or by
    how much is ridden (``is_forecast``), None where nothing tells. What follows from a blow, and
    a locker that does not hold, may not be put off.
    """

    key: str
    label: str
    words: str
    state: State
    verdict: Verdict
    left: str
    share: float
    km_left: float | None
    in_days: float | None
    is_forecast: bool
    reasons: tuple[str, ...]
    source: Source
    put_off: str = ""
    may_put_off: bool = True


def _shares(rule: DueRule, gone: Gone, factor: float) -> list[tuple[float, str, float]]:
    """Each measure of the rule: share gone, unit, what is left."""
    out = []
    days = None if rule.every_months is None else rule.every_months * DAYS_A_MONTH
    for unit, every, passed in (
        ("km", rule.every_km, gone.km),
        ("h", rule.every_hours, gone.hours),
        ("d", days, gone.days),
    ):
        if every is not None and passed is not None:
            out.append((passed / (every * factor), unit, every * factor - passed))
    return out


def _left_words(share: float, unit: str, left: float) -> str:
    over = share >= 1.0
    size = abs(left)
    if unit == "d":
        words = f"{size:.0f} days" if size >= 1.5 else "today" if size < 0.5 else "a day"
    else:
        words = amount(size, unit, 0)
    if over:
        return "now" if size < 0.5 or words == "today" else f"now, {words} over"
    return f"in {words}"


def due_by_rule(
    rule: DueRule, gone: Gone, sooner: tuple[str, ...] = (), km_per_day: float | None = None
) -> Due:
    """A thing by its rule. ``sooner``: reasons that shorten the interval, once for all of them.

    Whichever measure comes first decides. With ``km_per_day`` the day on which the km come up is
    forecast; one further off than two years is not.
    """
    factor = rule.softer if sooner else 1.0
    shares = _shares(rule, gone, factor)
    share, unit, left = max(shares)
    state: State = "now" if share >= 1.0 else "soon" if share >= SOON_SHARE else "later"
    by = {u: n for _, u, n in shares}
    days, forecast = by.get("d"), False
    if km_per_day and "km" in by and (days is None or by["km"] / km_per_day < days):
        days, forecast = by["km"] / km_per_day, True
    if days is not None and days > DAYS_AHEAD_MOST:
        days, forecast = None, False
    every = ", ".join(
        (f"{n * factor:g} months" if u == "months" else amount(n * factor, u, 0))
        for n, u in ((rule.every_km, "km"), (rule.every_hours, "h"), (rule.every_months, "months"))
        if n is not None
    )
    return Due(
        key=rule.key,
        label=rule.label,
        words=rule.words,
        state=state,
        verdict=verdict_of("due now" if state == "now" else None),
        left=_left_words(share, unit, left),
        share=share,
        km_left=by.get("km"),
        in_days=days,
        is_forecast=forecast,
        reasons=(f"Every {every}, whichever comes first.", *sooner),
        source=rule.source,
    )


def put_off(due: Due, reason: str) -> Due:
    """The same, put off by hand: it is not urged any more, and it is not green either."""
    return replace(due, state="put off", verdict=verdict_of("put off"), put_off=reason)


def in_order(dues: list[Due]) -> tuple[Due, ...]:
    """What is due now first, what happened before what came round; then by its interval."""

    def place(due: Due) -> tuple[int, bool, float, str]:
        has_interval = due.km_left is not None or due.in_days is not None
        return ORDER[due.state], has_interval, -due.share, due.key

    return tuple(sorted(dues, key=place))
