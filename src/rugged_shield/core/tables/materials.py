"""Sheet materials: typical values, not minima.

Columns as in the material table of ``docs/methods/materials.md``. Plastics
soften with temperature; that curve joins when heat is judged.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from rugged_shield.core.result import Source

MaterialFamily = Literal["aluminium", "steel", "plastic"]


@dataclass(frozen=True)
class SheetMaterial:
    """Density kg/m³, E GPa, Poisson's ratio, strengths MPa, service temperature °C.

    ``bearing_limit_mpa`` is the surface pressure under a head that the sheet
    bears for long; ``max_service_c`` None where no limit applies here.
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
    source: Source


_TYPICAL = Source("typical values from material data sheets", "medium")

SHEET_MATERIALS: dict[str, SheetMaterial] = {
    "aluminium 5052-H32": SheetMaterial(
        "aluminium", 2680, 70.3, 0.33, 193, 228, 150, 23.8, 230, _TYPICAL
    ),
    "aluminium 5083-H111": SheetMaterial(
        "aluminium", 2660, 71.0, 0.33, 145, 290, 65, 23.8, 230, _TYPICAL
    ),
    "aluminium 6061-T6": SheetMaterial(
        "aluminium", 2700, 68.9, 0.33, 276, 310, 150, 23.6, 260, _TYPICAL
    ),
    "mild steel S235": SheetMaterial("steel", 7850, 205, 0.29, 235, 360, 300, 12.0, 490, _TYPICAL),
    "stainless 304": SheetMaterial("steel", 8000, 193, 0.29, 215, 505, 400, 17.3, 460, _TYPICAL),
    "HDPE": SheetMaterial("plastic", 955, 1.05, 0.42, 26, 30, 80, 150, 15, _TYPICAL),
    "UHMW-PE": SheetMaterial("plastic", 935, 0.75, 0.46, 21, 40, 80, 180, 12, _TYPICAL),
    "polypropylene": SheetMaterial("plastic", 905, 1.40, 0.42, 33, 35, 100, 120, 18, _TYPICAL),
}
