"""Commands on the joints of a plate: a joint from a starting point, layers with their defaults."""

from __future__ import annotations

from dataclasses import dataclass, replace

from rugged_shield.core.amounts import entered
from rugged_shield.core.errors import InputError
from rugged_shield.core.fitup.engagement import Engagement, Nut
from rugged_shield.core.fitup.joint import (
    BENCH,
    Joint,
    Stage,
    clamped,
    clearance_hole_mm,
    place_above_plate,
)
from rugged_shield.core.fitup.layer import Layer, LayerKind
from rugged_shield.core.fitup.presets import PresetRequest, joint_from_preset
from rugged_shield.core.fitup.stack_model import Countersink
from rugged_shield.core.job.edits.keys import Spent, free_key
from rugged_shield.core.job.edits.path import Change, set_item, unset_item
from rugged_shield.core.job.edits.plates import plate_path
from rugged_shield.core.job.edits.stacks import LOOSE_OUTER, joined
from rugged_shield.core.job.model import Candidate, Job
from rugged_shield.core.mechanics.threads import is_inch

LOOSE_TOL_MM = 0.1
UNDER_HEAD = "under the head"
"""A place for a new layer: before all others. No layer's key can read so."""


@dataclass(frozen=True, kw_only=True)
class NewJoint:
    """A joint to build: its starting point, on a mount or at a place of its own (mm).

    ``joins``: it holds this piece to the plate. That one, and one of the bench, needs no place.
    """

    preset: str
    stage: Stage
    mount: str = ""
    thread: str = "M8"
    x_mm: float | None = None
    y_mm: float | None = None
    joins: str = ""


@dataclass(frozen=True)
class NewLayer:
    """A layer to add: what it is, of what, how thick (mm); ``after`` names the layer before it."""

    kind: LayerKind
    material: str
    thickness_mm: float
    after: str = ""


def joint_of(candidate: Candidate, key: str) -> Joint:
    """The joint of that key as it was entered; raises InputError."""
    for joint in candidate.joints:
        if joint.key == key:
            return joint
    raise InputError("joint", key, "a joint of this plate", f"there is no joint “{key}”")


def _started(
    job: Job,
    candidate: Candidate,
    asked: NewJoint,
    place: tuple[float | None, float | None],
    spent: Spent,
) -> Joint:
    """The joint as its starting point gives it, under a key and number of its own."""
    taken = {j.number for j in candidate.joints}
    mount = job.bike.mount(asked.mount)
    started = joint_from_preset(
        PresetRequest(
            preset=asked.preset,
            key=free_key("own", {*spent, *(j.key for j in candidate.joints)}),
            number=next(n for n in range(1, 100) if n not in taken),
            thread=mount.thread if mount is not None else asked.thread,
            plate_thickness_mm=candidate.plate.thickness_mm,
            plate_material=candidate.plate.material,
            x_mm=place[0] or 0.0,
            y_mm=place[1] or 0.0,
            stage=asked.stage,
        )
    )
    return replace(started, x_mm=place[0], y_mm=place[1])


def _on_mount(job: Job, candidate: Candidate, asked: NewJoint, spent: Spent) -> Joint:
    """A joint on one of the bike's mounts: its place and thread; its own female if that fits."""
    mount = job.bike.mount(asked.mount)
    if mount is None:
        allowed = "one of " + ", ".join(m.key for m in job.bike.mounts)
        raise InputError("mount", asked.mount, allowed)
    joint = _started(job, candidate, asked, (mount.x_mm, mount.y_mm), spent)
    joint = replace(joint, mount=mount.key, name=f"{asked.preset}, {mount.name}")
    if joint.is_stud:
        return replace(joint, x_mm=None, y_mm=None)
    if joint.thread_owner == "bike" and not joint.nut:
        return replace(joint, female=None, female_material="", x_mm=None, y_mm=None)
    return joint


def _off_the_bike(job: Job, candidate: Candidate, asked: NewJoint, spent: Spent) -> Joint:
    """A joint between two parts: on the bench, or to a piece; its place only where it was said."""
    if (asked.x_mm is None) != (asked.y_mm is None):
        raise InputError(
            "x_mm" if asked.x_mm is None else "y_mm",
            "",
            "both numbers of its place, or none",
            "half of a place was entered",
        )
    joint = _started(job, candidate, asked, (asked.x_mm, asked.y_mm), spent)
    if not asked.joins:
        return joint
    held = joined(joint, candidate.plate, asked.joins)
    piece = next(p for p in candidate.plate.pieces if p.key == asked.joins)
    return replace(held, name=f"{piece.name} to the plate", length_mm=None)


