"""The bike as surveyed: what a strike can ruin, what hangs low, where a plate can hang."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Annotated, Literal

from rugged_shield.core.errors import InputError, choose, once
from rugged_shield.core.hashing import remember_hash
from rugged_shield.core.judgement.known import Fact, Known
from rugged_shield.core.mechanics.female import (
    BLIND_KINDS,
    Female,
    FemaleKind,
    Thickness,
    Tolerance,
)
from rugged_shield.core.quantity import Range, Ranged, check_order
from rugged_shield.core.survey.neighbours import Neighbour
from rugged_shield.core.survey.sag import SagReading, WheelRate
from rugged_shield.core.tables.thread_materials import THREAD_MATERIALS
from rugged_shield.core.tables.threads import THREADS

PartKind = Literal["vital", "neighbour", "low"]
Serviced = Literal["", "drain", "filter"]
ComesOut = Literal["down", "forward", "rearward", "left", "right"]
PartShape = Literal[
    "case",
    "sump",
    "filter",
    "drain",
    "pipe",
    "catalyst",
    "pivot",
    "linkage",
    "hose",
    "pump",
    "rail",
    "stand",
    "peg",
]
MountKind = Literal["frame tab", "engine boss", "crash-bar tab", "foot-peg bolt", "accessory"]

MAX_ITEMS = 60

AlongBike = Annotated[float, Range(-600.0, 2600.0, "mm")]
AcrossBike = Annotated[float, Range(-700.0, 700.0, "mm")]
Spring = Annotated[float | None, Range(20.0, 200_000.0, "N/mm")]
SpringAcross = Annotated[float | None, Range(20.0, 20_000.0, "N/mm")]
AboveGround = Annotated[float, Range(20.0, 1600.0, "mm")]


@remember_hash
@dataclass(frozen=True, kw_only=True)
class Part(Ranged):
    """A box in the bike frame, mm, with what is known about it.

    ``consequence`` 1 (a nuisance) to 5 (walk home); ``surface_c`` only for hot
    parts; ``serviced`` names what is done there at an oil change, ``comes_out``
    the way a filter is drawn.
    """

    key: str
    name: str
    kind: PartKind
    shape: PartShape
    x_min_mm: AlongBike
    x_max_mm: AlongBike
    y_min_mm: AcrossBike
    y_max_mm: AcrossBike
    z_min_mm: AboveGround
    z_max_mm: AboveGround
    consequence: Annotated[int, Range(1, 5)] = 3
    required_gap_mm: Annotated[float, Range(0.0, 100.0, "mm")] = 5.0
    surface_c: Annotated[float | None, Range(20.0, 800.0, "°C")] = None
    serviced: Serviced = ""
    comes_out: ComesOut = "down"
    known: Known = "assumed"
    facts: tuple[Fact, ...] = ()

    def __post_init__(self) -> None:
        super().__post_init__()
        for axis in "xyz":
            low, high = getattr(self, f"{axis}_min_mm"), getattr(self, f"{axis}_max_mm")
            check_order(
                (f"{axis}_min_mm", low),
                (f"{axis}_max_mm", high),
                "mm",
                f"{self.name} would be inside out along {axis}",
            )

    @property
    def is_exhaust(self) -> bool:
        """Whether exhaust gas runs through it."""
        return self.shape in ("pipe", "catalyst")

    @property
    def centre_mm(self) -> tuple[float, float, float]:
        """Middle of the box."""
        return (
            (self.x_min_mm + self.x_max_mm) / 2,
            (self.y_min_mm + self.y_max_mm) / 2,
            (self.z_min_mm + self.z_max_mm) / 2,
        )


ToolPlace = Literal["garage", "trail roll"]


@dataclass(frozen=True, kw_only=True)
class OwnTool(Ranged):
    """A tool that one has, in the standard's words, and where it lies."""

    key: str
    tool: str
    place: ToolPlace = "garage"


