"""One struck point in full: force–deflection curve, what it touches, what every mount takes."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated

import numpy as np

from rugged_shield.core.amounts import amount
from rugged_shield.core.computation import computation
from rugged_shield.core.mechanics.frames import Vec3
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.result import Finding, Input, Outcome, finding
from rugged_shield.core.shell.solve import SHELL_SOURCE
from rugged_shield.core.tables.materials import SHEET_MATERIALS
from rugged_shield.core.weighup.impact import blow_way
from rugged_shield.core.weighup.place_form import BANDS, FORM_SOURCE
from rugged_shield.core.weighup.strike_field import Field, StrikeMapInput, field_at
from rugged_shield.core.weighup.strike_map import (
    may_punch,
    may_shatter,
    past_limit,
    soft_in_plane,
)

PLASTIC_LATER = (
    "Of the dent about half is left after a minute, a third after a day; what is said of a "
    "plastic's dent may be wrong by half.",
)
PLASTIC_FAST = ("Plastic: strength may be 1.2, stiffness 1.3 times higher in a fast blow.",)
MANY = 24
"""Points of the curve that are handed out."""
_PAST = 1.05
_FAR_ENOUGH_MM = 60.0

Along = Annotated[float, Range(-3000.0, 3000.0, "mm")]


@dataclass(frozen=True)
class StrikePointInput(Ranged):
    """A map's question and the place that is looked at: behind the front axle, to the right."""

    asked: StrikeMapInput
    x_mm: Along
    y_mm: Along


@dataclass(frozen=True, kw_only=True)
class MountLoad:
    """What one mount takes at the greatest force: N in the bike's axes, pressed and sheared,
    and N·mm that turn it across its screw.

    ``share`` of its limit and what fails there; None while no limit is known.
    """

    name: str
    at_mm: Vec3
    force_n: Vec3
    normal_n: float
    shear_n: float
    moment_nmm: float
    share: float | None
    fails: str
    casting: bool


@dataclass(frozen=True, kw_only=True)
class StrikePointResult:
    """One place from its own shape: mm, N, J. ``curve`` is (deflection, force), mounts included.

    ``form_mm``: the map's own deflection there, spread from the places around. ``dent_mm`` None:
    not known, ``dent_unknown`` says why. ``worst_mount_n`` and ``worst_in_plane_n``: the largest
    load of a mount, and the largest part of one along the sheet it holds. ``punch_share`` from
    1 on: the stone may go through. ``least_mm`` … ``most_mm``: the band of the deflection;
    ``mount_band``: the factor that loads of mounts may be wrong by.
    """

    place_mm: Vec3
    panel: str
    deflection_mm: float
    least_mm: float
    most_mm: float
    mount_band: float
    form_mm: float
    peak_force_n: float
    standoff_mm: float | None
    near: str
    touches_j: float | None
    past_share: float
    dent_mm: float | None
    dent_unknown: str
    left_mm: float | None
    punch_share: float
    worst_mount_n: float
    worst_in_plane_n: float
    curve: tuple[tuple[float, float], ...]
    loads: tuple[MountLoad, ...]


def _mount_loads(field: Field) -> tuple[MountLoad, ...]:
    found, struck = [], field.impact
    places = (*(m.at_mm for m in field.places.linear.mounts), *field.places.far.at_mm)
    for m, (at_mm, law) in enumerate(zip(places, field.places.judged, strict=True)):
        along, across = float(struck.normal_n[0, m]), float(struck.shear_n[0, m])
        moment = float(struck.moment_nmm[0, m])
        share = float(struck.share[0, m])
        x, y, z = (float(c) for c in struck.loads[0, m])
        found.append(
            MountLoad(
                name=law.name,
                at_mm=at_mm,
                force_n=(x, y, z),
                normal_n=along,
                shear_n=across,
                moment_nmm=moment,
                share=share if share > 0 else None,
                fails=law.fails(along, across, moment),
                casting=law.casting,
            )
        )
    return tuple(found)


def _findings(asked: StrikeMapInput, result: StrikePointResult) -> tuple[Finding, ...]:
    found = soft_in_plane(asked.mounts)
    found += may_punch(result.panel, asked.energy_j, result.punch_share, asked.contact_radius_mm)
    found += may_shatter(asked.plate.material, asked.temperature_c)
    if result.dent_unknown:
        found.append(finding("dent not known", result.dent_unknown))
    for load in result.loads:
        found += past_limit(load.name, load.share or 0.0, result.mount_band, load.fails, "The blow")
    laws = {law.name: law for law in asked.judged}
    for load in result.loads:
        law = laws.get(load.name)
        if law is not None and law.bottoms_at_mm is not None:
            at = law.bottoms_at_mm * law.stiffness_n_per_mm
            if load.normal_n > at:
                text = f"The isolator at {load.name} bottoms at {amount(at, 'N', 0)}."
                found.append(finding("bottoms under a strike", text, load.name))
        if law is not None and law.yields_at_n is not None and load.normal_n > law.yields_at_n:
            text = (
                f"The strip at {load.name} yields at "
                f"{amount(law.yields_at_n, 'N', 0)}, as it is meant to."
            )
            found.append(finding("strip yields", text, load.name))
    return tuple(found)


