"""A plate from its shape, sheet and overall sizes, hung on the mounts that it reaches.

Whatever nobody said is taken as usual and stays assumed; its joints are proposals.
"""

from __future__ import annotations

from dataclasses import dataclass, fields, replace
from functools import reduce

from shapely import Point

from rugged_shield.core.errors import choose
from rugged_shield.core.fitup.joint import Joint, Stage
from rugged_shield.core.job.edits.joints import NewJoint, add_joint
from rugged_shield.core.job.edits.keys import Spent
from rugged_shield.core.job.edits.path import Change
from rugged_shield.core.job.edits.plates import new_plate
from rugged_shield.core.job.edits.stacks import LEAST_SPACER_MM, beside, spacer_beside
from rugged_shield.core.job.model import Candidate, Job
from rugged_shield.core.judgement.known import Fact, with_fact
from rugged_shield.core.mechanics import threads
from rugged_shield.core.survey.bike import Mount
from rugged_shield.core.survey.geometry import fold, panel_under
from rugged_shield.core.survey.plate import Belly, Plate
from rugged_shield.core.survey.plate_shapes import (
    SHAPES,
    SHEETS,
    UNKNOWN_SHEET,
    OverallSizes,
    Shape,
    belly_over,
    shaped,
    usual_sizes,
)
from rugged_shield.core.tables.materials import SHEET_MATERIALS

EDGE_DIAMETERS = 1.5
"""Nearer to a plate's edge than so many screw diameters no mount is taken to hold it."""


@dataclass(frozen=True, kw_only=True)
class PlateSaid:
    """What somebody said of a plate; None and empty: not known. Sizes over all, mm."""

    shape: Shape
    sheet: str = ""
    name: str = ""
    thickness_mm: float | None = None
    length_mm: float | None = None
    width_mm: float | None = None
    height_mm: float | None = None
    claimed_mass_kg: float | None = None
    price: float | None = None


def _sizes(job: Job, said: PlateSaid) -> OverallSizes:
    """What was said of the sizes, the rest as usual for the shape on this bike."""
    usual = usual_sizes(said.shape, job.bike, job.stock.plate)
    own = {f.name: getattr(said, f.name) for f in fields(usual)}
    return replace(usual, **{name: value for name, value in own.items() if value is not None})


def _name(job: Job, said: PlateSaid, thickness_mm: float) -> str:
    """As it was called; else by its sheet and thickness, told from others of the same."""
    own = " ".join(said.name.split())
    if own:
        return own
    sheet = SHEETS[said.sheet].words if said.sheet else "Unknown sheet"
    base = f"{sheet} {thickness_mm:g} mm, {said.shape}" if said.sheet else f"{sheet}, {said.shape}"
    taken = {c.plate.name for c in job.candidates}
    names = (base if n == 1 else f"{base} {n}" for n in range(1, len(taken) + 2))
    return next(name for name in names if name not in taken)


def _top_mm(job: Job, over: Belly) -> float:
    """Upper face of the sheet: where the stock one's is, or lower where a mount stands lower."""
    return min([over.z_front_mm + job.stock.plate.thickness_mm, *(m.z_mm for m in job.bike.mounts)])


def _plate(job: Job, plate: Plate, said: PlateSaid) -> Plate:
    start = SHEETS[said.sheet or UNKNOWN_SHEET]
    over = belly_over(job.bike, job.stock.plate)
    thick = said.thickness_mm or start.thickness_mm
    low = _top_mm(job, over) - thick
    plate = replace(plate, material=start.material, thickness_mm=thick)
    made = shaped(
        plate, said.shape, _sizes(job, said), replace(over, z_front_mm=low, z_rear_mm=low)
    )
    made = replace(made, claimed_mass_kg=said.claimed_mass_kg, price=said.price or 0.0)
    for name in ("thickness_mm", "claimed_mass_kg"):
        if getattr(said, name) is not None:
            made = with_fact(made, Fact(name, "printed"))
    return made


def _reached(plate: Plate, mounts: tuple[Mount, ...]) -> tuple[Mount, ...]:
    """Mounts over the belly, far enough from its edges to hold it there."""
    folded, found = fold(plate), []
    for mount in mounts:
        under = panel_under(folded, mount.x_mm, mount.y_mm)
        if under is None or under[0].name != "belly":
            continue
        rim = under[0].outline.exterior.distance(Point(under[1]))
        if rim >= EDGE_DIAMETERS * threads.row_of(mount.thread).d_mm:
            found.append(mount)
    return tuple(found)


def _hung(job: Job, plate: Plate, mounts: tuple[Mount, ...], spent: Spent) -> Candidate:
    """The plate's candidate with a joint on each mount, a spacer where there is air."""
    soft = SHEET_MATERIALS[plate.material].plastic
    preset = "sleeve in plastic" if soft else "tapped boss"
    middle = sum(m.x_mm for m in mounts) / max(1, len(mounts))

    def put(so_far: Job, mount: Mount) -> Job:
        stage: Stage = "locate" if mount.x_mm >= middle else "front"
        asked = NewJoint(preset=preset, stage=stage, mount=mount.key)
        return add_joint(so_far, plate.key, asked, spent).job

    held = reduce(put, mounts, job).candidate(plate.key)
    top = plate.belly.z_front_mm + plate.thickness_mm
    air = {m.key: m.z_mm - top for m in mounts}
    return replace(held, joints=tuple(_proposed(j, air[j.mount]) for j in held.joints))


def _proposed(joint: Joint, air_mm: float) -> Joint:
    """The joint as a proposal with nothing of it known, so much air filled, mm."""
    if air_mm > LEAST_SPACER_MM:
        joint = beside(joint, spacer_beside(joint.layers[0], air_mm), above=True)
    layers = tuple(x if x.clamps_plate else replace(x, known="assumed") for x in joint.layers)
    return replace(joint, layers=layers, length_mm=None, known="assumed", proposed=True)


def add_shaped(job: Job, said: PlateSaid, spent: Spent) -> Change:
    """A plate as it was told, on the mounts it reaches; all of it that was not said is assumed.

    Raises InputError for a shape or sheet that is not there, sizes that leave no belly, and as
    many plates as a job can hold.
    """
    choose("shape", said.shape, SHAPES, "shape")
    if said.sheet:
        choose("sheet", said.sheet, SHEETS, "sheet")
    thick = said.thickness_mm or SHEETS[said.sheet or UNKNOWN_SHEET].thickness_mm
    begun = new_plate(job, _name(job, said, thick), spent).job
    candidate = begun.in_hand
    plate = _plate(job, candidate.plate, said)
    begun = begun.with_candidate(replace(candidate, plate=plate))
    mounts = _reached(plate, job.bike.mounts)
    hung = begun.with_candidate(_hung(begun, plate, mounts, spent))
    on = f"on {len(mounts)} mounts" if mounts else "over no mount"
    return Change(hung, f"plate “{plate.name}” added: {said.shape} {on}")
