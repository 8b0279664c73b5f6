"""Starting layouts: what is typical under four kinds of bike, all of it assumed.

Sizes are our own typical figures, laid out relative to the engine and scaled to
the wheelbase and ground clearance that the rider types.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Annotated, NamedTuple

from rugged_shield.core.errors import InputError, choose
from rugged_shield.core.mechanics.female import FemaleKind
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.survey.bike import (
    Bike,
    ComesOut,
    Mount,
    MountKind,
    Part,
    PartKind,
    PartShape,
    Serviced,
)
from rugged_shield.core.survey.plate import Belly, Plate
from rugged_shield.core.survey.tyres import tyre_radius_mm

LAYOUTS: dict[str, str] = {
    "single": "Single in a cradle frame",
    "parallel twin": "Parallel twin, sump between the rails",
    "big twin": "Big twin, wide cases and a low catalyst",
    "small dual-sport": "Small dual-sport, narrow and light",
}

TYPICAL_MM: dict[str, tuple[float, float]] = {
    "single": (1480.0, 280.0),
    "parallel twin": (1560.0, 220.0),
    "big twin": (1530.0, 230.0),
    "small dual-sport": (1380.0, 275.0),
}
"""Wheelbase and ground clearance, mm, that a layout is taken to have until they are measured."""
GUARD_BELOW_MM = 8.0
"""A stock guard hangs so far below the lowest vital, or level with the rails."""


@dataclass(frozen=True, kw_only=True)
class LayoutRequest(Ranged):
    """What a rider knows of a bike at the start; the rest is assumed from the layout."""

    layout: str
    name: str
    wheelbase_mm: Annotated[float, Range(1000.0, 1900.0, "mm")]
    clearance_mm: Annotated[float, Range(120.0, 450.0, "mm")]
    front_tyre: str = "90/90-21"
    rear_tyre: str = "150/70 R18"
    year: Annotated[int, Range(1950, 2100)] = 2024
    variant: str = ""
    market: str = ""
    has_bars: bool = False
    has_centre_stand: bool = False
    has_side_stand: bool = True
    engine_is_frame: bool = False


class _P(NamedTuple):
    """A part by its middle and size: x behind the sump's middle, z above the low line."""

    key: str
    name: str
    kind: PartKind
    shape: PartShape
    x: float
    y: float
    z: float
    dx: float
    dy: float
    dz: float
    consequence: int = 3
    gap: float = 8.0
    surface: float | None = None
    serviced: Serviced = ""
    out: ComesOut = "down"


class _M(NamedTuple):
    """A mount: x behind the sump's middle, z above the low line."""

    key: str
    name: str
    x: float
    y: float
    z: float
    kind: MountKind
    thread: str
    female: FemaleKind
    material: str
    end: float
    overall: float | None = None


@dataclass(frozen=True)
class _Layout:
    """Typical figures of one kind: sump middle as share of the wheelbase, scale of widths."""

    at: float
    wide: float
    parts: tuple[_P, ...]
    mounts: tuple[_M, ...]


_RAILS = (
    _P("rail-left", "frame rail, left", "low", "rail", 20, -112, 0, 470, 28, 28, 2, 0.0),
    _P("rail-right", "frame rail, right", "low", "rail", 20, 112, 0, 470, 28, 28, 2, 0.0),
)
_REST = (
    _P("linkage", "suspension linkage", "vital", "linkage", 245, 0, 22, 135, 90, 50, 4, 10.0),
    _P("pivot", "side-stand pivot", "neighbour", "pivot", 185, -132, 20, 52, 40, 50, 3, 5.0),
    _P("stand", "side stand, folded", "low", "stand", 330, -185, 40, 260, 34, 26, 1, 0.0),
    _P("peg-left", "foot peg, left", "low", "peg", 190, -255, 75, 50, 110, 30, 1, 0.0),
    _P("peg-right", "foot peg, right", "low", "peg", 190, 255, 75, 50, 110, 30, 1, 0.0),
)
_RAIL_MOUNTS = (
    _M(
        "m1",
        "front tab, left",
        -175,
        -92,
        22,
        "frame tab",
        "M8",
        "through_tapped",
        "S235 steel",
        10.0,
        10.0,
    ),
    _M(
        "m2",
        "front tab, right",
        -175,
        92,
        22,
        "frame tab",
        "M8",
        "through_tapped",
        "S235 steel",
        10.0,
        10.0,
    ),
    _M(
        "m3",
        "rear tab, left",
        170,
        -85,
        18,
        "frame tab",
        "M8",
        "through_tapped",
        "S235 steel",
        10.0,
        10.0,
    ),
    _M(
        "m4",
        "rear tab, right",
        170,
        85,
        18,
        "frame tab",
        "M8",
        "through_tapped",
        "S235 steel",
        10.0,
        10.0,
    ),
)
_BOSSES = (
    _M(
        "m1",
        "front engine boss, left",
        -150,
        -75,
        28,
        "engine boss",
        "M8",
        "blind_tapped",
        "AlSi9Cu3 die cast",
        20.0,
    ),
    _M(
        "m2",
        "front engine boss, right",
        -150,
        75,
        28,
        "engine boss",
        "M8",
        "blind_tapped",
        "AlSi9Cu3 die cast",
        20.0,
    ),
    _M(
        "m3",
        "rear engine boss, left",
        150,
        -70,
        26,
        "engine boss",
        "M8",
        "blind_tapped",
        "AlSi9Cu3 die cast",
        20.0,
    ),
    _M(
        "m4",
        "rear engine boss, right",
        150,
        70,
        26,
        "engine boss",
        "M8",
        "blind_tapped",
        "AlSi9Cu3 die cast",
        20.0,
    ),
)


