"""Which plate, for this rider: fixed scales, weights, how sure the pick is, what would change it.

Every criterion has two named anchors, fixed before any plate is looked at: a further
candidate, however bad, changes nothing between the others.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated

import numpy as np
import numpy.typing as npt

from rugged_shield.core.amounts import percent
from rugged_shield.core.computation import computation
from rugged_shield.core.errors import InputError
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.result import Finding, Input, Outcome, Source, finding

DECIDE_SOURCE = Source(
    "additive value functions (Keeney & Raiffa 1976); stochastic acceptability (Lahdelma & "
    "Salminen 2001, SMAA-2), seeded Dirichlet weights",
    "high",
)
MAX_OPTIONS, MAX_CRITERIA = 40, 20
SURE_SHARE = 0.6
UNKNOWN_VALUE = 0.5
"""What is not known counts as the middle of its scale."""
_TIE = 1e-9
SAME = 1e-6
"""Values that differ by less are the same: a shell solved elsewhere rounds otherwise."""

Array = npt.NDArray[np.float64]


@dataclass(frozen=True)
class Criterion(Ranged):
    """A quantity, its unit, and its two anchors: ``worst`` counts 0, ``best`` counts 1.

    Between them linear; beyond them 0 or 1. ``weight`` is the rider's, any scale.
    """

    key: str
    name: str
    worst: Annotated[float, Range(-1e6, 1e6)]
    best: Annotated[float, Range(-1e6, 1e6)]
    weight: Annotated[float, Range(0.0, 1000.0)] = 1.0
    unit: str = ""

    def __post_init__(self) -> None:
        super().__post_init__()
        if self.worst == self.best:
            raise InputError(f"criteria.{self.key}.best", self.best, "another number than worst")


@dataclass(frozen=True)
class Option:
    """A plate and its quantities in the order of the criteria; None is not known.

    ``within``: for each quantity the least and the most that it can be, in its own unit; None: as
    it stands; empty: all as they stand. What is not known may be anything on its scale.
    """

    key: str
    name: str
    values: tuple[float | None, ...]
    within: tuple[tuple[float, float] | None, ...] = ()


@dataclass(frozen=True)
class DecideInput(Ranged):
    """Criteria with weights, the plates, and how the nearby weightings are drawn."""

    criteria: tuple[Criterion, ...]
    options: tuple[Option, ...]
    draws: Annotated[int, Range(100, 100_000)] = 2000
    concentration: Annotated[float, Range(1.0, 1000.0)] = 25.0
    seed: Annotated[int, Range(0, 2**31)] = 1

    def __post_init__(self) -> None:
        super().__post_init__()
        for field, items, most in (
            ("criteria", self.criteria, MAX_CRITERIA),
            ("options", self.options, MAX_OPTIONS),
        ):
            keys = [item.key for item in items]
            if not 1 <= len(keys) <= most or len(set(keys)) != len(keys):
                raise InputError(field, len(keys), f"1 to {most}, each key once")
        for option in self.options:
            if len(option.values) != len(self.criteria):
                raise InputError(
                    f"options.{option.key}.values",
                    len(option.values),
                    f"{len(self.criteria)} values, None where not known",
                )
            if option.within and len(option.within) != len(self.criteria):
                raise InputError(
                    f"options.{option.key}.within",
                    len(option.within),
                    "one for each value, or none",
                )
            for value in (*option.values, *(v for pair in option.within for v in pair or ())):
                if value is not None and not math.isfinite(value):
                    raise InputError(f"options.{option.key}.values", value, "finite numbers")
        if sum(c.weight for c in self.criteria) <= 0:
            raise InputError(
                "criteria.weight",
                0,
                "at least one weight above zero",
                "nothing matters, so nothing can be chosen",
            )


@dataclass(frozen=True)
class Shift:
    """The least change of weights that puts a plate first; None: no weights do.

    ``share`` is the part of all weight that has to move (half the sum of changes).
    """

    share: float | None
    weights: tuple[float, ...] | None
    more: str
    less: str


@dataclass(frozen=True, kw_only=True)
class Ranked:
    """One plate: score 0–1 with the range that missing numbers leave, and how often it is first."""

    key: str
    name: str
    rank: int
    score: float
    score_low: float
    score_high: float
    values: tuple[float, ...]
    missing: tuple[str, ...]
    pareto: bool
    acceptability: float
    standard_error: float
    to_first: Shift


@dataclass(frozen=True)
class DecideResult:
    """Plates from first to last, the weights in use (sum 1), the nearest change of the pick."""

    ranking: tuple[Ranked, ...]
    weights: tuple[float, ...]
    rival: str


def value_of(criterion: Criterion, quantity: float) -> float:
    """Value 0–1 of a quantity on a criterion's own scale."""
    share = (quantity - criterion.worst) / (criterion.best - criterion.worst)
    return min(1.0, max(0.0, share))


