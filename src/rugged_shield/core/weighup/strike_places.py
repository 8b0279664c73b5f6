"""What every struck place is made of: exactly where it is asked, spread over a map in between."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
import numpy.typing as npt

from rugged_shield.core.shell.mesh import Mesh, axes_of
from rugged_shield.core.shell.solve import ShellModel
from rugged_shield.core.tables.materials import SHEET_MATERIALS, WELD_ZONE_MM, softened
from rugged_shield.core.weighup.blow_shape import Patches, Sheet, Solver, blow_shapes, patches
from rugged_shield.core.weighup.hinge_lines import hinge_per_lever
from rugged_shield.core.weighup.place_form import (
    BROKEN_DEFLECTION_BAND,
    BROKEN_FORCE_BAND,
    BROKEN_MOUNT_BAND,
    DEFLECTION_BAND,
    EDGE_DISSIPATION,
    FORCE_BAND,
    MOUNT_BAND,
    PATCH_WHOLE,
    Form,
)
from rugged_shield.core.weighup.response import Array, Index
from rugged_shield.core.weighup.strike_linear import Linear, Shell, factored_shell

SAMPLED_SHARE = 0.25
NEAR_MOUNT_MM = 30.0
_NEIGHBOURS = 3
_SHEAR_CORRECTION = 5 / 6
_FOLD_POWER = 4
"""A pull that goes round a fold helps the struck panel by this power of the fold's cosine."""


@dataclass(frozen=True, eq=False, kw_only=True)
class Blow:
    """A stone on a sheet: material, temperature, radius mm, and the way it travels (unit).

    ``weld_share``: what is left of the sheet's strength beside its folds, where these are welded.
    """

    shell: Shell
    material: str
    temperature_c: float
    radius_mm: float
    travel: Array
    weld_share: float = 1.0


@dataclass(frozen=True, eq=False, kw_only=True)
class PlaceForms:
    """Forms of n places; ``drawn`` (n, m, 3) mm per mm² of each mount by the stretched sheet.

    ``patch_share`` (n,): how much of the stone's circle meets the sheet.
    """

    form: Form
    drawn: Array
    patch_share: Array

    def at(self, rows: Index) -> PlaceForms:
        """The same for some of the places."""
        return PlaceForms(
            form=self.form.at(rows), drawn=self.drawn[rows], patch_share=self.patch_share[rows]
        )

    @property
    def is_broken(self) -> npt.NDArray[np.bool_]:
        """Where no whole ring of sheet holds the place, (n,): the form is known worse there."""
        as_an_edge = self.form.dissipation < EDGE_DISSIPATION
        return np.asarray(as_an_edge | (self.patch_share < PATCH_WHOLE))

    @property
    def deflection_band(self) -> Array:
        """Share by which the deflection may be wrong, either way, (n,)."""
        return np.asarray(np.where(self.is_broken, BROKEN_DEFLECTION_BAND, DEFLECTION_BAND))

    @property
    def force_band(self) -> Array:
        """The same of the force."""
        return np.asarray(np.where(self.is_broken, BROKEN_FORCE_BAND, FORCE_BAND))

    @property
    def mount_band(self) -> Array:
        """Factor by which the load of a mount may be wrong, either way, (n,)."""
        return np.asarray(np.where(self.is_broken, BROKEN_MOUNT_BAND, MOUNT_BAND))


@dataclass(frozen=True, eq=False, kw_only=True)
class _Shaped:
    """What a linear shape says of each place (n,), ``drawn`` (n, m, 3)."""

    patch_ratio: Array
    dissipation: Array
    membrane: Array
    drawn: Array
    patch_share: Array


@dataclass(frozen=True, eq=False, kw_only=True)
class Ground:
    """Where a stone can meet a sheet: all that neither its thickness nor its alloy changes.

    ``nodes`` and the ``panel`` each is struck on (n,), those ``picked`` to be solved for with the
    patches ``under`` them, and ``hinge`` (n,): the least straight fold over its lever.
    """

    nodes: Index
    panel: Index
    picked: Index
    under: Patches
    hinge: Array


@lru_cache(maxsize=10)
def ground_of(mesh: Mesh, facing: tuple[int, ...], radius_mm: float) -> Ground:
    """The ground of the panels that face the stone (one or more); about 0.3 MB with its mesh.

    On a fold that two of them share, the stone is taken to strike the later one.
    """
    panel_at = np.full(len(mesh.nodes), -1, dtype=np.int64)
    for number in facing:
        panel_at[np.unique(mesh.triangles[mesh.panel_of == number])] = number
    nodes = np.flatnonzero(panel_at >= 0)
    panel = panel_at[nodes]
    return _ground(mesh, nodes, panel, _picked(mesh, nodes, panel, mesh.placed), radius_mm)


