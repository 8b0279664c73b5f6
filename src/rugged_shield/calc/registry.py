"""Every public computation by its name: JSON in, JSON out, schema from the dataclasses.

What ``computations/NAME.json`` names is imported when it is asked for, so listing names loads none.
"""

from __future__ import annotations

import importlib
import json
from functools import cache
from importlib.resources import files
from typing import Any, get_args, get_type_hints

from pydantic import TypeAdapter, ValidationError

from rugged_shield.core.computation import REGISTERED, Computation
from rugged_shield.core.errors import InputError, choose
from rugged_shield.core.quantity import ranges_of
from rugged_shield.formats.jsontext import first_error, unknown_names

_TOLD = files("rugged_shield.calc") / "computations"


@cache
def names() -> tuple[str, ...]:
    """Names of all computations, none of them loaded."""
    return tuple(sorted(f.name.removesuffix(".json") for f in _TOLD.iterdir()))


@cache
def _told(name: str) -> dict[str, Any]:
    choose("name", name, names(), "computation")
    found: dict[str, Any] = json.loads((_TOLD / f"{name}.json").read_text("utf-8"))
    return found


def check_name(name: str) -> None:
    """Refuse a name that no computation has; InputError names those that are."""
    _told(name)


def example(name: str) -> dict[str, Any]:
    """A runnable example of its input: small, invented, and inside its range."""
    found: dict[str, Any] = _told(name)["example"]
    return found


def computation_of(name: str) -> Computation:
    """The computation, loaded; LookupError when its module registers none of that name."""
    module = _told(name)["module"]
    importlib.import_module(f"rugged_shield.{module}")
    if name not in REGISTERED:
        raise LookupError(f"{module} registers no computation “{name}”")
    return REGISTERED[name]


@cache
def _adapter(name: str) -> TypeAdapter[Any]:
    return TypeAdapter(computation_of(name).given)


def schema(name: str) -> dict[str, Any]:
    """JSON Schema of a computation's input, with the ranges the core enforces."""
    found = _adapter(name).json_schema()
    given = computation_of(name).given
    types = {given.__name__: given}
    _collect(given, types)
    for title, block in ((found.get("title"), found), *found.get("$defs", {}).items()):
        for field, allowed in ranges_of(types[title]).items() if title in types else ():
            target = block["properties"][field]
            target |= {"x-unit": allowed.unit, "minimum": allowed.least, "maximum": allowed.most}
    return found


def _collect(cls: Any, types: dict[str, Any]) -> None:
    """Dataclasses that an input is made of, by name."""
    for hint in get_type_hints(cls).values():
        for option in (hint, *get_args(hint)):
            if hasattr(option, "__dataclass_fields__") and option.__name__ not in types:
                types[option.__name__] = option
                _collect(option, types)


def _read(adapter: TypeAdapter[Any], given: dict[str, Any]) -> tuple[Any, tuple[str, ...]]:
    """The input, and the paths in it that nothing takes."""
    try:
        return adapter.validate_python(given, extra="forbid"), ()
    except ValidationError as refused:
        unused = unknown_names(refused)
    try:
        return adapter.validate_python(given), unused
    except ValidationError as error:
        raise first_error(error) from error


def calculate(name: str, given: Any) -> dict[str, Any]:
    """Run one computation on plain JSON values; raises InputError for bad input."""
    adapter = _adapter(name)
    if not isinstance(given, dict):
        raise InputError("input", type(given).__name__, "one JSON object")
    typed, unused = _read(adapter, given)
    outcome = computation_of(name).run(typed)
    extra = tuple(f"The field “{field}” is not known here and was not used." for field in unused)
    out: dict[str, Any] = _OUTCOME.dump_python(
        {
            "result": outcome.result,
            "verdict": outcome.verdict,
            "findings": outcome.findings,
            "inputs": outcome.inputs,
            "reasons": outcome.reasons,
            "assumptions": outcome.assumptions,
            "warnings": outcome.warnings + extra,
            "sources": outcome.sources,
        },
        mode="json",
    )
    return out


_OUTCOME: TypeAdapter[Any] = TypeAdapter(dict[str, Any])
