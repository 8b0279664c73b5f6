"""A root between two ends, for balances that rise or fall all the way.

SciPy has Brent's method, but its optimisation package takes most of a second to import, for
every first heat figure of a process; these balances need no more than the secant with a bracket.
"""

from __future__ import annotations

from collections.abc import Callable

from rugged_shield.core.errors import InputError

MOST_STEPS = 200


def bracketed_root(
    balance: Callable[[float], float], low: float, high: float, tolerance: float
) -> float:
    """Where ``balance`` is nought between ``low`` and ``high``, within ``tolerance`` in x.

    The Illinois variant of the false position: an end that stays is halved in weight, so that
    both ends close in (Dowell and Jarratt 1971, BIT 11:168). Every third step halves the
    bracket, so that a balance that lies flat at its root closes in too. Raises InputError for
    ends of one sign, and ArithmeticError where no two numbers lie within ``tolerance``.
    """
    at_low, at_high = balance(low), balance(high)
    if at_low == 0.0 or at_high == 0.0:
        return low if at_low == 0.0 else high
    if (at_low > 0) == (at_high > 0):
        raise InputError("bracket", f"{low:g} to {high:g}", "two ends of opposite sign")
    for i in range(MOST_STEPS):
        between = (low * at_high - high * at_low) / (at_high - at_low)
        if i % 3 == 2:
            between = (low + high) / 2
        at_between = balance(between)
        if at_between == 0.0 or abs(high - low) < tolerance:
            return between
        if (at_between > 0) != (at_high > 0):
            low, at_low = high, at_high
        else:
            at_low /= 2
        high, at_high = between, at_between
    raise ArithmeticError(f"no root within {tolerance:g} after {MOST_STEPS} steps")
