"""What goes out comes in, and what comes in goes out again: files, calendars, tables."""

from __future__ import annotations

import json
import stat
from importlib.resources import files
from pathlib import Path
from typing import Any

import pytest

from rugged_shield.core.errors import InputError
from rugged_shield.core.job import MAX_PLATES
from rugged_shield.formats.jobfile import read_job_file, write_job_file
from rugged_shield.formats.kitlist import safe_cell
from rugged_shield.store import Database
from rugged_shield.web.lan import NOT_THE_NETWORK, Lan
from tests.conftest import Client


def demo(name: str) -> dict[str, Any]:
    found: dict[str, Any] = json.loads((files("rugged_shield.demo") / f"{name}.json").read_text())
    return found


@pytest.mark.parametrize("end", ["\n", "\r\n", "\r", "\t", "\u2028", "\u2029", "\x85", "\x0b"])
def test_a_title_of_two_lines_comes_in_as_one(client: Client, end: str) -> None:
    """A line feed in a title used to break the job's calendar for good."""
    file = demo("in_service")
    file["job"]["title"] = f"Autumn{end}  forest"
    if end in "\x0b\x85":  # control characters are refused, by field and by file
        with pytest.raises(InputError, match="control character"):
            read_job_file(json.dumps(file).encode())
        return
    read = read_job_file(json.dumps(file).encode())
    assert read.job.title == "Autumn forest"
    again = read_job_file(write_job_file(read.job, read.records).encode())
    assert again == read


def test_forty_plates_by_file_as_by_screen() -> None:
    file = demo("choosing")
    own = file["job"]["candidates"][0]
    many = []
    for i in range(MAX_PLATES + 1):
        plate = {**own["plate"], "key": f"p{i}", "name": f"plate {i}"}
        many.append({**own, "plate": plate, "key": f"p{i}"} if "key" in own else
                    {**own, "plate": plate})  # fmt: skip
    file["job"] |= {"candidates": many[:MAX_PLATES], "weighing": "p0", "picked": ""}
    file["job"]["weighings"] = []
    file["records"] = []
    assert len(read_job_file(json.dumps(file).encode()).job.candidates) == MAX_PLATES
    file["job"]["candidates"] = many
    with pytest.raises(InputError, match="at most 40 plates"):
        read_job_file(json.dumps(file).encode())


FORMULAS = [
    "=1+1", "+1", "-1", "@a", " =1", "\u200b=1", "\ufeff=1", "\u00a0=1", "'=1", '"=1', "\u3000@x",
    "\uff1d1+1", "\uff0b1", "\uff0d1", "\uff20a", "\ufe661", " \u200b \uff1d1", "\t1", "\n=1",
]  # fmt: skip


@pytest.mark.parametrize("text", FORMULAS)
def test_no_cell_is_a_formula(text: str) -> None:
    assert safe_cell(text) == f"'{text}"


@pytest.mark.parametrize("text", ["", "M8 × 30", "a=b", "“=”", "5 − 3", "−9.2", "left-hand"])
def test_other_cells_stay(text: str) -> None:
    assert safe_cell(text) == text


def test_what_is_kept_is_its_owners_alone(tmp_path: Path) -> None:
    """Also a file that was made with wider rights, and the logs that SQLite lays beside it."""
    folder = tmp_path / "own"
    db = Database(folder)
    db.migrate()
    modes = {p.name: stat.S_IMODE(p.stat().st_mode) for p in (folder, *folder.iterdir())}
    db.close()
    assert modes.pop("own") == 0o700
    assert modes
    assert {mode & 0o077 for name, mode in modes.items() if "sqlite3" in name} == {0}
    db.path.chmod(0o644)
    Database(folder).close()
    assert stat.S_IMODE(db.path.stat().st_mode) == 0o600


def test_pages_ask_for_no_device(client: Client) -> None:
    said = client.flask.get("/").headers["Permissions-Policy"]
    assert {"camera=()", "microphone=()", "geolocation=()"} <= set(said.split(", "))


@pytest.mark.parametrize("host", NOT_THE_NETWORK)
def test_an_address_that_no_phone_can_reach_is_refused_in_words(host: str) -> None:
    with pytest.raises(InputError, match="no phone can reach"):
        Lan(lambda *_: [], host, 0)
