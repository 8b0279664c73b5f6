"""One struck point in full: force–deflection curve, what it touches, what every mount takes."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

import numpy as np

from rugged_shield.core.mechanics.frames import Vec3
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.result import Finding, Input, Outcome, Source, finding
from rugged_shield.core.shell import SHELL_SOURCE
from rugged_shield.core.tables.materials import SHEET_MATERIALS, softened
from rugged_shield.core.weighup.coverage import DIRECTIONS
from rugged_shield.core.weighup.impact import mount_way
from rugged_shield.core.weighup.mount_law import MountLaw
from rugged_shield.core.weighup.one_mode import OneMode, one_mode
from rugged_shield.core.weighup.response import Array, Index
from rugged_shield.core.weighup.strike_linear import Linear, factored_shell, reduced_of, shell_of
from rugged_shield.core.weighup.strike_map import Field, StrikeMapInput, field_of, soft_in_plane

POINT_SOURCE = Source(
    "one mode of large deflection on the sheet's own shape, yield fibre by fibre; von Kármán "
    "disc stiffness within 1 % of Timoshenko & Woinowsky-Krieger 1959, Table 82",
    "medium",
)
STEPS = 60
MANY = 24
"""Points of the curve that are handed out."""
_LEAST_PATCH = 3

Along = Annotated[float, Range(-3000.0, 3000.0, "mm")]


@dataclass(frozen=True)
class StrikePointInput(Ranged):
    """A map's question and the place that is looked at: behind the front axle, to the right."""

    asked: StrikeMapInput
    x_mm: Along
    y_mm: Along


@dataclass(frozen=True, kw_only=True)
class MountLoad:
    """What one mount takes at the greatest force: N in the bike's axes, pressed and sheared.

    ``share`` of its limit and what fails there; None while no limit is known.
    """

    name: str
    at_mm: Vec3
    force_n: Vec3
    normal_n: float
    shear_n: float
    share: float | None
    fails: str
    casting: bool


@dataclass(frozen=True, kw_only=True)
class StrikePointResult:
    """The refined answer: mm, N, J. ``curve`` is (deflection, force), plate and mounts together.

    ``form_mm``: the same deflection by the map's quicker form. ``dent_mm`` None: not known.
    """

    place_mm: Vec3
    panel: str
    deflection_mm: float
    form_mm: float
    peak_force_n: float
    standoff_mm: float | None
    near: str
    touches_j: float | None
    past_share: float
    dent_mm: float | None
    left_mm: float | None
    curve: tuple[tuple[float, float], ...]
    loads: tuple[MountLoad, ...]


@dataclass(frozen=True, eq=False)
class _Way:
    """Along the blow (s,): deflection mm, force N, energy N·mm; mounts' forces (s, m, 3)."""

    deflection: Array
    force: Array
    energy: Array
    loads: Array
    into_castings: Array


def _patch(linear: Linear, nodes: Index, at: int, panel: int, radius_mm: float) -> Index:
    """Nodes under the stone: of the struck panel, within its radius; else the node alone."""
    mesh = linear.mesh
    own = np.unique(mesh.triangles[mesh.panel_of == panel])
    near = own[np.linalg.norm(mesh.nodes[own] - mesh.nodes[at], axis=1) <= radius_mm]
    return near if len(near) >= _LEAST_PATCH else np.array([at], dtype=np.int64)


