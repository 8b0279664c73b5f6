"""What the maps and the choice of Weigh-up are told, and what they send."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from pydantic import Field, StringConstraints

from rugged_shield.core.mechanics.drawing import Drawing
from rugged_shield.core.quantity import System
from rugged_shield.core.result import Figure, Finding, Verdict
from rugged_shield.web.views import FieldView, Text

PlateKey = Annotated[str, StringConstraints(pattern=r"^[A-Za-z0-9_-]{0,60}$")]


@dataclass(frozen=True)
class StrikeAsk:
    """A strike map asked for: plate (the one in hand unless told), direction, energy, stone."""

    plate: PlateKey = ""
    direction: Text = "from below"
    energy: Text = "60"
    radius: Text = "15 mm"
    system: System = "metric"


@dataclass(frozen=True)
class PointAsk(StrikeAsk):
    """A place on the map, mm: behind the front axle and to the rider's right."""

    x_mm: Annotated[float, Field(ge=-3000, le=3000)] = 0.0
    y_mm: Annotated[float, Field(ge=-3000, le=3000)] = 0.0


@dataclass(frozen=True)
class Shade:
    """One shade of the map in words."""

    fill: str
    words: str


@dataclass(frozen=True)
class ReachRow:
    """The energy at which the sheet reaches one part, wherever it is struck."""

    part: str
    touches: Figure


@dataclass(frozen=True)
class StrikeView:
    """The map of one plate, what it reaches first, what its mounts take."""

    plate: str
    plate_key: str
    drawing: Drawing
    shades: tuple[Shade, ...]
    directions: tuple[str, ...]
    plates: dict[str, str]
    figures: tuple[Figure, ...]
    reaches: tuple[ReachRow, ...]
    findings: tuple[Finding, ...]
    verdict: Verdict


@dataclass(frozen=True)
class PointView:
    """One struck place in numbers."""

    where: str
    figures: tuple[Figure, ...]


@dataclass(frozen=True)
class RankedView:
    """One plate in the ranking, in words."""

    key: str
    name: str
    rank: int
    score: Figure
    first: Figure
    pareto: bool
    missing: tuple[str, ...]
    to_first: str
    values: tuple[Figure, ...]


@dataclass(frozen=True)
class DecideView:
    """The ranking under this rider's priorities, and what would change the pick."""

    ranking: tuple[RankedView, ...]
    priorities: tuple[FieldView, ...]
    scales: tuple[str, ...]
    reasons: tuple[str, ...]
    findings: tuple[Finding, ...]
