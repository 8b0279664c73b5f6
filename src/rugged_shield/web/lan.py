"""The listener on the garage's network: off unless asked for, and for phones only."""

from __future__ import annotations

import asyncio
import logging
import socket
import ssl
from collections import Counter
from contextlib import suppress
from pathlib import Path
from threading import Thread
from typing import Any

from waitress import wasyncore

from rugged_shield.core.errors import InputError
from rugged_shield.web.access import FROM_LAN, LOOPBACK
from rugged_shield.web.doors import MOST_CONNECTIONS, Door, free_socket
from rugged_shield.web.live import MOST_STREAMS

log = logging.getLogger("rugged_shield")

THREADS = 8 + MOST_STREAMS
PER_ADDRESS = 16
"""Connections of one phone: a browser opens six, and a stream."""
HANDSHAKE_S = 3.0
LARGEST_BODY = 12_100_000
"""A picture from a phone's camera; what else a phone sends is held shorter (``access``)."""
NOT_THE_NETWORK = (*LOOPBACK, "0.0.0.0", "::")
"""Addresses at which only this computer finds itself, or that nobody can type."""
CHUNK = 65_536
_NOWHERE = ("192.0.2.1", 9)


def own_address() -> str:
    """This computer's address on the network that its default way leads to; nothing is sent.

    Raises InputError where there is none.
    """
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as asked:
        try:
            asked.connect(_NOWHERE)
            return str(asked.getsockname()[0])
        except OSError as error:
            raise InputError(
                "--lan",
                "",
                "an address of this computer",
                "this computer is on no network",
                "Join the garage's network, or name the address: --lan 192.168.1.20.",
            ) from error


def _certified(cert: Path, key: Path) -> ssl.SSLContext:
    context = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER)
    try:
        context.load_cert_chain(cert, key)
    except (OSError, ssl.SSLError) as error:
        raise InputError(
            "--cert", str(cert), "a certificate and its key, as PEM", "they do not open"
        ) from error
    return context


class Lan:
    """A door of its own beside the loopback's; what comes in is marked as a phone's."""

    def __init__(
        self,
        application: Any,
        host: str,
        port: int,
        cert: Path | None = None,
        key: Path | None = None,
    ) -> None:
        def marked(environ: dict[str, Any], start: Any) -> Any:
            environ[FROM_LAN] = True
            return application(environ, start)

        if host in NOT_THE_NETWORK:
            raise InputError(
                "--lan",
                host,
                "this computer's address on the garage's network",
                "no phone can reach it there",
                "Leave the address out, or name one: --lan 192.168.1.20.",
            )
        if (cert is None) != (key is None):
            raise InputError(
                "--cert", str(cert or ""), "a certificate and its key", "one is missing"
            )
        tls = None if cert is None or key is None else _certified(cert, key)
        try:
            self._sock = free_socket(host, port)
        except OSError as error:
            raise InputError(
                "--lan", host, "an address of this computer with a free port"
            ) from error
        scheme = "http" if tls is None else "https"
        self.address = f"{scheme}://{host}:{self._sock.getsockname()[1]}"
        # Before TLS the door is the network's own socket; behind it one that nobody can reach.
        heard = self._sock if tls is None else socket.socket()
        self._door = Door(
            marked,
            heard,
            PER_ADDRESS,
            knocked=tls is None,
            threads=THREADS,
            url_scheme=scheme,
            max_request_body_size=LARGEST_BODY,
        )
        self._cloak = None if tls is None else Cloak(self._sock, tls, self._door)
        self._thread = Thread(target=self._door.run, name="lan", daemon=True)

    def start(self) -> None:
        """Answer from now on, beside whatever else runs."""
        self._thread.start()
        if self._cloak is not None:
            self._sock.listen(128)
            self._cloak.start()

    def stop(self) -> None:
        """Let go of the port; answers that are being made have a second."""
        if self._cloak is not None:
            self._cloak.stop()
        door = self._door
        with suppress(OSError):  # an answer woke the loop first: all is closed already
            door.trigger.pull_trigger(lambda: wasyncore.close_all(door._map, ignore_all=True))
        self._thread.join(5)
        door.task_dispatcher.shutdown(timeout=1)
        self._sock.close()


