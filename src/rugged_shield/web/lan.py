"""The listener on the garage's network: off unless asked for, and for phones only."""

from __future__ import annotations

import socket
from pathlib import Path
from threading import Thread
from typing import Any

from cheroot.ssl.builtin import BuiltinSSLAdapter
from cheroot.wsgi import Server

from rugged_shield.core.errors import InputError
from rugged_shield.web.access import FROM_LAN

THREADS = 12
TRICKLE_S = 15
LARGEST_BODY = 12_100_000
"""A picture from a phone's camera; what else a phone sends is held shorter (``access``)."""
LARGEST_HEAD = 16_000
PORTS = 20
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


class Lan:
    """A listener of its own beside the loopback's; what comes in is marked as a phone's."""

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

        if (cert is None) != (key is None):
            raise InputError(
                "--cert", str(cert or ""), "a certificate and its key", "one is missing"
            )
        tls = None if cert is None or key is None else BuiltinSSLAdapter(str(cert), str(key))
        self._server = _bound(marked, host, port, tls)
        scheme = "http" if tls is None else "https"
        self.address = f"{scheme}://{host}:{self._server.bind_addr[1]}"
        self._thread = Thread(target=self._server.serve, name="lan", daemon=True)

    def start(self) -> None:
        """Answer from now on, beside whatever else runs."""
        self._thread.start()

    def stop(self) -> None:
        """Let go of the port; answers that are being made have a second."""
        self._server.stop()
        self._thread.join(5)


def _free_port(host: str, port: int) -> int:
    """The port asked for, or the next one that is free there."""
    for candidate in (*range(port, port + PORTS), 0):
        with socket.socket(socket.AF_INET, socket.SOCK_STREAM) as tried:
            tried.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            try:
                tried.bind((host, candidate))
            except OSError:
                continue
            return int(tried.getsockname()[1])
    raise InputError("--lan", host, "an address of this computer with a free port")


def _bound(application: Any, host: str, port: int, tls: BuiltinSSLAdapter | None) -> Server:
    """A server on the port asked for, or on one of the next."""
    server = Server(
        (host, _free_port(host, port)),
        application,
        numthreads=THREADS,
        timeout=TRICKLE_S,
        shutdown_timeout=1,
    )
    server.server_name = "Rugged Shield"
    server.max_request_body_size = LARGEST_BODY
    server.max_request_header_size = LARGEST_HEAD
    server.ssl_adapter = tls
    server.prepare()
    return server
