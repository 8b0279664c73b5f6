"""A struck sheet in arrays: the places that a stone can meet, what is behind, what each takes."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from functools import cached_property, lru_cache
from typing import Annotated, Literal

import numpy as np
import numpy.typing as npt

from rugged_shield.core.errors import InputError
from rugged_shield.core.mechanics.frames import Vec3
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.shell.mesh import Mesh
from rugged_shield.core.shell.solve import ShellMount
from rugged_shield.core.survey.bike import Part
from rugged_shield.core.survey.geometry import fold
from rugged_shield.core.survey.plate import Plate
from rugged_shield.core.survey.pose import DRAWN, Pose
from rugged_shield.core.survey.standoff import box_of
from rugged_shield.core.tables.materials import (
    ROOM_C,
    SHEET_MATERIALS,
    softened,
    weld_zone_share,
)
from rugged_shield.core.weighup.coverage import DIRECTIONS
from rugged_shield.core.weighup.far_mounts import NO_FAR_MOUNTS, FarMounts
from rugged_shield.core.weighup.impact import Impact, Places, impact, places_of, straight_laws
from rugged_shield.core.weighup.mount_law import MountLaw
from rugged_shield.core.weighup.punch import punch_share
from rugged_shield.core.weighup.response import Array, Index
from rugged_shield.core.weighup.strike import in_plane_stiffness
from rugged_shield.core.weighup.strike_linear import MESH_MM, Linear, Shell, linear_of, shell_of
from rugged_shield.core.weighup.strike_places import (
    Blow,
    Ground,
    PlaceForms,
    exact_forms,
    ground_of,
    spread_forms,
)

FACING = 0.1
"""A panel is struck when its outer face looks toward the stone by at least this cosine."""


@dataclass(frozen=True, kw_only=True)
class StrikeMapInput(Ranged):
    """A plate on its mounts, what lies behind it, and the stone: direction, energy J, radius.

    ``laws``: one for each mount in its order, or none (straight springs, no limits known).
    ``far``: mounts behind those, which the sheet reaches through another part.
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
    far: FarMounts = NO_FAR_MOUNTS

    def __post_init__(self) -> None:
        super().__post_init__()
        self.far.check(len(self.mounts))
        if self.laws and [law.name for law in self.laws] != [m.name for m in self.mounts]:
            raise InputError(
                "laws", ", ".join(law.name for law in self.laws), "one for each mount, in its order"
            )

    @property
    def judged(self) -> tuple[MountLaw, ...]:
        """Laws of its mounts, then of those behind them; none where its own are not known."""
        return (*self.laws, *self.far.laws) if self.laws else ()


@dataclass(frozen=True, kw_only=True)
class Struck:
    """Just what a strike depends on, whatever lies behind the sheet and whatever it is called.

    ``inward``: each panel by name with its normal into the bike. ``weld_share``: what is left of
    the sheet's strength beside its folds, where these are welded.
    """

    shell: Shell
    material: str
    inward: tuple[tuple[str, Vec3], ...]
    laws: tuple[MountLaw, ...]
    direction: str
    energy_j: float
    contact_radius_mm: float
    temperature_c: float
    weld_share: float = 1.0
    far: FarMounts = NO_FAR_MOUNTS

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
        weld_share=weld_zone_share(given.plate.material) if given.plate.form == "welded" else 1.0,
        far=given.far,
    )


def _facing(mesh: Mesh, struck: Struck) -> tuple[int, ...]:
    """Numbers of the panels whose outer face looks toward the stone."""
    outward = {name: -np.array(inward) for name, inward in struck.inward}
    return tuple(
        i
        for i, panel in enumerate(mesh.panels)
        if float(outward[panel.name] @ struck.toward) >= FACING
    )


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
    forms: PlaceForms
    slides: npt.NDArray[np.bool_]
    usual_disc_mm: float
    energy_j: float
    material: str
    temperature_c: float

    def at(self, rows: Index) -> Field:
        """The same at some of the places."""
        return replace(
            self,
            nodes=self.nodes[rows],
            panel=self.panel[rows],
            near=self.near[rows],
            slides=self.slides[rows],
            places=self.places.at(rows),
            forms=self.forms.at(rows),
        )

    @cached_property
    def impact(self) -> Impact:
        """What the energy does at every place."""
        return impact(self.forms, self.places, self.energy_j)

    def dent_at(self, i: int) -> float | None:
        """What stays at a place, mm; None where sliding bolts or the form do not tell."""
        dent = float(self.impact.dent_mm[i])
        return None if self.slides[i] or math.isnan(dent) else dent

    @cached_property
    def punch_share(self) -> Array:
        """Force over what the sheet bears around the stone, (n,): from 1 on it may punch.

        Beside a weld it bears what the weld has left of it.
        """
        sheet = SHEET_MATERIALS[self.material]
        form, soft = self.forms.form, softened(self.material, self.temperature_c)
        return punch_share(
            self.impact.force_n,
            2
            * math.pi
            * form.radius_mm
            * form.thickness_mm
            * self.forms.patch_share
            * form.strength,
            yield_mpa=form.yield_mpa,
            ultimate_mpa=sheet.tensile_mpa * soft,
            family=sheet.family,
        )