class Cloak:
    """TLS before a door: handshakes off its loop, then bytes both ways over a pair of sockets."""

    def __init__(self, sock: socket.socket, tls: ssl.SSLContext, door: Door) -> None:
        self._sock, self._tls, self._door = sock, tls, door
        self._shaking: Counter[str] = Counter()
        self._loop = asyncio.new_event_loop()
        self._loop.set_exception_handler(_quietly)
        self._thread = Thread(target=self._run, name="lan-tls", daemon=True)

    def start(self) -> None:
        """Take connections from now on."""
        self._sock.setblocking(False)
        self._thread.start()

    def stop(self) -> None:
        """Take none any more, and let go of those that stand."""
        self._loop.call_soon_threadsafe(self._loop.stop)
        self._thread.join(5)

    def _run(self) -> None:
        accepting = self._loop.create_task(self._accept())
        self._loop.run_forever()
        accepting.cancel()
        self._loop.run_until_complete(self._let_go())
        self._loop.close()

    async def _let_go(self) -> None:
        """Every connection is ended, and heard to be."""
        others = asyncio.all_tasks(self._loop) - {asyncio.current_task()}
        for each in others:
            each.cancel()
        await asyncio.gather(*others, return_exceptions=True)
        await asyncio.sleep(0)  # what was cut off is told so on the loop's next turn

    async def _accept(self) -> None:
        held: set[asyncio.Task[None]] = set()
        while True:
            conn, addr = await self._loop.sock_accept(self._sock)
            address = str(addr[0])
            full = sum(self._shaking.values()) >= MOST_CONNECTIONS
            if full or not self._door.has_room(address, self._shaking[address]):
                conn.close()
                continue
            task = self._loop.create_task(self._through(conn, addr))
            held.add(task)  # a loop keeps no task that nobody else does
            task.add_done_callback(held.discard)

    async def _through(self, conn: socket.socket, addr: Any) -> None:
        """One connection from its handshake to its end."""
        self._shaking[str(addr[0])] += 1
        try:
            outside = await _streams(self._loop, conn, self._tls)
        except (OSError, ssl.SSLError, TimeoutError):
            conn.close()
            return
        finally:
            self._shaking[str(addr[0])] -= 1
        ours, theirs = socket.socketpair()
        theirs.setblocking(False)
        inside = await _streams(self._loop, ours, None)
        self._door.trigger.pull_trigger(lambda: self._door.let_in(theirs, addr))
        try:
            await asyncio.gather(_piped(outside[0], inside[1]), _piped(inside[0], outside[1]))
        finally:
            for _, writer in (outside, inside):
                writer.transport.abort()


Streams = tuple[asyncio.StreamReader, asyncio.StreamWriter]


async def _streams(
    loop: asyncio.AbstractEventLoop, conn: socket.socket, tls: ssl.SSLContext | None
) -> Streams:
    """A connection as streams, after its handshake; raises where that fails or takes too long."""
    reader = asyncio.StreamReader(loop=loop)
    protocol = asyncio.StreamReaderProtocol(reader, loop=loop)
    transport, _ = await loop.connect_accepted_socket(
        lambda: protocol,
        conn,
        ssl=tls,
        ssl_handshake_timeout=None if tls is None else HANDSHAKE_S,
    )
    return reader, asyncio.StreamWriter(transport, protocol, reader, loop)


async def _piped(reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
    """What comes from one side goes to the other, until either ends."""
    with suppress(OSError, ssl.SSLError):
        while data := await reader.read(CHUNK):
            writer.write(data)
            await writer.drain()
    writer.close()


def _quietly(_loop: asyncio.AbstractEventLoop, said: dict[str, Any]) -> None:
    """What goes wrong between two ends goes into the log, not onto the terminal."""
    log.info("network: %s", said.get("message", ""))
