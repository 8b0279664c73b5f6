"""What a joint bears: the governing limit, and what a change of lubricant does."""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from typing import Annotated

from rugged_shield.core.amounts import amount, percent
from rugged_shield.core.computation import computation
from rugged_shield.core.errors import InputError
from rugged_shield.core.mechanics import strip, threads
from rugged_shield.core.mechanics.preload import (
    PRELOAD_SOURCE,
    Diameter,
    Friction,
    Strength,
    Utilisation,
    bolt_preload_n,
    check_ring,
    torque_per_preload_mm,
    utilisation_of,
)
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.result import Input, Outcome, Source

BEARING_SOURCE = Source("VDI 2230-1:2003 Table A9 limiting surface pressure", "medium")


@dataclass(frozen=True, kw_only=True)
class LimitInput(Ranged):
    """One screwed joint as it is tightened. Lengths mm, stresses MPa, torque N·m.

    Leave the engagement and the bearing fields out when no thread can strip or
    no clamped face is known; ``loadability`` is below 1 for countersunk and
    button heads; ``other_limits_n`` holds ratings of nuts and inserts.
    """

    thread: str
    bolt_rp02_mpa: Strength
    head_bearing_diameter_mm: Diameter
    head_bearing_hole_mm: Diameter
    mu_thread: Friction
    mu_head: Friction
    utilisation: Utilisation = 0.75
    engagement_effective_mm: Annotated[float | None, Range(0.0, 200.0, "mm")] = None
    female_shear_strength_mpa: Annotated[float | None, Range(1.0, 2000.0, "MPa")] = None
    strip_safety_factor: Annotated[float, Range(1.0, 10.0)] = 2.0
    clamped_bearing_outer_mm: Annotated[float | None, Range(2.0, 200.0, "mm")] = None
    clamped_bearing_inner_mm: Annotated[float | None, Range(1.0, 200.0, "mm")] = None
    bearing_pressure_limit_mpa: Annotated[float | None, Range(0.5, 3000.0, "MPa")] = None
    prevailing_torque_nm: Annotated[float, Range(0.0, 200.0, "N·m")] = 0.0
    loadability: Annotated[float, Range(0.1, 1.0)] = 1.0
    other_limits_n: dict[str, float] = field(default_factory=dict)
    bolt_grade: str = ""

    def __post_init__(self) -> None:
        super().__post_init__()
        check_ring(self.head_bearing_diameter_mm, self.head_bearing_hole_mm, "head_bearing_hole_mm")
        if self.clamped_bearing_outer_mm and self.clamped_bearing_inner_mm:
            check_ring(
                self.clamped_bearing_outer_mm,
                self.clamped_bearing_inner_mm,
                "clamped_bearing_inner_mm",
            )
        for name, value in self.other_limits_n.items():
            if not (math.isfinite(value) and value > 0):
                raise InputError(f"other_limits_n.{name}", value, "a load above 0 N")


@dataclass(frozen=True, kw_only=True)
class LimitResult:
    """Limits as preload N and torque N·m, by name; the least one governs."""

    torque_per_preload_mm: float
    d_km_mm: float
    preload_limits_n: dict[str, float]
    torque_limits_nm: dict[str, float]
    governing: str
    preload_n: float
    torque_nm: float
    bearing_area_mm2: float | None
    internal_shear_area_mm2: float | None
    utilisation_of_rp02: float
    torque_set_nm: float


def _limits(given: LimitInput) -> tuple[dict[str, float], float | None, float | None]:
    """Preload limits by name, the bearing ring's area and the thread's shear area."""
    geo = threads.geometry_of(given.thread)
    limits = {
        "bolt": given.loadability
        * bolt_preload_n(geo, given.bolt_rp02_mpa, given.mu_thread, given.utilisation)
    }
    shear = ring = None
    if given.engagement_effective_mm is not None and given.female_shear_strength_mpa is not None:
        shear = strip.shear_areas(given.thread).internal * given.engagement_effective_mm
        limits["female thread strip"] = (
            shear * given.female_shear_strength_mpa / given.strip_safety_factor
        )
    outer, inner = given.clamped_bearing_outer_mm, given.clamped_bearing_inner_mm
    if outer is not None and inner is not None and given.bearing_pressure_limit_mpa is not None:
        ring = math.pi / 4 * (outer**2 - inner**2)
        limits["bearing pressure"] = given.bearing_pressure_limit_mpa * ring
    limits.update(given.other_limits_n)
    return limits, ring, shear


