"""Figures of much: thousands of jobs in the list, and one record of twenty thousand lines."""

from __future__ import annotations

import tempfile
import time
from collections.abc import Callable, Iterator
from dataclasses import replace
from itertools import islice
from pathlib import Path
from typing import Any

from rugged_shield.core.event import Happened
from rugged_shield.core.keep import Ridden
from rugged_shield.formats.jobfile import JobFile, read_job_file
from rugged_shield.store import Database, add_job
from rugged_shield.web import create_app

ROOT = Path(__file__).parents[1]
DEMO = ROOT / "src/rugged_shield/demo/in_service.json"
LINES = 20_000
YEARS = 10

Figure = tuple[str, str, str]


def _ms(work: Callable[[], Any], often: int = 1) -> list[float]:
    """How long it takes, each time, in order from the shortest, ms."""
    times = []
    for _ in range(often):
        began = time.perf_counter()
        work()
        times.append(1000.0 * (time.perf_counter() - began))
    return sorted(times)


def many_jobs_figures(jobs: int) -> Iterator[Figure]:
    """The work list of so many jobs with records of ten years each."""
    file = read_job_file(DEMO.read_bytes())
    year = [e for e in file.records if not hasattr(e, "ref")]
    record = tuple(replace(e, seq=i + 1) for i, e in enumerate(year * YEARS))
    with tempfile.TemporaryDirectory() as folder:
        db = Database(Path(folder))
        db.migrate()
        for i in range(jobs):
            add_job(db, f"job-{i:04d}", replace(file.job, title=f"Job {i}"), record)
        client = create_app(Path(folder)).test_client()
        while client.get("/api/jobs").get_json()["pending"]:
            pass
        again = create_app(Path(folder)).test_client()
        first = _ms(lambda: again.get("/api/jobs"))[0]
        warm = _ms(lambda: again.get("/api/jobs"), 19)[9]
        what = f"{jobs:,}".replace(",", " ") + " jobs"
        yield f"{what}, the list after a start", f"{first:.0f} ms", "300 ms of 1 000"
        yield f"{what}, the list warm", f"{warm:.0f} ms", "100 ms of 1 000"


def _long(file: JobFile) -> tuple[Happened, ...]:
    """The record of the file with rides added until it has so many lines."""
    last = file.records[-1]
    rides = (
        Ridden(seq=last.seq + i, at=last.at, by=last.by, km=1.0, hours=0.1) for i in range(1, LINES)
    )
    return (*file.records, *islice(rides, LINES - len(file.records)))


def long_record_figures() -> Iterator[Figure]:
    """A frame, writes and the sheet to hand over of a job with twenty thousand lines."""
    file = read_job_file(DEMO.read_bytes())
    with tempfile.TemporaryDirectory() as folder:
        db = Database(Path(folder))
        db.migrate()
        add_job(db, "long", file.job, _long(file))  # type: ignore[arg-type]
        client = create_app(Path(folder)).test_client()
        at = "/api/jobs/long"
        version = client.get(at).get_json()["version"]

        def note() -> None:
            nonlocal version
            body = {"version": version, "key": f"bench-{version:08d}", "text": "seen"}
            version = client.post(f"{at}/keep/note", json=body).get_json()["version"]

        yield "frame at 20 000 lines", f"{_ms(lambda: client.get(at), 9)[4]:.0f} ms", "300 ms"
        notes = _ms(note, 10)
        yield "a write at 20 000 lines", f"{notes[5]:.0f} / {notes[-1]:.0f} ms", "150 ms"
        sheet = _ms(lambda: client.get(f"{at}/keep/sheet.pdf"))[0] / 1000.0
        yield "hand-over PDF at 20 000 lines", f"{sheet:.1f} s", "3 s"
