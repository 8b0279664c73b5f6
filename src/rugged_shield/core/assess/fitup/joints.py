"""Every joint of a plate judged: its stack, the length used, its section and torque."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache

from rugged_shield.core.amounts import amount, entered
from rugged_shield.core.fitup.bearing import ring_findings
from rugged_shield.core.fitup.beyond import far_joints
from rugged_shield.core.fitup.engagement import Engagement
from rugged_shield.core.fitup.joint import Joint, female_of, stack_input
from rugged_shield.core.fitup.seat import seat_of
from rugged_shield.core.fitup.seats import plate_findings, seat_findings
from rugged_shield.core.fitup.section import FarSection, section_drawing
from rugged_shield.core.fitup.stack import consequence, joint_stack
from rugged_shield.core.fitup.stack_model import Evaluation, StackResult
from rugged_shield.core.job.model import MountedJoint
from rugged_shield.core.mechanics.drawing import Drawing
from rugged_shield.core.mechanics.threads import is_inch, stock_lengths_mm
from rugged_shield.core.result import (
    Finding,
    FindingCode,
    Outcome,
    Verdict,
    finding,
    merge_sources,
    worst,
)
from rugged_shield.core.survey.bike import Mount
from rugged_shield.core.survey.neighbours import LEAST_MM
from rugged_shield.core.tables.friction import CONDITIONS
from rugged_shield.core.tables.hardware import (
    HOLE_SOURCE,
    INCH_HOLE_SOURCE,
    LOCKING_NUTS,
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
class FarNut:
    """A nut beyond the first thread: judged with the whole screw; ``own`` is what it clamps."""

    engagement: Engagement
    own: Joint
    stack: Outcome[StackResult]
    evaluation: Evaluation
    findings: tuple[Finding, ...]


@dataclass(frozen=True, kw_only=True)
class JointAssessment:
    """One joint: its stack, the length it is judged at, the lengths around, findings.

    ``shaded_mm``: the stretches of its window that hold no blocked length.
    ``air_mm``: room between its stack and its mount as the plate hangs; 0 where it closes.
    ``far``: nuts beyond its first thread, judged at the same length.
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
    far: tuple[FarNut, ...] = ()


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
    used = [family.source, INCH_HOLE_SOURCE if is_inch(joint.thread) else HOLE_SOURCE]
    if any(layer.kind == "washer" for layer in joint.present()):
        used.append(WASHER_SOURCE)
    if joint.nut:
        used.append(NUT_SOURCES[joint.nut])
    return replace(
        stack,
        assumptions=(*stack.assumptions, *family.notes),
        sources=merge_sources(stack.sources, used),
    )


def _locked_twice(nut: str, treatment: str) -> tuple[Finding, ...]:
    """Locker in an engagement that locks by itself."""
    if nut not in LOCKING_NUTS or not CONDITIONS[treatment].is_locker:
        return ()
    text = f"The nut {nut} locks by itself; locker eats its insert: leave it dry."
    return (finding("locker on a locking nut", text),)


def _passage(joint: Joint) -> tuple[Finding, ...]:
    """Room to something hot that the screw passes beside."""
    if not joint.passes:
        return ()
    if joint.passes_gap_mm is None:
        text = f"Measure the room between the screw and the {joint.passes}, cold."
        return (finding("passage not known", text),)
    if joint.passes_gap_mm >= LEAST_MM["hot"]:
        return ()
    touches = joint.passes_gap_mm < LEAST_MM["static"]
    text = (
        f"{entered(joint.passes_gap_mm, 'mm')} to the {joint.passes}; hot and shaken it wants "
        f"{entered(LEAST_MM['static' if touches else 'hot'], 'mm')}: turn the screw about, or "
        "take a shorter one."
    )
    code: FindingCode = "touches what it passes" if touches else "passes close to something hot"
    return (finding(code, text),)


def _stud(joint: Joint, mount: Mount | None) -> tuple[Finding, ...]:
    """A stud's own: how far it stands out must be measured, and its seat must hold."""
    seat = seat_of(joint, mount)
    if seat is None:
        return ()
    found = seat.findings
    if joint.length_mm is None:
        text = (
            "How far the stud stands out of the bike is not entered: measure from the face that "
            "the stack lies on to its end."
        )
        found = (finding("stud not measured", text), *found)
    return found


def _play(joint: Joint, result: StackResult) -> tuple[Finding, ...]:
    """A plate that is located and not clamped must keep its play under the head."""
    least = result.sleeve_float_worst_min_mm
    if not joint.floats or (least is not None and least > 0):
        return ()
    text = (
        "The plate must move here, and no sleeve or shoulder keeps the head off it."
        if least is None
        else f"At worst its sleeve ends {amount(-least, 'mm', 2)} short of letting the plate move."
    )
    return (finding("pinched, must keep its play", text),)


def _far_nuts(
    joint: Joint, mount: Mount | None, length_mm: float, around: tuple[float, ...]
) -> tuple[FarNut, ...]:
    """Every nut beyond the first thread, judged at the length used and at those around it."""
    found = []
    for engagement, whole, own in far_joints(joint, mount):
        asked = (length_mm, *(x for x in around if x != length_mm))
        stack = joint_stack(replace(stack_input(whole, None), evaluate_lengths_mm=asked))
        evaluation = next(e for e in stack.result.evaluations if e.length_mm == length_mm)
        said = [
            finding(code, f"{engagement.name}: {consequence(code, length_mm)}")
            for code in evaluation.issues
            if code != "knife-edged countersink"
        ]
        said += _locked_twice(engagement.nut, engagement.treatment)
        found.append(
            FarNut(
                engagement=engagement,
                own=own,
                stack=stack,
                evaluation=evaluation,
                findings=tuple(said),
            )
        )
    return tuple(found)


