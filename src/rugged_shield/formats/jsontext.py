"""JSON from outside: read with suspicion, refused with the place and the reason."""

from __future__ import annotations

import json
from typing import Any

from pydantic import ValidationError

from rugged_shield.core.errors import InputError
from rugged_shield.core.event import MAX_RECORD
from rugged_shield.core.text import MAX_LETTERS, check_key, check_text, one_line

MAX_DEPTH = 40
MAX_KEYS = 500
MAX_ITEMS = MAX_RECORD


def read_json(text: str | bytes) -> Any:
    """JSON from outside: refuses NaN and infinities, duplicate keys and deep nesting."""

    def no_constant(word: str) -> float:
        raise InputError("input", word, "finite numbers")

    def pairs(items: list[tuple[str, Any]]) -> dict[str, Any]:
        found = dict(items)
        if len(found) < len(items):
            seen: set[str] = set()
            twice = next(k for k, _ in items if k in seen or seen.add(k))  # type: ignore[func-returns-value]
            shown = twice[:60]
            raise InputError(shown, shown, "each field once", f"the field “{shown}” stands twice")
        if len(found) > MAX_KEYS:
            raise InputError("input", len(found), f"at most {MAX_KEYS} fields in one place")
        return found

    try:
        return json.loads(text, parse_constant=no_constant, object_pairs_hook=pairs)
    except json.JSONDecodeError as error:
        raise InputError(
            "input", f"line {error.lineno}, column {error.colno}", "valid JSON", error.msg
        ) from error
    except InputError:
        raise
    except (RecursionError, ValueError) as error:
        allowed = "JSON text of ordinary depth, with numbers of ordinary length, in UTF-8"
        raise InputError("input", "", allowed) from error


Placed = tuple[str, Any]


def _children(place: str, value: Any) -> list[Placed]:
    if isinstance(value, dict):
        return [(f"{place}.{key}"[-200:].lstrip("."), child) for key, child in value.items()]
    if not isinstance(value, list):
        return []
    if len(value) > MAX_ITEMS:
        raise InputError(place or "input", len(value), f"at most {MAX_ITEMS} in one list")
    return [(f"{place}.{i}"[-200:].lstrip("."), child) for i, child in enumerate(value)]


def check_shape(value: Any, most_letters: int | None = MAX_LETTERS) -> None:
    """Refuse JSON that is deeper, longer or wordier than any of ours, and keys of odd letters.

    ``most_letters`` None: texts as long as they are (a pasted list).
    """
    level: list[Placed] = [("", value)]
    for _ in range(MAX_DEPTH):
        following: list[Placed] = []
        for place, item in level:
            if isinstance(item, str):
                name = place.rsplit(".", 1)[-1]
                check_text(place or "input", item, most_letters)
                if name == "key" and item:
                    check_key(place, item)
            following += _children(place, item)
        level = following
        if not level:
            return
    raise InputError("input", f"deeper than {MAX_DEPTH} levels", f"at most {MAX_DEPTH} levels")


def in_single_lines(value: Any) -> Any:
    """The same JSON with every text in one line, as fields take them."""
    if isinstance(value, str):
        return one_line(value)
    if isinstance(value, dict):
        return {key: in_single_lines(child) for key, child in value.items()}
    if isinstance(value, list):
        return [in_single_lines(child) for child in value]
    return value


def unknown_field(given: Any, known: Any, path: str = "") -> str | None:
    """The first field that stands in ``given`` and has no place in ``known``."""
    if given == known:
        return None
    if isinstance(given, dict) and isinstance(known, dict):
        for key, value in given.items():
            here = f"{path}.{key}".lstrip(".")
            if key not in known:
                return here
            if found := unknown_field(value, known[key], here):
                return found
    if isinstance(given, list) and isinstance(known, list):
        for i, (a, b) in enumerate(zip(given, known, strict=False)):
            if found := unknown_field(a, b, f"{path}.{i}"):
                return found
    return None


_UNKNOWN_NAME = "unexpected_keyword_argument"


def unknown_names(error: ValidationError) -> tuple[str, ...]:
    """Paths that nothing takes, among what a reader that allows no other name refused."""
    found = (e for e in error.errors(include_url=False) if e["type"] == _UNKNOWN_NAME)
    return tuple(".".join(str(part) for part in e["loc"]) for e in found)


def first_error(error: ValidationError) -> InputError:
    """The first thing wrong, in the one error shape."""
    first = error.errors(include_url=False)[0]
    cause = (first.get("ctx") or {}).get("error")
    place = ".".join(str(part) for part in first["loc"])
    if first["type"] == _UNKNOWN_NAME:
        return InputError(
            place[:200], "", "a name that is known here", f"“{place[-60:]}” is not known here"
        )
    if isinstance(cause, InputError):
        return cause.at(place) if place else cause
    value = first.get("input")
    shown = "" if isinstance(value, dict | list) else value
    return _said(place or "body", shown, first["msg"])


def _said(place: str, shown: object, words: str) -> InputError:
    """The reader's words as a sentence about what was given and what is allowed."""
    allowed = words.removeprefix("Input should be ")
    if allowed == words:
        return InputError(place, shown, words, words, "Put this place right and try again.")
    given = f"“{str(shown)[:60]}”" if shown not in ("", None) else "what is there"
    return InputError(place, shown, allowed, f"{given} is not {allowed}")


def error_json(error: InputError, reference: str = "") -> dict[str, Any]:
    """The one error shape of calc and API."""
    return {
        "error": {
            "field": error.field,
            "value": error.value,
            "allowed": error.allowed,
            "message": error.message,
            "remedy": error.remedy,
            "reference": reference,
        }
    }
