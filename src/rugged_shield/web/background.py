"""Long work beside the requests: one worker, progress, cancel, and what overtook it."""

from __future__ import annotations

import logging
import queue
import secrets
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from typing import Any, Literal

from rugged_shield.core.errors import InputError

log = logging.getLogger("rugged_shield")
State = Literal["running", "done", "cancelled", "overtaken", "failed"]
MOST_KEPT = 24
WORDS: dict[State, str] = {
    "running": "",
    "done": "done",
    "cancelled": "cancelled: what was done is shown",
    "overtaken": "overtaken by a newer question",
    "failed": "it failed: ask again",
}


@dataclass(kw_only=True)
class Run:
    """One piece of long work: its steps so far, what it is doing, how it ended."""

    token: str
    owner: str
    kind: str
    total: int
    doing: str = ""
    state: State = "running"
    results: list[Any] = field(default_factory=list)
    stop: threading.Event = field(default_factory=threading.Event)


Steps = Iterator[tuple[str, Any]]
"""Each step first yields (what comes next, None), then (what was done, its result)."""


class Runs:
    """Every run of the application; a newer one of the same job and kind overtakes the older."""

    def __init__(self) -> None:
        self._waiting: queue.SimpleQueue[tuple[Run, Steps]] = queue.SimpleQueue()
        self._worker: threading.Thread | None = None
        self._lock = threading.Lock()
        self._runs: dict[str, Run] = {}

    def start(self, owner: str, kind: str, total: int, steps: Steps) -> Run:
        """Begin; the answer comes at once."""
        run = Run(token=secrets.token_hex(8), owner=owner, kind=kind, total=total)
        with self._lock:
            for other in self._runs.values():
                if (other.owner, other.kind, other.state) == (owner, kind, "running"):
                    other.state = "overtaken"
                    other.stop.set()
            self._runs[run.token] = run
            for old in list(self._runs)[:-MOST_KEPT]:
                self._runs.pop(old).stop.set()
            if self._worker is None:
                # A daemon: the server stops at once, whatever is still being worked at.
                self._worker = threading.Thread(target=self._serve, daemon=True, name="long-work")
                self._worker.start()
        self._waiting.put((run, steps))
        return run

    def _serve(self) -> None:
        while True:
            run, steps = self._waiting.get()
            if not run.stop.is_set():
                self._work(run, steps)

    def _work(self, run: Run, steps: Steps) -> None:
        try:
            for words, result in steps:
                if run.stop.is_set():
                    return
                run.doing = words
                if result is not None:
                    run.results.append(result)
            run.state = "done"
        except Exception:
            run.state = "failed"
            log.exception("long work of kind %s failed", run.kind)

    def find(self, owner: str, token: str) -> Run:
        """A run of this job; raises InputError when it is gone."""
        run = self._runs.get(token)
        if run is None or run.owner != owner:
            raise InputError("token", token, "a run that is still known", "that run is gone")
        return run

    def cancel(self, owner: str, token: str) -> Run:
        """End a run after the step it is in."""
        run = self.find(owner, token)
        with self._lock:
            if run.state == "running":
                run.state = "cancelled"
                run.stop.set()
        return run


class Newest:
    """Costly answers one at a time: who waits and is asked again meanwhile, gives way."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._last: dict[str, int] = {}

    @contextmanager
    def turn(self, owner: str) -> Iterator[None]:
        """The owner's turn; raises InputError when a newer question of the same owner came."""
        mine = self._last.get(owner, 0) + 1
        self._last[owner] = mine
        with self._lock:
            if self._last[owner] != mine:
                raise InputError("what-if", "", "the newest question", WORDS["overtaken"])
            yield
