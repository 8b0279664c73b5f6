"""What every computation returns: the number, how it is judged, and why.

Finding codes are the field's own words. ``VERDICT_OF`` is the one place that
turns a code into a verdict.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field
from typing import Generic, Literal, TypeVar

from rugged_shield.core.amounts import in_words

Verdict = Literal["sound", "mind", "blocked", "not known"]
Confidence = Literal["high", "medium", "low"]

FindingCode = Literal[
    "bottoms",
    "hits neighbour",
    "too short",
    "knife-edged countersink",
    "no length fits",
    "touches vital",
    "joint blocked",
    "short in kit",
    "pieces cross",
    "gap too small",
    "sleeve shorter than its plate",
    "wrong screw in hand",
    "held at the limit",
    "limit reached by scatter",
    "sources conflict",
    "outside wrench range",
    "standoff small",
    "bare vital",
    "low clearance",
    "grounds in a lean",
    "mass differs from claim",
    "extra in kit",
    "too hot",
    "heat near its limit",
    "ages in the heat",
    "metals corrode",
    "does not fit",
    "fits with a change",
    "fit not known",
    "past its limit",
    "energy of the dent not known",
    "dent not known",
    "bottoms under a strike",
    "strip yields",
    "pushed into",
    "thick for thin-plate theory",
    "soft in plane",
    "touches under a strike",
    "may touch under a strike",
    "may punch through",
    "brittle in the cold",
    "beyond the form",
    "galls",
    "stands off unevenly",
    "joint does not close",
    "joints not known",
    "gap at a joint",
    "gap not known",
    "not all were started",
    "loss found",
    "outside band",
    "due now",
    "larger than a bike",
    "joint off the sheet",
    "two joints at one place",
    "parts overlap",
    "gap small in the worst case",
    "can hook",
    "water stands",
    "oil runs on the plate",
    "filter is trapped",
    "not counted",
    "cannot tell apart",
    "pick not sure",
    "missing in the choice",
    "sag not known",
    "no torque source",
    "manual above our limit",
    "screw's class not read",
    "torqued above its limit",
    "torqued above its limit, accepted",
    "changed since it was torqued",
    "isolator by feel",
    "length not known",
    "head not known",
    "joint proposed",
    "not in the kit",
    "owed",
    "screw will not start",
    "start not sure",
    "hole not seen",
    "edge too near",
    "must float",
    "locker on a locking nut",
    "nothing beyond a blind thread",
    "touches what it passes",
    "passes close to something hot",
    "passage not known",
    "pinched, must keep its play",
    "sheet not in the stack",
    "not through that sheet",
    "hole set not chosen",
    "hole set tilts",
    "tool does not get in",
    "stud not measured",
    "stud's seat not known",
    "stud sits too shallow",
    "stud may turn",
]
"""Every code of a finding; a code that does not stand here is a type error."""

R = TypeVar("R")

VERDICT_OF: dict[FindingCode, Verdict] = {
    "bottoms": "blocked",
    "stud sits too shallow": "blocked",
    "sheet not in the stack": "not known",
    "not through that sheet": "not known",
    "hole set not chosen": "not known",
    "hole set tilts": "mind",
    "tool does not get in": "mind",
    "stud not measured": "not known",
    "stud's seat not known": "not known",
    "stud may turn": "mind",
    "hits neighbour": "blocked",
    "too short": "blocked",
    "knife-edged countersink": "blocked",
    "no length fits": "blocked",
    "touches vital": "blocked",
    "joint blocked": "blocked",
    "short in kit": "blocked",
    "pieces cross": "blocked",
    "gap too small": "blocked",
    "sleeve shorter than its plate": "mind",
    "wrong screw in hand": "mind",
    "held at the limit": "mind",
    "limit reached by scatter": "mind",
    "sources conflict": "mind",
    "outside wrench range": "mind",
    "standoff small": "mind",
    "bare vital": "mind",
    "low clearance": "mind",
    "grounds in a lean": "mind",
    "mass differs from claim": "mind",
    "extra in kit": "mind",
    "too hot": "blocked",
    "heat near its limit": "mind",
    "ages in the heat": "mind",
    "metals corrode": "mind",
    "does not fit": "blocked",
    "fits with a change": "mind",
    "fit not known": "not known",
    "past its limit": "mind",
    "energy of the dent not known": "not known",
    "dent not known": "not known",
    "bottoms under a strike": "mind",
    "strip yields": "mind",
    "pushed into": "mind",
    "thick for thin-plate theory": "mind",
    "soft in plane": "mind",
    "touches under a strike": "mind",
    "may touch under a strike": "mind",
    "may punch through": "mind",
    "brittle in the cold": "mind",
    "beyond the form": "mind",
    "galls": "mind",
    "stands off unevenly": "mind",
    "joint does not close": "blocked",
    "joints not known": "not known",
    "gap at a joint": "mind",
    "gap not known": "not known",
    "not all were started": "mind",
    "loss found": "mind",
    "outside band": "mind",
    "due now": "mind",
    "larger than a bike": "mind",
    "joint off the sheet": "mind",
    "two joints at one place": "blocked",
    "parts overlap": "mind",
    "gap small in the worst case": "mind",
    "can hook": "mind",
    "water stands": "mind",
    "oil runs on the plate": "mind",
    "filter is trapped": "mind",
    "not counted": "not known",
    "cannot tell apart": "not known",
    "pick not sure": "mind",
    "missing in the choice": "not known",
    "sag not known": "not known",
    "no torque source": "not known",
    "manual above our limit": "mind",
    "screw's class not read": "not known",
    "torqued above its limit": "blocked",
    "torqued above its limit, accepted": "mind",
    "changed since it was torqued": "blocked",
    "isolator by feel": "not known",
    "length not known": "not known",
    "head not known": "not known",
    "joint proposed": "not known",
    "not in the kit": "mind",
    "owed": "mind",
    "screw will not start": "blocked",
    "start not sure": "not known",
    "hole not seen": "not known",
    "edge too near": "mind",
    "must float": "mind",
    "locker on a locking nut": "blocked",
    "nothing beyond a blind thread": "blocked",
    "touches what it passes": "blocked",
    "passes close to something hot": "mind",
    "passage not known": "not known",
    "pinched, must keep its play": "blocked",
}

_RANK: dict[Verdict, int] = {"sound": 0, "not known": 1, "mind": 2, "blocked": 3}


@dataclass(frozen=True)
class Source:
    """Where a number comes from and how sure the printed value is."""

    text: str
    confidence: Confidence


@dataclass(frozen=True)
class Input:
    """One input as it was used: what it is called, its value, its unit, and in words."""

    label: str
    value: float | int | str | None
    unit: str = ""
    metric: str = field(init=False, default="")
    us: str = field(init=False, default="")

    def __post_init__(self) -> None:
        for system in ("metric", "us"):
            object.__setattr__(self, system, in_words(self.value, self.unit, system))


@dataclass(frozen=True)
class Finding:
    """Something judged: a code in the field's words and what follows from it."""

    code: FindingCode
    text: str
    verdict: Verdict
    where: str = ""


