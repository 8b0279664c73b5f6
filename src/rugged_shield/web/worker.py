"""One warm process beside the server for all that needs shells: maps, rankings, what turns them.

The request process never factorises a shell: it stays small, and its answers quick, whatever
is worked at. A call is answered between two steps of a longer piece of work, so nobody waits
for all of it. The process ends with the server, and one that died is started anew.
"""

from __future__ import annotations

import itertools
import logging
import multiprocessing
import signal
import threading
from collections import deque
from collections.abc import Callable, Iterator
from concurrent.futures import Future
from importlib import import_module
from multiprocessing.connection import Connection
from typing import Any, Literal, TypeVar

from rugged_shield.core.errors import InputError
from rugged_shield.formats.guarded import BusyError
from rugged_shield.garbage import collect_seldom
from rugged_shield.places import places_of

log = logging.getLogger("rugged_shield")
T = TypeVar("T")
MOST_WAITING = 4
Step = tuple[str, Any]
"""What comes next and nothing, or what was done and its result."""
Steps = Callable[..., Iterator[Step]]
Heard = Callable[[str, Any], None]
"""Told of each step (“step”, Step), and of the end (“done” or “failed”, None)."""


class WorkFailedError(Exception):
    """The work broke on something unforeseen; its places are in the log."""


class _Desk:
    """The worker's side: calls first, then a step of the oldest longer work."""

    def __init__(self, pipe: Connection) -> None:
        self.pipe = pipe
        self.calls: deque[tuple[int, Callable[..., Any], tuple[Any, ...]]] = deque()
        self.long: dict[int, Iterator[Step]] = {}

    def take(self, message: tuple[str, int, Any, tuple[Any, ...]]) -> None:
        """Put down what was asked for."""
        kind, number, work, args = message
        if kind == "call":
            self.calls.append((number, work, args))
        elif kind == "long":
            self.long[number] = work(*args)
        else:
            self.long.pop(number, None)

    def answer(self) -> None:
        """Carry out the call that waits longest."""
        number, work, args = self.calls.popleft()
        try:
            self.pipe.send((number, "done", work(*args)))
        except InputError as refusal:
            self.pipe.send((number, "refused", refusal))
        except Exception as error:
            self.pipe.send((number, "failed", places_of(error)))

    def advance(self) -> None:
        """One step of the longer work that was begun first."""
        number, steps = next(iter(self.long.items()))
        try:
            self.pipe.send((number, "step", next(steps)))
        except StopIteration:
            del self.long[number]
            self.pipe.send((number, "done", None))
        except Exception as error:
            del self.long[number]
            self.pipe.send((number, "failed", places_of(error)))

    def serve(self) -> None:
        """Until the server is gone."""
        while True:
            try:
                while self.pipe.poll(0 if self.calls or self.long else None):
                    self.take(self.pipe.recv())
                if self.calls:
                    self.answer()
                elif self.long:
                    self.advance()
            except (EOFError, BrokenPipeError, ConnectionResetError):
                return


_LOADED = ("rugged_shield.web.app", "scipy.spatial", "scipy.linalg", "scipy.sparse.linalg")
"""By name: the application knows this module, not the other way round."""


def ready() -> None:
    """What any question needs is loaded before the first one."""
    collect_seldom()
    for module in _LOADED:
        import_module(module)


def _work(pipe: Connection, of_server: Connection) -> None:
    of_server.close()  # else this process would hold the pipe open after the server is gone
    signal.signal(signal.SIGINT, signal.SIG_IGN)  # Ctrl-C goes to the whole group: the pipe tells
    # Begun while the server was ending it would inherit that it hears no second SIGTERM.
    signal.signal(signal.SIGTERM, signal.SIG_DFL)
    ready()
    _Desk(pipe).serve()


