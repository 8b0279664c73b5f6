"""How well a plate protects: what it shields, and how much of it bears the rider's strike."""

from __future__ import annotations

from contextlib import suppress
from dataclasses import replace
from functools import lru_cache

from rugged_shield.core.assess.weighup.scorecard import Weighed
from rugged_shield.core.assess.weighup.strike import strike_asked
from rugged_shield.core.errors import InputError
from rugged_shield.core.figures import figure, figure_of
from rugged_shield.core.job import Job
from rugged_shield.core.remembered import Beside
from rugged_shield.core.result import Figure, Input, Outcome
from rugged_shield.core.weighup import (
    COARSE_MESH_MM,
    StrikeMapInput,
    Struck,
    WithstoodResult,
    share_bounds,
    sheet_gives,
    sheet_struck,
    withstood_share,
)

PROTECTED, LABEL = "protected", "Shielded and held"


def _asked(job: Job, key: str) -> StrikeMapInput:
    return replace(strike_asked(job, key), mesh_mm=COARSE_MESH_MM)


def protected_bounds(job: Job, key: str, thicker_mm: float) -> tuple[float, float]:
    """Least and most share, 0 to 1, that a plate's sheet could hold, so much thicker.

    Raises InputError where the plate has no map.
    """
    return share_bounds(_asked(job, key), thicker_mm)


def solve_beside(job: Job, keys: tuple[str, ...], beside: Beside) -> None:
    """Solves the shells of these plates side by side, so that they are known here.

    A plate that has no map is left: it says so when it is asked.
    """
    asked: list[Struck] = []
    for key in keys:
        with suppress(InputError):
            asked.append(sheet_struck(_asked(job, key)))
    sheet_gives.know(asked, beside)


def protection(job: Job, weighed: Weighed) -> Figure:
    """Share of the vitals shielded by sheet that bears the rider's energy, %.

    The shielded share over the profile's directions, times the share of the sheet that gives
    less than its standoff when struck from below; not known where the plate has no map.
    """
    cover = weighed.figures["coverage"]
    try:
        withstood = withstood_share(_asked(job, weighed.key))
    except InputError as error:
        return figure(PROTECTED, LABEL, None, "%", reasons=(error.message,))
    return _protected(cover, withstood)


@lru_cache(maxsize=256)
def _protected(cover: Figure, withstood: Outcome[WithstoodResult]) -> Figure:
    if cover.value is None:
        return replace(cover, key=PROTECTED, label=LABEL)
    return figure_of(
        withstood,
        PROTECTED,
        LABEL,
        cover.value * withstood.result.share,
        "%",
        judged=False,
        inputs=(
            Input(cover.label, round(cover.value), "%"),
            Input("Of its sheet, holds", round(100 * withstood.result.share), "%"),
        ),
        reasons=("What is shielded, times the share of the sheet that holds.",),
    )


def figures_of(job: Job, weighed: Weighed) -> dict[str, Figure]:
    """Everything weighed of a plate, and how well it protects, which takes a strike more."""
    return {**weighed.figures, PROTECTED: protection(job, weighed)}
