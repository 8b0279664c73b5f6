"""What was seen under the bike beside the joints' own stacks: holes, gaps, neighbours."""

from __future__ import annotations

from dataclasses import replace

from rugged_shield.core.assess.fitup.holes import holes_judged
from rugged_shield.core.assess.fitup.neighbours import neighbours_judged
from rugged_shield.core.assess.fitup.pieces import pieces_judged
from rugged_shield.core.assess.tighten.draw_home import draw_home
from rugged_shield.core.job.model import Job, mounted
from rugged_shield.core.result import Finding
from rugged_shield.core.tighten.tools import reaches


def fit_seen(job: Job) -> dict[str, tuple[Finding, ...]]:
    """Findings of the plate in hand by what was looked at; what nobody began is left out.

    Before anybody has looked, the joints' stacks are all that is said; from the first look on,
    what is still to look at is not known.
    """
    joints = mounted(job.bike, job.in_hand)
    held = [at.joint.seen for at in joints if at.joint.hangs_plate]
    plate = job.in_hand.plate
    found: dict[str, tuple[Finding, ...]] = {}
    if any(seen.offset_mm is not None for seen in held):
        found["holes"] = holes_judged(plate, joints).findings
    if any(seen.gap_mm is not None for seen in held):
        found["gaps"] = draw_home(plate, joints, job.wrench).findings
    entered = job.as_entered(job.in_hand.key)
    counts_on = any(layer.piece for j in entered.joints for layer in j.present())
    if plate.pieces or entered.hole_sets or counts_on:
        found["pieces"] = pieces_judged(job, plate.key, reaches).findings
    if job.bike.neighbours:
        near = neighbours_judged(job, job.in_hand)
        found["neighbours"] = tuple(
            replace(f, where=n.key or "front wheel") for n in near for f in n.findings
        )
    return found
