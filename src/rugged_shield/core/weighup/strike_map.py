"""A strike anywhere on a plate: deflection, force and what it touches, for every node at once."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from rugged_shield.core.amounts import amount, entered, percent
from rugged_shield.core.computation import computation
from rugged_shield.core.errors import choose
from rugged_shield.core.mechanics.frames import Vec3
from rugged_shield.core.result import Finding, FindingCode, Input, Outcome, finding, from_table
from rugged_shield.core.shell.mesh import areas_of
from rugged_shield.core.shell.solve import SHELL_SOURCE, ShellMount
from rugged_shield.core.survey.bike import Part
from rugged_shield.core.tables.materials import SHEET_MATERIALS
from rugged_shield.core.weighup.coverage import DIRECTIONS
from rugged_shield.core.weighup.impact import FARTHEST_MM, Impact
from rugged_shield.core.weighup.mount_law import MountLaw
from rugged_shield.core.weighup.place_form import BANDS, FORM_SOURCE
from rugged_shield.core.weighup.punch import PUNCH_SAYS, punch_code
from rugged_shield.core.weighup.response import SOFT_IN_PLANE_N_PER_MM, Index
from rugged_shield.core.weighup.strike import beyond_the_form
from rugged_shield.core.weighup.strike_field import Field, StrikeMapInput, field_of
from rugged_shield.core.weighup.strike_linear import Linear

THIN_SHARE = 0.1


@dataclass(frozen=True, kw_only=True)
class MapPoint:
    """One struck place: where, what it gives, what it takes.

    ``touches_j`` is the energy at which the sheet reaches ``near``; None when no part is
    behind. ``past_share`` of the energy gets past the plate: what is left at the touch, and
    what mounts on castings take until then. ``worst_share`` is the load of the worst mount
    over its limit (None while no limit is known), ``fails`` what would go there first.
    ``dent_mm`` None: not known, the sheet slides at its bolts or its form does not tell.
    ``punch_share`` from 1 on: the stone may go through. ``node`` is its number in the mesh.
    ``deflection_band``: the share, ``mount_band``: the factor that these may be wrong by.
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
    punch_share: float
    node: int
    deflection_band: float
    mount_band: float


@dataclass(frozen=True)
class StrikeMapResult:
    """Every struck place of one plate, the deepest, and the first that touches."""

    points: tuple[MapPoint, ...]
    deepest_mm: float
    first_touch_j: float | None
    first_touch: str
    nodes: int
    area_mm2: float


def _worst(struck: Impact) -> Index:
    """The mount nearest to its limit at each place, (n,); by load while no limit is known."""
    loads = np.hypot(struck.normal_n, struck.shear_n)
    by_limit, by_load = struck.share.argmax(axis=1), loads.argmax(axis=1)
    return np.asarray(np.where(struck.share.max(axis=1) > 0, by_limit, by_load))


def _fails(laws: tuple[MountLaw, ...], struck: Impact, i: int, at: int) -> tuple[float | None, str]:
    """The share of a mount's limit at a place, and what would go there first."""
    share = float(struck.share[i, at])
    if share <= 0:
        return None, "no limit known"
    return share, laws[at].fails(
        float(struck.normal_n[i, at]), float(struck.shear_n[i, at]), float(struck.moment_nmm[i, at])
    )


def _points(given: StrikeMapInput, linear: Linear, field: Field) -> tuple[MapPoint, ...]:
    out, struck, laws = [], field.impact, field.places.judged
    castings = field.places.castings
    on_castings = struck.share[:, castings].max(axis=1) if castings else None
    worsts = _worst(struck).tolist()
    deflection_band, mount_band = field.forms.deflection_band, field.forms.mount_band
    for i, node in enumerate(field.nodes):
        standoff = float(field.places.standoff_mm[i])
        finite, touch = bool(np.isfinite(standoff)), float(struck.touch_j[i])
        x, y, z = given.pose.lift(tuple(float(c) for c in linear.mesh.nodes[int(node)]))  # type: ignore[arg-type]
        worst = worsts[i]
        share, fails = _fails(laws, struck, i, worst)
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
                casting_share=float(on_castings[i]) if on_castings is not None else None,
                dent_mm=field.dent_at(i),
                punch_share=float(field.punch_share[i]),
                node=int(node),
                deflection_band=float(deflection_band[i]),
                mount_band=float(mount_band[i]),
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
    if first is None:
        return []
    part = names[first.near]
    touches_j = first.touches_j or 0.0
    if touches_j > given.energy_j:
        return _nearly_touching(given, points, names)
    code: FindingCode = "pushed into" if part.kind == "neighbour" else "touches under a strike"
    text = (
        f"Struck {given.direction}, the sheet reaches the {part.name} at "
        f"{amount(touches_j, 'J', 0)}, of {entered(given.energy_j, 'J')}."
    )
    return [finding(code, text, part.key)]


