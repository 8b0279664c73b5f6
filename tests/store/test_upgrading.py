"""A database of every version ever written opens with all that it held."""

from __future__ import annotations

import json
import shutil
import sqlite3
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest

from rugged_shield.core.errors import InputError
from rugged_shield.core.event import OnPlate
from rugged_shield.core.job.upgrade import VERSION
from rugged_shield.core.keep.events import CounterRead, FoundTorque
from rugged_shield.core.tighten.events import StepDone, TakenBack
from rugged_shield.formats.jobfile import read_job_file, write_job_file
from rugged_shield.store.care import check
from rugged_shield.store.database import FILE_NAME, HEAD, Database, StoreTroubleError
from rugged_shield.store.repository import (
    add_job,
    job_ids,
    load_job,
    standing,
    step_back,
    step_forward,
)
from rugged_shield.store.shelf import shelf
from rugged_shield.store.worklist import job_heads

STORED = Path(__file__).parents[1] / "data/stored"
JOBS = ("choosing", "kit-open", "half-fitted", "in-service")
ENDED = {"km": "counter", "found": "found torque"}


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    """A database of version 1: four jobs with counts, shelved things, undone lines."""
    shutil.copy(STORED / "version_1.sqlite3", tmp_path / FILE_NAME)
    return tmp_path


@pytest.fixture
def opened(folder: Path) -> Iterator[Database]:
    db = Database(folder)
    db.migrate()
    yield db
    db.close()


@pytest.fixture(scope="module")
def wrote() -> dict[str, Any]:
    """What version 1 itself said of that database: exports, headings, rows of the record."""
    said: dict[str, Any] = json.loads((STORED / "version_1.json").read_text())
    return said


SINCE: dict[str, dict[str, Any]] = {
    "bike": {
        "front_travel_mm": None,
        "rake_deg": None,
        "front_mudguard_mm": None,
        "steering_lock_deg": None,
        "has_upper_bars": False,
        "tools": [],
        "neighbours": [],
    },
    "plate": {"mass_ratio": 1.0, "trims": [], "orientation": "", "through_first": ""},
    "needs": {"upper_bars": False},
    "joint": {
        "second_drive": "",
        "nut_class": "",
        "room_mm": None,
        "room_deep_mm": None,
        "special_tool": "",
        "proposed": False,
        "held_loose": False,
        "beyond": [],
        "passes": "",
        "passes_gap_mm": None,
        "floats": False,
        "hole_set": "",
        "known": "printed",
        "female_known": "printed",
        "joins": "",
        "stud": {
            "seat": "screwed in",
            "seated_mm": None,
            "thread_mm": None,
            "treatment": "dry zinc",
        },
        "seen": {
            "right_mm": None,
            "forward_mm": None,
            "off_u_mm": 0.3,
            "seen_by": "rule",
            "gap_mm": None,
            "gap_u_mm": 0.3,
            "slot_half_travel_mm": 0.0,
            "slot_angle_deg": 0.0,
            "bracket": "",
            "bracket_half_travel_mm": 0.0,
            "bracket_angle_deg": 0.0,
            "bracket_loose": False,
            "nut_gives_mm": 0.0,
        },
    },
    "layer": {"runs_deg": None, "piece": "", "known": "printed"},
    "line": {
        "bag": "",
        "part_number": "",
        "came": "loose",
        "outer_mm": None,
        "hole_mm": None,
    },
    "job": {"faults": [], "customer": ""},
    "item": {"turn": None, "why": ""},
    "candidate": {
        "sheet": {"revision": "", "date": "", "pages": []},
        "substitutes": [],
        "order": [],
        "starts": [],
        "dry_fit": False,
        "hole_set": "",
        "gaps": [],
        "changes": [],
    },
    "piece": {
        "orientation": "",
        "through_first": "",
        "material": "as the plate",
        **{f"{edge}_bend_mm": None for edge in ("front", "rear", "left", "right")},
        **{f"{edge}_bend_angle_deg": 90.0 for edge in ("front", "rear", "left", "right")},
    },
    "added": {"since": ""},
    "use": {"boot_toe_mm": None, "glove_finger_mm": None, "garage_c": None},
}
"""Facts that came later, with the default that nobody entered: older forms stay valid."""


