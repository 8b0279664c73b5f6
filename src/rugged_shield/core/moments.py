"""Moments as ISO 8601 text, reckoned with as seconds: arithmetic only, nobody asks a clock here."""

from __future__ import annotations

import re

import numpy as np

_ISO = re.compile(
    r"^(\d{4}-\d{2}-\d{2}T\d{2}:\d{2}(?::\d{2})?)(?:\.\d+)?(Z|[+-]\d{2}:\d{2})?\Z", re.ASCII
)

MOST_HOURS = 23
"""Offsets from UTC lie below a day (RFC 3339, 5.6)."""


def seconds_of(at: str) -> int | None:
    """Seconds since 1970 in UTC; None for a text that is no moment or whose
    offset is none. Without a zone it is UTC."""
    found = _ISO.match(at)
    if found is None:
        return None
    try:
        local = int(np.datetime64(found[1], "s").astype(np.int64))
    except ValueError:
        return None
    zone = found[2] or "Z"
    if zone == "Z":
        return local
    hours, minutes = int(zone[1:3]), int(zone[4:6])
    if hours > MOST_HOURS or minutes > 59:
        return None
    away = 60 * (60 * hours + minutes)
    return local - away if zone[0] == "+" else local + away


def iso_of(seconds: int) -> str:
    """The moment as ISO 8601 text in UTC."""
    return f"{np.datetime64(seconds, 's')}+00:00"
