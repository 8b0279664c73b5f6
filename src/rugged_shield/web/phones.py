"""Phones that were let in for one job: a code for two minutes, then a token for half a day.

Kept in memory only: when the server ends, so does every pairing.
"""

from __future__ import annotations

import hmac
import secrets
import time
from collections.abc import Callable
from dataclasses import dataclass, field, replace
from hashlib import sha256
from threading import Lock

from rugged_shield.core.errors import InputError
from rugged_shield.core.text import check_text

CODE_S = 120.0
TRIES = 5
PAIRED_S = 12 * 3600.0
MOST_DEVICES = 8
LONGEST_NAME = 40
COOKIE = "shield_phone"
AGAIN = "Ask for a new code on the computer."


@dataclass(frozen=True)
class Code:
    """Six figures that let one phone in, for one job."""

    digits: str
    job: str
    until_s: float
    tries_left: int = TRIES


@dataclass(frozen=True, kw_only=True)
class Device:
    """A phone that was let in; ``id`` names it on the computer and opens nothing."""

    id: str
    name: str
    job: str
    since_s: float
    until_s: float
    seen_s: float


def _hash(token: str) -> bytes:
    return sha256(token.encode()).digest()


@dataclass
class Phones:
    """Who is let in. ``addresses`` are the origins that the network's listener answers to."""

    clock: Callable[[], float] = time.time
    addresses: tuple[str, ...] = ()
    _code: Code | None = None
    _devices: dict[bytes, Device] = field(default_factory=dict)
    _lock: Lock = field(default_factory=Lock)

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
        code = Code(f"{secrets.randbelow(1_000_000):06d}", job, self.clock() + CODE_S)
        with self._lock:
            self._code = code
        return code

    def code(self) -> Code | None:
        """The code that opens now, if there is one."""
        with self._lock:
            return self._standing()

    def _standing(self) -> Code | None:
        if self._code is not None and self._code.until_s <= self.clock():
            self._code = None
        return self._code

    def pair(self, digits: str, name: str) -> tuple[str, Device]:
        """A token for whoever knows the code; five wrong tries and the code is void.

        Raises InputError for a wrong, late or locked code and for a name that says nothing.
        """
        said = " ".join(name.split())
        check_text("name", said)
        if not 1 <= len(said) <= LONGEST_NAME:
            raise InputError("name", name, f"1 to {LONGEST_NAME} letters", "whose phone is this?")
        typed = "".join(digits.split())
        with self._lock:
            code = self._standing()
            if code is None:
                raise InputError("code", typed, "the code shown now", "no code stands", AGAIN)
            if not hmac.compare_digest(typed.encode(), code.digits.encode()):
                self._miss(code, typed)
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
            )
            self._devices[_hash(token)] = device
        return token, device

    def _miss(self, code: Code, typed: str) -> None:
        left = code.tries_left - 1
        self._code = replace(code, tries_left=left) if left else None
        if left:
            words = f"this is not the code; {left} more tries"
            raise InputError("code", typed, "the six figures shown", words, "Look once more.")
        raise InputError("code", typed, "the code shown now", "wrong five times: locked", AGAIN)

    def _forget_late(self) -> None:
        now = self.clock()
        self._devices = {k: d for k, d in self._devices.items() if d.until_s > now}

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
