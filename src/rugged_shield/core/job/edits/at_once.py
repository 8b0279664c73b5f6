"""What a sheet says once for all joints: a treatment, and torques by the size of the screw."""

from __future__ import annotations

import re
from dataclasses import replace

from rugged_shield.core.amounts import System, amount
from rugged_shield.core.errors import InputError, choose
from rugged_shield.core.fitup.joint import Joint
from rugged_shield.core.job.edits.path import Change, read_field
from rugged_shield.core.job.model import Job
from rugged_shield.core.tables.friction import CONDITIONS
from rugged_shield.core.tables.threads import THREADS

_PAIR = re.compile(
    r"\s*(M\s?\d+(?:\s?[x×]\s?\d+(?:[.,]\d+)?)?|\S+?)\s*(?:[=:]|\s)\s*(\d.*?)\s*", re.I
)
_APART = re.compile(r"[;\n]|,\s+")


def torques_by_size(text: str, system: System) -> dict[str, float]:
    """“M6 = 10, M8 = 20” as torques N·m by thread; each with a unit or in the reader's own.

    Raises InputError for what is no pair, a thread that is in no standard, a size said twice.
    """
    found: dict[str, float] = {}
    for part in filter(str.strip, _APART.split(text)):
        pair = _PAIR.fullmatch(part)
        if pair is None:
            raise InputError("torques", part.strip(), "a size and its torque, such as M6 = 10")
        thread = _thread(pair[1])
        if thread in found:
            raise InputError("torques", thread, "each size once")
        found[thread] = read_field(Joint, "sheet_torque_nm", pair[2], f"torques.{thread}", system)
    return found


def _thread(word: str) -> str:
    bare = re.sub(r"\s", "", word).replace("×", "x").replace(",", ".").upper().replace("X", "x")
    by_name = {name.replace("×", "x").upper().replace("X", "x"): name for name in THREADS}
    if bare not in by_name:
        raise InputError("torques", word, "one of " + ", ".join(THREADS))
    return by_name[bare]


def all_at_once(
    job: Job, plate: str, *, treatment: str = "", torques: str = "", system: System = "metric"
) -> Change:
    """One treatment on every thread of a plate, and the sheet's torque at every screw of a size.

    Raises InputError where nothing was said, a treatment is not known, or no joint has a size.
    """
    candidate = job.as_entered(plate)
    if treatment:
        choose("treatment", treatment, CONDITIONS, "treatment")
    by_size = torques_by_size(torques, system)
    if not treatment and not by_size:
        raise InputError("torques", "", "a treatment, or torques by size", "nothing was said")
    of_size = {j.thread for j in candidate.joints}
    for thread in by_size:
        if thread not in of_size:
            raise InputError(
                "torques", thread, "a size of this plate: " + ", ".join(sorted(of_size))
            )
    joints = tuple(_said(j, treatment, by_size) for j in candidate.joints)
    if joints == candidate.joints:
        raise InputError("torques", "", "something new", "every joint says so already")
    changed = sum(a != b for a, b in zip(joints, candidate.joints, strict=True))
    words = [f"{CONDITIONS[treatment].label} on every thread"] if treatment else []
    words += [f"{thread} {amount(nm, 'N·m')} by the sheet" for thread, nm in by_size.items()]
    return Change(
        job.with_candidate(replace(candidate, joints=joints)),
        f"{changed} joint{'' if changed == 1 else 's'}: {', '.join(words)}",
    )


def _said(joint: Joint, treatment: str, by_size: dict[str, float]) -> Joint:
    torque = by_size.get(joint.thread, joint.sheet_torque_nm)
    return replace(joint, treatment=treatment or joint.treatment, sheet_torque_nm=torque)
