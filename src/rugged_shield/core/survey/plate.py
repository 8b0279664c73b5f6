"""A bash plate described by the few numbers a tape measure gives."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from rugged_shield.core.errors import choose
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.survey.bike import AboveGround, AlongBike
from rugged_shield.core.tables.materials import SHEET_MATERIALS

PanelName = Literal["belly", "apron", "wing left", "wing right", "tail"]
CutoutShape = Literal["round", "slot", "rectangle", "polygon"]
Purpose = Literal["drain", "filter", "vent", "drain hole", "tool access", "mount"]
Form = Literal["pressed", "welded", "moulded", "flat"]
Mounting = Literal["frame", "engine", "crash bars", "isolators"]

Size = Annotated[float, Range(10.0, 1500.0, "mm")]
Offset = Annotated[float, Range(-1500.0, 1500.0, "mm")]


@dataclass(frozen=True)
class Belly(Ranged):
    """The flat under the engine: front edge at ``start_x_mm``, length along the sheet."""

    start_x_mm: AlongBike
    length_mm: Size
    front_width_mm: Size
    rear_width_mm: Size
    z_front_mm: AboveGround
    z_rear_mm: AboveGround


@dataclass(frozen=True)
class Apron(Ranged):
    """The panel that rises in front: slope height along the sheet, angle above level."""

    slope_height_mm: Size
    rise_deg: Annotated[float, Range(1.0, 90.0, "°")]
    top_width_mm: Size


@dataclass(frozen=True)
class Wing(Ranged):
    """A side panel folded up from the belly's edge; start along the edge from the front."""

    start_mm: Annotated[float, Range(0.0, 1500.0, "mm")]
    length_mm: Size
    slant_height_mm: Size
    dihedral_deg: Annotated[float, Range(5.0, 90.0, "°")]


@dataclass(frozen=True)
class Tail(Ranged):
    """The tongue under the rear linkage; ``rise_mm`` at its rear edge."""

    length_mm: Size
    width_mm: Size
    rise_mm: Annotated[float, Range(-300.0, 300.0, "mm")]


@dataclass(frozen=True)
class Cutout(Ranged):
    """An opening in one panel, placed by its middle in the panel's own u, v (mm).

    Belly, tail: u rearward from the front edge, v to the rider's right. Apron:
    u up the slope from the fold. Wing: u rearward along the fold, v up the slant.
    ``width_mm`` runs along u, ``height_mm`` along v (round: the diameter).
    """

    key: str
    panel: PanelName
    shape: CutoutShape
    purpose: Purpose
    u_mm: Offset
    v_mm: Offset
    width_mm: Annotated[float, Range(2.0, 1000.0, "mm")] = 30.0
    height_mm: Annotated[float, Range(2.0, 1000.0, "mm")] = 30.0
    points_mm: tuple[tuple[float, float], ...] = ()
    closed_door: bool = False


@dataclass(frozen=True)
class Plate(Ranged):
    """One plate in one piece. Mass kg as claimed by its maker, thickness mm."""

    key: str
    name: str
    role: Literal["stock", "candidate"]
    material: str
    thickness_mm: Annotated[float, Range(0.5, 25.0, "mm")]
    form: Form
    mounting: Mounting
    belly: Belly
    apron: Apron | None = None
    wing_left: Wing | None = None
    wing_right: Wing | None = None
    tail: Tail | None = None
    cutouts: tuple[Cutout, ...] = ()
    claimed_mass_kg: Annotated[float | None, Range(0.05, 40.0, "kg")] = None
    brackets_mass_kg: Annotated[float, Range(0.0, 20.0, "kg")] = 0.0
    price: Annotated[float, Range(0.0, 100000.0)] = 0.0
    sheet_date: str = ""

    def __post_init__(self) -> None:
        super().__post_init__()
        choose("material", self.material, SHEET_MATERIALS, "sheet material")
