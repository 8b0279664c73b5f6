"""From torque to preload and back (VDI 2230-1, ISO 16047)."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated

from rugged_shield.core.amounts import entered
from rugged_shield.core.computation import computation
from rugged_shield.core.errors import InputError
from rugged_shield.core.mechanics import threads
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.result import Input, Outcome, Source

PRELOAD_SOURCE = Source("VDI 2230-1:2003 equations (5.5/4) and (R8); ISO 16047", "high")

Friction = Annotated[float, Range(0.02, 0.6)]
Diameter = Annotated[float, Range(2.0, 100.0, "mm")]
Strength = Annotated[float, Range(50.0, 2000.0, "MPa")]
Utilisation = Annotated[float, Range(0.05, 1.0)]
Torque = Annotated[float, Range(0.0, 2000.0, "N·m")]


@dataclass(frozen=True, kw_only=True)
class PreloadInput(Ranged):
    """A screw tightened to a share of its yield; friction without unit."""

    thread: str
    bolt_rp02_mpa: Strength
    mu_thread: Friction
    mu_head: Friction
    head_bearing_diameter_mm: Diameter
    head_bearing_hole_mm: Diameter
    utilisation: Utilisation = 0.9
    bolt_grade: str = ""

    def __post_init__(self) -> None:
        super().__post_init__()
        check_ring(self.head_bearing_diameter_mm, self.head_bearing_hole_mm, "head_bearing_hole_mm")


@dataclass(frozen=True, kw_only=True)
class PreloadResult:
    """Preload N and torque N·m, linear and exact form (they agree within 1 %)."""

    d_km_mm: float
    preload_n: float
    torque_nm: float
    preload_linear_form_n: float
    torque_linear_form_nm: float
    preload_exact_form_n: float
    torque_exact_form_nm: float


def check_ring(outer_mm: float, inner_mm: float, field: str) -> None:
    """A bearing ring needs a hole smaller than its outside."""
    if inner_mm >= outer_mm:
        raise InputError(
            field,
            entered(inner_mm, "mm"),
            f"a hole below {entered(outer_mm, 'mm')}",
            "the hole is not smaller than what bears on it",
        )


def torque_per_preload_mm(
    geo: threads.ThreadGeometry, d_km_mm: float, mu_thread: float, mu_head: float
) -> float:
    """K = 0.16 P + 0.58 d2 μ_thread + ½ D_Km μ_head, so that M[N·m] = F[N]·K/1000."""
    return 0.16 * geo.pitch_mm + 0.58 * geo.d2_mm * mu_thread + d_km_mm / 2 * mu_head


def torsion_factor(geo: threads.ThreadGeometry, mu_thread: float) -> float:
    """√(1 + 3(1.5 d2/d0 (P/(π d2) + 1.155 μ))²): what torsion adds while tightening."""
    d0 = (geo.d2_mm + geo.d3_mm) / 2
    lead = geo.pitch_mm / (math.pi * geo.d2_mm) + 1.155 * mu_thread
    return math.sqrt(1 + 3 * (1.5 * geo.d2_mm / d0 * lead) ** 2)


def bolt_preload_n(
    geo: threads.ThreadGeometry, rp02_mpa: float, mu_thread: float, utilisation: float
) -> float:
    """Preload at which tension and torsion together use this share of R_p0.2."""
    return geo.stress_area_mm2 * utilisation * rp02_mpa / torsion_factor(geo, mu_thread)


def utilisation_of(
    preload_n: float, geo: threads.ThreadGeometry, rp02_mpa: float, mu_thread: float
) -> float:
    """Share of R_p0.2 reached while tightening to this preload."""
    return preload_n * torsion_factor(geo, mu_thread) / (geo.stress_area_mm2 * rp02_mpa)


@computation("assembly-preload", page="preload-and-torque", check="preload-01")
def assembly_preload(given: PreloadInput) -> Outcome[PreloadResult]:
    """Preload and torque at a share of yield, by the linear and the exact form.

    Exact: tan(φ+ρ') with φ = atan(P/(π d2)), ρ' = atan(μ/cos 30°). Checked
    against VDI 2230-1 Table A1 within 1.5 % (M4 2.5 %).
    """
    geo = threads.geometry_of(given.thread)
    d_km = (given.head_bearing_diameter_mm + given.head_bearing_hole_mm) / 2
    linear_n = bolt_preload_n(geo, given.bolt_rp02_mpa, given.mu_thread, given.utilisation)
    k_mm = torque_per_preload_mm(geo, d_km, given.mu_thread, given.mu_head)
    phi = math.atan(geo.pitch_mm / (math.pi * geo.d2_mm))
    rho = math.atan(given.mu_thread / math.cos(math.radians(30)))
    tangent = math.tan(phi + rho)
    d0 = (geo.d2_mm + geo.d3_mm) / 2
    exact_n = (
        geo.stress_area_mm2
        * given.utilisation
        * given.bolt_rp02_mpa
        / math.sqrt(1 + 3 * (1.5 * geo.d2_mm / d0 * tangent) ** 2)
    )
    result = PreloadResult(
        d_km_mm=d_km,
        preload_n=linear_n,
        torque_nm=linear_n * k_mm / 1000,
        preload_linear_form_n=linear_n,
        torque_linear_form_nm=linear_n * k_mm / 1000,
        preload_exact_form_n=exact_n,
        torque_exact_form_nm=exact_n * (geo.d2_mm / 2 * tangent + d_km / 2 * given.mu_head) / 1000,
    )
    return Outcome(
        result=result,
        inputs=(
            Input("Thread", given.thread),
            Input("Yield of the screw", given.bolt_rp02_mpa, "MPa"),
            Input("Friction in the thread", given.mu_thread),
            Input("Friction under the head", given.mu_head),
            Input("Share of yield used", given.utilisation),
        ),
        reasons=("Preload so that tension and torsion together use the share of yield given.",),
        sources=(PRELOAD_SOURCE,),
    )
