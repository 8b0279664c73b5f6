"""Springs of mounts by kind: typical stiffness of what holds a plate, to be changed when known."""

from __future__ import annotations

from dataclasses import dataclass

from rugged_shield.core.result import Source


@dataclass(frozen=True)
class MountSpring:
    """Stiffness along the sheet's normal and in its plane, N/mm; against turning, N·mm/rad."""

    normal_n_per_mm: float
    in_plane_n_per_mm: float
    rotational_nmm_per_rad: float
    source: Source
    tab_mm: tuple[float, float] | None = None
    """Width and thickness of the steel tab that turning would bend; None: no tab."""


_BOSS = Source("rigid boss: capped; in plane after the hole's clearance is used up", "low")
_TAB = Source("steel tab 4 × 30 mm on 35 mm: 3EI/L³ normal, root and screw in plane", "low")
_BAR = Source("tube ø27 × 2 mm over 300 mm with a welded tab", "low")
_ACCESSORY = Source("thin bracket, typical", "low")

MOUNT_SPRINGS: dict[str, MountSpring] = {
    "engine boss": MountSpring(50_000, 12_000, 1e7, _BOSS),
    "foot-peg bolt": MountSpring(50_000, 12_000, 1e7, _BOSS),
    "frame tab": MountSpring(2300, 6000, 1e6, _TAB, (30.0, 4.0)),
    "crash-bar tab": MountSpring(1500, 3000, 5e5, _BAR, (30.0, 4.0)),
    "accessory": MountSpring(800, 2000, 0.0, _ACCESSORY),
}

REFERENCE_ISOLATOR_MM = (25.0, 20.0)
REFERENCE_COMPRESSION_N_PER_MM = 70.0
REFERENCE_SHEAR_N_PER_MM = 17.0
BOTTOMS_AT_SHARE = 0.35
TEARS_AT_STRAIN = 1.5
STRIP_STROKE_MM = 10.0
"""How far a sacrificial strip can bend before it lies against what is behind it."""


def isolator_springs(diameter_mm: float, height_mm: float) -> tuple[float, float]:
    """Compression and shear stiffness of a round rubber block, 55 ShA, N/mm.

    From the block of 25 × 20 mm: by area over height, compression also by 1 + 2 S²
    (Lindley 1970; S = d/4h, the shape factor). Valid for S up to about 1.
    """
    d0, h0 = REFERENCE_ISOLATOR_MM
    scale = (diameter_mm / d0) ** 2 * (h0 / height_mm)
    shape = 1 + 2 * (diameter_mm / (4 * height_mm)) ** 2
    shape0 = 1 + 2 * (d0 / (4 * h0)) ** 2
    return REFERENCE_COMPRESSION_N_PER_MM * scale * shape / shape0, REFERENCE_SHEAR_N_PER_MM * scale


def in_series(first: float, second: float) -> float:
    """Stiffness of two springs one behind the other, N/mm."""
    return first * second / (first + second)


def bracket_spring(
    youngs_mpa: float, width_mm: float, thickness_mm: float, span_mm: float, guided: bool
) -> float:
    """Stiffness of a flat bracket across its sheet, N/mm: 12EI/L³ guided at its end, else 3EI/L³.

    Euler–Bernoulli beam; ``span_mm`` is its free length.
    """
    inertia = width_mm * thickness_mm**3 / 12
    return (12.0 if guided else 3.0) * youngs_mpa * inertia / span_mm**3


def tab_yield_nmm(yield_mpa: float, width_mm: float, thickness_mm: float) -> float:
    """Moment at which a flat tab bends for good, N·mm: M_p = σ b t²/4."""
    return yield_mpa * width_mm * thickness_mm**2 / 4


def strip_yield_n(yield_mpa: float, width_mm: float, thickness_mm: float, span_mm: float) -> float:
    """Force at which a guided strip bends for good, N: 2 M_p/L, M_p = σ b t²/4."""
    return 2 * tab_yield_nmm(yield_mpa, width_mm, thickness_mm) / span_mm
