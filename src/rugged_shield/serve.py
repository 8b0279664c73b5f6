"""A server on a data folder, as the command line starts it: checks, log, instruments, end."""

from __future__ import annotations

import argparse
import logging
from collections.abc import Callable
from contextlib import ExitStack, suppress
from logging.handlers import RotatingFileHandler
from pathlib import Path
from typing import TYPE_CHECKING

from rugged_shield.core.errors import InputError
from rugged_shield.instruments.link import Link, Tray
from rugged_shield.instruments.simulate import DEVICES, serve_simulators
from rugged_shield.store.care import owned
from rugged_shield.store.copies import copy_before_start, finish_restore

if TYPE_CHECKING:
    from flask import Flask


def _log_to(folder: Path) -> None:
    """A rotating log in the data folder; it holds references and places, no one's words."""
    handler = RotatingFileHandler(
        folder / "shield.log", maxBytes=1_000_000, backupCount=3, encoding="utf-8"
    )
    handler.setFormatter(logging.Formatter("%(asctime)s %(levelname)s %(message)s"))
    log = logging.getLogger("rugged_shield")
    log.setLevel(logging.INFO)
    log.addHandler(handler)
    for library in ("waitress", "asyncio"):
        theirs = logging.getLogger(library)
        theirs.addHandler(handler)
        theirs.propagate = False  # nothing of it onto the terminal


def _named_links(named: list[str]) -> tuple[Link, ...]:
    """Links to the instruments named ``kind=URL``."""
    links = []
    for said in named:
        kind, _, url = said.partition("=")
        if kind not in DEVICES or not url:
            raise InputError("--instrument", said, " or ".join(f"{k}=URL" for k in DEVICES))
        links.append(Link(kind, DEVICES[kind].kind, kind, url))
    return tuple(links)


def _tray(named: tuple[Link, ...], simulated: bool) -> tuple[Tray, Callable[[], None]]:
    """The instruments that were named, or simulators of our own; and their end."""
    if named or not simulated:
        return Tray(named), lambda: None
    running = serve_simulators()
    links = (Link(k, d.kind, d.name, running.urls[k], True) for k, d in DEVICES.items())
    return Tray(tuple(links)), running.stop


def _before_start(folder: Path) -> None:
    """Finish what was interrupted, and keep a copy of what has changed since the last start."""
    said = finish_restore(folder)
    if said:
        print(said, flush=True)
    copy_before_start(folder)


def _check_certificate(args: argparse.Namespace) -> None:
    if args.lan is None and (args.cert or args.key):
        raise InputError("--cert", str(args.cert or args.key), "together with --lan")


def serve(folder: Path, args: argparse.Namespace, with_demo: bool) -> int:
    """Serve what is in ``folder`` until stopped; what was called wrong raises InputError first."""
    named = _named_links(args.instrument)
    _check_certificate(args)

    # Late: a refusal waits for no page's code.
    from rugged_shield.web.access import LOOPBACK
    from rugged_shield.web.app import create_app, with_static_files
    from rugged_shield.web.doors import free_socket
    from rugged_shield.web.memory import one_arena
    from rugged_shield.web.serving import Served, StopServing, stop_on_signals

    stop_on_signals()
    one_arena()
    folder.mkdir(parents=True, exist_ok=True)
    # Told to stop at any moment from here on, it ends: whatever stands by then is taken down.
    with suppress(StopServing), owned(folder), ExitStack() as ends:
        _log_to(folder)
        _before_start(folder)
        tray, stop_simulators = _tray(named, with_demo)
        ends.callback(logging.getLogger("rugged_shield").info, "stopped")
        ends.callback(stop_simulators)
        app = create_app(folder, (*LOOPBACK, args.host), tray)
        ends.callback(app.extensions["rugged_shield_db"].close)
        if with_demo:
            from rugged_shield.demo.jobs import load_demo

            added = load_demo(app.extensions["rugged_shield_db"])
            if added:
                print(f"Demo data loaded: {added} jobs.", flush=True)
        sock = free_socket(args.host, args.port)
        # Listening before the address is printed: whoever reads it can connect at once.
        sock.listen(128)
        taken = sock.getsockname()[1]
        served = with_static_files(app)
        ending = app.extensions["rugged_shield_streams"].ending
        server = Served(served, sock)
        ends.callback(server.end)
        print(f"Data in {folder}", flush=True)
        print(f"Rugged Shield is at http://{args.host}:{taken}/ (stop with Ctrl-C)", flush=True)
        logging.getLogger("rugged_shield").info("started")
        ends.callback(tray.stop)
        tray.start()
        ends.callback(_let_phones_in(app, served, taken, args))
        # Streams of changes end first: they would hold their threads for good.
        ends.callback(ending.set)
        server.run()
    return 0


def _let_phones_in(
    app: Flask, served: object, port: int, args: argparse.Namespace
) -> Callable[[], None]:
    """Listens on the garage's network too where ``--lan`` asks for it; its end."""
    if args.lan is None:
        return lambda: None
    from rugged_shield.web.lan import Lan, own_address

    lan = Lan(served, args.lan or own_address(), port, args.cert, args.key)
    app.extensions["rugged_shield_phones"].addresses = (lan.address,)
    lan.start()
    print(f"Phones: {lan.address}/pair (let in one by one, from Tighten)", flush=True)
    return lan.stop