def _window_of_all(first: Outcome[StackResult], far: tuple[FarNut, ...]) -> Outcome[StackResult]:
    """The window that suits the first thread and every nut beyond it."""
    if not far:
        return first
    results = [first.result, *(f.stack.result for f in far)]
    needs = [r.length_needed_min_mm for r in results]
    most = [r.length_allowed_max_mm for r in results if r.length_allowed_max_mm is not None]
    fits = tuple(
        x
        for x in first.result.acceptable_lengths_mm
        if all(x in r.acceptable_lengths_mm for r in results)
    )
    needed = None if None in needs else max(n for n in needs if n is not None)
    result = replace(
        first.result,
        length_needed_min_mm=needed,
        length_allowed_max_mm=min(most, default=None),
        acceptable_lengths_mm=fits,
        chosen_length_mm=fits[0] if fits else None,
    )
    findings = first.findings
    if not fits and first.result.acceptable_lengths_mm:
        text = "No standard length suits the first thread and what lies beyond it."
        findings = (*findings, finding("no length fits", text))
    return replace(first, result=result, findings=findings)


def _nothing_beyond(is_through: bool) -> Finding:
    """Why no nut can sit on the screw's end though one is wanted."""
    if is_through:
        text = (
            "The threaded part is so thick, or so little known, that no screw is sure of an end "
            "beyond it."
        )
        return finding("no length fits", text)
    text = "The first thread is blind: no screw comes out of it to take a nut."
    return finding("nothing beyond a blind thread", text)


def _marks(
    joint: Joint, judged: StackResult, far: tuple[FarNut, ...], around: tuple[float, ...]
) -> tuple[LengthMark, ...]:
    """Lengths on the window's scale; the first thing that speaks against one is said."""
    verdicts = {e.length_mm: e.verdict for e in judged.evaluations}
    for nut in far:
        for e in nut.stack.result.evaluations:
            if verdicts[e.length_mm] == "sound":
                verdicts[e.length_mm] = e.verdict
    return tuple(
        LengthMark(x, verdicts[x], x == joint.length_mm, x == judged.chosen_length_mm)
        for x in around
    )


def _own_findings(
    joint: Joint, judged: Outcome[StackResult], used: float, issues: bool
) -> tuple[Finding, ...]:
    """What speaks against a joint itself, at the length used."""
    chosen = judged.result.chosen_length_mm
    found = [f for f in judged.findings if f.where in ("", f"{used:g} mm")]
    if joint.length_mm is not None and chosen is not None and issues:
        found.append(
            finding(
                "wrong screw in hand",
                f"The stud stands out {entered(used, 'mm')}; this stack asks for one that stands "
                f"out {entered(chosen, 'mm')}: change what lies on it, or the stud."
                if joint.is_stud
                else f"{entered(used, 'mm')} is in hand; this stack asks for "
                f"{entered(chosen, 'mm')}.",
            )
        )
    found += _locked_twice(joint.nut, joint.treatment)
    found += _passage(joint)
    found += _play(joint, judged.result)
    found += (*seat_findings(joint), *plate_findings(joint))
    if joint.proposed:
        words = "Spread from the list: look whether this screw goes here, and confirm or change it."
        found.append(finding("joint proposed", words))
    return tuple(found)


@lru_cache(maxsize=2048)
def assess_joint(joint: Joint, mount: Mount | None) -> JointAssessment:
    """Judge one joint (its plate layers already as thick as the plate)."""
    given = stack_input(joint, mount)
    bare = joint_stack(given)
    # The far nuts' windows do not depend on the length that they are judged at.
    first_length = _drawn_length(joint, bare.result)[0]
    window = _window_of_all(bare, _far_nuts(joint, mount, first_length, ()))
    used, length_is = _drawn_length(joint, window.result)
    around = _scale_lengths(joint.thread, window.result, used)
    judged = joint_stack(
        replace(given, evaluate_lengths_mm=(used, *(x for x in around if x != used)))
    )
    far = _far_nuts(joint, mount, used, around)
    judged = _with_sources(_window_of_all(judged, far), joint)
    evaluation = next(e for e in judged.result.evaluations if e.length_mm == used)
    issues = bool(evaluation.issues) or any(f.evaluation.issues for f in far)
    findings = _own_findings(joint, judged, used, issues)
    findings += _stud(joint, mount)
    findings += ring_findings(joint, mount)
    findings += tuple(f for nut in far for f in nut.findings)
    if joint.beyond and not far:
        findings = (*findings, _nothing_beyond(given.female.is_through))
    marks = _marks(joint, judged.result, far, around)
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
        far=far,
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
        far=tuple(
            FarSection(
                name=nut.engagement.name,
                joint=nut.own,
                female=female_of(nut.own, None)[0],
                evaluation=nut.evaluation,
            )
            for nut in assessed.far
        ),
        seat=seat_of(assessed.joint, mount),
    )


def stack_words(assessed: JointAssessment) -> tuple[str, ...]:
    """What lies between the head and the thread, in order, each with its thickness."""
    joint = assessed.joint
    head = "stud in the bike" if joint.is_stud else f"head, {joint.head}"
    layers = tuple(f"{layer.name} {amount(layer.thickness_mm, 'mm')}" for layer in joint.layers)
    far: list[str] = []
    for nut in assessed.far:
        between = (f"{k.name} {amount(k.thickness_mm, 'mm')}" for k in nut.own.layers[1:])
        far += [*between, f"{nut.engagement.name}, {nut.engagement.nut}"]
    return (head, *layers, "nut" if joint.nut else "thread in the bike", *far)
