"""A bash plate described by the few numbers a tape measure gives."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Annotated, Literal

from rugged_shield.core.errors import InputError, choose
from rugged_shield.core.hashing import remember_hash
from rugged_shield.core.judgement.known import Fact, Known
from rugged_shield.core.mechanics.frames import Vec2
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.survey.bike import AboveGround, AcrossBike, AlongBike
from rugged_shield.core.tables.materials import SHEET_MATERIALS

PanelName = Literal["belly", "apron", "wing left", "wing right", "tail"]
CutoutShape = Literal["round", "slot", "rectangle", "polygon"]
Purpose = Literal["drain", "filter", "vent", "drain hole", "tool access", "mount"]
Form = Literal["pressed", "welded", "moulded", "flat"]
Mounting = Literal["frame", "engine", "frame and engine", "crash bars", "isolators"]

MAX_CUTOUTS = 400
MAX_PIECES = 12
MAX_TRIMS = 60
MAX_TRIM_CORNERS = 200

Size = Annotated[float, Range(10.0, 1500.0, "mm")]
Offset = Annotated[float, Range(-1500.0, 1500.0, "mm")]
Bend = Annotated[float | None, Range(3.0, 600.0, "mm")]
BentBy = Annotated[float, Range(-90.0, 90.0, "°")]
Edge = Literal["front", "rear", "left", "right"]
AS_PLATE = "as the plate"
PIECE_MATERIALS = (AS_PLATE, *SHEET_MATERIALS)
EDGES: tuple[Edge, ...] = ("front", "rear", "left", "right")


@dataclass(frozen=True, kw_only=True)
class Belly(Ranged):
    """The flat under the engine: front edge at ``start_x_mm``, length along the sheet.

    ``points_mm`` is a traced outline in the belly's u, v; it replaces the four
    corners that length and widths give.
    """

    start_x_mm: AlongBike
    length_mm: Size
    front_width_mm: Size
    rear_width_mm: Size
    z_front_mm: AboveGround
    z_rear_mm: AboveGround
    points_mm: tuple[tuple[float, float], ...] = ()


@dataclass(frozen=True)
class Apron(Ranged):
    """The panel that rises in front: slope height along the sheet, angle above level."""

    slope_height_mm: Size
    rise_deg: Annotated[float, Range(1.0, 90.0, "°")]
    top_width_mm: Size


@dataclass(frozen=True)
class Wing(Ranged):
    """A side panel folded up from the belly's edge; start along the edge from the front.

    With screws of its own it is a removable side piece.
    """

    start_mm: Annotated[float, Range(0.0, 1500.0, "mm")]
    length_mm: Size
    slant_height_mm: Size
    dihedral_deg: Annotated[float, Range(5.0, 90.0, "°")]
    own_screws: Annotated[int, Range(0, 40)] = 0


@dataclass(frozen=True)
class Tail(Ranged):
    """The tongue under the rear linkage; ``rise_mm`` at its rear edge."""

    length_mm: Size
    width_mm: Size
    rise_mm: Annotated[float, Range(-300.0, 300.0, "mm")]


@remember_hash
@dataclass(frozen=True, kw_only=True)
class Cutout(Ranged):
    """An opening in one panel, placed by its middle in the panel's own u, v (mm).

    Belly, tail: u rearward from the front edge, v to the rider's right. Apron:
    u up the slope from the fold. Wing: u rearward along the fold, v up the slant.
    ``width_mm`` runs along u, ``height_mm`` along v (round: the diameter).
    """

    key: str
    panel: str
    shape: CutoutShape
    purpose: Purpose
    u_mm: Offset
    v_mm: Offset
    width_mm: Annotated[float, Range(2.0, 1000.0, "mm")] = 30.0
    height_mm: Annotated[float, Range(2.0, 1000.0, "mm")] = 30.0
    points_mm: tuple[tuple[float, float], ...] = ()
    closed_door: bool = False
    door_screws: Annotated[int, Range(0, 40)] = 0

    def with_door(self) -> Cutout:
        """The same opening behind a door, on three screws at least."""
        return replace(self, closed_door=True, door_screws=max(self.door_screws, 3))


@remember_hash
@dataclass(frozen=True, kw_only=True)
class Trim(Ranged):
    """What was cut off a panel: a region in its own u, v, mm, which may reach past its edge."""

    key: str
    panel: str
    points_mm: tuple[tuple[float, float], ...]

    def __post_init__(self) -> None:
        super().__post_init__()
        if not 3 <= len(self.points_mm) <= MAX_TRIM_CORNERS:
            raise InputError(
                "points_mm", len(self.points_mm), f"3 to {MAX_TRIM_CORNERS} corners of a region"
            )
        for point in self.points_mm:
            if not all(math.isfinite(v) and abs(v) <= 5000.0 for v in point):
                raise InputError("points_mm", str(point)[:80], "corners within 5000 mm")


@dataclass(frozen=True)
class BendLine:
    """An edge of a piece in its own u, v: start, length mm, unit ways along it and outward."""

    start: Vec2
    length_mm: float
    along: Vec2
    out: Vec2


@dataclass(frozen=True, kw_only=True)
class Piece(Ranged):
    """A further piece of the plate, placed by the middle of its front edge.

    ``order``: 1 is fitted first after the main piece (which is 0), below zero before it.
    ``through_first``: what goes through its openings before its screws, such as a cable.
    ``pitch_deg`` lifts its rear end, ``roll_deg`` its right side. A traced outline (u rearward,
    v to the right, mm) replaces the four corners. Thickness None: as the plate.
    ``front_bend_mm`` and its like: how far that edge is folded on, along the sheet, and by how
    much it turns up toward the engine (below zero: down). ``orientation``: what makes it
    unmistakable, such as “lip inward”. ``put_on``: it is no part of what the plate's sheet claims
    or the scales said of its mass.
    """

    key: str
    name: str
    order: Annotated[int, Range(-20, 20)]
    x_mm: AlongBike
    y_mm: AcrossBike
    z_mm: AboveGround
    length_mm: Size
    front_width_mm: Size
    rear_width_mm: Size
    pitch_deg: Annotated[float, Range(-90.0, 90.0, "°")] = 0.0
    roll_deg: Annotated[float, Range(-90.0, 90.0, "°")] = 0.0
    points_mm: tuple[tuple[float, float], ...] = ()
    thickness_mm: Annotated[float | None, Range(0.5, 25.0, "mm")] = None
    own_screws: Annotated[int, Range(0, 40)] = 0
    orientation: str = ""
    through_first: str = ""
    material: str = AS_PLATE
    front_bend_mm: Bend = None
    front_bend_angle_deg: BentBy = 90.0
    rear_bend_mm: Bend = None
    rear_bend_angle_deg: BentBy = 90.0
    left_bend_mm: Bend = None
    left_bend_angle_deg: BentBy = 90.0
    right_bend_mm: Bend = None
    right_bend_angle_deg: BentBy = 90.0
    put_on: bool = False

    def __post_init__(self) -> None:
        super().__post_init__()
        choose("material", self.material, PIECE_MATERIALS, "sheet material")
        for edge in EDGES:
            if self.points_mm and self.bend(edge) is not None:
                raise InputError(
                    f"{edge}_bend_mm",
                    "a bend",
                    "no bend on a traced outline",
                    "a traced piece has no straight edge that could be bent",
                    "Enter the piece by its length and widths, or the bent part as a piece.",
                )

    def bend(self, edge: Edge) -> tuple[float, float] | None:
        """How far an edge is folded on, mm, and by how much, degrees; None where it is not."""
        by_edge = {
            "front": (self.front_bend_mm, self.front_bend_angle_deg),
            "rear": (self.rear_bend_mm, self.rear_bend_angle_deg),
            "left": (self.left_bend_mm, self.left_bend_angle_deg),
            "right": (self.right_bend_mm, self.right_bend_angle_deg),
        }
        height, angle = by_edge[edge]
        return None if height is None else (height, angle)

    def bend_line(self, edge: Edge) -> BendLine:
        """Where an edge is bent; front and rear run to the right, the sides to the rear."""
        front, rear, length = self.front_width_mm / 2, self.rear_width_mm / 2, self.length_mm
        start, end = {
            "front": ((0.0, -front), (0.0, front)),
            "rear": ((length, -rear), (length, rear)),
            "left": ((0.0, -front), (length, -rear)),
            "right": ((0.0, front), (length, rear)),
        }[edge]
        size = math.dist(start, end)
        along = ((end[0] - start[0]) / size, (end[1] - start[1]) / size)
        sign = 1.0 if edge in ("front", "right") else -1.0
        return BendLine(start, size, along, (-along[1] * sign, along[0] * sign))

    @property
    def panel_names(self) -> tuple[str, ...]:
        """Its panels: the flat one by its key, then one for each bent edge."""
        bent = (edge for edge in EDGES if self.bend(edge) is not None)
        return (self.key, *(f"{self.key} {edge}" for edge in bent))


@dataclass(frozen=True, kw_only=True)
class Needs(Ranged):
    """What the maker's sheet requires of the bike; empty text and None: nothing said.

    A model or variant may name several, “or” or “/” between. ``with_change`` names the
    modification with which it also fits another year or model.
    """

    bars: bool = False
    isolators: bool = False
    exhaust_off: bool = False
    no_centre_stand: bool = False
    year_from: Annotated[int | None, Range(1950, 2100)] = None
    year_to: Annotated[int | None, Range(1950, 2100)] = None
    variant: str = ""
    market: str = ""
    model: str = ""
    upper_bars: bool = False
    with_change: str = ""


@remember_hash
@dataclass(frozen=True, kw_only=True)
class Plate(Ranged):
    """One plate: its main piece of folded panels, and further pieces.

    Mass kg as claimed by its maker and as weighed, both with brackets and without the screws and
    spacers of its joints; ``mass_ratio`` is what the plate that this one was tried on weighs over
    what was computed for it. A slider is a
    plastic layer under the belly, bonded or screwed on. ``heat_foil``: a reflective sheet
    stands between the plate and what is hot. ``trims``: what was cut off its panels.
    ``orientation``: what makes the main piece unmistakable; ``through_first``: what goes through
    its openings before its screws.
    """

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
    known: Known = "printed"
    facts: tuple[Fact, ...] = ()
    pieces: tuple[Piece, ...] = ()
    slider_material: str = ""
    slider_thickness_mm: Annotated[float | None, Range(1.0, 25.0, "mm")] = None
    slider_bonded: bool = False
    wear_piece_kg: Annotated[float, Range(0.0, 5.0, "kg")] = 0.0
    weighed_mass_kg: Annotated[float | None, Range(0.05, 40.0, "kg")] = None
    mass_ratio: Annotated[float, Range(0.001, 1000.0)] = 1.0
    over_stock: bool = False
    heat_foil: bool = False
    needs: Needs = Needs()
    trims: tuple[Trim, ...] = ()
    orientation: str = ""
    through_first: str = ""

    def sheet(self, piece: str) -> tuple[float, str]:
        """Thickness mm and material of a piece's sheet by its key; the plate's own for others."""
        own = next((p for p in self.pieces if p.key == piece), None)
        if own is None:
            return self.thickness_mm, self.material
        material = self.material if own.material == AS_PLATE else own.material
        return own.thickness_mm or self.thickness_mm, material

    @property
    def sheet_names(self) -> dict[str, str]:
        """What each sheet is called, by its key; the main piece under the empty one."""
        return {"": self.name} | {piece.key: piece.name for piece in self.pieces}

    @property
    def next_turn(self) -> int:
        """The turn in hanging of one more piece: after all that are there."""
        return max([piece.order for piece in self.pieces], default=0) + 1

    @property
    def ways(self) -> tuple[str, ...]:
        """What makes each piece unmistakable, the main one first; of some nothing is said."""
        said = ((self.name, self.orientation), *((p.name, p.orientation) for p in self.pieces))
        return tuple(f"{name}: {way}" for name, way in said if way)

    def __post_init__(self) -> None:
        super().__post_init__()
        choose("material", self.material, SHEET_MATERIALS, "sheet material")
        if self.slider_material:
            choose("slider_material", self.slider_material, SHEET_MATERIALS, "sheet material")
            if self.slider_thickness_mm is None:
                raise InputError(
                    "slider_thickness_mm",
                    None,
                    "a thickness from 1 to 25 mm",
                    "a slider layer has a thickness",
                )
        keys = [c.key for c in self.cutouts] + [p.key for p in self.pieces]
        keys += [t.key for t in self.trims]
        if len(set(keys)) != len(keys):
            raise InputError("cutouts", ", ".join(keys)[:200], "each key once")
        if len(self.trims) > MAX_TRIMS:
            raise InputError("trims", len(self.trims), f"at most {MAX_TRIMS} trims")
        if len(self.cutouts) > MAX_CUTOUTS or len(self.pieces) > MAX_PIECES:
            raise InputError(
                "cutouts", len(self.cutouts), f"at most {MAX_CUTOUTS} cutouts, {MAX_PIECES} pieces"
            )
