"""What a text of a person may hold: the one place for fields, files and pasted lists."""

from __future__ import annotations

import re

from rugged_shield.core.errors import InputError

MAX_LETTERS = 200
_UNSEEN = re.compile(
    "[\\x00-\\x08\\x0b\\x0c\\x0e-\\x1f\\x7f-\\x9f"
    "\\ud800-\\udfff"
    "\\ue000-\\uf8ff"
    "\\u061c\\u200e\\u200f\\u202a-\\u202e\\u2066-\\u2069]"
)
"""Control characters but tab and line ends; lone surrogates; signs of private use,
with which numbers in sentences are marked; marks that turn the direction of
writing, with which a text reads other than it is."""
_SEEN = re.compile(
    "[^\\s\\u00ad\\u034f\\u115f\\u1160\\u17b4\\u17b5\\u180b-\\u180f\\u200b-\\u200d\\u2060-\\u2065"
    "\\u206a-\\u206f\\u2800\\u3164\\ufe00-\\ufe0f\\ufeff\\uffa0\\U000e0000-\\U000e0fff]"
)
"""Anything that leaves ink: not blanks, joiners, fillers, variation selectors or tags alone."""
_LINE_END = re.compile(r"\s*[\t\n\r\v\f\x1c-\x1e\x85\u2028\u2029]\s*")
_KEY = re.compile(r"[A-Za-z0-9][A-Za-z0-9_-]{0,59}")


def check_text(field: str, text: str, most: int | None = MAX_LETTERS) -> None:
    """Raise InputError for a text that is too long or holds what cannot be seen or written.

    Tabs and line ends are left to whoever reads the text; control characters, marks that turn
    the direction of writing and lone surrogates are refused.
    """
    if most is not None and len(text) > most:
        raise InputError(field, f"{len(text)} letters", f"at most {most} letters")
    if text.strip() and not _SEEN.search(text):
        raise InputError(
            field,
            f"{len(text)} signs, none of which can be seen",
            "letters, digits and signs that can be seen",
            "there is nothing to be read in this text",
            "Type it again.",
        )
    found = _UNSEEN.search(text)
    if found is not None:
        raise InputError(
            field,
            f"character U+{ord(found[0]):04X}",
            "letters, digits and signs that can be seen",
            "there is a control character in this text",
            "Type it again, or paste it as plain text.",
        )


def one_line(text: str) -> str:
    """A text without line ends and tabs, as a field takes it; blanks within a line stay."""
    return _LINE_END.sub(" ", text).strip() if _LINE_END.search(text) else text


def check_key(field: str, key: str) -> None:
    """Raise InputError for a key that could not stand in an address or a path of fields."""
    if not _KEY.fullmatch(key):
        raise InputError(
            field, key[:60], "up to 60 letters, digits, _ and -, a letter or digit first"
        )
