"""What Keep is told, and what it sends."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from pydantic import Field

from rugged_shield.core.amounts import System
from rugged_shield.core.assess.gate.ready import Ready
from rugged_shield.core.assess.keep.due import Recheck
from rugged_shield.core.assess.keep.history import Moment
from rugged_shield.core.assess.keep.mass_years import MassMoment
from rugged_shield.core.assess.keep.pick import BackToStock, Became
from rugged_shield.core.assess.kit.debts import Debt
from rugged_shield.core.keep.due import DueState
from rugged_shield.core.keep.dues import Due
from rugged_shield.core.keep.events import LockNuts
from rugged_shield.core.keep.warmth import Warmer
from rugged_shield.core.mechanics.drawing import Drawing
from rugged_shield.core.result import Figure, Finding, Verdict
from rugged_shield.web.views import FieldView, Key, Text, Write


@dataclass(frozen=True, kw_only=True)
class TorquePoint:
    """One torque of a joint: when, how much, and what it was."""

    at: str
    torque: Figure
    what: str


@dataclass(frozen=True, kw_only=True)
class RecheckView:
    """A joint at the re-check with its torque over time and its band."""

    recheck: Recheck
    low: Figure
    high: Figure
    points: tuple[TorquePoint, ...]


@dataclass(frozen=True, kw_only=True)
class BlowView:
    """A blow on the plate, numbered as on the drawing."""

    seq: int
    number: int
    at: str
    felt: str
    note: str
    dent: Figure
    room: Figure
    left: Figure
    near: str
    energy: str
    act: str
    verdict: Verdict
    findings: tuple[Finding, ...]


@dataclass(frozen=True, kw_only=True)
class WearPoint:
    """A thickness as it was read, at a counter."""

    km: float
    thickness_mm: float


@dataclass(frozen=True, kw_only=True)
class WornView:
    """A worn place: its readings, its limit, the line to it and how sure it is."""

    place: str
    points: tuple[WearPoint, ...]
    limit_mm: float
    figures: tuple[Figure, ...]
    end_km: tuple[float | None, float | None, float | None]
    reasons: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class KeepView:
    """What is due, what was, and what became of the plate."""

    plate: str
    fitted: bool
    due: DueState
    dues: tuple[Due, ...]
    joints: tuple[RecheckView, ...]
    odometer: FieldView
    customer: FieldView
    km: Figure
    now: str
    moments: tuple[Moment, ...]
    struck: Drawing
    blows: tuple[BlowView, ...]
    felt: tuple[str, ...]
    mended: tuple[str, ...]
    worn: tuple[WornView, ...]
    warmth: Warmer
    became: tuple[Became, ...]
    mass_years: tuple[MassMoment, ...]
    back: BackToStock
    looks: dict[str, str]
    after_blow: tuple[str, ...]
    cautions: tuple[str, ...]
    debts: tuple[Debt, ...]
    oil_joints: tuple[str, ...]
    lock_nuts: tuple[str, ...]
    ready: Ready


@dataclass(frozen=True, kw_only=True)
class BlowAsk:
    """The blow that is asked about, by its line of the record."""

    seq: int


@dataclass(frozen=True, kw_only=True)
class MountTook:
    """What one mount took of a blow, of its limit."""

    name: str
    share: Figure
    fails: str
    verdict: Verdict


@dataclass(frozen=True, kw_only=True)
class BlowDetailView:
    """A blow run through the plate's own shell."""

    energy: str
    mounts: tuple[MountTook, ...]
    why_not: str
    findings: tuple[Finding, ...]


@dataclass(frozen=True, kw_only=True)
class KmWrite(Write):
    """The bike's counter now."""

    text: Text = ""
    system: System = "metric"


@dataclass(frozen=True, kw_only=True)
class FoundWrite(Write):
    """A torque found on a joint, as typed; what it was tightened to, or that it did not move."""

    joint: Key
    text: Text = ""
    tightened: Text = ""
    held: bool = False
    system: System = "metric"


@dataclass(frozen=True, kw_only=True)
class RideWrite(Write):
    """A ride as typed: km, hours, or both."""

    km: Text = ""
    hours: Text = ""
    system: System = "metric"


@dataclass(frozen=True, kw_only=True)
class BlowWrite(Write):
    """A blow where the drawing was tapped."""

    x_drawn: float
    y_drawn: float
    felt: Text = "not felt"
    dent: Text = ""
    note: Text = ""
    system: System = "metric"


@dataclass(frozen=True, kw_only=True)
class LookedOverWrite(Write):
    """What was looked at, and what was found."""

    looked: Annotated[tuple[Text, ...], Field(max_length=40)] = ()
    found: Text = ""


@dataclass(frozen=True, kw_only=True)
class OilWrite(Write):
    """An oil change: minutes, what came off, what was looked at on the way.

    ``joints``: those that came off; None: nobody said. ``nuts``: what became of their lock nuts.
    """

    minutes: Text = ""
    came_off: Text = ""
    joints: Annotated[tuple[Key, ...], Field(max_length=100)] | None = None
    nuts: LockNuts = "not said"


@dataclass(frozen=True, kw_only=True)
class WearWrite(Write):
    """A thickness as read."""

    place: Text
    text: Text = ""
    system: System = "metric"


@dataclass(frozen=True, kw_only=True)
class PartWrite(Write):
    """A part replaced, straightened or turned."""

    what: Text
    done: Text = "replaced"
    cost: Text = ""


@dataclass(frozen=True, kw_only=True)
class WarmthWrite(Write):
    """How warm it ran."""

    with_plate: bool
    air: Text = ""
    running: Text = ""
    fan: Text = ""
    ride: Text = ""
    system: System = "metric"


@dataclass(frozen=True, kw_only=True)
class NoteWrite(Write):
    """A note, with the id of a kept picture, at a step of the plan."""

    text: Text = ""
    photo: Text = ""
    step: Text = ""


@dataclass(frozen=True, kw_only=True)
class SnoozeWrite(Write):
    """Something due is put off."""

    due: Text
    until_km: Text = ""
    until: Text = ""
    reason: Text = ""
    system: System = "metric"


@dataclass(frozen=True, kw_only=True)
class VoidWrite(Write):
    """A line that does not count."""

    seq: int
    reason: Text = ""