def _ground(mesh: Mesh, nodes: Index, panel: Index, picked: Index, radius_mm: float) -> Ground:
    return Ground(
        nodes=nodes,
        panel=panel,
        picked=picked,
        under=patches(mesh, nodes[picked], panel[picked], radius_mm),
        hinge=hinge_per_lever(mesh, nodes, panel, mesh.placed),
    )


def _plate_compliance(linear: Linear, nodes: Index, travel: Array) -> Array:
    """Of each node along the blow, without what the mounts give, mm/N."""
    springs = np.array([m.stiffness_n_per_mm for m in linear.mounts])
    whole = np.einsum("nij,i,j->n", linear.compliance[nodes], travel, travel)
    moved = linear.at_mounts[nodes] @ travel
    return np.asarray(whole - (moved**2 * springs).sum(axis=(1, 2)))


def _shaped(
    linear: Linear, model: ShellModel, solver: Solver, blow: Blow, nodes: Index, under: Patches
) -> _Shaped:
    sheet = Sheet(
        model=model,
        solver=solver,
        youngs_mpa=blow.shell.youngs_mpa,
        thickness_mm=blow.shell.thickness_mm,
        springs=np.array([m.stiffness_n_per_mm for m in linear.mounts]),
        at=linear.mesh.placed,
        to_mounts=linear.to_mounts,
    )
    found = blow_shapes(sheet, under, blow.travel)
    plate = found.compliance - found.mount_compliance
    return _Shaped(
        patch_ratio=plate / _plate_compliance(linear, nodes, blow.travel),
        dissipation=found.dissipation,
        membrane=found.membrane_n_per_mm3,
        drawn=found.drawn,
        patch_share=found.patch_share,
    )


def _picked(mesh: Mesh, nodes: Index, panel: Index, at: Index) -> Index:
    """Places whose shape is solved for: all near mounts, then the farthest first, by panel."""
    places = mesh.nodes[nodes]
    away = np.linalg.norm(places[:, None] - mesh.nodes[at], axis=2).min(axis=1)
    picked: list[Index] = []
    for number in np.unique(panel):
        here = np.flatnonzero(panel == number)
        own = [int(i) for i in np.flatnonzero(away[here] <= NEAR_MOUNT_MM)]
        own = own or [0]
        count = max(len(own), math.ceil(SAMPLED_SHARE * len(here)))
        least = np.linalg.norm(places[here][:, None] - places[here][own], axis=2).min(axis=1)
        while len(own) < count:
            far = int(least.argmax())
            own.append(far)
            least = np.minimum(least, np.linalg.norm(places[here] - places[here][far], axis=1))
        picked.append(here[own])
    return np.sort(np.concatenate(picked))


def _spread(
    mesh: Mesh, nodes: Index, panel: Index, picked: Index, known: _Shaped, compliance: Array
) -> _Shaped:
    """From the places that were solved to all, by inverse squared distance on the same panel.

    Spread is what is left of each once the sheet's own ``compliance`` there (n,), known at every
    node, has been taken out: D goes with its root, K3 and the pull about inversely.
    """
    from scipy.spatial import cKDTree

    weights = np.zeros((len(nodes), len(picked)))
    places = mesh.nodes[nodes]
    for number in np.unique(panel):
        here = np.flatnonzero(panel == number)
        own = np.flatnonzero(panel[picked] == number)
        count = min(_NEIGHBOURS, len(own))
        far, which = cKDTree(places[picked[own]]).query(places[here], k=range(1, count + 1))
        near = 1 / np.maximum(far, 1e-3) ** 2
        weights[here[:, None], own[which]] = near / near.sum(axis=1, keepdims=True)
    there = compliance[picked]
    return _Shaped(
        patch_ratio=weights @ known.patch_ratio,
        dissipation=weights @ (known.dissipation * np.sqrt(there)) / np.sqrt(compliance),
        membrane=weights @ (known.membrane * there) / compliance,
        drawn=np.einsum("np,pmd->nmd", weights * there / compliance[:, None], known.drawn),
        patch_share=weights @ known.patch_share,
    )


def _round_folds(mesh: Mesh, panel: Index) -> Array:
    """Share of each mount's pull that reaches each place's panel, (n, m)."""
    normals = np.array([mesh.normal(i) for i in range(len(mesh.panels))])
    between = np.abs(normals @ normals.T)
    best = np.zeros((len(mesh.panels), len(mesh.placed)))
    for m, node in enumerate(mesh.placed):
        own = np.unique(mesh.panel_of[(mesh.triangles == node).any(axis=1)])
        best[:, m] = between[:, own].max(axis=1)
    return np.asarray(best[panel] ** _FOLD_POWER)


def shear_compliance(disc_mm: Array, radius_mm: float, shear_mpa: float, t_mm: float) -> Array:
    """What thick sheet gives by shear under an even pressure over the patch, mm/N.

    (2 ln(R/r) + ½)/(4π κ G t), κ = 5/6: clamped disc of radius R, mean over the patch
    (Reissner 1945; Timoshenko & Woinowsky-Krieger 1959, art. 39).
    """
    spread = 2 * np.log(np.maximum(disc_mm / radius_mm, 1.0)) + 0.5
    return np.asarray(spread / (4 * math.pi * _SHEAR_CORRECTION * shear_mpa * t_mm))


