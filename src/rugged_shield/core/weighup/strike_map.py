"""A strike anywhere on a plate: deflection, force and what it touches, for every node at once."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Annotated, Literal

import numpy as np
import numpy.typing as npt

from rugged_shield.core.errors import InputError, choose
from rugged_shield.core.mechanics.frames import Vec3
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.result import Finding, FindingCode, Input, Outcome, finding
from rugged_shield.core.shell import SHELL_SOURCE, Mesh, ShellMount, areas_of
from rugged_shield.core.survey import DRAWN, Part, Plate, Pose, box_of, fold
from rugged_shield.core.tables.materials import ROOM_C, SHEET_MATERIALS, softened
from rugged_shield.core.weighup.coverage import DIRECTIONS
from rugged_shield.core.weighup.impact import (
    Impact,
    Places,
    impact,
    places_of,
    straight_laws,
)
from rugged_shield.core.weighup.mount_law import MountLaw
from rugged_shield.core.weighup.response import (
    RESPONSE_SOURCE,
    SOFT_IN_PLANE_N_PER_MM,
    Array,
    Curve,
    Index,
    curve_of,
)
from rugged_shield.core.weighup.strike import (
    beyond_the_form,
    in_plane_stiffness,
    patch_stiffness,
)
from rugged_shield.core.weighup.strike_linear import MESH_MM, Linear, Shell, linear_of, shell_of

FACING = 0.1
"""A panel is struck when its outer face looks toward the stone by at least this cosine."""
THIN_SHARE = 0.1


@dataclass(frozen=True, kw_only=True)
class StrikeMapInput(Ranged):
    """A plate on its mounts, what lies behind it, and the stone: direction, energy J, radius.

    ``laws``: one for each mount in its order, or none (straight springs, no limits known).
    ``pose`` is how its spacers hang it: it moves the sheet against what lies behind.
    ``temperature_c`` is the sheet's; it softens plastics.
    """

    plate: Plate
    mounts: tuple[ShellMount, ...]
    parts: tuple[Part, ...] = ()
    direction: Literal[
        "from below",
        "from ahead 20° upward",
        "from ahead 40° upward",
        "from the left 35° upward",
        "from the right 35° upward",
        "level from ahead",
    ] = "from below"
    energy_j: Annotated[float, Range(0.1, 5000.0)] = 60.0
    contact_radius_mm: Annotated[float, Range(5.0, 40.0, "mm")] = 15.0
    mesh_mm: Annotated[float, Range(6.0, 60.0, "mm")] = MESH_MM
    laws: tuple[MountLaw, ...] = ()
    pose: Pose = DRAWN
    temperature_c: Annotated[float, Range(-20.0, 80.0, "°C")] = ROOM_C

    def __post_init__(self) -> None:
        super().__post_init__()
        if self.laws and [law.name for law in self.laws] != [m.name for m in self.mounts]:
            raise InputError(
                "laws", ", ".join(law.name for law in self.laws), "one for each mount, in its order"
            )


@dataclass(frozen=True, kw_only=True)
class MapPoint:
    """One struck place: where, what it gives, what it takes.

    ``touches_j`` is the energy at which the sheet reaches ``near``; None when no part is
    behind. ``past_share`` of the energy gets past the plate: what is left at the touch, and
    what mounts on castings take until then. ``worst_share`` is the load of the worst mount
    over its limit (None while no limit is known), ``fails`` what would go there first.
    ``dent_mm`` None: not known, the sheet slides at its bolts. ``node`` is its number in
    the mesh.
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
    worst_share: float | None
    fails: str
    casting_share: float | None
    dent_mm: float | None
    node: int


@dataclass(frozen=True)
class StrikeMapResult:
    """Every struck place of one plate, the deepest, and the first that touches."""

    points: tuple[MapPoint, ...]
    deepest_mm: float
    first_touch_j: float | None
    first_touch: str
    nodes: int
    area_mm2: float


