"""A strike anywhere on a plate: deflection, force and what it touches, for every node at once."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Annotated, Literal

import numpy as np

from rugged_shield.core.errors import InputError, choose
from rugged_shield.core.mechanics.frames import Vec3
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.result import Finding, Input, Outcome, finding
from rugged_shield.core.shell import (
    SHELL_SOURCE,
    Mesh,
    ShellHole,
    ShellModel,
    ShellMount,
    ShellPanel,
    Tree,
    areas_of,
    check_held,
    dissect,
    factorise,
    mesh_panels,
    panel_place,
    shell_model,
    spring_matrix,
)
from rugged_shield.core.survey import FoldedPlate, Part, Plate, box_of, fold
from rugged_shield.core.tables.materials import SHEET_MATERIALS
from rugged_shield.core.weighup.coverage import DIRECTIONS
from rugged_shield.core.weighup.response import (
    RESPONSE_SOURCE,
    SOFT_IN_PLANE_N_PER_MM,
    Array,
    Curve,
    Index,
    curve_of,
    deflection_at,
)
from rugged_shield.core.weighup.strike import (
    beyond_the_form,
    in_plane_stiffness,
    patch_stiffness,
)

MESH_MM = 12.0
FACING = 0.1
"""A panel is struck when its outer face looks toward the stone by at least this cosine."""


@dataclass(frozen=True)
class StrikeMapInput(Ranged):
    """A plate on its mounts, what lies behind it, and the stone: direction, energy J, radius."""

    plate: Plate
    mounts: tuple[ShellMount, ...]
    parts: tuple[Part, ...] = ()
    direction: Literal[
        "from below", "from ahead 20° upward", "from ahead 40° upward",
        "from the left 35° upward", "from the right 35° upward", "level from ahead",
    ] = "from below"  # fmt: skip
    energy_j: Annotated[float, Range(0.1, 5000.0)] = 60.0
    contact_radius_mm: Annotated[float, Range(5.0, 40.0, "mm")] = 15.0
    mesh_mm: Annotated[float, Range(6.0, 60.0, "mm")] = MESH_MM


@dataclass(frozen=True)
class MapPoint:
    """One struck place: where, what it gives, what it takes.

    ``touches_j`` is the energy at which the sheet reaches ``near``; None when no part is
    behind. ``past_share`` of the energy is left when it does. ``worst_mount_n`` is the
    largest force on a mount.
    """

    place_mm: Vec3
    panel: str
    deflection_mm: float
    peak_force_n: float
    standoff_mm: float | None
    near: str
    touches_j: float | None
    past_share: float
    worst_mount: str
    worst_mount_n: float


@dataclass(frozen=True)
class StrikeMapResult:
    """Every struck place of one plate, the deepest, and the first that touches."""

    points: tuple[MapPoint, ...]
    deepest_mm: float
    first_touch_j: float | None
    first_touch: str
    nodes: int
    area_mm2: float


def shell_panels(folded: FoldedPlate) -> tuple[ShellPanel, ...]:
    """The main piece's panels as a shell: open cutouts are holes, closed doors are sheet."""
    return tuple(
        ShellPanel(
            panel.name, tuple((x, y) for x, y in list(panel.outline.exterior.coords)[:-1]),
            panel.origin, panel.u, panel.v,
            tuple(
                ShellHole("polygon", points_mm=tuple(
                    (x, y) for x, y in list(opening.exterior.coords)[:-1]
                ))
                for cutout, opening in panel.openings if not cutout.closed_door
            ),
        )
        for panel in folded.panels if panel.piece == ""
    )  # fmt: skip


@dataclass(frozen=True, eq=False)
class Linear:
    """What a plate on its mounts does to a unit force: all that does not depend on energy."""

    mesh: Mesh
    compliance: Array
    at_mounts: Array
    mounts: tuple[ShellMount, ...]


@lru_cache(maxsize=24)
def _model(
    panels: tuple[ShellPanel, ...], places: tuple[Vec3, ...], mesh_mm: float, poisson: float
) -> tuple[ShellModel, Tree]:
    """Mesh, matrices and tree, remembered: another thickness or alloy needs none of them anew."""
    at = tuple(panel_place(panels, p, "mounts.at_mm") for p in places)
    mesh = mesh_panels(panels, mesh_mm, at)
    return shell_model(mesh, poisson), dissect(mesh)