def add_joint(job: Job, plate: str, asked: NewJoint, spent: Spent) -> Change:
    """A joint of one's own on a plate, from a starting point, under a key that is not ``spent``.

    Raises InputError where neither a mount nor a place is given, nor a piece that it holds.
    """
    candidate = job.as_entered(plate)
    if asked.joins or asked.stage == BENCH:
        joint = _off_the_bike(job, candidate, asked, spent)
    elif asked.mount:
        joint = _on_mount(job, candidate, asked, spent)
    else:
        for field, value in (("x_mm", asked.x_mm), ("y_mm", asked.y_mm)):
            if value is None:
                raise InputError(field, "", "a place on the bike in mm", "nothing was entered")
        joint = _started(job, candidate, asked, (asked.x_mm or 0.0, asked.y_mm or 0.0), spent)
    words = f"joint {joint.number} added: {joint.name}"
    return set_item(job, f"{plate_path(job, plate)}.joints", joint, words)


def remove_joint(job: Job, plate: str, key: str) -> Change:
    """Take a joint out of a plate."""
    number = joint_of(job.as_entered(plate), key).number
    return unset_item(job, f"{plate_path(job, plate)}.joints.{key}", f"joint {number} taken out")


def layer_of(joint: Joint, asked: NewLayer) -> Layer:
    """A layer with the size usual for its kind, under a key of its own in the joint."""
    hole = clearance_hole_mm(joint.thread)
    return Layer(
        key=free_key("own", {layer.key for layer in joint.layers}),
        kind=asked.kind,
        name=asked.kind,
        material=asked.material,
        thickness_mm=asked.thickness_mm,
        tol_mm=LOOSE_TOL_MM,
        outer_mm=max(round(hole * LOOSE_OUTER.get(asked.kind, 3.0), 1), hole + 2),
        hole_mm=hole,
        known="guessed",
    )


def place_after(joint: Joint, after: str) -> int:
    """Index behind the layer named; without a name between the plate and the bike."""
    if after == UNDER_HEAD:
        return 0
    if after:
        at = next((i for i, k in enumerate(joint.layers) if k.key == after), None)
        if at is None:
            raise InputError("after", after, "a layer of this joint")
        return at + 1
    return place_above_plate(joint)


def add_layer(job: Job, plate: str, key: str, asked: NewLayer) -> Change:
    """A washer, spacer, shim or other layer into a joint, with the size usual for its kind."""
    joint = joint_of(job.as_entered(plate), key)
    layer, at = layer_of(joint, asked), place_after(joint, asked.after)
    changed = replace(joint, layers=(*joint.layers[:at], layer, *joint.layers[at:]))
    words = f"{layer.kind} of {entered(layer.thickness_mm, 'mm')} added at joint {joint.number}"
    return set_item(job, f"{plate_path(job, plate)}.joints", changed, words)


def add_far_nut(job: Job, plate: str, key: str) -> Change:
    """A nut on the end of a joint's screw, beyond the thread that it goes through."""
    joint = joint_of(job.as_entered(plate), key)
    own = free_key("far", {far.key for far in joint.beyond})
    name = "far nut" if not joint.beyond else f"far nut {len(joint.beyond) + 1}"
    nut: Nut = "ASME B18.2.2" if is_inch(joint.thread) else "ISO 4032"
    far = Engagement(key=own, name=name, nut=nut)
    changed = replace(joint, beyond=(*joint.beyond, far))
    words = f"{name} added at joint {joint.number}"
    return set_item(job, f"{plate_path(job, plate)}.joints", changed, words)


def remove_far_nut(job: Job, plate: str, key: str, far: str) -> Change:
    """Take a nut off the end of a joint's screw."""
    joint = joint_of(job.as_entered(plate), key)
    path = f"{plate_path(job, plate)}.joints.{key}.beyond.{far}"
    return unset_item(job, path, f"far nut taken off joint {joint.number}")


def enter_sink(
    job: Job, plate: str, key: str, diameter_mm: float, angle_deg: float | None, below_mm: float
) -> Change:
    """The sink under a joint's countersunk head, as it was measured; its hole is the layer's.

    ``angle_deg`` None: nobody knows it.
    """
    joint = joint_of(job.as_entered(plate), key)
    if not joint.is_countersunk:
        raise InputError(
            "head", joint.head, "a countersunk head", f"joint {joint.number} has no cone to sink"
        )
    sink = Countersink(
        sink_diameter_mm=diameter_mm,
        hole_diameter_mm=clamped(joint)[0].hole_mm,
        angle_deg=angle_deg,
        head_below_surface_mm=below_mm,
    )
    words = f"sink of {entered(diameter_mm, 'mm')} entered at joint {joint.number}"
    changed = replace(joint, countersink=sink)
    return set_item(job, f"{plate_path(job, plate)}.joints", changed, words)


def remove_layer(job: Job, plate: str, key: str, layer: str) -> Change:
    """Take a layer out of a joint for good."""
    joint = joint_of(job.as_entered(plate), key)
    path = f"{plate_path(job, plate)}.joints.{key}.layers.{layer}"
    return unset_item(job, path, f"layer taken out at joint {joint.number}")
