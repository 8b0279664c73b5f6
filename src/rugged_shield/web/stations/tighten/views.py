"""What Tighten is told, and what it sends."""

from __future__ import annotations

from dataclasses import dataclass

from rugged_shield.core.amounts import System
from rugged_shield.core.assess.tighten import HistoryLine
from rugged_shield.core.mechanics.drawing import Drawing
from rugged_shield.core.result import Figure, Finding, Verdict
from rugged_shield.core.tighten import StartedCheck, Step, TorqueCard
from rugged_shield.web.views import FieldView, Key, Text, Write


@dataclass(frozen=True, kw_only=True)
class CardView:
    """A torque card with its figures, verdict and where its record stands."""

    card: TorqueCard
    verdict: Verdict
    findings: tuple[Finding, ...]
    stage: str
    stage_label: str
    target: Figure
    low: Figure
    high: Figure
    setting: Figure
    limits: tuple[Figure, ...]
    sources: tuple[Figure, ...]
    preload: tuple[Figure, ...]
    state: str
    started: bool
    reading: Figure | None
    history: tuple[HistoryLine, ...]
    fields: tuple[FieldView, ...]


@dataclass(frozen=True)
class StepView:
    """A step of the work and whether it is done."""

    step: Step
    torque: Figure | None
    setting: Figure | None
    done: bool
    allowed: str


@dataclass(frozen=True, kw_only=True)
class TightenView:
    """Order, cards, gates and steps of the plate in hand."""

    plate: str
    picked: bool
    underside: Drawing
    cards: tuple[CardView, ...]
    checks: tuple[StartedCheck, ...]
    steps: tuple[StepView, ...]
    at: int
    minutes: float
    wrench: tuple[FieldView, ...]


@dataclass(frozen=True, kw_only=True)
class ReadingWrite(Write):
    """A torque reading on a joint; ``override`` gives the reason to pass the gate.

    ``accepted``: why a reading above the joint's limit stands.
    """

    joint: Key
    text: Text = ""
    system: System = "metric"
    override: Text = ""
    accepted: Text = ""


@dataclass(frozen=True, kw_only=True)
class TakeBackWrite(Write):
    """A reading to take back, with the reason."""

    seq: int
    reason: Text = ""


@dataclass(frozen=True, kw_only=True)
class StepWrite(Write):
    """A step ticked or opened again."""

    step: Key
    done: bool = True
