"""A what-if on a copy of a plate: nothing of the job changes until the copy is kept."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Annotated, Literal

from rugged_shield.core.amounts import entered, in_system
from rugged_shield.core.errors import InputError, choose
from rugged_shield.core.fitup.joint import Joint, place_above_plate
from rugged_shield.core.fitup.layer import Layer
from rugged_shield.core.job.edits.keys import Spent, free_key
from rugged_shield.core.job.edits.path import Change
from rugged_shield.core.job.edits.plates import unweighed
from rugged_shield.core.job.model import MAX_PLATES, Candidate, Job
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.survey.bike import Spring
from rugged_shield.core.survey.plate import Plate, Wing
from rugged_shield.core.tables.materials import SHEET_MATERIALS

MountChange = Literal["", "isolator", "strip", "bracket", "stiff", "spring"]
WHAT_IF_KEY = "what-if"
THINNEST_SPACER_MM = 0.5
Thickness = Annotated[float | None, Range(0.5, 25.0, "mm")]


@dataclass(frozen=True, kw_only=True)
class WhatIf(Ranged):
    """What is tried on a copy of ``plate``; empty and None leave it as it is.

    ``held`` puts an isolator, a sacrificial strip or a soft bracket into the joints named,
    takes them out (stiff), or hangs them on something of ``spring_n_per_mm`` (spring).
    ``cutout`` is closed by a door; ``wing_longer_mm`` is added to the slant of both wings.
    ``slider``: a plastic under the belly, “none” takes it off.
    """

    plate: str
    thickness_mm: Thickness = None
    material: str = ""
    slider: str = ""
    slider_thickness_mm: Annotated[float | None, Range(1.0, 25.0, "mm")] = None
    mount_change: MountChange = ""
    joints: tuple[str, ...] = ()
    isolator_height_mm: Annotated[float, Range(4.0, 40.0, "mm")] = 10.0
    spring_n_per_mm: Spring = None
    wing_longer_mm: Annotated[float, Range(-200.0, 300.0, "mm")] = 0.0
    cutout: str = ""
    heat_foil: bool = False

    def __post_init__(self) -> None:
        super().__post_init__()
        if self.material:
            choose("material", self.material, SHEET_MATERIALS, "sheet material")
        if self.slider not in ("", "none"):
            choose("slider", self.slider, SHEET_MATERIALS, "sheet material")
        if self.mount_change and not self.joints:
            raise InputError("joints", "", "one joint or more", "say at which joints")
        if self.mount_change == "spring" and self.spring_n_per_mm is None:
            raise InputError("spring_n_per_mm", "", "a stiffness in N/mm", "nothing was entered")


def _wing(wing: Wing | None, more: float) -> Wing | None:
    if wing is None or more == 0.0:
        return wing
    return replace(wing, slant_height_mm=wing.slant_height_mm + more)


def _plate(plate: Plate, asked: WhatIf) -> Plate:
    if asked.cutout:
        keys = [c.key for c in plate.cutouts]
        choose("cutout", asked.cutout, keys, "cutout of this plate")
    cutouts = tuple(c.with_door() if c.key == asked.cutout else c for c in plate.cutouts)
    slider, thick = plate.slider_material, plate.slider_thickness_mm
    if asked.slider == "none":
        slider, thick = "", None
    elif asked.slider:
        slider = asked.slider
        thick = asked.slider_thickness_mm or thick or 6.0
    elif asked.slider_thickness_mm is not None and slider:
        thick = asked.slider_thickness_mm
    t = asked.thickness_mm if asked.thickness_mm is not None else plate.thickness_mm
    lower = plate.thickness_mm - t
    # The inner face stays where its spacers hold it: the outer one moves.
    belly = replace(
        plate.belly,
        z_front_mm=plate.belly.z_front_mm + lower,
        z_rear_mm=plate.belly.z_rear_mm + lower,
    )
    changed = replace(
        plate,
        thickness_mm=t,
        material=asked.material or plate.material,
        cutouts=cutouts,
        slider_material=slider,
        slider_thickness_mm=thick,
        belly=belly,
        wing_left=_wing(plate.wing_left, asked.wing_longer_mm),
        wing_right=_wing(plate.wing_right, asked.wing_longer_mm),
        heat_foil=plate.heat_foil or asked.heat_foil,
    )
    return unweighed(changed, plate)


def _soft_layer(asked: WhatIf, hole: float) -> Layer:
    if asked.mount_change == "isolator":
        return Layer(
            key="if-rubber",
            kind="isolator",
            name="isolator",
            material="rubber",
            thickness_mm=asked.isolator_height_mm,
            outer_mm=25.0,
            hole_mm=hole,
        )
    if asked.mount_change == "strip":
        return Layer(
            key="if-strip",
            kind="strip",
            name="sacrificial strip",
            material="mild steel S235",
            thickness_mm=4.0,
            outer_mm=30.0,
            hole_mm=hole,
            span_mm=60.0,
        )
    return Layer(
        key="if-bracket",
        kind="bracket",
        name="soft bracket",
        material="mild steel S235",
        thickness_mm=3.0,
        outer_mm=30.0,
        hole_mm=hole,
        span_mm=70.0,
    )


def _with_mount_change(joint: Joint, asked: WhatIf) -> Joint:
    """The joint with something soft in its stack, its spacer shorter by as much or gone.

    Where the spacer is too short for that, the plate comes to hang lower by the rest.
    """
    if asked.mount_change == "spring":
        return replace(joint, spring_n_per_mm=asked.spring_n_per_mm)
    layers = [
        layer
        for layer in joint.layers
        if layer.kind not in ("isolator", "strip") and not layer.can_bend
    ]
    gone = sum(x.thickness_mm for x in joint.layers if x not in layers and not x.left_out)
    soft = None if asked.mount_change == "stiff" else _soft_layer(asked, layers[-1].hole_mm)
    needed = (soft.thickness_mm if soft is not None else 0.0) - gone
    places = [i for i, x in enumerate(layers) if x.kind == "spacer"]
    if places:
        spacer = layers[places[-1]]
        left = spacer.thickness_mm - needed
        own = [replace(spacer, thickness_mm=left)] if left >= THINNEST_SPACER_MM else []
        layers[places[-1] : places[-1] + 1] = own
    joint = replace(joint, layers=tuple(layers)) if layers else joint
    if soft is not None:
        layers.insert(place_above_plate(joint), soft)
    # a stud is as long as it stands
    length_mm = joint.length_mm if joint.is_stud else None
    return replace(joint, layers=tuple(layers), length_mm=length_mm)


def copy_of(job: Job, asked: WhatIf, key: str, name: str) -> Candidate:
    """The copy with what is tried on it; raises InputError where it cannot be built."""
    original = job.as_entered(asked.plate)
    known = [j.key for j in original.joints]
    for wanted in asked.joints:
        choose("joints", wanted, known, "joint of this plate")
    plate = replace(_plate(original.plate, asked), key=key, name=name, role="candidate")
    joints = tuple(
        _with_mount_change(j, asked)
        if asked.mount_change and j.key in asked.joints
        else replace(j, length_mm=None)
        if asked.thickness_mm is not None and not j.is_stud
        else j
        for j in original.joints
    )
    return replace(original, plate=plate, joints=joints)


def tried(job: Job, asked: WhatIf) -> Job:
    """The job with the copy beside the plates, not picked, in the ledger; never saved."""
    copy = copy_of(job, asked, WHAT_IF_KEY, f"{job.as_entered(asked.plate).plate.name}, what-if")
    return replace(
        job,
        candidates=(*(c for c in job.candidates if c.key != WHAT_IF_KEY), copy),
        picked="",
        pick_reason="",
        weighing=WHAT_IF_KEY,
    )


def words_of(asked: WhatIf) -> str:
    """What is tried, in a few words."""
    said = []
    if asked.thickness_mm is not None:
        said.append(entered(asked.thickness_mm, "mm"))
    if asked.material:
        said.append(asked.material)
    if asked.slider:
        said.append("no slider" if asked.slider == "none" else f"{asked.slider} slider")
    if asked.mount_change:
        what: str = "nothing soft" if asked.mount_change == "stiff" else asked.mount_change
        if asked.spring_n_per_mm is not None and asked.mount_change == "spring":
            what = entered(asked.spring_n_per_mm, "N/mm")
        many = "s" if len(asked.joints) > 1 else ""
        said.append(f"{what} at {len(asked.joints)} joint{many}")
    if asked.wing_longer_mm:
        said.append(f"wings {entered(asked.wing_longer_mm, 'mm', sign=True)}")
    if asked.cutout:
        said.append(f"{asked.cutout} closed")
    if asked.heat_foil:
        said.append("reflective sheet")
    return ", ".join(said) or "copy"


def keep(job: Job, asked: WhatIf, spent: Spent) -> Change:
    """The copy kept as a candidate, under a name that says what it is."""
    if len(job.candidates) >= MAX_PLATES:
        raise InputError("candidates", len(job.candidates), f"at most {MAX_PLATES} plates")
    own = free_key(f"{asked.plate}-if", {*spent, job.stock.key, *(c.key for c in job.candidates)})
    name = f"{job.as_entered(asked.plate).plate.name}: {in_system(words_of(asked))}"[:120]
    copy = copy_of(job, asked, own, name)
    return Change(replace(job, candidates=(*job.candidates, copy)), f"{name} kept as a candidate")