def _table(given: DecideInput, unknown: float) -> Array:
    return np.array(
        [
            [
                unknown if v is None else value_of(c, v)
                for c, v in zip(given.criteria, option.values, strict=True)
            ]
            for option in given.options
        ]
    )


def pareto(values: Array) -> npt.NDArray[np.bool_]:
    """Which rows no other row beats everywhere."""
    no_worse = np.all(values[None] >= values[:, None] - SAME, axis=2)
    better = np.any(values[None] > values[:, None] + SAME, axis=2)
    return np.asarray(~np.any(no_worse & better, axis=1))


def _ends(given: DecideInput) -> tuple[Array, Array]:
    """Least and most value (n, k) of each plate on each scale: 0 and 1 of what is not known."""
    low, high = _table(given, 0.0), _table(given, 1.0)
    for i, option in enumerate(given.options):
        for k, pair in enumerate(option.within):
            if pair is not None and option.values[k] is not None:
                both = [value_of(given.criteria[k], v) for v in pair]
                low[i, k], high[i, k] = min(both), max(both)
    return low, high


def acceptability(values: Array, weights: Array, given: DecideInput) -> Array:
    """Share of draws in which each plate is first; ties are shared.

    Drawn are weights near the rider's and every number within its band; where no number is in
    doubt, the weights alone.
    """
    random = np.random.default_rng(given.seed)
    counted = weights > 0
    drawn = random.dirichlet(weights[counted] * given.concentration, given.draws)
    low, high = (ends[:, counted] for ends in _ends(given))
    if np.allclose(low, high, atol=SAME):
        scores = drawn @ values[:, counted].T
    else:
        at = low + (high - low) * random.random((given.draws, *low.shape))
        scores = np.einsum("dk,dnk->dn", drawn, at)
    first = scores >= scores.max(axis=1, keepdims=True) - _TIE
    return np.asarray((first / first.sum(axis=1, keepdims=True)).mean(axis=0))


def least_shift(values: Array, weights: Array, option: int) -> Array | None:
    """Weights nearest to the rider's (least absolute change) with which a plate is first.

    Linear programme: minimise Σ(up + down), w + up − down on the simplex, option first.
    """
    from scipy.optimize import linprog  # late: start-up and small commands do without SciPy

    n = len(weights)
    lead = values[option] - np.delete(values, option, axis=0)
    answer = linprog(
        np.ones(2 * n),
        A_ub=np.hstack([-lead, lead]) if len(lead) else None,
        b_ub=lead @ weights if len(lead) else None,
        A_eq=np.concatenate([np.ones(n), -np.ones(n)])[None],
        b_eq=[0.0],
        bounds=[(0, None)] * n + [(0, float(w)) for w in weights],
    )
    if not answer.success:
        return None
    change = np.asarray(answer.x)
    return np.asarray(weights + change[:n] - change[n:])


def _shift(given: DecideInput, values: Array, weights: Array, option: int) -> Shift:
    found = least_shift(values, weights, option)
    if found is None:
        return Shift(None, None, "", "")
    change = found - weights
    share = float(np.abs(change).sum() / 2)
    if share < _TIE:
        return Shift(0.0, tuple(float(w) for w in found), "", "")
    more, less = int(change.argmax()), int(change.argmin())
    return Shift(
        share, tuple(float(w) for w in found), given.criteria[more].name, given.criteria[less].name
    )


