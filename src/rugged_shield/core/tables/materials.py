"""Sheet materials: typical values, not minima.

Plastics soften with temperature: ``softened`` is their share of stiffness and strength.
"""

from __future__ import annotations

import itertools
from dataclasses import dataclass
from typing import Literal

from rugged_shield.core.amounts import entered
from rugged_shield.core.errors import InputError
from rugged_shield.core.result import Source
from rugged_shield.core.tables.nature import Nature

MaterialFamily = Literal["aluminium", "steel", "plastic"]


@dataclass(frozen=True, kw_only=True)
class SheetMaterial(Nature):
    """Density kg/m³, E GPa, Poisson's ratio, strengths MPa, service temperature °C.

    ``bearing_limit_mpa`` is the surface pressure under a head that the sheet
    bears for long. ``loss_factor`` damps its ring, ``slide_friction`` is against rock,
    ``emissivity`` of its face as a plate is sold (bare aluminium and stainless, painted steel),
    ``anodic_index_v`` after MIL-STD-889 (None: does not corrode). Below ``brittle_below_c`` a
    blow may crack it.
    """

    family: MaterialFamily
    density_kg_m3: float
    youngs_modulus_gpa: float
    poisson_ratio: float
    yield_mpa: float
    tensile_mpa: float
    max_service_c: float
    thermal_expansion_1e6_k: float
    bearing_limit_mpa: float
    loss_factor: float
    slide_friction: float
    conductivity_w_per_mk: float
    emissivity: float
    anodic_index_v: float | None
    source: Source
    brittle_below_c: float | None = None


_TYPICAL = Source("typical values from material data sheets", "medium")

SHEET_MATERIALS: dict[str, SheetMaterial] = {
    "aluminium 5052-H32": SheetMaterial(
        metal="aluminium",
        family="aluminium",
        density_kg_m3=2680,
        youngs_modulus_gpa=70.3,
        poisson_ratio=0.33,
        yield_mpa=193,
        tensile_mpa=228,
        max_service_c=150,
        thermal_expansion_1e6_k=23.8,
        bearing_limit_mpa=230,
        loss_factor=0.0005,
        slide_friction=0.45,
        conductivity_w_per_mk=138,
        emissivity=0.2,
        anodic_index_v=-0.90,
        source=_TYPICAL,
    ),
    "aluminium 5083-H111": SheetMaterial(
        metal="aluminium",
        family="aluminium",
        density_kg_m3=2660,
        youngs_modulus_gpa=71.0,
        poisson_ratio=0.33,
        yield_mpa=145,
        tensile_mpa=290,
        max_service_c=65,
        thermal_expansion_1e6_k=23.8,
        bearing_limit_mpa=230,
        loss_factor=0.0005,
        slide_friction=0.45,
        conductivity_w_per_mk=117,
        emissivity=0.2,
        anodic_index_v=-0.90,
        source=_TYPICAL,
    ),
    "aluminium 6061-T6": SheetMaterial(
        metal="aluminium",
        family="aluminium",
        density_kg_m3=2700,
        youngs_modulus_gpa=68.9,
        poisson_ratio=0.33,
        yield_mpa=276,
        tensile_mpa=310,
        max_service_c=150,
        thermal_expansion_1e6_k=23.6,
        bearing_limit_mpa=260,
        loss_factor=0.0005,
        slide_friction=0.45,
        conductivity_w_per_mk=167,
        emissivity=0.2,
        anodic_index_v=-0.90,
        source=_TYPICAL,
    ),
    "mild steel S235": SheetMaterial(
        metal="steel",
        family="steel",
        density_kg_m3=7850,
        youngs_modulus_gpa=205,
        poisson_ratio=0.29,
        yield_mpa=235,
        tensile_mpa=360,
        max_service_c=300,
        thermal_expansion_1e6_k=12.0,
        bearing_limit_mpa=490,
        loss_factor=0.001,
        slide_friction=0.50,
        conductivity_w_per_mk=50,
        emissivity=0.9,
        anodic_index_v=-0.85,
        source=_TYPICAL,
    ),
    "stainless 304": SheetMaterial(
        metal="stainless",
        family="steel",
        density_kg_m3=8000,
        youngs_modulus_gpa=193,
        poisson_ratio=0.29,
        yield_mpa=215,
        tensile_mpa=505,
        max_service_c=400,
        thermal_expansion_1e6_k=17.3,
        bearing_limit_mpa=460,
        loss_factor=0.001,
        slide_friction=0.50,
        conductivity_w_per_mk=16,
        emissivity=0.3,
        anodic_index_v=-0.50,
        source=_TYPICAL,
    ),
    "HDPE": SheetMaterial(
        plastic=True,
        family="plastic",
        density_kg_m3=955,
        youngs_modulus_gpa=1.05,
        poisson_ratio=0.42,
        yield_mpa=26,
        tensile_mpa=30,
        max_service_c=80,
        thermal_expansion_1e6_k=150,
        bearing_limit_mpa=15,
        loss_factor=0.10,
        slide_friction=0.25,
        conductivity_w_per_mk=0.45,
        emissivity=0.9,
        anodic_index_v=None,
        source=_TYPICAL,
        brittle_below_c=-10,
    ),
    "UHMW-PE": SheetMaterial(
        plastic=True,
        family="plastic",
        density_kg_m3=935,
        youngs_modulus_gpa=0.75,
        poisson_ratio=0.46,
        yield_mpa=21,
        tensile_mpa=40,
        max_service_c=80,
        thermal_expansion_1e6_k=180,
        bearing_limit_mpa=12,
        loss_factor=0.10,
        slide_friction=0.20,
        conductivity_w_per_mk=0.41,
        emissivity=0.9,
        anodic_index_v=None,
        source=_TYPICAL,
    ),
    "polypropylene": SheetMaterial(
        plastic=True,
        family="plastic",
        density_kg_m3=905,
        youngs_modulus_gpa=1.40,
        poisson_ratio=0.42,
        yield_mpa=33,
        tensile_mpa=35,
        max_service_c=100,
        thermal_expansion_1e6_k=120,
        bearing_limit_mpa=18,
        loss_factor=0.08,
        slide_friction=0.30,
        conductivity_w_per_mk=0.2,
        emissivity=0.9,
        anodic_index_v=None,
        source=_TYPICAL,
        brittle_below_c=5,
    ),
}