def _way_to(
    mode: OneMode, linear: Linear, laws: tuple[MountLaw, ...], yield_mpa: float, top: float
) -> _Way:
    """The way up to one amplitude: the sheet by its mode, the mounts by the force they balance.

    Mounts move with the force as in the linear model, and with the square of the amplitude as
    the stretched sheet pulls on them; what that pull takes counts with the sheet.
    """
    springs = np.array([m.stiffness_n_per_mm for m in linear.mounts])
    at = linear.mesh.placed
    amplitude = top * np.linspace(0.0, 1.0, STEPS) ** 1.3
    first, pulled = mode.shape[at, :3], amplitude[:, None, None] ** 2 * mode.answer[at, :3]
    in_line = amplitude[:, None, None] * first
    pull = (springs * ((in_line + pulled) ** 2 - in_line**2)).sum(axis=(1, 2)) / 2
    sheet_mm = amplitude * (mode.compliance - float((springs * first**2).sum()))
    force = np.gradient(mode.energy(amplitude, yield_mpa) + pull, sheet_mm)
    force[0] = 0.0
    straight = (force[:, None, None] * first + pulled)[None]
    bent = [i for i, law in enumerate(laws) if law.is_bent]
    normals = np.array([law.normal for law in laws])
    reduced = reduced_of(linear, laws, first[None])
    free = np.einsum("nsmd,md->nsm", straight, normals)[..., bent]
    way = mount_way(linear, laws, straight, reduced.corrections(free))
    deflection = sheet_mm + way.given(force[None])[0]
    work = np.concatenate([[0.0], np.cumsum((force[1:] + force[:-1]) / 2 * np.diff(deflection))])
    castings = [i for i, law in enumerate(laws) if law.casting]
    return _Way(deflection, force, work, way.loads[0], way.taken(castings)[0])


def _way(
    mode: OneMode,
    linear: Linear,
    laws: tuple[MountLaw, ...],
    yield_mpa: float,
    reach: float,
    energy: float,
) -> _Way:
    """The whole way of the blow, until it has taken the energy and reached what is behind."""
    top = float(np.sqrt(2 * energy / mode.compliance))
    while True:
        way = _way_to(mode, linear, laws, yield_mpa, top)
        if way.energy[-1] > 1.05 * energy and way.deflection[-1] > reach:
            return way
        top *= 1.4


def _mount_loads(linear: Linear, laws: tuple[MountLaw, ...], loads: Array) -> tuple[MountLoad, ...]:
    found = []
    for mount, law, load in zip(linear.mounts, laws, loads, strict=True):
        along = float(load @ np.array(law.normal))
        across = float(np.linalg.norm(load - along * np.array(law.normal)))
        share = float(law.share(np.array(along), np.array(across)))
        x, y, z = (float(c) for c in load)
        found.append(
            MountLoad(
                name=mount.name,
                at_mm=mount.at_mm,
                force_n=(x, y, z),
                normal_n=along,
                shear_n=across,
                share=share if share > 0 else None,
                fails=law.fails(along, across),
                casting=law.casting,
            )
        )
    return tuple(found)


def _findings(asked: StrikeMapInput, result: StrikePointResult) -> tuple[Finding, ...]:
    found = soft_in_plane(asked.mounts)
    over = [m for m in result.loads if (m.share or 0.0) > 1.0]
    for load in over:
        text = f"{load.name.capitalize()} takes {load.share:.1f} times what it bears: {load.fails}."
        found.append(finding("past its limit", text, load.name))
    laws = {law.name: law for law in asked.laws}
    for load in result.loads:
        law = laws.get(load.name)
        if law is not None and law.bottoms_at_mm is not None:
            at = law.bottoms_at_mm * law.stiffness_n_per_mm
            if load.normal_n > at:
                text = f"The isolator at {load.name} bottoms at {at:.0f} N."
                found.append(finding("bottoms under a strike", text, load.name))
        if law is not None and law.yields_at_n is not None and load.normal_n > law.yields_at_n:
            text = f"The strip at {load.name} yields at {law.yields_at_n:.0f} N, as it is meant to."
            found.append(finding("strip yields", text, load.name))
    return tuple(found)


def _value_at(rising: Array, at: float, values: Array) -> float:
    return float(np.interp(at, rising, values))


