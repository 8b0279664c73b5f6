"""What goes out comes in, and what comes in goes out again: files, calendars, tables."""

from __future__ import annotations

import io
import json
import random
import stat
from importlib.resources import files
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from PIL import Image

from rugged_shield.core.errors import InputError
from rugged_shield.core.event import MAX_RECORD
from rugged_shield.core.job.model import MAX_PLATES
from rugged_shield.formats.bundle import MAX_BUNDLE_BYTES, read_brought, write_bundle
from rugged_shield.formats.jobfile import MAX_BYTES, read_job_file, write_job_file
from rugged_shield.formats.kitlist import safe_cell
from rugged_shield.formats.photos import (
    LARGEST_KEPT,
    MAX_PHOTOS,
    clean_photo,
    photos_zip,
    read_photos_zip,
)
from rugged_shield.store import repository
from rugged_shield.store.database import Database
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


def noise(seed: int) -> bytes:
    """The picture that packs worst."""
    pixels = np.random.default_rng(seed).integers(0, 256, (1600, 1600, 3), dtype=np.uint8)
    out = io.BytesIO()
    Image.fromarray(pixels).save(out, "JPEG", quality=95)
    return out.getvalue()


def test_sixty_of_the_largest_photos_come_home() -> None:
    """74 MB went out, of which the way in took 60; each is kept within what all may have."""
    kept = clean_photo(noise(1))
    assert len(kept) <= LARGEST_KEPT
    text = (files("rugged_shield.demo") / "half_fitted.json").read_text()
    whole = write_bundle(text, {f"{i:020x}": b"\0" * LARGEST_KEPT for i in range(MAX_PHOTOS)})
    assert len(whole) <= MAX_BUNDLE_BYTES
    few = {f"{i:020x}": kept for i in range(2)}
    _, back = read_brought(write_bundle(text, few))
    assert all(len(jpeg) <= LARGEST_KEPT for jpeg in back.values())
    assert set(back) == set(few)


def test_photos_that_were_kept_larger_once_come_home_too() -> None:
    """A database from before may hold sixty of 1.3 MB: 78 MB, more than the way in takes."""
    old, text = noise(2), (files("rugged_shield.demo") / "half_fitted.json").read_text()
    assert len(old) > LARGEST_KEPT
    two = {f"{i:020x}": old for i in range(2)}
    assert len(write_bundle(text, two)) < len(text.encode()) + 2 * (LARGEST_KEPT + 1000)
    _, back = read_brought(write_bundle(text, two))
    assert set(back) == set(two) == set(read_photos_zip(photos_zip(two)))


def test_the_longest_record_comes_home_and_grows_no_longer(
    client: Client, monkeypatch: pytest.MonkeyPatch
) -> None:
    file = demo("in_service")
    ridden = next(r for r in file["records"] if r["kind"] == "ridden")
    last = file["records"][-1]
    more = range(last["seq"] + 1, last["seq"] + 1 + MAX_RECORD - len(file["records"]))
    file["records"] += [{**ridden, "seq": seq, "at": last["at"]} for seq in more]
    text = json.dumps(file, indent=1).encode()
    assert len(text) < MAX_BYTES
    read = read_job_file(text)
    assert len(read.records) == MAX_RECORD
    file["records"].append({**ridden, "seq": more[-1] + 1, "at": last["at"]})
    with pytest.raises(InputError, match="at most 50000"):
        read_job_file(json.dumps(file).encode())
    monkeypatch.setattr(repository, "MAX_RECORD", 3)
    version = client.get("/in-service")["version"]
    told = {"version": version, "key": "one-too-many", "text": "seen"}
    answer = client.flask.post("/api/jobs/in-service/keep/note", json=told)
    assert answer.status_code == 422
    assert "record is full" in answer.get_json()["error"]["message"]


def damaged(whole: bytes, rng: random.Random, way: int) -> bytes:
    """Bytes changed anywhere, in the directory at its end, or cut off."""
    data = bytearray(whole)
    if way == 0:
        return bytes(data[: rng.randrange(len(data))])
    reach = len(data) if way == 1 else 420
    for _ in range(rng.randint(1, 4)):
        data[len(data) - rng.randint(1, reach)] = rng.randrange(256)
    return bytes(data)


def test_a_damaged_zip_is_refused_in_words_or_read() -> None:
    """Two of a hundred broke on an offset before the file's beginning."""
    rng, small = random.Random(11), io.BytesIO()
    Image.effect_noise((40, 30), 80).convert("RGB").save(small, "JPEG")
    jpeg = clean_photo(small.getvalue())
    text = (files("rugged_shield.demo") / "half_fitted.json").read_text()
    whole = write_bundle(text, {f"{i:020x}": jpeg for i in range(3)})
    photos = photos_zip({f"{i:020x}": jpeg for i in range(3)})
    refused = 0
    for i in range(600):
        for reader, data in ((read_brought, whole), (read_photos_zip, photos)):
            try:
                reader(damaged(data, rng, i % 3))
            except InputError:
                refused += 1
    assert refused > 400
