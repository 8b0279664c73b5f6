"""What a folded plate on its mounts does to a force: linear, small deflection.

Six freedoms a node. Stiffness is E·t·K_m(ν) + E·t³·K_b(ν) + springs, so that another
thickness or modulus is a sum and one factorisation.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Annotated, Any, Literal

import numpy as np
import shapely.ops
from shapely import Point, Polygon

from rugged_shield.core.computation import computation
from rugged_shield.core.errors import InputError
from rugged_shield.core.mechanics.frames import Vec2, Vec3
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.result import Input, Outcome, Source
from rugged_shield.core.shell.elements import Array, Index, bending, congruent, frames, membrane
from rugged_shield.core.shell.mesh import (
    Mesh,
    Place,
    ShellPanel,
    areas_of,
    axes_of,
    hole_ring,
    mesh_panels,
)
from rugged_shield.core.shell.operators import Operators, operators

SHELL_SOURCE = Source(
    "DKT bending (Batoz, Bathe & Ho 1980) with the optimal membrane triangle (Felippa 2003); "
    "checked against Timoshenko & Woinowsky-Krieger 1959",
    "high",
)
OFF_PANEL_MM = 1.0
MAX_NODES = 30_000
_BENDING = np.array([2, 3, 4, 8, 9, 10, 14, 15, 16])
_MEMBRANE = np.array([0, 1, 5, 6, 7, 11, 12, 13, 17])


@dataclass(frozen=True)
class ShellMount(Ranged):
    """A mount: where it holds the sheet, its three springs N/mm along x, y, z; N·mm/rad."""

    name: str
    at_mm: Vec3
    stiffness_n_per_mm: tuple[float, float, float]
    rotational_nmm_per_rad: Annotated[float, Range(0.0, 1e10)] = 0.0

    def __post_init__(self) -> None:
        super().__post_init__()
        for i, k in enumerate(self.stiffness_n_per_mm):
            if not 0 <= k <= 1e8:
                raise InputError(f"mounts.{self.name}.stiffness_n_per_mm.{i}", k, "from 0 to 1e8")


@dataclass(frozen=True)
class EdgeSupport:
    """All outer edges of a panel: clamped (all six held) or simple (deflection held)."""

    panel: str
    kind: Literal["clamped", "simple"]


@dataclass(frozen=True)
class ShellLoad:
    """A unit force at a place along a direction (the normal unless told), or a pressure."""

    panel: str
    at_mm: Vec2 | None = None
    direction: Vec3 | None = None
    pressure_mpa: float | None = None
    probe_mm: Vec2 | None = None

    def __post_init__(self) -> None:
        if (self.at_mm is None) == (self.pressure_mpa is None):
            raise InputError("loads", self.panel, "a place, or a pressure with its probe")
        if self.pressure_mpa is not None and self.probe_mm is None:
            raise InputError("loads.probe_mm", "", "where the deflection is asked for")


@dataclass(frozen=True, kw_only=True)
class ShellInput(Ranged):
    """Panels, sheet, supports and loads; ``mesh_mm`` is the size of a triangle's side."""

    panels: tuple[ShellPanel, ...]
    thickness_mm: Annotated[float, Range(0.5, 25.0, "mm")]
    youngs_modulus_mpa: Annotated[float, Range(100.0, 300_000.0, "MPa")]
    poisson: Annotated[float, Range(0.0, 0.49)]
    loads: tuple[ShellLoad, ...]
    mounts: tuple[ShellMount, ...] = ()
    edge_supports: tuple[EdgeSupport, ...] = ()
    mesh_mm: Annotated[float, Range(4.0, 60.0, "mm")] = 12.0

    def __post_init__(self) -> None:
        super().__post_init__()
        names = [p.name for p in self.panels]
        if not names or len(set(names)) != len(names):
            raise InputError("panels", ", ".join(names), "one panel or more, each name once")
        for field, items in (("loads", self.loads), ("edge_supports", self.edge_supports)):
            for item in items:
                if item.panel not in names:
                    raise InputError(f"{field}.panel", item.panel, "one of " + ", ".join(names))
        area = sum(abs(Polygon(p.outline_mm).area) for p in self.panels)
        if area / self.mesh_mm**2 > MAX_NODES:
            raise InputError("mesh_mm", self.mesh_mm, f"a mesh of at most {MAX_NODES} nodes")


