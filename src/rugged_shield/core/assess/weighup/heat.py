"""How warm a plate gets behind each hot part, standing and moving, and the air it takes."""

from __future__ import annotations

import itertools
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Any

import numpy as np
from shapely import MultiPoint

from rugged_shield.core.amounts import amount
from rugged_shield.core.assess.fitup.pose import PlatePose
from rugged_shield.core.figures import figure, figure_of
from rugged_shield.core.judgement.known import band_of
from rugged_shield.core.result import (
    Figure,
    Finding,
    FindingCode,
    Input,
    Outcome,
    finding,
    from_table,
)
from rugged_shield.core.survey.bike import Bike, Part
from rugged_shield.core.survey.geometry import FoldedPlate
from rugged_shield.core.survey.panels import Panel
from rugged_shield.core.survey.plate import Plate
from rugged_shield.core.survey.standoff import Standoff, box_of, standoffs
from rugged_shield.core.tables.materials import SHEET_MATERIALS, SheetMaterial
from rugged_shield.core.weighup.airflow import AIR_SOURCE, air_of
from rugged_shield.core.weighup.heat import (
    FAR_K,
    HEAT_SOURCE,
    MARGIN_K,
    MOVING_M_PER_S,
    ZERO_C_K,
    HeatInput,
    HeatResult,
    band_k,
    heat,
    plate_temperature_k,
)

LOADED_HOTTER_K = {"pipe": 90.0, "catalyst": 130.0, "sump": 10.0}
"""How much hotter a part is under load than idling, K: header, catalyst box, sump."""
SOAK = "after a stop"
STATES = {"idling": "heat_idling", "moving": "heat_moving", SOAK: "heat_stopped"}
"""Each state with the key of its figure. After a stop a part is as hot as under load, and no air
moves past the sheet."""
FOIL = 0.1
FARTHEST_MM, SMALLEST_MM2 = 400.0, 100.0


@dataclass(frozen=True)
class HeatExposure:
    """The sheet opposite one part in one state; ``plastic``: there is plastic at that panel."""

    part: Part
    gap_mm: float
    state: str
    given: HeatInput
    temperature_c: float
    plastic: bool

    @property
    def outcome(self) -> Outcome[HeatResult]:
        """The whole answer; its least gap takes longer than the temperature."""
        return _solved(self.given)

    @property
    def is_close(self) -> bool:
        """Whether the band reaches what the material bears, less its margin."""
        left = self.given.service_limit_c - MARGIN_K - self.temperature_c
        return left < FAR_K and left < band_k(self.given)


PLASTIC_NEAR_MM = 80.0
"""Within this an exhaust of 420 °C warms a sheet of plastic past what it bears in some state."""


def _slider_at(plate: Plate, panel: Panel) -> SheetMaterial | None:
    """The plastic under this panel, where it has one: a slider lies under the belly alone."""
    under = panel.name == "belly" and not panel.piece and plate.slider_material
    return SHEET_MATERIALS[plate.slider_material] if under else None


def _layers(plate: Plate, panel: Panel) -> dict[str, Any]:
    """What the heat meets at one panel: its faces, what it has to pass, and what that bears.

    A metal sheet is as warm on both faces; the slider under it is judged where it touches it.
    """
    sheet, slider = SHEET_MATERIALS[panel.material], _slider_at(plate, panel)
    if slider is None:
        return {
            "service_limit_c": sheet.max_service_c,
            "plate_emissivity": sheet.emissivity,
            "thickness_mm": panel.thickness_mm,
            "conductivity_w_per_mk": sheet.conductivity_w_per_mk,
            "what": f"{panel.material} sheet",
        }
    thick = plate.slider_thickness_mm or 0.0
    through = (
        panel.thickness_mm / sheet.conductivity_w_per_mk + thick / slider.conductivity_w_per_mk
    )
    total = panel.thickness_mm + thick
    return {
        "service_limit_c": min(sheet.max_service_c, slider.max_service_c),
        "plate_emissivity": sheet.emissivity,
        "outer_emissivity": slider.emissivity,
        "thickness_mm": total,
        "conductivity_w_per_mk": total / through,
        "what": f"{plate.slider_material} slider",
    }


@lru_cache(maxsize=4096)
def _facing_mm2(part: Part, panel: Panel) -> float:
    """Area of the part that stands opposite the panel: its shadow on the panel's plane, mm²."""
    corners = np.array(list(itertools.product(*zip(*box_of(part), strict=True))))
    uv = (corners - np.array(panel.origin)) @ np.array([panel.u, panel.v]).T
    return float(MultiPoint(uv).convex_hull.intersection(panel.outline).area)


