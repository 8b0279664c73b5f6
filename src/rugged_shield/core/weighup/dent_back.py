"""A dent run backwards: which energy leaves a dent of that depth at that place."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

import numpy as np

from rugged_shield.core.amounts import entered
from rugged_shield.core.computation import computation
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.result import Finding, Input, Outcome, finding
from rugged_shield.core.tables.materials import SHEET_MATERIALS
from rugged_shield.core.weighup.impact import blow_way
from rugged_shield.core.weighup.place_form import FORM_SOURCE
from rugged_shield.core.weighup.place_form import dents as dents_of
from rugged_shield.core.weighup.strike_field import StrikeMapInput, field_at
from rugged_shield.core.weighup.strike_point import Along

DENT_BAND = 0.12
"""A dent is known to about this share of the greatest deflection."""
LEAST_J, MOST_J = 1.0, 2000.0


@dataclass(frozen=True)
class DentInput(Ranged):
    """The dented plate on its mounts, the dent's place on the bike, and its depth, mm."""

    asked: StrikeMapInput
    x_mm: Along
    y_mm: Along
    depth_mm: Annotated[float, Range(0.1, 80.0, "mm")]


@dataclass(frozen=True)
class DentResult:
    """Energies J that leave such a dent: least, likely, most; None each when not known."""

    least_j: float | None
    likely_j: float | None
    most_j: float | None


def _unknown(given: DentInput, why: str) -> Outcome[DentResult]:
    found: tuple[Finding, ...] = (finding("energy of the dent not known", why),)
    return Outcome(
        result=DentResult(None, None, None),
        inputs=(Input("Depth", given.depth_mm, "mm"),),
        findings=found,
        reasons=(why,),
        sources=(FORM_SOURCE,),
    )


@computation(
    "dent-energy",
    page="strike",
    check="test_a_dent_leads_back_to_its_energy",
)
def dent_energy(given: DentInput) -> Outcome[DentResult]:
    """Energies between which a dent of that depth was made, by the map's form.

    The dent grows with the energy; its band of 12 % of the greatest deflection gives the ends.
    Plastics spring back, and sheets that slide at their bolts tell nothing.
    """
    sheet = SHEET_MATERIALS[given.asked.plate.material]
    if sheet.plastic:
        return _unknown(given, "Plastic springs back: its dents say little about the energy.")
    _, field = field_at(given.asked, given.x_mm, given.y_mm)
    if field.slides[0]:
        return _unknown(given, "The sheet slides at its bolts: no dent tells the energy.")
    way = blow_way(field.forms, field.places, np.array([MOST_J * 1000]), np.zeros(1))
    energies, deep = way.work_nmm[0] / 1000, way.total_mm[0]
    places = field.forms.at(np.zeros(len(energies), dtype=np.int64))
    at = way.sheet
    dents = dents_of(places.form, at.sheet_mm[0], at.force_n[0], at.stretch_mm2[0])
    # Where the form cannot tell, the dent is at least what stayed at a lesser energy.
    dents = np.fmax.accumulate(np.where(np.isnan(dents), 0.0, dents))
    band = DENT_BAND * deep

    def where(values: np.ndarray) -> float | None:
        if not values[0] <= given.depth_mm <= values[-1]:
            return None
        return float(np.interp(given.depth_mm, values, energies))

    rising = np.maximum.accumulate
    likely = where(rising(dents))
    if likely is None:
        return _unknown(
            given, f"No energy up to {entered(MOST_J, 'J')} leaves a dent of that depth there."
        )
    result = DentResult(
        where(rising(dents + band)) or LEAST_J, likely, where(rising(dents - band)) or MOST_J
    )
    return Outcome(
        result=result,
        inputs=(
            Input("Depth", given.depth_mm, "mm"),
            Input("Plate", given.asked.plate.name),
            Input("Thickness", given.asked.plate.thickness_mm, "mm"),
            Input("Radius of the stone", given.asked.contact_radius_mm, "mm"),
        ),
        reasons=("The energy at which unloading would leave just this dent.",),
        assumptions=("One blow made it; the stone was as wide as assumed.",),
        sources=(FORM_SOURCE,),
    )
