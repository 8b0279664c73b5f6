"""Work side by side: the answers of work in turn, whatever becomes of a fork."""

from __future__ import annotations

import importlib
import os
import select
import signal
import subprocess
import sys
from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace
from typing import TypeVar

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from rugged_shield.calc.beside import ForkFailedError, cores, spread
from rugged_shield.core.assess.survey.measure_next import measure_next
from rugged_shield.core.errors import InputError
from rugged_shield.core.job.model import Job
from rugged_shield.core.weighup.withstood import sheet_gives
from rugged_shield.places import places_of

X = TypeVar("X")
Y = TypeVar("Y")
WAITED_S = 20.0
measuring = importlib.import_module("rugged_shield.core.assess.survey.measure_next")


@pytest.fixture
def both_at_work() -> Iterator[Callable[[int], None]]:
    """For two pieces: each waits until the other was begun, which one process alone never does."""
    pipes = [os.pipe(), os.pipe()]

    def meet(i: int) -> None:
        os.write(pipes[1 - i][1], b".")
        ready, _, _ = select.select([pipes[i][0]], [], [], WAITED_S)
        assert ready, "nobody took the other piece"
        os.read(pipes[i][0], 1)

    yield meet
    for end in (end for pipe in pipes for end in pipe):
        os.close(end)


def no_fork_is_left() -> bool:
    """Whether this process has no child that has ended and was not asked for, nor one at work."""
    try:
        return os.waitpid(-1, os.WNOHANG) == (0, 0)
    except ChildProcessError:
        return True


@settings(max_examples=20, deadline=None)
@given(
    items=st.lists(st.one_of(st.integers(), st.text()), max_size=30),
    processes=st.integers(1, 4),
)
def test_answers_are_those_of_work_in_turn(items: list[int | str], processes: int) -> None:
    assert spread(repr, items, processes) == [repr(item) for item in items]


def test_answers_larger_than_a_pipe_come_whole() -> None:
    sizes = [300_000, 1, 500_000, 70_000]
    assert [len(a) for a in spread(lambda n: b"x" * n, sizes, 3)] == sizes


def test_two_are_at_work_at_the_same_time(both_at_work: Callable[[int], None]) -> None:
    def who(i: int) -> int:
        both_at_work(i)
        return os.getpid()

    pids = spread(who, [0, 1], 2)
    assert len(set(pids)) == 2
    assert os.getpid() in pids
    assert no_fork_is_left()


def test_what_the_parent_remembers_is_known_and_stays_its_own(
    both_at_work: Callable[[int], None],
) -> None:
    known = {"before": 1}

    def learn(i: int) -> int:
        both_at_work(i)
        known[f"{os.getpid()}"] = i
        return known["before"]

    assert spread(learn, [0, 1], 2) == [1, 1]
    assert list(known) == ["before", f"{os.getpid()}"]


@pytest.mark.parametrize("processes", [1, 2, 3])
def test_the_first_that_is_refused_is_said_and_nothing_is_left(processes: int) -> None:
    def refuse(i: int) -> int:
        if i in (3, 5):
            raise InputError("i", i, "another number")
        return i

    with pytest.raises(InputError) as said:
        spread(refuse, range(8), processes)
    assert said.value.value == "3"
    assert no_fork_is_left()


def test_a_fork_that_was_killed_is_no_answer(both_at_work: Callable[[int], None]) -> None:
    here = os.getpid()

    def die(i: int) -> int:
        both_at_work(i)
        if os.getpid() != here:
            os.kill(os.getpid(), signal.SIGKILL)
        return i

    with pytest.raises(ForkFailedError, match="1 of 2"):
        spread(die, [0, 1], 2)
    assert no_fork_is_left()


def test_who_asked_is_interrupted_and_no_fork_works_on(both_at_work: Callable[[int], None]) -> None:
    here = os.getpid()

    def stop(i: int) -> int:
        both_at_work(i)
        if os.getpid() == here:
            raise KeyboardInterrupt
        signal.pause()
        return i

    with pytest.raises(KeyboardInterrupt):
        spread(stop, [0, 1], 2)
    assert no_fork_is_left()


def test_a_fork_ends_with_who_asked() -> None:
    """Its parent is killed while it is at a piece: it takes no other one."""
    script = (
        "import os, signal, sys\n"
        "from rugged_shield.calc.beside import spread\n"
        "here, (read, write) = os.getpid(), os.pipe()\n"
        "def work(i):\n"
        "    if os.getpid() == here:\n"
        "        os.read(read, 1)\n"
        "        os.kill(here, signal.SIGKILL)\n"
        "    print(i, flush=True)\n"
        "    os.write(write, b'.')\n"
        "    while os.getppid() == here: pass\n"
        "spread(work, range(100), 2)\n"
    )
    done = subprocess.run(
        [sys.executable, "-c", script], stdout=subprocess.PIPE, timeout=WAITED_S, check=False
    )
    assert done.returncode == -signal.SIGKILL
    assert len(done.stdout.split()) == 1


def test_where_it_broke_in_a_fork_is_told(both_at_work: Callable[[int], None]) -> None:
    here = os.getpid()

    def unforeseen(i: int) -> int:
        both_at_work(i)
        if os.getpid() != here:
            raise ZeroDivisionError("what was typed")
        return i

    with pytest.raises(ZeroDivisionError) as said:
        spread(unforeseen, [0, 1], 2)
    places = places_of(said.value)
    assert "a fork, ZeroDivisionError at test_beside.py:" in places
    assert "unforeseen" in places
    assert "typed" not in places


def test_an_answer_that_cannot_be_handed_over_is_no_answer(
    both_at_work: Callable[[int], None],
) -> None:
    def make(i: int) -> Callable[[], int]:
        both_at_work(i)
        return lambda: i

    with pytest.raises(ForkFailedError):
        spread(make, [0, 1], 2)
    assert no_fork_is_left()


def two(work: Callable[[X], Y], items: Sequence[X], /) -> list[Y]:
    return spread(work, items, 2)


def test_what_to_measure_is_the_same_side_by_side(
    choosing: Job, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Shells and numbers come from forks, and are then known here."""
    few = replace(choosing, candidates=choosing.candidates[:3])
    in_turn = measure_next(few)
    assert in_turn.numbers
    for remembered in (sheet_gives, measuring.number_tried):
        remembered.cache_clear()
    assert measure_next(few, two) == in_turn
    monkeypatch.delattr(measuring, "_tried")
    assert measure_next(few) == measure_next(few, two) == in_turn


def test_there_is_one_core_at_least() -> None:
    assert cores() >= 1
