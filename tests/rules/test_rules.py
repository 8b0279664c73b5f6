"""Rules of the house: who may import whom, sizes, docs for every computation, clean words."""

from __future__ import annotations

import ast
import importlib
import json
import pkgutil
import re
import subprocess
import sys
from collections.abc import Iterator
from dataclasses import fields, is_dataclass
from pathlib import Path
from types import ModuleType
from typing import get_args

import pytest

import rugged_shield
from rugged_shield import core
from rugged_shield.calc.registry import computation_of, names, schema
from rugged_shield.core.computation import REGISTERED
from rugged_shield.core.judgement.codes import FindingCode
from rugged_shield.core.judgement.table import FINDINGS
from rugged_shield.web.api import openapi

ROOT = Path(__file__).parents[2]
SOURCES = sorted((ROOT / "src").rglob("*.py"))
FRONT = sorted(p for p in (ROOT / "frontend/src").rglob("*.ts*") if p.name != "schema.d.ts")
CORE = ROOT / "src/rugged_shield/core"
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


PACKAGES = [p for p in SOURCES if p.name == "__init__.py" and p.parent.name != "rugged_shield"]


@pytest.mark.parametrize("path", PACKAGES, ids=lambda p: str(p.parent.relative_to(ROOT / "src")))
def test_a_package_says_what_it_is_and_nothing_else(path: Path) -> None:
    """Every name is imported from the module that defines it."""
    body = ast.parse(path.read_text()).body
    assert len(body) == 1
    assert ast.get_docstring(ast.Module(body, []))


@pytest.mark.parametrize("path", SOURCES, ids=lambda p: str(p.relative_to(ROOT / "src")))
def test_what_is_private_to_a_module_stays_there(path: Path) -> None:
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.ImportFrom) and (node.module or "").startswith("rugged_shield"):
            assert [a.name for a in node.names if re.match("_[a-z]", a.name)] == []


def dataclasses_of(package: ModuleType) -> Iterator[type]:
    """Every dataclass that a package and what lies in it define."""
    for found in pkgutil.walk_packages(package.__path__, f"{package.__name__}."):
        if ".migrations" not in found.name:
            module = importlib.import_module(found.name)
            for each in vars(module).values():
                if isinstance(each, type) and each.__module__ == found.name and is_dataclass(each):
                    yield each


def test_what_has_over_six_fields_is_built_by_keyword() -> None:
    """``kw_only`` makes Python and the type checker refuse anything else."""
    seen = 0
    for each in dataclasses_of(rugged_shield):
        given = [f for f in fields(each) if f.init]
        seen += len(given) > 6
        assert len(given) <= 6 or all(f.kw_only for f in given), each
    assert seen > 50


def strings_in(path: Path) -> set[str]:
    return {
        node.value
        for node in ast.walk(ast.parse(path.read_text()))
        if isinstance(node, ast.Constant) and isinstance(node.value, str)
    }


def test_a_start_does_without_scipy() -> None:
    """It costs most of a second, of each start, each worker and each small command."""
    asked = "import sys, rugged_shield.web.app, rugged_shield.calc; print('scipy' in sys.modules)"
    told = subprocess.run([sys.executable, "-c", asked], capture_output=True, text=True, check=True)
    assert told.stdout.strip() == "False"


def test_every_font_is_fetched_with_the_page() -> None:
    """What the page sets its words in (``main.tsx``) is what it asks for first (``index.html``)."""
    front = Path(__file__).parents[2] / "frontend"
    used = re.findall(
        r"@fontsource/([\w-]+)/latin-(\d+)\.css", (front / "src/main.tsx").read_text()
    )
    asked = re.findall(r"/files/([\w-]+)-latin-(\d+)-normal", (front / "index.html").read_text())
    assert used
    assert asked == used


def test_every_finding_code_is_declared_and_used() -> None:
    """That each used one is declared is the type checker's part; here: none is left over."""
    rules = (p for p in SOURCES if "judgement" not in p.parts)
    used = set().union(*(strings_in(p) for p in rules))
    assert [code for code in get_args(FindingCode) if code not in used] == []
    assert set(FINDINGS) == set(get_args(FindingCode))
    document = openapi()["components"]["schemas"]["Finding"]
    assert set(document["properties"]["code"]["enum"]) == set(get_args(FindingCode))


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
def test_front_end_modules_stay_small(path: Path) -> None:
    """Who may import whom there is the linter's part: ``frontend/biome.json``."""
    assert path.read_text().count("\n") <= 450


CASES = {
    case["id"]: case["calc"]
    for file in (ROOT / "tests/data").glob("*.json")
    for case in json.loads(file.read_text())["cases"]
}
TESTS = "".join(p.read_text() for p in (ROOT / "tests").rglob("test_*.py"))


@pytest.mark.parametrize("name", names())
def test_every_computation_has_a_schema_a_page_and_a_check(name: str) -> None:
    assert schema(name)["properties"]
    found = computation_of(name)
    assert f"`{name}`" in (ROOT / f"docs/methods/{found.page}.md").read_text()
    assert CASES.get(found.check) == name or f"def {found.check}(" in TESTS


def test_no_computation_is_left_unnamed() -> None:
    """Whatever registers itself has its file, and the other way round."""
    for found in pkgutil.walk_packages(core.__path__, "rugged_shield.core."):
        importlib.import_module(found.name)
    assert sorted(REGISTERED) == list(names())


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


def test_locks_pin_versions_and_hashes() -> None:
    locks = sorted((ROOT / "requirements").glob("*.lock"))
    assert len(locks) == 3
    for lock in locks:
        text = re.sub(r"^#.*\n", "", lock.read_text(), flags=re.M).replace(" \\\n", " ")
        for line in text.splitlines():
            assert re.fullmatch(
                r"[A-Za-z0-9._-]+==[A-Za-z0-9.+]+( +--hash=sha256:[0-9a-f]{64})+", line
            ), line
