"""Materials that threads are cut in or that clamping bears on."""

from dataclasses import dataclass

from rugged_shield.core.result import Source
from rugged_shield.core.tables.nature import Nature


@dataclass(frozen=True)
class ThreadMaterial(Nature):
    """Shear strength of the thread and limiting surface pressure, MPa.

    ``wanted_engagement_d`` is the engagement asked for in multiples of d.
    """

    shear_strength_mpa: float
    bearing_limit_mpa: float | None
    wanted_engagement_d: float
    source: Source


THREAD_MATERIALS: dict[str, ThreadMaterial] = {
    "AlSi9Cu3 die cast": ThreadMaterial(
        140,
        290,
        1.5,
        Source("VDI 2230-1:2003 Table A9; EN 1706 Rm min 240", "medium"),
        metal="aluminium",
        cast=True,
    ),
    "AlSi9Cu3 sand cast": ThreadMaterial(
        110, 220, 1.5, Source("VDI 2230-1:2003 Table A9", "medium"), metal="aluminium", cast=True
    ),
    "A380 die cast": ThreadMaterial(
        186,
        None,
        1.5,
        Source("NADCA/ASM typical values, not minima (tau 186-190)", "medium"),
        metal="aluminium",
        cast=True,
    ),
    "A356-T6 sand cast": ThreadMaterial(
        179,
        None,
        1.5,
        Source("ASM typical; tau/Rm 0.79 is generous, for minima use 0.65 Rm = 148", "medium"),
        metal="aluminium",
        cast=True,
    ),
    "AlSi7Mg T6 cast": ThreadMaterial(
        150, 380, 1.5, Source("VDI 2230-1:2003 Table A9", "medium"), metal="aluminium", cast=True
    ),
    "AZ91D magnesium die cast": ThreadMaterial(
        140,
        180,
        2.0,
        Source(
            "ASM/NADCA typical Rm 230-234, tau 138-140; VDI GD-AZ91 lower (tau 130, p_G 140..220)",
            "medium",
        ),
        metal="magnesium",
        cast=True,
    ),
    "S235 steel": ThreadMaterial(
        200, 490, 1.0, Source("VDI 2230-1:2003 Table A9 (S235 tau 200)", "high"), metal="steel"
    ),
    "weld nut steel": ThreadMaterial(
        280, 490, 1.0, Source("class 8 weld nut, typical shear strength", "low"), metal="steel"
    ),
    "C45 steel, quenched and tempered": ThreadMaterial(
        460, 630, 1.0, Source("VDI 2230-1:2003 Table A9 (C45V, tau 460)", "medium"), metal="steel"
    ),
}
