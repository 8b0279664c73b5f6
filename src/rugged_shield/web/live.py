"""A job's changes as they happen: every device that looks at it hears of a new version."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator
from threading import BoundedSemaphore, Event

from flask import Blueprint, Response, current_app, request

from rugged_shield.formats.guarded import BusyError
from rugged_shield.store import Database, version_of
from rugged_shield.web.access import FROM_LAN
from rugged_shield.web.api import file_route
from rugged_shield.web.jobs import database
from rugged_shield.web.phones import COOKIE, Phones

blueprint = Blueprint("live", __name__, url_prefix="/api/jobs")

LOOK_S = 0.4
"""How often the version is looked at: a change is seen well within two seconds."""
STILL_HERE_S = 3.0
MOST_STREAMS = 6
"""Streams that may stand at once; each holds a thread of the server."""


class Streams:
    """How many stand, and whether the server is about to end."""

    def __init__(self) -> None:
        self.free = BoundedSemaphore(MOST_STREAMS)
        self.ending = Event()


def _told(
    db: Database, job_id: str, streams: Streams, is_over: Callable[[], bool]
) -> Iterator[str]:
    """Lines of the stream, until it is over or the server ends."""
    seen, said_at = -1, 0.0
    yield "retry: 1000\n\n"
    while not streams.ending.is_set() and not is_over():
        version, now = version_of(db, job_id), time.monotonic()
        if version != seen:
            seen, said_at = version, now
            yield f"event: version\ndata: {version}\n\n"
        elif now - said_at > STILL_HERE_S:
            said_at = now
            yield ": still here\n\n"
        streams.ending.wait(LOOK_S)


@file_route(blueprint, "/<job_id>/live", "text/event-stream")
def live(job_id: str) -> Response:
    """Versions of a job as they come, as server-sent events."""
    streams: Streams = current_app.extensions["rugged_shield_streams"]
    phones: Phones = current_app.extensions["rugged_shield_phones"]
    version_of(database(), job_id)
    token = request.cookies.get(COOKIE, "") if request.environ.get(FROM_LAN) else ""
    is_gone: Callable[[], bool] = request.environ.get("waitress.client_disconnected", lambda: False)

    def is_over() -> bool:
        """Nobody listens any more, or the phone was ended."""
        return is_gone() or (token != "" and phones.of(token) is None)

    if not streams.free.acquire(blocking=False):
        raise BusyError
    answer = Response(_told(database(), job_id, streams, is_over), mimetype="text/event-stream")
    answer.call_on_close(streams.free.release)
    return answer