def without_later(job: dict[str, Any]) -> None:
    """Takes out of an export what was no fact yet; each has its default."""
    of = [("job", job), ("bike", job["bike"]), ("use", job["use"])]
    of += [("item", item) for item in job["strip"]]
    of += [("added", added) for added in job["bike"]["added"]]
    for candidate in (job["stock"], *job["candidates"]):
        of += [("plate", candidate["plate"]), ("needs", candidate["plate"]["needs"])]
        of += [("joint", joint) for joint in candidate["joints"]]
        of += [("layer", layer) for joint in candidate["joints"] for layer in joint["layers"]]
        of += [("line", line) for line in candidate["kit"]]
        of += [("candidate", candidate)]
        of += [("piece", piece) for piece in candidate["plate"]["pieces"]]
    for kind, thing in of:
        for name, default in SINCE[kind].items():
            assert thing.pop(name) == default, (kind, name)


def facts_of(export: Any) -> Any:
    """The job of an export without what changed its form."""
    return {name: value for name, value in export["job"].items() if name != "counts"}


def test_every_line_of_the_record_is_there(opened: Database, wrote: dict[str, Any]) -> None:
    with sqlite3.connect(opened.path) as raw:
        rows = raw.execute("SELECT job_id, seq, kind, at, voided, payload FROM event").fetchall()
    raw.close()
    now = {(job, seq): (kind, at, voided, json.loads(p)) for job, seq, kind, at, voided, p in rows}
    assert len(now) == len(wrote["record"]) == 60
    for line in wrote["record"]:
        kind, at, voided, payload = now[line["job_id"], line["seq"]]
        assert (kind, at) == (ENDED.get(line["kind"], line["kind"]), line["at"])
        assert bool(voided) == bool(line["voided"])
        for name in ("joint", "step", "torque_nm", "km", "ref", "reason"):
            if line[name] not in ("", None):
                assert payload[name] == line[name]
        assert payload.get("overridden", False) == bool(line["overridden"])


def test_lines_that_were_undone_stay_out_of_the_record(opened: Database) -> None:
    half, kept = load_job(opened, "half-fitted").records, load_job(opened, "in-service").records
    assert [e.seq for e in half] == [*range(1, 15), *range(16, 21)]
    assert isinstance(half[17 - 1], TakenBack)
    assert (half[16].ref, half[16].torque_nm, half[16].reason) == (17, 20.0, "wrench slipped")
    assert isinstance(half[0], StepDone)
    assert half[0].step == "prepare"
    assert isinstance(kept[-1], CounterRead)
    assert kept[-1].km == 42260.0
    assert sum(isinstance(e, FoundTorque) for e in kept) == 8


@pytest.mark.parametrize("job", JOBS)
def test_exports_differ_in_version_counts_and_record_only(
    opened: Database, wrote: dict[str, Any], job: str
) -> None:
    old, row = wrote["exports"][job], load_job(opened, job)
    new = json.loads(write_job_file(row.job, row.records))
    assert (old["version"], new["version"]) == (1, VERSION)
    without_later(new["job"])
    # What was from a sheet is printed; nothing else of what was entered is known otherwise.
    today = json.dumps(facts_of(new)).replace('"known": "printed"', '"known": "from sheet"')
    assert today == json.dumps(facts_of(old))
    # Reading the old file gives what reading the old database gives.
    read = read_job_file(json.dumps(old).encode())
    assert (read.job, read.records) == (row.job, row.records)


@pytest.mark.parametrize("job", JOBS)
def test_counts_are_those_of_before(opened: Database, wrote: dict[str, Any], job: str) -> None:
    old = {c["key"]: c["counted"] for c in wrote["exports"][job]["job"]["counts"]}
    new = load_job(opened, job).job.counts
    assert {f"{c.plate}-{c.line}": c.counted for c in new} == old


@pytest.mark.parametrize("job", JOBS)
def test_words_undo_and_redo_are_those_of_before(
    opened: Database, wrote: dict[str, Any], job: str
) -> None:
    old, now = wrote["frames"][job], standing(opened, job)
    assert now.row.version == old["version"]
    assert now.row.job.title == old["title"]
    assert now.last_act == old["last_act"]
    assert (now.history.undo, now.history.redo) == (old["undo"], old["redo"])


def test_undo_walks_back_over_edits_of_the_old_form_and_redo_forward(opened: Database) -> None:
    for job in JOBS:
        there = standing(opened, job)
        turns = 0
        while (now := standing(opened, job)).history.undo:
            step_back(opened, job, now.row.version, f"back-{job}-{turns:04d}")
            turns += 1
        while (now := standing(opened, job)).history.redo:
            step_forward(opened, job, now.row.version, f"forth-{job}-{turns:04d}")
            turns += 1
        # Redo goes beyond where it stood by what had been undone already.
        while standing(opened, job).history.redo != there.history.redo:
            now = standing(opened, job)
            step_back(opened, job, now.row.version, f"again-{job}-{turns:04d}")
            turns += 1
        assert load_job(opened, job).job == there.row.job
        assert load_job(opened, job).records == there.row.records


