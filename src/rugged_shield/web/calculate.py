"""The computations by name, for scripts: the same as ``shield calc``."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

from flask import Blueprint

from rugged_shield.calc import CALCULATIONS, calculate
from rugged_shield.core.result import Finding, Verdict
from rugged_shield.web.api import adapter, route

blueprint = Blueprint("calc", __name__, url_prefix="/api/calc")


@dataclass(frozen=True, kw_only=True)
class CalcAnswer:
    """The answer of a computation."""

    result: Any
    verdict: Verdict
    findings: tuple[Finding, ...] = ()
    reasons: tuple[str, ...] = ()
    assumptions: tuple[str, ...] = ()
    warnings: tuple[str, ...] = ()
    sources: tuple[Any, ...] = field(default_factory=tuple)


@route(blueprint, "GET", "", list[str])
def names() -> list[str]:
    """Names of all computations."""
    return list(CALCULATIONS)


@route(blueprint, "POST", "/<name>", CalcAnswer, dict[str, Any])
def run(name: str, body: dict[str, Any]) -> CalcAnswer:
    """Run one computation on its JSON input."""
    answer: CalcAnswer = adapter(CalcAnswer).validate_python(calculate(name, body))
    return answer
