"""JSON from outside: read with suspicion, refused with the place and the reason."""

from __future__ import annotations

import json
from typing import Any

from pydantic import ValidationError

from rugged_shield.core.errors import InputError

MAX_DEPTH = 40


def read_json(text: str | bytes) -> Any:
    """JSON from outside: refuses NaN and infinities, duplicate keys and deep nesting."""

    def no_constant(word: str) -> float:
        raise InputError("input", word, "finite numbers")

    def pairs(items: list[tuple[str, Any]]) -> dict[str, Any]:
        keys = [k for k, _ in items]
        for key in keys:
            if keys.count(key) > 1:
                raise InputError(key, key, "each field once", f"the field “{key}” stands twice")
        return dict(items)

    try:
        return json.loads(text, parse_constant=no_constant, object_pairs_hook=pairs)
    except json.JSONDecodeError as error:
        raise InputError(
            "input", f"line {error.lineno}, column {error.colno}", "valid JSON", error.msg
        ) from error
    except (RecursionError, UnicodeDecodeError) as error:
        raise InputError("input", "", "JSON text of ordinary depth in UTF-8") from error


def check_depth(value: Any, most: int = MAX_DEPTH) -> None:
    """Refuse JSON nested deeper than any of our files."""
    level, depth = [value], 0
    while level:
        depth += 1
        if depth > most:
            raise InputError("input", f"deeper than {most} levels", f"at most {most} levels")
        level = [
            child
            for item in level
            if isinstance(item, dict | list)
            for child in (item.values() if isinstance(item, dict) else item)
        ]


def unknown_field(given: Any, known: Any, path: str = "") -> str | None:
    """The first field that stands in ``given`` and has no place in ``known``."""
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


def first_error(error: ValidationError) -> InputError:
    """The first thing wrong, in the one error shape."""
    first = error.errors(include_url=False)[0]
    cause = (first.get("ctx") or {}).get("error")
    place = ".".join(str(part) for part in first["loc"])
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