def _engine(
    sump: tuple[float, float],
    header: tuple[float, float],
    filter_at: tuple[float, float, ComesOut],
    case: float,
    catalyst: bool,
) -> tuple[_P, ...]:
    """Sump (length, width), header pipe (x, y), filter (x, y, way out), case half width."""
    long, wide = sump
    fx, fy, out = filter_at
    parts = [
        _P("sump", "sump", "vital", "sump", 0, 0, 18, long, wide, 36, 5, 10.0, 100.0),
        _P("drain", "drain plug", "vital", "drain", 0, 0, 8, 34, 34, 12, 5, 5.0, None, "drain"),
        _P("filter", "oil filter", "vital", "filter", fx, fy, 60, 68, 60, 66, 4, 10.0)._replace(
            serviced="filter", out=out
        ),
        _P("clutch", "clutch case", "vital", "case", 0, -case, 50, 190, 70, 150, 4, 10.0),
        _P("pump", "water pump", "vital", "pump", -90, case, 60, 66, 56, 66, 4, 10.0),
        _P("header", "header pipe", "vital", "pipe", *header, 45, 110, 60, 260, 3, 20.0, 330.0),
        _P("hose", "coolant hose", "vital", "hose", -165, -70, 70, 66, 30, 110, 3, 8.0, 90.0),
    ]
    if catalyst:
        parts.append(
            _P(
                "catalyst",
                "catalyst box",
                "vital",
                "catalyst",
                120,
                40,
                14,
                170,
                110,
                80,
                4,
                20.0,
                300.0,
            )
        )
    return tuple(parts)


_KINDS: dict[str, _Layout] = {
    "single": _Layout(
        0.455,
        1.0,
        (*_engine((270, 170), (-150, 45), (0, 150, "right"), 128, False), *_RAILS, *_REST),
        _RAIL_MOUNTS,
    ),
    "parallel twin": _Layout(
        0.45,
        1.1,
        (*_engine((290, 200), (-170, 0), (-130, 30, "forward"), 170, False), *_RAILS, *_REST),
        _RAIL_MOUNTS,
    ),
    "big twin": _Layout(
        0.46,
        1.25,
        (*_engine((330, 230), (-190, 20), (-60, 90, "down"), 200, True), *_RAILS, *_REST),
        _RAIL_MOUNTS,
    ),
    "small dual-sport": _Layout(
        0.46,
        0.8,
        (*_engine((220, 130), (-130, 40), (40, 115, "right"), 105, False), *_RAILS, *_REST),
        _RAIL_MOUNTS,
    ),
}


def _part(p: _P, x0: float, z0: float, wide: float) -> Part:
    half_y, y = p.dy / 2, p.y * (wide if p.kind == "low" else 1.0)
    return Part(
        key=p.key,
        name=p.name,
        kind=p.kind,
        shape=p.shape,
        x_min_mm=x0 + p.x - p.dx / 2,
        x_max_mm=x0 + p.x + p.dx / 2,
        y_min_mm=y - half_y,
        y_max_mm=y + half_y,
        z_min_mm=z0 + p.z,
        z_max_mm=z0 + p.z + p.dz,
        consequence=p.consequence,
        required_gap_mm=p.gap,
        surface_c=p.surface,
        serviced=p.serviced,
        comes_out=p.out,
        known="assumed",
    )


