"""Keys for what is added: the first that is free."""

from __future__ import annotations

from collections.abc import Collection

MAX_KEY = 40
Spent = Collection[str]
"""Keys that the record speaks of: nothing new may bear one (``spent_keys``)."""


def free_key(base: str, taken: set[str]) -> str:
    """``base``, or ``base-2`` and so on: the first that is not taken."""
    if base not in taken:
        return base
    return next(k for k in (f"{base[:MAX_KEY]}-{i}" for i in range(2, 1000)) if k not in taken)
