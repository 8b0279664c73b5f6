"""Figures of speed, size and memory, printed one a line with the machine's load."""

from __future__ import annotations

import gzip
import json
import os
import platform
import re
import signal
import subprocess
import sys
import tempfile
import time
import urllib.request
from collections.abc import Callable
from pathlib import Path
from typing import Any

import brotli
import numpy as np
from bench_assess import assess_figures
from bench_fitup import fitup_figures
from bench_many import long_record_figures, many_jobs_figures
from bench_phone import phone_figures
from bench_strike import strike_figures
from bench_survey import screen_figures, survey_figures
from bench_weighup import busy_figures, weighup_figures, what_if_figures

from rugged_shield.calc.registry import computation_of, example
from rugged_shield.core.survey.geometry import fold
from rugged_shield.core.weighup.coverage import FIRST_DIRECTIONS, coverage_of
from rugged_shield.demo.jobs import DEMO_JOBS
from rugged_shield.formats.jobfile import read_job_file

ROOT = Path(__file__).parents[1]
STATIC = ROOT / "src/rugged_shield/web/static"
INDEX = STATIC / "index.html"
SPACER = "candidates.alu5.joints.a3.layers.spacer.thickness_mm"


KEPT: list[tuple[str, str]] = []


def line(name: str, value: str, aim: str = "") -> None:
    """One figure, aligned."""
    KEPT.append((name, value))
    print(f"{name:<46} {value:>18}   {aim}", flush=True)


def per_second(work: Callable[[], Any], seconds: float = 1.0) -> float:
    """How often per second, the best of five rounds: what the code can do undisturbed."""
    best = 0.0
    for _ in range(5):
        count, start = 0, time.perf_counter()
        while time.perf_counter() - start < seconds / 5:
            work()
            count += 1
        best = max(best, count / (time.perf_counter() - start))
    return best


def core_figures() -> None:
    """Computations by themselves, and coverage."""
    from pydantic import TypeAdapter

    for name in ("joint-stack", "torque-limit"):
        calculation = computation_of(name)
        given = TypeAdapter(calculation.given).validate_python(example(name))
        rate = per_second(lambda run=calculation.run, g=given: run(g))  # type: ignore[misc]
        line(f"{name} evaluations per second", f"{rate:,.0f}")
    file = ROOT / "src/rugged_shield/demo" / f"{DEMO_JOBS[0]}.json"
    job = read_job_file(file.read_bytes()).job
    vitals, folded = job.bike.vitals(), fold(job.candidates[0].plate)
    rays = coverage_of(vitals, folded, FIRST_DIRECTIONS, 0.0, 4.0).rays
    rate = per_second(lambda: coverage_of(vitals, folded, FIRST_DIRECTIONS, 0.0, 4.0))
    line("coverage rays per second", f"{rays * rate:,.0f}")
    line("20 000 coverage rays", f"{20_000 / (rays * rate) * 1000:.0f} ms", "aim 100 ms")


def start(folder: str) -> tuple[subprocess.Popen[str], str, float]:
    """A demo server; returns it, its address and the time to its first answer, s."""
    began = time.perf_counter()
    server = subprocess.Popen(
        [sys.executable, "-m", "rugged_shield.cli", "demo", "--data", folder, "--port", "0"],
        stdout=subprocess.PIPE,
        text=True,
    )
    assert server.stdout is not None
    for text in server.stdout:
        found = re.search(r"http://127\.0\.0\.1:\d+", text)
        if found:
            get(found[0] + "/api/jobs")
            return server, found[0], time.perf_counter() - began
    raise SystemExit("the server did not start")


def get(url: str) -> Any:
    """JSON from an address."""
    with urllib.request.urlopen(url, timeout=30) as answer:
        return json.load(answer)


def patch(base: str, version: int, text: str) -> int:
    """One change of a layer; returns the new version."""
    body = {"version": version, "key": f"bench-{version:08d}", "path": SPACER, "text": text}
    request = urllib.request.Request(
        f"{base}/api/jobs/choosing/field",
        method="PATCH",
        data=json.dumps(body).encode(),
        headers={"Content-Type": "application/json"},
    )
    with urllib.request.urlopen(request, timeout=30) as answer:
        return int(json.load(answer)["version"])


def spread(times: list[float]) -> str:
    """Median and 95th percentile in ms."""
    p50, p95 = np.percentile(np.array(times) * 1000, [50, 95])
    return f"{p50:.0f} / {p95:.0f} ms"


