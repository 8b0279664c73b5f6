"""The chain of upgrades, step by step: pure, whole, and loud where it does not understand."""

from __future__ import annotations

import copy
from typing import Any, get_args, get_type_hints

import pytest

from rugged_shield.core.errors import InputError
from rugged_shield.core.event import Voided
from rugged_shield.core.job.events import Event
from rugged_shield.core.job.upgrade import STEPS, VERSION, upgrade, upgrade_1
from rugged_shield.core.keep.events import (
    DidNotMove,
    LookedOver,
    Noted,
    OilChanged,
    PartReplaced,
    PlateStruck,
    Ridden,
    RunsWarm,
    Snoozed,
    WearRead,
)
from rugged_shield.core.tighten.events import (
    BikeJointClosed,
    BikeJointOpened,
    FindingPassed,
    JointRenewed,
    RiddenAnyway,
    StageReopened,
    ThreadDamaged,
)
from rugged_shield.formats.codec import event_from_json, event_to_json

SPARSE: dict[str, Any] = {
    "joint": "",
    "step": "",
    "torque_nm": None,
    "km": None,
    "ref": None,
    "reason": "",
    "overridden": False,
}


def line(kind: str, **filled: Any) -> dict[str, Any]:
    """A line of the record as version 1 had it: every field, most of them empty."""
    return {"seq": 7, "kind": kind, "at": "2026-11-21T14:00:00+00:00", **SPARSE, **filled}


V1_LINES = {
    "started": line("started", joint="a1"),
    "reading": line("reading", joint="a1", torque_nm=20.1, overridden=True, reason="in a hurry"),
    "taken back": line("taken back", joint="a1", ref=6, torque_nm=20.1, reason="slipped"),
    "step done": line("step done", step="half:a1"),
    "step reopened": line("step reopened", step="half:a1"),
    "found torque": line("found", joint="e3", torque_nm=9.4),
    "counter": line("km", km=42188.0),
}
"""Each kind as version 1 wrote it; a kind that came later has no entry here but is named below."""
AT = "2026-03-01T10:00:00+00:00"
LATER = (
    BikeJointOpened(joint="bike-1", name="vapour hose", what="hose", seq=3, at=AT),
    BikeJointClosed(joint="bike-1", torque_nm=44.0, how="by the manual", seq=4, at=AT),
    RiddenAnyway(plate="alu5", reason="to the shed", missing=("a", "b"), seq=5, at=AT),
    StageReopened(plate="alu5", stage="front", joints=("a1",), reason="blocked", seq=5, at=AT),
    DidNotMove(plate="alu5", joint="a1", torque_nm=18.0, seq=6, at=AT),
    Ridden(km=85.0, hours=2.5, seq=7, at=AT),
    PlateStruck(plate="alu5", x_mm=1.5, y_mm=-2.0, felt="thrown stone", dent_mm=0.5, seq=8, at=AT),
    LookedOver(plate="alu5", looked=("leaks", "heads"), found="a stone", seq=9, at=AT),
    OilChanged(plate="alu5", minutes=35.0, came_off="wing", seq=10, at=AT),
    WearRead(plate="alu5", place="slider", thickness_mm=7.5, km=1000.0, seq=11, at=AT),
    PartReplaced(plate="alu5", what="isolator", done="turned", cost=12.0, seq=12, at=AT),
    RunsWarm(with_plate=True, air_c=12.0, running_c=90.0, fan_min=4.0, ride="loop", seq=13, at=AT),
    Noted(text="rain", seq=14, at=AT),
    Snoozed(plate="alu5", due="re-check", until_km=900.0, until="2027-01-01", reason="no wrench"),
    Voided(ref=11, reason="misread", seq=16, at=AT),
    ThreadDamaged(plate="alu5", joint="a1", what="two turns gone", seq=17, at=AT),
    JointRenewed(plate="alu5", joint="a1", how="an insert", seq=18, at=AT),
    FindingPassed(plate="alu5", code="gap not known", about="a1", reason="seen", seq=19, at=AT),
)
SINCE_2 = tuple(event.kind for event in LATER)


def test_every_kind_has_an_upgrade_test() -> None:
    kinds = {get_args(get_type_hints(event)["kind"])[0] for event in get_args(Event)}
    assert set(V1_LINES) | set(SINCE_2) == kinds


def test_what_came_since_is_kept_as_it_was_written() -> None:
    for event in LATER:
        assert event_from_json(event_to_json(event)) == event