def _beside_welds(mesh: Mesh, nodes: Index) -> npt.NDArray[np.bool_]:
    """Which nodes lie within the zone that a weld along a fold softens."""
    panels = np.zeros((len(mesh.nodes), len(mesh.panels)), dtype=bool)
    panels[mesh.triangles.ravel(), np.repeat(mesh.panel_of, 3)] = True
    on_fold = panels.sum(axis=1) > 1
    edges = mesh.triangles[:, [[0, 1], [1, 2], [2, 0]]].reshape(-1, 2)
    edges = np.unique(np.sort(edges[on_fold[edges].all(axis=1)], axis=1), axis=0)
    if not len(edges):
        return np.zeros(len(nodes), dtype=bool)
    start, along = mesh.nodes[edges[:, 0]], mesh.nodes[edges[:, 1]] - mesh.nodes[edges[:, 0]]
    arm = mesh.nodes[nodes][:, None] - start
    share = np.clip((arm * along).sum(axis=2) / (along**2).sum(axis=1), 0.0, 1.0)
    away = np.linalg.norm(arm - share[..., None] * along, axis=2).min(axis=1)
    return np.asarray(away <= WELD_ZONE_MM)


def _strength(mesh: Mesh, nodes: Index, weld_share: float) -> Array:
    """What is left of the sheet's strength at each place, (n,)."""
    if weld_share >= 1.0:
        return np.ones(len(nodes))
    return np.where(_beside_welds(mesh, nodes), weld_share, 1.0)


def _forms(linear: Linear, blow: Blow, ground: Ground, shaped: _Shaped) -> PlaceForms:
    nodes, panel = ground.nodes, ground.panel
    sheet, mesh, t = SHEET_MATERIALS[blow.material], linear.mesh, blow.shell.thickness_mm
    youngs, poisson = blow.shell.youngs_mpa, sheet.poisson_ratio
    rigidity = youngs * t**3 / (12 * (1 - poisson**2))
    bends = _plate_compliance(linear, nodes, blow.travel) * shaped.patch_ratio
    disc = np.sqrt(16 * math.pi * rigidity * bends)
    shears = shear_compliance(disc, blow.radius_mm, youngs / (2 + 2 * poisson), t)
    springs = np.array([m.stiffness_n_per_mm for m in linear.mounts])
    toward = mesh.nodes[nodes][:, None] - mesh.nodes[mesh.placed]
    away = np.linalg.norm(toward, axis=2)
    unit = toward / np.maximum(away, 1e-9)[..., None]
    # What lies under the stone is pressed by it, not drawn toward it.
    beside = np.minimum(away / (2 * blow.radius_mm), 1.0)
    drawn = shaped.drawn * beside[..., None]
    pull = (drawn * springs * unit).sum(axis=2) * _round_folds(mesh, panel)
    normals = np.array([axes_of(p)[2] for p in mesh.panels])[panel]
    return PlaceForms(
        form=Form(
            stiffness_n_per_mm=1 / (bends + shears),
            dissipation=shaped.dissipation,
            membrane_n_per_mm3=shaped.membrane,
            hinge=ground.hinge / np.abs(normals @ blow.travel),
            toward=np.maximum(pull, 0.0),
            away_mm=np.maximum(away, blow.radius_mm),
            thickness_mm=t,
            yield_mpa=sheet.yield_mpa * softened(blow.material, blow.temperature_c),
            rigidity_nmm=rigidity,
            radius_mm=blow.radius_mm,
            plastic=sheet.plastic,
            strength=_strength(mesh, nodes, blow.weld_share),
        ),
        drawn=drawn,
        patch_share=shaped.patch_share,
    )


def exact_forms(linear: Linear, blow: Blow, nodes: Index, panel: Index) -> PlaceForms:
    """Each place from its own linear shape."""
    model, fronts = factored_shell(blow.shell)
    ground = _ground(linear.mesh, nodes, panel, np.arange(len(nodes)), blow.radius_mm)
    shaped = _shaped(linear, model, fronts, blow, nodes, ground.under)
    return _forms(linear, blow, ground, shaped)


def spread_forms(linear: Linear, blow: Blow, ground: Ground) -> PlaceForms:
    """A quarter of the places from their own shapes, the others between them."""
    model, fronts = factored_shell(blow.shell)
    nodes, picked = ground.nodes, ground.picked
    known = _shaped(linear, model, fronts, blow, nodes[picked], ground.under)
    compliance = _plate_compliance(linear, nodes, blow.travel)
    shaped = _spread(linear.mesh, nodes, ground.panel, picked, known, compliance)
    return _forms(linear, blow, ground, shaped)
