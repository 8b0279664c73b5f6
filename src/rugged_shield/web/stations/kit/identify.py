"""Identify: which line of the kit a screw in the hand is."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from flask import Blueprint
from pydantic import StringConstraints

from rugged_shield.core.amounts import System
from rugged_shield.core.job.edits.path import read_field
from rugged_shield.core.kit.hardware import KitLine
from rugged_shield.core.kit.identify import (
    Attribute,
    IdentifyInput,
    IdentifyResult,
    Listed,
    Measured,
    difference_words,
    identify,
)
from rugged_shield.core.kit.line_drawing import with_difference
from rugged_shield.core.mechanics.drawing import Drawing
from rugged_shield.core.result import Outcome
from rugged_shield.web.api import route
from rugged_shield.web.jobs import row_of

blueprint = Blueprint("identify", __name__, url_prefix="/api/jobs/<job_id>/kit/identify")

Typed = Annotated[str, StringConstraints(max_length=40)]
_HOW: dict[Attribute, str] = {
    "length_mm": "the length, from under the head (a countersunk one over all)",
    "pitch_mm": "the pitch, with the gauge",
    "head_form": "the form of the head, by eye",
    "head_diameter_mm": "the diameter of the head, with the calliper",
}


@dataclass(frozen=True)
class ReadOff:
    """What was read on one screw, as typed; empty: not read."""

    diameter: Typed = ""
    pitch: Typed = ""
    length: Typed = ""
    head_diameter: Typed = ""
    head_form: Typed = ""
    system: System = "metric"


@dataclass(frozen=True, kw_only=True)
class MayBe:
    """A line that the screw may be, and what tells it from the nearest one."""

    key: str
    name: str
    size: str
    head: str
    counted: int | None
    difference: str
    drawing: Drawing | None


@dataclass(frozen=True, kw_only=True)
class IdentifyView:
    """Lines that agree, nearest first; what to read next; threads that are not of this kit."""

    agree: tuple[MayBe, ...]
    told_apart: bool
    measure_next: Attribute | None
    words: str
    foreign: tuple[str, ...]


def _measured(body: ReadOff) -> Measured:
    read = {}
    for name in ("diameter", "pitch", "length", "head_diameter"):
        text: str = getattr(body, name)
        if text.strip():
            read[f"{name}_mm"] = read_field(Measured, f"{name}_mm", text, name, body.system)
    return Measured(**read, head_form=body.head_form)


def _listed(line: KitLine) -> Listed:
    return Listed(line.key, line.thread, line.length_mm, line.head)


def _words(outcome: Outcome[IdentifyResult], names: dict[str, str]) -> str:
    """What the readings say so far, in one sentence."""
    found = outcome.result
    if found.told_apart:
        return f"It is {names[found.agree[0]]}."
    if found.measure_next is not None:
        return f"It may be {len(found.agree)} lines. Read {_HOW[found.measure_next]}."
    if found.agree:
        return (
            f"{len(found.agree)} lines agree, and nothing that can be read tells them apart: "
            "they may serve for each other."
        )
    if found.foreign:
        return f"No line of this kit: by its thread it is {' or '.join(found.foreign)}."
    return "No line of this kit, and no thread of the tables: worn, or read once more."


def _difference(line: Listed, nearest: Listed | None) -> str:
    """What tells a line from the nearest one; the nearest needs no words."""
    return "" if nearest is None or line == nearest else difference_words(line, nearest)


@route(blueprint, "POST", "", IdentifyView, ReadOff)
def identify_screw(job_id: str, body: ReadOff) -> IdentifyView:
    """Which screw of the kit in hand agrees with what was read; nothing is saved."""
    job = row_of(job_id).job
    kit = {k.key: k for k in job.as_entered(job.in_hand.key).kit if k.kind == "screw"}
    listed = {key: _listed(line) for key, line in kit.items()}
    outcome = identify(IdentifyInput(measured=_measured(body), lines=tuple(listed.values())))
    found, counted = outcome.result, job.counted(job.in_hand)
    nearest = listed[found.agree[0]] if found.agree else None
    return IdentifyView(
        agree=tuple(
            MayBe(
                key=key,
                name=kit[key].name,
                size=kit[key].size,
                head=kit[key].head,
                counted=counted.get(key),
                difference=_difference(listed[key], nearest),
                drawing=with_difference(kit[key], (kit[k] for k in found.agree)),
            )
            for key in found.agree
        ),
        told_apart=found.told_apart,
        measure_next=found.measure_next,
        words=_words(outcome, {key: f"{k.name}, {k.size}" for key, k in kit.items()}),
        foreign=found.foreign,
    )
