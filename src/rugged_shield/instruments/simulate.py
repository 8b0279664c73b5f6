"""Simulated scale, calliper and torque wrench: resolution, noise, drift, settling.

Each speaks the line protocol on a loopback socket, and takes ``set;VALUE`` to
know what is on it, as hands would put it there.
"""

from __future__ import annotations

import contextlib
import math
import random
import socketserver
import threading
import time
from dataclasses import dataclass, replace

from rugged_shield.core.errors import InputError
from rugged_shield.instruments.protocol import Kind, Reading, write_line

LINES_PER_SECOND = 8.0
MOST_PACE = 8.0
"""Times 8 lines a second: below what a link takes for a flood."""
SETTLE_S = 0.25
STABLE_LINES = 4
MOST = {"scale": 250.0, "calliper": 300.0, "wrench": 400.0}


@dataclass(frozen=True, kw_only=True)
class Device:
    """A simulated instrument: step and noise in its unit, drift in its unit per minute."""

    kind: Kind
    name: str
    unit: str
    step: float
    decimals: int
    noise: float
    drift_per_min: float
    at_rest: float


DEVICES: dict[str, Device] = {
    "scale": Device(
        kind="scale",
        name="bathroom scale, simulated",
        unit="kg",
        step=0.1,
        decimals=1,
        noise=0.02,
        drift_per_min=0.01,
        at_rest=0.0,
    ),
    "calliper": Device(
        kind="calliper",
        name="calliper, simulated",
        unit="mm",
        step=0.01,
        decimals=2,
        noise=0.004,
        drift_per_min=0.0,
        at_rest=0.0,
    ),
    "wrench": Device(
        kind="wrench",
        name="torque wrench, simulated",
        unit="N·m",
        step=0.1,
        decimals=1,
        noise=0.05,
        drift_per_min=0.0,
        at_rest=0.0,
    ),
}


class Simulator:
    """What stands on one device, and the readings that come of it; seeded noise."""

    def __init__(self, device: Device, seed: int = 1) -> None:
        self.device = device
        self._random = random.Random(seed)
        self._load = self._shown = device.at_rest
        self._sequence = 0
        self._same = 0
        self._last: float | None = None
        self._lock = threading.Lock()

    def put(self, value: float) -> None:
        """Put a load on; refuses what the device cannot carry."""
        if not math.isfinite(value) or abs(value) > MOST[self.device.kind]:
            raise ValueError(f"{self.device.name} carries up to {MOST[self.device.kind]:g}")
        with self._lock:
            self._load = value

    def reading(self, elapsed_s: float, since_start_s: float) -> Reading:
        """The next reading, ``elapsed_s`` after the one before."""
        device = self.device
        with self._lock:
            self._shown += (self._load - self._shown) * (1 - math.exp(-elapsed_s / SETTLE_S))
            if abs(self._shown - self._load) < device.step / 4:
                self._shown = self._load
            noise = self._random.gauss(0.0, device.noise)
            drift = device.drift_per_min * since_start_s / 60
            raw = self._shown + (drift + noise if self._shown else 0.0)
            value = round(raw / device.step) * device.step
            close = self._last is not None and abs(value - self._last) < 1.5 * device.step
            self._same = self._same + 1 if close else 0
            self._last = value
            self._sequence += 1
            stable = self._same >= STABLE_LINES and self._shown == self._load
            return Reading(device.kind, self._sequence, value, device.unit, stable, device.step)


class _Serving(socketserver.ThreadingTCPServer):
    allow_reuse_address = True
    daemon_threads = True

    def __init__(self, port: int, simulator: Simulator, pace: float) -> None:
        super().__init__(("127.0.0.1", port), _Handler)
        self.simulator = simulator
        self.pace = pace
        self.started = time.monotonic()


class _Handler(socketserver.StreamRequestHandler):
    """Sends readings; a line ``set;VALUE`` from the other side changes the load."""

    server: _Serving

    def handle(self) -> None:
        """Until the other side leaves."""
        listener = threading.Thread(target=self._listen, daemon=True)
        listener.start()
        device, pace = self.server.simulator.device, self.server.pace
        last = time.monotonic()
        with contextlib.suppress(OSError):
            while True:
                time.sleep(1 / LINES_PER_SECOND / pace)
                now = time.monotonic()
                since = now - self.server.started
                reading = self.server.simulator.reading((now - last) * pace, since * pace)
                last = now
                shown = replace(reading, value=reading.value + 0.0)
                self.wfile.write(write_line(shown, device.decimals))

    def _listen(self) -> None:
        with contextlib.suppress(OSError, ValueError):
            while line := self.rfile.readline(80):
                word, _, value = line.decode("ascii", "replace").strip().partition(";")
                if word == "set":
                    self.server.simulator.put(float(value))


@dataclass(frozen=True)
class Running:
    """Simulators on their ports; ``urls`` by device. Call ``stop`` at the end."""

    urls: dict[str, str]
    servers: tuple[_Serving, ...]

    def stop(self) -> None:
        """Close all of them."""
        for server in self.servers:
            server.shutdown()
            server.server_close()


def serve_simulators(first_port: int = 0, pace: float = 1.0) -> Running:
    """Start all three on loopback; ``first_port`` 0 takes whatever is free.

    ``pace`` is by how much they go faster than real ones: 2 settles in half the time. Above
    0 and up to 8, beyond which a link would take their lines for a flood; raises InputError.
    """
    if not 0 < pace <= MOST_PACE:
        raise InputError("pace", pace, f"above 0, up to {MOST_PACE:g}")
    servers, urls = [], {}
    for i, (key, device) in enumerate(DEVICES.items()):
        server = _Serving(first_port + i if first_port else 0, Simulator(device, seed=i + 1), pace)
        threading.Thread(target=server.serve_forever, daemon=True, args=(0.1,)).start()
        servers.append(server)
        urls[key] = f"socket://127.0.0.1:{server.server_address[1]}"
    return Running(urls, tuple(servers))
