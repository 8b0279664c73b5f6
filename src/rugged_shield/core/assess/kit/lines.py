"""What the joints of a job ask of the kit."""

from __future__ import annotations

from dataclasses import dataclass

from rugged_shield.core.assess.fitup import JointAssessment, assess_joints
from rugged_shield.core.job import Job, mounted
from rugged_shield.core.kit import LineState, ScrewNeed, check_line, to_buy


def _asked_mm(assessed: JointAssessment) -> float:
    if assessed.joint.length_mm is not None and not assessed.evaluation.issues:
        return assessed.joint.length_mm
    return assessed.stack.result.chosen_length_mm or assessed.length_mm


def screw_needs(assessed: tuple[JointAssessment, ...]) -> tuple[ScrewNeed, ...]:
    """The screws the joints ask for: the one in hand where it is right, else the chosen one."""
    return tuple(
        ScrewNeed(
            a.joint.thread,
            _asked_mm(a),
            a.joint.head,
            a.joint.number,
        )
        for a in assessed
    )


@dataclass(frozen=True)
class KitCheck:
    """The kit of the plate in hand: each line as listed and counted, by key; what is to buy."""

    lines: dict[str, LineState]
    buy: tuple[ScrewNeed, ...]


def kit_check(job: Job) -> KitCheck:
    """Every line of the kit against the bench and against what the joints ask for."""
    plate = job.in_hand
    needs = screw_needs(assess_joints(mounted(job.bike, plate)))
    counted = job.counted(plate)
    lines = job.as_entered(plate.key).kit
    states = {line.key: check_line(line, counted.get(line.key), needs) for line in lines}
    return KitCheck(states, to_buy(plate.kit, needs))
