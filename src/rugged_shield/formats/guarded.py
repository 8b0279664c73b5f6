"""Costly work in a process of its own, with so much memory and time and no more.

Whatever a file makes its reader do, or a question its computation, ends with that process: the
server neither waits for it longer than its budget says nor grows by it. Readers bound what they
build as well; this is for what nobody thought of.
"""

from __future__ import annotations

import multiprocessing
import os
import resource
import signal
import threading
import time
from collections.abc import Callable
from dataclasses import dataclass, field
from functools import partial
from multiprocessing.connection import Connection
from typing import Any, TypeVar

from rugged_shield.core.errors import InputError
from rugged_shield.places import places_of

T = TypeVar("T")
WAIT_S = 2.0
LOOK_S = 0.25
"""How often it is looked whether the asker is still there."""
POLITE = 5
"""Whoever waits for a page goes first."""
PRELOADED = [
    *(f"rugged_shield.formats.{n}" for n in ("svg", "dxf", "photos", "jobfile", "hardwarecsv")),
    *("scipy.spatial", "PIL.Image", "PIL.ImageOps", "PIL.JpegImagePlugin", "PIL.PngImagePlugin"),
    *("rugged_shield.calc.everything", "rugged_shield.calc.whole", "rugged_shield.calc.beside"),
]
_AT_WORK: set[Any] = set()


@dataclass(frozen=True, kw_only=True)
class Budget:
    """What a piece of work may cost: seconds, bytes beside what is loaded, how many at once.

    ``what`` names it in words; ``kind`` is the field of a refusal, ``advice`` its remedy.
    """

    kind: str
    what: str
    seconds: float
    memory_bytes: int
    at_once: int
    advice: str
    room: threading.BoundedSemaphore = field(init=False, compare=False)

    def __post_init__(self) -> None:
        object.__setattr__(self, "room", threading.BoundedSemaphore(self.at_once))

    @property
    def said(self) -> str:
        """The limits in words."""
        return f"{self.seconds:g} s and {self.memory_bytes / 1e9:g} GB"


READING = Budget(
    kind="file",
    what="reading this file",
    seconds=10.0,
    memory_bytes=1_000_000_000,
    at_once=2,
    advice="Make it simpler or smaller, and try again.",
)
BRINGING = Budget(
    kind="file",
    what="reading this job",
    seconds=60.0,
    memory_bytes=1_500_000_000,
    at_once=1,
    advice="Bring it in with “shield import”.",
)
"""A whole job with sixty pictures, each made anew."""
CALCULATING = Budget(
    kind="request",
    what="this computation",
    seconds=20.0,
    memory_bytes=1_000_000_000,
    at_once=2,
    advice="Ask for less: a coarser mesh, fewer rows.",
)
JUDGING = Budget(
    kind="request",
    what="judging this job",
    seconds=180.0,
    memory_bytes=1_500_000_000,
    at_once=1,
    advice="Ask with quick=1, or judge it with “shield assess”.",
)


class BusyError(Exception):
    """Too much of its kind is being worked at already, or nobody waits for it any more."""


class ReadFailedError(Exception):
    """The work broke on something unforeseen; where, in words."""


def _virtual_bytes() -> int:
    with open("/proc/self/statm", encoding="ascii") as file:
        return int(file.read().split()[0]) * resource.getpagesize()


def _limited(budget_s: float, memory_bytes: int) -> None:
    """What this process may take from now on; nothing but memory of its own is asked for."""
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    os.nice(POLITE)
    most = _virtual_bytes() + memory_bytes
    resource.setrlimit(resource.RLIMIT_AS, (most, most))
    seconds = int(budget_s) + 1
    resource.setrlimit(resource.RLIMIT_CPU, (seconds, seconds))
    resource.setrlimit(resource.RLIMIT_FSIZE, (0, 0))


def _work(
    pipe: Connection, limits: tuple[float, int], work: Callable[..., Any], args: tuple[Any, ...]
) -> None:
    _limited(*limits)
    try:
        answer: tuple[str, Any] = ("done", work(*args))
    except InputError as refusal:
        answer = ("refused", refusal)
    except (MemoryError, RecursionError) as error:
        answer = ("too much", type(error).__name__)
    except Exception as error:
        answer = ("failed", places_of(error))
    pipe.send(answer)


def within(
    budget: Budget,
    work: Callable[..., T],
    *args: Any,
    is_gone: Callable[[], bool] = lambda: False,
) -> T:
    """The result of ``work(*args)`` from a process that ends with it.

    Raises what it refused, InputError where it was too slow or took too much memory, and
    BusyError when others of its kind do not end within ``WAIT_S``, or ``is_gone`` says that
    nobody waits for the answer.
    """
    if not budget.room.acquire(timeout=WAIT_S):
        raise BusyError
    try:
        return _in_process(budget, work, args, is_gone)
    finally:
        budget.room.release()


read_guarded = partial(within, READING)
"""A file from outside, read within what a reader may cost."""


def stop_reading() -> None:
    """End everything that is being read: whoever waits for it is told that it was put away."""
    for process in list(_AT_WORK):
        process.kill()


def _answered(ours: Connection, within_s: float, is_gone: Callable[[], bool]) -> tuple[str, Any]:
    """What the process says, or why it says nothing."""
    until = time.monotonic() + within_s
    try:
        while not ours.poll(min(LOOK_S, max(until - time.monotonic(), 0.0))):
            if is_gone():
                return "left", None
            if time.monotonic() >= until:
                return "late", None
        answer: tuple[str, Any] = ours.recv()
    except EOFError:
        return "gone", None
    return answer


def _in_process(
    budget: Budget, work: Callable[..., T], args: tuple[Any, ...], is_gone: Callable[[], bool]
) -> T:
    context = multiprocessing.get_context("forkserver")
    context.set_forkserver_preload(PRELOADED)
    ours, theirs = context.Pipe(duplex=False)
    limits = budget.seconds, budget.memory_bytes
    process = context.Process(target=_work, args=(theirs, limits, work, args), daemon=True)
    process.start()
    _AT_WORK.add(process)
    theirs.close()
    try:
        kind, content = _answered(ours, budget.seconds, is_gone)
    finally:
        ours.close()
        process.kill()
        process.join()
        _AT_WORK.discard(process)
    if kind == "done":
        result: T = content
        return result
    if kind == "refused" and isinstance(content, InputError):
        raise content
    if kind == "failed":
        raise ReadFailedError(content)
    if kind == "left":
        raise BusyError
    late = kind == "late"
    why = f"takes longer than {budget.seconds:g} s" if late else "asks for too much memory"
    raise InputError(
        budget.kind,
        why,
        f"what is done within {budget.said}",
        f"{budget.what} {why}: it was put away",
        budget.advice,
    )
