"""The command line: calc as riders script it, serve and demo as they are started."""

from __future__ import annotations

import itertools
import json
import os
import re
import signal
import socket
import subprocess
import urllib.request
from pathlib import Path
from typing import Any

import pytest

from rugged_shield import __version__
from rugged_shield.calc.registry import example, names
from rugged_shield.demo.jobs import DEMO_JOBS
from tests.shielded import SHIELD, process, shield


def test_list_names_everything() -> None:
    assert shield("calc", "--list").stdout.split() == list(names())


def test_it_says_its_version_and_what_every_option_does() -> None:
    assert shield("--version").stdout.strip() == f"Rugged Shield {__version__}"
    commands = re.search(r"\{([a-z,]+)\}", shield("--help").stdout)
    assert commands is not None
    for command in commands[1].split(","):
        lines = [*shield(command, "--help").stdout.splitlines(), ""]
        for line, after in itertools.pairwise(lines):
            bare = re.fullmatch(r"  [a-z-]\S*( \S+)*", line)
            assert not bare or after.startswith(" " * 10), f"{command}: {line.strip()}"


def test_an_unknown_name_is_refused_before_its_input_is_read() -> None:
    """Standard input stays open and silent: nothing waits for it."""
    given, _ = os.pipe()
    started = subprocess.run(
        [*SHIELD, "calc", "nonsense"], stdin=given, capture_output=True, timeout=30, check=False
    )
    assert started.returncode == 2
    assert json.loads(started.stdout)["error"]["field"] == "name"


def test_example_runs_and_schema_prints() -> None:
    example = process("calc", "joint-stack", "--example").stdout
    run = process("calc", "joint-stack", "-", text=example)
    assert run.returncode == 0
    body: dict[str, Any] = json.loads(run.stdout)
    for key in ("result", "findings", "reasons", "assumptions", "warnings", "sources"):
        assert key in body
    assert json.loads(shield("calc", "joint-stack", "--schema").stdout)["properties"]


def test_reads_a_file(tmp_path: Path) -> None:
    file = tmp_path / "in.json"
    file.write_text(json.dumps(example("convert-torque")))
    run = shield("calc", "convert-torque", str(file))
    assert json.loads(run.stdout)["result"]["results"][0] == pytest.approx(16.226, abs=1e-3)


@pytest.mark.parametrize(
    ("name", "text", "field"),
    [
        ("nope", "{}", "name"),
        ("thread-strip", "{", "input"),
        ("thread-strip", "[]", "input"),
        ("thread-strip", "{}", "thread"),
        ("thread-strip", '{"thread": "M8", "thread": "M6"}', "thread"),
        ("thread-strip", '{"thread": NaN}', "input"),
        ("thread-strip", "[" * 100_000, "input"),
        (
            "thread-strip",
            '{"thread": "M7", "engagement_effective_mm": 9, "female_shear_strength_mpa": 110}',
            "thread",
        ),
        (
            "thread-strip",
            '{"thread": "M8", "engagement_effective_mm": -9, "female_shear_strength_mpa": 110}',
            "engagement_effective_mm",
        ),
    ],
)
def test_bad_input_is_exit_two_with_the_error_shape(name: str, text: str, field: str) -> None:
    run = shield("calc", name, "-", text=text)
    assert run.returncode == 2
    error = json.loads(run.stdout)["error"]
    assert error["field"] == field
    assert error["allowed"]
    assert error["message"]


def test_a_missing_file_is_named() -> None:
    run = shield("calc", "thread-strip", "/no/such/file.json")
    assert run.returncode == 2
    assert json.loads(run.stdout)["error"]["field"] == "file"


def test_a_field_that_is_not_known_is_said() -> None:
    given = {**example("thread-strip"), "colour": "red"}
    body = json.loads(shield("calc", "thread-strip", "-", text=json.dumps(given)).stdout)
    assert any("colour" in w for w in body["warnings"])


def test_a_physical_finding_is_a_result() -> None:
    given = {**example("joint-stack"), "evaluate_lengths_mm": [60]}
    run = shield("calc", "joint-stack", "-", text=json.dumps(given))
    assert run.returncode == 0
    assert json.loads(run.stdout)["findings"][0]["code"] == "bottoms"


