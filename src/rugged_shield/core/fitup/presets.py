"""Starting points for a joint of one's own: typical sizes, to be corrected by measuring."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from rugged_shield.core.errors import InputError, choose
from rugged_shield.core.fitup.engagement import Nut
from rugged_shield.core.fitup.joint import Joint, Stage, clearance_hole_mm
from rugged_shield.core.fitup.layer import Layer
from rugged_shield.core.mechanics import threads
from rugged_shield.core.mechanics.female import Female
from rugged_shield.core.tables.grades import NOT_READ
from rugged_shield.core.tables.hardware import NUTS, WASHERS

PRESETS: dict[str, str] = {
    "through nut": "Screw through plate and tab with a prevailing torque nut behind",
    "tapped boss": "Screw into a blind thread in a cast boss",
    "clip nut": "Screw into a clip nut on a thin panel",
    "sleeve in plastic": "Plastic plate with a steel sleeve, screw into a tapped boss",
    "stud in the bike": "Plate over a stud that stands in the bike, closed by a nut from below",
    "spacer behind a foot peg": "Longer foot-peg bolt with a spacer and the plate's bracket",
}


@dataclass(frozen=True, kw_only=True)
class PresetRequest:
    """What a new joint starts from."""

    preset: str
    key: str
    number: int
    thread: str
    plate_thickness_mm: float
    plate_material: str
    x_mm: float
    y_mm: float
    stage: Stage


def standard_washer(thread: str, large: bool = False, key: str = "washer") -> Layer:
    """A washer of ISO 7089 or, large, 7093-1 (ASME B18.21.1 for inch threads)."""
    row = WASHERS[threads.washer_standard(thread, large)][threads.nominal_size(thread)]
    name = "large washer" if large else "washer"
    return Layer(
        key=key,
        kind="washer",
        name=name,
        material="steel",
        thickness_mm=row.thickness_mm,
        tol_mm=row.tol_mm,
        outer_mm=row.outer_mm,
        hole_mm=row.hole_mm,
    )


def _boss(d: float) -> Female:
    return Female(
        kind="blind_tapped",
        thread_start_mm=1.0,
        thread_end_mm=round(2.6 * d, 1),
        thread_start_tol_mm=0.2,
        thread_end_tol_mm=0.4,
    )


def _clip(d: float) -> Female:
    height = round(1.15 * d, 1)
    return Female(
        kind="clip_nut",
        thread_start_mm=0.5,
        thread_end_mm=height,
        thread_start_tol_mm=0.1,
        thread_end_tol_mm=0.2,
        overall_height_mm=height,
        overall_height_tol_mm=0.2,
        free_space_mm=15.0,
        free_space_tol_mm=1.0,
    )


_NUT_FREE_MM = 25.0
_INCH_HEADS = {
    "ISO 4017": "ASME B18.2.1",
    "EN 1665": "ASME B18.2.1",
    "ISO 4762": "ASME B18.3",
    "ISO 7380-1": "ASME B18.3 button",
    "ISO 7380-2": "ASME B18.3 button",
}
"""The head that stands for a metric one where the thread is an inch one."""


def nut_female(nut: str, thread: str, free_mm: float | None) -> Female:
    """The thread of a nut of a standard, with free space behind it, mm.

    Raises InputError where the standard has no nut of that thread.
    """
    rows = NUTS[nut]
    size = threads.nominal_size(thread)
    if size not in rows:
        raise InputError("nut", f"{nut}, {thread}", f"for {nut}: {', '.join(rows)}")
    row = rows[size]
    middle = (row.height_min_mm + row.height_max_mm) / 2
    half = (row.height_max_mm - row.height_min_mm) / 2
    return Female(
        kind="nut" if nut in ("ISO 4032", "ASME B18.2.2") else "prevailing_nut",
        thread_start_mm=0.0,
        thread_end_mm=row.thread_min_mm,
        thread_start_tol_mm=0.0,
        thread_end_tol_mm=0.0,
        overall_height_mm=middle,
        overall_height_tol_mm=half,
        free_space_mm=free_mm,
        free_space_tol_mm=1.0,
    )


@dataclass(frozen=True)
class _Start:
    """What a starting point brings."""

    head: str
    layers: tuple[Layer, ...]
    female: Female
    material: str = "AlSi9Cu3 die cast"
    owner: Literal["bike", "kit"] = "bike"
    nut: Nut = ""


def _through_nut(asked: PresetRequest, plate: Layer, hole: float) -> _Start:
    tab = Layer(
        key="tab",
        kind="panel",
        name="frame tab",
        material="steel",
        thickness_mm=4.0,
        tol_mm=0.2,
        outer_mm=40.0,
        hole_mm=hole,
    )
    layers = (
        standard_washer(asked.thread),
        plate,
        tab,
        standard_washer(asked.thread, key="washer-nut"),
    )
    nut: Nut = "ASME B18.2.2" if threads.is_inch(asked.thread) else "ISO 7040"
    female = nut_female(nut, asked.thread, _NUT_FREE_MM)
    return _Start("ISO 4017", layers, female, "S235 steel", "kit", nut)


def _clip_nut(asked: PresetRequest, plate: Layer, hole: float) -> _Start:
    leaf = Layer(
        key="leaf",
        kind="clip leaf",
        name="clip front leaf",
        material="steel",
        thickness_mm=0.9,
        tol_mm=0.05,
        outer_mm=24.0,
        hole_mm=hole,
    )
    panel = Layer(
        key="panel",
        kind="panel",
        name="bike panel",
        material="steel",
        thickness_mm=2.0,
        tol_mm=0.1,
        outer_mm=40.0,
        hole_mm=hole,
    )
    d = threads.row_of(asked.thread).d_mm
    return _Start("ISO 7380-2", (plate, leaf, panel), _clip(d), "S235 steel", "kit")


def _sleeved(asked: PresetRequest) -> _Start:
    d = threads.row_of(asked.thread).d_mm
    plate = Layer(
        key="plate",
        kind="plate",
        name="plate",
        material=asked.plate_material,
        thickness_mm=asked.plate_thickness_mm,
        tol_mm=0.3,
        outer_mm=max(50.0, 6 * d),
        hole_mm=d + 6.5,
    )
    long = round(asked.plate_thickness_mm + 0.5, 1)
    sleeve = Layer(
        key="sleeve",
        kind="sleeve",
        name="steel sleeve",
        material="steel",
        thickness_mm=long,
        tol_mm=0.1,
        outer_mm=d + 6.0,
        hole_mm=d + 0.5,
    )
    return _Start("ISO 4762", (standard_washer(asked.thread, large=True), sleeve, plate), _boss(d))


def _on_stud(asked: PresetRequest, plate: Layer) -> _Start:
    nut: Nut = "ASME B18.2.2" if threads.is_inch(asked.thread) else "ISO 4032"
    # under the plate lies the road: nothing bounds how far the stud may stand out
    female = nut_female(nut, asked.thread, None)
    layers = (plate, standard_washer(asked.thread))
    return _Start("stud", layers, female, "S235 steel", "bike", nut)


def _foot_peg(asked: PresetRequest, hole: float) -> _Start:
    d = threads.row_of(asked.thread).d_mm
    bracket = Layer(
        key="bracket",
        kind="bracket",
        name="plate's bracket",
        material="steel",
        thickness_mm=5.0,
        tol_mm=0.1,
        outer_mm=34.0,
        hole_mm=hole,
    )
    peg = Layer(
        key="peg",
        kind="peg",
        name="foot-peg carrier",
        material="cast aluminium",
        thickness_mm=14.0,
        tol_mm=0.2,
        outer_mm=40.0,
        hole_mm=hole,
    )
    spacer = Layer(
        key="spacer",
        kind="spacer",
        name="spacer",
        material="steel",
        thickness_mm=8.0,
        tol_mm=0.1,
        outer_mm=2.2 * d,
        hole_mm=hole,
    )
    female = Female(
        kind="through_tapped",
        thread_start_mm=0.5,
        thread_end_mm=16.0,
        thread_start_tol_mm=0.2,
        thread_end_tol_mm=0.3,
        overall_height_mm=16.0,
        overall_height_tol_mm=0.3,
        free_space_mm=20.0,
        free_space_tol_mm=1.0,
    )
    return _Start("EN 1665", (bracket, peg, spacer), female, "S235 steel")


def _start(asked: PresetRequest) -> _Start:
    d = threads.row_of(asked.thread).d_mm
    hole = clearance_hole_mm(asked.thread)
    plate = Layer(
        key="plate",
        kind="plate",
        name="plate",
        material=asked.plate_material,
        thickness_mm=asked.plate_thickness_mm,
        tol_mm=0.2,
        outer_mm=max(40.0, 5 * d),
        hole_mm=hole,
    )
    if asked.preset == "through nut":
        return _through_nut(asked, plate, hole)
    if asked.preset == "clip nut":
        return _clip_nut(asked, plate, hole)
    if asked.preset == "stud in the bike":
        return _on_stud(asked, plate)
    if asked.preset == "sleeve in plastic":
        return _sleeved(asked)
    if asked.preset == "spacer behind a foot peg":
        return _foot_peg(asked, hole)
    return _Start("ISO 4762", (standard_washer(asked.thread), plate), _boss(d))


def joint_from_preset(asked: PresetRequest) -> Joint:
    """A joint of one's own with typical layers; every size is meant to be measured."""
    choose("preset", asked.preset, PRESETS, "starting point")
    start = _start(asked)
    return Joint(
        key=asked.key,
        number=asked.number,
        name=asked.preset,
        mount="",
        thread=asked.thread,
        head=_INCH_HEADS.get(start.head, start.head)
        if threads.is_inch(asked.thread)
        else start.head,
        grade=NOT_READ,
        layers=tuple(
            layer if layer.kind == "plate" else replace(layer, known="assumed")
            for layer in start.layers
        ),
        stage=asked.stage,
        female=start.female,
        female_material=start.material,
        thread_owner=start.owner,
        nut=start.nut,
        turned="nut" if start.nut else "head",
        x_mm=asked.x_mm,
        y_mm=asked.y_mm,
        known="assumed",
        female_known="printed" if start.nut else "assumed",
    )