def _mount(m: _M, number: int, x0: float, z0: float) -> Mount:
    return Mount(
        key=m.key,
        number=number,
        name=m.name,
        x_mm=x0 + m.x,
        y_mm=m.y,
        z_mm=z0 + m.z,
        kind=m.kind,
        thread=m.thread,
        female_kind=m.female,
        material=m.material,
        thread_start_mm=1.0,
        thread_end_mm=m.end,
        overall_height_mm=m.overall,
        free_space_mm=30.0 if m.overall else None,
        known="assumed",
    )


def bike_from_layout(asked: LayoutRequest) -> Bike:
    """A whole bike with every part and mount assumed, its stock guard at the clearance typed.

    With ``engine_is_frame`` there are no rails: the sump is the lowest, and the
    mounts are bosses of the engine's castings. Raises InputError naming the field.
    """
    choose("layout", asked.layout, LAYOUTS, "starting layout")
    if not asked.name.strip():
        raise InputError("name", asked.name, "a name", "the bike needs a name")
    kind = _KINDS[asked.layout]
    x0 = round(kind.at * asked.wheelbase_mm)
    parts = [p for p in kind.parts if not (asked.engine_is_frame and p.shape == "rail")]
    if not asked.has_side_stand:
        parts = [p for p in parts if p.key not in ("pivot", "stand")]
    if asked.has_centre_stand:
        parts.append(
            _P(
                "centre-stand",
                "centre stand, folded",
                "low",
                "stand",
                300,
                0,
                30,
                240,
                260,
                40,
                1,
                0.0,
            )
        )
    line = min(p.z if p.kind == "low" else p.z - GUARD_BELOW_MM for p in parts)
    z0 = asked.clearance_mm - line
    mounts = _BOSSES if asked.engine_is_frame else kind.mounts
    return Bike(
        name=asked.name.strip(),
        wheelbase_mm=asked.wheelbase_mm,
        front_wheel_radius_mm=tyre_radius_mm(asked.front_tyre, "front_tyre"),
        rear_wheel_radius_mm=tyre_radius_mm(asked.rear_tyre, "rear_tyre"),
        parts=tuple(_part(p, x0, z0, kind.wide) for p in parts),
        mounts=tuple(_mount(m, i + 1, x0, z0) for i, m in enumerate(mounts)),
        known="printed",
        year=asked.year,
        engine_is_frame=asked.engine_is_frame,
        has_bars=asked.has_bars,
        has_centre_stand=asked.has_centre_stand,
        has_side_stand=asked.has_side_stand,
        variant=asked.variant.strip(),
        market=asked.market.strip(),
        front_tyre=asked.front_tyre,
        rear_tyre=asked.rear_tyre,
    )


def typical_bike(layout: str, name: str) -> Bike:
    """A bike of which nothing but its layout is known: its sizes are assumed with the rest."""
    choose("layout", layout, LAYOUTS, "starting layout")
    wheelbase, clearance = TYPICAL_MM[layout]
    asked = LayoutRequest(layout=layout, name=name, wheelbase_mm=wheelbase, clearance_mm=clearance)
    return replace(bike_from_layout(asked), known="assumed")


def stock_plate(bike: Bike) -> Plate:
    """A thin plastic guard under the sump, as many bikes leave the factory: all assumed."""
    sump = next((p for p in bike.parts if p.shape == "sump"), None)
    if sump is None:
        raise InputError("parts", "", "a bike with a sump", "there is no sump to guard")
    low = min(p.z_min_mm if p.kind == "low" else p.z_min_mm - GUARD_BELOW_MM for p in bike.parts)
    width = sump.y_max_mm - sump.y_min_mm + 30
    belly = Belly(
        start_x_mm=sump.x_min_mm - 20,
        length_mm=sump.x_max_mm - sump.x_min_mm + 40,
        front_width_mm=width,
        rear_width_mm=width,
        z_front_mm=low,
        z_rear_mm=low,
    )
    return Plate(
        key="stock",
        name="stock guard",
        role="stock",
        material="polypropylene",
        thickness_mm=3.0,
        form="moulded",
        mounting="frame",
        belly=belly,
        known="assumed",
    )
