"""Which set of screws holds a sheet better: closed forms of the elastic bolt group."""

from __future__ import annotations

import math

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from rugged_shield.core.errors import InputError
from rugged_shield.core.fitup.hole_pattern import PatternInput, hole_pattern

CORNERS = ((0.0, 0.0), (200.0, 0.0), (200.0, 120.0), (0.0, 120.0))
PLACES = st.lists(
    st.tuples(st.floats(-300, 300), st.floats(-200, 200)), min_size=3, max_size=9, unique=True
)


def worst(screws: tuple[tuple[float, float], ...], at: tuple[tuple[float, float], ...]) -> float:
    found = hole_pattern(PatternInput(screws, at)).result.worst_n
    assert found is not None
    return found


def test_a_pull_on_one_of_four_corners() -> None:
    """R = P (1/4 + x²/Σx² + y²/Σy²) = 3/4 P at the corner that is pulled."""
    found = hole_pattern(PatternInput(CORNERS, CORNERS[:1])).result
    assert found.worst_n == pytest.approx(75.0)
    assert found.worst_screw == 0
    assert worst(CORNERS, ((100.0, 60.0),)) == pytest.approx(25.0)


def test_an_arm_beyond_the_screws() -> None:
    """Two rows 200 apart, pulled 200 beyond one: P/4 + P·300·100/(4·100²) = P there."""
    assert worst(CORNERS, ((400.0, 60.0),)) == pytest.approx(100.0)


def test_screws_on_a_line_let_it_tilt() -> None:
    line = ((0.0, 0.0), (50.0, 0.0), (100.0, 0.0))
    assert hole_pattern(PatternInput(line, CORNERS)).result.worst_n is None
    assert hole_pattern(PatternInput(line, CORNERS)).result.spread_mm == pytest.approx(0.0)
    assert worst(line, ((100.0, 0.0),)) == pytest.approx(100.0 * (1 / 3 + 50 * 50 / 5000))
    assert hole_pattern(PatternInput(line[:1], CORNERS)).result.worst_n is None


@given(PLACES, st.floats(1.05, 3.0))
def test_a_wider_set_never_holds_worse(screws: list[tuple[float, float]], wider: float) -> None:
    """Spread about its own middle, no screw takes more of any pull outside the set."""
    pattern = tuple(screws)
    x = sum(p[0] for p in pattern) / len(pattern)
    y = sum(p[1] for p in pattern) / len(pattern)
    spread = tuple((x + (a - x) * wider, y + (b - y) * wider) for a, b in pattern)
    at = ((600.0, 300.0), (-600.0, -300.0), (x, y))
    now, then = (hole_pattern(PatternInput(p, at)).result for p in (pattern, spread))
    assume(now.spread_mm > 5.0)
    assert now.worst_n is not None
    assert then.worst_n is not None
    assert then.worst_n <= now.worst_n * (1 + 1e-9)
    assert then.spread_mm == pytest.approx(now.spread_mm * wider)


@given(PLACES)
def test_turning_the_bike_changes_nothing(screws: list[tuple[float, float]]) -> None:
    assume(hole_pattern(PatternInput(tuple(screws), ((0.0, 0.0),))).result.spread_mm > 5.0)
    c, s = math.cos(0.7), math.sin(0.7)

    def turned(points: list[tuple[float, float]]) -> tuple[tuple[float, float], ...]:
        return tuple((c * x - s * y, s * x + c * y) for x, y in points)

    at = [(400.0, 10.0), (-20.0, 330.0)]
    assert worst(turned(screws), turned(at)) == pytest.approx(worst(tuple(screws), tuple(at)))


@pytest.mark.parametrize(
    "bad",
    [
        {"screws_mm": ()},
        {"pulled_at_mm": ()},
        {"pull_n": 0.0},
        {"screws_mm": ((math.nan, 0.0),)},
    ],
)
def test_what_is_no_pattern_is_refused(bad: dict[str, object]) -> None:
    with pytest.raises(InputError):
        PatternInput(**{"screws_mm": CORNERS, "pulled_at_mm": CORNERS} | bad)  # type: ignore[arg-type]
