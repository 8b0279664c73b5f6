"""The sheet to hand over, of a plate with a long story."""

from __future__ import annotations

from rugged_shield.formats.keepsheet import MOST_LINES, HandOver, hand_over_sheet
from tests.conftest import words_of_pdf


def test_a_long_story_says_how_much_of_it_is_elsewhere() -> None:
    told = tuple(f"line {i}." for i in range(MOST_LINES + 40))
    said = HandOver(
        title="A job", customer="", bike="b", plate="p", fitted="", joints=(), deviations=(),
        debts=(), doubts=(), passed=(), overrides=(), due=(), history=told,
    )  # fmt: skip
    words = words_of_pdf(hand_over_sheet(said))
    assert "40 earlier lines are in the job file" in words
    assert "line 39." not in words
    assert "line 40." in words
    assert f"line {MOST_LINES + 39}." in words
