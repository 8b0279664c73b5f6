"""Long work beside the requests: order, overtaking, cancelling, failing."""

from __future__ import annotations

import threading
import time
from collections.abc import Iterator

import pytest

from rugged_shield.core.errors import InputError
from rugged_shield.web.runs import MOST_KEPT, Newest, Run, Runs


def ended(run: Run) -> Run:
    for _ in range(400):
        if run.state != "running":
            return run
        time.sleep(0.005)
    raise AssertionError("never ended")


def counted(n: int, gate: threading.Event | None = None) -> Iterator[tuple[str, int | None]]:
    for i in range(n):
        yield f"step {i}", None
        if gate is not None:
            gate.wait(2)
        yield f"did {i}", i


def test_steps_come_in_order_and_a_run_ends() -> None:
    run = ended(Runs().start("job", "maps", 3, counted(3)))
    assert (run.state, run.results, run.doing) == ("done", [0, 1, 2], "did 2")


def test_a_newer_run_of_the_same_kind_overtakes_only_its_own() -> None:
    runs, gate = Runs(), threading.Event()
    first = runs.start("job", "maps", 9, counted(9, gate))
    other = runs.start("job", "turns", 1, counted(1))
    elsewhere = runs.start("another", "maps", 1, counted(1))
    second = runs.start("job", "maps", 2, counted(2))
    assert first.state == "overtaken"
    gate.set()
    for run in (other, elsewhere, second):
        assert ended(run).state == "done"
    assert first.state == "overtaken"
    assert len(first.results) <= 1, "it stopped after the step it was in"


def test_cancelling_keeps_what_was_done() -> None:
    runs, gate = Runs(), threading.Event()
    run = runs.start("job", "maps", 9, counted(9, gate))
    assert runs.cancel("job", run.token).state == "cancelled"
    gate.set()
    time.sleep(0.05)
    assert run.state == "cancelled"
    assert runs.cancel("job", run.token).state == "cancelled", "twice is once"
    with pytest.raises(InputError):
        runs.find("another", run.token)


def test_a_failure_is_told_and_the_next_run_goes_on(monkeypatch: pytest.MonkeyPatch) -> None:
    told: list[str] = []
    monkeypatch.setattr(
        "rugged_shield.web.runs.log.exception", lambda text, *rest: told.append(text % rest)
    )

    def broken() -> Iterator[tuple[str, int | None]]:
        yield "one", 1
        raise ValueError("no such thing")

    runs = Runs()
    assert ended(runs.start("job", "maps", 2, broken())).state == "failed"
    assert told == ["long work of kind maps failed"]
    assert ended(runs.start("job", "maps", 1, counted(1))).state == "done"


def test_old_runs_are_forgotten() -> None:
    runs = Runs()
    first = ended(runs.start("job", "maps", 1, counted(1)))
    for i in range(MOST_KEPT):
        ended(runs.start(f"job {i}", "maps", 1, counted(1)))
    with pytest.raises(InputError, match="gone"):
        runs.find("job", first.token)


def test_only_the_newest_question_is_answered() -> None:
    newest, inside, go = Newest(), threading.Event(), threading.Event()
    said: list[str] = []

    def ask(name: str, hold: bool = False) -> None:
        try:
            with newest.turn("job"):
                if hold:
                    inside.set()
                    go.wait(2)
                said.append(name)
        except InputError:
            said.append(f"{name} gave way")

    threads = [threading.Thread(target=ask, args=("first", True))]
    threads[0].start()
    inside.wait(2)
    for name in ("second", "third"):
        threads.append(threading.Thread(target=ask, args=(name,)))
        threads[-1].start()
        time.sleep(0.05)
    go.set()
    for thread in threads:
        thread.join(3)
    assert sorted(said) == ["first", "second gave way", "third"]