@dataclass(frozen=True, kw_only=True)
class Struck:
    """Just what a strike depends on, whatever lies behind the sheet and whatever it is called.

    ``inward``: each panel by name with its normal into the bike.
    """

    shell: Shell
    material: str
    inward: tuple[tuple[str, Vec3], ...]
    laws: tuple[MountLaw, ...]
    direction: str
    energy_j: float
    contact_radius_mm: float
    temperature_c: float

    @property
    def toward(self) -> Array:
        """Unit vector toward the stone."""
        return np.array(DIRECTIONS[self.direction])


def struck_of(given: StrikeMapInput) -> Struck:
    """The question without what lies behind the sheet."""
    return Struck(
        shell=shell_of(given.plate, given.mounts, given.mesh_mm, given.temperature_c),
        material=given.plate.material,
        inward=tuple((p.name, p.inward) for p in fold(given.plate).panels),
        laws=given.laws,
        direction=given.direction,
        energy_j=given.energy_j,
        contact_radius_mm=given.contact_radius_mm,
        temperature_c=given.temperature_c,
    )


def _faces(mesh: Mesh, struck: Struck) -> tuple[Index, Index]:
    """Nodes that the stone can meet, and the panel each is struck on (an inner one first)."""
    outward = {name: -np.array(inward) for name, inward in struck.inward}
    toward = struck.toward
    panel_at = np.full(len(mesh.nodes), -1, dtype=np.int64)
    for i, panel in enumerate(mesh.panels):
        if float(outward[panel.name] @ toward) >= FACING:
            panel_at[np.unique(mesh.triangles[mesh.panel_of == i])] = i
    nodes = np.flatnonzero(panel_at >= 0)
    return nodes, panel_at[nodes]


def standoffs(points: Array, parts: tuple[Part, ...]) -> tuple[Array, Index]:
    """Least distance of each point to a part's box, and which part."""
    if not parts:
        return np.full(len(points), np.inf), np.zeros(len(points), dtype=np.int64)
    boxes = [box_of(p) for p in parts]
    low, high = np.array([b[0] for b in boxes]), np.array([b[1] for b in boxes])
    gap = np.maximum(np.maximum(low - points[:, None], points[:, None] - high), 0.0)
    distance = np.sqrt((gap**2).sum(axis=2))
    nearest = distance.argmin(axis=1)
    return distance[np.arange(len(points)), nearest], nearest


@dataclass(frozen=True, eq=False, kw_only=True)
class Field:
    """Arrays over the struck nodes: where, on which panel, behind what; the blow when asked."""

    nodes: Index
    panel: Index
    near: Index
    places: Places
    curve: Curve
    slides: npt.NDArray[np.bool_]
    usual_disc_mm: float
    energy_j: float

    @cached_property
    def impact(self) -> Impact:
        """What the energy does at every place."""
        return impact(self.curve, self.places, self.energy_j)


def _in_plane(linear: Linear, places: Places, panel: Index) -> Array:
    springs = np.array([m.stiffness_n_per_mm for m in linear.mounts])
    normals = np.array([linear.mesh.normal(i) for i in range(len(linear.mesh.panels))])[panel]
    return in_plane_stiffness(places.moved * springs, springs, normals)


def _curve(
    struck: Struck, linear: Linear, places: Places, nodes: Index, panel: Index
) -> tuple[Curve, Array, Array]:
    """The energy form of every node, the radius of its disc, and how it is held in plane."""
    sheet = SHEET_MATERIALS[struck.material]
    soft = softened(struck.material, struck.temperature_c)
    youngs, yields = sheet.youngs_modulus_gpa * 1000 * soft, sheet.yield_mpa * soft
    travel = -struck.toward
    whole = np.einsum("nij,i,j->n", linear.compliance[nodes], travel, travel)
    in_plane = _in_plane(linear, places, panel)
    t, radius = struck.shell.thickness_mm, struck.contact_radius_mm
    stiffness = patch_stiffness(
        whole - places.mount_compliance, radius, t, youngs, sheet.poisson_ratio
    )
    curve, disc = curve_of(
        stiffness, t, youngs, sheet.poisson_ratio, yields, in_plane, "bolted", radius
    )
    return curve, disc, in_plane


