"""A job's changes as they happen: every device that looks at it hears of a new version."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator
from threading import Event, Lock

from flask import Blueprint, Response, current_app, request

from rugged_shield.formats.guarded import BusyError
from rugged_shield.store.database import Database
from rugged_shield.store.repository import version_of
from rugged_shield.web.access import FROM_LAN
from rugged_shield.web.api import file_route
from rugged_shield.web.jobs import database
from rugged_shield.web.phones import COOKIE, Phones

blueprint = Blueprint("live", __name__, url_prefix="/api/jobs")

LOOK_S = 0.4
"""How often the version is looked at: a change is seen well within two seconds."""
STILL_HERE_S = 3.0
MOST_STREAMS = 6
"""Streams that may stand at once at each door; each holds a thread of it."""
PER_DEVICE = 2


def asker_is_gone() -> Callable[[], bool]:
    """Whether nobody waits for the answer to this request any more, asked as often as one likes."""
    told: Callable[[], bool] | None = request.environ.get("waitress.client_disconnected")
    return (lambda: False) if told is None else told


class Streams:
    """Which stand, and whether the server is about to end.

    Those of phones are counted by device and apart from the computer's own: none keeps it out.
    """

    def __init__(self) -> None:
        self.ending = Event()
        self._lock = Lock()
        self._standing: dict[str, list[Event]] = {}

    def open(self, device: str) -> Event:
        """A stream for a phone, or "": this computer; what is returned is set when it is to end.

        A phone that has lost its link comes back before the server knows: its oldest ends for it.
        Raises BusyError where too many stand.
        """
        over = Event()
        with self._lock:
            own = self._standing.setdefault(device, [])
            if device and len(own) >= PER_DEVICE:
                own.pop(0).set()
            held = own if not device else [e for d, es in self._standing.items() if d for e in es]
            if len(held) >= MOST_STREAMS:
                raise BusyError
            own.append(over)
        return over

    def close(self, device: str, over: Event) -> None:
        """A stream has ended."""
        with self._lock:
            own = [event for event in self._standing.pop(device, []) if event is not over]
            if own:
                self._standing[device] = own


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
    is_gone = asker_is_gone()
    device = phones.of(token)
    who = "" if device is None else device.id
    over = streams.open(who)

    def is_over() -> bool:
        """Nobody listens any more, the phone was ended, or it came back by another stream."""
        return over.is_set() or is_gone() or (token != "" and phones.of(token) is None)

    answer = Response(_told(database(), job_id, streams, is_over), mimetype="text/event-stream")
    answer.call_on_close(lambda: streams.close(who, over))
    return answer
