"""Figures of the weighing up: rows and maps of nine plates, and what others wait meanwhile."""

from __future__ import annotations

import json
import time
import urllib.request
from collections.abc import Callable
from dataclasses import replace
from typing import Any

import numpy as np

from rugged_shield.core.assess.weighup.ranking import choice_of
from rugged_shield.core.assess.weighup.scorecard import weigh
from rugged_shield.core.assess.weighup.strike import strike_asked, strike_figures
from rugged_shield.core.job.model import Job
from rugged_shield.core.weighup.strike_point import StrikePointInput, strike_point

FOLLOW = """
const [value, done] = arguments;
const field = [...document.querySelectorAll("label")].find(l => l.textContent === "thickness");
const input = document.getElementById(field.htmlFor);
const cell = () => document.querySelector("[data-row='mass'] td:nth-of-type(2)").textContent;
const before = cell();
const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value").set;
const began = performance.now();
set.call(input, String(value));
input.dispatchEvent(new Event("input", {bubbles: true}));
const look = () => cell() === before && performance.now() - began < 5000
  ? requestAnimationFrame(look) : done(performance.now() - began);
requestAnimationFrame(look);
"""


def _never_seen(job: Job, by: float) -> Job:
    """The job with every plate moved a hair, so that nothing of it is remembered."""
    moved = tuple(
        replace(
            c,
            plate=replace(
                c.plate, belly=replace(c.plate.belly, start_x_mm=c.plate.belly.start_x_mm + by)
            ),
        )
        for c in job.candidates
    )
    return replace(job, candidates=moved)


def weighup_figures(job: Job) -> list[tuple[str, str, str]]:
    """Rows and maps of nine plates in this process, cold and warm."""
    keys = [job.stock.key, *(c.key for c in job.candidates)]
    for key in keys:
        weigh(job, key)  # libraries are loaded now
    best = float("inf")
    for i in range(3):
        fresh = _never_seen(job, 0.1 * (i + 1))
        began = time.perf_counter()
        for key in keys:
            weigh(fresh, key)
        best = min(best, time.perf_counter() - began)
    began = time.perf_counter()
    choice_of(fresh)
    ranked = time.perf_counter() - began
    fresh = _never_seen(job, 0.7)
    began = time.perf_counter()
    for key in keys:
        strike_figures(fresh, key)
    cold = time.perf_counter() - began
    began = time.perf_counter()
    for key in keys:
        strike_figures(fresh, key)
    warm = time.perf_counter() - began
    asked = strike_asked(job, job.candidates[0].key)
    strike_point(StrikePointInput(asked, 650.0, 0.0))
    began = time.perf_counter()
    strike_point(StrikePointInput(asked, 700.0, 20.0))
    point = time.perf_counter() - began
    return [
        (f"quick rows of {len(keys)} plates, cold", f"{best:.2f} s", "aim 1 s"),
        (f"ranking of {len(keys)} plates with what they hold, cold", f"{ranked:.1f} s", ""),
        (f"strike maps of {len(keys)} plates, cold", f"{cold:.1f} s", "aim 10 s"),
        (f"strike maps of {len(keys)} plates, warm", f"{warm:.2f} s", "aim 0.3 s"),
        ("one struck place in full", f"{point:.2f} s", ""),
    ]


def _post(url: str, body: dict[str, Any]) -> Any:
    request = urllib.request.Request(
        url,
        method="POST",
        data=json.dumps(body).encode(),
        headers={"Content-Type": "application/json"},
    )
    with urllib.request.urlopen(request, timeout=60) as answer:
        return json.load(answer)


ASKED = ("", "/kit", "/fit-up", "/tighten", "/keep", "/weigh-up")


def busy_figures(
    base: str, get: Callable[[str], Any], memory_mb: Callable[[], tuple[float, float]]
) -> list[tuple[str, str, str]]:
    """What other requests wait while every plate of every job is struck beside the server."""
    jobs = [job["id"] for job in get(f"{base}/api/jobs")["jobs"]]
    asked = [f"{base}/api/jobs/{job}{path}" for job in jobs for path in ASKED]
    for path in asked:
        get(path)
    began = time.perf_counter()
    runs = {
        f"{base}/api/jobs/{job}/runs/"
        + _post(f"{base}/api/jobs/{job}/weigh-up/strike/all", {"energy": "61"})["token"]
        for job in jobs
    }
    waits, most = [], (0.0, 0.0)
    while runs:
        for path in asked:
            start = time.perf_counter()
            get(path)
            waits.append(time.perf_counter() - start)
        most = tuple(map(max, most, memory_mb()))  # type: ignore[assignment]
        runs = {run for run in runs if get(run)["state"] == "running"}
        time.sleep(0.05)
    took = time.perf_counter() - began
    p50, p95 = np.percentile(np.array(waits) * 1000, [50, 95])
    return [
        ("all maps of four jobs, others asking meanwhile", f"{took:.1f} s", ""),
        ("their requests meanwhile, p50 / p95", f"{p50:.0f} / {p95:.0f} ms", "aim p95 60 ms"),
        ("server memory meanwhile, at most", f"{most[0]:.0f} MB", "aim 300 MB"),
        ("memory of the process beside it, at most", f"{most[1]:.0f} MB", ""),
    ]


def what_if_figures() -> list[tuple[str, str, str]]:
    """From a key in the what-if to the changed row in the browser, 50 thicknesses."""
    from driven import driven_page  # late: the other figures need no browser

    times = []
    with driven_page() as page:
        page.size(1280, 800)
        page.open("/jobs/choosing/weigh-up/what-if")
        page.see("Keep as a candidate")
        page.css("section[aria-label='Before and after'] + aside svg")
        for i in range(50):
            script = page.driver.execute_async_script
            times.append(float(script(FOLLOW, f"{5.1 + 0.05 * i:.2f}")))
            time.sleep(0.15)
    p50, p95 = np.percentile(np.array(times[3:]), [50, 95])
    words = f"{p50:.0f} / {p95:.0f} ms"
    return [("what-if key to changed row, p50 / p95", words, "aim p95 250 ms")]