def _inner_normals(linear: Linear, struck: Struck) -> Array:
    """Into the bike, at each mount: the inward normal of the panel that it holds, (m, 3)."""
    inward = {name: np.array(normal) for name, normal in struck.inward}
    mesh = linear.mesh
    found = []
    for node in mesh.placed:
        triangle = int(np.flatnonzero((mesh.triangles == node).any(axis=1))[0])
        found.append(inward[mesh.panels[int(mesh.panel_of[triangle])].name])
    return np.array(found).reshape(-1, 3)


def inner_points(linear: Linear, struck: Struck, nodes: Index, panel: Index) -> Array:
    """Where the inside face of the sheet is at each node of its panel, as drawn, (n, 3) mm."""
    inward = {name: np.array(normal) for name, normal in struck.inward}
    own = np.array([inward[linear.mesh.panels[int(i)].name] for i in panel])
    return np.asarray(linear.mesh.nodes[nodes] + own * struck.shell.thickness_mm)


def struck_field(
    struck: Struck, pose: Pose = DRAWN, parts: tuple[Part, ...] = ()
) -> tuple[Linear, Field]:
    """The linear answer, and every node that the stone can meet with its energy form."""
    linear = linear_of(struck.shell)
    nodes, panel = _faces(linear.mesh, struck)
    if len(nodes) == 0:
        raise InputError(
            "direction",
            struck.direction,
            "a direction that some panel looks toward",
            "no panel of this plate is struck from there",
        )
    inner = pose.lifted(inner_points(linear, struck, nodes, panel))
    standoff, near = standoffs(inner, parts)
    laws = struck.laws or straight_laws(linear, _inner_normals(linear, struck))
    places = places_of(linear, laws, nodes, -struck.toward, standoff)
    curve, disc, in_plane = _curve(struck, linear, places, nodes, panel)
    return linear, Field(
        nodes=nodes,
        panel=panel,
        near=near,
        places=places,
        curve=curve,
        slides=in_plane <= 0.0,
        usual_disc_mm=float(np.median(disc)),
        energy_j=struck.energy_j,
    )


def field_of(given: StrikeMapInput) -> tuple[Linear, Field]:
    """The same for a plate as its spacers hang it, with what lies behind it."""
    return struck_field(struck_of(given), given.pose, given.parts)


def _worst(laws: tuple[MountLaw, ...], struck: Impact, i: int) -> tuple[int, float | None, str]:
    """The mount nearest to its limit at a place; by load while no limit is known."""
    shares = struck.share[i]
    if shares.max() <= 0:
        loads = np.hypot(struck.normal_n[i], struck.shear_n[i])
        return int(loads.argmax()), None, "no limit known"
    at = int(shares.argmax())
    fails = laws[at].fails(float(struck.normal_n[i, at]), float(struck.shear_n[i, at]))
    return at, float(shares[at]), fails


def _points(given: StrikeMapInput, linear: Linear, field: Field) -> tuple[MapPoint, ...]:
    out, struck, laws = [], field.impact, field.places.laws
    castings = [i for i, law in enumerate(laws) if law.casting]
    for i, node in enumerate(field.nodes):
        standoff = float(field.places.standoff_mm[i])
        finite, touch = bool(np.isfinite(standoff)), float(struck.touch_j[i])
        x, y, z = given.pose.lift(tuple(float(c) for c in linear.mesh.nodes[int(node)]))  # type: ignore[arg-type]
        worst, share, fails = _worst(laws, struck, i)
        out.append(
            MapPoint(
                place_mm=(x, y, z),
                panel=linear.mesh.panels[int(field.panel[i])].name,
                deflection_mm=float(struck.total_mm[i]),
                peak_force_n=float(struck.force_n[i]),
                standoff_mm=standoff if finite else None,
                near=given.parts[int(field.near[i])].key if finite else "",
                touches_j=touch if np.isfinite(touch) else None,
                past_share=float(struck.past_share[i]),
                worst_mount=laws[worst].name,
                worst_mount_n=float(np.hypot(struck.normal_n[i, worst], struck.shear_n[i, worst])),
                worst_share=share,
                fails=fails,
                casting_share=float(struck.share[i, castings].max()) if castings else None,
                dent_mm=None if field.slides[i] else float(struck.dent_mm[i]),
                node=int(node),
            )
        )
    return tuple(out)


