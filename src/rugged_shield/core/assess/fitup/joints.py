"""Every joint of a plate judged: its stack, the length used, its section and torque."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache

from rugged_shield.core.amounts import amount, entered
from rugged_shield.core.fitup import (
    Evaluation,
    Joint,
    StackResult,
    female_of,
    joint_stack,
    section_drawing,
    stack_input,
)
from rugged_shield.core.job import MountedJoint
from rugged_shield.core.mechanics.drawing import Drawing
from rugged_shield.core.mechanics.threads import stock_lengths_mm
from rugged_shield.core.result import (
    Finding,
    Outcome,
    Verdict,
    finding,
    merge_sources,
    worst,
)
from rugged_shield.core.survey import Mount
from rugged_shield.core.tables.friction import CONDITIONS
from rugged_shield.core.tables.hardware import (
    HOLE_SOURCE,
    NUT_SOURCES,
    WASHER_SOURCE,
)
from rugged_shield.core.tables.heads import HEADS


@dataclass(frozen=True)
class LengthMark:
    """A standard length on the window's scale, mm, with its verdict in words."""

    length_mm: float
    verdict: str
    in_hand: bool
    chosen: bool


@dataclass(frozen=True)
class Span:
    """A stretch of true screw lengths, mm."""

    start_mm: float
    end_mm: float


def shaded_spans(
    needed: float | None, allowed: float | None, marks: tuple[LengthMark, ...]
) -> tuple[Span, ...]:
    """Stretches of the window that may be shown as good, mm: none holds a length that is blocked.

    A length inside the window can be blocked for a reason of its own (a shank that jams): it is
    cut out half-way to its neighbours, or to the window's end. A countersink that cuts through
    spoils every length.
    """
    if needed is None or any(m.verdict == "knife-edged countersink" for m in marks):
        return ()
    lengths = [m.length_mm for m in marks]
    end = max(*lengths, needed) if allowed is None else allowed
    spans = [(needed, end)] if end > needed else []
    for before, mark, after in zip([None, *marks], marks, [*marks[1:], None], strict=False):
        length = mark.length_mm
        if mark.verdict == "sound" or not needed <= length <= end:
            continue
        low = (before.length_mm + length) / 2 if before and before.length_mm >= needed else needed
        high = (after.length_mm + length) / 2 if after and after.length_mm <= end else end
        spans = [
            part
            for a, b in spans
            for part in ((a, min(b, low)), (max(a, high), b))
            if part[1] > part[0]
        ]
    return tuple(Span(a, b) for a, b in spans)


@dataclass(frozen=True, kw_only=True)
class JointAssessment:
    """One joint: its stack, the length it is judged at, the lengths around, findings.

    ``shaded_mm``: the stretches of its window that hold no blocked length.
    ``air_mm``: room between its stack and its mount as the plate hangs; 0 where it closes.
    """

    joint: Joint
    stack: Outcome[StackResult]
    length_mm: float
    length_is: str
    evaluation: Evaluation
    lengths: tuple[LengthMark, ...]
    shaded_mm: tuple[Span, ...]
    findings: tuple[Finding, ...]
    verdict: Verdict
    air_mm: float = 0.0


def _drawn_length(joint: Joint, result: StackResult) -> tuple[float, str]:
    """The screw to judge: in hand, else chosen, else the nearest standard one."""
    if joint.length_mm is not None:
        return joint.length_mm, "in hand"
    if result.chosen_length_mm is not None:
        return result.chosen_length_mm, "chosen"
    aim = result.length_needed_min_mm or result.length_allowed_max_mm or result.grip_nominal_mm
    lengths = stock_lengths_mm(joint.thread)
    return min(lengths, key=lambda length: abs(length - aim)), "nearest standard"


