"""What Tighten is told, and what it sends."""

from __future__ import annotations

from dataclasses import dataclass

from rugged_shield.core.amounts import System
from rugged_shield.core.assess.gate.ready import Ready
from rugged_shield.core.assess.tighten.cards import HistoryLine
from rugged_shield.core.mechanics.drawing import Drawing
from rugged_shield.core.result import Figure, Finding, Verdict
from rugged_shield.core.tighten.all_started import StartedCheck
from rugged_shield.core.tighten.curing import LockerClock
from rugged_shield.core.tighten.events import Loosened
from rugged_shield.core.tighten.steps import Step
from rugged_shield.core.tighten.torque import TorqueCard
from rugged_shield.web.stations.tighten.order import OrderChoice
from rugged_shield.web.views import FieldView, Key, Text, Write


@dataclass(frozen=True, kw_only=True)
class CardView:
    """A torque card with its figures, verdict and where its record stands.

    ``over``: lines of the record that were above its limit and wait for a word.
    """

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
    cures: tuple[str, ...]
    state: str
    started: bool
    reading: Figure | None
    history: tuple[HistoryLine, ...]
    section: Drawing
    layers: tuple[str, ...]
    fields: tuple[FieldView, ...]
    over: tuple[int, ...]


@dataclass(frozen=True, kw_only=True)
class StepView:
    """A step of the work and whether it is done; ``doubts``: what bites here, gravest first."""

    step: Step
    torque: Figure | None
    setting: Figure | None
    done: bool
    allowed: str
    taken_min: float | None
    doubts: tuple[Finding, ...]


@dataclass(frozen=True, kw_only=True)
class OpenView:
    """Something of the bike that is open, and the torque its manual gives."""

    joint: str
    name: str
    what: Loosened
    since: str
    manual: Figure | None


@dataclass(frozen=True, kw_only=True)
class OverrideView:
    """Ridden though something was missing."""

    at: str
    reason: str
    missing: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class StepNote:
    """A word or a picture that was kept at a step."""

    step: str
    at: str
    text: str
    photo: str
    by: str


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
    next_joint: str
    minutes: float
    taken_min: float
    stages: dict[str, str]
    wrench: tuple[FieldView, ...]
    order: OrderChoice
    ready: Ready
    open: tuple[OpenView, ...]
    known_loosened: dict[str, Loosened]
    clocks: tuple[LockerClock, ...]
    warmth: FieldView
    overrides: tuple[OverrideView, ...]
    notes: tuple[StepNote, ...]
    troubles: dict[str, tuple[str, ...]]
    cautions: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class ReadingWrite(Write):
    """A torque reading on a joint; ``override`` gives the reason to pass the gate.

    ``accepted``: why a reading above the joint's limit stands. ``clicked``: the wrench clicked at
    its setting, which is the target at the screw; nothing is typed then.
    """

    joint: Key
    text: Text = ""
    system: System = "metric"
    override: Text = ""
    accepted: Text = ""
    clicked: bool = False


@dataclass(frozen=True, kw_only=True)
class WrenchWrite(Write):
    """The linked wrench's reading to a joint; none named: the one that is next."""

    joint: Text = ""
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


@dataclass(frozen=True, kw_only=True)
class StageWrite(Write):
    """A stage that came loose again, and why."""

    stage: Text
    reason: Text = ""


@dataclass(frozen=True, kw_only=True)
class LoosenWrite(Write):
    """Something of the bike that was loosened."""

    name: Text
    what: Loosened = "screw"


@dataclass(frozen=True, kw_only=True)
class CloseWrite(Write):
    """It is closed again: its torque as typed, or what was done."""

    joint: Key
    text: Text = ""
    how: Text = ""
    system: System = "metric"


@dataclass(frozen=True, kw_only=True)
class DamagedWrite(Write):
    """A thread that is damaged, and what was seen."""

    joint: Key
    what: Text = ""


@dataclass(frozen=True, kw_only=True)
class RenewedWrite(Write):
    """A joint that was made good, and how."""

    joint: Key
    how: Text


@dataclass(frozen=True, kw_only=True)
class PassWrite(Write):
    """One finding that is gone past, and why."""

    code: Text
    about: Text = ""
    reason: Text


@dataclass(frozen=True, kw_only=True)
class AnywayWrite(Write):
    """Why it is ridden all the same."""

    reason: Text
