"""Coverage of one plate from every direction and for a profile's mix, as figures."""

from __future__ import annotations

from functools import lru_cache

from rugged_shield.core.amounts import percent
from rugged_shield.core.figures import capital, figure
from rugged_shield.core.result import Figure, Finding, Input, finding, from_table
from rugged_shield.core.survey.bike import Part
from rugged_shield.core.survey.geometry import FoldedPlate
from rugged_shield.core.tables.profiles import PROFILE_SOURCE, PROFILES
from rugged_shield.core.weighup.coverage import (
    COVERAGE_SOURCE,
    DIRECTIONS,
    FIRST_DIRECTIONS,
    CoverageResult,
    Vital,
    VitalCoverage,
    coverage_by_stone,
    vital_of,
    weighted_share,
)

BARE_SHARE = 0.5
LEAST_SHARE = {5: 0.75, 4: 0.5, 3: 0.25}
"""Below this a vital counts as bare, by what its loss costs (1 to 5); own estimate."""
NO_SHARE = 0.02
"""No sheet stands before it, but for a ray along an edge."""
GRAVE = 4
STONE_MM = 20.0
MIX = "the profile's mix"
_ASSUMED = ("Vitals are boxes; nothing but the plate shields.",)


@lru_cache(maxsize=2048)
def _cover_box(box: Vital, folded: FoldedPlate, stone_mm: float) -> CoverageResult:
    """One vital from every direction, remembered: vitals do not shield each other."""
    return coverage_by_stone((box,), folded, tuple(DIRECTIONS), (stone_mm,))[0]


def cover(parts: tuple[Part, ...], folded: FoldedPlate, stone_mm: float = 0.0) -> CoverageResult:
    """All vitals from all directions, for a stone of that radius (0: however small)."""
    single = [_cover_box(vital_of(part), folded, stone_mm) for part in parts]
    shares: list[VitalCoverage] = []
    weighted: dict[str, float] = {}
    for i, direction in enumerate(DIRECTIONS):
        own = tuple(each.shares[i] for each in single)
        shares += own
        weighted[direction] = weighted_share(parts, own)
    return CoverageResult(tuple(shares), weighted, sum(s.rays for s in shares))


@lru_cache(maxsize=4096)
def _vital_figure(part: Part, own: VitalCoverage, found: tuple[Finding, ...]) -> Figure:
    share = own.share or 0.0
    return figure(
        f"cover:{own.direction}:{own.vital}",
        part.name,
        share * 100,
        "%",
        findings=found,
        inputs=(Input("Rays", own.rays), Input("Direction", own.direction)),
        reasons=(
            "Share of its face toward the stone that is shielded, for a stone however small; "
            "Bare parts shows it for a larger one, which open cutouts may stop.",
        ),
        assumptions=_ASSUMED,
        sources=(COVERAGE_SOURCE,),
    )


def mixed(result: CoverageResult, profile: str) -> tuple[float, dict[str, float]]:
    """Share shielded over a profile's mix of directions: of all vitals, and of each."""
    shares = PROFILES[profile].shares
    by_vital: dict[str, float] = {}
    for s in result.shares:
        by_vital[s.vital] = by_vital.get(s.vital, 0.0) + shares[s.direction] * (s.share or 0.0)
    return sum(shares[d] * w for d, w in result.weighted.items()), by_vital


def _bare(part: Part, sides: list[VitalCoverage], profile: str) -> dict[str, Finding]:
    """What is said of a vital in this riding, by the direction that it is said of.

    The side that brings most of the stones which meet it bare stands for the others. Where no
    sheet at all stands before a grave one it is said of itself, unless it is reached through its
    own opening.
    """
    shares = PROFILES[profile].shares
    least = LEAST_SHARE.get(part.consequence, 0.0)
    short = [s for s in sides if shares[s.direction] > 0.0 and (s.share or 0.0) < least]
    if not short:
        return {}
    worst = max(short, key=lambda s: shares[s.direction] * (1.0 - (s.share or 0.0)))
    more = len(short) - 1
    others = f", and from {more} other side{'s' if more > 1 else ''}" if more else ""
    bare = percent(1 - (worst.share or 0.0))
    text = f"{capital(part.name)} is {bare} bare {worst.direction}{others}."
    found = {worst.direction: finding("bare vital", text, part.key)}
    open_ = [s for s in short if (s.share or 0.0) < NO_SHARE]
    if open_ and part.consequence >= GRAVE and not part.serviced:
        most = max(open_, key=lambda s: shares[s.direction])
        found[most.direction] = from_table(
            "vital not covered",
            part.key,
            part=capital(part.name),
            way=most.direction,
            often=percent(shares[most.direction]),
        )
    return found


def _vital_figures(names: dict[str, Part], point: CoverageResult, profile: str) -> list[Figure]:
    """A figure for each vital from each direction, with what is said of it in this riding."""
    said = {
        key: _bare(part, [s for s in point.shares if s.vital == key], profile)
        for key, part in names.items()
    }
    figures = []
    for s in point.shares:
        told = said[s.vital].get(s.direction)
        figures.append(_vital_figure(names[s.vital], s, () if told is None else (told,)))
    return figures


def _nothing_to_shield(profile: str) -> tuple[Figure, ...]:
    """The shares of a bike without a vital part: not known, and why."""
    why = ("No part of the bike is entered as vital: enter what a stone can ruin, in Survey.",)
    named = [(f"coverage:{d}", f"Shielded {d}") for d in DIRECTIONS]
    named.append(("coverage", f"Shielded, {profile}"))
    return tuple(figure(key, label, None, "%", reasons=why) for key, label in named)


@lru_cache(maxsize=512)
def coverage_figures(
    vitals: tuple[Part, ...], folded: FoldedPlate, profile: str
) -> tuple[tuple[Figure, ...], frozenset[str]]:
    """A figure for the mix, one for each direction, one for each vital from each direction.

    Second, the vitals that are more than half bare from below.
    """
    if not vitals:
        return _nothing_to_shield(profile), frozenset()
    point = cover(vitals, folded)
    names = {p.key: p for p in vitals}
    figures = _vital_figures(names, point, profile)
    bare = frozenset(
        s.vital
        for s in point.shares
        if s.direction == FIRST_DIRECTIONS[0] and (s.share or 0.0) < BARE_SHARE
    )
    for direction, weighted in point.weighted.items():
        figures.append(
            figure(
                f"coverage:{direction}",
                f"Shielded {direction}",
                weighted * 100,
                "%",
                inputs=tuple(
                    Input(
                        f"{names[s.vital].name}, weight {names[s.vital].consequence}",
                        round((s.share or 0) * 100, 1),
                        "%",
                    )
                    for s in point.shares
                    if s.direction == direction
                ),
                reasons=("Share of every vital, weighted by how much its loss would cost (1–5).",),
                assumptions=_ASSUMED,
                sources=(COVERAGE_SOURCE,),
            )
        )
    whole, _ = mixed(point, profile)
    figures.append(
        figure(
            "coverage",
            f"Shielded, {profile}",
            whole * 100,
            "%",
            inputs=tuple(
                Input(
                    f"{capital(d)}, {percent(share)} of strikes",
                    round(point.weighted[d] * 100, 1),
                    "%",
                )
                for d, share in PROFILES[profile].shares.items()
            ),
            reasons=("Each direction's share shielded, weighted by how often stones come so.",),
            assumptions=_ASSUMED,
            sources=(COVERAGE_SOURCE, PROFILE_SOURCE),
        )
    )
    return tuple(figures), bare
