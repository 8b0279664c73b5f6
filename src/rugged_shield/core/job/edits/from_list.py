"""Joints proposed from a hardware list: its screws spread over the mounts that the bike has."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import partial

from rugged_shield.core.errors import InputError
from rugged_shield.core.fitup.joint import Joint, Stage, stack_input, with_plate
from rugged_shield.core.fitup.layer import Layer
from rugged_shield.core.fitup.presets import PresetRequest, joint_from_preset, nut_by_name, with_nut
from rugged_shield.core.fitup.stack import joint_stack
from rugged_shield.core.job.edits.keys import Spent, free_key
from rugged_shield.core.job.edits.path import Change
from rugged_shield.core.job.model import Candidate, Job
from rugged_shield.core.kit.hardware import KitLine
from rugged_shield.core.mechanics import threads
from rugged_shield.core.survey.bike import Mount
from rugged_shield.core.survey.mount_kinds import with_kind
from rugged_shield.core.tables.grades import NOT_READ
from rugged_shield.core.tables.heads import HEADS
from rugged_shield.core.tables.materials import LAYER_MATERIALS


@dataclass(frozen=True)
class Spread:
    """A screw of the list on a mount of the bike."""

    line: KitLine
    mount: Mount


def _rows(mounts: tuple[Mount, ...]) -> list[list[Mount]]:
    """Mounts from front to rear; a left and a right one that mirror each other go together."""
    rows: list[list[Mount]] = []
    for mount in sorted(mounts, key=lambda m: (m.x_mm, m.number)):
        pair = next(
            (
                row
                for row in rows
                if len(row) == 1
                and abs(row[0].x_mm - mount.x_mm) < 15
                and abs(row[0].y_mm + mount.y_mm) < 15
            ),
            None,
        )
        if pair is None:
            rows.append([mount])
        else:
            pair.append(mount)
    return rows


def _usable(line: KitLine) -> bool:
    """A screw whose size and head are said can be given a joint."""
    if line.kind != "screw" or line.length_mm is None or not line.head:
        return False
    return threads.nominal_size(line.thread) in HEADS[line.head].rows


Suits = Callable[[KitLine, Mount], bool]


def spread(
    lines: tuple[KitLine, ...], mounts: tuple[Mount, ...], suits: Suits = lambda _l, _m: True
) -> tuple[Spread, ...]:
    """Screws over mounts: a row of mounts takes one kind of screw, its own thread before others.

    Of several the first that ``suits`` its mounts, else the first. Where the thread of a mount is
    only assumed, a screw of another thread may take it.
    """
    screws = [line for line in lines if _usable(line)]
    left = Counter({line.key: line.count for line in screws})
    out: list[Spread] = []
    waiting = []
    for row in _rows(mounts):
        own = [k for k in screws if all(m.thread == k.thread for m in row)]
        line = _for_row(own, left, row, suits)
        if line is None:
            waiting.append(row)
            continue
        out += _taken(line, row, left)
    for row in waiting:
        if all(m.known == "assumed" for m in row):
            line = _for_row(screws, left, row, suits)
            out += _taken(line, row, left) if line is not None else []
    return tuple(sorted(out, key=lambda s: s.mount.number))


def _for_row(
    screws: list[KitLine], left: Counter[str], row: list[Mount], suits: Suits
) -> KitLine | None:
    """The screw for a row, of those of which enough are left."""
    enough = [line for line in screws if left[line.key] >= len(row)]
    right = (line for line in enough if all(suits(line, mount) for mount in row))
    return next(right, enough[0] if enough else None)


def _taken(line: KitLine, row: list[Mount], left: Counter[str]) -> list[Spread]:
    left[line.key] -= len(row)
    return [Spread(line, mount) for mount in row]


def _share(lines: tuple[KitLine, ...], kind: str, thread: str, joints: int) -> list[KitLine]:
    """Listed parts of a kind of which there are enough for every joint of a thread."""
    size = threads.nominal_size(thread)
    return [
        line
        for line in lines
        if line.kind == kind
        and line.thread
        and threads.nominal_size(line.thread) == size
        and line.count >= joints
    ]


def _with_listed(
    joint: Joint, lines: tuple[KitLine, ...], joints: int, over: Joint, head: str
) -> Joint:
    """The joint with the washers, spacers and sleeves that the list has enough of.

    No flat washer goes under a countersunk head: its cone would bear on the rim alone.
    """
    layers = [k for k in joint.layers if k.kind != "washer"]
    flat = HEADS[head].form != "countersunk"
    washers = _share(lines, "washer", joint.thread, joints) if flat else []
    if washers:
        layer = next(k for k in over.layers if k.kind == "washer")
        layers.insert(0, _as_listed(layer, washers[0]))
    for kind in ("spacer", "sleeve"):
        listed = [k for k in _share(lines, kind, joint.thread, joints) if k.length_mm is not None]
        if listed and not any(k.kind == kind for k in layers):
            at = max(i for i, k in enumerate(layers) if k.clamps_plate)
            base = next(k for k in over.layers if k.kind == "washer")
            new = replace(base, key=kind, kind=kind, name=kind)
            layers.insert(at + 1 if kind == "spacer" else at, _as_listed(new, listed[0]))
    return replace(joint, layers=tuple(layers))


def _as_listed(layer: Layer, line: KitLine) -> Layer:
    return replace(
        layer,
        name=line.name,
        thickness_mm=line.length_mm or layer.thickness_mm,
        outer_mm=line.outer_mm or layer.outer_mm,
        hole_mm=line.hole_mm or layer.hole_mm,
        known="printed" if line.length_mm is not None or layer.kind == "washer" else "assumed",
    )


def _joint(
    put: Spread, candidate: Candidate, number: int, key: str, same: int, stage: Stage
) -> Joint:
    """A joint as the list lets one think it is; to be looked at."""
    plate, mount = candidate.plate, put.mount
    soft = LAYER_MATERIALS[plate.material].plastic
    sleeves = _share(candidate.kit, "sleeve", put.line.thread, same)

    def start(preset: str) -> Joint:
        return joint_from_preset(
            PresetRequest(
                preset=preset,
                key=key,
                number=number,
                thread=put.line.thread,
                plate_thickness_mm=plate.thickness_mm,
                plate_material=plate.material,
                x_mm=mount.x_mm,
                y_mm=mount.y_mm,
                stage=stage,
            )
        )

    behind = _share(candidate.kit, "nut", put.line.thread, same)
    nutted = bool(behind) and mount.female_kind == "through_tapped" and mount.known == "assumed"
    joint = start("sleeve in plastic" if soft and sleeves else "tapped boss")
    if nutted:
        joint = start("through nut")
    joint = _with_listed(joint, candidate.kit, same, start("tapped boss"), put.line.head)
    joint = replace(
        joint,
        name=mount.name,
        mount=mount.key,
        head=put.line.head,
        grade=put.line.grade or NOT_READ,
        length_mm=put.line.length_mm,
        treatment=put.line.treatment or joint.treatment,
        proposed=True,
        known="printed",
    )
    if nutted:
        return with_nut(joint, nut_by_name(behind[0].name, joint.thread))
    return replace(
        joint, female=None, female_material="", female_known="printed", x_mm=None, y_mm=None
    )


def _suits(candidate: Candidate, line: KitLine, mount: Mount) -> bool:
    """Whether the stack that the list makes one think of takes this length."""
    as_screw = with_kind(mount, mount.kind, line.thread)
    joint = _joint(Spread(line, as_screw), candidate, 1, "try", 1, "front")
    settled = with_plate(joint, candidate.plate.thickness_mm, candidate.plate.material)
    return (
        line.length_mm in joint_stack(stack_input(settled, as_screw)).result.acceptable_lengths_mm
    )


def propose_joints(job: Job, plate: str, spent: Spent) -> Change:
    """Joints from the plate's list onto mounts that have none, each to confirm or change.

    A mount whose thread was only assumed takes the thread of its screw. Raises InputError where
    the list has no screw whose size and head are said, or every mount has its joint.
    """
    candidate = job.as_entered(plate)
    taken = {j.mount for j in candidate.joints}
    free = tuple(m for m in job.bike.mounts if m.key not in taken)
    if not free:
        raise InputError("mounts", "", "a mount without a joint", "every mount has its joint")
    put = spread(candidate.kit, free, partial(_suits, candidate))
    if not put:
        raise InputError(
            "kit",
            "",
            "a screw with thread, length and head",
            "no screw of the list can be put to a mount",
            "Measure what the list leaves out, then propose again.",
        )
    mounts = {s.mount.key: s for s in put if s.mount.thread != s.line.thread}
    bike = replace(
        job.bike,
        mounts=tuple(
            with_kind(m, m.kind, mounts[m.key].line.thread) if m.key in mounts else m
            for m in job.bike.mounts
        ),
    )
    of_thread = Counter(threads.nominal_size(s.line.thread) for s in put)
    joints = list(candidate.joints)
    names = {*spent, *(j.key for j in joints)}
    middle = sum(s.mount.x_mm for s in put) / len(put)
    for s in put:
        key = free_key("own", names)
        names.add(key)
        number = next(n for n in range(1, 100) if all(j.number != n for j in joints))
        same = of_thread[threads.nominal_size(s.line.thread)]
        stage: Stage = "locate" if s.mount.x_mm >= middle else "front"
        joints.append(_joint(s, candidate, number, key, same, stage))
    changed = replace(job, bike=bike).with_candidate(replace(candidate, joints=tuple(joints)))
    return Change(changed, f"{len(put)} joints proposed from the list")
