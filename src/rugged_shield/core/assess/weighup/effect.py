"""What a change of a plate does: quantities, joints and findings, before and after."""

from __future__ import annotations

from dataclasses import dataclass

from rugged_shield.core.amounts import entered
from rugged_shield.core.assess.fitup.joints import JointAssessment
from rugged_shield.core.assess.fitup.pose import fitted_joints
from rugged_shield.core.assess.weighup.scorecard import Weighed, against
from rugged_shield.core.assess.weighup.table import change_word
from rugged_shield.core.job.model import Job, mounted
from rugged_shield.core.result import Figure, Finding


@dataclass(frozen=True)
class WhatIfRow:
    """One quantity before and after, and the difference in words."""

    key: str
    label: str
    before: Figure
    after: Figure
    change: Figure
    better: str


def what_if_row(before: Figure, after: Figure) -> WhatIfRow:
    """One quantity before and after."""
    change = against(after, before, before.label)
    return WhatIfRow(before.key, before.label, before, after, change, change_word(before, after))


def changed_rows(before: Weighed, after: Weighed, keys: tuple[str, ...]) -> tuple[WhatIfRow, ...]:
    """The quantities named, of which both are known, in their order."""
    return tuple(
        what_if_row(before.figures[key], after.figures[key])
        for key in keys
        if key in before.figures and key in after.figures
    )


def new_findings(before: Weighed, after: Weighed) -> tuple[Finding, ...]:
    """What is said of the plate after that was not said before."""
    said = {f.text for f in before.findings}
    return tuple(f for f in after.findings if f.text not in said)


def _joints(job: Job, plate: str) -> dict[str, JointAssessment]:
    candidate = job.candidate(plate)
    judged = fitted_joints(candidate.plate, mounted(job.bike, candidate))
    return {a.joint.key: a for a in judged}


def changed_joints(before: Job, after: Job, plate: str) -> tuple[str, ...]:
    """Joints whose verdict or screw the change turns over, in words."""
    was, now = _joints(before, plate), _joints(after, plate)
    out = []
    for key, a in now.items():
        old = was.get(key)
        if old is None:
            continue
        parts = []
        if old.length_mm != a.length_mm:
            parts.append(
                f"asks for a screw of {entered(a.length_mm, 'mm')} instead of "
                f"{entered(old.length_mm, 'mm')}"
            )
        if old.verdict != a.verdict:
            parts.append(f"{old.verdict} turns to {a.verdict}")
        if parts:
            out.append(f"Joint {a.joint.number}: {', '.join(parts)}.")
    return tuple(out)
