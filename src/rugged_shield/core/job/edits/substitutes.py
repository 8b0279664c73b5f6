"""Commands: a line of the kit put to a joint, a substitute put in, a debt paid."""

from __future__ import annotations

from dataclasses import replace

from rugged_shield.core.errors import InputError
from rugged_shield.core.fitup.joint import Joint, place_above_plate
from rugged_shield.core.fitup.presets import nut_by_name, standard_washer, with_nut
from rugged_shield.core.fitup.substitute import Substitute, with_substitute
from rugged_shield.core.job.edits.joints import joint_of
from rugged_shield.core.job.edits.keys import free_key
from rugged_shield.core.job.edits.kit import line_of
from rugged_shield.core.job.edits.path import Change, set_item, unset_item
from rugged_shield.core.job.edits.plates import plate_path
from rugged_shield.core.job.model import Candidate, Job
from rugged_shield.core.kit.hardware import KitLine
from rugged_shield.core.mechanics.threads import nominal_size, screw_size
from rugged_shield.core.tables.grades import NOT_READ

SCREW, NUT, NEW = "screw", "nut", "new"


def _as_screw(joint: Joint, line: KitLine) -> Joint:
    """The joint with the line's screw as its own."""
    if line.thread != joint.thread:
        raise InputError(
            "line",
            line.size,
            f"a screw of {joint.thread}",
            f"{line.thread} does not go into joint {joint.number}, which is {joint.thread}",
        )
    if line.length_mm is None or not line.head:
        raise InputError(
            "line",
            line.name,
            "a screw whose length and head are known",
            f"the length or head of {line.name} is not known yet",
            "Measure it in Kit first.",
        )
    return replace(joint, length_mm=line.length_mm, head=line.head, grade=line.grade or NOT_READ)


def _as_layer(joint: Joint, part: str, line: KitLine) -> Joint:
    """The joint with the line's washer, spacer or sleeve in a layer's place."""
    layer = next((k for k in joint.layers if k.key == part), None)
    if layer is None:
        raise InputError("part", part, "a layer of this joint")
    _check_thread(joint, line)
    if line.length_mm is None:
        raise InputError("line", line.name, "a line whose thickness is known")
    sized = replace(
        layer,
        name=line.name,
        thickness_mm=line.length_mm,
        outer_mm=line.outer_mm or layer.outer_mm,
        hole_mm=line.hole_mm or layer.hole_mm,
    )
    layers = tuple(sized if k.key == part else k for k in joint.layers)
    return replace(joint, layers=layers)


def _check_thread(joint: Joint, line: KitLine) -> None:
    if line.thread and nominal_size(line.thread) != nominal_size(joint.thread):
        raise InputError("line", line.size, f"a part for {joint.thread}")


def _as_nut(joint: Joint, line: KitLine) -> Joint:
    """The joint with the line's nut behind it."""
    if line.kind != "nut" or line.thread != joint.thread:
        raise InputError("line", f"{line.kind} {line.size}", f"a nut of {joint.thread}")
    return with_nut(joint, nut_by_name(line.name, joint.thread))


def _as_new(joint: Joint, line: KitLine) -> Joint:
    """The joint with the line's part added: a washer under the head, a nut, else behind the plate.

    What the list leaves open of a washer's size is that of its standard.
    """
    _check_thread(joint, line)
    if line.kind == "nut":
        return _as_nut(joint, line)
    if line.kind not in ("washer", "spacer", "sleeve", "isolator", "bracket", "pad"):
        raise InputError("line", line.kind, "a washer, spacer, sleeve, isolator, bracket or nut")
    washer = line.kind == "washer"
    base = standard_washer(joint.thread, "large" in line.name.casefold())
    if not washer and line.length_mm is None:
        raise InputError("line", line.name, "a line whose thickness is known")
    layer = replace(
        base,
        key=free_key(line.kind, {k.key for k in joint.layers}),
        kind=line.kind,
        name=line.name,
        material="rubber" if line.kind == "isolator" else base.material,
        thickness_mm=line.length_mm or base.thickness_mm,
        outer_mm=line.outer_mm or base.outer_mm,
        hole_mm=line.hole_mm or base.hole_mm,
    )
    turned = len(joint.layers) if joint.is_stud else 0
    at = turned if washer else place_above_plate(joint)
    return replace(joint, layers=(*joint.layers[:at], layer, *joint.layers[at:]))


