"""The server around the application: it begins at its door, and ends when it is told."""

from __future__ import annotations

import signal
from threading import Event, Timer
from types import FrameType
from typing import Any

from waitress.wasyncore import ExitNow

from rugged_shield.formats.guarded import stop_reading
from rugged_shield.web.doors import Door
from rugged_shield.web.live import MOST_STREAMS
from rugged_shield.web.worker import SHARED

THREADS = 8 + MOST_STREAMS
"""Eight that answer, and those that streams of changes hold."""
WARM_AFTER_S = 2.5
"""The working process loads what it needs once the first page stands, before anybody asks it."""
LAST_WORDS_S = 1.0
"""How long answers that are being made may still take once the server is to end."""


_TOLD, _RUNNING = Event(), Event()
"""Set once this process is told to end; once it answers. Told before that, it ends as soon as
it stands: logging, for one, swallows whatever is raised while it writes a line."""


class StopServing(ExitNow):  # type: ignore[misc]
    """Raised in the main thread when the server is to end; its loop lets this kind through."""


def stop_on_signals() -> None:
    """End on SIGTERM as on Ctrl-C, and at once: what is worked at beside is let go.

    Said for SIGINT too, which a shell hands down as ignored to what it starts in the background.
    """

    def stop(_number: int, _frame: FrameType | None) -> None:
        for again in (signal.SIGTERM, signal.SIGINT):
            signal.signal(again, signal.SIG_IGN)
        SHARED.end()
        _TOLD.set()
        if _RUNNING.is_set():
            raise StopServing

    for number in (signal.SIGTERM, signal.SIGINT):
        signal.signal(number, stop)


class Served:
    """The server on one socket."""

    def __init__(self, application: Any, sock: Any) -> None:
        self._warming = Timer(WARM_AFTER_S, SHARED.begin)
        self._warming.daemon = True
        self._server = Door(application, sock, threads=THREADS)

    def run(self) -> None:
        """Answer until told to stop, by StopServing."""
        self._warming.start()
        # From here on a word to end is raised at once: not in the start of a thread before it.
        _RUNNING.set()
        if not _TOLD.is_set():
            self._server.run()

    def end(self) -> None:
        """Let go of whoever still waits within a second, and of the socket."""
        self._warming.cancel()
        SHARED.close()
        stop_reading()
        self._server.task_dispatcher.shutdown(timeout=LAST_WORDS_S)
        self._server.close()
