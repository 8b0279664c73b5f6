"""What a torque does to a joint at the ends of its scatter: too much, too little, the wrong screw.

VDI 2230-1:2015: the largest preload against yield, strip and pressure (R8, R10), the least one
against what the joint must hold (R1, R12).
"""

from __future__ import annotations

import math
from collections.abc import Iterator

from rugged_shield.core.amounts import amount, percent
from rugged_shield.core.fitup.bearing import crushed
from rugged_shield.core.fitup.joint import Joint, clamped
from rugged_shield.core.mechanics import threads
from rugged_shield.core.result import Finding, finding, from_table
from rugged_shield.core.tables.grades import GRADES, NOT_READ
from rugged_shield.core.tables.ratings import NUT_PROOF_MPA
from rugged_shield.core.tighten.faces import counted_grade
from rugged_shield.core.tighten.worked import Worked

FLOOR_SHARE = 0.2
"""Of the proof load of a screw no stronger than 8.8: what a joint of a plate must keep; low
confidence, stands in where no strike load is known."""
NOTHING_SHARE = 0.25
"""Of that floor: below it the joint holds nothing that counts."""
PROOF_OVER_YIELD = 0.9
CRUSHED_SHARE = 1.5
"""Of what a face bears: past this it does not bed in, it gives way."""
RATED_SHARE = 1.5
"""Of what a recess or a thin nut is rated for: past this at the most, it rounds or turns."""


def least_preload_n(joint: Joint) -> float:
    """What a joint must keep of preload, N: a fifth of the proof load, of no more than 8.8."""
    yield_mpa = min(GRADES[counted_grade(joint)].rp02_mpa, GRADES["8.8"].rp02_mpa)
    area = threads.geometry_of(joint.thread).stress_area_mm2
    return FLOOR_SHARE * PROOF_OVER_YIELD * yield_mpa * area


def _face_share(worked: Worked) -> float:
    face = worked.weakest
    if face is None or face.load_limit_n is None:
        return 0.0
    return worked.preload_n[1] / face.load_limit_n


def _too_much(worked: Worked) -> Iterator[Finding]:
    face, pressed = worked.weakest, _face_share(worked)
    rated, of = worked.rated_share
    # Each by what it is at the most, over what is one too much of it.
    shares = [
        (worked.yield_share, 1.0, "the screw at its yield"),
        (worked.strip_share, 1.0, "the thread"),
        (rated, RATED_SHARE, f"the {of}"),
        (pressed, CRUSHED_SHARE, f"the face of {face.weaker}" if face else ""),
    ]
    share, _, what = max(shares, key=lambda s: s[0] / s[1])
    if worked.stands_above and any(own > too_much for own, too_much, _ in shares):
        yield from_table(
            "figure past yield",
            source=worked.decided_by,
            figure=amount(worked.target_nm, "N·m"),
            share=percent(share),
            what=what,
        )
    elif worked.yield_share > 1 or worked.strip_share > 1:
        reached = worked.yield_share > 1
        said = "the screw's yield" if reached else "the strip load of the female thread"
        yield finding("limit reached by scatter", f"Wrench and friction scatter can reach {said}.")
    found = crushed(face, worked.preload_n[1]) if face is not None else None
    if found is not None:
        yield found


def _too_little(worked: Worked) -> Iterator[Finding]:
    if any(layer.is_soft for layer in clamped(worked.joint)):
        return  # rubber is set by feel: its preload is not what holds
    least, floor = worked.preload_n[0], least_preload_n(worked.joint)
    if least >= floor or math.isclose(least, floor):
        return
    yield from_table(
        "no preload left" if least < NOTHING_SHARE * floor else "little preload left",
        target=amount(worked.target_nm, "N·m"),
        least=amount(least, "N", 0),
        floor=amount(floor, "N", 0),
    )


def strength_findings(worked: Worked) -> tuple[Finding, ...]:
    """What speaks against a torque at the most and at the least that it may come to."""
    return (*_too_much(worked), *_too_little(worked))


def _weaker_nut(joint: Joint) -> str:
    """The nut in words where its thread gives way before the screw's; empty where it does not.

    Nut and screw go together by the first number of the screw's class (ISO 898-2, table 3), of
    stainless by the second. A plain nut whose class nobody read is of 8 or 10 at most.
    """
    if not joint.nut or joint.grade == NOT_READ:
        return ""
    if not joint.nut_class:
        return "A plain nut whose class nobody read" if joint.grade == "12.9" else ""
    own, screw = joint.nut_class, joint.grade
    if "-" in own and "-" in screw:
        weak = int(own.split("-")[1]) < int(screw.split("-")[1])
    elif "-" not in own and "." in screw:
        weak = int(own) < int(screw.split(".")[0])
    else:  # one of them stainless, or of inches: by what each is proved to
        weak = NUT_PROOF_MPA[joint.nut_class] < PROOF_OVER_YIELD * threads.grade_of(screw).rp02_mpa
    return f"A nut of {joint.nut_class}" if weak else ""


def screw_findings(joint: Joint) -> tuple[Finding, ...]:
    """Treatments that are not the screw's own, and nuts that are weaker than it."""
    found = []
    if joint.grade != NOT_READ:
        stainless = threads.grade_of(joint.grade).stainless
        wrong = "dry zinc" if stainless else "dry stainless"
        if joint.treatment == wrong:
            found.append(
                from_table("treatment does not suit", grade=joint.grade, treatment=joint.treatment)
            )
    weaker = _weaker_nut(joint)
    if weaker:
        found.append(from_table("nut weaker than the screw", nut=weaker, grade=joint.grade))
    return tuple(found)
