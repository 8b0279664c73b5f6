"""How well a plate protects: what it shields, and how much of it bears the rider's strike."""

from __future__ import annotations

from contextlib import suppress
from dataclasses import dataclass, replace
from functools import lru_cache

from rugged_shield.core.amounts import amount, percent
from rugged_shield.core.assess.weighup.scorecard import Weighed, weigh
from rugged_shield.core.assess.weighup.strike import StruckPlate, strike_asked, strike_found
from rugged_shield.core.errors import InputError
from rugged_shield.core.figures import figure
from rugged_shield.core.job.model import Job
from rugged_shield.core.remembered import Beside
from rugged_shield.core.result import Figure, Finding, Input, from_table
from rugged_shield.core.shell.solve import SHELL_SOURCE
from rugged_shield.core.tables.materials import ROOM_C, SHEET_MATERIALS, WINTER_C
from rugged_shield.core.tables.profiles import PROFILE_SOURCE, PROFILES
from rugged_shield.core.weighup.place_form import FORM_SOURCE
from rugged_shield.core.weighup.strike_field import StrikeMapInput, Struck
from rugged_shield.core.weighup.strike_map import may_shatter
from rugged_shield.core.weighup.withstood import (
    COARSE_MESH_MM,
    Factors,
    Gives,
    GivesWay,
    gives_way,
    held_bounds,
    held_share,
    sheet_gives,
    sheet_struck,
)

SAID_SHARE = 0.05
"""A way that the sheet gives over less of itself is a corner's; the map shows it."""
PROTECTED, LABEL = "protected", "Shielded and held"


@dataclass(frozen=True)
class _Side:
    """One direction of the profile: how much of the strikes come so, and the question."""

    share: float
    asked: StrikeMapInput


def sheet_temperature_c(weighed: Weighed) -> float:
    """How warm the sheet is when it is struck on a warm ride, °C, as far as a strike knows it."""
    warm = weighed.figures["heat_moving"].value
    return ROOM_C if warm is None else min(max(ROOM_C, round(warm)), 80.0)


def _sides(job: Job, weighed: Weighed) -> tuple[_Side, ...]:
    """Every direction that stones come from in this riding. A metal is as stiff warm as cold."""
    material = SHEET_MATERIALS[job.as_entered(weighed.key).plate.material]
    celsius = sheet_temperature_c(weighed) if material.plastic else ROOM_C
    return tuple(
        _Side(
            share,
            replace(
                strike_asked(job, weighed.key, direction, temperature_c=celsius),
                mesh_mm=COARSE_MESH_MM,
            ),
        )
        for direction, share in PROFILES[job.use.profile].shares.items()
        if share > 0.0
    )


def _strucks(sides: tuple[_Side, ...]) -> tuple[Struck, ...]:
    return tuple(sheet_struck(side.asked) for side in sides)


def _struck_sides(sides: tuple[_Side, ...]) -> list[tuple[_Side, Gives]]:
    """The sides that some panel looks toward, with how the sheet gives there.

    Raises InputError where the plate has no map, or is struck from nowhere.
    """
    found = [
        (side, of)
        for side, of in zip(sides, sheet_gives(_strucks(sides)), strict=True)
        if of is not None
    ]
    if not found:
        raise InputError("direction", "", "a plate that is struck", "no panel of it is struck")
    return found


def protected_bounds(job: Job, weighed: Weighed, thicker_mm: float) -> tuple[float, float]:
    """Least and most share, 0 to 1, that a plate's sheet could hold, so much thicker.

    Raises InputError where the plate has no map.
    """
    found = _struck_sides(_sides(job, weighed))
    both = [(s.share, *held_bounds(s.asked, of, thicker_mm)) for s, of in found]
    whole = sum(share for share, _, _ in both)
    return sum(w * low for w, low, _ in both) / whole, sum(w * high for w, _, high in both) / whole


def solve_beside(job: Job, keys: tuple[str, ...], beside: Beside) -> None:
    """Solves the shells of these plates side by side, so that they are known here.

    A plate that has no map is left: it says so when it is asked.
    """
    asked: list[tuple[Struck, ...]] = []
    for key in keys:
        with suppress(InputError):
            asked.append(_strucks(_sides(job, weigh(job, key))))
    sheet_gives.know(asked, beside)


def to_strike(job: Job) -> tuple[str, ...]:
    """Plates whose strikes the ranking asks for and that are not worked out yet."""
    keys = []
    for candidate in job.candidates:
        with suppress(InputError):
            if _strucks(_sides(job, weigh(job, candidate.key))) not in sheet_gives:
                keys.append(candidate.key)
    return tuple(keys)


@dataclass(frozen=True)
class _Held:
    """How much of the struck sheet holds: by side (share of strikes, direction, held), 0 to 1.

    ``least`` and ``most`` of it over all sides, within the band of the strike's form.
    """

    by_side: tuple[tuple[float, str, float], ...]
    least: float
    most: float


