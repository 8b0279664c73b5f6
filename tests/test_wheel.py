"""The wheel carries everything: installed without Node it serves the demo."""

from __future__ import annotations

import json
import os
import re
import signal
import subprocess
import sys
import urllib.request
import zipfile
from pathlib import Path

ROOT = Path(__file__).parents[1]


def build(out: Path) -> Path:
    subprocess.run(
        [sys.executable, "-m", "build", "--wheel", "--no-isolation", "--outdir", out, ROOT],
        check=True,
        capture_output=True,
        text=True,
    )
    (wheel,) = out.glob("*.whl")
    return wheel


def test_the_wheel_serves_the_demo_in_a_fresh_environment(tmp_path: Path) -> None:
    wheel = build(tmp_path / "dist")
    names = zipfile.ZipFile(wheel).namelist()
    for wanted in (
        "rugged_shield/web/static/index.html",
        "rugged_shield/store/migrations/versions/0003_shelf_and_photos.py",
        "rugged_shield/demo/choosing.json",
    ):
        assert wanted in names
    assert any(n.endswith("OFL.txt") for n in names), "the fonts' licences travel along"
    assert any(re.search(r"static/assets/index-.*\.js\.br$", n) for n in names)
    home = tmp_path / "env"
    subprocess.run([sys.executable, "-m", "venv", str(home)], check=True)
    subprocess.run(
        [
            home / "bin/pip",
            "install",
            "-q",
            "--no-compile",
            "--disable-pip-version-check",
            "-c",
            ROOT / "requirements/base.lock",
            wheel,
        ],
        check=True,
        capture_output=True,
    )
    server = subprocess.Popen(
        [home / "bin/shield", "demo", "--data", str(tmp_path / "data"), "--port", "0"],
        stdout=subprocess.PIPE,
        text=True,
        cwd=tmp_path,
        env={
            "PATH": str(home / "bin"),
            "HOME": str(tmp_path),
            "PYTHONUNBUFFERED": "1",
            **(
                {"LD_LIBRARY_PATH": os.environ["LD_LIBRARY_PATH"]}
                if "LD_LIBRARY_PATH" in os.environ
                else {}
            ),
        },
    )
    try:
        assert server.stdout is not None
        base = next(
            found[0] for line in server.stdout if (found := re.search(r"http://\S+/", line))
        )
        with urllib.request.urlopen(base, timeout=20) as page:
            script = re.search(r'src="/(assets/[^"]+\.js)"', page.read().decode())
        assert script is not None
        with urllib.request.urlopen(base + script[1], timeout=20) as answer:
            assert "immutable" in answer.headers["Cache-Control"]
        with urllib.request.urlopen(base + "api/jobs", timeout=20) as answer:
            assert len(json.load(answer)["jobs"]) == 4
    finally:
        server.send_signal(signal.SIGTERM)
        server.communicate(timeout=10)
    assert server.returncode == 0
