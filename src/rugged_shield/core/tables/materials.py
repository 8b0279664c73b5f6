"""Sheet materials: typical values, not minima.

Plastics soften with temperature: ``softened`` is their share of stiffness and strength.
"""

from __future__ import annotations

import itertools
from dataclasses import dataclass
from typing import Literal

from rugged_shield.core.errors import InputError
from rugged_shield.core.result import Source

MaterialFamily = Literal["aluminium", "steel", "plastic"]


@dataclass(frozen=True)
class SheetMaterial:
    """Density kg/m³, E GPa, Poisson's ratio, strengths MPa, service temperature °C.

    ``bearing_limit_mpa`` is the surface pressure under a head that the sheet
    bears for long. ``loss_factor`` damps its ring, ``slide_friction`` is against rock,
    ``anodic_index_v`` after MIL-STD-889 (None: does not corrode).
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
    anodic_index_v: float | None
    source: Source


_TYPICAL = Source("typical values from material data sheets", "medium")

SHEET_MATERIALS: dict[str, SheetMaterial] = {
    "aluminium 5052-H32": SheetMaterial(
        "aluminium", 2680, 70.3, 0.33, 193, 228, 150, 23.8, 230, 0.0005, 0.45, -0.90, _TYPICAL
    ),
    "aluminium 5083-H111": SheetMaterial(
        "aluminium", 2660, 71.0, 0.33, 145, 290, 65, 23.8, 230, 0.0005, 0.45, -0.90, _TYPICAL
    ),
    "aluminium 6061-T6": SheetMaterial(
        "aluminium", 2700, 68.9, 0.33, 276, 310, 150, 23.6, 260, 0.0005, 0.45, -0.90, _TYPICAL
    ),
    "mild steel S235": SheetMaterial(
        "steel", 7850, 205, 0.29, 235, 360, 300, 12.0, 490, 0.001, 0.50, -0.85, _TYPICAL
    ),
    "stainless 304": SheetMaterial(
        "steel", 8000, 193, 0.29, 215, 505, 400, 17.3, 460, 0.001, 0.50, -0.50, _TYPICAL
    ),
    "HDPE": SheetMaterial(
        "plastic", 955, 1.05, 0.42, 26, 30, 80, 150, 15, 0.10, 0.25, None, _TYPICAL
    ),
    "UHMW-PE": SheetMaterial(
        "plastic", 935, 0.75, 0.46, 21, 40, 80, 180, 12, 0.10, 0.20, None, _TYPICAL
    ),
    "polypropylene": SheetMaterial(
        "plastic", 905, 1.40, 0.42, 33, 35, 100, 120, 18, 0.08, 0.30, None, _TYPICAL
    ),
}

ROOM_C = 23.0
_SOFTENING = ((-20.0, 1.9), (0.0, 1.4), (ROOM_C, 1.0), (40.0, 0.7), (60.0, 0.45), (80.0, 0.28))
"""Temperature °C and stiffness over that at 23 °C, HDPE; yield follows about the same curve."""


def softened(material: str, temperature_c: float) -> float:
    """Stiffness and yield of a sheet over their values at 23 °C; metals keep theirs.

    Valid from −20 to 80 °C for plastics; raises InputError beyond.
    """
    if SHEET_MATERIALS[material].family != "plastic":
        return 1.0
    for (cold, more), (warm, less) in itertools.pairwise(_SOFTENING):
        if cold <= temperature_c <= warm:
            return more + (less - more) * (temperature_c - cold) / (warm - cold)
    raise InputError("temperature_c", f"{temperature_c:g} °C", "from −20 °C to 80 °C")