def _scale_lengths(thread: str, result: StackResult, used: float) -> tuple[float, ...]:
    low = min(result.length_needed_min_mm or used, used)
    high = max(result.length_allowed_max_mm or used + 15, used)
    lengths = {x for x in stock_lengths_mm(thread) if low - 12 <= x <= high + 12} | {used}
    return tuple(sorted(lengths))


def _with_sources(stack: Outcome[StackResult], joint: Joint) -> Outcome[StackResult]:
    """The stack with the tables its sizes were read from, and what they leave open."""
    family = HEADS[joint.head]
    used = [family.source, HOLE_SOURCE]
    if any(layer.kind == "washer" for layer in joint.present()):
        used.append(WASHER_SOURCE)
    if joint.nut:
        used.append(NUT_SOURCES[joint.nut])
    return replace(
        stack,
        assumptions=(*stack.assumptions, *family.notes),
        sources=merge_sources(stack.sources, used),
    )


LOCKING_NUTS = ("ISO 7040", "ISO 7042")
"""Prevailing-torque nuts: with a nylon insert, and all of metal."""


@lru_cache(maxsize=2048)
def assess_joint(joint: Joint, mount: Mount | None) -> JointAssessment:
    """Judge one joint (its plate layers already as thick as the plate)."""
    given = stack_input(joint, mount)
    window = joint_stack(given)
    used, length_is = _drawn_length(joint, window.result)
    around = _scale_lengths(joint.thread, window.result, used)
    judged = joint_stack(
        replace(given, evaluate_lengths_mm=(used, *(x for x in around if x != used)))
    )
    judged = _with_sources(judged, joint)
    by_length = {e.length_mm: e for e in judged.result.evaluations}
    evaluation = by_length[used]
    chosen = judged.result.chosen_length_mm
    findings = tuple(f for f in judged.findings if f.where in ("", f"{used:g} mm"))
    if joint.length_mm is not None and chosen is not None and evaluation.issues:
        findings = (
            *findings,
            finding(
                "wrong screw in hand",
                f"{entered(used, 'mm')} is in hand; this stack asks for {entered(chosen, 'mm')}.",
            ),
        )
    if joint.nut in LOCKING_NUTS and CONDITIONS[joint.treatment].is_locker:
        text = f"The nut {joint.nut} locks by itself; locker eats its insert: leave it dry."
        findings = (*findings, finding("locker on a locking nut", text))
    if joint.proposed:
        words = "Spread from the list: look whether this screw goes here, and confirm or change it."
        findings = (*findings, finding("joint proposed", words))
    marks = tuple(
        LengthMark(x, by_length[x].verdict, x == joint.length_mm, x == chosen) for x in around
    )
    return JointAssessment(
        joint=joint,
        stack=judged,
        length_mm=used,
        length_is=length_is,
        evaluation=evaluation,
        lengths=marks,
        shaded_mm=shaded_spans(
            judged.result.length_needed_min_mm, judged.result.length_allowed_max_mm, marks
        ),
        findings=findings,
        verdict=worst(f.verdict for f in findings),
    )


def assess_joints(joints: tuple[MountedJoint, ...]) -> tuple[JointAssessment, ...]:
    """Every joint judged, in the order in which they come."""
    return tuple(assess_joint(m.joint, m.mount) for m in joints)


def section_of(assessed: JointAssessment, mount: Mount | None) -> Drawing:
    """The joint's section to scale, as it is judged."""
    female, material = female_of(assessed.joint, mount)
    return section_drawing(
        assessed.joint,
        female,
        material,
        assessed.length_mm,
        assessed.stack.result,
        assessed.air_mm,
    )


def stack_words(assessed: JointAssessment) -> tuple[str, ...]:
    """What lies between the head and the thread, in order, each with its thickness."""
    joint = assessed.joint
    head = f"head, {joint.head}"
    layers = tuple(f"{layer.name} {amount(layer.thickness_mm, 'mm')}" for layer in joint.layers)
    return (head, *layers, "nut" if joint.nut else "thread in the bike")