def _touching(given: StrikeMapInput, points: tuple[MapPoint, ...]) -> list[Finding]:
    names = {p.key: p for p in given.parts}
    first = min(
        (p for p in points if p.touches_j is not None),
        key=lambda p: p.touches_j or 0.0,
        default=None,
    )
    if first is None or (first.touches_j or 0.0) > given.energy_j:
        return []
    part = names[first.near]
    code: FindingCode = "pushed into" if part.kind == "neighbour" else "touches under a strike"
    text = (
        f"Struck {given.direction}, the sheet reaches the {part.name} at {first.touches_j:.0f} J, "
        f"of {given.energy_j:g} J."
    )
    return [finding(code, text, part.key)]


def soft_in_plane(mounts: tuple[ShellMount, ...]) -> list[Finding]:
    """Said when a mount holds the sheet so softly in its plane that deflection may be larger."""
    plane = [sum(m.stiffness_n_per_mm[:2]) / 2 for m in mounts]
    if min(plane) >= SOFT_IN_PLANE_N_PER_MM:
        return []
    text = "Some mounts hold the sheet softly in its plane: up to 35 % more deflection."
    return [finding("soft in plane", text)]


def _findings(
    given: StrikeMapInput, field: Field, points: tuple[MapPoint, ...]
) -> tuple[Finding, ...]:
    found = _touching(given, points)
    found += soft_in_plane(given.mounts)
    worst = max(points, key=lambda p: p.worst_share or 0.0)
    if (worst.worst_share or 0.0) > 1.0:
        text = (
            f"A blow on the {worst.panel} would load {worst.worst_mount} to "
            f"{worst.worst_share:.1f} times what it bears: {worst.fails}."
        )
        found.append(finding("past its limit", text, worst.worst_mount))
    if given.plate.thickness_mm > 2 * field.usual_disc_mm * THIN_SHARE:
        text = (
            f"The sheet gives over {2 * field.usual_disc_mm:.0f} mm at most places: too little "
            f"against {given.plate.thickness_mm:g} mm for thin-plate theory."
        )
        found.append(finding("thick for thin-plate theory", text))
    return (*found, *beyond_the_form(field.usual_disc_mm, given.contact_radius_mm))


def strike_map(given: StrikeMapInput) -> Outcome[StrikeMapResult]:
    """Deflection, force, touching energy, dent and worst mount for a strike at every node."""
    choose("direction", given.direction, DIRECTIONS, "strike direction")
    linear, field = field_of(given)
    points = _points(given, linear, field)
    touching = [p for p in points if p.touches_j is not None]
    first = min(touching, key=lambda p: p.touches_j or 0.0, default=None)
    return Outcome(
        result=StrikeMapResult(
            points,
            max(p.deflection_mm for p in points),
            first.touches_j if first else None,
            first.near if first else "",
            len(linear.mesh.nodes),
            float(areas_of(linear.mesh).sum()),
        ),
        inputs=(
            Input("Direction", given.direction),
            Input("Energy", given.energy_j, "J"),
            Input("Radius of the stone", given.contact_radius_mm, "mm"),
            Input("Mounts", len(given.mounts)),
            Input("Nodes", len(linear.mesh.nodes)),
        ),
        findings=_findings(given, field, points),
        reasons=(
            "Every node's own compliance from one factorisation; mounts parted from the plate; "
            "then the energy form at each place.",
        ),
        assumptions=(
            "Parts are boxes; the nearest part counts, wherever the sheet bulges.",
            "Rubber bottoms at 35 % of its height, a strip yields with 2 % hardening; all other "
            "mounts are straight springs.",
            "Quasi-static: no fracture, no friction. Estimates for comparing plates.",
        ),
        sources=(SHELL_SOURCE, RESPONSE_SOURCE),
    )
