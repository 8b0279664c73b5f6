"""What an energy makes of a sheet: the force–deflection curve of a struck plate, closed form.

Quasi-static. The elastic branch (bending, then membrane) and the plastic branch (yield lines,
then plastic membrane) are joined smoothly; the equivalent clamped disc gives its radius.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Annotated, Literal

import numpy as np
import numpy.typing as npt

from rugged_shield.core.amounts import amount, entered
from rugged_shield.core.computation import computation
from rugged_shield.core.errors import InputError
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.result import Finding, Input, Outcome, Source, finding
from rugged_shield.core.weighup.punch import PUNCH_SAYS, punch_code, punch_share

Array = npt.NDArray[np.float64]
Index = npt.NDArray[np.int64]

RESPONSE_SOURCE = Source(
    "closed form fitted to 30 nonlinear finite element plates (w_max −24/+16 %, rms 8 %; force "
    "rms 18 %, mostly high); Timoshenko & Woinowsky-Krieger 1959, discs",
    "medium",
)
SOFT_IN_PLANE_N_PER_MM = 5000.0
MOST_IN_PLANE_N_PER_MM = 20_000.0
MAX_ENERGIES = 50
_GAUSS_X, _GAUSS_W = np.polynomial.legendre.leggauss(12)
_MOST_STEPS = 80
_HALVINGS = 50
_CLOSE = 1e-9

Edge = Literal["clamped", "bolted"]
Family = Literal["", "aluminium", "steel", "plastic"]


@dataclass(frozen=True, kw_only=True)
class ResponseInput(Ranged):
    """A struck plate by its stiffness at the contact patch, its sheet and how it is held.

    ``plate_stiffness``: force per mean deflection over the patch, mounts taken out;
    ``mount_compliance``: theirs in line with the strike. ``in_plane_stiffness`` of one mount:
    None is rigid, 0 free to slide. ``ultimate_mpa`` and ``family`` are for the warning of a punch.
    """

    plate_stiffness_n_per_mm: Annotated[float, Range(0.1, 1e6)]
    thickness_mm: Annotated[float, Range(0.5, 25.0, "mm")]
    youngs_modulus_mpa: Annotated[float, Range(100.0, 300_000.0, "MPa")]
    poisson: Annotated[float, Range(0.0, 0.49)]
    yield_mpa: Annotated[float, Range(5.0, 2000.0, "MPa")]
    energies_j: tuple[float, ...]
    mount_compliance_mm_per_n: Annotated[float, Range(0.0, 1.0)] = 0.0
    in_plane_stiffness_n_per_mm: Annotated[float | None, Range(0.0, MOST_IN_PLANE_N_PER_MM)] = None
    edge: Edge = "bolted"
    contact_radius_mm: Annotated[float, Range(5.0, 40.0, "mm")] = 15.0
    ultimate_mpa: Annotated[float | None, Range(5.0, 3000.0, "MPa")] = None
    family: Family = ""

    def __post_init__(self) -> None:
        super().__post_init__()
        if not 1 <= len(self.energies_j) <= MAX_ENERGIES:
            raise InputError("energies_j", len(self.energies_j), f"1 to {MAX_ENERGIES} energies")
        for i, energy in enumerate(self.energies_j):
            if not (math.isfinite(energy) and 0.1 <= energy <= 5000.0):
                raise InputError(f"energies_j.{i}", energy, "a number from 0.1 J to 5000 J")


@dataclass(frozen=True, kw_only=True)
class EnergyResponse:
    """One energy: deflections mm (plate and mounts together; plate alone), force N, dent mm.

    ``dent_mm`` None: not known (bolts that slide leave no useful estimate). The band is
    the range of ``w_max_mm`` that the fit allows.
    """

    energy_j: float
    w_max_mm: float
    w_plate_mm: float
    peak_force_n: float
    dent_mm: float | None
    w_least_mm: float
    w_most_mm: float


@dataclass(frozen=True)
class ResponseResult:
    """Every energy in the order asked, and the constants of the curve."""

    energies: tuple[EnergyResponse, ...]
    equivalent_radius_mm: float
    fixity: float
    membrane_n_per_mm3: float
    limit_load_n: float
    plastic_membrane_n_per_mm: float


@dataclass(frozen=True)
class Curve:
    """Constants of F(w); scalars or arrays of one shape, so that a whole map is one curve."""

    k: Array
    k3: Array
    limit: Array
    k_m: Array
    k_s: Array
    fixity: Array

    def force(self, w: Array) -> Array:
        """Force at a plate deflection w mm, N."""
        elastic, plastic = self._branches(w)
        with np.errstate(divide="ignore", invalid="ignore"):
            joined = elastic * plastic / np.sqrt(elastic**2 + plastic**2)
        return np.asarray(np.where(w > 0, joined, 0.0))

    def _branches(self, w: Array) -> tuple[Array, Array]:
        elastic = self.k * w + 0.8 * self.k3 * w**3
        plastic = 0.7 * np.sqrt(self.limit**2 + (self.k_m * w) ** 2) + self.k_s * w**3
        return elastic, plastic

    def stiffness(self, w: Array) -> Array:
        """dF/dw, N/mm."""
        elastic, plastic = self._branches(w)
        d_elastic = self.k + 2.4 * self.k3 * w**2
        root = np.sqrt(self.limit**2 + (self.k_m * w) ** 2)
        d_plastic = 0.7 * self.k_m**2 * w / root + 3 * self.k_s * w**2
        both = (elastic**2 + plastic**2) ** 1.5
        return np.asarray((d_elastic * plastic**3 + d_plastic * elastic**3) / both)

    def work(self, w: Array) -> Array:
        """∫F dw from 0 to w, N·mm (Gauss–Legendre)."""
        w = np.asarray(w, dtype=float)
        total = np.zeros(np.broadcast(w, self.k).shape)
        for x, weight in zip(_GAUSS_X, _GAUSS_W, strict=True):
            total = total + weight * self.force(w * (x + 1) / 2)
        return np.asarray(total * w / 2)


def curve_of(
    stiffness: Array,
    thickness_mm: float,
    youngs_mpa: float,
    poisson: float,
    yield_mpa: float,
    in_plane: Array,
    edge: Edge,
    radius_mm: float,
) -> tuple[Curve, Array]:
    """The curve and the radius of the equivalent clamped disc, mm; infinite in-plane is rigid."""
    t, e = thickness_mm, youngs_mpa
    bending = e * t**3 / (12 * (1 - poisson**2))
    radius = np.sqrt(16 * math.pi * bending / stiffness)
    rigid = np.isinf(in_plane)
    held = np.where(rigid, 1.0, in_plane / (np.where(rigid, 1.0, in_plane) + 0.5 * e * t))
    base = 2.04 * e * t / radius**2
    m_p = yield_mpa * t**2 / 4
    limit = 4 * math.pi * m_p * (1.0 if edge == "clamped" else 0.7)
    spread = np.log(np.maximum(radius / radius_mm, 2.0))
    return Curve(
        np.asarray(stiffness, dtype=float),
        base * (0.15 + 0.85 * held),
        np.full_like(radius, limit),
        2 * math.pi * yield_mpa * t / spread * (0.4 + 0.6 * held),
        np.where(rigid, 0.0, base * 0.85 * held),
        held,
    ), radius


def deflection_at(curve: Curve, compliance: Array, energy_nmm: float) -> Array:
    """Plate deflection at which plate and mounts have taken the energy, mm.

    Newton's method kept inside a bracket; every point of a map at once.
    """
    low = np.zeros(np.broadcast(curve.k, compliance).shape)
    high = np.full_like(low, 1.0)
    while (short := _taken(curve, compliance, high) < energy_nmm).any():
        high = np.where(short, high * 2, high)
    w = (low + high) / 2
    for _ in range(_MOST_STEPS):
        over = _taken(curve, compliance, w) - energy_nmm
        if (np.abs(over) <= _CLOSE * energy_nmm).all():
            break
        low, high = np.where(over < 0, w, low), np.where(over < 0, high, w)
        force = curve.force(w)
        step = w - over / (force * (1 + compliance * curve.stiffness(w)))
        w = np.where((step > low) & (step < high), step, (low + high) / 2)
    return np.asarray(w)


def _taken(curve: Curve, compliance: Array, w: Array) -> Array:
    return np.asarray(curve.work(w) + compliance * curve.force(w) ** 2 / 2)


def dent_of(curve: Curve, w_max: Array) -> Array:
    """What stays after unloading from w_max, mm; as many points as the curve holds.

    F = k(w−w_p) + a(K3−K_s)(w²−w_p²)w + K_s w³ with w_p from F(w_max); the dent is its zero.
    """
    a = 0.05 + 0.5 * np.cbrt(curve.fixity)
    peak = curve.force(w_max)

    def unload(w: Array, w_p: Array) -> Array:
        stiff = a * (curve.k3 - curve.k_s) * (w * w - w_p * w_p) * w
        return np.asarray(curve.k * (w - w_p) + stiff + curve.k_s * w**3)

    zero = np.zeros_like(w_max)
    bent = unload(w_max, zero) > peak
    w_p = _bisect(lambda x: peak - unload(w_max, x), zero, w_max)
    return np.where(bent, _bisect(lambda x: unload(x, w_p), zero, w_p), 0.0)


def _bisect(rising: Callable[[Array], Array], low: Array, high: Array) -> Array:
    """Roots of a rising function between low and high, all at once, to rounding."""
    for _ in range(_HALVINGS):
        middle = (low + high) / 2
        under = rising(middle) < 0
        low, high = np.where(under, middle, low), np.where(under, high, middle)
    return (low + high) / 2


def _band(in_plane: float | None) -> tuple[float, float]:
    if in_plane is not None and in_plane < SOFT_IN_PLANE_N_PER_MM:
        return 0.90, 1.35
    return 0.84, 1.24


def _findings(given: ResponseInput, responses: tuple[EnergyResponse, ...]) -> tuple[Finding, ...]:
    found = []
    in_plane = given.in_plane_stiffness_n_per_mm
    if in_plane is not None and in_plane < SOFT_IN_PLANE_N_PER_MM:
        found.append(
            finding(
                "soft in plane",
                "The mounts hold the sheet softly in its plane: deflection may be up to 35 % more.",
            )
        )
    ring = 2 * math.pi * given.contact_radius_mm * given.thickness_mm
    for response in responses:
        share = punch_share(
            np.array(response.peak_force_n),
            np.array(ring),
            yield_mpa=given.yield_mpa,
            ultimate_mpa=given.ultimate_mpa,
            family=given.family,
        )
        code = punch_code(float(share))
        if code is not None:
            text = (
                f"At {entered(response.energy_j, 'J')} the stone {PUNCH_SAYS[code]}: force "
                f"{amount(response.peak_force_n / 1000, 'kN', 1)}, {share:.1f} times what "
                "the sheet bears "
                "around it. Not verified by test."
            )
            found.append(finding(code, text))
            break
    return tuple(found)


def _response(
    given: ResponseInput, curve: Curve, compliance: Array, energy_j: float
) -> EnergyResponse:
    """What one energy does to the plate."""
    in_plane = given.in_plane_stiffness_n_per_mm
    least, most = _band(in_plane)
    w = float(deflection_at(curve, compliance, energy_j * 1000)[0])
    force = float(curve.force(np.array([w]))[0])
    total = w + given.mount_compliance_mm_per_n * force
    return EnergyResponse(
        energy_j=energy_j,
        w_max_mm=total,
        w_plate_mm=w,
        peak_force_n=force,
        dent_mm=None if in_plane == 0 else float(dent_of(curve, np.array([w]))[0]),
        w_least_mm=total * least,
        w_most_mm=total * most,
    )


@computation("strike-response", page="strike", check="b_al4_300x200_r30")
def strike_response(given: ResponseInput) -> Outcome[ResponseResult]:
    """Greatest deflection, peak force and dent of a plate for each energy.

    U = ∫F dw over plate and mounts; F = (F_el⁻² + F_pl⁻²)^(−1/2).
    """
    in_plane = given.in_plane_stiffness_n_per_mm
    curve, radius = curve_of(
        np.array([given.plate_stiffness_n_per_mm]),
        given.thickness_mm,
        given.youngs_modulus_mpa,
        given.poisson,
        given.yield_mpa,
        np.array([math.inf if in_plane is None else in_plane]),
        given.edge,
        given.contact_radius_mm,
    )
    compliance = np.array([given.mount_compliance_mm_per_n])
    done = tuple(_response(given, curve, compliance, energy) for energy in given.energies_j)
    return Outcome(
        result=ResponseResult(
            done,
            float(radius[0]),
            float(curve.fixity[0]),
            float(curve.k3[0]),
            float(curve.limit[0]),
            float(curve.k_m[0]),
        ),
        inputs=(
            Input("Plate stiffness at the patch", given.plate_stiffness_n_per_mm, "N/mm"),
            Input("Compliance of the mounts", given.mount_compliance_mm_per_n, "mm/N"),
            Input("Held in plane", "rigidly" if in_plane is None else entered(in_plane, "N/mm")),
            Input("Thickness", given.thickness_mm, "mm"),
            Input("Yield", given.yield_mpa, "MPa"),
            Input("Radius of the stone", given.contact_radius_mm, "mm"),
        ),
        findings=_findings(given, done),
        reasons=(
            "Bending, then membrane, met by yield lines, then plastic membrane; the energy is "
            "the work up to the greatest deflection.",
        ),
        assumptions=(
            "Quasi-static: no waves, no rebound, no fracture, no friction.",
            "In-plane fixity at the bolts governs hard strikes: it is an input, not a finding.",
        ),
        sources=(RESPONSE_SOURCE,),
    )
