"""A strike at one place of a folded plate on its mounts: shell compliance, then energy."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated

import numpy as np

from rugged_shield.core.amounts import amount
from rugged_shield.core.computation import computation
from rugged_shield.core.errors import InputError
from rugged_shield.core.mechanics.frames import Vec2, Vec3
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.result import Finding, Input, Outcome, finding
from rugged_shield.core.shell.mesh import ShellPanel, axes_of
from rugged_shield.core.shell.solve import (
    SHELL_SOURCE,
    LoadResponse,
    ShellInput,
    ShellLoad,
    ShellMount,
    shell_response,
)
from rugged_shield.core.weighup.response import (
    MOST_IN_PLANE_N_PER_MM,
    RESPONSE_SOURCE,
    Array,
    EnergyResponse,
    Family,
    ResponseInput,
    ResponseResult,
    strike_response,
)


@dataclass(frozen=True)
class StrikePlace(Ranged):
    """Where a stone strikes, in a panel's u, v; the direction it travels; its radius."""

    panel: str
    at_mm: Vec2
    direction: Vec3
    contact_radius_mm: Annotated[float, Range(5.0, 40.0, "mm")] = 15.0

    def __post_init__(self) -> None:
        super().__post_init__()
        if math.hypot(*self.direction) < 1e-9:
            raise InputError("strike.direction", self.direction, "a direction of travel")


@dataclass(frozen=True, kw_only=True)
class StrikeInput(Ranged):
    """A folded plate, its mounts, one strike and its energies, J."""

    panels: tuple[ShellPanel, ...]
    thickness_mm: Annotated[float, Range(0.5, 25.0, "mm")]
    youngs_modulus_mpa: Annotated[float, Range(100.0, 300_000.0, "MPa")]
    poisson: Annotated[float, Range(0.0, 0.49)]
    yield_mpa: Annotated[float, Range(5.0, 2000.0, "MPa")]
    mounts: tuple[ShellMount, ...]
    strike: StrikePlace
    energies_j: tuple[float, ...]
    mesh_mm: Annotated[float, Range(4.0, 60.0, "mm")] = 12.0
    ultimate_mpa: Annotated[float | None, Range(5.0, 3000.0, "MPa")] = None
    family: Family = ""


@dataclass(frozen=True, kw_only=True)
class StrikeResult:
    """The energies, the compliances they come from, and each mount's share of the force.

    ``mount_forces_n`` are those at the peak force of the largest energy.
    """

    energies: tuple[EnergyResponse, ...]
    compliance_mm_per_n: float
    mount_compliance_mm_per_n: float
    plate_stiffness_n_per_mm: float
    in_plane_stiffness_n_per_mm: float | None
    mount_reactions: tuple[Vec3, ...]
    mount_forces_n: tuple[Vec3, ...]


def mounts_compliance(mounts: tuple[ShellMount, ...], reactions: tuple[Vec3, ...]) -> float:
    """c_m = Σ R²/k over all springs, mm/N: what the mounts give along the strike."""
    total = 0.0
    for mount, reaction in zip(mounts, reactions, strict=True):
        for k, r in zip(mount.stiffness_n_per_mm, reaction, strict=True):
            if k > 0:
                total += r**2 / k
    return total


def in_plane_stiffness(reactions: Array, springs: Array, normals: Array) -> Array:
    """Mean in-plane stiffness of the mounts that carry each strike, weighted by reactions, N/mm.

    ``reactions`` (n, m, 3), ``springs`` (m, 3), ``normals`` of the struck panels (n, 3).
    Above the fitted range it counts as rigid (infinite), which is its limit.
    """
    weights = np.sqrt((reactions**2).sum(axis=2))
    along = np.einsum("na,ma->nm", normals**2, springs)
    stiff = (springs.sum(axis=1)[None, :] - along) / 2
    mean = (weights * stiff).sum(axis=1) / weights.sum(axis=1)
    return np.where(mean <= MOST_IN_PLANE_N_PER_MM, mean, np.inf)


def patch_stiffness(
    node_compliance: Array, radius_mm: float, thickness_mm: float, youngs_mpa: float, poisson: float
) -> Array:
    """Plate stiffness over the contact patch from that of its nodes, N/mm.

    c_patch ≈ c_node − r²/(16πD)·(0.3 + 2.3 ln(R/r)), R the equivalent clamped disc.
    """
    rigidity = youngs_mpa * thickness_mm**3 / (12 * (1 - poisson**2))
    disc = np.sqrt(16 * math.pi * rigidity * node_compliance)
    spread = np.log(np.maximum(disc / radius_mm, 1.0))
    less = radius_mm**2 / (16 * math.pi * rigidity) * (0.3 + 2.3 * spread)
    # A stone wider than half the disc is beyond the form: ``beyond_the_form`` says so.
    return np.asarray(1 / np.maximum(node_compliance - less, node_compliance / 2))


