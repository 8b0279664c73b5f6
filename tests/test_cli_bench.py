"""Instruments and photos on the command line."""

from __future__ import annotations

import io
import json
import signal
import subprocess
import sys
import time
from pathlib import Path

import pytest
from PIL import Image

from rugged_shield.demo.jobs import load_demo
from rugged_shield.instruments.link import Link
from rugged_shield.store.database import Database
from rugged_shield.store.repository import job_ids, load_job
from rugged_shield.store.shelf import add_photo, photos
from tests.shielded import shield


def test_simulators_run_as_one_command_and_answer() -> None:
    process = subprocess.Popen(
        [sys.executable, "-m", "rugged_shield.cli", "instruments"],
        stdout=subprocess.PIPE,
        text=True,
    )
    assert process.stdout is not None
    urls = dict(process.stdout.readline().strip().split("=", 1) for _ in range(3))
    assert set(urls) == {"scale", "calliper", "wrench"}
    link = Link("scale", "scale", "scale", urls["scale"], simulated=True)
    link.start()
    end = time.monotonic() + 120
    while not link.state().unit and time.monotonic() < end:
        time.sleep(0.05)
    assert link.state().unit == "kg"
    process.send_signal(signal.SIGKILL)
    process.communicate(timeout=120)
    while link.state().state != "absent" and time.monotonic() < end:
        time.sleep(0.05)
    assert link.state().state == "absent", "an unplugged instrument is said"
    assert link.state().trouble
    link.stop()


@pytest.mark.parametrize(
    ("said", "allowed"),
    [
        (("--instrument", "scale"), "scale=URL"),
        (("--instrument", "toaster=socket://127.0.0.1:1"), "scale=URL"),
        (("--instrument", "scale="), "scale=URL"),
        (("--cert", "bench.pem"), "together with --lan"),
    ],
)
def test_what_is_called_wrong_is_refused_before_anything_is_made(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, said: tuple[str, str], allowed: str
) -> None:
    def begun() -> None:
        raise AssertionError("it began to serve")

    monkeypatch.setattr("rugged_shield.web.serving.stop_on_signals", begun)
    folder = tmp_path / "d"
    run = shield("serve", "--data", str(folder), "--port", "0", *said)
    assert run.returncode == 2
    assert allowed in run.stderr
    assert not folder.exists()


def test_photos_travel_beside_the_job_file(tmp_path: Path) -> None:
    db = Database(tmp_path / "a")
    db.migrate()
    load_demo(db)
    out = io.BytesIO()
    Image.new("RGB", (20, 10)).save(out, "JPEG")
    kept = add_photo(db, "choosing", out.getvalue())
    db.close()
    file = tmp_path / "job.json"
    run = shield("export", "choosing", str(file), "--data", str(tmp_path / "a"))
    assert run.returncode == 0
    assert (tmp_path / "job.photos.zip").is_file()
    for _ in range(2):
        run = shield("import", str(file), "--data", str(tmp_path / "b"))
        assert run.returncode == 0, run.stdout
    own = Database(tmp_path / "b")
    own.migrate()
    for row in (load_job(own, i) for i in job_ids(own)):
        assert list(photos(own, row.id)) == [kept]
    own.close()
    whole = tmp_path / "whole.zip"
    assert shield("export", "choosing", str(whole), "--data", str(tmp_path / "a")).returncode == 0
    run = shield("import", str(whole), "--data", str(tmp_path / "d"))
    assert run.returncode == 0, run.stdout
    alone = Database(tmp_path / "d")
    alone.migrate()
    assert list(photos(alone, run.stdout.strip())) == [kept]
    alone.close()
    (tmp_path / "job.photos.zip").write_bytes(b"no zip")
    run = shield("import", str(file), "--data", str(tmp_path / "c"))
    assert run.returncode == 2
    assert json.loads(run.stdout)["error"]["field"] == "photos"