_LOCKING = ("prevailing", "nylon", "lock")


def nut_by_name(name: str, thread: str) -> Nut:
    """The standard of a listed nut by the words of its name: plain, or one that locks itself."""
    if threads.is_inch(thread):
        return "ASME B18.2.2"
    return "ISO 7040" if any(word in name.casefold() for word in _LOCKING) else "ISO 4032"


def with_nut(joint: Joint, nut: Nut) -> Joint:
    """The joint with a nut of a standard behind, or without one.

    A nut brings its own thread, and free space behind it that is to be measured; under a stud is
    the road, which bounds nothing. Without one a
    joint on a mount threads into that; one at a place of its own keeps a part to be entered.
    Raises InputError where the standard has no nut of that thread.
    """
    if nut:
        female = nut_female(nut, joint.thread, None if joint.is_stud else _NUT_FREE_MM)
        owner = joint.thread_owner if joint.is_stud else "kit"
        return replace(joint, nut=nut, female=female, thread_owner=owner, female_known="printed")
    if joint.mount:
        return replace(
            joint, nut="", female=None, female_material="", thread_owner="bike", turned="head"
        )
    own = None if joint.female is None else replace(joint.female, kind="loose_nut")
    return replace(joint, nut="", female=own, turned="head")


FIRST_LAYER = Layer(
    key="layer",
    kind="spacer",
    name="spacer",
    material="steel",
    thickness_mm=3.0,
    outer_mm=16.0,
    hole_mm=8.4,
)
"""What a layer that is to be added starts from."""
