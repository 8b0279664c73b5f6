"""Job files come back as they went out; damaged ones are refused with the place."""

from __future__ import annotations

import csv
import io
import json
import re
import subprocess
import sys
from dataclasses import replace
from pathlib import Path
from typing import Any

import jsonschema
import pytest

from rugged_shield.core.assess.kit.buying import to_buy
from rugged_shield.core.assess.kit.lines import kit_check
from rugged_shield.core.errors import InputError
from rugged_shield.core.job.model import Job, KitCount
from rugged_shield.core.job.upgrade import VERSION
from rugged_shield.core.kit.hardware import KitLine
from rugged_shield.demo.jobs import DEMO_JOBS
from rugged_shield.formats.jobfile import (
    MAX_BYTES,
    JobFile,
    job_file_schema,
    read_job_file,
    write_job_file,
)
from rugged_shield.formats.kitlist import BUY_HEADER, HEADER, buy_csv, kit_csv
from tests.conftest import demo_file

ROOT = Path(__file__).parents[2]


@pytest.mark.parametrize("name", DEMO_JOBS)
def test_a_job_file_is_the_same_after_a_round_trip(name: str) -> None:
    file = demo_file(name)
    text = write_job_file(file.job, file.records)
    assert read_job_file(text.encode()) == file
    assert write_job_file(*_parts(read_job_file(text.encode()))) == text


def _parts(file: JobFile) -> tuple[Any, Any]:
    return file.job, file.records


def broken(change: Any) -> str:
    data = json.loads(write_job_file(*_parts(demo_file("half_fitted"))))
    change(data)
    return json.dumps(data)


DAMAGE = {
    "format": (lambda d: d.update(format="other"), "format"),
    "version": (lambda d: d.update(version=VERSION + 1), "version"),
    "no job": (lambda d: d.pop("job"), "job"),
    "text for a number": (
        lambda d: d["job"]["stock"]["plate"].update(thickness_mm="thin"),
        "thickness_mm",
    ),
    "too thick": (
        lambda d: d["job"]["stock"]["plate"].update(thickness_mm=5000),
        "thickness_mm",
    ),
    "unknown thread": (lambda d: d["job"]["bike"]["mounts"][0].update(thread="M7"), "thread"),
    "cutout outside": (
        lambda d: d["job"]["candidates"][0]["plate"]["cutouts"][0].update(u_mm=900),
        "cutouts",
    ),
    "unknown kind": (lambda d: d["records"][0].update(kind="dreamt"), "records.0"),
    "picked nothing known": (lambda d: d["job"].update(picked="x"), "picked"),
}


@pytest.mark.parametrize("name", DAMAGE)
def test_damage_is_refused_with_its_place(name: str) -> None:
    change, field = DAMAGE[name]
    with pytest.raises(InputError) as caught:
        read_job_file(broken(change).encode())
    assert field in caught.value.field
    assert caught.value.message


@pytest.mark.parametrize("text", ["", "{", "[]", "null", "PK\x03\x04", "\ud83d", '{"a":NaN}'])
def test_what_is_no_job_file_is_refused(text: str) -> None:
    with pytest.raises(InputError):
        read_job_file(text.encode("utf-8", "surrogatepass"))


def test_a_huge_file_is_refused_before_it_is_read() -> None:
    with pytest.raises(InputError, match="bytes"):
        read_job_file(b" " * (MAX_BYTES + 1))


def rows(job: Job, lines: tuple[KitLine, ...], counted: dict[str, int]) -> list[list[str]]:
    counts = tuple(KitCount(job.in_hand.key, k, n) for k, n in counted.items())
    job = replace(job, counts=counts).with_candidate(
        replace(job.as_entered(job.in_hand.key), kit=lines)
    )
    return list(csv.reader(io.StringIO(kit_csv(lines, kit_check(job).lines))))


def test_kit_list_as_csv(choosing: Job) -> None:
    table = rows(choosing, choosing.in_hand.kit, {"k1": 1})
    assert tuple(table[0]) == HEADER
    first = dict(zip(HEADER, table[1], strict=True))
    assert first["thread"] == "M8"
    assert first["length_mm"] == "30"
    assert (first["counted"], first["missing"]) == ("1", "1")
    assert first["needed_by_joints"] == "1 2"
    assert len(table) == 1 + len(choosing.in_hand.kit)


def test_what_no_line_holds_is_listed_to_buy(choosing: Job) -> None:
    entered = choosing.as_entered(choosing.in_hand.key)
    job = choosing.with_candidate(replace(entered, kit=entered.kit[1:]))
    table = list(csv.reader(io.StringIO(buy_csv(to_buy(job, kit_check(job))))))
    assert tuple(table[0]) == BUY_HEADER
    first = dict(zip(BUY_HEADER, table[1], strict=True))
    assert (first["count"], first["kind"], first["for_joints"]) == ("2", "screw", "1 2")
    assert first["what"].startswith("M8 × 30")


