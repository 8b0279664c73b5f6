"""Undo and redo of every kind of edit, in words, record lines included."""

from __future__ import annotations

import random
import shutil
import sqlite3
from pathlib import Path
from typing import Any

import pytest

from rugged_shield.formats.jobfile import write_job_file
from rugged_shield.store.database import HEAD, Database
from rugged_shield.store.repository import load_job
from tests.conftest import Client

JOINT = "candidates.alu5.joints.{}.layers.spacer.thickness_mm"


def exported(client: Client) -> str:
    row = load_job(client.flask.application.extensions["rugged_shield_db"], "half-fitted")
    return write_job_file(row.job, row.records)


def mixed_edits(client: Client) -> list[str]:
    """Twenty edits of every kind the screens make; returns the export after each."""
    job = "half-fitted"
    seen = []

    def field(path: str, text: str) -> None:
        client.field(job, path, text)
        seen.append(exported(client))

    def post(path: str, **body: Any) -> None:
        client.post(f"/{job}{path}", **body)
        seen.append(exported(client))

    reading = {"system": "metric", "override": "", "text": "6.8"}
    field("bike.parts.sump.z_min_mm", "305")
    field("bike.mounts.m3.manual_torque_nm", "17")
    field("candidates.alu5.plate.thickness_mm", "6")
    field("title", "another name")
    post("/kit/count", line="k8", text="2")
    post("/kit/count", line="k1", text="")
    post(
        "/kit/lines",
        kind="washer",
        name="spare",
        thread="M8",
        length="",
        head="",
        grade="",
        count="4",
        system="metric",
    )
    field(JOINT.format("a1"), "13")
    field("candidates.alu5.joints.a3.layers.washer.left_out", "true")
    post(
        "/fit-up/joints/a3/layers",
        kind="shim",
        material="steel",
        thickness="0.5",
        after="",
        system="metric",
    )
    post(
        "/fit-up/joints",
        preset="clip nut",
        thread="M6",
        stage="front",
        x="500",
        y="0",
        system="metric",
    )
    field("wrench.extension_mm", "80")
    post("/tighten/reading", joint="a5", **reading)
    post("/tighten/step", step="sweep", done=True)
    post("/tighten/take-back", seq=13, reason="slipped")
    field("odometer_km", "18430")
    field("candidates.alu5.joints.a4.chosen_torque_nm", "16")
    field("candidates.alu5.joints.a4.chosen_reason", "careful")
    post("/weigh-up/pick", plate="", reason="")
    post("/weigh-up/pick", plate="hdpe10", reason="")
    return seen


def test_twenty_mixed_edits_undone_and_redone(client: Client) -> None:
    start = exported(client)
    seen = mixed_edits(client)
    assert len(seen) == 20
    assert len(set(seen)) == 20, "every edit changed the export"
    for expected in [*seen[-2::-1], start]:
        client.post("/half-fitted/undo")
        assert exported(client) == expected
    assert client.get("/half-fitted")["undo"] == ""
    assert "nothing to undo" in client.post("/half-fitted/undo", 422)["error"]["message"]
    for expected in seen:
        client.post("/half-fitted/redo")
        assert exported(client) == expected
    assert client.get("/half-fitted")["redo"] == ""
    client.post("/half-fitted/redo", 422)


def test_any_walk_of_undo_and_redo_ends_where_it_should(client: Client) -> None:
    states = [exported(client), *mixed_edits(client)]
    at, rng = 20, random.Random(3)
    for _ in range(60):
        if rng.random() < 0.5 and at > 0:
            client.post("/half-fitted/undo")
            at -= 1
        elif at < 20:
            client.post("/half-fitted/redo")
            at += 1
        assert exported(client) == states[at]


def test_undo_speaks_in_words_and_a_new_edit_ends_redo(client: Client) -> None:
    client.field("choosing", JOINT.format("a3"), "15")
    client.field("choosing", JOINT.format("a3"), "18")
    frame = client.get("/choosing")
    assert frame["undo"] == "joint 3, spacer: thickness from 15 mm to 18 mm"
    saved = client.post("/choosing/undo")
    assert saved["words"] == "undone: joint 3, spacer: thickness from 15 mm to 18 mm"
    assert saved["frame"]["redo"].endswith("to 18 mm")
    assert {line["key"] for line in saved["frame"]["ledger"] if line["moved_metric"]}
    client.field("choosing", JOINT.format("a3"), "20")
    frame = client.get("/choosing")
    assert frame["redo"] == ""
    client.post("/choosing/undo")
    assert client.get("/choosing")["undo"].endswith("to 15 mm")


def test_undo_survives_a_restart_and_is_versioned(client: Client, app_folder: Path) -> None:
    client.field("choosing", JOINT.format("a3"), "15")
    other = Database(app_folder)
    assert other.revision() == HEAD
    other.close()
    version = client.version("choosing")
    client.post("/choosing/undo", version=version)
    client.post("/choosing/undo", 409, version=version)
    again = client.post("/choosing/redo", key="one-redo-only")
    repeat = client.post("/choosing/redo", key="one-redo-only", version=again["version"])
    assert repeat["version"] == again["version"]


def test_an_undone_line_is_voided_and_never_deleted(client: Client, app_folder: Path) -> None:
    client.post("/half-fitted/tighten/step", step="half:a5", done=True)
    client.post("/half-fitted/undo")
    with sqlite3.connect(app_folder / "rugged-shield.sqlite3") as raw:
        rows = raw.execute("SELECT payload, voided FROM event ORDER BY id DESC LIMIT 1").fetchall()
    assert rows == [('{"by": "", "plate": "alu5", "step": "half:a5"}', 1)]
    client.post("/half-fitted/tighten/step", step="half:a6", done=True)
    records = load_job(
        client.flask.application.extensions["rugged_shield_db"], "half-fitted"
    ).records
    assert len({r.seq for r in records}) == len(records)


@pytest.fixture
def first_slice(tmp_path: Path) -> Path:
    """A database as the first slice left it, with a job, a record and two edits."""
    folder = tmp_path / "old"
    folder.mkdir()
    shutil.copy(
        Path(__file__).parents[1] / "data/stored/first_slice.sqlite3",
        folder / "rugged-shield.sqlite3",
    )
    return folder


def test_the_first_slices_database_comes_up(first_slice: Path) -> None:
    db = Database(first_slice)
    assert db.revision() == "0001"
    db.migrate()
    assert db.revision() == HEAD
    row = load_job(db, "half-fitted")
    assert row.version == 2
    assert row.records
    db.close()