def _findings(ranking: tuple[Ranked, ...]) -> tuple[Finding, ...]:
    found = []
    first = ranking[0]
    if len(ranking) > 1 and first.acceptability < SURE_SHARE:
        found.append(
            finding(
                "pick not sure",
                f"{first.name} is first in only {percent(first.acceptability)} of nearby "
                "weightings and numbers.",
                first.key,
            )
        )
    for ranked in ranking:
        if ranked.missing:
            found.append(
                finding(
                    "missing in the choice",
                    f"{ranked.name}: {', '.join(ranked.missing)} not known; counted as the middle "
                    f"of its scale. The score could be {ranked.score_low:.2f} to "
                    f"{ranked.score_high:.2f}.",
                    ranked.key,
                )
            )
    return tuple(found)


def order_of(values: Array, weights: Array, keys: tuple[str, ...]) -> list[int]:
    """Options from first to last by weighted value; equal ones by key."""
    scores = values @ weights
    return sorted(range(len(scores)), key=lambda i: (-scores[i], keys[i]))


def placed(given: DecideInput) -> tuple[str, ...]:
    """Keys from first to last: as ``decide`` has them, without what surrounds them."""
    keys = tuple(o.key for o in given.options)
    weights = np.array([c.weight for c in given.criteria], dtype=float)
    order = order_of(_table(given, UNKNOWN_VALUE), weights / weights.sum(), keys)
    return tuple(keys[i] for i in order)


def first_of(given: DecideInput) -> str:
    """Key of the option that ranks first."""
    return placed(given)[0]


def nearest(ranking: tuple[Ranked, ...]) -> Ranked | None:
    """The one behind the first that the least shift of weight would put first."""
    return min(
        (r for r in ranking[1:] if r.to_first.share is not None),
        key=lambda r: r.to_first.share or 0.0,
        default=None,
    )


def _reasons(ranking: tuple[Ranked, ...], near: Ranked | None, draws: int) -> tuple[str, ...]:
    first = ranking[0]
    reasons = [
        f"{first.name} scores {first.score:.2f}; first in {percent(first.acceptability)} of "
        f"{draws} draws over nearby weightings and numbers in doubt."
    ]
    if near is not None and near.to_first.share:
        reasons.append(
            f"{near.name} would be first if {percent(near.to_first.share)} of the weight moved "
            f"from “{near.to_first.less}” to “{near.to_first.more}”."
        )
    return tuple(reasons)


@computation(
    "decide",
    page="decision",
    check="test_acceptability_is_seeded_sums_to_one_and_agrees_with_counting",
)
def decide(given: DecideInput) -> Outcome[DecideResult]:
    """Rank plates by weighted value, with acceptability, Pareto set and least weight shifts."""
    raw = np.array([c.weight for c in given.criteria], dtype=float)
    weights = raw / raw.sum()
    values = _table(given, UNKNOWN_VALUE)
    scores, low, high = (t @ weights for t in (values, _table(given, 0.0), _table(given, 1.0)))
    best, firsts = pareto(values), acceptability(values, weights, given)
    order = order_of(values, weights, tuple(o.key for o in given.options))
    ranking = []
    for rank, i in enumerate(order, start=1):
        option, share = given.options[i], float(firsts[i])
        ranking.append(
            Ranked(
                key=option.key,
                name=option.name,
                rank=rank,
                score=float(scores[i]),
                score_low=float(low[i]),
                score_high=float(high[i]),
                values=tuple(float(v) for v in values[i]),
                missing=tuple(
                    c.name for c, v in zip(given.criteria, option.values, strict=True) if v is None
                ),
                pareto=bool(best[i]),
                acceptability=share,
                standard_error=math.sqrt(share * (1 - share) / given.draws),
                to_first=_shift(given, values, weights, i),
            )
        )
    done = tuple(ranking)
    near = nearest(done)
    return Outcome(
        result=DecideResult(done, tuple(float(w) for w in weights), near.key if near else ""),
        inputs=(
            Input("Plates", len(given.options)),
            Input("Criteria", len(given.criteria)),
            Input("Draws over weights and numbers", given.draws),
            Input("Seed", given.seed),
        ),
        findings=_findings(done),
        reasons=_reasons(done, near, given.draws),
        assumptions=(
            "Scales are fixed by their anchors; beyond an anchor nothing more is gained or lost.",
            "Values add up: no criterion makes another count more.",
        ),
        sources=(DECIDE_SOURCE,),
    )
