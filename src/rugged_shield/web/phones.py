"""Phones that were let in for one job: a code for two minutes, then a token for half a day.

Kept in memory only: when the server ends, so does every pairing. What runs out does so by a
clock that nobody sets; the time of day is only shown.
"""

from __future__ import annotations

import hmac
import math
import secrets
import time
from collections.abc import Callable
from dataclasses import dataclass, field, replace
from hashlib import sha256
from threading import Lock

from rugged_shield.core.errors import InputError
from rugged_shield.core.text import check_text
from rugged_shield.web.clock import steady_s

CODE_S = 120.0
TRIES = 5
"""Wrong tries from one address before it has to wait."""
LONGEST_WAIT_S = 60.0
FORGOTTEN_S = 600.0
MOST_ADDRESSES = 256
PAIRED_S = 12 * 3600.0
MOST_DEVICES = 8
LONGEST_NAME = 40
COOKIE = "shield_phone"
AGAIN = "Ask for a new code on the computer."


@dataclass(frozen=True)
class Code:
    """Six figures that let one phone in, for one job.

    ``until_s`` is the time of day that is shown, ``ends_s`` when it ends by the steady clock.
    """

    digits: str
    job: str
    until_s: float
    ends_s: float


@dataclass(frozen=True)
class Missed:
    """Wrong tries from one address: how many, until when it waits and since when, steady s."""

    count: int
    waits_until_s: float
    last_s: float


@dataclass(frozen=True, kw_only=True)
class Device:
    """A phone that was let in; ``id`` names it on the computer and opens nothing."""

    id: str
    name: str
    job: str
    since_s: float
    until_s: float
    seen_s: float
    ends_s: float


def _hash(token: str) -> bytes:
    return sha256(token.encode()).digest()


@dataclass
class Phones:
    """Who is let in. ``addresses`` are the origins that the network's listener answers to."""

    clock: Callable[[], float] = time.time
    addresses: tuple[str, ...] = ()
    steady: Callable[[], float] = steady_s
    _code: Code | None = field(default=None, init=False)
    _missed: dict[str, Missed] = field(default_factory=dict, init=False)
    _devices: dict[bytes, Device] = field(default_factory=dict, init=False)
    _lock: Lock = field(default_factory=Lock, init=False)

    @property
    def hosts(self) -> tuple[str, ...]:
        """Host and port of every address, as a browser names it."""
        return tuple(address.split("//", 1)[1] for address in self.addresses)

    def offer(self, job: str) -> Code:
        """A new code for a job; the one before it opens nothing any more."""
        if not self.addresses:
            raise InputError(
                "--lan",
                "",
                "a server that was started with --lan",
                "phones are not let in",
                "Stop it and start it again with “shield serve --lan”.",
            )
        digits = f"{secrets.randbelow(1_000_000):06d}"
        code = Code(digits, job, self.clock() + CODE_S, self.steady() + CODE_S)
        with self._lock:
            self._code = code
        return code

    def code(self) -> Code | None:
        """The code that opens now, if there is one."""
        with self._lock:
            return self._standing()

    def _standing(self) -> Code | None:
        if self._code is not None and self._code.ends_s <= self.steady():
            self._code = None
        return self._code

    def pair(self, digits: str, name: str, address: str = "") -> tuple[str, Device]:
        """A token for whoever knows the code.

        After five wrong tries an address waits, each time twice as long; the code stands for
        everybody else. Raises InputError for a wrong or late code, for whoever has to wait, and
        for a name that says nothing.
        """
        said = " ".join(name.split())
        check_text("name", said)
        if not 1 <= len(said) <= LONGEST_NAME:
            raise InputError("name", name, f"1 to {LONGEST_NAME} letters", "whose phone is this?")
        typed = "".join(digits.split())
        with self._lock:
            self._check_wait(address)
            code = self._standing()
            if code is None:
                raise InputError("code", typed, "the code shown now", "no code stands", AGAIN)
            if not hmac.compare_digest(typed.encode(), code.digits.encode()):
                self._miss(address, typed)
            self._missed.pop(address, None)
            self._forget_late()
            if len(self._devices) >= MOST_DEVICES:
                raise InputError("code", "", f"at most {MOST_DEVICES} phones", "too many phones")
            self._code = None
            token, now = secrets.token_urlsafe(32), self.clock()
            device = Device(
                id=secrets.token_hex(4),
                name=said,
                job=code.job,
                since_s=now,
                until_s=now + PAIRED_S,
                seen_s=now,
                ends_s=self.steady() + PAIRED_S,
            )
            self._devices[_hash(token)] = device
        return token, device

    def _check_wait(self, address: str) -> None:
        now = self.steady()
        self._missed = {a: m for a, m in self._missed.items() if now - m.last_s < FORGOTTEN_S}
        known = self._missed.get(address)
        if known is not None and now < known.waits_until_s:
            wait = math.ceil(known.waits_until_s - now)
            words = f"wrong too often: wait {wait} s"
            raise InputError("code", "", "one try after the other", words, "Look well.")

    def _miss(self, address: str, typed: str) -> None:
        now, before = self.steady(), self._missed.get(address)
        count = 1 + (0 if before is None else before.count)
        over = count - TRIES
        wait = 0.0 if over < 0 else min(2.0**over, LONGEST_WAIT_S)
        while len(self._missed) >= MOST_ADDRESSES:
            self._missed.pop(next(iter(self._missed)))
        self._missed[address] = Missed(count, now + wait, now)
        words = f"this is not the code; wait {wait:.0f} s" if wait else "this is not the code"
        raise InputError("code", typed, "the six figures shown", words, "Look once more.")

    def wrong_tries(self) -> tuple[tuple[str, int], ...]:
        """Addresses that tried wrong codes of late, and how often, most first."""
        with self._lock:
            now = self.steady()
            late = [(a, m.count) for a, m in self._missed.items() if now - m.last_s < FORGOTTEN_S]
        return tuple(sorted(late, key=lambda found: -found[1]))

    def _forget_late(self) -> None:
        now = self.steady()
        self._devices = {k: d for k, d in self._devices.items() if d.ends_s > now}

    def of(self, token: str | None) -> Device | None:
        """Whose token this is; None for one that was never given, has ended or is too old."""
        if not token:
            return None
        key = _hash(token)
        with self._lock:
            self._forget_late()
            device = self._devices.get(key)
            if device is not None:
                device = self._devices[key] = replace(device, seen_s=self.clock())
            return device

    def devices(self, job: str) -> tuple[Device, ...]:
        """Phones that are let in for a job, the first one first."""
        with self._lock:
            self._forget_late()
            return tuple(d for d in self._devices.values() if d.job == job)

    def end(self, job: str, device: str) -> None:
        """A phone's token opens nothing any more; raises InputError for an unknown one."""
        with self._lock:
            kept = {k: d for k, d in self._devices.items() if not (d.id == device and d.job == job)}
            if len(kept) == len(self._devices):
                raise InputError("device", device, "a phone that is let in")
            self._devices = kept
