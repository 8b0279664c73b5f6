"""Independent pieces of work done side by side, by forks that know what their parent knows.

A fork starts with everything that is imported and remembered already, and ends by itself after
the piece it is at once its parent is gone. The process that asks must have no other thread
at work: a lock that one holds would stay held in the fork.
"""

from __future__ import annotations

import gc
import os
import pickle
import signal
import struct
import sys
from collections.abc import Callable, Iterable, Iterator, Sequence
from itertools import takewhile
from typing import Any, BinaryIO, TypeVar

from rugged_shield.places import keep_places

X = TypeVar("X")
Y = TypeVar("Y")
AT_MOST = 4
"""More would each keep memory of its own for what is soon done anyway."""
_TICKET = struct.Struct("<I")
_FITS = 1024
"""Tickets that any pipe holds before one is taken: a page of them."""


class ForkFailedError(Exception):
    """A fork ended without an answer: it was killed, or memory ran out."""


def cores() -> int:
    """How many processes this one may have at work at the same time; 1 where forks are unsafe."""
    if not sys.platform.startswith("linux"):
        return 1  # libraries of other systems keep threads of their own that a fork breaks
    return min(len(os.sched_getaffinity(0)), AT_MOST)


def beside(work: Callable[[X], Y], items: Sequence[X]) -> list[Y]:
    """``work`` of each of the items, in their order, on as many cores as there are."""
    return spread(work, items, cores())


def spread(work: Callable[[X], Y], items: Sequence[X], processes: int) -> list[Y]:
    """``work`` of each of the items, in their order, by so many processes.

    Whoever is free takes the next, the asking process too. Raises what ``work`` raises, for the
    first item that it does for, and ForkFailedError; no fork is left behind either way.
    """
    count = min(processes, len(items))
    if count < 2 or len(items) > _FITS:
        return [work(item) for item in items]
    tickets = _Tickets(len(items))
    forks = [_Fork(work, items, tickets) for _ in range(count - 1)]
    found: dict[int, tuple[bool, Any]] = {}
    try:
        found.update(_answers(work, items, tickets))
    except BaseException:
        for fork in forks:
            fork.kill()
        raise
    finally:
        tickets.close()
        for fork in forks:
            found.update(fork.end())
    if len(found) < len(items):
        raise ForkFailedError(f"{len(items) - len(found)} of {len(items)} pieces have no answer")
    for _, (done, answer) in sorted(found.items()):
        if not done:
            raise answer
    return [found[i][1] for i in range(len(items))]


class _Tickets:
    """The numbers of all items in a pipe: each is taken once, by whoever comes first."""

    def __init__(self, count: int) -> None:
        self._taken, put = os.pipe()
        os.write(put, b"".join(_TICKET.pack(i) for i in range(count)))
        os.close(put)

    def __iter__(self) -> Iterator[int]:
        while ticket := os.read(self._taken, _TICKET.size):
            yield _TICKET.unpack(ticket)[0]

    def close(self) -> None:
        """Nothing more is taken by this process."""
        os.close(self._taken)


def _answers(
    work: Callable[[X], Any], items: Sequence[X], tickets: Iterable[int]
) -> dict[int, tuple[bool, Any]]:
    """By item: whether it was done, and the answer or what it raised."""
    found: dict[int, tuple[bool, Any]] = {}
    for i in tickets:
        try:
            found[i] = True, work(items[i])
        except Exception as error:
            keep_places(error)
            found[i] = False, error
    return found


class _Fork:
    """A process that answers what it takes and writes all of it at its end."""

    def __init__(self, work: Callable[[X], Any], items: Sequence[X], tickets: _Tickets) -> None:
        parent = os.getpid()
        read, write = os.pipe()
        self.pid = os.fork()
        if self.pid == 0:
            asked = takewhile(lambda _: os.getppid() == parent, tickets)
            _be_a_fork(work, items, asked, os.fdopen(write, "wb"))
        os.close(write)
        self._answers = os.fdopen(read, "rb")

    def kill(self) -> None:
        """Let go of what it is at: nobody waits for it any more."""
        os.kill(self.pid, signal.SIGKILL)

    def end(self) -> dict[int, tuple[bool, Any]]:
        """Its answers, once it is through; nothing of one that was killed."""
        with self._answers as pipe:
            told = pipe.read()
        os.waitpid(self.pid, 0)
        try:
            found: dict[int, tuple[bool, Any]] = pickle.loads(told)
        except (EOFError, pickle.UnpicklingError):
            return {}
        return found


def _be_a_fork(
    work: Callable[[X], Any], items: Sequence[X], tickets: Iterable[int], out: BinaryIO
) -> None:
    """Answer and end: nothing of the parent's way out (buffers, exit handlers) is gone through."""
    code = 1
    gc.freeze()  # looking through what the parent has would copy all of it
    try:
        found = _answers(work, items, tickets)
        with out:
            pickle.dump(found, out)
        code = 0
    finally:
        os._exit(code)