@pytest.mark.parametrize("name", ["=1+1", "+cmd", "-2", "@x"])
def test_no_cell_is_taken_for_a_formula(choosing: Job, name: str) -> None:
    line = KitLine(key="x", kind="other", name=name)
    assert rows(choosing, (line,), {})[1][1] == f"'{name}"


def test_a_wrong_kind_of_value_is_said_in_words() -> None:
    text = demo_text().replace('"wheelbase_mm": 1480.0', '"wheelbase_mm": "long"')
    with pytest.raises(InputError) as caught:
        read_job_file(text)
    assert caught.value.field.endswith("wheelbase_mm")
    assert (caught.value.value, caught.value.allowed) == ("long", "a valid number")
    assert caught.value.message == "“long” is not a valid number"
    assert caught.value.remedy == "Enter a valid number."


def test_the_published_schema_is_the_one_in_force() -> None:
    published = json.loads((ROOT / "docs/job-file.schema.json").read_text())
    assert published == json.loads(json.dumps(job_file_schema()))
    jsonschema.validate(json.loads(demo_text()), published)


def demo_text() -> str:
    file = demo_file("half_fitted")
    return write_job_file(file.job, file.records)


MORE_DAMAGE = {
    "unknown field": (lambda d: d["job"]["bike"].update(colour="red"), "job.bike.colour"),
    "number as text": (
        lambda d: d["job"]["stock"]["plate"].update(thickness_mm="3"),
        "thickness_mm",
    ),
    "wrong unit": (
        lambda d: d["job"]["stock"]["plate"].update(thickness_in=0.1),
        "thickness_in",
    ),
    "yes for a number": (lambda d: d["job"]["bike"].update(wheelbase_mm=True), "wheelbase_mm"),
    "record backwards": (lambda d: d["records"].reverse(), "records"),
    "taken back before": (
        lambda d: d["records"].insert(
            0, {"seq": 1, "at": "", "kind": "taken back", "joint": "a1", "ref": 99}
        ),
        "records.0.ref",
    ),
    "absurd reading": (
        lambda d: d["records"].append(
            {"seq": 999, "at": "", "kind": "reading", "joint": "a1", "torque_nm": 1e9}
        ),
        "torque_nm",
    ),
    "a field of another kind": (lambda d: d["records"][0].update(km=3.0), "km"),
}


@pytest.mark.parametrize("name", MORE_DAMAGE)
def test_foreign_and_slightly_wrong_files_are_refused(name: str) -> None:
    change, field = MORE_DAMAGE[name]
    with pytest.raises(InputError) as caught:
        read_job_file(broken(change).encode())
    assert field in caught.value.field


def test_a_truncated_file_is_refused_wherever_it_ends() -> None:
    data = demo_text().encode()
    for end in range(0, len(data) - 2, 997):
        with pytest.raises(InputError):
            read_job_file(data[:end])


def test_doubled_fields_nan_and_depth() -> None:
    text = demo_text()

    def wheelbase(value: str) -> str:
        return re.sub(r'("wheelbase_mm": )[0-9.]+', rf"\g<1>{value}", text)

    doubled = text.replace('"version": 4,', '"version": 4, "version": 4,', 1)
    for bad, words in (
        (doubled, "stands twice"),
        (wheelbase("NaN"), "finite|input"),
        (wheelbase("1e999"), "finite|wheelbase"),
        ("[" * 3000 + "]" * 3000, "deep|depth|40 levels"),
        ('{"a":' * 200_000, "JSON|depth"),
    ):
        with pytest.raises(InputError, match=words):
            read_job_file(bad.encode())


@pytest.mark.parametrize("what", ["spaces", "digits", "nested"])
def test_a_hundred_megabytes_are_refused_quickly_and_cheaply(tmp_path: Path, what: str) -> None:
    file = tmp_path / "huge.json"
    block = {"spaces": b" ", "digits": b"1", "nested": b"["}[what] * 1_000_000
    with file.open("wb") as out:
        for _ in range(100):
            out.write(block)
    data = tmp_path / "d"
    script = (
        "import re, sys; from rugged_shield.cli import main; "
        "code = main(sys.argv[1:]); status = open('/proc/self/status').read(); "
        "print('peak_mb', int(re.search(r'VmHWM:\\s+(\\d+)', status)[1]) / 1024, "
        "file=sys.stderr); sys.exit(code)"
    )
    run = subprocess.run(
        [sys.executable, "-c", script, "import", str(file), "--data", str(data)],
        capture_output=True,
        text=True,
        check=False,
    )
    assert run.returncode == 2
    assert json.loads(run.stdout)["error"]["field"] == "file"
    assert not data.exists(), "nothing was made"
    assert "peak_mb" in run.stderr
    assert float(run.stderr.split("peak_mb")[1]) < 200
