"""The computations by name, for scripts: the same as ``shield calc``."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

from flask import Blueprint, request

from rugged_shield.calc import registry
from rugged_shield.calc.beside import beside
from rugged_shield.calc.whole import assessed
from rugged_shield.core.assess.frame.assessment import Assessment
from rugged_shield.core.result import Finding, Input, Verdict
from rugged_shield.formats.guarded import CALCULATING, JUDGING, within
from rugged_shield.formats.jobfile import MAX_BYTES, read_job_file
from rugged_shield.web.api import adapter, route
from rugged_shield.web.live import asker_is_gone

blueprint = Blueprint("calc", __name__, url_prefix="/api")


@dataclass(frozen=True, kw_only=True)
class CalcAnswer:
    """The answer of a computation."""

    result: Any
    verdict: Verdict
    findings: tuple[Finding, ...] = ()
    inputs: tuple[Input, ...] = ()
    reasons: tuple[str, ...] = ()
    assumptions: tuple[str, ...] = ()
    warnings: tuple[str, ...] = ()
    sources: tuple[Any, ...] = field(default_factory=tuple)


@route(blueprint, "GET", "/calc", list[str])
def names() -> list[str]:
    """Names of all computations."""
    return list(registry.names())


@route(blueprint, "POST", "/calc/<name>", CalcAnswer, dict[str, Any])
def run(name: str, body: dict[str, Any]) -> CalcAnswer:
    """Run one computation on its JSON input."""
    found = within(CALCULATING, registry.calculate, name, body, is_gone=asker_is_gone())
    answer: CalcAnswer = adapter(CalcAnswer).validate_python(found)
    return answer


@route(blueprint, "POST", "/assess", Assessment, dict[str, Any], unread=True)
def assess_job() -> Any:
    """Judge a whole job file; the request's body is the file. ``?quick=1`` leaves strikes out."""
    request.max_content_length = MAX_BYTES + 1000
    quick = request.args.get("quick", "") not in ("", "0")
    return within(JUDGING, _judged, request.get_data(), quick, is_gone=asker_is_gone())


def _judged(text: bytes, quick: bool) -> Assessment:
    """A job file read and judged, in a process that may begin others."""
    return assessed(read_job_file(text), quick, beside)