def _given(plate: Plate, part: Part, gap_mm: float, panel: Panel, state: str) -> HeatInput | None:
    """The balance to solve for one part and state; None where it is too far or not opposite."""
    moving, loaded = state == "moving", state != "idling"
    facing = _facing_mm2(part, panel)
    surface = (part.surface_c or 0.0) + (LOADED_HOTTER_K.get(part.shape, 0.0) if loaded else 0.0)
    if gap_mm > FARTHEST_MM or facing < SMALLEST_MM2 or surface <= 25.0:
        return None
    length = plate.belly.length_mm + (plate.apron.slope_height_mm if plate.apron else 0.0)
    return HeatInput(
        hot_surface_c=surface,
        gap_mm=max(gap_mm, 0.5),
        facing_area_mm2=min(facing, 1e6),
        speed_m_per_s=MOVING_M_PER_S if moving else 0.0,
        plate_length_mm=min(max(length, 50.0), 2000.0),
        shield_emissivity=FOIL if plate.heat_foil else None,
        hot_surface_u_k=band_of(part, "surface_c"),
        gap_u_mm=min(band_of(part, "z_min_mm"), 200.0),
        **_layers(plate, panel),
    )


@lru_cache(maxsize=4096)
def _solved(given: HeatInput) -> Outcome[HeatResult]:
    return heat(given)


@lru_cache(maxsize=4096)
def _temperature_c(given: HeatInput) -> float:
    return plate_temperature_k(given) - ZERO_C_K


def heat_exposures(bike: Bike, plate: Plate, posed: PlatePose) -> tuple[HeatExposure, ...]:
    """Every hot part near the plate, in every state."""
    parts = {p.key: p for p in bike.parts}
    gaps = (*posed.standoffs, *posed.hot_low_gaps)
    hot = tuple((parts[g.part], g) for g in gaps if parts[g.part].surface_c is not None)
    return _exposed(hot, plate, posed.folded)


@lru_cache(maxsize=512)
def _exposed(
    hot: tuple[tuple[Part, Standoff], ...], plate: Plate, folded: FoldedPlate
) -> tuple[HeatExposure, ...]:
    """The same for the hot parts alone, each with its standoff."""
    found = []
    for part, gap in hot:
        for panel, distance_mm in _panels_before(part, gap, plate, folded):
            plastic = SHEET_MATERIALS[panel.material].plastic or bool(_slider_at(plate, panel))
            for state in STATES:
                given = _given(plate, part, distance_mm, panel, state)
                if given is not None:
                    warm = _temperature_c(given)
                    found.append(HeatExposure(part, distance_mm, state, given, warm, plastic))
    return tuple(found)


def _panels_before(
    part: Part, gap: Standoff, plate: Plate, folded: FoldedPlate
) -> list[tuple[Panel, float]]:
    """The nearest panel; the one over a slider too, which bears less than a nearer bare one."""
    near = folded.panel(gap.panel)
    panels = [] if near is None else [(near, gap.distance_mm)]
    for panel in folded.panels:
        if panel is not near and _slider_at(plate, panel):
            alone = standoffs(replace(folded, panels=(panel,)), (part,))
            panels.append((panel, alone[0].distance_mm))
    return panels


def _findings(plate: Plate, own: list[HeatExposure]) -> tuple[Finding, ...]:
    """Plastic that gets too hot will not do; metal, and what the bike came with, ages.

    Of metal only the warmest place is said.
    """
    own = sorted(own, key=lambda w: -w.temperature_c)
    metal = [w for w in own if not w.plastic and w.state != SOAK]
    out = []
    for place in [*(w for w in own if w.plastic), *metal[:1]]:
        for f in place.outcome.findings if place.is_close else ():
            text = f"Beside {place.part.name}, {place.state}: {f.text}"
            out.append(finding(_code(plate, place, f.code), text, place.part.key))
    return tuple(out)


def _code(plate: Plate, place: HeatExposure, code: FindingCode) -> FindingCode:
    """What a place's heat is called: metal and what the bike came with age.

    A soak lasts minutes and is reckoned as if it lasted: it is minded, and blocks nothing.
    """
    if not place.plastic or plate.role == "stock":
        return "ages in the heat"
    return "warm after a stop" if place.state == SOAK else code


def _with_foil(worst: HeatExposure) -> float:
    given = replace(worst.given, shield_emissivity=FOIL)
    return _temperature_c(given)


def _nothing_hot(key: str, label: str, unit: str) -> Figure:
    return figure(
        key,
        label,
        None,
        unit,
        none="nothing hot near",
        sources=(HEAT_SOURCE,),
        inputs=(Input("Hot parts within 400 mm", 0),),
        reasons=("No part opposite the plate and within 400 mm is hot then.",),
    )


