"""Coverage of one plate from every direction and for a profile's mix, as figures."""

from __future__ import annotations

from functools import lru_cache

from rugged_shield.core.amounts import percent
from rugged_shield.core.figures import capital, figure
from rugged_shield.core.result import Figure, Finding, Input, finding
from rugged_shield.core.survey import FoldedPlate, Part
from rugged_shield.core.tables.profiles import PROFILE_SOURCE, PROFILES
from rugged_shield.core.weighup import (
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
def _vital_figure(part: Part, own: VitalCoverage) -> Figure:
    share = own.share or 0.0
    found: tuple[Finding, ...] = ()
    if part.consequence >= 4 and share < BARE_SHARE and own.direction in FIRST_DIRECTIONS:
        text = f"{capital(part.name)} is {percent(1 - share)} bare {own.direction}."
        found = (finding("bare vital", text, own.vital),)
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
    figures = [_vital_figure(names[s.vital], s) for s in point.shares]
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