def _nearly_touching(
    given: StrikeMapInput, points: tuple[MapPoint, ...], names: dict[str, Part]
) -> list[Finding]:
    """Said when the room behind is left only if the estimate is right to the millimetre."""
    tight = [
        p
        for p in points
        if p.standoff_mm is not None and p.deflection_mm * (1 + p.deflection_band) >= p.standoff_mm
    ]
    if not tight:
        return []
    least = min(tight, key=lambda p: (p.standoff_mm or 0.0) / p.deflection_mm)
    text = (
        f"Struck {given.direction} with {entered(given.energy_j, 'J')}, the sheet comes to "
        f"{amount((least.standoff_mm or 0.0) - least.deflection_mm, 'mm', 1)} from the "
        f"{names[least.near].name}: within what the estimate may be wrong by."
    )
    return [finding("may touch under a strike", text, least.near)]


def past_limit(mount: str, share: float, band: float, fails: str, blow: str) -> list[Finding]:
    """Said of a mount that a blow loads past what it bears, or may for all that the form knows."""
    if share > 1.0:
        times = f"{share:.1f}"
        return [
            from_table("past its limit", mount, blow=blow, mount=mount, share=times, fails=fails)
        ]
    if share * band > 1.0:
        return [
            from_table(
                "may be past its limit",
                mount,
                blow=blow,
                mount=mount,
                share=percent(share),
                fails=fails,
                band=f"{band:g}",
            )
        ]
    return []


def _overloaded(points: tuple[MapPoint, ...]) -> list[Finding]:
    known = [(p.worst_share, p) for p in points if p.worst_share is not None]
    if not known:
        return []
    share, worst = max(known, key=lambda k: k[0])
    if share <= 1.0:
        share, worst = max(known, key=lambda k: k[0] * k[1].mount_band)
    blow = f"A blow on the {worst.panel}"
    return past_limit(worst.worst_mount, share, worst.mount_band, worst.fails, blow)


def may_shatter(material: str, temperature_c: float) -> list[Finding]:
    """Said of a plastic that is cold enough to crack under a blow."""
    limit = SHEET_MATERIALS[material].brittle_below_c
    if limit is None or temperature_c >= limit:
        return []
    text = (
        f"Below {amount(limit, '°C')} {material} can crack from holes, scratches and folds "
        "instead of giving way. The form knows no fracture: its deflection and dent are no "
        "comfort there."
    )
    return [finding("brittle in the cold", text)]


def may_punch(
    panel: str, energy_j: float, share: float, radius_mm: float, places: float | None = None
) -> list[Finding]:
    """Said when a narrow stone goes through, or may; ``places``: at which part of them (0 to 1)."""
    code = punch_code(share, 1.0 if places is None else places)
    if code is None:
        return []
    where = "" if places is None else f" at {percent(places)} of the struck places"
    text = (
        f"At {entered(energy_j, 'J')} a stone of {entered(radius_mm, 'mm')} radius "
        f"{PUNCH_SAYS[code]} the {panel}{where}: "
        f"{share:.1f} times what the sheet bears around it. Not verified by test."
    )
    return [finding(code, text)]


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
    found += may_shatter(given.plate.material, given.temperature_c)
    found += _overloaded(points)
    pierced = max(points, key=lambda p: p.punch_share)
    some = sum(p.punch_share >= 1.0 for p in points) / len(points)
    found += may_punch(
        pierced.panel,
        given.energy_j,
        pierced.punch_share,
        given.contact_radius_mm,
        some,
    )
    deepest = max(points, key=lambda p: p.deflection_mm)
    if deepest.deflection_mm > FARTHEST_MM:
        text = (
            f"Struck {given.direction}, the {deepest.panel} folds away by more than "
            f"{entered(FARTHEST_MM, 'mm')}: how far is beyond what the form can tell."
        )
        found.append(finding("beyond the form", text))
    if given.plate.thickness_mm > 2 * field.usual_disc_mm * THIN_SHARE:
        text = (
            f"The sheet gives over {amount(2 * field.usual_disc_mm, 'mm', 0)} at most "
            "places: too little "
            f"against {entered(given.plate.thickness_mm, 'mm')} for thin-plate theory."
        )
        found.append(finding("thick for thin-plate theory", text))
    return (*found, *beyond_the_form(field.usual_disc_mm, given.contact_radius_mm))


@computation(
    "strike-map",
    page="strike",
    check="test_inside_a_point_of_the_map_and_the_closed_form_agree",
)
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
            "Every node's own compliance from one factorisation; mounts parted from the plate.",
            "What a place takes before it folds: the least over its own shape and straight "
            "hinges; then the sheet's stretch and its pull at the mounts.",
        ),
        assumptions=(
            "Parts are boxes; the nearest part counts, wherever the sheet bulges.",
            "Rubber bottoms at 35 % of its height, a strip yields with 2 % hardening; a mount "
            "that turns yields as its tab bends or its screw is pried off its face; all other "
            "mounts are straight springs.",
            BANDS,
            "Quasi-static: no fracture, no friction. Estimates for comparing plates.",
        ),
        sources=(SHELL_SOURCE, FORM_SOURCE),
    )
