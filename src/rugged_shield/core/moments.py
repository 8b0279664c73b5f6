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


def later(at: str, seconds: int) -> str:
    """The moment so much later, in the zone in which the first was told; empty for no moment."""
    since = seconds_of(at)
    found = _ISO.match(at)
    if since is None or found is None:
        return ""
    zone = "+00:00" if found[2] in (None, "Z") else found[2]
    east_s = (seconds_of(found[1]) or 0) - since
    return f"{np.datetime64(since + seconds + east_s, 's')}{zone}"


def minute_words(at: str) -> str:
    """A moment to the minute as it is read: ``2026-12-02 09:30``, with an offset that it bears.

    A cure may run over the night in which clocks are changed: the offset says which hour it is.
    """
    found = _ISO.match(at)
    if found is None:
        return at
    zone = "" if found[2] in (None, "Z", "+00:00") else f" {found[2]}"
    return f"{found[1][:16].replace('T', ' ')}{zone}"