def memory_mb(pid: int) -> float:
    """Resident memory of a process, MB."""
    status = Path(f"/proc/{pid}/status").read_text()
    found = re.search(r"VmRSS:\s+(\d+) kB", status)
    return int(found[1]) / 1024 if found else float("nan")


def memories_mb(pid: int) -> tuple[float, float]:
    """Resident memory of the server, and of the processes it started, MB."""
    threads = Path(f"/proc/{pid}/task").iterdir()
    children = " ".join((t / "children").read_text() for t in threads).split()
    return memory_mb(pid), sum(memory_mb(int(child)) for child in children)


def server_figures() -> None:
    """Starts, requests and memory of a real server."""
    with tempfile.TemporaryDirectory() as folder:
        server, base, first = start(folder)
        stop(server)
        server, base, cold = start(folder)
        line("first start, database made, to first answer", f"{first:.2f} s")
        line("cold start to first answer", f"{cold:.2f} s", "aim 3 s")
        for station in ("survey", "weigh-up", "kit", "fit-up", "tighten", "keep"):
            for job in ("choosing", "half-fitted"):
                get(f"{base}/api/jobs/{job}/{station}")
        reads, writes = [], []
        for i in range(60):
            began = time.perf_counter()
            version = get(f"{base}/api/jobs/choosing")["version"]
            reads.append(time.perf_counter() - began)
            began = time.perf_counter()
            patch(base, version, f"{8 + i * 0.1:.1f}")
            writes.append(time.perf_counter() - began)
        line("ledger request, p50 / p95", spread(reads))
        line("layer change at the server, p50 / p95", spread(writes), "aim p95 100 ms")
        line("server memory", f"{memory_mb(server.pid):.0f} MB", "aim 300 MB")
        for figure in busy_figures(base, get, lambda: memories_mb(server.pid)):
            line(*figure)
        stop(server)


def stop(server: subprocess.Popen[str]) -> None:
    """Ask the server to end and wait for it."""
    server.send_signal(signal.SIGINT)
    server.communicate(timeout=10)


def script_figures() -> None:
    """Size of the built scripts as they travel."""
    scripts = [p.read_bytes() for p in (STATIC / "assets").glob("*.js")]
    first = set(re.findall(r"(?:src|href)=\"/(assets/[^\"]+\.js)\"", INDEX.read_text()))
    at_once = sum(len(gzip.compress((STATIC / name).read_bytes())) for name in first)
    line("scripts of the first screen, gzip", f"{at_once / 1000:.0f} kB", "aim 120 kB")
    squeezed = sum(len(brotli.compress(s)) for s in scripts)
    zipped = sum(len(gzip.compress(s)) for s in scripts)
    line("scripts, brotli", f"{squeezed / 1000:.0f} kB", "aim 200 kB")
    line("scripts, gzip", f"{zipped / 1000:.0f} kB", "aim 200 kB")


def keep(load: str) -> None:
    """Append the figures under the commit they were taken at to docs/bench.md."""
    commit = subprocess.run(
        ["git", "log", "-1", "--format=%h, %cs: %s"],
        cwd=ROOT,
        capture_output=True,
        text=True,
        check=True,
    ).stdout.strip()
    machine = f"{platform.machine()}, {os.cpu_count()} cores, load {load}"
    rows = "".join(f"| {name} | {value} |\n" for name, value in KEPT)
    with (ROOT / "docs/bench.md").open("a", encoding="utf-8") as file:
        file.write(f"\n## {commit}\n\n{machine}\n\n| what | figure |\n|---|---|\n{rows}")


def main() -> None:
    """Print every figure."""
    load = " ".join(f"{x:.2f}" for x in os.getloadavg())
    print(
        f"{platform.machine()}, {os.cpu_count()} cores, Python {platform.python_version()}, "
        f"load {load}"
    )
    core_figures()
    file = ROOT / "src/rugged_shield/demo" / f"{DEMO_JOBS[0]}.json"
    job = read_job_file(file.read_bytes()).job
    figures = (survey_figures, strike_figures, weighup_figures, fitup_figures)
    for make in figures:
        for figure in make(job):
            line(*figure)
    for figure in assess_figures(job, file):
        line(*figure)
    for figure in (*screen_figures(), *what_if_figures(), *phone_figures()):
        line(*figure)
    server_figures()
    for figure in (*many_jobs_figures(1000), *many_jobs_figures(5000), *long_record_figures()):
        line(*figure)
    script_figures()
    if "--keep" in sys.argv:
        keep(load)


if __name__ == "__main__":
    main()
