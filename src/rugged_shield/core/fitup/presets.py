"""Starting points for a joint of one's own: typical sizes, to be corrected by measuring."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from rugged_shield.core.errors import choose
from rugged_shield.core.fitup.joint import Joint, Layer, Stage, clearance_hole_mm
from rugged_shield.core.mechanics import threads
from rugged_shield.core.mechanics.female import Female
from rugged_shield.core.tables.hardware import NUTS, WASHERS

PRESETS: dict[str, str] = {
    "through nut": "Screw through plate and tab with a prevailing torque nut behind",
    "tapped boss": "Screw into a blind thread in a cast boss",
    "clip nut": "Screw into a clip nut on a thin panel",
    "sleeve in plastic": "Plastic plate with a steel sleeve, screw into a tapped boss",
    "spacer behind a foot peg": "Longer foot-peg bolt with a spacer and the plate's bracket",
}


@dataclass(frozen=True)
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


def _washer(thread: str, large: bool = False, key: str = "washer") -> Layer:
    row = WASHERS["ISO 7093-1" if large else "ISO 7089"][threads.nominal_size(thread)]
    name = "large washer" if large else "washer"
    return Layer(
        key, "washer", name, "steel", row.thickness_mm, row.tol_mm, row.outer_mm, row.hole_mm
    )


def _boss(d: float) -> Female:
    return Female("blind_tapped", 1.0, round(2.6 * d, 1), 0.2, 0.4)


def _clip(d: float) -> Female:
    height = round(1.15 * d, 1)
    return Female("clip_nut", 0.5, height, 0.1, 0.2, height, 0.2, 15.0, 1.0)


def _prevailing(thread: str, free_mm: float) -> Female:
    row = NUTS["ISO 7040"][threads.nominal_size(thread)]
    middle = (row.height_min_mm + row.height_max_mm) / 2
    half = (row.height_max_mm - row.height_min_mm) / 2
    return Female("prevailing_nut", 0.0, row.thread_min_mm, 0.0, 0.0, middle, half, free_mm, 1.0)


@dataclass(frozen=True)
class _Start:
    """What a starting point brings."""

    head: str
    layers: tuple[Layer, ...]
    female: Female
    material: str = "AlSi9Cu3 die cast"
    owner: Literal["bike", "kit"] = "bike"
    nut: Literal["", "ISO 7040"] = ""


def _through_nut(asked: PresetRequest, plate: Layer, hole: float) -> _Start:
    tab = Layer("tab", "panel", "frame tab", "steel", 4.0, 0.2, 40.0, hole)
    layers = (
        _washer(asked.thread), plate, tab, _washer(asked.thread, key="washer-nut"),
    )  # fmt: skip
    female = _prevailing(asked.thread, 25.0)
    return _Start("ISO 4017", layers, female, "S235 steel", "kit", "ISO 7040")


def _clip_nut(asked: PresetRequest, plate: Layer, hole: float) -> _Start:
    leaf = Layer("leaf", "clip leaf", "clip front leaf", "steel", 0.9, 0.05, 24.0, hole)
    panel = Layer("panel", "panel", "bike panel", "steel", 2.0, 0.1, 40.0, hole)
    d = threads.row_of(asked.thread).d_mm
    return _Start("ISO 7380-2", (plate, leaf, panel), _clip(d), "S235 steel", "kit")


def _sleeved(asked: PresetRequest) -> _Start:
    d = threads.row_of(asked.thread).d_mm
    plate = Layer(
        "plate", "plate", "plate", asked.plate_material, asked.plate_thickness_mm, 0.3,
        max(50.0, 6 * d), d + 6.5,
    )  # fmt: skip
    long = round(asked.plate_thickness_mm + 0.5, 1)
    sleeve = Layer("sleeve", "sleeve", "steel sleeve", "steel", long, 0.1, d + 6.0, d + 0.5)
    return _Start("ISO 4762", (_washer(asked.thread, large=True), sleeve, plate), _boss(d))


def _foot_peg(asked: PresetRequest, hole: float) -> _Start:
    d = threads.row_of(asked.thread).d_mm
    bracket = Layer("bracket", "bracket", "plate's bracket", "steel", 5.0, 0.1, 34.0, hole)
    peg = Layer("peg", "peg", "foot-peg carrier", "cast aluminium", 14.0, 0.2, 40.0, hole)
    spacer = Layer("spacer", "spacer", "spacer", "steel", 8.0, 0.1, 2.2 * d, hole)
    female = Female("through_tapped", 0.5, 16.0, 0.2, 0.3, 16.0, 0.3, 20.0, 1.0)
    return _Start("EN 1665", (bracket, peg, spacer), female, "S235 steel")


def _start(asked: PresetRequest) -> _Start:
    d = threads.row_of(asked.thread).d_mm
    hole = clearance_hole_mm(asked.thread)
    plate = Layer(
        "plate", "plate", "plate", asked.plate_material, asked.plate_thickness_mm, 0.2,
        max(40.0, 5 * d), hole,
    )  # fmt: skip
    if asked.preset == "through nut":
        return _through_nut(asked, plate, hole)
    if asked.preset == "clip nut":
        return _clip_nut(asked, plate, hole)
    if asked.preset == "sleeve in plastic":
        return _sleeved(asked)
    if asked.preset == "spacer behind a foot peg":
        return _foot_peg(asked, hole)
    return _Start("ISO 4762", (_washer(asked.thread), plate), _boss(d))


def joint_from_preset(asked: PresetRequest) -> Joint:
    """A joint of one's own with typical layers; every size is meant to be measured."""
    choose("preset", asked.preset, PRESETS, "starting point")
    start = _start(asked)
    return Joint(
        asked.key, asked.number, asked.preset, "", asked.thread, start.head, "8.8", start.layers,
        asked.stage, female=start.female, female_material=start.material,
        thread_owner=start.owner, nut=start.nut, turned="nut" if start.nut else "head",
        x_mm=asked.x_mm, y_mm=asked.y_mm,
    )  # fmt: skip