@remember_hash
@dataclass(frozen=True, kw_only=True)
class Mount(Ranged):
    """A threaded or through point a plate can hang on; position in the bike frame, mm.

    Depths are from its face: the lead, the end of full thread, and ``overall_height_mm``: of a
    blind hole its drilled depth, of a through one the nut or wall (None: as deep as its thread).
    ``spring_n_per_mm`` is its stiffness along the screw where it was measured, and
    ``spring_across_n_per_mm`` across it; None: that of its kind.
    """

    key: str
    number: Annotated[int, Range(1, 99)]
    name: str
    x_mm: AlongBike
    y_mm: AcrossBike
    z_mm: AboveGround
    kind: MountKind
    thread: str
    female_kind: FemaleKind
    material: str
    thread_start_mm: Thickness
    thread_end_mm: Annotated[float, Range(0.1, 200.0, "mm")]
    thread_start_tol_mm: Tolerance = 0.2
    thread_end_tol_mm: Tolerance = 0.3
    overall_height_mm: Annotated[float | None, Range(0.1, 200.0, "mm")] = None
    overall_height_tol_mm: Tolerance = 0.2
    free_space_mm: Annotated[float | None, Range(0.0, 500.0, "mm")] = None
    free_space_tol_mm: Tolerance = 1.0
    manual_torque_nm: Annotated[float | None, Range(0.5, 300.0, "N·m")] = None
    spring_n_per_mm: Spring = None
    spring_across_n_per_mm: SpringAcross = None
    stock_bolt: str = ""
    known: Known = "assumed"
    facts: tuple[Fact, ...] = ()

    def __post_init__(self) -> None:
        super().__post_init__()
        choose("thread", self.thread, THREADS, "thread")
        choose("material", self.material, THREAD_MATERIALS, "thread material")
        self.female()

    def female(self) -> Female:
        """The female part for a stack."""
        through = self.female_kind not in BLIND_KINDS
        height = self.overall_height_mm
        if through and height is None:
            height = self.thread_end_mm
        return Female(
            kind=self.female_kind,
            thread_start_mm=self.thread_start_mm,
            thread_end_mm=self.thread_end_mm,
            thread_start_tol_mm=self.thread_start_tol_mm,
            thread_end_tol_mm=self.thread_end_tol_mm,
            overall_height_mm=height,
            overall_height_tol_mm=self.overall_height_tol_mm if height is not None else 0.0,
            free_space_mm=self.free_space_mm if through else None,
            free_space_tol_mm=self.free_space_tol_mm
            if through and self.free_space_mm is not None
            else 0.0,
        )


@dataclass(frozen=True)
class BikeJoint(Ranged):
    """A joint of the bike that fitting loosens, though no plate hangs on it."""

    key: str
    name: str
    thread: str
    manual_torque_nm: Annotated[float | None, Range(0.5, 300.0, "N·m")] = None
    note: str = ""

    def __post_init__(self) -> None:
        super().__post_init__()
        choose("thread", self.thread, THREADS, "thread")


_SINCE = re.compile(r"(19|20)\d\d(-(0[1-9]|1[0-2])(-(0[1-9]|[12]\d|3[01]))?)?", re.ASCII)


@dataclass(frozen=True)
class AddedMass(Ranged):
    """Something bolted on since stock: bars, luggage; place rearward from the front axle.

    ``since``: the year, month or day of it (2024, 2024-05, 2024-05-17); empty: not entered.
    """

    key: str
    name: str
    mass_kg: Annotated[float, Range(-50.0, 150.0, "kg")]
    x_mm: AlongBike
    since: str = ""

    def __post_init__(self) -> None:
        super().__post_init__()
        if self.since and not _SINCE.fullmatch(self.since):
            raise InputError(
                "since", self.since, "a year, month or day, such as 2024, 2024-05 or 2024-05-17"
            )


@dataclass(frozen=True, kw_only=True)
class SagReadings(Ranged):
    """The rider's own sag readings, mm; wheel rates follow from them, or are given."""

    rider_mass_kg: Annotated[float | None, Range(20.0, 250.0, "kg")] = None
    rider_front_share: Annotated[float, Range(0.05, 0.95)] = 0.4
    front_with_rider_mm: SagReading | None = None
    front_without_rider_mm: SagReading | None = None
    rear_with_rider_mm: SagReading | None = None
    rear_without_rider_mm: SagReading | None = None
    front_wheel_rate_n_per_mm: WheelRate | None = None
    rear_wheel_rate_n_per_mm: WheelRate | None = None


