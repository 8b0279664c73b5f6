"""A plate from what anybody can say of it: its shape, its three overall sizes, its sheet."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Annotated, Literal, NamedTuple

from rugged_shield.core.amounts import entered
from rugged_shield.core.errors import InputError
from rugged_shield.core.mechanics.drawing import Drawing, Mark, Path
from rugged_shield.core.mechanics.frames import Vec3
from rugged_shield.core.mechanics.in_space import View
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.survey.bike import Bike
from rugged_shield.core.survey.geometry import FoldedPlate, fold
from rugged_shield.core.survey.in_space import space_drawing
from rugged_shield.core.survey.plate import Apron, Belly, Form, Plate, Wing

Shape = Literal["flat pan", "pan with apron", "pan with wings", "moulded shell"]
SHAPES: dict[Shape, str] = {
    "flat pan": "Flat pan under the engine",
    "pan with apron": "Pan with an apron that rises in front",
    "pan with wings": "Pan with wings up both sides",
    "moulded shell": "Shell: apron and wings in one",
}
"""Shapes a plate starts from, and each in words."""


class SheetStart(NamedTuple):
    """What a word for a sheet is taken to mean, and how thick such a plate usually is, mm."""

    material: str
    thickness_mm: float
    words: str


SHEETS: dict[str, SheetStart] = {
    "aluminium": SheetStart("aluminium 5052-H32", 4.0, "Aluminium"),
    "steel": SheetStart("mild steel S235", 3.0, "Steel"),
    "stainless": SheetStart("stainless 304", 2.5, "Stainless steel"),
    "HDPE": SheetStart("HDPE", 10.0, "HDPE plastic"),
}
"""Sheets by a rider's word; alloy and thickness as usual, workshop practice, low confidence."""
UNKNOWN_SHEET = "aluminium"
"""What a plate is taken to be of while nobody knows."""

COVER_MM = 25.0
"""How far a plate is taken to reach past the mounts it hangs on."""
RISE_DEG, DIHEDRAL_DEG = 45.0, 60.0
"""How steep aprons and wings are taken to rise."""
USUAL_HEIGHT_MM: dict[Shape, float] = {
    "pan with apron": 110.0,
    "pan with wings": 75.0,
    "moulded shell": 120.0,
}
"""How high such a plate usually is over all; a flat one is as high as its sheet."""
_SHELL_WING = 0.7
"""Height of a shell's wings over that of its apron."""
_LEAST_MM = 60.0
_WING_FROM, _WING_LONG = 0.2, 0.6
_LOOK = View(128.0, 34.0)
_OFF_MM, _WORD_MM = 18.0, 24.0


@dataclass(frozen=True, kw_only=True)
class OverallSizes(Ranged):
    """Length along the bike, width across it, height, mm; a flat pan has no height to say."""

    length_mm: Annotated[float, Range(60.0, 1500.0, "mm")]
    width_mm: Annotated[float, Range(60.0, 1500.0, "mm")]
    height_mm: Annotated[float | None, Range(10.0, 600.0, "mm")] = None


def has_apron(shape: Shape) -> bool:
    """Whether a shape rises in front."""
    return shape in ("pan with apron", "moulded shell")


def has_wings(shape: Shape) -> bool:
    """Whether a shape rises at its sides."""
    return shape in ("pan with wings", "moulded shell")


def _level_mm(height_mm: float, angle_deg: float) -> float:
    """How far a panel that rises so high reaches out, level, mm."""
    return height_mm / math.tan(math.radians(angle_deg))


def _wing_height_mm(shape: Shape, height_mm: float) -> float:
    return height_mm * (_SHELL_WING if shape == "moulded shell" else 1.0)


def usual_sizes(shape: Shape, bike: Bike, stock: Plate) -> OverallSizes:
    """Sizes of a plate of that shape that reaches over every mount and all the stock one covers."""
    belly = belly_over(bike, stock)
    height = USUAL_HEIGHT_MM.get(shape)
    length, width = belly.length_mm, belly.front_width_mm
    if height is not None and has_apron(shape):
        length += _level_mm(height, RISE_DEG)
    if height is not None and has_wings(shape):
        width += 2 * _level_mm(_wing_height_mm(shape, height), DIHEDRAL_DEG)
    return OverallSizes(length_mm=round(length), width_mm=round(width), height_mm=height)


def belly_over(bike: Bike, stock: Plate) -> Belly:
    """A flat belly at the stock plate's height that reaches over it and past every mount."""
    belly = replace(stock.belly, points_mm=())
    if not bike.mounts:
        return belly
    start = min(belly.start_x_mm, min(m.x_mm for m in bike.mounts) - COVER_MM)
    end = max(
        belly.start_x_mm + belly.length_mm,
        max(m.x_mm for m in bike.mounts) + COVER_MM,
    )
    width = max(belly.front_width_mm, 2 * (max(abs(m.y_mm) for m in bike.mounts) + COVER_MM))
    return replace(
        belly, start_x_mm=start, length_mm=end - start, front_width_mm=width, rear_width_mm=width
    )