def heat_figures(plate: Plate, all_of: tuple[HeatExposure, ...]) -> list[Figure]:
    """Warmest place in every state, and the gap to the part that makes it."""
    figures = []
    for state, key in STATES.items():
        own = [w for w in all_of if w.state == state]
        if not own:
            figures.append(_nothing_hot(key, f"Warmest, {state}", "°C"))
            continue
        worst = max(own, key=lambda w: w.temperature_c)
        found = _findings(plate, own)
        inputs = tuple(
            Input(
                f"At {w.part.name}, {amount(w.gap_mm, 'mm', 0)} off", round(w.temperature_c), "°C"
            )
            for w in own
        )
        shown = figure_of(
            replace(worst.outcome, findings=found),
            key,
            f"Warmest, {state}",
            worst.temperature_c,
            "°C",
            inputs=inputs,
        )
        figures.append(shown)
    if not all_of:
        return [*figures, _nothing_hot("heat_gap", "Heat gap", "mm")]
    least = max((w for w in all_of if w.state != SOAK), key=lambda w: w.temperature_c)
    needs = least.outcome.result.least_gap_mm
    figures.append(
        figure(
            "heat_gap",
            "Heat gap",
            least.gap_mm,
            "mm",
            inputs=(
                Input("To", least.part.name),
                Input("State", least.state),
                Input(
                    "Least gap that would do",
                    needs if needs is not None else "none up to 500",
                    "mm" if needs is not None else "",
                ),
                Input("With one reflective sheet between", round(_with_foil(least)), "°C"),
            ),
            reasons=("Free distance to the part that makes the warmest place.",),
            assumptions=least.outcome.assumptions,
            sources=(HEAT_SOURCE,),
        )
    )
    return figures


@dataclass(frozen=True)
class HeatJudged:
    """The gravest thing that heat does to a plate, None when nothing; and what would clear it."""

    gravest: Finding | None
    clears: str


def heat_judged(plate: Plate, all_of: tuple[HeatExposure, ...]) -> HeatJudged:
    """What the heat gate says: the gravest place of both states, and the ways out."""
    found = [(f, w) for w in all_of for f in _findings(plate, [w])]
    if not found:
        return HeatJudged(None, "")
    gravest, where = min(found, key=lambda p: (p[0].verdict != "blocked", -p[1].temperature_c))
    needs = where.outcome.result.least_gap_mm
    ways = [f"a gap of {amount(needs, 'mm', 0)}"] if needs is not None else []
    if not plate.heat_foil:
        ways.append(f"a reflective sheet between (then about {amount(_with_foil(where), '°C', 0)})")
    ways.append("a measured temperature of the sheet there that says otherwise")
    return HeatJudged(gravest, ", or ".join(ways))


def heat_not_known(bike: Bike, plate: Plate, posed: PlatePose) -> tuple[Finding, ...]:
    """Exhaust beside plastic whose temperature nobody entered: it may be anything."""
    parts = {p.key: p for p in bike.parts}
    found = []
    for gap in (*posed.standoffs, *posed.hot_low_gaps):
        part = parts[gap.part]
        if not part.is_exhaust or part.surface_c is not None:
            continue
        near = [
            distance
            for panel, distance in _panels_before(part, gap, plate, posed.folded)
            if SHEET_MATERIALS[panel.material].plastic or _slider_at(plate, panel)
        ]
        if near and min(near) < PLASTIC_NEAR_MM:
            gap_words = amount(min(near), "mm", 0)
            found.append(from_table("heat not known", part.key, gap=gap_words, part=part.name))
    return tuple(found)


def air_figure(bike: Bike, posed: PlatePose) -> Figure:
    """Share of the vitals' front that the plate hides from the wind."""
    if not bike.vitals():
        why = ("No part of the bike is entered as vital: there is no front to hide.",)
        return figure("air", "Air taken from ahead", None, "%", reasons=why)
    result = air_of(posed.folded, bike.vitals())
    return figure(
        "air",
        "Air taken from ahead",
        100 * result.share,
        "%",
        inputs=(
            Input("Front of the vitals", round(result.front_mm2), "mm²"),
            Input("Behind the plate", round(result.hidden_mm2), "mm²"),
            Input("Openings seen from ahead", round(result.vents_mm2), "mm²"),
        ),
        reasons=("Area behind the plate over the area of all vitals, seen level from ahead.",),
        assumptions=("Straight wind; wheel and mudguard are not in it.",),
        sources=(AIR_SOURCE,),
    )