@dataclass(frozen=True)
class LoadResponse:
    """Deflection along the load, mm/N (mm under a pressure), and the force on every mount."""

    deflection_mm_per_n: float | None
    deflection_mm: float | None
    mount_reactions: tuple[Vec3, ...]


@dataclass(frozen=True)
class ShellResult:
    """Every load's answer, and the size of the model."""

    loads: tuple[LoadResponse, ...]
    nodes: int
    triangles: int
    area_mm2: float


@dataclass(frozen=True, eq=False)
class ShellModel:
    """A mesh with its two stiffness matrices for E = t = 1: 6 × 6 blocks in the same places."""

    mesh: Mesh
    poisson: float
    membrane: Any
    bending: Any

    @cached_property
    def operators(self) -> Operators:
        """Slopes, strains and curvatures of its triangles."""
        return operators(self.mesh)

    def stiffness(self, youngs_mpa: float, thickness_mm: float) -> Any:
        """The sheet's stiffness without springs, N/mm."""
        return youngs_mpa * (thickness_mm * self.membrane + thickness_mm**3 * self.bending)


@dataclass(frozen=True, eq=False)
class _Pattern:
    """Where the blocks of all triangles' pairs of nodes go.

    In their ``order`` those from each of ``starts`` on add up to one block, which stands at
    ``columns`` of the rows that ``ends`` parts.
    """

    order: Index
    starts: Index
    columns: Index
    ends: Index


def _pattern(mesh: Mesh) -> _Pattern:
    size = len(mesh.nodes)
    rows = np.repeat(mesh.triangles, 3, axis=1).ravel()
    places = rows * size + np.tile(mesh.triangles, (1, 3)).ravel()
    order = np.argsort(places, kind="stable")
    places, starts = np.unique(places[order], return_index=True)
    ends = np.searchsorted(places, np.arange(size + 1) * size)
    return _Pattern(order, starts, places % size, ends)


def _turned(axes: Array) -> Array:
    """A triangle's 18 freedoms in its own axes from those in space, (m, 18, 18)."""
    vectors = np.arange(6)
    turn = np.zeros((len(axes), 6, 3, 6, 3))
    turn[:, vectors, :, vectors, :] = axes
    return turn.reshape(-1, 18, 18)


def _assembled(pattern: _Pattern, turn: Array, local: Array, where: Index) -> Any:
    """Sparse matrix of element matrices (m, 9, 9) that stand at ``where`` of 18 freedoms."""
    from scipy import sparse  # late: start-up and small commands do without SciPy

    pairs = congruent(turn[:, where], local).reshape(-1, 3, 6, 3, 6)
    blocks = pairs.transpose(0, 1, 3, 2, 4).reshape(-1, 6, 6)[pattern.order]
    size = 6 * (len(pattern.ends) - 1)
    return sparse.bsr_matrix(
        (np.add.reduceat(blocks, pattern.starts), pattern.columns, pattern.ends), (size, size)
    )


def shell_model(mesh: Mesh, poisson: float) -> ShellModel:
    """Assemble a mesh for one Poisson's ratio."""
    axes, local, areas = frames(mesh.nodes, mesh.triangles)
    pattern, turn = _pattern(mesh), _turned(axes)
    return ShellModel(
        mesh,
        poisson,
        _assembled(pattern, turn, membrane(local, areas, poisson), _MEMBRANE),
        _assembled(pattern, turn, bending(local, areas, poisson), _BENDING),
    )


