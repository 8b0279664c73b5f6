"""A dent run backwards: which energy leaves a dent of that depth at that place."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

import numpy as np

from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.result import Finding, Input, Outcome, finding
from rugged_shield.core.tables.materials import SHEET_MATERIALS
from rugged_shield.core.weighup.response import RESPONSE_SOURCE, Curve, deflection_at, dent_of
from rugged_shield.core.weighup.strike_map import Field, StrikeMapInput, field_of
from rugged_shield.core.weighup.strike_point import Along

DENT_BAND = 0.12
"""A dent is known to about this share of the greatest deflection."""
LEAST_J, MOST_J = 1.0, 2000.0
_GRID = 60


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


def _curve_at(field: Field, i: int) -> Curve:
    c = field.curve
    return Curve(
        c.k[i : i + 1],
        c.k3[i : i + 1],
        c.limit[i : i + 1],
        c.k_m[i : i + 1],
        c.k_s[i : i + 1],
        c.fixity[i : i + 1],
    )


def _unknown(given: DentInput, why: str) -> Outcome[DentResult]:
    found: tuple[Finding, ...] = (finding("energy of the dent not known", why),)
    return Outcome(
        result=DentResult(None, None, None),
        inputs=(Input("Depth", given.depth_mm, "mm"),),
        findings=found,
        reasons=(why,),
        sources=(RESPONSE_SOURCE,),
    )


def dent_energy(given: DentInput) -> Outcome[DentResult]:
    """Energies between which a dent of that depth was made, by the map's form.

    The dent grows with the energy; its band of 12 % of the greatest deflection gives the ends.
    Plastics spring back, and sheets that slide at their bolts tell nothing.
    """
    sheet = SHEET_MATERIALS[given.asked.plate.material]
    if sheet.plastic:
        return _unknown(given, "Plastic springs back: its dents say little about the energy.")
    linear, field = field_of(given.asked)
    places = linear.mesh.nodes[field.nodes]
    i = int(np.hypot(places[:, 0] - given.x_mm, places[:, 1] - given.y_mm).argmin())
    if field.slides[i]:
        return _unknown(given, "The sheet slides at its bolts: no dent tells the energy.")
    curve = _curve_at(field, i)
    given_way = field.places.mount_compliance[i : i + 1]
    energies = np.geomspace(LEAST_J, MOST_J, _GRID)
    deep = np.array([float(deflection_at(curve, given_way, e * 1000)[0]) for e in energies])
    dents = np.array([float(dent_of(curve, np.array([w]))[0]) for w in deep])
    band = DENT_BAND * deep

    def where(values: np.ndarray) -> float | None:
        if not values[0] <= given.depth_mm <= values[-1]:
            return None
        return float(np.interp(given.depth_mm, values, energies))

    rising = np.maximum.accumulate
    likely = where(rising(dents))
    if likely is None:
        return _unknown(given, f"No energy up to {MOST_J:g} J leaves a dent of that depth there.")
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
        sources=(RESPONSE_SOURCE,),
    )
