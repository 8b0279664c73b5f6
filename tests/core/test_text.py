"""What a text may hold: one rule for fields, files and pasted lists."""

from __future__ import annotations

import unicodedata

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rugged_shield.core.errors import InputError
from rugged_shield.core.text import check_key, check_text, one_line

UNSEEN = ["\u200b", "\u200b\u200c\u200d", "\ufeff", "\u2800\u2800", "\u3164", "\u115f", "\uffa0",
          "\ufe0f", "\U000e0041", "\u00ad", " \u2060 ", "\u034f"]  # fmt: skip


@pytest.mark.parametrize("text", UNSEEN)
def test_a_name_of_signs_that_nobody_sees_is_none(text: str) -> None:
    with pytest.raises(InputError, match="nothing to be read"):
        check_text("title", text)
    check_text("title", f"{text}a")


@pytest.mark.parametrize("text", ["", "  ", "é", "ß", "한글", "工具", "👩\u200d🔧", "−5 °C", "א"])
def test_what_can_be_read_is_a_text(text: str) -> None:
    check_text("title", text)


@given(st.characters(categories=("L", "N", "P", "Sm", "Sc", "So")))
def test_every_letter_and_sign_is_seen(sign: str) -> None:
    """Of every script, but the fillers and blanks that Unicode names so."""
    name = unicodedata.name(sign, "")
    if "FILLER" not in name and "BLANK" not in name:
        check_text("title", sign)


@given(st.text())
def test_one_line_is_one_line_and_stays_so(text: str) -> None:
    line = one_line(text)
    assert len(line.splitlines()) <= 1
    assert one_line(line) == line
    assert [c for c in line if not c.isspace()] == [c for c in text if not c.isspace()]


@pytest.mark.parametrize("key", ["a\n", "a b", "", "-a", "a" * 61, "ä", "a\r"])
def test_a_key_ends_where_it_ends(key: str) -> None:
    with pytest.raises(InputError):
        check_key("key", key)
