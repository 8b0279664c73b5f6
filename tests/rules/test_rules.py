"""Rules of the house: who may import whom, sizes, docs for every computation, clean words."""

from __future__ import annotations

import ast
import re
import subprocess
import sys
from pathlib import Path

import pytest

from rugged_shield.calc import CALCULATIONS, schema

ROOT = Path(__file__).parents[2]
SOURCES = sorted((ROOT / "src").rglob("*.py"))
FRONT = sorted(p for p in (ROOT / "frontend/src").rglob("*.ts*") if p.name != "schema.d.ts")
CORE = ROOT / "src/rugged_shield/core"
STATIONS = ("survey", "weighup", "kit", "fitup", "tighten", "keep", "assess")
ALLOWED_IN_CORE = {"numpy", "scipy", "shapely", "pint", "rugged_shield"}


def imports_of(path: Path) -> set[str]:
    """Every module that a file imports, inside functions included."""
    found = set()
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.Import):
            found |= {alias.name for alias in node.names}
        elif isinstance(node, ast.ImportFrom) and node.module:
            found.add(node.module)
    return found


def test_import_contracts_hold() -> None:
    run = subprocess.run(
        [Path(sys.executable).with_name("lint-imports"), "--no-logo"],
        cwd=ROOT,
        check=False,
        capture_output=True,
        text=True,
    )
    assert run.returncode == 0, run.stdout


@pytest.mark.parametrize("path", sorted(CORE.rglob("*.py")), ids=lambda p: str(p.relative_to(CORE)))
def test_core_knows_only_what_it_may(path: Path) -> None:
    for name in imports_of(path):
        top = name.split(".")[0]
        assert top in ALLOWED_IN_CORE or top in sys.stdlib_module_names, name
        if top == "rugged_shield":
            assert name == "rugged_shield" or name.startswith("rugged_shield.core"), name
        assert top not in ("os", "io", "pathlib", "time", "datetime", "random", "socket"), name


@pytest.mark.parametrize("path", sorted(CORE.rglob("*.py")), ids=lambda p: str(p.relative_to(CORE)))
def test_stations_use_only_public_names_of_others(path: Path) -> None:
    """Another station is imported as a package, never one of its modules."""
    own = path.relative_to(CORE).parts[0]
    for name in imports_of(path):
        parts = name.removeprefix("rugged_shield.core.").split(".")
        if name.startswith("rugged_shield.core.") and parts[0] in STATIONS and parts[0] != own:
            assert len(parts) == 1, f"{path.name} imports {name}"


def function_sizes(path: Path) -> list[tuple[str, int]]:
    sizes = []
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.FunctionDef):
            body = node.body[1:] if ast.get_docstring(node) else node.body
            if body:
                sizes.append((node.name, (node.end_lineno or 0) - body[0].lineno + 1))
    return sizes


@pytest.mark.parametrize("path", SOURCES, ids=lambda p: p.name)
def test_functions_and_modules_stay_small(path: Path) -> None:
    if "tables" not in path.parts:
        assert path.read_text().count("\n") <= 450
    for name, lines in function_sizes(path):
        assert lines <= 52, f"{name} has {lines} lines"


@pytest.mark.parametrize("path", FRONT, ids=lambda p: p.name)
def test_front_end_rooms(path: Path) -> None:
    text = path.read_text()
    room = path.parent.name
    assert text.count("\n") <= 450
    if room != "api":
        assert not re.search(r"\bfetch\(", text), "only api/ fetches"
    if room == "stations":
        assert not re.search(r'from "\./[A-Z]', text), "stations do not import each other"
    if path.parent.parent.name == "stations":
        assert not re.search(r'from "\.\./[A-Za-z]', text), "a station knows its own room only"
    if room == "drawing":
        assert "stations/" not in text
        assert "garage/" not in text


@pytest.mark.parametrize("name", CALCULATIONS)
def test_every_computation_has_a_schema_and_a_page(name: str) -> None:
    found = schema(name)
    assert found["properties"]
    pages = " ".join(p.read_text() for p in (ROOT / "docs/methods").glob("*.md"))
    assert f"`{name}`" in pages


def test_ranges_are_in_the_schema() -> None:
    wrench = schema("wrench-setting")["properties"]["torque_wanted_nm"]
    assert (wrench["minimum"], wrench["maximum"], wrench["x-unit"]) == (0.05, 2000.0, "N·m")
    layer = schema("joint-stack")["$defs"]["StackLayer"]["properties"]["thickness_mm"]
    assert layer["maximum"] == 200.0


def test_the_readme_names_both_commands_and_every_picture() -> None:
    readme = (ROOT / "README.md").read_text()
    assert "make demo" in readme
    assert "make test" in readme
    pictures = list((ROOT / "docs/screenshots").glob("*.png"))
    assert 8 <= len(pictures) < 20
    for picture in pictures:
        assert picture.name in readme


def test_locks_name_no_index() -> None:
    for lock in (ROOT / "requirements").glob("*.lock"):
        for line in lock.read_text().splitlines():
            assert line.startswith("#") or re.fullmatch(r"[A-Za-z0-9._-]+==[A-Za-z0-9.+]+", line)