def beyond_the_form(disc_mm: float, radius_mm: float) -> tuple[Finding, ...]:
    """Said when the stone is wide against the disc that the form stands on."""
    if disc_mm >= 2 * radius_mm:
        return ()
    return (
        finding(
            "beyond the form",
            f"The sheet gives over about {amount(disc_mm, 'mm', 0)}, less than twice the "
            "stone's radius: "
            "beyond the range of the form.",
        ),
    )


def _linear_at(given: StrikeInput, direction: Vec3) -> LoadResponse:
    """The shell under a unit load at the struck place."""
    return shell_response(
        ShellInput(
            panels=given.panels,
            thickness_mm=given.thickness_mm,
            youngs_modulus_mpa=given.youngs_modulus_mpa,
            poisson=given.poisson,
            loads=(ShellLoad(given.strike.panel, given.strike.at_mm, direction),),
            mounts=given.mounts,
            edge_supports=(),
            mesh_mm=given.mesh_mm,
        )
    ).result.loads[0]


def _responded(
    given: StrikeInput, stiffness: float, of_mounts: float, in_plane: float | None
) -> Outcome[ResponseResult]:
    """The energy form for what the shell found."""
    return strike_response(
        ResponseInput(
            plate_stiffness_n_per_mm=stiffness,
            thickness_mm=given.thickness_mm,
            youngs_modulus_mpa=given.youngs_modulus_mpa,
            poisson=given.poisson,
            yield_mpa=given.yield_mpa,
            energies_j=given.energies_j,
            mount_compliance_mm_per_n=of_mounts,
            in_plane_stiffness_n_per_mm=in_plane,
            edge="bolted",
            contact_radius_mm=given.strike.contact_radius_mm,
            ultimate_mpa=given.ultimate_mpa,
            family=given.family,
        )
    )


@computation("strike", page="strike", check="fold_strike_al4")
def strike(given: StrikeInput) -> Outcome[StrikeResult]:
    """Deflection, force and dent of a strike on a folded plate, for each energy."""
    names = [p.name for p in given.panels]
    if given.strike.panel not in names:
        raise InputError("strike.panel", given.strike.panel, "one of " + ", ".join(names))
    x, y, z = (c / math.hypot(*given.strike.direction) for c in given.strike.direction)
    linear = _linear_at(given, (x, y, z))
    total = linear.deflection_mm_per_n or 0.0
    reactions = linear.mount_reactions
    of_mounts = mounts_compliance(given.mounts, reactions)
    normal = axes_of(given.panels[names.index(given.strike.panel)])[2]
    springs = np.array([m.stiffness_n_per_mm for m in given.mounts])
    held = float(in_plane_stiffness(np.array([reactions]), springs, normal[None])[0])
    in_plane = None if math.isinf(held) else held
    radius = given.strike.contact_radius_mm
    stiffness = float(
        patch_stiffness(
            np.array(total - of_mounts),
            radius,
            given.thickness_mm,
            given.youngs_modulus_mpa,
            given.poisson,
        )
    )
    outcome = _responded(given, stiffness, of_mounts, in_plane)
    wide = beyond_the_form(outcome.result.equivalent_radius_mm, radius)
    peak = max(e.peak_force_n for e in outcome.result.energies)
    forces = tuple(tuple(peak * c for c in r) for r in reactions)
    return Outcome(
        result=StrikeResult(
            energies=outcome.result.energies,
            compliance_mm_per_n=total,
            mount_compliance_mm_per_n=of_mounts,
            plate_stiffness_n_per_mm=stiffness,
            in_plane_stiffness_n_per_mm=in_plane,
            mount_reactions=reactions,
            mount_forces_n=forces,  # type: ignore[arg-type]
        ),
        inputs=(*outcome.inputs, Input("Struck panel", given.strike.panel)),
        findings=(*wide, *outcome.findings),
        reasons=(
            "The shell gives compliance and mount reactions for a unit strike; plate and mounts "
            "are parted; the energy form takes it from there.",
            *outcome.reasons,
        ),
        assumptions=outcome.assumptions,
        sources=(SHELL_SOURCE, RESPONSE_SOURCE),
    )
