"""Materials that threads are cut in or that clamping bears on."""

from dataclasses import dataclass

from rugged_shield.core.result import Source
from rugged_shield.core.tables.nature import Nature


@dataclass(frozen=True, kw_only=True)
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
        shear_strength_mpa=140,
        bearing_limit_mpa=290,
        wanted_engagement_d=1.5,
        source=Source("VDI 2230-1:2003 Table A9; EN 1706 Rm min 240", "medium"),
        metal="aluminium",
        cast=True,
    ),
    "AlSi9Cu3 sand cast": ThreadMaterial(
        shear_strength_mpa=110,
        bearing_limit_mpa=220,
        wanted_engagement_d=1.5,
        source=Source("VDI 2230-1:2003 Table A9", "medium"),
        metal="aluminium",
        cast=True,
    ),
    "A380 die cast": ThreadMaterial(
        shear_strength_mpa=140,
        bearing_limit_mpa=290,
        wanted_engagement_d=1.5,
        source=Source(
            "minima as of EN AC-46000 die cast, its nearest alloy; the typical 186-190 is no minimum",
            "low",
        ),
        metal="aluminium",
        cast=True,
    ),
    "A356-T6 sand cast": ThreadMaterial(
        shear_strength_mpa=148,
        bearing_limit_mpa=380,
        wanted_engagement_d=1.5,
        source=Source("0.65 of its least Rm; pressure as of AlSi7Mg T6, the same alloy", "low"),
        metal="aluminium",
        cast=True,
    ),
    "AlSi7Mg T6 cast": ThreadMaterial(
        shear_strength_mpa=150,
        bearing_limit_mpa=380,
        wanted_engagement_d=1.5,
        source=Source("VDI 2230-1:2003 Table A9", "medium"),
        metal="aluminium",
        cast=True,
    ),
    "AZ91D magnesium die cast": ThreadMaterial(
        shear_strength_mpa=130,
        bearing_limit_mpa=140,
        wanted_engagement_d=2.0,
        source=Source("VDI 2230-1:2003 Table A9 GD-AZ91, the lower of its figures", "medium"),
        metal="magnesium",
        cast=True,
    ),
    "S235 steel": ThreadMaterial(
        shear_strength_mpa=200,
        bearing_limit_mpa=490,
        wanted_engagement_d=1.0,
        source=Source("VDI 2230-1:2003 Table A9 (S235 tau 200)", "high"),
        metal="steel",
    ),
    "weld nut steel": ThreadMaterial(
        shear_strength_mpa=280,
        bearing_limit_mpa=490,
        wanted_engagement_d=1.0,
        source=Source("class 8 weld nut, typical shear strength", "low"),
        metal="steel",
    ),
    "C45 steel, quenched and tempered": ThreadMaterial(
        shear_strength_mpa=460,
        bearing_limit_mpa=630,
        wanted_engagement_d=1.0,
        source=Source("VDI 2230-1:2003 Table A9 (C45V, tau 460)", "medium"),
        metal="steel",
    ),
}