@lru_cache(maxsize=24)
def linear_of(plate: Plate, mounts: tuple[ShellMount, ...], mesh_mm: float = MESH_MM) -> Linear:
    """Compliance of every node (n, 3, 3) and displacements at mounts per unit force there."""
    check_held(mounts)
    sheet = SHEET_MATERIALS[plate.material]
    panels = shell_panels(fold(plate))
    model, tree = _model(panels, tuple(m.at_mm for m in mounts), mesh_mm, sheet.poisson_ratio)
    placed = model.mesh.placed
    stiffness = model.stiffness(sheet.youngs_modulus_gpa * 1000, plate.thickness_mm)
    stiffness = stiffness + spring_matrix(stiffness.shape[0], mounts, placed)
    fronts = factorise(stiffness, tree)
    loads = np.zeros((stiffness.shape[0], 3 * len(mounts)))
    for i, node in enumerate(placed):
        for axis in range(3):
            loads[6 * node + axis, 3 * i + axis] = 1.0
    moved = fronts.solve(loads).reshape(len(model.mesh.nodes), 6, len(mounts), 3)
    return Linear(model.mesh, fronts.diagonal(), moved[:, :3].transpose(0, 2, 3, 1), mounts)


def _struck(mesh: Mesh, folded: FoldedPlate, toward: Array) -> tuple[Index, Index]:
    """Nodes that the stone can meet, and the panel each is struck on (an inner one first)."""
    outward = {p.name: -np.array(p.inward) for p in folded.panels}
    panel_at = np.full(len(mesh.nodes), -1, dtype=np.int64)
    for i, panel in enumerate(mesh.panels):
        if float(outward[panel.name] @ toward) >= FACING:
            panel_at[np.unique(mesh.triangles[mesh.panel_of == i])] = i
    nodes = np.flatnonzero(panel_at >= 0)
    return nodes, panel_at[nodes]


def _standoffs(points: Array, parts: tuple[Part, ...]) -> tuple[Array, Index]:
    """Least distance of each point to a part's box, and which part."""
    if not parts:
        return np.full(len(points), np.inf), np.zeros(len(points), dtype=np.int64)
    boxes = [box_of(p) for p in parts]
    low, high = np.array([b[0] for b in boxes]), np.array([b[1] for b in boxes])
    gap = np.maximum(np.maximum(low - points[:, None], points[:, None] - high), 0.0)
    distance = np.sqrt((gap**2).sum(axis=2))
    nearest = distance.argmin(axis=1)
    return distance[np.arange(len(points)), nearest], nearest


def _energy_to(curve: Curve, compliance: Array, total_mm: Array) -> Array:
    """Energy at which plate and mounts together have given so far, J."""
    low, high = np.zeros_like(total_mm), np.where(np.isfinite(total_mm), total_mm, 0.0)
    for _ in range(50):
        middle = (low + high) / 2
        under = middle + compliance * curve.force(middle) < total_mm
        low, high = np.where(under, middle, low), np.where(under, high, middle)
    return np.asarray((curve.work(low) + compliance * curve.force(low) ** 2 / 2) / 1000)


@dataclass(frozen=True, eq=False)
class _Field:
    """Arrays over the struck nodes."""

    nodes: Index
    panel: Index
    plate_w: Array
    total: Array
    force: Array
    standoff: Array
    near: Index
    touch_j: Array
    worst: Index
    worst_n: Array
    least_disc_mm: float


def _field(given: StrikeMapInput, linear: Linear, folded: FoldedPlate) -> _Field:
    sheet = SHEET_MATERIALS[given.plate.material]
    toward = np.array(DIRECTIONS[given.direction])
    travel = -toward
    nodes, panel = _struck(linear.mesh, folded, toward)
    if len(nodes) == 0:
        raise InputError(
            "direction", given.direction, "a direction that some panel looks toward",
            "no panel of this plate is struck from there",
        )  # fmt: skip
    whole = np.einsum("nij,i,j->n", linear.compliance[nodes], travel, travel)
    springs = np.array([m.stiffness_n_per_mm for m in linear.mounts])
    moved = linear.at_mounts[nodes] @ travel
    reactions = moved * springs
    of_mounts = (moved**2 * springs).sum(axis=(1, 2))
    normals = np.array([linear.mesh.normal(i) for i in range(len(linear.mesh.panels))])[panel]
    in_plane = in_plane_stiffness(reactions, springs, normals)
    stiffness = patch_stiffness(
        whole - of_mounts, given.contact_radius_mm, given.plate.thickness_mm,
        sheet.youngs_modulus_gpa * 1000, sheet.poisson_ratio,
    )  # fmt: skip
    curve, disc = curve_of(
        stiffness, given.plate.thickness_mm, sheet.youngs_modulus_gpa * 1000, sheet.poisson_ratio,
        sheet.yield_mpa, in_plane, "bolted", given.contact_radius_mm,
    )  # fmt: skip
    w = deflection_at(curve, of_mounts, given.energy_j * 1000)
    force = curve.force(w)
    inward = np.array([p.inward for p in folded.panels])
    by_name = {p.name: i for i, p in enumerate(folded.panels)}
    own = np.array([by_name[linear.mesh.panels[int(i)].name] for i in panel])
    inner = linear.mesh.nodes[nodes] + inward[own] * given.plate.thickness_mm
    standoff, near = _standoffs(inner, given.parts)
    loads = np.sqrt((reactions**2).sum(axis=2)) * force[:, None]
    return _Field(
        nodes, panel, w, w + of_mounts * force, force, standoff, near,
        np.where(np.isfinite(standoff), _energy_to(curve, of_mounts, standoff), np.inf),
        loads.argmax(axis=1), loads.max(axis=1), float(disc.min()),
    )  # fmt: skip