def _result(
    given: StrikePointInput, linear: Linear, field: Field, i: int, way: _Way
) -> StrikePointResult:
    asked, energy = given.asked, given.asked.energy_j * 1000
    standoff = float(field.places.standoff_mm[i])
    deep = _value_at(way.energy, energy, way.deflection)
    finite = bool(np.isfinite(standoff)) and standoff <= way.deflection[-1]
    touch = _value_at(way.deflection, standoff, way.energy) if finite else np.inf
    until = min(deep, standoff) if finite else deep
    into = _value_at(way.deflection, until, way.into_castings)
    loads = np.array(
        [
            [_value_at(way.energy, energy, way.loads[:, m, d]) for d in range(3)]
            for m in range(len(linear.mounts))
        ]
    )
    form, dent = float(field.impact.total_mm[i]), float(field.impact.dent_mm[i])
    kept = None if field.slides[i] else dent * deep / form
    node = int(field.nodes[i])
    x, y, z = (float(c) for c in linear.mesh.nodes[node])
    picked = np.linspace(0, len(way.deflection) - 1, MANY).round().astype(int)
    known = np.isfinite(standoff)
    return StrikePointResult(
        place_mm=(x, y, z),
        panel=linear.mesh.panels[int(field.panel[i])].name,
        deflection_mm=deep,
        form_mm=form,
        peak_force_n=_value_at(way.energy, energy, way.force),
        standoff_mm=standoff if known else None,
        near=asked.parts[int(field.near[i])].key if known else "",
        touches_j=touch / 1000 if np.isfinite(touch) else None,
        past_share=float(min(1.0, (max(energy - touch, 0.0) + into) / energy)),
        dent_mm=kept,
        left_mm=standoff - kept if known and kept is not None else None,
        curve=tuple((float(way.deflection[k]), float(way.force[k])) for k in picked),
        loads=_mount_loads(linear, field.places.laws, loads),
    )


def strike_point(given: StrikePointInput) -> Outcome[StrikePointResult]:
    """The refined answer at the struck node nearest to a place."""
    asked = given.asked
    linear, field = field_of(asked)
    places = linear.mesh.nodes[field.nodes]
    i = int(np.hypot(places[:, 0] - given.x_mm, places[:, 1] - given.y_mm).argmin())
    shell = shell_of(asked.plate, asked.mounts, asked.mesh_mm, asked.temperature_c)
    model, fronts = factored_shell(shell)
    under = _patch(
        linear, field.nodes, int(field.nodes[i]), int(field.panel[i]), asked.contact_radius_mm
    )
    load = np.zeros(6 * len(linear.mesh.nodes))
    travel = -np.array(DIRECTIONS[asked.direction])
    for axis in range(3):
        load[6 * under + axis] = travel[axis] / len(under)
    mode = one_mode(model, fronts, load, shell.youngs_mpa, shell.thickness_mm)
    sheet = SHEET_MATERIALS[asked.plate.material]
    yields = sheet.yield_mpa * softened(asked.plate.material, asked.temperature_c)
    standoff = float(field.places.standoff_mm[i])
    reach = min(standoff, 60.0) if np.isfinite(standoff) else 0.0
    way = _way(mode, linear, field.places.laws, yields, reach, asked.energy_j * 1000)
    result = _result(given, linear, field, i, way)
    plastic = sheet.plastic
    later = ("Of the dent about half is left after a minute, a third after a day.",)
    return Outcome(
        result=result,
        inputs=(
            Input("Place, behind the front axle", result.place_mm[0], "mm"),
            Input("Place, to the right", result.place_mm[1], "mm"),
            Input("Energy", asked.energy_j, "J"),
            Input("Direction", asked.direction),
            Input("Radius of the stone", asked.contact_radius_mm, "mm"),
            Input("Deflection by the map's form", result.form_mm, "mm"),
        ),
        findings=_findings(asked, result),
        reasons=(
            "The sheet keeps the shape of a small blow; its slopes stretch it, its fibres yield; "
            "energy is the work up to the greatest deflection.",
            *(later if plastic else ()),
        ),
        assumptions=(
            "The shape does not change: a little stiff, deflection up to 10 % low and force high.",
            "Quasi-static; no fracture, no friction. An estimate for comparing plates.",
            *(
                ("Plastic: strength may be 1.2, stiffness 1.3 times higher in a fast blow.",)
                if plastic
                else ()
            ),
        ),
        sources=(SHELL_SOURCE, POINT_SOURCE),
    )