@computation("torque-limit", page="preload-and-torque", check="torque-01")
def torque_limit(given: LimitInput) -> Outcome[LimitResult]:
    """The governing limit of a joint.

    Least preload of screw (VDI 2230-1), female thread strip over a safety
    factor (FED-STD-H28/2B), surface pressure (VDI 2230-1 A9) and any rating
    given; all torques with one K. The set torque adds the prevailing torque.
    """
    geo = threads.geometry_of(given.thread)
    d_km = (given.head_bearing_diameter_mm + given.head_bearing_hole_mm) / 2
    k_mm = torque_per_preload_mm(geo, d_km, given.mu_thread, given.mu_head)
    limits, ring, shear = _limits(given)
    governing = min(limits, key=limits.__getitem__)
    preload = limits[governing]
    result = LimitResult(
        torque_per_preload_mm=k_mm,
        d_km_mm=d_km,
        preload_limits_n=limits,
        torque_limits_nm={name: load * k_mm / 1000 for name, load in limits.items()},
        governing=governing,
        preload_n=preload,
        torque_nm=preload * k_mm / 1000,
        bearing_area_mm2=ring,
        internal_shear_area_mm2=shear,
        utilisation_of_rp02=utilisation_of(preload, geo, given.bolt_rp02_mpa, given.mu_thread),
        torque_set_nm=preload * k_mm / 1000 + given.prevailing_torque_nm,
    )
    return Outcome(
        result=result,
        inputs=(
            Input("Thread", given.thread),
            Input("Yield of the screw", given.bolt_rp02_mpa, "MPa"),
            Input("Friction in the thread", given.mu_thread),
            Input("Friction under the head", given.mu_head),
            Input("Bearing diameter that turns", given.head_bearing_diameter_mm, "mm"),
            Input("Hole under it", given.head_bearing_hole_mm, "mm"),
            Input("Worst effective engagement", given.engagement_effective_mm, "mm"),
            Input("Shear strength of the female thread", given.female_shear_strength_mpa, "MPa"),
            Input("Clamped ring, outside", given.clamped_bearing_outer_mm, "mm"),
            Input("Clamped ring, inside", given.clamped_bearing_inner_mm, "mm"),
            Input("Pressure its face bears", given.bearing_pressure_limit_mpa, "MPa"),
            Input("Prevailing torque", given.prevailing_torque_nm, "N·m"),
        ),
        reasons=(
            f"{governing} governs: least of "
            + ", ".join(f"{n} {amount(v * k_mm / 1000, 'N·m', 1)}" for n, v in limits.items())
            + ".",
        ),
        assumptions=(
            f"The screw is used to {percent(given.utilisation)} of its yield, tension and "
            "torsion together.",
        ),
        sources=(PRELOAD_SOURCE, strip.STRIP_SOURCE, BEARING_SOURCE),
    )


@dataclass(frozen=True, kw_only=True)
class LubricantInput(Ranged):
    """A torque meant for one friction, on a screw that now has another."""

    thread: str
    torque_dry_nm: Annotated[float, Range(0.05, 2000.0, "N·m")]
    mu_dry: Friction
    mu_new: Friction
    head_bearing_diameter_mm: Diameter
    head_bearing_hole_mm: Diameter
    bolt_rp02_mpa: Strength

    def __post_init__(self) -> None:
        super().__post_init__()
        check_ring(self.head_bearing_diameter_mm, self.head_bearing_hole_mm, "head_bearing_hole_mm")


@dataclass(frozen=True)
class LubricantResult:
    """Factor from dry to new torque, and what keeping the dry torque would do."""

    preload_dry_n: float
    factor: float
    torque_new_same_preload_nm: float
    preload_if_not_reduced_n: float
    utilisation_if_not_reduced: float
    utilisation_dry: float


@computation("lubricant-change", page="preload-and-torque", check="torque-06")
def lubricant_change(given: LubricantInput) -> Outcome[LubricantResult]:
    """Same preload at another friction (VDI 2230-1): M scales with K(μ).

    Friction is taken equal in the thread and under the head.
    """
    geo = threads.geometry_of(given.thread)
    d_km = (given.head_bearing_diameter_mm + given.head_bearing_hole_mm) / 2
    k_dry = torque_per_preload_mm(geo, d_km, given.mu_dry, given.mu_dry)
    k_new = torque_per_preload_mm(geo, d_km, given.mu_new, given.mu_new)
    dry_n = given.torque_dry_nm * 1000 / k_dry
    kept_n = given.torque_dry_nm * 1000 / k_new
    rp02 = given.bolt_rp02_mpa
    result = LubricantResult(
        preload_dry_n=dry_n,
        factor=k_new / k_dry,
        torque_new_same_preload_nm=given.torque_dry_nm * k_new / k_dry,
        preload_if_not_reduced_n=kept_n,
        utilisation_if_not_reduced=utilisation_of(kept_n, geo, rp02, given.mu_new),
        utilisation_dry=utilisation_of(dry_n, geo, rp02, given.mu_dry),
    )
    return Outcome(
        result=result,
        inputs=(
            Input("Thread", given.thread),
            Input("Torque as specified", given.torque_dry_nm, "N·m"),
            Input("Friction it is meant for", given.mu_dry),
            Input("Friction now", given.mu_new),
        ),
        reasons=(
            f"Same preload needs {result.factor:.2f} of the torque.",
            "Kept as specified, the screw would reach "
            f"{percent(result.utilisation_if_not_reduced)} of its yield.",
        ),
        assumptions=("Friction is taken equal in the thread and under the head.",),
        sources=(PRELOAD_SOURCE,),
    )
