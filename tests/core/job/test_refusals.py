"""What a refusal says: the direction is right, and what it asks for is then taken."""

from __future__ import annotations

import dataclasses
import re
from collections.abc import Iterator
from typing import Any

import pytest

from rugged_shield.core.amounts import System, in_system, plain_number
from rugged_shield.core.errors import InputError, once
from rugged_shield.core.job.edits.path import set_text
from rugged_shield.core.job.model import Job
from rugged_shield.core.quantity import Range, check_order, parse, ranges_of
from rugged_shield.core.survey.geometry import fold

BOUND = re.compile(r"^(more than|less than|at least|at most) ([−0-9.]+ ?\S*)$")
SIDE = {"more than": 1, "at least": 1, "less than": -1, "at most": -1}


def fields_of(thing: Any, path: str) -> Iterator[tuple[str, str, Range]]:
    """Each number of a job: what it is a field of, its path, its range."""
    if isinstance(thing, tuple):
        for item in thing:
            if getattr(item, "key", ""):
                yield from fields_of(item, f"{path}.{item.key}")
        return
    if not dataclasses.is_dataclass(thing) or isinstance(thing, type):
        return
    for name, allowed in ranges_of(type(thing)).items():
        yield f"{type(thing).__name__}.{name}", f"{path}.{name}".lstrip("."), allowed
    for field in dataclasses.fields(thing):
        yield from fields_of(getattr(thing, field.name), f"{path}.{field.name}")


def refused(job: Job, path: str, text: str, system: System) -> InputError | None:
    try:
        changed = set_text(job, path, text, system).job
        for candidate in (changed.stock, *changed.candidates):
            fold(candidate.plate)
    except InputError as error:
        return error
    return None


@pytest.mark.parametrize("system", ["metric", "us"])
def test_what_a_refusal_asks_for_is_taken(choosing: Job, system: System) -> None:
    """Every field of a whole job at both ends of its own range: others then contradict it."""
    seen: set[str] = set()
    followed = 0
    for kind, path, allowed in fields_of(choosing, ""):
        if kind in seen:
            continue
        seen.add(kind)
        for end in (allowed.least, allowed.most):
            error = refused(choosing, path, plain_number(end, allowed.unit, system), system)
            if error is None:
                continue
            assert "is not allowed here" not in error.message, (path, error.message)
            bound = BOUND.match(in_system(error.allowed, system))
            if bound is None or not path.endswith(error.field.rsplit(".", 1)[-1]):
                continue
            near = parse(bound[2], allowed.unit, path, system)
            inside = near + SIDE[bound[1]] * max(1.0, abs(near) * 0.01)
            again = refused(choosing, path, plain_number(inside, allowed.unit, system), system)
            assert again is None or again.message != error.message, (path, error.allowed)
            followed += 1
    assert len(seen) > 100
    assert followed >= 8


def test_two_fields_that_contradict_each_other_read_from_both() -> None:
    with pytest.raises(InputError) as caught:
        check_order(("start_mm", 9.0), ("end_mm", 4.0), "mm", "it ends before it starts")
    said = caught.value
    assert said.field == "end_mm"
    assert (in_system(said.value), in_system(said.allowed)) == ("4 mm", "more than 9 mm")
    other = said.seen_from("start_mm")
    assert other.field == "start_mm"
    assert (in_system(other.value), in_system(other.allowed)) == ("9 mm", "less than 4 mm")
    assert said.seen_from("width_mm") is said
    check_order(("low", 4.0), ("high", 4.0), "", "", touching=True)
    with pytest.raises(InputError):
        check_order(("low", 4.0), ("high", 4.0), "", "")


def test_what_stands_twice_is_named() -> None:
    once("mounts", (1, 2, 3), "mount")
    with pytest.raises(InputError, match="mount “2” is there already"):
        once("mounts", (1, 2, 3, 2), "mount")
