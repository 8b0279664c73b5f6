"""How grave a finding is stands in one table; nothing else in the code writes a verdict."""

from __future__ import annotations

import ast
from collections.abc import Iterator
from pathlib import Path
from typing import get_args

import pytest

from rugged_shield.core.judgement.codes import HOLDS, RANK, Verdict
from rugged_shield.core.judgement.table import FINDINGS

ROOT = Path(__file__).parents[2] / "src/rugged_shield"
SOURCES = sorted(p for p in ROOT.rglob("*.py") if "judgement" not in p.parts)
WORDS = set(get_args(Verdict))
MEANT_OTHERWISE = {
    ("core/figures.py", "not known"): "how a number that nobody knows reads",
    ("core/mechanics/drawing.py", "blocked"): "how a dimension is drawn that nothing may pass",
    ("core/survey/__init__.py", "blocked"): "a computation of that name",
}
"""Places where a word of a verdict is another thing."""


def read_only(tree: ast.AST) -> set[int]:
    """Constants that only compare: what a verdict is held against, types, keys, choices."""
    seen = set()
    for node in ast.walk(tree):
        parts: list[ast.AST] = []
        if isinstance(node, ast.Compare):
            parts = [node]
        elif isinstance(node, ast.Subscript):
            parts = [node.slice]
        elif isinstance(node, ast.Dict):
            parts = [key for key in node.keys if key is not None]
        elif isinstance(node, ast.MatchValue):
            parts = [node]
        seen |= {id(n) for part in parts for n in ast.walk(part) if isinstance(n, ast.Constant)}
    return seen


def written(text: str) -> Iterator[tuple[int, str]]:
    """Lines that write a word of a verdict. “Assumed” is a grade of knowing too: it counts only
    where it is given as a verdict.
    """
    tree = ast.parse(text)
    passed = read_only(tree)
    given = {
        id(k.value)
        for node in ast.walk(tree)
        if isinstance(node, ast.Call)
        for k in node.keywords
        if k.arg == "verdict"
    }
    for node in ast.walk(tree):
        if not isinstance(node, ast.Constant) or id(node) in passed or node.value not in WORDS:
            continue
        if node.value != "assumed" or id(node) in given:
            yield node.lineno, node.value


@pytest.mark.parametrize("path", SOURCES, ids=lambda p: str(p.relative_to(ROOT)))
def test_no_verdict_is_written_outside_the_table(path: Path) -> None:
    here = str(path.relative_to(ROOT))
    found = [one for one in written(path.read_text()) if (here, one[1]) not in MEANT_OTHERWISE]
    assert found == [], here


def test_the_rule_sees_what_it_is_for() -> None:
    assert list(written('f(verdict="mind")')) == [(1, "mind")]
    assert list(written('x = "blocked" if y else "sound"')) == [(1, "blocked"), (1, "sound")]
    assert list(written('if v == "mind": pass')) == []
    assert list(written('f(known="assumed")')) == []
    assert list(written('f(verdict="assumed")')) == [(1, "assumed")]


def test_every_verdict_has_its_place_in_both_orders() -> None:
    assert set(RANK) == set(HOLDS) == WORDS
    assert HOLDS["not known"] < HOLDS["mind"], "what holds from riding: a doubt before a caution"


def test_a_row_says_what_clears_it_and_where_it_bites() -> None:
    for code, kind in FINDINGS.items():
        assert kind.remedy, code
        assert not kind.gates or kind.verdict != "sound", code
        if kind.verdict in ("blocked", "not known") and kind.gates:
            assert kind.steps or kind.station in ("weigh-up", "kit", "keep"), code
