"""A root between two ends, for balances that rise or fall all the way.

SciPy has Brent's method, but its optimisation package takes most of a second to import, for
every first heat figure of a process.
"""

from __future__ import annotations

from collections.abc import Callable

from rugged_shield.core.errors import InputError

MOST_STEPS = 200


def bracketed_root(
    balance: Callable[[float], float], low: float, high: float, tolerance: float
) -> float:
    """Where ``balance`` is nought between ``low`` and ``high``, within ``tolerance`` in x.

    Inverse quadratic steps where the three last points allow them, halves of the bracket where
    not (Chandrupatla 1997, Advances in Engineering Software 28:145). Raises InputError for ends
    of one sign, and ArithmeticError where no two numbers lie within ``tolerance``.
    """
    last, before = high, low
    at_last, at_before = balance(high), balance(low)
    if at_last == 0.0 or at_before == 0.0:
        return low if at_before == 0.0 else high
    if (at_last > 0) == (at_before > 0):
        raise InputError("bracket", f"{low:g} to {high:g}", "two ends of opposite sign")
    share = at_last / (at_last - at_before)  # the secant first: these balances bend little
    for _ in range(MOST_STEPS):
        new = last + share * (before - last)
        at_new = balance(new)
        if (at_new > 0) == (at_last > 0):
            kept, at_kept = last, at_last
        else:
            kept, at_kept, before, at_before = before, at_before, last, at_last
        last, at_last = new, at_new
        width = abs(before - last)
        if at_last == 0.0 or width <= tolerance:
            return last if abs(at_last) < abs(at_before) else before
        share = _next_share(last, before, kept, at_last, at_before, at_kept)
        least = min(0.5, tolerance / (2 * width))
        share = min(max(share, least), 1 - least)
    raise ArithmeticError(f"no root within {tolerance:g} after {MOST_STEPS} steps")


def _next_share(
    last: float, before: float, kept: float, at_last: float, at_before: float, at_kept: float
) -> float:
    """The share of the way from ``last`` to ``before`` to look at next."""
    across = (last - before) / (kept - before)
    fall = (at_last - at_before) / (at_kept - at_before)
    if not (fall**2 < across and (1 - fall) ** 2 < 1 - across):
        return 0.5
    return at_last / (at_before - at_last) * at_kept / (at_before - at_kept) + (kept - last) / (
        before - last
    ) * at_last / (at_kept - at_last) * at_before / (at_kept - at_before)