@pytest.mark.parametrize("kind", V1_LINES)
def test_a_line_of_version_1_becomes_its_event_with_all_it_said(kind: str) -> None:
    old = V1_LINES[kind]
    (new,) = upgrade({"job": {"picked": "alu5"}, "records": [old]}, 1)["records"]
    event = event_from_json(new)
    assert event.kind == kind
    said = {k: v for k, v in old.items() if v not in ("", None, False) and k != "kind"}
    again = event_to_json(event)
    assert again.get("plate", "alu5") == "alu5"
    assert said.items() <= again.items()
    assert event_from_json(again) == event


@pytest.mark.parametrize(
    ("kind", "field", "value"),
    [
        ("started", "torque_nm", 3.0),
        ("reading", "km", 5.0),
        ("counter", "joint", "a1"),
        ("step done", "ref", 2),
        ("found torque", "overridden", True),
        ("taken back", "colour", "red"),
    ],
)
def test_a_line_that_says_more_than_its_kind_can_hold_is_refused(
    kind: str, field: str, value: object
) -> None:
    with pytest.raises(InputError) as caught:
        upgrade_1({"records": [V1_LINES["started"], {**V1_LINES[kind], field: value}]})
    assert caught.value.field == f"records.1.{field}"


def job(counts: list[tuple[str, int]], **kits: tuple[str, ...]) -> dict[str, Any]:
    """Counts of version 1 and the lines of each plate; names keep their hyphens as ``__``."""
    plates = [
        {"plate": {"key": key.replace("__", "-")}, "kit": [{"key": k} for k in lines]}
        for key, lines in kits.items()
    ]
    return {
        "stock": {"plate": {"key": "stock"}, "kit": []},
        "candidates": plates,
        "counts": [{"key": key, "counted": n} for key, n in counts],
    }


def apart(document: dict[str, Any]) -> list[tuple[str, str, int]]:
    counts = upgrade_1({"job": document})["job"]["counts"]
    return [(c["plate"], c["line"], c["counted"]) for c in counts]


def test_counts_name_plate_and_line() -> None:
    assert apart(job([("alu5-k2", 3), ("stock-k1", 1)], alu5=("k1", "k2"))) == [
        ("alu5", "k2", 3),
        ("stock", "k1", 1),
    ]


def test_a_key_that_two_lines_shared_counts_for_both() -> None:
    """Plate “alu5” with line “2-k1” and plate “alu5-2” with line “k1” had one key."""
    assert apart(job([("alu5-2-k1", 4)], alu5=("2-k1",), alu5__2=("k1",))) == [
        ("alu5", "2-k1", 4),
        ("alu5-2", "k1", 4),
    ]
    assert apart(job([("alu5-2-k1", 4)], alu5=("k1",), alu5__2=("k1",))) == [("alu5-2", "k1", 4)]


@pytest.mark.parametrize(
    ("key", "found"), [("alu5-k9", ("alu5", "k9")), ("gone-k1", ("gone", "k1"))]
)
def test_a_count_of_what_is_gone_is_kept_for_its_undo(key: str, found: tuple[str, str]) -> None:
    assert apart(job([(key, 2)], alu5=("k1",))) == [(*found, 2)]


def test_a_step_makes_a_new_document_and_leaves_the_old() -> None:
    old = {"job": job([("alu5-k1", 1)], alu5=("k1",)), "records": list(V1_LINES.values())}
    before = copy.deepcopy(old)
    upgrade(old, 1)
    assert old == before


def test_the_chain_has_a_step_from_every_version() -> None:
    assert set(STEPS) == set(range(1, VERSION))
    today = {"job": {"counts": []}}
    assert upgrade(today, VERSION) is today


@pytest.mark.parametrize("version", [0, -1, VERSION + 1, 99])
def test_a_version_that_nobody_wrote_is_refused(version: int) -> None:
    with pytest.raises(InputError) as caught:
        upgrade({}, version)
    assert caught.value.field == "version"


@pytest.mark.parametrize("facts", [{"counts": [{}]}, {"counts": 5, "stock": {}}, {"counts": None}])
def test_a_damaged_job_is_an_error_that_names_the_version(facts: object) -> None:
    with pytest.raises(InputError, match="damaged"):
        upgrade({"job": facts}, 1)


@pytest.mark.parametrize(
    "line",
    [
        {"kind": "dreamt", "seq": 1, "at": ""},
        {"seq": 1, "at": "", "joint": "a1"},
        {"kind": "started", "seq": 1, "at": ""},
        {"kind": "started", "seq": 1, "at": "", "joint": "a1", "torque_nm": 5.0},
        {"kind": "counter", "seq": 1, "at": "", "km": -1.0},
        {"kind": "reading", "seq": 1, "at": "", "joint": "a1", "torque_nm": "much"},
    ],
)
def test_an_event_that_is_none_is_refused(line: object) -> None:
    with pytest.raises(InputError):
        event_from_json(line)
