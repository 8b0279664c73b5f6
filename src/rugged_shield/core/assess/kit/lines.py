"""What the joints of a job ask of the kit."""

from __future__ import annotations

from rugged_shield.core.assess.fitup import JointAssessment
from rugged_shield.core.kit import ScrewNeed


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
