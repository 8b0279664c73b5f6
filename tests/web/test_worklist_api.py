"""The work list: what it shows is kept, one bad job hides no other, and jobs can be put away."""

from __future__ import annotations

import sqlite3
import threading
from pathlib import Path
from typing import Any

import pytest
from sqlalchemy import event

from rugged_shield.demo.jobs import DEMO_JOBS
from rugged_shield.store.database import FILE_NAME
from rugged_shield.web import worklist
from tests.conftest import Client


@pytest.fixture(autouse=True)
def unhurried(monkeypatch: pytest.MonkeyPatch) -> None:
    """One look works out every job, however slow the machine is; a test may say otherwise."""
    monkeypatch.setattr(worklist, "BUDGET_S", 60.0)


def listed(client: Client) -> dict[str, Any]:
    return {j["id"]: j for j in client.get("")["jobs"]}


def test_what_is_shown_is_kept_until_the_job_changes(
    client: Client, monkeypatch: pytest.MonkeyPatch
) -> None:
    first = listed(client)
    read: list[str] = []
    real = worklist.load_job
    monkeypatch.setattr(worklist, "load_job", lambda db, i: read.append(i) or real(db, i))
    assert listed(client) == first
    assert read == []
    client.field("choosing", "title", "Another name")
    assert listed(client)["choosing"]["title"] == "Another name"
    assert read == ["choosing"]
    monkeypatch.setattr(worklist, "FORM", worklist.FORM + 1)
    listed(client)
    assert sorted(read) == sorted([*first, "choosing"]), "rules that changed judge all anew"


def test_a_long_list_is_worked_out_in_pieces(
    client: Client, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(worklist, "BUDGET_S", 0.0)
    several = len(DEMO_JOBS)
    seen = [client.get("")["pending"] for _ in range(several + 1)]
    assert seen == [*range(several - 1, -1, -1), 0]
    pending = [j for j in client.get("")["jobs"] if j["pending"]]
    assert pending == []


def test_a_full_disk_does_not_hide_the_list(client: Client) -> None:
    """What is shown cannot be kept then: it is shown all the same."""
    engine = client.flask.application.extensions["rugged_shield_db"].engine
    engine.dispose()
    event.listen(engine, "connect", lambda c, _record: c.execute("PRAGMA query_only=ON"))
    assert len(listed(client)) == len(DEMO_JOBS)
    assert client.get("")["pending"] == 0


def test_one_unreadable_job_hides_no_other(client: Client, app_folder: Path) -> None:
    before = listed(client)
    with sqlite3.connect(app_folder / FILE_NAME) as raw:
        raw.execute(
            "UPDATE job SET facts = json_set(facts, '$.bike.wheelbase_mm', -4), shown = NULL "
            "WHERE id = 'choosing'"
        )
    raw.close()
    after = listed(client)
    assert "wheelbase_mm" in after["choosing"]["trouble"]
    assert {k: v for k, v in after.items() if k != "choosing"} == {
        k: v for k, v in before.items() if k != "choosing"
    }
    stored = client.flask.get("/api/jobs/choosing/raw")
    assert stored.status_code == 200
    assert stored.get_json(force=True)["facts"]["bike"]["wheelbase_mm"] == -4
    client.get("/half-fitted")


def test_put_away_binned_taken_back_and_gone(client: Client) -> None:
    client.post("/choosing/place", 422, place="loft")
    for place in ("archived", "bin", ""):
        client.post("/choosing/place", place=place)
        assert listed(client)["choosing"]["place"] == place
    client.post("/choosing/forget", 422, version=1)
    client.post("/choosing/place", place="bin")
    client.post("/choosing/forget")
    assert "choosing" not in listed(client)
    again = client.flask.post("/api/jobs/choosing/place", json={"place": ""})
    assert again.status_code == 404
    assert len(listed(client)) == len(DEMO_JOBS) - 1


def test_a_copy_has_the_facts_and_an_empty_record(client: Client) -> None:
    own = client.post("/half-fitted/copy")
    assert own["title"].endswith("(copy)")
    there = client.flask.get(f"/api/jobs/{own['id']}/file").get_json(force=True)
    was = client.flask.get("/api/jobs/half-fitted/file").get_json(force=True)
    assert there["records"] == []
    assert was["records"]
    assert {**there["job"], "title": ""} == {**was["job"], "title": ""}


def test_the_same_key_ten_times_at_once_answers_ten_times_the_same(client: Client) -> None:
    app = client.flask.application
    bike = {
        "title": "One of ten",
        "layout": "single",
        "name": "Brenn 440",
        "wheelbase": "1480 mm",
        "clearance": "300 mm",
        "front_tyre": "90/90-21",
        "rear_tyre": "140/80-18",
        "year": "2024",
        "key": "ten-times-the-same",
        "system": "metric",
    }
    edit = {
        "path": "title",
        "text": "Ten",
        "system": "metric",
        "version": 1,
        "key": "ten-times-an-edit",
    }
    answers: dict[str, set[tuple[int, bytes]]] = {"new": set(), "edit": set()}

    def ask(what: str) -> None:
        own = app.test_client()
        if what == "new":
            got = own.post("/api/new-job", json=bike)
        else:
            got = own.patch("/api/jobs/choosing/field", json=edit)
        answers[what].add((got.status_code, got.data))

    threads = [threading.Thread(target=ask, args=(w,)) for w in answers for _ in range(10)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    for what, seen in answers.items():
        assert len(seen) == 1, what
        assert next(iter(seen))[0] == 200, seen
    titles = [j["title"] for j in app.test_client().get("/api/jobs").get_json()["jobs"]]
    assert titles.count("One of ten") == 1
