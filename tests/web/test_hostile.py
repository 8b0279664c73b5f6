"""Hostile files against a running server: refused or answered, in time, and it stays as it was.

CI sends a share; ``make hostile`` sends all of them and prints the table of docs/reliability.md.
"""

from __future__ import annotations

import http.client
import json
import os
import statistics
import threading
import time
from collections import defaultdict
from collections.abc import Iterator
from pathlib import Path

import pytest

from rugged_shield.formats.guarded import READING
from rugged_shield.store.care import check
from tests.hostile import Hostile, collection
from tests.ui.conftest import Server

EVERY = int(os.environ.get("SHIELD_HOSTILE_EVERY", "5"))
"""One in so many of the collection is sent; 1 sends all."""
LATEST_S = READING.seconds + 30.0
MORE_MB = 50.0
ROUTES = {
    "svg": ("/api/jobs/choosing/plates/alu5/outline", "svg"),
    "dxf": ("/api/jobs/choosing/plates/alu5/outline", "dxf"),
    "job": ("/api/jobs", ""),
    "list": ("/api/jobs/choosing/kit/preview", ""),
    "photo": ("/api/jobs/choosing/photos", ""),
    "pdf": ("/api/jobs/choosing/kit/pdf", ""),
    "body": ("/api/jobs/choosing/field", ""),
}


@pytest.fixture(scope="module")
def server(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Server]:
    running = Server(tmp_path_factory.mktemp("hostile"))
    running.start()
    yield running
    running.stop()


def resident_mb(server: Server) -> float:
    assert server.process is not None
    status = Path(f"/proc/{server.process.pid}/status").read_text()
    return int(status.split("VmRSS:")[1].split()[0]) / 1024


def asked(server: Server, method: str, path: str, body: bytes, kind: str) -> int:
    link = http.client.HTTPConnection("127.0.0.1", int(server.port), timeout=LATEST_S + 100)
    try:
        link.request(method, path, body, {"Content-Type": kind})
        answer = link.getresponse()
        answer.read()
        return answer.status
    finally:
        link.close()


def sent(server: Server, file: Hostile) -> int:
    """The file on the way that a person's own would take."""
    path, kind = ROUTES[file.kind]
    text = file.data.decode("utf-8", "replace")
    if file.kind in ("svg", "dxf"):
        body = json.dumps(
            {"kind": kind, "text": text, "unit": "mm", "front": "top", "seen": "from below",
             "becomes": "belly", "version": 10**6, "key": "hostile-outline"}
        ).encode()  # fmt: skip
        return asked(server, "POST", path, body, "application/json")
    if file.kind == "list":
        body = json.dumps({"text": text, "system": "metric"}).encode()
        return asked(server, "POST", path, body, "application/json")
    if file.kind == "photo":
        return asked(server, "POST", path, file.data, "image/jpeg")
    if file.kind == "pdf":
        return asked(server, "POST", path, file.data, "application/pdf")
    method = "PATCH" if file.kind == "body" else "POST"
    return asked(server, method, path, file.data, "application/json")


class Others:
    """Someone who looks at a job all the while, and how long the answers take."""

    def __init__(self, server: Server) -> None:
        self.server, self.took_s, self.going = server, [], True
        self.thread = threading.Thread(target=self._look)

    def _look(self) -> None:
        while self.going:
            began = time.perf_counter()
            assert asked(self.server, "GET", "/api/jobs/choosing", b"", "text/plain") == 200
            self.took_s.append(time.perf_counter() - began)
            time.sleep(0.05)

    def __enter__(self) -> Others:
        asked(self.server, "GET", "/api/jobs/choosing", b"", "text/plain")
        self.thread.start()
        return self

    def __exit__(self, *_: object) -> None:
        self.going = False
        self.thread.join()


def table(rows: dict[str, list[tuple[float, int]]], p95_ms: float, more_mb: float) -> str:
    lines = ["| kind | files | answered | refused | slowest s |", "|---|---|---|---|---|"]
    for kind, found in rows.items():
        # 409: read, and then refused for the version that it was sent for.
        good = sum(1 for _, status in found if status < 400 or status == 409)
        slowest = max(took for took, _ in found)
        lines.append(f"| {kind} | {len(found)} | {good} | {len(found) - good} | {slowest:.1f} |")
    lines.append(
        f"\nOthers meanwhile: p95 {p95_ms:.0f} ms. Memory of the server after: {more_mb:+.0f} MB."
    )
    return "\n".join(lines)


def test_no_file_stops_or_swells_the_server(
    server: Server, capsys: pytest.CaptureFixture[str]
) -> None:
    files = collection()
    assert len(files) >= 150
    chosen = files[:: max(1, EVERY)]
    for warm in files[:1]:
        sent(server, warm)
    before_mb = resident_mb(server)
    rows: dict[str, list[tuple[float, int]]] = defaultdict(list)
    with Others(server) as others:
        for file in chosen:
            began = time.perf_counter()
            status = sent(server, file)
            took = time.perf_counter() - began
            assert 200 <= status < 500, f"{file.kind}, {file.name}: {status}"
            assert took < LATEST_S, f"{file.kind}, {file.name}: {took:.1f} s"
            rows[file.kind].append((took, status))
    more_mb = resident_mb(server) - before_mb
    p95_ms = 1000 * statistics.quantiles(others.took_s, n=20)[-1]
    with capsys.disabled():
        if EVERY == 1:
            print("\n" + table(rows, p95_ms, more_mb))
    assert more_mb < MORE_MB, f"{more_mb:.0f} MB more than before"
    assert check(server.folder) == []
