"""Pairs of metals that touch where it is wet: which of the two is eaten, and what cures it."""

from __future__ import annotations

from dataclasses import dataclass

from rugged_shield.core.computation import computation
from rugged_shield.core.errors import InputError, choose
from rugged_shield.core.quantity import Ranged
from rugged_shield.core.result import Finding, Input, Outcome, Source, finding

CORROSION_SOURCE = Source("anodic index, MIL-STD-889 family", "medium")
ANODIC_INDEX_V: dict[str, float] = {
    "stainless": -0.50,
    "steel": -0.85,
    "aluminium": -0.90,
    "zinc": -1.25,
    "magnesium": -1.75,
}
"""Metals by the index of what is at their surface, V."""
WET_V, DRY_V = 0.15, 0.25
MAX_PAIRS = 200


@dataclass(frozen=True)
class MetalPair:
    """Two metals that touch, where, and whether something keeps the water out.

    ``small``: the one of the two with the small area, if either is.
    """

    where: str
    first: str
    second: str
    small: str = ""
    kept_apart: str = ""

    def __post_init__(self) -> None:
        for field in ("first", "second"):
            choose(f"pairs.{field}", getattr(self, field), ANODIC_INDEX_V, "metal")


@dataclass(frozen=True)
class CorrosionInput(Ranged):
    """The pairs of one plate, and whether it lives in mud and salt or indoors."""

    pairs: tuple[MetalPair, ...]
    wet: bool = True

    def __post_init__(self) -> None:
        super().__post_init__()
        if len(self.pairs) > MAX_PAIRS:
            raise InputError("pairs", len(self.pairs), f"at most {MAX_PAIRS} pairs")


@dataclass(frozen=True)
class Corroding:
    """One pair over the limit: the one that suffers, the gap in V, how it can be cured."""

    where: str
    suffers: str
    against: str
    gap_v: float
    worse: bool
    cured: str


@dataclass(frozen=True)
class CorrosionResult:
    """Pairs over the limit, and how many of them nothing keeps apart yet."""

    pairs: tuple[Corroding, ...]
    open_pairs: int


def _corroding(pair: MetalPair, limit_v: float) -> Corroding | None:
    """A zinc coat is used up first, which is what it is for: no flag."""
    if "zinc" in (pair.first, pair.second):
        return None
    one, two = ANODIC_INDEX_V[pair.first], ANODIC_INDEX_V[pair.second]
    if abs(one - two) <= limit_v:
        return None
    suffers, against = (pair.first, pair.second) if one < two else (pair.second, pair.first)
    return Corroding(
        pair.where, suffers, against, abs(one - two), pair.small == suffers, pair.kept_apart
    )


def _findings(found: tuple[Corroding, ...]) -> tuple[Finding, ...]:
    """One finding for each pair of metals, naming the places."""
    groups: dict[tuple[str, str], list[Corroding]] = {}
    for c in found:
        if not c.cured:
            groups.setdefault((c.suffers, c.against), []).append(c)
    out = []
    for (suffers, against), pairs in groups.items():
        places = ", ".join(dict.fromkeys(c.where for c in pairs))
        small = " A small part beside a large one goes fast." if any(c.worse for c in pairs) else ""
        out.append(
            finding(
                "metals corrode",
                f"{suffers.capitalize()} is eaten beside {against} where it stays wet: {places}."
                f"{small} A sleeve, a coated washer or grease keeps them apart.",
                suffers,
            )
        )
    return tuple(out)


@computation(
    "corrosion",
    page="ownership",
    check="test_which_metal_suffers",
)
def corrosion(given: CorrosionInput) -> Outcome[CorrosionResult]:
    """Pairs whose anodic indices are more than 0.15 V (wet) or 0.25 V (dry) apart."""
    limit = WET_V if given.wet else DRY_V
    judged = (_corroding(pair, limit) for pair in given.pairs)
    found = tuple(c for c in judged if c is not None)
    return Outcome(
        result=CorrosionResult(found, sum(1 for c in found if not c.cured)),
        inputs=(
            Input("Pairs looked at", len(given.pairs)),
            Input("Limit", limit, "V"),
            *(
                Input(f"{c.where}: {c.suffers} beside {c.against}", round(c.gap_v, 2), "V")
                for c in found
            ),
        ),
        findings=_findings(found),
        reasons=("The metal with the lower index is eaten, the faster the smaller it is.",),
        assumptions=(
            "A zinc coat is used up before the steel under it: a note, not a flag.",
            "Paint is taken as scratched through.",
        ),
        sources=(CORROSION_SOURCE,),
    )