def put_line(job: Job, plate: str, line_key: str, joint_key: str, part: str = SCREW) -> Change:
    """A listed part becomes a joint's own: its screw, what a layer of it is, or a new part of it.

    Raises InputError for another thread, and where the list leaves the part's size open.
    """
    candidate = job.as_entered(plate)
    line, joint = line_of(candidate, line_key), joint_of(candidate, joint_key)
    if part == SCREW:
        if line.kind != "screw":
            raise InputError("line", line.kind, "a screw")
        put = _as_screw(joint, line)
    elif part == NUT:
        put = _as_nut(joint, line)
    elif part == NEW:
        put = _as_new(joint, line)
    else:
        put = _as_layer(joint, part, line)
    put = replace(put, proposed=False)
    words = f"{line.name} {line.size} put to joint {joint.number}".replace("  ", " ")
    return set_item(job, f"{plate_path(job, plate)}.joints", put, words)


def confirm_joint(job: Job, plate: str, joint_key: str) -> Change:
    """A joint that was spread from a list was looked at, and is right."""
    joint = joint_of(job.as_entered(plate), joint_key)
    words = f"joint {joint.number} confirmed"
    path = f"{plate_path(job, plate)}.joints"
    return set_item(job, path, replace(joint, proposed=False), words)


def confirm_all(job: Job, plate: str) -> Change:
    """Every joint that was spread from the list was looked at, and is right."""
    candidate = job.as_entered(plate)
    count = sum(1 for j in candidate.joints if j.proposed)
    if not count:
        raise InputError("joints", "", "a joint that is only proposed", "all joints are confirmed")
    joints = tuple(replace(j, proposed=False) for j in candidate.joints)
    changed = job.with_candidate(replace(candidate, joints=joints))
    return Change(changed, f"{count} joints confirmed")


def add_substitute(job: Job, plate: str, asked: Substitute) -> Change:
    """A part used instead of a joint's own, judged with it from now on; its key is found here.

    One that stood in the same place before is paid by it. Raises InputError where it cannot stand.
    """
    candidate = job.as_entered(plate)
    joint = joint_of(candidate, asked.joint)
    places = {SCREW, NUT, *(layer.key for layer in joint.layers)}
    if asked.part not in places:
        raise InputError("part", asked.part, "one of " + ", ".join(sorted(places)))
    key = free_key("debt", {s.key for s in candidate.substitutes})
    sub = replace(asked, key=key)
    with_substitute(joint, sub)
    before = tuple(
        replace(s, paid=True) if (s.joint, s.part) == (sub.joint, sub.part) else s
        for s in candidate.substitutes
    )
    changed = job.with_candidate(replace(candidate, substitutes=(*before, sub)))
    size = screw_size(joint.thread, sub.length_mm) if sub.part == SCREW else ""
    words = f"joint {joint.number}: {sub.name} {size} used instead".replace("  ", " ")
    return Change(changed, words)


def _substitute_of(candidate: Candidate, key: str) -> Substitute:
    sub = next((s for s in candidate.substitutes if s.key == key), None)
    if sub is None:
        raise InputError("substitute", key, "a substitute of this plate")
    return sub


def pay_debt(job: Job, plate: str, key: str) -> Change:
    """The joint has its own part again."""
    sub = _substitute_of(job.as_entered(plate), key)
    if sub.paid:
        raise InputError("substitute", key, "one that is not paid", "this one is paid already")
    path = f"{plate_path(job, plate)}.substitutes"
    return set_item(job, path, replace(sub, paid=True), f"its own part instead of {sub.name}")


def remove_substitute(job: Job, plate: str, key: str) -> Change:
    """Take a substitute out, as if it had never been put in."""
    sub = _substitute_of(job.as_entered(plate), key)
    path = f"{plate_path(job, plate)}.substitutes.{key}"
    return unset_item(job, path, f"{sub.name} taken out")
