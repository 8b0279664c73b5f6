"""Figures of a phone under the bike: how soon it sees what the computer did, and Keep's view."""

from __future__ import annotations

import http.client
import json
import tempfile
import time
from collections.abc import Iterator
from pathlib import Path
from statistics import median

from rugged_shield.demo.jobs import load_demo
from rugged_shield.web.app import create_app, with_static_files
from rugged_shield.web.lan import Lan

JOB = "in-service"
ROUNDS = 20


def _versions(link: http.client.HTTPConnection, cookie: str) -> Iterator[int]:
    """Versions of the job as a phone's stream tells them."""
    link.request("GET", f"/api/jobs/{JOB}/live", headers={"Cookie": cookie})
    answer = link.getresponse()
    while line := answer.readline():
        if line.startswith(b"data: "):
            yield int(line[6:])


def phone_figures() -> Iterator[tuple[str, ...]]:
    """Name, figure and aim of each line."""
    with tempfile.TemporaryDirectory() as folder:
        app = create_app(Path(folder))
        load_demo(app.extensions["rugged_shield_db"])
        lan = Lan(with_static_files(app), "127.0.0.2", 0)
        phones = app.extensions["rugged_shield_phones"]
        phones.addresses = (lan.address,)
        lan.start()
        try:
            token, _ = phones.pair(phones.offer(JOB).digits, "bench")
            link = http.client.HTTPConnection(lan.address.split("//")[1], timeout=20)
            told = _versions(link, f"shield_phone={token}")
            version, took = next(told), []
            with app.test_client() as computer:
                began = time.perf_counter()
                computer.get(f"/api/jobs/{JOB}/keep")
                cold = time.perf_counter() - began
                for i in range(ROUNDS):
                    body = {"version": version, "key": f"bench-note-{i}", "text": f"note {i}"}
                    at = f"/api/jobs/{JOB}/keep/note"
                    saved = computer.post(
                        at, data=json.dumps(body), content_type="application/json"
                    )
                    began = time.perf_counter()
                    version = next(told)
                    took.append(time.perf_counter() - began)
                    assert version == saved.get_json()["version"]
                warm = []
                for _ in range(5):
                    began = time.perf_counter()
                    computer.get(f"/api/jobs/{JOB}/keep")
                    warm.append(time.perf_counter() - began)
            link.close()
        finally:
            app.extensions["rugged_shield_streams"].ending.set()
            lan.stop()
            app.extensions["rugged_shield_db"].close()
    worst = f"{median(took):.2f} / {max(took):.2f} s"
    yield "a step seen on the other device, p50 / longest of 20", worst, "aim 2 s"
    yield "Keep's view, cold / again", f"{cold * 1000:.0f} / {min(warm) * 1000:.0f} ms"


if __name__ == "__main__":
    for figure in phone_figures():
        print(*figure, sep=" | ")