@dataclass(frozen=True, kw_only=True)
class Outcome(Generic[R]):
    """A computed result with everything needed to explain it."""

    result: R
    inputs: tuple[Input, ...] = ()
    findings: tuple[Finding, ...] = ()
    reasons: tuple[str, ...] = ()
    assumptions: tuple[str, ...] = ()
    warnings: tuple[str, ...] = ()
    sources: tuple[Source, ...] = ()

    @property
    def verdict(self) -> Verdict:
        """The worst of the findings; sound when there is none."""
        return worst(f.verdict for f in self.findings)


@dataclass(frozen=True, kw_only=True)
class Figure:
    """One number on a screen with its reason: the data behind every “why”."""

    key: str
    label: str
    value: float | None
    unit: str
    metric: str
    us: str
    verdict: Verdict
    findings: tuple[Finding, ...] = ()
    inputs: tuple[Input, ...] = ()
    reasons: tuple[str, ...] = ()
    assumptions: tuple[str, ...] = ()
    warnings: tuple[str, ...] = ()
    sources: tuple[Source, ...] = ()


def finding(code: FindingCode, text: str, where: str = "") -> Finding:
    """A finding with the verdict its code stands for ."""
    return Finding(code, text, VERDICT_OF[code], where)


def worst(verdicts: Iterable[Verdict]) -> Verdict:
    """The gravest verdict; ``sound`` for none."""
    return max(verdicts, key=_RANK.__getitem__, default="sound")


def merge_sources(*groups: Iterable[Source]) -> tuple[Source, ...]:
    """Sources of several parts, each once, in order of first use."""
    return tuple(dict.fromkeys(s for group in groups for s in group))