def _in_plane(linear: Linear, places: Places, panel: Index) -> Array:
    springs = np.array([m.stiffness_n_per_mm for m in linear.mounts])
    normals = np.array([linear.mesh.normal(i) for i in range(len(linear.mesh.panels))])[panel]
    return in_plane_stiffness(places.moved * springs, springs, normals)


def blow_of(struck: Struck) -> Blow:
    """The stone on its sheet."""
    return Blow(
        shell=struck.shell,
        material=struck.material,
        temperature_c=struck.temperature_c,
        radius_mm=struck.contact_radius_mm,
        travel=-struck.toward,
        weld_share=struck.weld_share,
    )


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


def _spread(struck: Struck) -> tuple[Ground, PlaceForms]:
    """Where the stone can meet the sheet, and the energy forms there."""
    # Neither the energy nor what a mount bears shapes the sheet: any of them stands for all.
    return _spread_any(replace(struck, laws=(), far=NO_FAR_MOUNTS, energy_j=1.0))


@lru_cache(maxsize=64)
def _spread_any(struck: Struck) -> tuple[Ground, PlaceForms]:
    """The same, remembered; about 0.5 MB each at the fine mesh."""
    linear = linear_of(struck.shell)
    facing = _facing(linear.mesh, struck)
    if not facing:
        raise InputError(
            "direction",
            struck.direction,
            "a direction that some panel looks toward",
            "no panel of this plate is struck from there",
        )
    ground = ground_of(linear.mesh, facing, struck.contact_radius_mm)
    return ground, spread_forms(linear, blow_of(struck), ground)


def struck_field(
    struck: Struck, pose: Pose = DRAWN, parts: tuple[Part, ...] = ()
) -> tuple[Linear, Field]:
    """The linear answer, and every node that the stone can meet with its energy form."""
    linear = linear_of(struck.shell)
    ground, forms = _spread(struck)
    nodes, panel = ground.nodes, ground.panel
    inner = pose.lifted(inner_points(linear, struck, nodes, panel))
    standoff, near = standoffs(inner, parts)
    laws = struck.laws or straight_laws(linear, _inner_normals(linear, struck))
    places = places_of(linear, laws, nodes, -struck.toward, standoff, struck.far)
    in_plane = _in_plane(linear, places, panel)
    return linear, Field(
        nodes=nodes,
        panel=panel,
        near=near,
        places=places,
        forms=forms,
        slides=in_plane <= 0.0,
        usual_disc_mm=float(np.median(forms.form.disc_mm)),
        energy_j=struck.energy_j,
        material=struck.material,
        temperature_c=struck.temperature_c,
    )


def field_of(given: StrikeMapInput) -> tuple[Linear, Field]:
    """The same for a plate as its spacers hang it, with what lies behind it."""
    return struck_field(struck_of(given), given.pose, given.parts)


def field_at(given: StrikeMapInput, x_mm: float, y_mm: float) -> tuple[Field, Field]:
    """The map's field at the struck node nearest to a place, and that place from its own shape."""
    linear, field = field_of(given)
    there = linear.mesh.nodes[field.nodes]
    i = int(np.hypot(there[:, 0] - x_mm, there[:, 1] - y_mm).argmin())
    rows = np.array([i])
    blow = blow_of(struck_of(given))
    exact = exact_forms(linear, blow, field.nodes[rows], field.panel[rows])
    near = field.at(rows)
    return near, replace(near, forms=exact)
