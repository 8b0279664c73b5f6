"""How long a whole judgement takes, and what every edit waits for."""

from __future__ import annotations

import subprocess
import sys
import time
from collections.abc import Iterator
from pathlib import Path

from rugged_shield.core.assess.frame.ledger import ledger
from rugged_shield.core.assess.frame.stations import station_states
from rugged_shield.core.job.edits.path import set_text
from rugged_shield.core.job.model import Job

EDITS = 40


def _edits_ms(job: Job) -> list[float]:
    """What an edit of the plate's thickness takes to mark every station and the ledger, sorted."""
    path = f"candidates.{job.in_hand.key}.plate.thickness_mm"
    station_states(job, ())
    times = []
    for i in range(EDITS):
        began = time.perf_counter()
        job = set_text(job, path, f"{3 + 0.1 * (i % 7) + 0.013 * i:.3f}").job
        station_states(job, ())
        ledger(job)
        times.append(1000 * (time.perf_counter() - began))
    return sorted(times)


def _command_s(file: Path, *options: str) -> float:
    """Best of two of ``shield assess`` as a command of its own, s."""
    command = [sys.executable, "-m", "rugged_shield.cli", "assess", *options, str(file)]
    best = float("inf")
    for _ in range(2):
        began = time.perf_counter()
        subprocess.run(command, check=True, stdout=subprocess.DEVNULL)
        best = min(best, time.perf_counter() - began)
    return best


def assess_figures(job: Job, file: Path) -> Iterator[tuple[str, str, str]]:
    """A frame after an edit, and the two judgements of the command line, from cold."""
    times = _edits_ms(job)
    middle, late = times[len(times) // 2], times[int(0.95 * len(times))]
    yield "stations and ledger after an edit, p50 / p95", f"{middle:.0f} / {late:.0f} ms", "p95 150"
    yield "shield assess --quick, cold", f"{_command_s(file, '--quick'):.1f} s", "aim 2 s"
    yield "shield assess, cold", f"{_command_s(file):.1f} s", "aim 12 s"