def spring_matrix(size: int, mounts: tuple[ShellMount, ...], at: Index) -> Any:
    """Diagonal of all springs on the freedoms of their nodes."""
    from scipy import sparse

    diagonal = np.zeros(size)
    for mount, node in zip(mounts, at, strict=True):
        diagonal[6 * node : 6 * node + 3] += mount.stiffness_n_per_mm
        diagonal[6 * node + 3 : 6 * node + 6] += mount.rotational_nmm_per_rad
    held = np.unique(at)
    blocks = diagonal.reshape(-1, 6)[held][:, :, None] * np.eye(6)
    ends = np.searchsorted(held, np.arange(size // 6 + 1))
    return sparse.bsr_matrix((blocks, held, ends), shape=(size, size))


def check_supported(mounts: tuple[ShellMount, ...]) -> None:
    """Refuse a plate that can move as a whole: none or two mounts make a mechanism."""
    if not mounts:
        raise InputError(
            "mounts", 0, "three mounts or more, not in one line", "nothing holds the plate"
        )
    places = np.array([m.at_mm for m in mounts])
    middle = places.mean(axis=0)
    reach = max(float(np.linalg.norm(places - middle, axis=1).max()), 1.0)
    total = np.zeros((6, 6))
    for mount, place in zip(mounts, (places - middle) / reach, strict=True):
        x, y, z = place
        moves = np.hstack([np.eye(3), np.array([[0, z, -y], [-z, 0, x], [y, -x, 0]])])
        springs = np.array(mount.stiffness_n_per_mm)
        total += moves.T @ (springs[:, None] * moves)
        total[3:, 3:] += np.eye(3) * mount.rotational_nmm_per_rad / reach**2
    values = np.linalg.eigvalsh(total)
    if values[0] < 1e-9 * values[-1]:
        raise InputError(
            "mounts",
            len(mounts),
            "three mounts or more, not in one line",
            "the plate can turn or slide as a whole on these mounts: a mechanism",
        )


def panel_place(panels: tuple[ShellPanel, ...], at_mm: Vec3, field: str) -> Place:
    """The panel that a point in space lies on, and where; raises InputError off the sheet."""
    best: tuple[float, Place] | None = None
    for i, panel in enumerate(panels):
        axes = axes_of(panel)
        relative = np.array(at_mm) - np.array(panel.origin_mm)
        u, v, off = (float(c) for c in axes @ relative)
        outline = Polygon(panel.outline_mm)
        gap = max(abs(off), float(outline.distance(Point(u, v))))
        if gap <= OFF_PANEL_MM and (best is None or gap < best[0]):
            inside = shapely.ops.nearest_points(outline, Point(u, v))[0]
            best = (gap, Place(i, (inside.x, inside.y)))
    if best is None:
        raise InputError(field, at_mm, "a place on the sheet", "it is off the sheet")
    _check_not_in_hole(panels[best[1].panel], best[1], field)
    return best[1]


def _check_not_in_hole(panel: ShellPanel, place: Place, field: str) -> None:
    for hole in panel.holes:
        ring = Polygon(hole_ring(hole, 6.0))
        if ring.contains(Point(*place.at_mm)):
            raise InputError(field, place.at_mm, "a place on the sheet", "it is over a hole")


def _fixed_freedoms(mesh: Mesh, supports: tuple[EdgeSupport, ...]) -> Index:
    """Freedoms that edge supports hold."""
    names = [p.name for p in mesh.panels]
    fixed: list[int] = []
    for support in supports:
        count = 6 if support.kind == "clamped" else 3
        for node in mesh.outer[names.index(support.panel)]:
            fixed += [6 * int(node) + i for i in range(count)]
    return np.unique(np.array(fixed, dtype=np.int64))


@dataclass(frozen=True, eq=False)
class Factored:
    """A factorised stiffness with some freedoms held: answers any number of loads."""

    solver: Any
    free: Index
    size: int

    def solve(self, loads: Array) -> Array:
        """Displacements (size, …) under loads (size, …)."""
        out = np.zeros_like(loads)
        out[self.free] = self.solver.solve(np.ascontiguousarray(loads[self.free]))
        return out

    def work(self, loads: Array) -> Array:
        """Of each load (size, k) on its own displacement, (k,) N·mm: twice what it stores."""
        return np.asarray((loads * self.solve(loads)).sum(axis=0))


def factored(stiffness: Any, fixed: Index) -> Factored:
    """Factorise a symmetric stiffness without the freedoms that are held."""
    from scipy.sparse.linalg import splu

    size = stiffness.shape[0]
    free = np.setdiff1d(np.arange(size), fixed)
    rows = stiffness.tocsr()
    reduced = rows[free][:, free].tocsc() if len(fixed) else rows.tocsc()
    solver = splu(
        reduced,
        permc_spec="MMD_AT_PLUS_A",
        diag_pivot_thresh=0.0,
        options={"SymmetricMode": True},
    )
    return Factored(solver, free, size)


def _load_vector(
    model: ShellModel, load: ShellLoad, panel: int, node: int
) -> tuple[Array, Array, int]:
    """Forces, the direction the answer is taken along, and the node it is taken at."""
    mesh = model.mesh
    forces = np.zeros(6 * len(mesh.nodes))
    direction = mesh.normal(panel)
    if load.direction is not None:
        direction = np.array(load.direction, dtype=float)
        direction = direction / np.linalg.norm(direction)
    if load.pressure_mpa is None:
        forces[6 * node : 6 * node + 3] = direction
        return forces, direction, node
    share = areas_of(mesh) / 3 * load.pressure_mpa
    own = mesh.panel_of == panel
    for corner in range(3):
        for axis in range(3):
            np.add.at(forces, 6 * mesh.triangles[own, corner] + axis, share[own] * direction[axis])
    return forces, direction, node


@computation("shell-response", page="shell", check="rect_clamped_P_1")
def shell_response(given: ShellInput) -> Outcome[ShellResult]:
    """Deflection under each load and the force it puts on every mount."""
    names = [p.name for p in given.panels]
    if not given.edge_supports:
        check_supported(given.mounts)
    mount_places = tuple(
        panel_place(given.panels, m.at_mm, f"mounts.{m.name}.at_mm") for m in given.mounts
    )
    load_places = tuple(
        Place(names.index(load.panel), load.at_mm or load.probe_mm or (0.0, 0.0))
        for load in given.loads
    )
    mesh = mesh_panels(given.panels, given.mesh_mm, (*mount_places, *load_places))
    model = shell_model(mesh, given.poisson)
    at_mounts, at_loads = np.split(mesh.placed, [len(given.mounts)])
    stiffness = model.stiffness(given.youngs_modulus_mpa, given.thickness_mm)
    stiffness = stiffness + spring_matrix(stiffness.shape[0], given.mounts, at_mounts)
    solver = factored(stiffness, _fixed_freedoms(mesh, given.edge_supports))
    responses = []
    for load, place, node in zip(given.loads, load_places, at_loads, strict=True):
        forces, direction, at = _load_vector(model, load, place.panel, int(node))
        moved = solver.solve(forces)
        value = float(moved[6 * at : 6 * at + 3] @ direction)
        reactions = tuple(
            tuple(float(k * moved[6 * n + i]) for i, k in enumerate(m.stiffness_n_per_mm))
            for m, n in zip(given.mounts, at_mounts, strict=True)
        )
        point = load.pressure_mpa is None
        responses.append(
            LoadResponse(value if point else None, None if point else value, reactions)  # type: ignore[arg-type]
        )
    return Outcome(
        result=ShellResult(
            tuple(responses), len(mesh.nodes), len(mesh.triangles), float(areas_of(mesh).sum())
        ),
        inputs=(
            Input("Panels", len(given.panels)),
            Input("Thickness", given.thickness_mm, "mm"),
            Input("Modulus", given.youngs_modulus_mpa, "MPa"),
            Input("Nodes", len(mesh.nodes)),
        ),
        reasons=("Flat triangles on the folded panels, six freedoms a node; mounts as springs.",),
        assumptions=("Small deflection, elastic.", "Folds are sharp and as thick as the sheet."),
        sources=(SHELL_SOURCE,),
    )