@dataclass(frozen=True)
class LooseMaterial(Nature):
    """What washers, spacers and rubber are made of, where no grade is named: density kg/m³."""

    density_kg_m3: float


SLIDER_MATERIALS = ("HDPE", "UHMW-PE")
"""Plastics that are sold as sliders under a metal plate."""

LOOSE_MATERIALS: dict[str, LooseMaterial] = {
    "steel": LooseMaterial(7850.0, metal="steel"),
    "cast aluminium": LooseMaterial(2700.0, metal="aluminium", cast=True),
    "rubber": LooseMaterial(1200.0, rubber=True),
}
LAYER_MATERIALS: dict[str, SheetMaterial | LooseMaterial] = {**SHEET_MATERIALS, **LOOSE_MATERIALS}
"""Everything that a layer of a joint can be made of."""

ROOM_C = 23.0
WINTER_C = -10.0
"""A cold ride: what a plastic may meet wherever it freezes."""
_SOFTENING = ((-20.0, 1.9), (0.0, 1.4), (ROOM_C, 1.0), (40.0, 0.7), (60.0, 0.45), (80.0, 0.28))
"""Temperature °C and stiffness over that at 23 °C, HDPE; yield follows about the same curve."""


WELD_ZONE_MM = 25.0
"""How far a weld softens the sheet (EN 1999-1-1:2007, 6.1.6.3, up to 6 mm, rounded up)."""
_WELD_ZONE_SHARE = {
    "aluminium 5052-H32": 0.5,
    "aluminium 5083-H111": 1.0,
    "aluminium 6061-T6": 0.48,
}
"""Yield beside a weld over that of the sheet (EN 1999-1-1:2007, table 3.2)."""


def weld_zone_share(material: str) -> float:
    """What is left of a sheet's strength beside a weld; 1 for steel, plastic and soft alloys."""
    return _WELD_ZONE_SHARE.get(material, 1.0)


def softened(material: str, temperature_c: float) -> float:
    """Stiffness and yield of a sheet over their values at 23 °C; metals keep theirs.

    Valid from −20 to 80 °C for plastics; raises InputError beyond.
    """
    if not SHEET_MATERIALS[material].plastic:
        return 1.0
    for (cold, more), (warm, less) in itertools.pairwise(_SOFTENING):
        if cold <= temperature_c <= warm:
            return more + (less - more) * (temperature_c - cold) / (warm - cold)
    raise InputError("temperature_c", entered(temperature_c, "°C"), "from −20 °C to 80 °C")
