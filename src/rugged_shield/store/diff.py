"""What an edit changed, as the least list of places with before and after."""

from __future__ import annotations

from typing import Any

Changes = list[dict[str, Any]]


def diff(before: Any, after: Any, path: tuple[str | int, ...] = ()) -> Changes:
    """Places where two JSON values differ; lists of other length change as a whole."""
    if before == after:
        return []
    if isinstance(before, dict) and isinstance(after, dict) and before.keys() == after.keys():
        return [c for k in before for c in diff(before[k], after[k], (*path, k))]
    if isinstance(before, list) and isinstance(after, list) and len(before) == len(after):
        return [
            c
            for i, (a, b) in enumerate(zip(before, after, strict=True))
            for c in diff(a, b, (*path, i))
        ]
    return [{"path": list(path), "before": before, "after": after}]


def _put(value: Any, path: list[Any], new: Any) -> Any:
    """The value with another one at a path; what is not on the path is shared."""
    if not path:
        return new
    step, rest = path[0], path[1:]
    out = list(value) if isinstance(value, list) else dict(value)
    out[step] = _put(value[step], rest, new)
    return out


def inverse(changes: Changes) -> Changes:
    """Changes that take these back."""
    return [
        {**c, "before": c["after"], "after": c["before"]} if "path" in c else c
        for c in reversed(changes)
    ]


def revert(value: Any, changes: Changes) -> Any:
    """The JSON value as it was before these changes."""
    for change in reversed(changes):
        value = _put(value, change["path"], change["before"])
    return value
