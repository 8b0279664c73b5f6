"""Thread stripping (FED-STD-H28/2B; Alexander 1977)."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated, Literal

from rugged_shield.core.amounts import amount
from rugged_shield.core.computation import computation
from rugged_shield.core.mechanics import threads
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.result import Input, Outcome, Source

STRIP_SOURCE = Source("FED-STD-H28/2B shear areas; Alexander, SAE 770420 (1977)", "high")

Limits = Literal["6g/6H minimum material", "nominal"]


@dataclass(frozen=True, kw_only=True)
class StripInput(Ranged):
    """A screw thread in a female thread; strengths MPa, engagement mm."""

    thread: str
    engagement_effective_mm: Annotated[float, Range(0.0, 200.0, "mm")]
    female_shear_strength_mpa: Annotated[float, Range(1.0, 2000.0, "MPa")]
    bolt_rm_mpa: Annotated[float, Range(100.0, 2000.0, "MPa")] = 800.0
    bolt_shear_ratio: Annotated[float, Range(0.3, 1.0)] = 0.62
    strip_safety_factor: Annotated[float, Range(1.0, 10.0)] = 2.0
    limits: Limits = "6g/6H minimum material"
    female_material: str = ""
    bolt_grade: str = ""


@dataclass(frozen=True, kw_only=True)
class StripResult:
    """Shear areas mm², loads N, engagement at which the bolt breaks first."""

    internal_shear_area_min_mm2: float
    external_shear_area_min_mm2: float
    internal_shear_area_nominal_mm2: float
    external_shear_area_nominal_mm2: float
    strip_load_n: float
    bolt_thread_strip_load_n: float
    allowed_preload_n: float
    bolt_break_load_n: float
    first_failure: str
    engagement_for_bolt_first_mm: float
    engagement_for_bolt_first_d: float


@dataclass(frozen=True)
class ShearAreas:
    """Shear area per mm of engagement, mm²/mm."""

    internal: float
    external: float


def shear_areas(thread: str, limits: Limits = "6g/6H minimum material") -> ShearAreas:
    """Shear areas per mm of engaged length.

    ASn = π/P·d_min(P/2 + (d_min − D2_max)/√3), ASs = π/P·D1_max(P/2 + (d2_min − D1_max)/√3)
    (FED-STD-H28/2B). ``nominal`` uses basic sizes and overstates by about 30 %.
    """
    row = threads.row_of(thread)
    basic = threads.geometry(row.d_mm, row.pitch_mm)
    d, d2e, d1i, d2i = (
        (row.d_min_mm, row.d2_min_mm, row.d1_max_mm, row.d2_max_mm)
        if limits != "nominal"
        else (basic.d_mm, basic.d2_mm, basic.d1_mm, basic.d2_mm)
    )
    pitch, root3 = row.pitch_mm, math.sqrt(3)
    return ShearAreas(
        internal=math.pi / pitch * d * (pitch / 2 + (d - d2i) / root3),
        external=math.pi / pitch * d1i * (pitch / 2 + (d2e - d1i) / root3),
    )


@computation("thread-strip", page="threads", check="strip-01")
def thread_strip(given: StripInput) -> Outcome[StripResult]:
    """Strip load of a screwed joint and what fails first.

    Strip load = τ·ASn over the effective engagement; allowed preload divides it
    by the safety factor. Dilation and bending factors C1 = C3 = 1 (solid boss).
    """
    thread, length = given.thread, given.engagement_effective_mm
    least = shear_areas(thread)
    nominal = shear_areas(thread, "nominal")
    used = nominal if given.limits == "nominal" else least
    geo = threads.geometry_of(thread)
    strip = given.female_shear_strength_mpa * used.internal * length
    bolt_thread = given.bolt_shear_ratio * given.bolt_rm_mpa * used.external * length
    breaks = geo.stress_area_mm2 * given.bolt_rm_mpa
    failures = {
        "bolt breaks": breaks,
        "female thread strips": strip,
        "bolt thread strips": bolt_thread,
    }
    first = min(failures, key=failures.__getitem__)
    classes = "2A/2B" if threads.is_inch(thread) else "6g/6H"
    bolt_first = breaks / (given.female_shear_strength_mpa * used.internal)
    result = StripResult(
        internal_shear_area_min_mm2=least.internal * length,
        external_shear_area_min_mm2=least.external * length,
        internal_shear_area_nominal_mm2=nominal.internal * length,
        external_shear_area_nominal_mm2=nominal.external * length,
        strip_load_n=strip,
        bolt_thread_strip_load_n=bolt_thread,
        allowed_preload_n=strip / given.strip_safety_factor,
        bolt_break_load_n=breaks,
        first_failure=first,
        engagement_for_bolt_first_mm=bolt_first,
        engagement_for_bolt_first_d=bolt_first / geo.d_mm,
    )
    return Outcome(
        result=result,
        inputs=(
            Input("Thread", thread),
            Input("Effective engagement", length, "mm"),
            Input("Shear strength of the female thread", given.female_shear_strength_mpa, "MPa"),
            Input("Tensile strength of the screw", given.bolt_rm_mpa, "MPa"),
            Input("Safety against stripping", given.strip_safety_factor),
        ),
        reasons=(
            "Strip load = shear strength × shear area of the female thread over the "
            "effective engagement.",
            f"{first} at {amount(failures[first], 'N', 0)}.",
        ),
        assumptions=(
            f"Threads at {classes} minimum material: the worst pair the tolerances allow."
            if given.limits != "nominal"
            else "Basic sizes, which overstate the shear area by about 30 %.",
            "The boss is solid: no dilation and no bending of the thread (C1 = C3 = 1).",
        ),
        sources=(STRIP_SOURCE, threads.limits_source(thread)),
    )
