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

from rugged_shield.demo.jobs import DEMO_JOBS

ROOT = Path(__file__).parents[1]
STARTED = "import sys, rugged_shield.cli as c; print(c.__file__, flush=True); sys.exit(c.main())"


def build(out: Path) -> Path:
    subprocess.run(
        [sys.executable, "-m", "build", "--wheel", "--no-isolation", "--outdir", out, ROOT],
        check=True,
        capture_output=True,
        text=True,
    )
    (wheel,) = out.glob("*.whl")
    return wheel


def test_what_is_in_the_wheel_serves_the_demo(tmp_path: Path) -> None:
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
    home = tmp_path / "installed"
    pip = [sys.executable, "-m", "pip", "install", "-q", "--disable-pip-version-check"]
    subprocess.run(
        [*pip, "--no-deps", "--no-compile", "--no-index", "--target", home, wheel],
        check=True,
        capture_output=True,
    )
    server = subprocess.Popen(
        [sys.executable, "-c", STARTED, "demo", "--data", str(tmp_path / "data"), "--port", "0"],
        stdout=subprocess.PIPE,
        text=True,
        cwd=tmp_path,
        env={**os.environ, "PYTHONPATH": str(home), "PYTHONUNBUFFERED": "1"},
    )
    try:
        assert server.stdout is not None
        assert server.stdout.readline().strip().startswith(str(home))
        base = next(
            found[0] for line in server.stdout if (found := re.search(r"http://\S+/", line))
        )
        with urllib.request.urlopen(base, timeout=20) as page:
            script = re.search(r'src="/(assets/[^"]+\.js)"', page.read().decode())
        assert script is not None
        with urllib.request.urlopen(base + script[1], timeout=20) as answer:
            assert "immutable" in answer.headers["Cache-Control"]
        with urllib.request.urlopen(base + "api/jobs", timeout=20) as answer:
            assert len(json.load(answer)["jobs"]) == len(DEMO_JOBS)
    finally:
        server.send_signal(signal.SIGTERM)
        server.communicate(timeout=10)
    assert server.returncode == 0