def _flat_of(
    shape: Shape, sizes: OverallSizes, thickness_mm: float
) -> tuple[float, float, float, float]:
    """How high apron and wings rise over the sheet, and the belly's length and width, mm."""
    high = 0.0
    if shape != "flat pan":
        high = (sizes.height_mm or USUAL_HEIGHT_MM[shape]) - thickness_mm
        if high < 10.0:
            raise InputError(
                "height_mm",
                sizes.height_mm,
                f"at least {entered(thickness_mm + 10.0, 'mm')} over all",
                "the plate is no higher than its sheet is thick",
            )
    wing_high = _wing_height_mm(shape, high)
    length = sizes.length_mm - (_level_mm(high, RISE_DEG) if has_apron(shape) else 0.0)
    width = sizes.width_mm - (2 * _level_mm(wing_high, DIHEDRAL_DEG) if has_wings(shape) else 0.0)
    for name, left, said in (
        ("length_mm", length, sizes.length_mm),
        ("width_mm", width, sizes.width_mm),
    ):
        if left < _LEAST_MM:
            raise InputError(
                name,
                said,
                f"at least {entered(math.ceil(said - left + _LEAST_MM), 'mm')} at this height",
                "what rises would leave no flat under the engine",
            )
    return high, wing_high, length, width


def shaped(plate: Plate, shape: Shape, sizes: OverallSizes, over: Belly) -> Plate:
    """The plate in that shape and those overall sizes, its belly in the middle of ``over``.

    Raises InputError where its apron or wings would leave no belly.
    """
    high, wing_high, length, width = _flat_of(shape, sizes, plate.thickness_mm)
    middle = over.start_x_mm + over.length_mm / 2
    belly = replace(
        over,
        start_x_mm=middle - length / 2,
        length_mm=length,
        front_width_mm=width,
        rear_width_mm=width,
    )
    form: Form = "moulded" if shape == "moulded shell" else "pressed"
    apron = wing = None
    if has_apron(shape):
        slope = high / math.sin(math.radians(RISE_DEG))
        apron = Apron(slope, RISE_DEG, max(_LEAST_MM, width - 40.0))
    if has_wings(shape):
        slant = wing_high / math.sin(math.radians(DIHEDRAL_DEG))
        wing = Wing(_WING_FROM * length, _WING_LONG * length, slant, DIHEDRAL_DEG)
    return replace(
        plate, form=form, belly=belly, apron=apron, wing_left=wing, wing_right=wing, tail=None
    )


def shape_drawing(shape: Shape, bike: Bike, stock: Plate) -> Drawing:
    """A plate of that shape as it would be on this bike, from behind at a slant, with sizes."""
    sizes = usual_sizes(shape, bike, stock)
    start = replace(stock, trims=(), cutouts=(), pieces=())
    folded = fold(shaped(start, shape, sizes, belly_over(bike, stock)))
    drawn = space_drawing(None, folded, _LOOK)
    lines, words = _size_lines(folded)
    return replace(
        drawn, title=SHAPES[shape], paths=(*drawn.paths, *lines), marks=words, scale_bar_mm=0.0
    )


def _size_lines(folded: FoldedPlate) -> tuple[tuple[Path, ...], tuple[Mark, ...]]:
    """Where the tape goes: beside the box around the plate, on the sides that one looks at."""
    corners = [c for panel in folded.panels for c in panel.corners()]
    (x0, x1), (y0, y1), (z0, z1) = (
        (min(c[axis] for c in corners), max(c[axis] for c in corners)) for axis in range(3)
    )
    tape: list[tuple[str, Vec3, Vec3]] = [
        ("width", (x1 + _OFF_MM, y0, z0), (x1 + _OFF_MM, y1, z0)),
        ("length", (x0, y1 + _OFF_MM, z0), (x1, y1 + _OFF_MM, z0)),
    ]
    if z1 - z0 > 1.0:
        tape.append(("height", (x0, y1 + _OFF_MM, z0), (x0, y1 + _OFF_MM, z1)))
    lines, words = [], []
    for name, start, end in tape:
        a, b = _LOOK.at(start), _LOOK.at(end)
        lines.append(Path((a, b), False, "dimension"))
        words.append(Mark((a[0] + b[0]) / 2, (a[1] + b[1]) / 2 + _WORD_MM, name, "word"))
    return tuple(lines), tuple(words)