def _points(given: StrikeMapInput, linear: Linear, field: _Field) -> tuple[MapPoint, ...]:
    out = []
    for i, node in enumerate(field.nodes):
        finite = bool(np.isfinite(field.standoff[i]))
        touch = float(field.touch_j[i]) if finite else None
        past = max(0.0, given.energy_j - touch) / given.energy_j if touch is not None else 0.0
        x, y, z = (float(c) for c in linear.mesh.nodes[int(node)])
        out.append(
            MapPoint(
                (x, y, z), linear.mesh.panels[int(field.panel[i])].name, float(field.total[i]),
                float(field.force[i]), float(field.standoff[i]) if finite else None,
                given.parts[int(field.near[i])].key if finite else "", touch, past,
                linear.mounts[int(field.worst[i])].name, float(field.worst_n[i]),
            )
        )  # fmt: skip
    return tuple(out)


def _findings(given: StrikeMapInput, points: tuple[MapPoint, ...]) -> tuple[Finding, ...]:
    found = []
    names = {p.key: p.name for p in given.parts}
    first = min(
        (p for p in points if p.touches_j is not None), key=lambda p: p.touches_j or 0.0,
        default=None,
    )  # fmt: skip
    if first is not None and (first.touches_j or 0.0) <= given.energy_j:
        found.append(
            finding(
                "touches under a strike",
                f"Struck {given.direction}, the sheet reaches the {names[first.near]} at "
                f"{first.touches_j:.0f} J, of {given.energy_j:g} J.",
                first.near,
            )
        )
    plane = [sum(m.stiffness_n_per_mm[:2]) / 2 for m in given.mounts]
    if min(plane) < SOFT_IN_PLANE_N_PER_MM:
        found.append(
            finding(
                "soft in plane",
                "Some mounts hold the sheet softly in its plane: up to 35 % more deflection.",
            )
        )
    return tuple(found)


def strike_map(given: StrikeMapInput) -> Outcome[StrikeMapResult]:
    """Deflection, force, touching energy and worst mount for a strike at every struck node."""
    choose("direction", given.direction, DIRECTIONS, "strike direction")
    linear = linear_of(given.plate, given.mounts, given.mesh_mm)
    folded = fold(given.plate)
    field = _field(given, linear, folded)
    points = _points(given, linear, field)
    touching = [p for p in points if p.touches_j is not None]
    first = min(touching, key=lambda p: p.touches_j or 0.0, default=None)
    return Outcome(
        StrikeMapResult(
            points, max(p.deflection_mm for p in points), first.touches_j if first else None,
            first.near if first else "", len(linear.mesh.nodes), float(areas_of(linear.mesh).sum()),
        ),
        inputs=(
            Input("Direction", given.direction), Input("Energy", given.energy_j, "J"),
            Input("Radius of the stone", given.contact_radius_mm, "mm"),
            Input("Mounts", len(given.mounts)), Input("Nodes", len(linear.mesh.nodes)),
        ),
        findings=(
            *_findings(given, points),
            *beyond_the_form(field.least_disc_mm, given.contact_radius_mm),
        ),
        reasons=(
            "Every node's own compliance from one factorisation; mounts parted from the plate; "
            "then the energy form at each place.",
        ),
        assumptions=(
            "Parts are boxes; the nearest part counts, wherever the sheet bulges.",
            "Mounts are linear: an isolator that bottoms or a strip that yields is not in it yet.",
        ),
        sources=(SHELL_SOURCE, RESPONSE_SOURCE),
    )  # fmt: skip
