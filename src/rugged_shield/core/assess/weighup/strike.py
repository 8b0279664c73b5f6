"""Strikes on the plates of a job: the question for each, its map, and what the old scars say."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache

from rugged_shield.core.assess.fitup.assumed import compared
from rugged_shield.core.assess.fitup.pose import plate_pose
from rugged_shield.core.assess.weighup.mount_springs import mount_supports
from rugged_shield.core.errors import InputError
from rugged_shield.core.figures import figure, figure_of
from rugged_shield.core.job.model import Job, mounted
from rugged_shield.core.mechanics.frames import Vec3
from rugged_shield.core.result import Figure, Finding, Outcome, from_table
from rugged_shield.core.survey.found import Scar
from rugged_shield.core.survey.geometry import fold
from rugged_shield.core.tables.materials import ROOM_C
from rugged_shield.core.weighup.dent_back import DentInput, DentResult, dent_energy
from rugged_shield.core.weighup.strike_field import StrikeMapInput
from rugged_shield.core.weighup.strike_map import MapPoint, StrikeMapResult, strike_map

SCAR_REACH_MM = 60.0
"""Strikes of this rider fall about this far around the old scars (one standard deviation)."""


def strike_asked(
    job: Job,
    key: str,
    direction: str = "from below",
    energy_j: float | None = None,
    radius_mm: float | None = None,
    temperature_c: float = ROOM_C,
) -> StrikeMapInput:
    """The question for one plate of the job; energy and stone are those of the rider's use."""
    candidate = compared(job, key)
    supports = mount_supports(candidate.plate, mounted(job.bike, candidate))
    return StrikeMapInput(
        plate=candidate.plate,
        mounts=supports.mounts,
        parts=tuple(p for p in job.bike.parts if p.kind != "low"),
        direction=direction,  # type: ignore[arg-type]
        energy_j=job.use.energy_j if energy_j is None else energy_j,
        contact_radius_mm=job.use.stone_radius_mm if radius_mm is None else radius_mm,
        laws=supports.laws,
        far=supports.far,
        pose=plate_pose(job.bike, candidate).pose,
        temperature_c=temperature_c,
    )


@lru_cache(maxsize=48)
def strike_of(asked: StrikeMapInput) -> Outcome[StrikeMapResult]:
    """The map, remembered: nine plates are looked at again and again."""
    return strike_map(asked)


@dataclass(frozen=True)
class ScarSaid:
    """One scar of the old plate: where on the bike, and the energies that leave its dent."""

    scar: Scar
    place_mm: Vec3
    energy: Outcome[DentResult] | None
    why_not: str


def scars_said(job: Job) -> tuple[ScarSaid, ...]:
    """Every scar in the bike's frame; a dent with the energy band that its depth means."""
    panels = {p.name: p for p in fold(job.stock.plate).panels}
    found = []
    for scar in job.scars:
        place = panels[scar.panel].to_bike((scar.u_mm, scar.v_mm))
        energy, why = None, ""
        if scar.kind == "dent" and scar.depth_mm > 0:
            try:
                asked = strike_asked(job, job.stock.key)
                energy = dent_energy(DentInput(asked, place[0], place[1], scar.depth_mm))
            except InputError as error:
                why = error.message
        found.append(ScarSaid(scar, place, energy, why))
    return tuple(found)


def scar_weight(point: MapPoint, scars: tuple[ScarSaid, ...]) -> float:
    """How often this rider strikes there, by the old scars: 1 on a scar, falling off around it."""
    near = (
        math.hypot(point.place_mm[0] - s.place_mm[0], point.place_mm[1] - s.place_mm[1])
        for s in scars
    )
    return sum(math.exp(-((d / SCAR_REACH_MM) ** 2) / 2) for d in near)


def _where_struck(outcome: Outcome[StrikeMapResult], scars: tuple[ScarSaid, ...]) -> float | None:
    """Energy that reaches something where this rider strikes: the weighted harmonic mean."""
    total = load = 0.0
    for point in outcome.result.points:
        weight = scar_weight(point, scars)
        if point.touches_j and weight > 1e-3:
            total += weight
            load += weight / point.touches_j
    return total / load if load else None