class Worker:
    """The server's side: calls that wait for their answer, and longer work that is told of.

    ``method``: how its process begins. A fork knows what its parent remembers already, and is
    safe only before the parent has threads: ``begin`` then, not at the first question.
    """

    def __init__(self) -> None:
        self.method: Literal["spawn", "fork"] = "spawn"
        self._lock = threading.Lock()
        self._ended = False
        self._numbers = itertools.count(1)
        self._process: Any = None
        self._pipe: Connection | None = None
        self._asked: dict[int, Future[Any]] = {}
        self._heard: dict[int, Heard] = {}

    def call(self, work: Callable[..., T], *args: Any) -> T:
        """The result of ``work(*args)``, worked out beside; raises what it refused.

        BusyError when others wait already: the threads of the server are not all to stand here.
        """
        answer: Future[T] = Future()
        number = next(self._numbers)
        with self._lock:
            if len(self._asked) >= MOST_WAITING:
                raise BusyError
            self._asked[number] = answer
            self._send(("call", number, work, args))
        return answer.result()

    def start(self, steps: Steps, heard: Heard, *args: Any) -> int:
        """Begin longer work; returns its number. ``heard`` is told from another thread."""
        number = next(self._numbers)
        with self._lock:
            self._heard[number] = heard
            self._send(("long", number, steps, args))
        return number

    def stop(self, number: int) -> None:
        """End longer work after the step it is in; nothing more is heard of it."""
        with self._lock:
            if self._heard.pop(number, None) is not None:
                self._send(("stop", number, None, ()))

    def begin(self) -> None:
        """Begin the process now rather than at the first question."""
        with self._lock:
            if self._pipe is None and not self._ended:
                self._pipe = self._begin()

    def end(self) -> None:
        """No process is begun from here on: the server that it would serve is ending.

        One begun now would not hear that it ends, and be waited for. Safe in a signal's handler.
        """
        self._ended = True

    def close(self) -> None:
        """End the process; whoever still waits is told."""
        with self._lock:
            process, pipe = self._process, self._pipe
            self._process = None
            self._tell_gone()
        if pipe is not None and process is not None:
            pipe.close()
            process.terminate()
            process.join(5)
            if process.is_alive():
                process.kill()

    @property
    def pid(self) -> int | None:
        """The process's number while it runs."""
        return self._process.pid if self._process is not None else None

    def _send(self, message: tuple[str, int, Any, tuple[Any, ...]]) -> None:
        """Hand a message over, to a new process where there is none; the lock is held."""
        if self._pipe is not None:
            try:
                self._pipe.send(message)
                return
            except (BrokenPipeError, ConnectionResetError):
                self._tell_gone(but=message[1])  # it died, and nobody has heard of it yet
        self._pipe = self._begin()
        self._pipe.send(message)

    def _begin(self) -> Connection:
        if self._ended:
            raise BusyError
        context: Any = multiprocessing.get_context(self.method)
        ours: Connection
        ours, theirs = context.Pipe()
        self._process = context.Process(
            target=_work, args=(theirs, ours), name="shield-work", daemon=True
        )
        self._process.start()
        theirs.close()
        threading.Thread(
            target=self._listen, args=(ours,), name="work-answers", daemon=True
        ).start()
        return ours

    def _listen(self, pipe: Connection) -> None:
        while True:
            try:
                number, kind, content = pipe.recv()
            except (EOFError, OSError):
                with self._lock:
                    if pipe is self._pipe:
                        self._tell_gone()
                return
            if number in self._asked:
                self._settle(self._asked.pop(number), kind, content)
                continue
            heard = self._heard.get(number) if kind == "step" else self._heard.pop(number, None)
            if kind == "failed":
                log.error("long work failed: %s", content)
            if heard is not None:
                heard(kind, content)

    @staticmethod
    def _settle(answer: Future[Any], kind: str, content: Any) -> None:
        if kind == "done":
            answer.set_result(content)
        elif kind == "refused":
            answer.set_exception(content)
        else:
            answer.set_exception(WorkFailedError(content))

    def _tell_gone(self, but: int = 0) -> None:
        """The process is gone: whoever waits is told, ``but`` one; the lock is held."""
        self._pipe = None
        for number in [n for n in self._asked if n != but]:
            self._asked.pop(number).set_exception(WorkFailedError("the working process ended"))
        for number in [n for n in self._heard if n != but]:
            self._heard.pop(number)("failed", None)


SHARED = Worker()
"""The one of this process, whatever applications run in it; a server begins it once it listens."""
