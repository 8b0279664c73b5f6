"""Long work under its own address: begun by a station, looked at and ended here."""

from __future__ import annotations

import secrets
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from typing import Any, Literal

from flask import Blueprint, current_app

from rugged_shield.core.assess.weighup.table import QuantityRow, strike_rows
from rugged_shield.core.errors import InputError
from rugged_shield.core.result import Finding
from rugged_shield.web.api import route
from rugged_shield.web.worker import Steps, Worker

State = Literal["running", "done", "cancelled", "overtaken", "failed"]
Kind = Literal["maps", "rank shifts", "answer"]
MOST_KEPT = 24
WORDS: dict[State, str] = {
    "running": "",
    "done": "done",
    "cancelled": "cancelled: what was done is shown",
    "overtaken": "overtaken by a newer question",
    "failed": "it failed: ask again",
}

blueprint = Blueprint("runs", __name__, url_prefix="/api/jobs/<job_id>/runs")


@dataclass(kw_only=True)
class Run:
    """One piece of long work: its steps so far, what it is doing, how it ended."""

    token: str
    owner: str
    kind: Kind
    total: int
    work: int = 0
    doing: str = ""
    state: State = "running"
    results: list[Any] = field(default_factory=list)

    def hear(self, kind: str, content: Any) -> None:
        """A step, or the end, as the worker tells it."""
        if self.state != "running":
            return
        if kind == "step":
            self.doing, result = content
            if result is not None:
                self.results.append(result)
        else:
            self.state = "done" if kind == "done" else "failed"


@dataclass(frozen=True, kw_only=True)
class RunView:
    """Long work: how far it is, what it is doing, and what it has so far.

    ``found``: by plate, what its strike map found.
    """

    token: str
    state: State
    words: str
    doing: str
    done: int
    total: int
    rows: tuple[QuantityRow, ...] = ()
    plates: tuple[str, ...] = ()
    rank_shifts: tuple[str, ...] = ()
    found: dict[str, tuple[Finding, ...]] = field(default_factory=dict)


class Runs:
    """Every run of the application; a newer one of the same job and kind overtakes the older."""

    def __init__(self, worker: Worker) -> None:
        self._worker = worker
        self._lock = threading.Lock()
        self._runs: dict[str, Run] = {}

    def start(self, owner: str, kind: Kind, total: int, steps: Steps, *args: Any) -> Run:
        """Begin ``steps(*args)``; the answer comes at once."""
        run = Run(token=secrets.token_hex(8), owner=owner, kind=kind, total=total)
        with self._lock:
            for other in self._runs.values():
                if (other.owner, other.kind, other.state) == (owner, kind, "running"):
                    self._end(other, "overtaken")
            for old in list(self._runs)[: 1 - MOST_KEPT]:
                self._end(self._runs.pop(old), "overtaken")
            self._runs[run.token] = run
            run.work = self._worker.start(steps, run.hear, *args)
        return run

    def _end(self, run: Run, state: State) -> None:
        if run.state == "running":
            run.state = state
            self._worker.stop(run.work)

    def find(self, owner: str, token: str) -> Run:
        """A run of this job; raises InputError when it is gone."""
        run = self._runs.get(token)
        if run is None or run.owner != owner:
            raise InputError("token", token, "a run that is still known", "that run is gone")
        return run

    def cancel(self, owner: str, token: str) -> Run:
        """End a run after the step it is in; what it has so far stays."""
        run = self.find(owner, token)
        with self._lock:
            self._end(run, "cancelled")
        return run


class Newest:
    """Costly answers one at a time: who waits and is asked again meanwhile, gives way."""

    def __init__(self) -> None:
        self._changed = threading.Condition()
        self._last: dict[str, int] = {}
        self._at: set[str] = set()

    @contextmanager
    def turn(self, owner: str) -> Iterator[None]:
        """The owner's turn; raises InputError as soon as a newer question of the same owner came.

        Owners do not wait for each other here: the worker takes one after the other.
        """
        with self._changed:
            mine = self._last.get(owner, 0) + 1
            self._last[owner] = mine
            self._changed.notify_all()
            self._changed.wait_for(lambda: owner not in self._at or self._last[owner] != mine)
            if self._last[owner] != mine:
                raise InputError("what-if", "", "the newest question", WORDS["overtaken"])
            self._at.add(owner)
        try:
            yield
        finally:
            with self._changed:
                self._at.discard(owner)
                self._changed.notify_all()


def runs() -> Runs:
    """The long work of the running application."""
    found: Runs = current_app.extensions["rugged_shield_runs"]
    return found


def worker() -> Worker:
    """The process beside the running application."""
    found: Worker = current_app.extensions["rugged_shield_worker"]
    return found


def newest() -> Newest:
    """Who waits for a costly answer of the running application."""
    found: Newest = current_app.extensions["rugged_shield_newest"]
    return found


def run_view(run: Run) -> RunView:
    """A run as it stands."""
    results = tuple(run.results)
    struck = results if run.kind == "maps" else ()
    return RunView(
        token=run.token,
        state=run.state,
        words=WORDS[run.state],
        doing=run.doing,
        done=len(results),
        total=run.total,
        rows=strike_rows(struck),
        plates=tuple(one.key for one in struck),
        found={one.key: one.findings for one in struck},
        rank_shifts=tuple(r for r in results if r) if run.kind == "rank shifts" else (),
    )


@route(blueprint, "GET", "/<token>", RunView)
def look(job_id: str, token: str) -> RunView:
    """How far a run is, with what it has so far."""
    return run_view(runs().find(job_id, token))


@route(blueprint, "POST", "/<token>/cancel", RunView, dict[str, Any])
def cancel(job_id: str, token: str, body: dict[str, Any]) -> RunView:
    """End a run; what it has so far stays."""
    del body
    return run_view(runs().cancel(job_id, token))
