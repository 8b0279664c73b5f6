"""Both doors by raw sockets: lengths, heads, tricklers, crowds, and TLS that nobody finishes."""

from __future__ import annotations

import http.client
import resource
import shutil
import socket
import ssl
import subprocess
import threading
import time
from collections.abc import Iterator
from contextlib import ExitStack, closing
from pathlib import Path
from typing import Any

import pytest

from rugged_shield.core.errors import InputError
from rugged_shield.web import doors, lan
from rugged_shield.web.lan import Lan

HOST, OTHER = "127.0.0.2", "127.0.0.3"


def echo(environ: dict[str, Any], start: Any) -> list[bytes]:
    """Says how much came in, by which scheme, and from where."""
    said = environ["wsgi.input"].read()
    text = f"{len(said)} {environ['wsgi.url_scheme']} {environ['REMOTE_ADDR']}".encode()
    start("200 OK", [("Content-Length", str(len(text)))])
    return [text]


@pytest.fixture
def door() -> Iterator[tuple[str, int]]:
    yield from opened()


def opened(**certified: Path) -> Iterator[tuple[str, int]]:
    running = Lan(echo, HOST, 0, **certified)
    running.start()
    yield HOST, int(running.address.rsplit(":", 1)[1])
    running.stop()


@pytest.fixture(scope="module")
def certificate(tmp_path_factory: pytest.TempPathFactory) -> dict[str, Path]:
    """A certificate that its own key has signed, by the command that systems have for it."""
    command = shutil.which("openssl")
    if command is None:
        pytest.skip("no openssl command to make a certificate with")
    folder = tmp_path_factory.mktemp("tls")
    made = {"cert": folder / "c.pem", "key": folder / "k.pem"}
    said = "req -x509 -newkey ec -pkeyopt ec_paramgen_curve:P-256 -nodes -days 2 -subj /CN=bench"
    to = ["-keyout", str(made["key"]), "-out", str(made["cert"])]
    subprocess.run([command, *said.split(), *to], check=True, capture_output=True)
    return made


@pytest.fixture
def secret_door(certificate: dict[str, Path]) -> Iterator[tuple[str, int]]:
    yield from opened(**certificate)


def said(at: tuple[str, int], raw: bytes, within_s: float = 20.0) -> bytes:
    """What a door answers to raw bytes until it closes or has said its first line."""
    with socket.create_connection(at, timeout=within_s) as conn:
        conn.sendall(raw)
        heard = b""
        while b"\r\n\r\n" not in heard and (more := conn.recv(4096)):
            heard += more
        return heard.split(b"\r\n")[0]


def post(*lines: str, version: str = "1.1", body: bytes = b"hello") -> bytes:
    head = "\r\n".join((f"POST / HTTP/{version}", f"Host: {HOST}", *lines))
    return head.encode() + b"\r\n\r\n" + body


LENGTHS = {
    "negative": ("Content-Length: -1",),
    "signed": ("Content-Length: +5",),
    "spaced": ("Content-Length: 5 5",),
    "no number": ("Content-Length: five",),
    "hexadecimal": ("Content-Length: 0x5",),
    "of other figures": ("Content-Length: ٥",),
    "doubled": ("Content-Length: 5", "Content-Length: 5"),
    "doubled in one line": ("Content-Length: 5, 5",),
    "two lengths": ("Content-Length: 5", "Content-Length: 6"),
    "longer than a number": ("Content-Length: " + "9" * 5000,),
    "length and chunks": ("Content-Length: 5", "Transfer-Encoding: chunked"),
    "chunks and length": ("Transfer-Encoding: chunked", "Content-Length: 5"),
    "a space before the colon": ("Content-Length : 5",),
}


@pytest.mark.parametrize("lines", LENGTHS.values(), ids=list(LENGTHS))
def test_a_length_is_said_once_and_exactly(door: tuple[str, int], lines: tuple[str, ...]) -> None:
    assert b" 400 " in said(door, post(*lines))


def test_chunks_are_for_those_who_know_them(door: tuple[str, int]) -> None:
    chunked = b"5\r\nhello\r\n0\r\n\r\n"
    assert b" 200 " in said(door, post("Transfer-Encoding: chunked", body=chunked))
    for coding in ("gzip", "chunked, gzip", "identity"):
        assert b" 501 " in said(door, post(f"Transfer-Encoding: {coding}", body=chunked))
    assert b" 400 " in said(door, post("Transfer-Encoding: chunked", version="1.0", body=chunked))
    assert b" 400 " in said(door, post("Transfer-Encoding: chunked", body=b"-5\r\nhello\r\n"))


def test_heads_and_bodies_have_an_end(door: tuple[str, int]) -> None:
    assert b" 431 " in said(door, post("X: " + "a" * 20_000))
    assert b" 413 " in said(door, post("Content-Length: 99000000", body=b""))


def _memory_mb() -> float:
    return resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024