@lru_cache(maxsize=64)
def _held(sides: tuple[_Side, ...]) -> _Held:
    """Raises InputError where the plate has no map."""
    found = _struck_sides(sides)
    whole = sum(side.share for side, _ in found)

    def of_all(more: int) -> float:
        shares = (s.share * held_share(s.asked, of, _wrong_by(of, more)) for s, of in found)
        return sum(shares) / whole

    by_side = tuple((s.share, s.asked.direction, held_share(s.asked, of)) for s, of in found)
    return _Held(by_side, of_all(1), of_all(-1))


def protection(job: Job, weighed: Weighed) -> Figure:
    """Share of the vitals shielded by sheet that bears the rider's energy, %.

    The shielded share over the profile's directions, times the share of the struck sheet that
    reaches nothing behind it, is not punched through and overloads no mount, over the same
    directions; not known where the plate has no map.
    """
    cover = weighed.figures["coverage"]
    try:
        sides = _sides(job, weighed)
        held = _held(sides)
    except InputError as error:
        return figure(PROTECTED, LABEL, None, "%", reasons=(error.message,))
    return _protected(cover, held.by_side, sides[0].asked.energy_j)


@lru_cache(maxsize=256)
def _protected(cover: Figure, sides: tuple[tuple[float, str, float], ...], energy: float) -> Figure:
    if cover.value is None:
        return replace(cover, key=PROTECTED, label=LABEL)
    held = sum(share * holds for share, _, holds in sides) / sum(share for share, _, _ in sides)
    return figure(
        PROTECTED,
        LABEL,
        cover.value * held,
        "%",
        inputs=(
            Input(cover.label, round(cover.value), "%"),
            Input("Of its sheet, holds", round(100 * held), "%"),
            Input("Energy", energy, "J"),
            *(Input(f"Holds {d}", round(100 * holds), "%") for _, d, holds in sides),
        ),
        reasons=(
            "What is shielded, times the share of the struck sheet that holds: it reaches nothing "
            "behind, is not punched through, and overloads no mount; each direction by how often "
            "stones come so.",
        ),
        assumptions=("A plastic sheet is as warm as it gets on a warm ride.",),
        sources=(SHELL_SOURCE, FORM_SOURCE, PROFILE_SOURCE),
    )


def _ways(of: GivesWay) -> str:
    """How it gives way, gravest first, each with its share of the struck sheet."""
    ways = (
        (of.punched, "the stone goes through"),
        (of.reaches, f"it reaches the {of.part}"),
        (of.overloads, f"it overloads {of.mount} first"),
        (of.folds, "it folds away"),
    )
    return "; ".join(f"over {percent(share)} {how}" for share, how in ways if share >= SAID_SHARE)


def sides_findings(job: Job, weighed: Weighed, but: str) -> tuple[Finding, ...]:
    """What gives way struck from every direction of this riding but the one that is mapped.

    By the coarse shell that *protection* rests on; nothing where the plate has no map.
    """
    try:
        sides = _struck_sides(_sides(job, weighed))
    except InputError:
        return ()
    found = []
    for side, of in sides:
        asked = side.asked
        if asked.direction == but:
            continue
        given_way = gives_way(asked, of)
        ways = _ways(given_way)
        if not ways:
            continue
        found.append(
            from_table(
                "gives way from a side",
                weighed.key,
                way=asked.direction,
                energy=amount(asked.energy_j, "J", 0),
                share=percent(given_way.share),
                ways=ways,
            )
        )
    return tuple(found)


def struck_all_round(job: Job, key: str, mapped: str) -> StruckPlate:
    """A plate's map from one direction, and what gives way from every other of this riding.

    A plastic that cracks in winter says so, whichever side is struck and whether it has a map.
    """
    struck = strike_found(job, key, mapped)
    cold = may_shatter(job.as_entered(key).plate.material, WINTER_C)
    others = (*sides_findings(job, weigh(job, key), mapped), *cold)
    return replace(struck, findings=tuple(dict.fromkeys((*struck.findings, *others))))


def _wrong_by(of: Gives, more: int) -> Factors:
    """What a side does at an end of its band: 1 for all of it, −1 for the other end."""
    return Factors(
        gives=1 + more * of.deflection_band,
        force=of.mount_band**more,
        punch=1 + more * of.force_band,
    )


def protected_within(job: Job, weighed: Weighed) -> tuple[float, float] | None:
    """Least and most of the same within the band of the strike's form; None: not known."""
    cover = weighed.figures["coverage"].value
    try:
        held = _held(_sides(job, weighed))
    except InputError:
        return None
    return None if cover is None else (cover * held.least, cover * held.most)


def figures_of(job: Job, weighed: Weighed) -> dict[str, Figure]:
    """Everything weighed of a plate, and how well it protects, which takes a strike more."""
    return {**weighed.figures, PROTECTED: protection(job, weighed)}