def _why_unknown(field: Field) -> str:
    """Why no dent is said; empty where one is."""
    if field.slides[0]:
        return "The sheet slides at its bolts: what stays of the blow cannot be said."
    if field.dent_at(0) is None:
        return "The sheet yields, but springs back by more than the form can tell: dent not known."
    return ""


def _curve(field: Field) -> tuple[tuple[float, float], ...]:
    """The way of the blow, sheet and mounts together, past its energy and to what is behind."""
    standoff = field.places.standoff_mm
    reach = np.where(np.isfinite(standoff), np.minimum(standoff, _FAR_ENOUGH_MM), 0.0)
    energy = np.array([field.energy_j * 1000 * _PAST])
    way = blow_way(field.forms, field.places, energy, reach)
    total, force = way.total_mm[0], way.sheet.force_n[0]
    at = total[-1] * np.linspace(0.0, 1.0, MANY) ** 1.3
    return tuple((float(w), float(f)) for w, f in zip(at, np.interp(at, total, force), strict=True))


def _result(asked: StrikeMapInput, spread: Field, field: Field) -> StrikePointResult:
    struck, standoff = field.impact, float(field.places.standoff_mm[0])
    known, touch = bool(np.isfinite(standoff)), float(struck.touch_j[0])
    node, deep, dent = int(field.nodes[0]), float(struck.total_mm[0]), field.dent_at(0)
    x, y, z = (float(c) for c in field.places.linear.mesh.nodes[node])
    loads, band = _mount_loads(field), float(field.forms.deflection_band[0])
    return StrikePointResult(
        place_mm=(x, y, z),
        panel=field.places.linear.mesh.panels[int(field.panel[0])].name,
        deflection_mm=deep,
        least_mm=deep * (1 - band),
        most_mm=deep * (1 + band),
        mount_band=float(field.forms.mount_band[0]),
        form_mm=float(spread.impact.total_mm[0]),
        peak_force_n=float(struck.force_n[0]),
        standoff_mm=standoff if known else None,
        near=asked.parts[int(field.near[0])].key if known else "",
        touches_j=touch if np.isfinite(touch) else None,
        past_share=float(struck.past_share[0]),
        dent_mm=dent,
        dent_unknown=_why_unknown(field),
        left_mm=standoff - dent if known and dent is not None else None,
        punch_share=float(field.punch_share[0]),
        worst_mount_n=max(math.hypot(*load.force_n) for load in loads),
        worst_in_plane_n=max(load.shear_n for load in loads),
        curve=_curve(field),
        loads=loads,
    )


@computation("strike-point", page="strike", check="edge_alu4_apron_top_15j")
def strike_point(given: StrikePointInput) -> Outcome[StrikePointResult]:
    """The answer at the struck node nearest to a place, from that place's own linear shape."""
    asked = given.asked
    spread, field = field_at(asked, given.x_mm, given.y_mm)
    result = _result(asked, spread, field)
    plastic = SHEET_MATERIALS[asked.plate.material].plastic
    return Outcome(
        result=result,
        inputs=(
            Input("Place, behind the front axle", result.place_mm[0], "mm"),
            Input("Place, to the right", result.place_mm[1], "mm"),
            Input("Energy", asked.energy_j, "J"),
            Input("Direction", asked.direction),
            Input("Radius of the stone", asked.contact_radius_mm, "mm"),
            Input("Deflection by the map, spread from places around", result.form_mm, "mm"),
        ),
        findings=_findings(asked, result),
        reasons=(
            "The shape of a small blow just there: what it would dissipate, how it stretches the "
            "sheet, how that pulls at the mounts. The map uses the same form and takes these from "
            "a quarter of its places: trust this one.",
            *(PLASTIC_LATER if plastic else ()),
        ),
        assumptions=(
            BANDS,
            "Quasi-static; no fracture, no friction. An estimate for comparing plates.",
            *(PLASTIC_FAST if plastic else ()),
        ),
        sources=(SHELL_SOURCE, FORM_SOURCE),
    )
