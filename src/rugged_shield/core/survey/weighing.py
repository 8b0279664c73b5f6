"""Difference weighing: what a plate weighs by weighing a holder with and without it.

Works in the unit the readings come in. JCGM 100:2008 (GUM) 4.2, 4.3.7, G.4.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated, Literal

import numpy as np

from rugged_shield.core.amounts import entered
from rugged_shield.core.computation import computation
from rugged_shield.core.errors import InputError
from rugged_shield.core.mechanics.spread import student_95
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.result import Finding, Input, Outcome, Source, finding

WEIGHING_SOURCE = Source(
    "JCGM 100:2008, 4.2 (repeats), 4.3.7 (resolution), G.4 (Welch–Satterthwaite)", "high"
)
MAX_PAIRS = 200
NORMAL_95 = 1.959963984540054
_MORE_PAIRS_MOST = 100


@dataclass(frozen=True, kw_only=True)
class WeighInput(Ranged):
    """Pairs of readings with and without the part, in one unit; ``resolution`` is the scale's step.

    ``assumed_std_of_one_difference`` is used for a single pair only.
    """

    with_part: tuple[float, ...]
    without_part: tuple[float, ...]
    resolution: Annotated[float, Range(1e-6, 1e5)]
    unit: str = "kg"
    reference_difference: Annotated[float, Range(-1e6, 1e6)] = 0.0
    scale_factor_rel_std_uncertainty: Annotated[float, Range(0.0, 0.5)] = 0.0
    assumed_std_of_one_difference: Annotated[float, Range(0.0, 1e5)] = 0.0

    def __post_init__(self) -> None:
        super().__post_init__()
        if len(self.with_part) != len(self.without_part):
            raise InputError(
                "without_part",
                len(self.without_part),
                f"{len(self.with_part)} readings",
                "each reading with the part needs one without it",
            )
        if not 1 <= len(self.with_part) <= MAX_PAIRS:
            raise InputError("with_part", len(self.with_part), f"1 to {MAX_PAIRS} pairs")
        for field in ("with_part", "without_part"):
            for i, value in enumerate(getattr(self, field)):
                if not (math.isfinite(value) and abs(value) <= 1e6):
                    raise InputError(f"{field}.{i}", value, "a finite number up to 1000000")


@dataclass(frozen=True, kw_only=True)
class WeighResult:
    """Mean difference and its uncertainty, all in the readings' unit.

    ``nu_eff`` None means infinite; ``pairs_to_settle`` None means that no number
    of pairs up to 100 would do on this scale.
    """

    n: int
    mean_difference: float
    u_repeat: float
    u_resolution: float
    u_scale_factor: float
    u_combined: float
    nu_eff: float | None
    k95: float
    u95: float
    u_k2: float
    difference_from_reference: float
    verdict: Literal["different", "cannot tell apart"]
    pairs_to_settle: int | None
    resolution_to_settle: float | None


@dataclass(frozen=True)
class _Spread:
    """The three parts of u, and the freedom of the repeats (None: infinite)."""

    repeat: float
    resolution: float
    scale: float
    freedom: int | None

    @property
    def combined(self) -> float:
        return math.sqrt(self.repeat**2 + self.resolution**2 + self.scale**2)

    @property
    def nu_eff(self) -> float | None:
        """Effective freedom; only the repeats have a finite one."""
        if self.freedom is None or self.repeat == 0.0:
            return None
        return self.freedom * self.combined**4 / self.repeat**4

    @property
    def k95(self) -> float:
        nu = self.nu_eff
        if nu is None:
            return NORMAL_95
        return student_95(nu)


def _pairs_to_settle(std: float, base: _Spread, gap: float) -> int | None:
    """Least number of pairs of this scatter that would tell the gap, if any up to 100."""
    for n in range(2, _MORE_PAIRS_MOST + 1):
        spread = _Spread(std / math.sqrt(n), base.resolution, base.scale, n - 1)
        if spread.k95 * spread.combined < gap:
            return n
    return None


def _resolution_to_settle(spread: _Spread, gap: float) -> float | None:
    """Coarsest common scale step (1, 2, 5 × 10ⁿ) that would tell the gap with these repeats."""
    if gap <= 0:
        return None
    top = math.floor(math.log10(gap)) + 1
    for power in range(top, top - 8, -1):
        for lead in (5.0, 2.0, 1.0):
            step = lead * 10.0**power
            finer = _Spread(spread.repeat, step / math.sqrt(6), spread.scale, spread.freedom)
            if finer.k95 * finer.combined < gap and step < spread.resolution * math.sqrt(6):
                return step
    return None


def _findings(result: WeighResult, given: WeighInput) -> tuple[Finding, ...]:
    if result.verdict == "different":
        return ()
    ways = []
    if result.pairs_to_settle is not None:
        ways.append(f"about {result.pairs_to_settle} pairs in all")
    if result.resolution_to_settle is not None:
        ways.append(f"a scale that reads to {entered(result.resolution_to_settle, given.unit)}")
    what = " or ".join(ways) if ways else "no number of pairs on this scale; the gap is too small"
    return (
        finding(
            "cannot tell apart",
            f"{abs(result.difference_from_reference):.3g} {given.unit} is within the uncertainty "
            f"of ±{result.u95:.2g} {given.unit}. Would settle it: {what}.",
        ),
    )


@computation("weigh-difference", page="survey", check="weigh-01")
def weigh_difference(given: WeighInput) -> Outcome[WeighResult]:
    """Mean of the paired differences with its expanded uncertainty.

    u² = s²/n + d²/6 + (scale factor error · mean)². Rounding is not divided by n:
    readings that fall in the same step round alike. k is Student's t at the
    Welch–Satterthwaite freedom. Two masses cannot be told apart when the gap to
    the reference is within U95.
    """
    differences = np.array(given.with_part) - np.array(given.without_part)
    n = len(differences)
    mean = float(differences.mean())
    std = given.assumed_std_of_one_difference if n == 1 else float(differences.std(ddof=1))
    spread = _Spread(
        std / math.sqrt(n),
        given.resolution / math.sqrt(6),
        given.scale_factor_rel_std_uncertainty * abs(mean),
        None if n == 1 else n - 1,
    )
    gap = mean - given.reference_difference
    u95 = spread.k95 * spread.combined
    apart = abs(gap) > u95
    result = WeighResult(
        n=n,
        mean_difference=mean,
        u_repeat=spread.repeat,
        u_resolution=spread.resolution,
        u_scale_factor=spread.scale,
        u_combined=spread.combined,
        nu_eff=spread.nu_eff,
        k95=spread.k95,
        u95=u95,
        u_k2=2 * spread.combined,
        difference_from_reference=gap,
        verdict="different" if apart else "cannot tell apart",
        pairs_to_settle=None if apart else _pairs_to_settle(std, spread, abs(gap)),
        resolution_to_settle=None if apart else _resolution_to_settle(spread, abs(gap)),
    )
    warnings = []
    if n == 1 and std == 0.0:
        warnings.append("One pair, and no scatter given for it: repeat the pair to see it.")
    if n > 1 and std == 0.0:
        warnings.append("No scatter at all: the scale's step hides it; its rounding still counts.")
    return Outcome(
        result=result,
        inputs=(
            Input("Pairs", n),
            Input("Scale step", given.resolution, given.unit),
            Input("Scatter of one difference", std, given.unit),
            Input("Held against", given.reference_difference, given.unit),
        ),
        findings=_findings(result, given),
        reasons=("u² = s²/n + d²/6 + (scale factor error × mean)²; U95 = k·u with Student's k.",),
        assumptions=("Each pair was weighed close together; the holder did not change.",),
        warnings=tuple(warnings),
        sources=(WEIGHING_SOURCE,),
    )