def test_the_shelf_comes_along(opened: Database) -> None:
    assert {item.kind for item in shelf(opened)} == {"bike", "plate"}


def test_a_copy_of_the_old_form_stays_beside_it(opened: Database) -> None:
    with sqlite3.connect(opened.path.with_name(f"{FILE_NAME}.before-{HEAD}")) as raw:
        assert raw.execute("SELECT count(*) FROM record").fetchone() == (60,)
    raw.close()


def test_an_unknown_stored_field_fails_with_its_place(folder: Path) -> None:
    """Nothing is dropped without a word, and nothing of the old data is touched."""
    with sqlite3.connect(folder / FILE_NAME) as raw:
        facts = json.loads(raw.execute("SELECT facts FROM job WHERE id = 'choosing'").fetchone()[0])
        facts["bike"]["parts"][0]["colour"] = "red"
        raw.execute("UPDATE job SET facts = ? WHERE id = 'choosing'", (json.dumps(facts),))
    raw.close()
    db = Database(folder)
    db.migrate()
    with pytest.raises(InputError) as caught:
        load_job(db, "choosing")
    assert caught.value.field == "job.bike.parts.0.colour"
    assert load_job(db, "kit-open").job.candidates
    db.close()


def test_a_stored_line_with_more_than_its_kind_fails_with_its_place(folder: Path) -> None:
    with sqlite3.connect(folder / FILE_NAME) as raw:
        raw.execute("UPDATE record SET km = 5 WHERE job_id = 'half-fitted' AND seq = 13")
    raw.close()
    db = Database(folder)
    with pytest.raises(InputError, match="reading"):
        db.migrate()
    db.close()


def test_stored_facts_of_a_newer_version_are_left_alone(opened: Database) -> None:
    with sqlite3.connect(opened.path) as raw:
        raw.execute("UPDATE job SET facts_version = ? WHERE id = 'choosing'", (VERSION + 1,))
    raw.close()
    with pytest.raises(StoreTroubleError, match="newer version"):
        Database(opened.folder).migrate()
    assert any("newer" in problem for problem in check(opened.folder))


def test_todays_database_was_written_by_todays_code(tmp_path: Path) -> None:
    """One database of each version is kept: the newest, too, and opens without an upgrade."""
    shutil.copy(STORED / f"version_{VERSION}.sqlite3", tmp_path / FILE_NAME)
    db = Database(tmp_path)
    assert db.revision() == HEAD
    db.migrate()
    assert list(tmp_path.glob("*.before-*")) == []
    rows = [load_job(db, i) for i in job_ids(db)]
    assert {row.id for row in rows} == set(JOBS)
    for row in rows:
        again = read_job_file(write_job_file(row.job, row.records).encode())
        add_job(db, f"{row.id}-2", again.job, again.records)
        assert load_job(db, f"{row.id}-2").job == row.job
    db.close()


def test_a_database_of_the_schema_before_comes_up_as_it_was(tmp_path: Path) -> None:
    """Schema 4 knew no work list of its own: every job stands on it."""
    shutil.copy(STORED / "version_2.sqlite3", tmp_path / FILE_NAME)
    db = Database(tmp_path)
    db.migrate()
    assert db.revision() == HEAD
    assert [(h.id, h.place, h.shown_of) for h in job_heads(db)] == [
        (i, "", "") for i in job_ids(db)
    ]
    assert set(job_ids(db)) == set(JOBS)
    db.close()
    assert check(tmp_path) == []


def test_work_that_named_no_plate_is_of_the_picked_one(tmp_path: Path) -> None:
    shutil.copy(STORED / "schema_0005.sqlite3", tmp_path / FILE_NAME)
    db = Database(tmp_path)
    db.migrate()
    row = load_job(db, "half-fitted")
    work = [e for e in row.records if isinstance(e, OnPlate)]
    assert {e.plate for e in work} == {row.job.picked}
    db.close()


def test_a_stored_job_of_every_version_is_kept() -> None:
    for version in range(1, VERSION + 1):
        assert (STORED / f"version_{version}.sqlite3").exists()
