"""The bracketed root against closed forms and SciPy's own method."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import brentq

from rugged_shield.core.errors import InputError
from rugged_shield.core.mechanics.roots import bracketed_root


@pytest.mark.parametrize(
    ("balance", "low", "high", "root"),
    [
        (lambda x: x * x - 2.0, 0.0, 2.0, math.sqrt(2.0)),
        (lambda x: math.exp(x) - 5.0, -10.0, 10.0, math.log(5.0)),
        (lambda x: 3.0 - x, -100.0, 100.0, 3.0),
        (lambda x: x**9, -1.0, 1.5, 0.0),
        (lambda x: 0.0 if x == 4.0 else x - 4.0, 4.0, 9.0, 4.0),
        (lambda x: x - 9.0, 4.0, 9.0, 9.0),
    ],
)
def test_closed_forms(balance, low: float, high: float, root: float) -> None:  # type: ignore[no-untyped-def]
    assert bracketed_root(balance, low, high, 1e-10) == pytest.approx(root, abs=1e-6)


@given(
    hot=st.floats(50.0, 1200.0),
    conductance=st.floats(0.1, 500.0),
    emissivity=st.floats(0.0, 1.0),
)
def test_agrees_with_brent_on_a_radiating_sheet(
    hot: float, conductance: float, emissivity: float
) -> None:
    """A balance like that of the sheet: conduction in, radiation and air out, 20 °C around."""

    def balance(t: float) -> float:
        radiated = emissivity * 5.67e-8 * ((t + 273.15) ** 4 - 293.15**4)
        return conductance * (hot - t) - radiated - 8.0 * (t - 20.0)

    ours = bracketed_root(balance, 20.0, hot, 1e-9)
    assert ours == pytest.approx(brentq(balance, 20.0, hot, xtol=1e-12), abs=1e-6)


def test_ends_of_one_sign_hold_no_root() -> None:
    with pytest.raises(InputError, match="bracket"):
        bracketed_root(lambda x: x * x + 1.0, -1.0, 1.0, 1e-6)


def test_a_balance_that_does_not_settle_is_said() -> None:
    """A step has no root: its ends close in on the place where it jumps, or it is refused."""
    jump = bracketed_root(lambda x: 1.0 if x > 0.3 else -1.0, 0.0, 1.0, 1e-9)
    assert jump == pytest.approx(0.3, abs=1e-6)
    with pytest.raises(ArithmeticError, match="steps"):
        bracketed_root(lambda x: 1.0 if x > 0.3 else -1.0, 0.0, 1.0, 0.0)
