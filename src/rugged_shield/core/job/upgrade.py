"""Every version that job facts and records ever had, and the way from each to the next.

One chain serves the store and the job file. A step takes a document and gives a new one;
it never looks at a dataclass, which will have moved on by the time the step is run. A
document holds whatever of a job there is: ``job`` (its facts), ``records``, ``bike`` or
``plate`` (of the shelf).
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, Literal

from rugged_shield.core.errors import InputError

VERSION: Literal[4] = 4
Document = dict[str, Any]

_V1_KIND = {"found": "found torque", "km": "counter"}
_V1_FIELDS = {
    "started": ("joint",),
    "reading": ("joint", "torque_nm", "overridden", "reason"),
    "taken back": ("joint", "ref", "torque_nm", "reason"),
    "step done": ("step",),
    "step reopened": ("step",),
    "found torque": ("joint", "torque_nm"),
    "counter": ("km",),
}
_V1_EMPTY = {"joint": "", "step": "", "reason": "", "overridden": False}


def upgrade_1(document: Document) -> Document:
    """Counts name plate and line apart; a line of the record holds what belongs to its kind."""
    new = dict(document)
    if "job" in document:
        new["job"] = _counts_apart(document["job"])
    if "records" in document:
        new["records"] = [
            _event_of_line(line, f"records.{i}") for i, line in enumerate(document["records"])
        ]
    return new


def _counts_apart(job: Document) -> Document:
    if "counts" not in job:
        return job
    lines: dict[str, set[str]] = {
        candidate["plate"]["key"]: {line["key"] for line in candidate.get("kit", ())}
        for candidate in (job["stock"], *job["candidates"])
    }
    apart = [
        {"plate": plate, "line": line, "counted": count["counted"]}
        for count in job["counts"]
        for plate, line in _named_by(count["key"], lines)
    ]
    return {**job, "counts": apart}


def _named_by(key: str, lines: dict[str, set[str]]) -> list[tuple[str, str]]:
    """Plate and line of a count's joined key: each pair that it stood for.

    A count of a line that is gone was kept for an undo, and is kept: by its longest plate.
    """
    before, _, last = key.rpartition("-")
    pairs: list[tuple[str, str]] = [
        (plate, key[len(plate) + 1 :]) for plate in lines if key.startswith(f"{plate}-")
    ] or [(before or key, last)]
    there = [(plate, line) for plate, line in pairs if line in lines.get(plate, set())]
    return there or [max(pairs, key=lambda pair: len(pair[0]))]


def _event_of_line(line: Document, path: str) -> Document:
    was: str = line["kind"]
    kind = _V1_KIND.get(was, was)
    known = (*_V1_FIELDS.get(kind, ()), "seq", "at", "kind")
    for name, value in line.items():
        if name not in known and value is not None and value != _V1_EMPTY.get(name, object()):
            raise InputError(f"{path}.{name}", value, f"nothing in a line of kind “{kind}”")
    kept = {name: line[name] for name in known if name in line}
    return {**kept, "kind": kind}


_V2_ON_PLATE = ("started", "reading", "taken back", "step done", "step reopened", "found torque")


def upgrade_2(document: Document) -> Document:
    """Work names its plate: until then all of it was taken to be about the picked one.

    Where none is picked it names none, and no plate is judged by it: it stays to be read.
    """
    if "records" not in document:
        return document
    picked = document["job"].get("picked", "")
    lines = [
        {**line, "plate": picked} if line["kind"] in _V2_ON_PLATE else line
        for line in document["records"]
    ]
    return {**document, "records": lines}


def upgrade_3(document: Document) -> Document:
    """How a number is known has five grades: what was from a sheet is printed.

    What was entered counts as entered: joints and layers, of which nothing was said until then,
    are as printed, so that no verdict of an older job turns on a doubt that nobody had.
    """
    return {key: _grades_apart(part) for key, part in document.items()}


def _grades_apart(part: Any) -> Any:
    """The same with every grade of the older form in today's word."""
    if isinstance(part, dict):
        renamed = {
            key: "printed" if key == "known" and value == "from sheet" else _grades_apart(value)
            for key, value in part.items()
        }
        return renamed
    return [_grades_apart(item) for item in part] if isinstance(part, list) else part


STEPS: dict[int, Callable[[Document], Document]] = {
    1: upgrade_1,
    2: upgrade_2,
    3: upgrade_3,
}


def upgrade(document: Document, version: int) -> Document:
    """A document of an older version as one of today's; raises InputError for a newer one."""
    if not 1 <= version <= VERSION:
        raise InputError(
            "version",
            version,
            f"1 to {VERSION}",
            f"this was written by version {version} of the job's form",
            "Use a newer Rugged Shield.",
        )
    for step in range(version, VERSION):
        try:
            document = STEPS[step](document)
        except (KeyError, TypeError, AttributeError, IndexError) as error:
            place = error.args[0] if isinstance(error, KeyError) else "job"
            raise InputError(
                str(place), "", f"a job of version {version}", "this part of the job is damaged"
            ) from error
    return document
