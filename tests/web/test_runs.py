"""Long work beside the requests: order, overtaking, cancelling, failing, a process that dies."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import threading
import time
from collections.abc import Iterator
from pathlib import Path

import pytest

from rugged_shield.core.errors import InputError
from rugged_shield.core.job.model import Job
from rugged_shield.web.runs import MOST_KEPT, Newest, Run, Runs
from rugged_shield.web.worker import SHARED, Worker, WorkFailedError


@pytest.fixture(scope="module")
def worker() -> Iterator[Worker]:
    own = Worker()
    yield own
    own.close()


def ended(run: Run) -> Run:
    for _ in range(2000):
        if run.state != "running":
            return run
        time.sleep(0.005)
    raise AssertionError("never ended")


def counted(n: int, each_s: float = 0.0) -> Iterator[tuple[str, int | None]]:
    for i in range(n):
        yield f"step {i}", None
        time.sleep(each_s)
        yield f"did {i}", i


def broken() -> Iterator[tuple[str, int | None]]:
    yield "one", 1
    raise ValueError("no such thing")


def refuse(value: str) -> str:
    raise InputError("field", value, "something else", "no", "Try again.")


def fall() -> None:
    raise ValueError("somebody's own words")


def test_steps_come_in_order_and_a_run_ends(worker: Worker) -> None:
    run = ended(Runs(worker).start("job", "maps", 3, counted, 3))
    assert (run.state, run.results, run.doing) == ("done", [0, 1, 2], "did 2")


def test_a_newer_run_of_the_same_kind_overtakes_only_its_own(worker: Worker) -> None:
    runs = Runs(worker)
    first = runs.start("job", "maps", 9, counted, 9, 0.05)
    other = runs.start("job", "rank shifts", 1, counted, 1)
    elsewhere = runs.start("another", "maps", 1, counted, 1)
    second = runs.start("job", "maps", 2, counted, 2)
    assert first.state == "overtaken"
    for run in (other, elsewhere, second):
        assert ended(run).state == "done"
    assert first.state == "overtaken"
    assert len(first.results) <= 2, "it stopped after the step it was in"


def test_cancelling_keeps_what_was_done(worker: Worker) -> None:
    runs = Runs(worker)
    run = runs.start("job", "maps", 9, counted, 9, 0.05)
    while not run.results:
        time.sleep(0.005)
    assert runs.cancel("job", run.token).state == "cancelled"
    kept = list(run.results)
    time.sleep(0.2)
    assert (run.state, run.results) == ("cancelled", kept)
    assert runs.cancel("job", run.token).state == "cancelled", "twice is once"
    with pytest.raises(InputError):
        runs.find("another", run.token)


def test_a_failure_is_told_and_the_next_run_goes_on(
    worker: Worker, monkeypatch: pytest.MonkeyPatch
) -> None:
    told: list[str] = []
    monkeypatch.setattr(
        "rugged_shield.web.worker.log.error", lambda text, *rest: told.append(text % rest)
    )
    runs = Runs(worker)
    assert ended(runs.start("job", "maps", 2, broken)).state == "failed"
    assert len(told) == 1
    assert "ValueError at test_runs.py" in told[0]
    assert "no such thing" not in told[0], "what was typed stays out of the log"
    assert ended(runs.start("job", "maps", 1, counted, 1)).state == "done"


def test_old_runs_are_forgotten(worker: Worker) -> None:
    runs = Runs(worker)
    first = ended(runs.start("job", "maps", 1, counted, 1))
    for i in range(MOST_KEPT):
        runs.start(f"job {i}", "maps", 1, counted, 1)
    with pytest.raises(InputError, match="gone"):
        runs.find("job", first.token)


def test_a_call_is_answered_between_two_steps(worker: Worker) -> None:
    run = Runs(worker).start("job", "maps", 40, counted, 40, 0.05)
    began = len(run.results)
    assert worker.call(os.getpid) == worker.pid != os.getpid()
    assert run.state == "running", "the call did not wait for all of it"
    assert len(run.results) < began + 40


def test_a_refusal_comes_back_whole_and_a_failure_without_its_words(worker: Worker) -> None:
    with pytest.raises(InputError) as refused:
        worker.call(refuse, "this")
    assert (refused.value.field, refused.value.value, refused.value.remedy) == (
        "field",
        "this",
        "Try again.",
    )
    with pytest.raises(WorkFailedError) as failed:
        worker.call(fall)
    assert "own words" not in str(failed.value)


def test_who_waits_for_a_process_that_dies_is_told_and_the_next_is_served() -> None:
    mortal = Worker()
    try:
        run = Runs(mortal).start("job", "maps", 99, counted, 99, 0.05)
        assert mortal.pid is not None
        while not run.results:
            time.sleep(0.005)
        os.kill(mortal.pid, signal.SIGKILL)
        assert ended(run).state == "failed"
        assert mortal.call(os.getpid) == mortal.pid
    finally:
        mortal.close()


def test_a_job_crosses_with_hashes_of_its_own(choosing: Job) -> None:
    hash(choosing)  # remembered here: it must not travel
    assert SHARED.call(_is_found, choosing)


def _is_found(job: Job) -> bool:
    return {job: True}.get(Job(**{f: getattr(job, f) for f in job.__dataclass_fields__}), False)


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


@pytest.mark.parametrize("method", ["spawn", "fork"])
def test_it_ends_with_a_server_that_was_killed(method: str) -> None:
    begun = (
        "import time; from rugged_shield.web.worker import Worker; w = Worker(); "
        f"w.method = {method!r}; w.begin(); print(w.pid, flush=True); time.sleep(600)"
    )
    server = subprocess.Popen([sys.executable, "-c", begun], stdout=subprocess.PIPE, text=True)
    assert server.stdout is not None
    state = Path(f"/proc/{int(server.stdout.readline())}/stat")
    assert state.exists()
    server.kill()
    server.communicate(timeout=60)
    end = time.monotonic() + 60
    while state.exists() and state.read_text().rsplit(")", 1)[1].split()[0] != "Z":
        assert time.monotonic() < end, "it goes on without its server"
        time.sleep(0.05)
