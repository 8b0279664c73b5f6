"""Counting the kit: short, extra, missing, and what no line holds."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rugged_shield.core.errors import InputError
from rugged_shield.core.kit.hardware import KitLine, check_line

LINE = KitLine(
    key="k",
    kind="screw",
    name="cap screw",
    thread="M8",
    length_mm=35,
    head="ISO 4762",
    grade="8.8",
    count=3,
)


@pytest.mark.parametrize(
    ("counted", "state", "missing", "extra"),
    [
        (None, "not counted", 0, 0),
        (0, "missing", 3, 0),
        (2, "short", 1, 0),
        (3, "matches", 0, 0),
        (5, "extra", 0, 2),
    ],
)
def test_states(counted: int | None, state: str, missing: int, extra: int) -> None:
    got = check_line(LINE, counted, ())
    assert (got.state, got.missing, got.extra) == (state, missing, extra)


def test_parts_already_fitted_count() -> None:
    line = replace(LINE, already_fitted=2)
    assert check_line(line, 1, ()).state == "matches"
    assert check_line(line, 0, ()).missing == 1
    assert check_line(line, 0, ()).state == "short"


@given(st.integers(1, 50), st.integers(0, 80), st.integers(0, 50))
def test_missing_and_extra_add_up(count: int, counted: int, fitted: int) -> None:
    line = replace(LINE, count=count, already_fitted=min(fitted, count))
    state = check_line(line, counted, ())
    assert counted + line.already_fitted == count - state.missing + state.extra
    assert state.missing == 0 or state.extra == 0


def test_size_as_one_says_it() -> None:
    assert LINE.size == "M8 × 35"
    assert KitLine(key="w", kind="washer", name="washer", thread="M8").size == "M8"
    assert KitLine(key="s", kind="pad", name="pad", length_mm=3).size == "3"


@pytest.mark.parametrize(
    "change",
    [
        {"thread": "M7"},
        {"head": "ISO 1"},
        {"grade": "9.9"},
        {"thread": ""},
        {"count": 0},
        {"count": 201},
        {"already_fitted": 4},
        {"length_mm": 5000.0},
    ],
)
def test_refusals(change: dict[str, object]) -> None:
    with pytest.raises(InputError):
        replace(LINE, **change)  # type: ignore[arg-type]
