"""Files from outside are read in a process of their own, with little memory and little time.

Whatever a file makes its reader do ends with that process: the server neither waits for it
longer than ``LIMIT_S`` nor grows by it. Readers bound what they build as well; this is for what
nobody thought of.
"""

from __future__ import annotations

import multiprocessing
import resource
import signal
import threading
from collections.abc import Callable
from multiprocessing.connection import Connection
from typing import Any, TypeVar

from rugged_shield.core.errors import InputError
from rugged_shield.places import places_of

T = TypeVar("T")
LIMIT_S = 10.0
MEMORY_BYTES = 1_000_000_000
AT_ONCE = 2
WAIT_S = 2.0
PRELOADED = [
    *(f"rugged_shield.formats.{n}" for n in ("svg", "dxf", "photos", "jobfile", "hardwarecsv")),
    *("scipy.spatial", "PIL.Image", "PIL.ImageOps", "PIL.JpegImagePlugin", "PIL.PngImagePlugin"),
]
_ROOM = threading.BoundedSemaphore(AT_ONCE)
_AT_WORK: set[Any] = set()


class BusyError(Exception):
    """Too many files are being read at the same time."""


class ReadFailedError(Exception):
    """A reader broke on something unforeseen; where, in words."""


def _virtual_bytes() -> int:
    with open("/proc/self/statm", encoding="ascii") as file:
        return int(file.read().split()[0]) * resource.getpagesize()


def _limited() -> None:
    """What this process may take from now on; nothing but memory of its own is asked for."""
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    most = _virtual_bytes() + MEMORY_BYTES
    resource.setrlimit(resource.RLIMIT_AS, (most, most))
    seconds = int(LIMIT_S) + 1
    resource.setrlimit(resource.RLIMIT_CPU, (seconds, seconds))
    resource.setrlimit(resource.RLIMIT_FSIZE, (0, 0))


def _read(pipe: Connection, work: Callable[..., Any], args: tuple[Any, ...]) -> None:
    _limited()
    try:
        answer: tuple[str, Any] = ("done", work(*args))
    except InputError as refusal:
        answer = ("refused", refusal)
    except (MemoryError, RecursionError) as error:
        answer = ("too much", type(error).__name__)
    except Exception as error:
        answer = ("failed", places_of(error))
    pipe.send(answer)


def read_guarded(work: Callable[..., T], *args: Any) -> T:
    """The result of ``work(*args)`` from a process that ends with it.

    Raises what it refused, InputError where it was too slow or took too much memory, and
    BusyError when others are being read already and do not end within ``WAIT_S``.
    """
    if not _ROOM.acquire(timeout=WAIT_S):
        raise BusyError
    try:
        return _in_process(work, args)
    finally:
        _ROOM.release()


def stop_reading() -> None:
    """End everything that is being read: whoever waits for it is told that it was put away."""
    for process in list(_AT_WORK):
        process.kill()


def _in_process(work: Callable[..., T], args: tuple[Any, ...]) -> T:
    context = multiprocessing.get_context("forkserver")
    context.set_forkserver_preload(PRELOADED)
    ours, theirs = context.Pipe(duplex=False)
    process = context.Process(target=_read, args=(theirs, work, args), daemon=True)
    process.start()
    _AT_WORK.add(process)
    theirs.close()
    try:
        answer: tuple[str, Any] = ours.recv() if ours.poll(LIMIT_S) else ("late", None)
    except EOFError:
        answer = ("gone", None)
    finally:
        ours.close()
        process.kill()
        process.join()
        _AT_WORK.discard(process)
    kind, content = answer
    if kind == "done":
        result: T = content
        return result
    if kind == "refused" and isinstance(content, InputError):
        raise content
    if kind == "failed":
        raise ReadFailedError(content)
    why = f"takes longer than {LIMIT_S:g} s" if kind == "late" else "asks for too much memory"
    raise InputError(
        "file",
        why,
        f"a file that is read within {LIMIT_S:g} s and 1 GB",
        f"reading this file {why}: it was put away unread",
        "Make it simpler or smaller, and try again.",
    )
