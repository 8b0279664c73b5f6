"""Clocks: one that nobody sets, and what time it is to the pages, which never runs ahead of it."""

from __future__ import annotations

import json
import logging
import os
import time
from contextlib import suppress
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path

log = logging.getLogger("rugged_shield")

MARK = "clock.json"
BOOT = Path("/proc/sys/kernel/random/boot_id")
NOTED_S = 300.0
"""So far the clock may be ahead of what has passed before it is noted."""


ASLEEP_TOO: int | None = getattr(time, "CLOCK_BOOTTIME", None)
"""The clock that also counts while the computer sleeps, where the system has one."""


def steady_s() -> float:
    """Seconds that pass whatever the clock is set to, asleep too where the system can tell."""
    return time.monotonic() if ASLEEP_TOO is None else time.clock_gettime(ASLEEP_TOO)


@dataclass(frozen=True)
class Clock:
    """The time of day as it was told once (``told_s``), at a moment of the steady clock.

    A clock that is set on, while the server runs or between two starts of it, makes nothing cure:
    only what has passed counts, until the computer itself starts anew. One that is set back is
    followed. Where the system has no clock that runs while it sleeps, the time of day is believed.
    """

    told_s: float
    at_steady_s: float

    def now_iso(self) -> str:
        """The moment to the second, with this computer's offset: what day it is to who rides."""
        now = time.time()
        if ASLEEP_TOO is not None:
            now = min(now, self.told_s + steady_s() - self.at_steady_s)
        return datetime.fromtimestamp(now, UTC).astimezone().isoformat(timespec="seconds")


def _marked(file: Path, boot: str) -> tuple[float, float] | None:
    """What was told first since this computer started; None for nothing that can be trusted."""
    try:
        mark = json.loads(file.read_text())
        if mark["boot"] == boot:
            return float(mark["told_s"]), float(mark["steady_s"])
    except (OSError, ValueError, LookupError, TypeError):
        pass  # none, or one that somebody changed: the time of day is believed as at a first start
    return None


def clock_of(folder: Path, boot_id: Path = BOOT) -> Clock:
    """The clock of a data folder, which a start of the server goes on with.

    The mark that is kept there bears the number that the system gives to each of its own starts.
    """
    told, steady = time.time(), steady_s()
    try:
        boot = boot_id.read_text().strip()
    except OSError:
        return Clock(told, steady)
    file = folder / MARK
    known = _marked(file, boot)
    if known is None:
        with suppress(OSError):  # a full disk, or a folder that may only be read
            mark = json.dumps({"boot": boot, "told_s": told, "steady_s": steady})
            with os.fdopen(os.open(file, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600), "w") as out:
                out.write(mark)
        return Clock(told, steady)
    ahead_s = told - (known[0] + steady - known[1])
    if ahead_s > NOTED_S:
        log.warning("the clock was set on by %.0f s: lockers cure by what has passed", ahead_s)
    return Clock(*known)
