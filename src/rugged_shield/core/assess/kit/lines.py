"""What the joints of a job ask of the kit, and how far it goes."""

from __future__ import annotations

from dataclasses import dataclass

from rugged_shield.core.amounts import entered
from rugged_shield.core.assess.fitup.joints import JointAssessment, assess_joints
from rugged_shield.core.fitup.layer import Layer
from rugged_shield.core.job.model import Job, mounted
from rugged_shield.core.kit.hardware import LineState, check_line
from rugged_shield.core.kit.matching import LookAlike, Shared, look_alikes, share_out
from rugged_shield.core.kit.needs import LineKind, Need
from rugged_shield.core.mechanics.threads import screw_size
from rugged_shield.core.result import Finding, Verdict, finding, verdict_of, worst

_LINE_OF_LAYER: dict[str, LineKind] = {
    "washer": "washer",
    "cup washer": "washer",
    "shim": "washer",
    "spacer": "spacer",
    "sleeve": "sleeve",
    "bracket": "bracket",
    "isolator": "isolator",
    "pad": "pad",
}
"""What a layer is in the kit; sheet and parts of the bike are in none."""


def _asked_mm(assessed: JointAssessment) -> float:
    if assessed.joint.length_mm is not None and not assessed.evaluation.issues:
        return assessed.joint.length_mm
    return assessed.stack.result.chosen_length_mm or assessed.length_mm


def _of_layer(assessed: JointAssessment, layer: Layer) -> Need:
    return Need(
        joint=assessed.joint.number,
        joint_key=assessed.joint.key,
        part=layer.key,
        kind=_LINE_OF_LAYER[layer.kind],
        name=layer.name,
        thread=assessed.joint.thread,
        length_mm=layer.thickness_mm,
        outer_mm=None if layer.kind in ("bracket", "isolator", "pad") else layer.outer_mm,
    )


def needs_of(assessed: JointAssessment) -> tuple[Need, ...]:
    """What one joint asks for: its screw (the one in hand where it is right), nut and layers."""
    joint = assessed.joint
    asked = _asked_mm(assessed)
    out: list[Need] = []
    screw = Need(
        joint=joint.number,
        joint_key=joint.key,
        part="screw",
        kind="screw",
        name="screw",
        thread=joint.thread,
        length_mm=asked,
        head=joint.head,
        grade=joint.grade,
        also_mm=tuple(x for x in assessed.stack.result.acceptable_lengths_mm if x != asked),
    )
    if not joint.is_stud:  # a stud is the bike's own
        out.append(screw)
    for layer in joint.present():
        if layer.kind in _LINE_OF_LAYER:
            out.append(_of_layer(assessed, layer))
    clip = any(layer.kind == "clip leaf" for layer in joint.present())
    if joint.nut or clip:
        out.append(
            Need(
                joint=joint.number,
                joint_key=joint.key,
                part="nut",
                kind="clip nut" if clip else "nut",
                name="clip nut" if clip else f"nut {joint.nut}",
                thread=joint.thread,
            )
        )
    return tuple(out)


def need_words(need: Need) -> str:
    """A part that is asked for, as one says it."""
    if need.kind == "screw" and need.length_mm is not None:
        return " ".join(
            p for p in (screw_size(need.thread, need.length_mm), need.head, need.grade) if p
        )
    if need.length_mm is None:
        return f"{need.name} {need.thread}"
    return f"{need.name} {need.thread}, {entered(need.length_mm, 'mm')} thick"


@dataclass(frozen=True)
class KitCheck:
    """The kit of the plate in hand: each line as listed and counted, by key; what is lacking.

    ``findings``: what a joint asks for and no line gives; of a plate without a list, that.
    """

    lines: dict[str, LineState]
    shared: Shared
    alike: tuple[LookAlike, ...]
    needs: tuple[Need, ...]
    findings: tuple[Finding, ...]

    @property
    def verdict(self) -> Verdict:
        """Of all lines that apply and all that is lacking; a kit without a list is not known."""
        judged = [s.verdict for s in self.lines.values()] + [f.verdict for f in self.findings]
        return worst(judged) if self.lines else verdict_of("no list")


def kit_check(job: Job) -> KitCheck:
    """Every line of the kit against the bench and against what the joints ask for."""
    plate = job.in_hand
    needs = tuple(n for a in assess_joints(mounted(job.bike, plate)) for n in needs_of(a))
    shared = share_out(plate.kit, needs)
    counted = job.counted(plate)
    states = {
        line.key: check_line(line, counted.get(line.key), shared.by_line.get(line.key, ()))
        for line in plate.kit
    }
    return KitCheck(states, shared, look_alikes(plate.kit), needs, _lacking(shared))


def _lacking(shared: Shared) -> tuple[Finding, ...]:
    groups: dict[str, list[int]] = {}
    for need in shared.unmet:
        groups.setdefault(need_words(need), []).append(need.joint)
    return tuple(
        finding("not in the kit", f"In no line: {what}, for joint {', '.join(map(str, numbers))}.")
        for what, numbers in groups.items()
    )
