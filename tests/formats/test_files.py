"""Job files come back as they went out; damaged ones are refused with the place."""

from __future__ import annotations

import csv
import io
import json
from typing import Any

import pytest

from rugged_shield.core.assess import Job, assess_joints, screw_needs
from rugged_shield.core.errors import InputError
from rugged_shield.core.kit import KitLine, check_line, to_buy
from rugged_shield.demo import DEMO_JOBS
from rugged_shield.formats.jobfile import MAX_BYTES, JobFile, read_job_file, write_job_file
from rugged_shield.formats.kitlist import HEADER, kit_csv
from tests.conftest import demo_file


@pytest.mark.parametrize("name", DEMO_JOBS)
def test_a_job_file_is_the_same_after_a_round_trip(name: str) -> None:
    file = demo_file(name)
    text = write_job_file(file.job, file.records)
    assert read_job_file(text) == file
    assert write_job_file(*_parts(read_job_file(text))) == text


def _parts(file: JobFile) -> tuple[Any, Any]:
    return file.job, file.records


def broken(change: Any) -> str:
    data = json.loads(write_job_file(*_parts(demo_file("half_fitted"))))
    change(data)
    return json.dumps(data)


DAMAGE = {
    "format": (lambda d: d.update(format="other"), "format"),
    "version": (lambda d: d.update(version=2), "version"),
    "no job": (lambda d: d.pop("job"), "job"),
    "text for a number": (
        lambda d: d["job"]["stock"]["plate"].update(thickness_mm="thin"), "thickness_mm",
    ),
    "too thick": (
        lambda d: d["job"]["stock"]["plate"].update(thickness_mm=5000), "thickness_mm",
    ),
    "unknown thread": (lambda d: d["job"]["bike"]["mounts"][0].update(thread="M7"), "thread"),
    "cutout outside": (
        lambda d: d["job"]["candidates"][0]["plate"]["cutouts"][0].update(u_mm=900), "cutouts",
    ),
    "unknown kind": (lambda d: d["records"][0].update(kind="dreamt"), "kind"),
    "picked nothing known": (lambda d: d["job"].update(picked="x"), "picked"),
}  # fmt: skip


@pytest.mark.parametrize("name", DAMAGE)
def test_damage_is_refused_with_its_place(name: str) -> None:
    change, field = DAMAGE[name]
    with pytest.raises(InputError) as caught:
        read_job_file(broken(change))
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
    needs = screw_needs(assess_joints(job.bike, job.in_hand))
    states = {line.key: check_line(line, counted.get(line.key), needs) for line in lines}
    return list(csv.reader(io.StringIO(kit_csv(lines, states, to_buy(lines, needs)))))


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
    table = rows(choosing, choosing.in_hand.kit[1:], {})
    bought = [r for r in table if "to buy" in r[1]]
    assert [r[HEADER.index("needed_by_joints")] for r in bought] == ["1", "2"]


@pytest.mark.parametrize("name", ["=1+1", "+cmd", "-2", "@x"])
def test_no_cell_is_taken_for_a_formula(choosing: Job, name: str) -> None:
    line = KitLine("x", "other", name)
    assert rows(choosing, (line,), {})[1][1] == f"'{name}"