@dataclass(frozen=True)
class Baseline(Ranged):
    """How warm the bike ran before anything was changed, °C; the fan per hour of riding."""

    coolant_idling_c: Annotated[float | None, Range(0.0, 150.0, "°C")] = None
    coolant_moving_c: Annotated[float | None, Range(0.0, 150.0, "°C")] = None
    ambient_c: Annotated[float | None, Range(-40.0, 60.0, "°C")] = None
    fan_times_per_hour: Annotated[float | None, Range(0.0, 120.0)] = None
    note: str = ""


@remember_hash
@dataclass(frozen=True, kw_only=True)
class Bike(Ranged):
    """One bike: wheels, parts and mounts. Wheel radii to the tread, mm.

    ``front_travel_mm`` and ``rake_deg`` from the vertical, of the fork; None: not measured.
    ``front_mudguard_mm``: from the tread to the outside of a mudguard that moves with the wheel;
    0 for a high one that does not. ``steering_lock_deg``: how far the wheel turns either way; None:
    not measured. ``has_bars``: the lower crash bars, on which plates hang;
    upper ones are a thing of their own. ``tools``: what lies in the garage and in its trail roll.
    ``neighbours``: what must stay clear of a plate, and how it moves.
    """

    name: str
    wheelbase_mm: Annotated[float, Range(800.0, 2200.0, "mm")]
    front_wheel_radius_mm: Annotated[float, Range(150.0, 450.0, "mm")]
    rear_wheel_radius_mm: Annotated[float, Range(150.0, 450.0, "mm")]
    parts: tuple[Part, ...]
    mounts: tuple[Mount, ...]
    known: Known = "measured"
    year: Annotated[int, Range(1950, 2100)] = 2024
    facts: tuple[Fact, ...] = ()
    engine_is_frame: bool = False
    has_bars: bool = False
    has_centre_stand: bool = False
    has_side_stand: bool = True
    variant: str = ""
    market: str = ""
    model: str = ""
    front_tyre: str = ""
    rear_tyre: str = ""
    joints: tuple[BikeJoint, ...] = ()
    added: tuple[AddedMass, ...] = ()
    sag: SagReadings = SagReadings()
    baseline: Baseline = Baseline()
    front_travel_mm: Annotated[float | None, Range(0.0, 400.0, "mm")] = None
    rake_deg: Annotated[float | None, Range(10.0, 45.0, "°")] = None
    front_mudguard_mm: Annotated[float | None, Range(0.0, 150.0, "mm")] = None
    steering_lock_deg: Annotated[float | None, Range(10.0, 60.0, "°")] = None
    has_upper_bars: bool = False
    tools: tuple[OwnTool, ...] = ()
    neighbours: tuple[Neighbour, ...] = ()

    def __post_init__(self) -> None:
        super().__post_init__()
        once("key", self.own_keys(), "thing of the bike")
        once("mounts", (m.number for m in self.mounts), "mount")
        if len(self.parts) > MAX_ITEMS or len(self.mounts) > MAX_ITEMS:
            raise InputError("parts", len(self.parts), f"at most {MAX_ITEMS} parts and mounts")
        for what in ("tools", "neighbours"):
            if len(getattr(self, what)) > MAX_ITEMS:
                raise InputError(what, len(getattr(self, what)), f"at most {MAX_ITEMS} {what}")

    def own_keys(self) -> list[str]:
        """Keys of everything that lies in the bike's lists; nothing new may bear one."""
        keys = [p.key for p in self.parts] + [m.key for m in self.mounts]
        keys += [j.key for j in self.joints] + [a.key for a in self.added]
        return keys + [t.key for t in self.tools] + [n.key for n in self.neighbours]

    def vitals(self) -> tuple[Part, ...]:
        """Parts that a strike can ruin."""
        return tuple(p for p in self.parts if p.kind == "vital")

    def mount(self, key: str) -> Mount | None:
        """The mount of that key."""
        return next((m for m in self.mounts if m.key == key), None)
