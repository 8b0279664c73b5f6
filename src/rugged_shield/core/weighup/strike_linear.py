"""What a plate on its mounts does to a force anywhere on it: all that is linear, remembered."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np

from rugged_shield.core.mechanics.frames import Vec3
from rugged_shield.core.shell.fronts import Fronts, Tree, dissect, factorise
from rugged_shield.core.shell.mesh import Mesh, ShellHole, ShellPanel, mesh_panels
from rugged_shield.core.shell.solve import (
    ShellModel,
    ShellMount,
    check_supported,
    panel_place,
    shell_model,
    spring_matrix,
)
from rugged_shield.core.survey.geometry import FoldedPlate, fold
from rugged_shield.core.survey.plate import Plate
from rugged_shield.core.tables.materials import SHEET_MATERIALS, softened
from rugged_shield.core.weighup.mount_law import MountLaw, Reduced
from rugged_shield.core.weighup.response import Array

MESH_MM = 12.0


def shell_panels(folded: FoldedPlate, piece: str = "") -> tuple[ShellPanel, ...]:
    """A piece's panels as a shell, the main one's: open cutouts are holes, closed doors sheet."""
    return tuple(
        ShellPanel(
            panel.name,
            tuple((x, y) for x, y in list(panel.outline.exterior.coords)[:-1]),
            panel.origin,
            panel.u,
            panel.v,
            tuple(
                ShellHole(
                    kind="polygon",
                    points_mm=tuple((x, y) for x, y in list(opening.exterior.coords)[:-1]),
                )
                for cutout, opening in panel.openings
                if not cutout.closed_door
            ),
        )
        for panel in folded.panels
        if panel.piece == piece
    )


@dataclass(frozen=True, eq=False)
class Linear:
    """What a plate on its mounts does to a unit force: all that does not depend on energy.

    ``compliance`` (n, 3, 3) of every node; ``to_mounts`` (6n, 3m): every freedom under a unit
    force at each mount along x, y, z. ``turned`` (n, m, 3, 3): how a node moves, last, under a
    unit moment at each mount about x, y, z; ``mutual_turned`` (m, 6, m, 3): how mounts move and
    turn under the same.
    """

    mesh: Mesh
    compliance: Array
    to_mounts: Array
    turned: Array
    mutual_turned: Array
    mounts: tuple[ShellMount, ...]

    @cached_property
    def at_mounts(self) -> Array:
        """(n, m, 3, 3): how a node moves under a unit force at each mount, and so that mount."""
        moved = self.to_mounts.reshape(len(self.mesh.nodes), 6, len(self.mounts), 3)
        return moved[:, :3].transpose(0, 2, 3, 1)

    def mutual(self, normals: Array) -> Array:
        """How mounts move (m, 3) under a unit force along each of their normals, (m, 3, m)."""
        return np.asarray(np.einsum("pjkd,jk->pdj", self.at_mounts[self.mesh.placed], normals))


@lru_cache(maxsize=10)
def _model(
    panels: tuple[ShellPanel, ...], places: tuple[Vec3, ...], mesh_mm: float, poisson: float
) -> tuple[ShellModel, Tree]:
    """Mesh, matrices and tree, remembered: another thickness or alloy needs none of them anew."""
    at = tuple(panel_place(panels, p, "mounts.at_mm") for p in places)
    mesh = mesh_panels(panels, mesh_mm, at)
    return shell_model(mesh, poisson), dissect(mesh)


@dataclass(frozen=True)
class Shell:
    """Just what the linear answer depends on: panels, E MPa, ν, t mm, mounts, mesh mm."""

    panels: tuple[ShellPanel, ...]
    youngs_mpa: float
    poisson: float
    thickness_mm: float
    mounts: tuple[ShellMount, ...]
    mesh_mm: float


def shell_of(
    plate: Plate, mounts: tuple[ShellMount, ...], mesh_mm: float, temperature_c: float
) -> Shell:
    """A plate as a shell, a plastic one as soft as its temperature makes it."""
    sheet = SHEET_MATERIALS[plate.material]
    youngs = sheet.youngs_modulus_gpa * 1000 * softened(plate.material, temperature_c)
    panels = shell_panels(fold(plate))
    return Shell(panels, youngs, sheet.poisson_ratio, plate.thickness_mm, mounts, mesh_mm)


@lru_cache(maxsize=2)
def factored_shell(shell: Shell) -> tuple[ShellModel, Fronts]:
    """The factorised shell on its springs; few are kept, for they are large."""
    check_supported(shell.mounts)
    places = tuple(m.at_mm for m in shell.mounts)
    model, tree = _model(shell.panels, places, shell.mesh_mm, shell.poisson)
    stiffness = model.stiffness(shell.youngs_mpa, shell.thickness_mm)
    stiffness = stiffness + spring_matrix(stiffness.shape[0], shell.mounts, model.mesh.placed)
    return model, factorise(stiffness, tree)


@lru_cache(maxsize=24)
def linear_of(shell: Shell) -> Linear:
    """The linear answer of every node, and of every mount to every node; about 1 MB each."""
    model, fronts = factored_shell(shell)
    mounts, nodes, placed = shell.mounts, model.mesh.nodes, model.mesh.placed
    wide = 3 * len(mounts)
    loads = np.zeros((6 * len(nodes), 2 * wide))
    for i, node in enumerate(placed):
        for axis in range(3):
            loads[6 * node + axis, 3 * i + axis] = 1.0
            loads[6 * node + 3 + axis, wide + 3 * i + axis] = 1.0
    answer = fronts.solve(loads)
    turned = answer[:, wide:].reshape(len(nodes), 6, len(mounts), 3)
    return Linear(
        model.mesh,
        fronts.diagonal(),
        np.ascontiguousarray(answer[:, :wide]),
        np.ascontiguousarray(turned[:, :3].transpose(0, 2, 3, 1)),
        turned[placed],
        mounts,
    )


def reduced_of(linear: Linear, laws: tuple[MountLaw, ...], moved: Array) -> Reduced:
    """The model seen from the mounts that bend; ``moved`` (n, m, 3) under a unit strike each."""
    bent = [i for i, law in enumerate(laws) if law.is_bent]
    normals = np.array([law.normal for law in laws]).reshape(-1, 3)
    own = np.einsum("nmd,md->nm", moved, normals) if laws else np.zeros((len(moved), 0))
    mutual = np.zeros((0, 0))
    if bent:
        across = np.einsum("pdj,pd->pj", linear.mutual(normals), normals)
        mutual = across[np.ix_(bent, bent)]
    return Reduced(tuple(laws[i] for i in bent), own[:, bent], mutual)