def start(folder: Path, port: int) -> tuple[subprocess.Popen[str], str]:
    server = subprocess.Popen(
        [*SHIELD, "demo", "--data", str(folder), "--port", str(port)],
        stdout=subprocess.PIPE,
        text=True,
        env={**os.environ, "PYTHONUNBUFFERED": "1"},
    )
    assert server.stdout is not None
    for line in server.stdout:
        found = re.search(r"http://127\.0\.0\.1:\d+/", line)
        if found:
            return server, found[0]
    raise AssertionError("the server did not start")


def stop(server: subprocess.Popen[str], by: signal.Signals = signal.SIGINT) -> None:
    server.send_signal(by)
    server.communicate(timeout=120)


def jobs(base: str) -> Any:
    with urllib.request.urlopen(f"{base}api/jobs", timeout=120) as answer:
        return json.load(answer)["jobs"]


def test_a_busy_port_is_passed_over_and_a_restart_keeps_everything(tmp_path: Path) -> None:
    """It ends cleanly when told to, and no other serves its folder meanwhile."""
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        port = taken.getsockname()[1]
        server, base = start(tmp_path, port)
        try:
            assert f":{port}/" not in base
            assert len(jobs(base)) == len(DEMO_JOBS)
            request = urllib.request.Request(
                f"{base}api/jobs/half-fitted/tighten/step",
                method="POST",
                headers={"Content-Type": "application/json"},
                data=json.dumps(
                    {"version": 1, "key": "restart-key-1", "step": "half:a5", "done": True}
                ).encode(),
            )
            with urllib.request.urlopen(request, timeout=120) as answer:
                assert answer.status == 200
            second = process("demo", "--data", str(tmp_path), "--port", "0")
            assert second.returncode == 3
            assert "already running" in second.stderr
        finally:
            stop(server)
    assert server.returncode == 0
    log = (tmp_path / "shield.log").read_text()
    assert "started" in log
    assert "stopped" in log
    server, base = start(tmp_path, port)
    try:
        half = next(j for j in jobs(base) if j["id"] == "half-fitted")
        assert half["due"] == "step 16: draw joint 6 to half"
        assert len(jobs(base)) == len(DEMO_JOBS)
    finally:
        stop(server, signal.SIGTERM)
    assert server.returncode == 0


def test_a_job_goes_out_and_comes_in_as_the_same(tmp_path: Path) -> None:
    source = Path(__file__).parents[1] / "src/rugged_shield/demo/half_fitted.json"
    data = ("--data", str(tmp_path / "d"))
    came = shield("import", str(source), *data)
    assert came.returncode == 0
    out = shield("export", came.stdout.strip(), *data)
    assert out.stdout == source.read_text()
    assert shield("export", "nope", *data).returncode == 2
    damaged = tmp_path / "damaged.json"
    damaged.write_text(source.read_text()[:5000])
    refused = shield("import", str(damaged), *data)
    assert refused.returncode == 2
    assert json.loads(refused.stdout)["error"]["message"]
    assert shield("import", str(tmp_path / "none.json"), *data).returncode == 2


def test_care_on_the_command_line(tmp_path: Path) -> None:
    source = Path(__file__).parents[1] / "src/rugged_shield/demo/choosing.json"
    data = ("--data", str(tmp_path / "d"))
    process("import", str(source), *data)
    assert shield("check", *data).stdout.strip() == "The database is sound."
    assert shield("backup", str(tmp_path / "b"), *data).returncode == 0
    (tmp_path / "d/rugged-shield.sqlite3").write_bytes(b"x" * 9000)
    assert shield("check", *data).returncode == 1
    assert "kept as" in process("restore", str(tmp_path / "b"), *data).stdout
    assert shield("check", *data).returncode == 0
    missing = shield("backup", str(tmp_path / "c"), "--data", "/proc/nowhere")
    assert missing.returncode == 3
    assert "no database" in missing.stderr
