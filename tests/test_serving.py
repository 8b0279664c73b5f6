"""The server as a process: it ends at once, drops who trickles, and reads a read-only folder."""

from __future__ import annotations

import http.client
import json
import os
import shutil
import signal
import socket
import subprocess
import sys
import threading
import time
from collections.abc import Iterator
from contextlib import closing
from pathlib import Path

import pytest

from rugged_shield.store.care import check
from rugged_shield.store.database import Database
from rugged_shield.web import doors
from tests.ui.conftest import Server

SHIELD = [sys.executable, "-m", "rugged_shield.cli"]


@pytest.fixture
def server(tmp_path: Path, demo_database: Path) -> Iterator[Server]:
    shutil.copy(demo_database, tmp_path)
    running = Server(tmp_path)
    running.start()
    yield running
    running.stop()


def test_it_ends_within_two_seconds_while_it_works(server: Server) -> None:
    """Three strikes are under way: they are let go, without a traceback."""
    assert server.process is not None

    def ask(path: str, body: bytes) -> None:
        link = http.client.HTTPConnection("127.0.0.1", int(server.port), timeout=20)
        try:
            link.request("POST", path, body, {"Content-Type": "application/json"})
            link.getresponse().read()
        except (OSError, http.client.HTTPException):
            pass  # it ended first, as it is told to
        finally:
            link.close()

    strikes = [
        threading.Thread(
            target=ask,
            args=(f"/api/jobs/{job}/weigh-up/strike", json.dumps({"plate": "alu5"}).encode()),
        )
        for job in ("choosing", "half-fitted", "kit-open")
    ]
    for thread in strikes:
        thread.start()
    time.sleep(0.5)
    began = time.monotonic()
    server.process.send_signal(signal.SIGTERM)
    said, _ = server.process.communicate(timeout=120)
    assert time.monotonic() - began < 2.0 + 20.0, "two seconds, and what a busy machine takes"
    assert server.process.returncode == 0
    assert "Traceback" not in said
    for thread in strikes:
        thread.join(120)
    log = (server.folder / "shield.log").read_text()
    assert log.rstrip().endswith("stopped")
    server.process = None
    assert check(server.folder) == []


def cut_off(slow: socket.socket) -> bool:
    """Whether a connection that sends a byte ten times a second is closed within three."""
    for _ in range(30):
        time.sleep(0.1)
        try:
            slow.sendall(b"a")
            if slow.recv(1, socket.MSG_DONTWAIT) == b"":
                return True
        except BlockingIOError:
            continue
        except OSError:
            return True
    return False


def test_who_trickles_is_dropped_and_holds_nobody_up() -> None:
    """A request that has not come whole within its time is cut off, byte after byte or not."""
    from rugged_shield.web.serving import Served

    def hello(_environ: object, start: object) -> list[bytes]:
        start("200 OK", [("Content-Length", "2")])  # type: ignore[operator]
        return [b"ok"]

    sock = socket.create_server(("127.0.0.1", 0))
    port = sock.getsockname()[1]
    whole, doors.WHOLE_REQUEST_S = doors.WHOLE_REQUEST_S, 0.5
    try:
        served = Served(hello, sock)
        threading.Thread(target=served.run, daemon=True).start()
        with (
            socket.create_connection(("127.0.0.1", port)) as slow,
            closing(http.client.HTTPConnection("127.0.0.1", port, timeout=5)) as link,
        ):
            slow.sendall(b"GET / HTTP/1.1\r\nHost: 127.0.0.1\r\nX-Slow: ")
            link.request("GET", "/")
            assert link.getresponse().read() == b"ok"
            assert cut_off(slow)
    finally:
        doors.WHOLE_REQUEST_S = whole


@pytest.mark.parametrize("after_s", [0.0, 0.01, 0.1, 0.3])
def test_told_to_stop_while_it_starts_it_ends(tmp_path: Path, after_s: float) -> None:
    """Between its first words and its first answer there was a moment in which it never did."""
    command = [sys.executable, "-m", "rugged_shield.cli", "serve", "--port", "0",
               "--data", str(tmp_path / "data")]  # fmt: skip
    server = subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True)
    assert server.stdout is not None
    assert server.stdout.readline().startswith("Data in")
    time.sleep(after_s)
    server.send_signal(signal.SIGINT)
    _, words = server.communicate(timeout=60)
    assert (server.returncode, words) == (0, "")


def read_only(folder: Path) -> bool:
    """Whether the folder can be made one that nobody writes to: not for root, who may always."""
    folder.chmod(0o500)
    return not os.access(folder, os.W_OK)


def test_check_and_export_work_where_nothing_can_be_written(
    tmp_path: Path, demo_database: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    folder = tmp_path / "kept"
    folder.mkdir()
    shutil.copy(demo_database, folder)
    before = sorted((p.name, p.stat().st_mtime_ns) for p in folder.iterdir())
    real = os.access
    if not read_only(folder):
        # Root may write anywhere: what the program asks is answered as for anybody else.
        monkeypatch.setattr(
            os, "access", lambda p, mode: real(p, mode) and not str(p).startswith(str(folder))
        )
    try:
        from rugged_shield.cli import main

        assert check(folder) == []
        out = tmp_path / "out.json"
        assert main(["export", "choosing", str(out), "--data", str(folder)]) == 0
        assert json.loads(out.read_text())["job"]["title"]
    finally:
        folder.chmod(0o700)
    assert sorted((p.name, p.stat().st_mtime_ns) for p in folder.iterdir()) == before


def test_a_failed_import_leaves_nothing_behind(tmp_path: Path) -> None:
    """A job whose pictures cannot be read does not come in without them."""
    source = Path(__file__).parents[1] / "src/rugged_shield/demo/choosing.json"
    file = tmp_path / "job.json"
    shutil.copy(source, file)
    (tmp_path / "job.photos.zip").write_bytes(b"no zip at all")
    data = ("--data", str(tmp_path / "d"))
    done = subprocess.run(
        [*SHIELD, "import", str(file), *data],
        capture_output=True,
        text=True,
        check=False,
        timeout=60,
    )
    assert done.returncode == 2
    assert json.loads(done.stdout)["error"]["field"] == "photos"
    db = Database(tmp_path / "d")
    db.migrate()
    from rugged_shield.store.repository import job_ids

    assert job_ids(db) == ()
    db.close()
