"""A link to one instrument: its own worker thread, its latest reading, how it stands."""

from __future__ import annotations

import threading
import time
from collections import deque
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Literal

import serial

from rugged_shield.core.errors import InputError
from rugged_shield.instruments.protocol import MAX_LINE, Kind, LineError, Reading, parse_line

State = Literal["absent", "settling", "stable", "stale"]
STALE_S = 2.0
FLOOD_PER_S = 100
RETRY_S = 1.0
_FITS: dict[str, tuple[str, ...]] = {
    "kg": ("kg", "g", "lb"),
    "mm": ("mm", "in"),
    "N·m": ("N·m", "ft·lb", "in·lb"),
}


@dataclass(frozen=True, kw_only=True)
class LinkState:
    """How an instrument stands: its state, reading and the last trouble in words."""

    key: str
    kind: Kind
    name: str
    state: State
    shown: str
    unit: str
    step: float
    trouble: str
    bad_lines: int
    simulated: bool


@dataclass(frozen=True)
class Taken:
    """A reading taken: text for a field, the instrument, its step, and when."""

    text: str
    value: float
    unit: str
    instrument: str
    step: float
    at: str


class Link:
    """Reads one instrument in a thread of its own until stopped."""

    def __init__(self, key: str, kind: Kind, name: str, url: str, simulated: bool = False) -> None:
        self.key, self.kind, self.name, self.url, self.simulated = key, kind, name, url, simulated
        self._lock = threading.Lock()
        self._reading: Reading | None = None
        self._at = 0.0
        self._trouble = ""
        self._bad = 0
        self._open = False
        # How often it came to rest, and which of these was recorded: a pull counts once.
        self._rest = self._spent = 0
        self._port: serial.SerialBase | None = None
        self._ending = threading.Event()
        self._times: deque[float] = deque(maxlen=FLOOD_PER_S)
        self._thread = threading.Thread(target=self._run, daemon=True, name=f"instrument-{key}")

    def start(self) -> None:
        """Begin to read."""
        self._thread.start()

    def end(self) -> None:
        """Tell it to stop, and go on without waiting."""
        self._ending.set()

    def stop(self) -> None:
        """Stop and let go of the port."""
        self.end()
        if self._thread.is_alive():
            self._thread.join(3)

    def _run(self) -> None:
        while not self._ending.is_set():
            try:
                with serial.serial_for_url(self.url, timeout=0.1) as port:
                    self._say(opened=True, trouble="")
                    self._port = port
                    self._read(port)
            except (serial.SerialException, OSError, ValueError) as error:
                self._say(opened=False, trouble=f"not connected: {_plain(error)}")
            finally:
                self._port = None
            self._ending.wait(RETRY_S)

    def _read(self, port: serial.SerialBase) -> None:
        """Lines until the port goes; an overlong one is thrown away up to its end."""
        rest = b""
        while not self._ending.is_set():
            rest += port.read(64)
            *lines, rest = rest.split(b"\n")
            for line in lines:
                self._take(line)
            if len(rest) > 4 * MAX_LINE:
                rest = b""
                self._bad_line("garbage on the line")

    def _take(self, line: bytes) -> None:
        now = time.monotonic()
        self._times.append(now)
        if len(self._times) == FLOOD_PER_S and now - self._times[0] < 1.0:
            self._bad_line("a flood of lines; waiting for it to end")
            with self._lock:
                self._reading = None
            return
        try:
            reading = parse_line(line)
        except LineError as error:
            self._bad_line(str(error))
            return
        if reading.kind != self.kind:
            self._bad_line(f"a {reading.kind} answers where a {self.kind} should")
            return
        with self._lock:
            last = self._reading
            if last is not None and reading.sequence == last.sequence:
                self._trouble = "the same reading again: the instrument may hang"
                return
            if reading.stable and (last is None or not last.stable):
                self._rest += 1
            self._reading, self._at, self._trouble = reading, now, ""

    def _bad_line(self, words: str) -> None:
        with self._lock:
            self._bad += 1
            self._trouble = words

    def _say(self, opened: bool, trouble: str) -> None:
        with self._lock:
            self._open, self._trouble = opened, trouble
            if not opened:
                self._reading = None

    def state(self) -> LinkState:
        """How it stands now."""
        with self._lock:
            reading, trouble = self._reading, self._trouble
            fresh = time.monotonic() - self._at <= STALE_S
            opened, bad = self._open, self._bad
        state: State = "absent"
        if reading is not None and not fresh:
            state = "stale"
        elif reading is not None:
            state = "stable" if reading.stable else "settling"
        elif opened:
            state = "settling"
        shown = _shown(reading) if reading is not None else ""
        return LinkState(
            key=self.key,
            kind=self.kind,
            name=self.name,
            state=state,
            shown=shown,
            unit=reading.unit if reading else "",
            step=reading.step if reading else 0.0,
            trouble=trouble,
            bad_lines=bad,
            simulated=self.simulated,
        )

    def take(self, unit: str) -> Taken:
        """The stable reading there is now, for a field in ``unit``.

        Raises InputError when it is absent, moving or stale, or does not fit.
        """
        now = self.state()
        if now.state != "stable":
            words = {
                "absent": f"the {self.name} does not answer",
                "settling": f"the {self.name} still moves",
                "stale": f"the {self.name} has sent nothing new for {STALE_S:g} s",
            }[now.state]
            raise InputError(
                "instrument",
                now.state,
                "a stable reading",
                words,
                now.trouble or "Wait until it stands still, or type the number.",
            )
        if now.unit not in _FITS.get(unit, (unit,)):
            raise InputError(
                "instrument",
                now.unit,
                f"a reading in {' or '.join(_FITS.get(unit, (unit,)))}",
                f"the {self.name} reads in {now.unit}, this field is in {unit}",
                "Take another instrument, or type the number.",
            )
        return Taken(
            f"{now.shown} {now.unit}",
            float(now.shown),
            now.unit,
            self.name,
            now.step,
            datetime.now(UTC).isoformat(timespec="seconds"),
        )

    def take_once(self, unit: str) -> tuple[Taken, int]:
        """A stable reading that was not recorded yet, with the number to spend it by.

        Raises InputError as ``take`` does, and for a reading that was recorded already.
        """
        taken = self.take(unit)
        with self._lock:
            rest, spent = self._rest, self._spent
        if rest <= spent:
            raise InputError(
                "instrument",
                taken.text,
                "a new reading",
                f"this reading of the {self.name} is recorded already",
                "Pull the next one, or type the number.",
            )
        return taken, rest

    def spend(self, rest: int) -> None:
        """The reading of that number is recorded: it goes to nothing else."""
        with self._lock:
            self._spent = max(self._spent, rest)

    def put(self, value: float) -> None:
        """Tell a simulated instrument what is on it; a real one has hands for that."""
        port = self._port
        if not self.simulated or port is None:
            raise InputError("instrument", self.key, "a simulated instrument that answers")
        if not -1000 <= value <= 1000:
            raise InputError("value", value, "a number from -1000 to 1000")
        port.write(f"set;{value:.4f}\n".encode("ascii"))


def _shown(reading: Reading) -> str:
    decimals = max(0, len(f"{reading.step:.5f}".rstrip("0").partition(".")[2]))
    return f"{reading.value:.{decimals}f}"


def _plain(error: Exception) -> str:
    if isinstance(error, FileNotFoundError) or "No such file" in str(error):
        return "no such port"
    return "the port does not open" if isinstance(error, serial.SerialException) else "it went away"


class Tray:
    """All instruments of a running application."""

    def __init__(self, links: tuple[Link, ...] = ()) -> None:
        self.links = {link.key: link for link in links}

    def start(self) -> None:
        """Start every link."""
        for link in self.links.values():
            link.start()

    def stop(self) -> None:
        """Stop every link; all are told before any is waited for: a port takes time to close."""
        for link in self.links.values():
            link.end()
        for link in self.links.values():
            link.stop()

    def states(self) -> tuple[LinkState, ...]:
        """How each stands."""
        return tuple(link.state() for link in self.links.values())

    def link(self, key: str) -> Link:
        """The link of that key; raises InputError."""
        if key not in self.links:
            raise InputError("instrument", key, "one of " + ", ".join(self.links or ["none"]))
        return self.links[key]