def test_who_says_minus_one_and_sends_without_end_holds_no_memory(door: tuple[str, int]) -> None:
    """80 MB pushed at a door that has said 400: it closes, and has kept none of it."""
    before, sent = _memory_mb(), 0
    with socket.create_connection(door, timeout=20) as conn:
        conn.sendall(post("Content-Length: -1", body=b""))
        try:
            for _ in range(80):
                sent += conn.send(b"a" * 1_000_000)
        except OSError:
            pass
    assert sent < 80_000_000
    assert _memory_mb() - before < 40


def test_one_address_holds_so_many_and_others_get_in(door: tuple[str, int]) -> None:
    with ExitStack() as held:
        for _ in range(lan.PER_ADDRESS):
            held.enter_context(socket.create_connection(door, source_address=(HOST, 0)))
        time.sleep(0.3)
        more = held.enter_context(
            socket.create_connection(door, timeout=20, source_address=(HOST, 0))
        )
        assert more.recv(1) == b"", "closed at once"
        with closing(
            http.client.HTTPConnection(*door, timeout=20, source_address=(OTHER, 0))
        ) as other:
            other.request("GET", "/")
            assert other.getresponse().read() == f"0 http {OTHER}".encode()


def test_tricklers_are_dropped_and_stop_nobody(
    door: tuple[str, int], monkeypatch: pytest.MonkeyPatch
) -> None:
    """Twelve that send a byte now and then, and one that sends half a head and no more."""
    monkeypatch.setattr(doors, "HEAD_S", 0.5)
    with ExitStack() as held:
        slow = [held.enter_context(socket.create_connection(door, timeout=20)) for _ in range(12)]
        for conn in slow:
            conn.sendall(b"GET / HTTP/1.1\r\nX-")
        with closing(
            http.client.HTTPConnection(*door, timeout=20, source_address=(OTHER, 0))
        ) as other:
            other.request("GET", "/")
            assert other.getresponse().status == 200
        for conn in slow:
            assert conn.recv(1) == b"", "all are let go"


def tls() -> ssl.SSLContext:
    context = ssl.SSLContext(ssl.PROTOCOL_TLS_CLIENT)
    context.check_hostname, context.verify_mode = False, ssl.CERT_NONE
    return context


def asked_secretly(at: tuple[str, int], body: bytes = b"") -> bytes:
    link = http.client.HTTPSConnection(*at, timeout=20, context=tls())
    with closing(link):
        link.request("POST", "/", body)
        answer: bytes = link.getresponse().read()
        return answer


def test_whoever_never_shakes_hands_stops_nobody(
    secret_door: tuple[str, int], monkeypatch: pytest.MonkeyPatch, capfd: pytest.CaptureFixture[str]
) -> None:
    monkeypatch.setattr(lan, "HANDSHAKE_S", 1.0)
    with ExitStack() as held:
        silent = [held.enter_context(socket.create_connection(secret_door)) for _ in range(5)]
        began = time.monotonic()
        assert asked_secretly(secret_door) == f"0 https {HOST[:-1]}1".encode()
        assert time.monotonic() - began < 1.0 + 5.0, "not after them"
        plain = held.enter_context(socket.create_connection(secret_door, timeout=20))
        plain.sendall(b"GET / HTTP/1.1\r\nHost: x\r\n\r\n")
        assert b"200" not in plain.recv(4096), "no page without TLS"
        for conn in silent:
            conn.settimeout(20)
            assert conn.recv(1) == b""
    assert asked_secretly(secret_door, b"a" * 3_000_000).startswith(b"3000000 ")
    out, err = capfd.readouterr()
    assert "Traceback" not in out + err


def test_a_crowd_behind_tls_is_counted_too(secret_door: tuple[str, int]) -> None:
    with ExitStack() as held:
        for _ in range(lan.PER_ADDRESS):
            held.enter_context(socket.create_connection(secret_door, source_address=(OTHER, 0)))
        time.sleep(0.3)
        more = held.enter_context(
            socket.create_connection(secret_door, timeout=20, source_address=(OTHER, 0))
        )
        assert more.recv(1) == b""
        assert asked_secretly(secret_door).startswith(b"0 https")


def test_many_at_once_behind_tls_are_all_answered(secret_door: tuple[str, int]) -> None:
    found: list[bytes] = []

    def ask(size: int) -> None:
        found.append(asked_secretly(secret_door, b"a" * size).split()[0])

    threads = [threading.Thread(target=ask, args=(1000 * i,)) for i in range(12)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(60)
    assert sorted(map(int, found)) == [1000 * i for i in range(12)]


def test_a_file_that_is_no_certificate_is_refused(tmp_path: Path) -> None:
    for name in ("c.pem", "k.pem"):
        (tmp_path / name).write_text("nothing of the kind")
    with pytest.raises(InputError, match="do not open"):
        Lan(echo, HOST, 0, tmp_path / "c.pem", tmp_path / "k.pem")