_SAID = {
    "deepest": ("Gives at most", "mm"),
    "touch": ("Reaches something at", "J"),
    "scars": ("The same where you strike", "J"),
    "dent": ("Dent left at most", "mm"),
    "mount": ("Worst mount, of its limit", "%"),
    "casting": ("Worst mount on a casting", "%"),
    "punch": ("Stone, of what punches through", "%"),
}
"""What a strike map says in the table: label and unit."""


def _values(
    outcome: Outcome[StrikeMapResult], scars: tuple[ScarSaid, ...], names: dict[str, str]
) -> dict[str, tuple[float | None, str]]:
    """Each value with its reason; None where it is not known."""
    result = outcome.result
    worst = max(result.points, key=lambda p: p.worst_share or 0.0)
    casting = max((p.casting_share or 0.0 for p in result.points), default=0.0)
    pierced = max(result.points, key=lambda p: p.punch_share)
    unsaid = sum(p.dent_mm is None for p in result.points)
    dents = [p.dent_mm for p in result.points if p.dent_mm is not None]
    first = names.get(result.first_touch, "nothing")
    by_scars = f"Weighted by {len(scars)} scars of the old plate."
    return {
        "deepest": (result.deepest_mm, f"Deepest of {len(result.points)} struck places."),
        "touch": (result.first_touch_j, f"It reaches the {first} first."),
        "scars": (
            _where_struck(outcome, scars),
            by_scars if scars else "The old plate shows no scars.",
        ),
        "dent": (
            max(dents) if dents else None,
            "Deepest dent after unloading: metal within 30 %, plastic within a half."
            + (f" At {unsaid} places it cannot be said." if unsaid else ""),
        ),
        "mount": (
            None if worst.worst_share is None else 100 * worst.worst_share,
            f"{worst.worst_mount}: {worst.fails}.",
        ),
        "casting": (
            100 * casting,
            "A stiff boss takes little energy even when it breaks: look at its load.",
        ),
        "punch": (
            100 * pierced.punch_share,
            f"Worst on the {pierced.panel}: force over what the sheet bears around the stone, or "
            "its strain over what the metal bears. Not verified by test.",
        ),
    }


def strike_figures(
    job: Job, key: str, direction: str = "from below", energy_j: float | None = None
) -> tuple[Figure, ...]:
    """What one plate's map says in the table: deepest, first touch, worst mount, castings, scars.

    Raises InputError where the plate has no map: too few mounts, or a mount off the sheet.
    """
    outcome = strike_of(strike_asked(job, key, direction, energy_j))
    values = _values(outcome, scars_said(job), {p.key: p.name for p in job.bike.parts})
    return tuple(
        figure_of(
            outcome,
            f"strike:{name}",
            _SAID[name][0],
            value,
            _SAID[name][1],
            reasons=(why,),
            judged=False,
        )
        for name, (value, why) in values.items()
    )


def no_map(why: str) -> tuple[Figure, ...]:
    """The same rows for a plate that has no map, each saying why."""
    return tuple(
        figure(f"strike:{name}", label, None, unit, text="no map", reasons=(why,))
        for name, (label, unit) in _SAID.items()
    )


@dataclass(frozen=True)
class StruckPlate:
    """One plate struck: its rows in the table, and what its map found."""

    key: str
    figures: tuple[Figure, ...]
    findings: tuple[Finding, ...]


def strike_found(job: Job, key: str, direction: str, energy_j: float | None = None) -> StruckPlate:
    """A plate's map as figures and findings; why it has none as a finding of its own."""
    try:
        outcome = strike_of(strike_asked(job, key, direction, energy_j))
        figures = strike_figures(job, key, direction, energy_j)
    except InputError as error:
        none = from_table("no map of strikes", key, why=error.message.rstrip("."))
        return StruckPlate(key, no_map(error.message), (none,))
    return StruckPlate(key, figures, outcome.findings)


def struck_plates(
    job: Job, direction: str, energy_j: float
) -> Iterator[tuple[str, StruckPlate | None]]:
    """Every plate of the job struck, step by step: what comes next, then what it found."""
    for candidate in (job.stock, *job.candidates):
        yield f"striking the {candidate.plate.name}", None
        found = strike_found(job, candidate.key, direction, energy_j)
        yield f"struck the {candidate.plate.name}", found
