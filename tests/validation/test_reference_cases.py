"""Every reference case of the computations that exist agrees within its tolerance."""

from __future__ import annotations

import json
import math
from pathlib import Path
from typing import Any

import pytest

from rugged_shield.calc.registry import calculate, example, names

DATA = Path(__file__).parents[1] / "data"
CASES = [
    case
    for name in ("joints", "heat", "strike", "stations", "lists", "assembly")
    for case in json.loads((DATA / f"{name}.json").read_text())["cases"]
]
MINE = [c for c in CASES if c["calc"] in names()]


def agree(expected: Any, got: Any, path: str) -> None:
    if isinstance(expected, dict) and "value" in expected:
        value = expected["value"]
        if expected.get("exact") or value is None:
            assert got == value, path
        elif isinstance(value, list):
            assert len(value) == len(got), path
            for i, (row, mine) in enumerate(zip(value, got, strict=True)):
                agree({**expected, "value": row}, mine, f"{path}[{i}]")
        else:
            tolerance = expected.get("abs", 0.0) + expected.get("rel", 0.0) * abs(value)
            assert got == pytest.approx(value, abs=tolerance), path
    elif isinstance(expected, dict):
        for key, item in expected.items():
            agree(item, got[key], f"{path}.{key}")
    else:
        assert len(expected) == len(got), path
        for i, (a, b) in enumerate(zip(expected, got, strict=True)):
            agree(a, b, f"{path}[{i}]")


@pytest.mark.parametrize("case", MINE, ids=lambda c: c["id"])
def test_case_agrees(case: dict[str, Any]) -> None:
    agree(case["expected"], calculate(case["calc"], case["inputs"])["result"], case["id"])


def test_every_case_is_run() -> None:
    assert {c["calc"] for c in CASES} - set(names()) == set()
    assert len(MINE) == 101


@pytest.mark.parametrize("case", MINE, ids=lambda c: c["id"])
def test_a_wrong_figure_would_be_noticed(case: dict[str, Any]) -> None:
    """The comparison itself fails when a number is moved by 5 % and thrice its tolerance."""
    moved = json.loads(json.dumps(case["expected"]))

    def nudge(node: Any) -> bool:
        if isinstance(node, dict) and isinstance(node.get("value"), float) and node["value"]:
            node["value"] *= 1.05 + 3 * node.get("rel", 0.0)
            node["value"] += 3 * math.copysign(node.get("abs", 0.0), node["value"])
            return True
        if isinstance(node, dict) and type(node.get("value")) is int and node.get("exact"):
            node["value"] += 1
            return True
        children = node.values() if isinstance(node, dict) else node
        return isinstance(node, dict | list) and any(nudge(child) for child in children)

    assert nudge(moved)
    with pytest.raises(AssertionError):
        agree(moved, calculate(case["calc"], case["inputs"])["result"], case["id"])


def test_what_nothing_takes_is_said_with_its_path() -> None:
    """A misspelt name, on top or deep inside, is used nowhere: the answer warns of it."""
    given = json.loads(json.dumps(example("draw-up")))
    given["mounts"][1]["gap"] = 3.0
    given["hand_force"] = 20.0
    answer = calculate("draw-up", given)
    said = [w for w in answer["warnings"] if "was not used" in w]
    assert len(said) == 2
    assert any("“mounts.1.gap”" in w for w in said)
    assert any("“hand_force”" in w for w in said)
    del given["mounts"][1]["gap"], given["hand_force"]
    assert calculate("draw-up", given)["result"] == answer["result"]
