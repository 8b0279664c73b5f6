"""A door of the server: one socket that requests come in at, and what it lets nobody do.

One discipline for this computer's door and for the network's: lengths are exact, a request comes
whole within its time, and where an address may hold so many connections, no more are taken.
"""

from __future__ import annotations

import logging
import socket
import time
from typing import Any

from waitress.adjustments import Adjustments
from waitress.channel import HTTPChannel
from waitress.parser import HTTPRequestParser, ParsingError
from waitress.server import TcpWSGIServer
from waitress.task import ThreadedTaskDispatcher

log = logging.getLogger("rugged_shield")

IDLE_S = 20
LOOK_S = 1
HEAD_S = 15.0
WHOLE_REQUEST_S = 60.0
LARGEST_HEAD = 16_000
MOST_CONNECTIONS = 100
PORTS = 20


def free_socket(host: str, port: int) -> socket.socket:
    """A bound socket on the port asked for, or on the next free one; OSError for none."""
    for candidate in (*range(port, port + PORTS), 0):
        sock = socket.socket(socket.AF_INET, socket.SOCK_STREAM)
        sock.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            sock.bind((host, candidate))
        except OSError:
            sock.close()
            continue
        return sock
    raise OSError(f"no free port on {host}")


class Strict(HTTPRequestParser):  # type: ignore[misc]
    """A request whose length is said once and exactly, or not at all."""

    def parse_header(self, header_plus: bytes) -> None:
        """What the head says; ParsingError (400) for a length that could be read two ways."""
        try:
            super().parse_header(header_plus)
        except ValueError as error:  # more digits than a number may have
            raise ParsingError("Content-Length is invalid") from error
        if self.chunked and "CONTENT_LENGTH" in self.headers:
            raise ParsingError("a length and chunks")
        if self.version == "1.0" and "TRANSFER_ENCODING" in self.headers:
            raise ParsingError("chunks in HTTP/1.0")


class Patient(HTTPChannel):  # type: ignore[misc]
    """A connection that must have sent its head and its whole request within their times."""

    parser_class = Strict
    began_s = 0.0

    def received(self, data: bytes) -> bool:
        """What came in; when a request begins is noted."""
        if self.request is None:
            self.began_s = time.monotonic()
        elif self.is_late(time.monotonic()):
            self.will_close = True
            return False
        return bool(super().received(data))

    def is_late(self, now_s: float) -> bool:
        """Whether a request that has begun is not there within its time, byte after byte or not."""
        asked = self.request
        if asked is None:
            return False
        within = WHOLE_REQUEST_S if asked.headers_finished else min(HEAD_S, WHOLE_REQUEST_S)
        return bool(now_s - self.began_s > within)


class Door(TcpWSGIServer):  # type: ignore[misc]
    """A socket with requests and the threads that answer them.

    ``per_address``: connections that one address may hold; None: as many as there are.
    ``knocked`` False: nobody knocks here, what comes in is handed over by ``let_in``.
    """

    channel_class = Patient

    def __init__(
        self,
        application: Any,
        sock: Any,
        per_address: int | None = None,
        knocked: bool = True,
        **adjusted: Any,
    ) -> None:
        adj = Adjustments(
            sockets=[sock],
            ident=None,
            clear_untrusted_proxy_headers=True,
            channel_timeout=IDLE_S,
            cleanup_interval=LOOK_S,
            max_request_header_size=LARGEST_HEAD,
            connection_limit=MOST_CONNECTIONS,
            # Reads on while it answers, so that a stream learns that nobody listens any more.
            channel_request_lookahead=1,
            # Who goes away in the middle is no trouble of ours.
            log_socket_errors=False,
            **adjusted,
        )
        threads = ThreadedTaskDispatcher()
        threads.set_thread_count(adj.threads)
        self.per_address = per_address
        where = (sock.family, sock.type, sock.proto, sock.getsockname())
        super().__init__(
            application,
            {},
            knocked,
            sock,
            dispatcher=threads,
            adj=adj,
            bind_socket=False,
            sockinfo=where,
        )

    def handle_accept(self) -> None:
        """Takes a connection, or lets it go at once where its address holds enough."""
        try:
            taken = self.accept()
            if taken is None:
                return
            conn, addr = taken
            if not self.has_room(addr[0]):
                conn.close()
                return
            self.set_socket_options(conn)
        except OSError:
            return  # it was gone before it was here
        self.let_in(conn, addr)

    def let_in(self, conn: Any, addr: Any) -> None:
        """A connection whose requests are heard from now on; called by the door's own thread."""
        self.channel_class(self, conn, addr, self.adj, map=self._map)

    def has_room(self, address: str, besides: int = 0) -> bool:
        """Whether an address may hold one more, beside so many that are not let in yet."""
        if self.per_address is None:
            return True
        held = sum(channel.addr[0] == address for channel in tuple(self.active_channels.values()))
        return bool(held + besides < self.per_address)

    def maintenance(self, now: float) -> None:
        """Lets go of whoever is silent or late."""
        super().maintenance(now)
        now_s = time.monotonic()
        for channel in self.active_channels.values():
            if channel.is_late(now_s):
                channel.will_close = True
