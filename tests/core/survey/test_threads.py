"""Threads that ask about the same plate at once: all answer alike and the process lives."""

from __future__ import annotations

import subprocess
import sys
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from threading import Barrier

import pytest
from shapely import Geometry

from rugged_shield.core.job.model import Job
from rugged_shield.core.survey.geometry import fold

SCRIPT = """
import threading
from dataclasses import replace

from rugged_shield.core.survey.geometry import fold
from rugged_shield.core.survey.standoff import standoffs
from tests.conftest import demo_file

job = demo_file("choosing").job
parts = tuple(p for p in job.bike.parts if p.kind in ("vital", "neighbour"))
wrong = []
for turn in range(14):
    plates = [
        fold(replace(c.plate, belly=replace(
            c.plate.belly, start_x_mm=c.plate.belly.start_x_mm + 0.01 * (turn + 1))))
        for c in job.candidates[:4]
    ]
    together = threading.Barrier(6)
    seen = {}

    def work(number):
        together.wait()
        seen[number] = [standoffs(plate, parts) for plate in plates]

    threads = [threading.Thread(target=work, args=(n,)) for n in range(6)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    wrong += [n for n in range(6) if seen.get(n) != seen[0]]
print("alike" if not wrong else wrong)
"""


def test_six_threads_share_plates_without_harm() -> None:
    """In a process of its own: what it guards against ends the process."""
    done = subprocess.run(
        [sys.executable, "-X", "faulthandler", "-c", SCRIPT],
        capture_output=True,
        text=True,
        timeout=300,
        check=False,
        cwd=Path(__file__).parents[3],
    )
    assert done.returncode == 0, done.stderr[-2000:]
    assert done.stdout.strip() == "alike"


@pytest.mark.parametrize("stone_mm", [0.0, 20.0])
def test_every_thread_asks_an_outline_of_its_own(choosing: Job, stone_mm: float) -> None:
    """GEOS learns from a question and keeps it in the geometry: two threads must not share one."""
    panel = fold(choosing.candidate("alu5").plate).panels[0]
    together = Barrier(4)

    def asked(_: int) -> tuple[Geometry, Geometry]:
        together.wait(10)
        first, grown = panel.net_to_ask(stone_mm), panel.allowed()
        assert first is panel.net_to_ask(stone_mm), "the same one again in this thread"
        assert grown is panel.allowed()
        return first, grown

    with ThreadPoolExecutor(4) as pool:
        found = list(pool.map(asked, range(4)))
    for i in (0, 1):
        assert len({id(pair[i]) for pair in found}) == 4
        assert all(pair[i].equals_exact(found[0][i], 0.0) for pair in found)
    assert found[0][0].equals_exact(panel.net(stone_mm), 0.0)
