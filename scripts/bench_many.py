"""Figures of much: thousands of jobs in the list, and one record of twenty thousand lines."""

from __future__ import annotations

import sqlite3
import tempfile
import time
from collections.abc import Callable, Iterator
from contextlib import closing
from dataclasses import replace
from itertools import islice
from pathlib import Path
from typing import Any

from rugged_shield.core.event import Happened
from rugged_shield.core.keep.events import Ridden
from rugged_shield.formats.jobfile import JobFile, read_job_file
from rugged_shield.store.database import FILE_NAME, Database
from rugged_shield.store.repository import add_job
from rugged_shield.web.app import create_app

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


def _copied(folder: Path, jobs: int) -> None:
    """The one job of a data folder so many times, each with its record and what is shown of it."""
    numbers = f"WITH RECURSIVE n(i) AS (SELECT 2 UNION ALL SELECT i + 1 FROM n WHERE i < {jobs}) "
    with closing(sqlite3.connect(folder / FILE_NAME)) as db, db:
        columns = [row[1] for row in db.execute("PRAGMA table_info(job)")]
        shown = "replace(replace(shown, '\"job-1\"', '\"job-' || i || '\"'), 'Job 1', 'Job ' || i)"
        own = {"id": "'job-' || i", "title": "'Job ' || i", "shown": shown}
        taken = ", ".join(own.get(c, c) for c in columns)
        db.execute(f"{numbers}INSERT INTO job ({', '.join(columns)}) SELECT {taken} FROM n, job")
        columns = [row[1] for row in db.execute("PRAGMA table_info(event)") if row[1] != "id"]
        taken = ", ".join("'job-' || i" if c == "job_id" else c for c in columns)
        into = f"INSERT INTO event ({', '.join(columns)})"
        db.execute(f"{numbers}{into} SELECT {taken} FROM n, event")


def many_jobs_figures(jobs: int) -> Iterator[Figure]:
    """The work list of so many jobs with records of ten years each."""
    file = read_job_file(DEMO.read_bytes())
    year = [e for e in file.records if not hasattr(e, "ref")]
    record = tuple(replace(e, seq=i + 1) for i, e in enumerate(year * YEARS))
    with tempfile.TemporaryDirectory() as folder:
        db = Database(Path(folder))
        db.migrate()
        add_job(db, "job-1", replace(file.job, title="Job 1"), record)
        create_app(Path(folder)).test_client().get("/api/jobs")
        _copied(Path(folder), jobs)
        again = create_app(Path(folder)).test_client()
        first = _ms(lambda: again.get("/api/jobs"))[0]
        warm = _ms(lambda: again.get("/api/jobs"), 19)[9]
        listed = again.get("/api/jobs").get_json()
        assert (len(listed["jobs"]), listed["pending"]) == (jobs, 0)
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
