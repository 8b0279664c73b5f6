"""What screens are told: dataclasses made of the core's own results."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Annotated, Any, Literal

from pydantic import StringConstraints

from rugged_shield.core.assess.frame import LedgerLine, StationState
from rugged_shield.core.assess.weighup import Gate
from rugged_shield.core.keep import DueState, FittedJoint
from rugged_shield.core.mechanics.drawing import Drawing
from rugged_shield.core.quantity import System
from rugged_shield.core.result import Figure, Finding, Verdict
from rugged_shield.core.tighten import GateState, Record, Step, TorqueCard

Key = Annotated[str, StringConstraints(pattern=r"^[A-Za-z0-9_:-]{1,80}$")]
Text = Annotated[str, StringConstraints(max_length=400)]
IdempotencyKey = Annotated[str, StringConstraints(pattern=r"^[A-Za-z0-9-]{8,64}$")]


@dataclass(frozen=True, kw_only=True)
class FieldView:
    """One editable field: where it is, what it shows in both systems, what is allowed.

    ``known`` and the notes say how a number is known and within which band;
    ``takes`` is the unit in which it can take a reading of an instrument.
    """

    path: str
    label: str
    kind: Literal["number", "text", "choice", "yes or no"]
    metric: str
    us: str
    unit_metric: str
    unit_us: str
    allowed_metric: str
    allowed_us: str
    choices: tuple[str, ...] = ()
    known: str = ""
    note_metric: str = ""
    note_us: str = ""
    takes: str = ""


@dataclass(frozen=True, kw_only=True)
class JobSummary:
    """One line of the work list."""

    id: str
    title: str
    bike: str
    plate: str
    stands: str
    station: str
    due: str
    due_verdict: Verdict
    stations: tuple[StationState, ...]


@dataclass(frozen=True)
class JobList:
    """The work list."""

    jobs: tuple[JobSummary, ...]


@dataclass(frozen=True)
class Brought:
    """A job that came in as a file."""

    id: str
    title: str


@dataclass(frozen=True, kw_only=True)
class Frame:
    """What every screen of a job shows: version, ledger, stations, the last act."""

    id: str
    version: int
    title: str
    bike: str
    plate: str
    plate_key: str
    picked: bool
    ledger: tuple[LedgerLine, ...]
    stations: tuple[StationState, ...]
    last_act: str
    undo: str
    redo: str


@dataclass(frozen=True)
class SavedView:
    """The answer to every write: what was done, and the frame after it."""

    version: int
    words: str
    frame: Frame


@dataclass(frozen=True, kw_only=True)
class PartView:
    """A part or mount of the bike with its fields."""

    key: str
    mark: str
    name: str
    kind: str
    side: str
    known: str
    fields: tuple[FieldView, ...]


@dataclass(frozen=True, kw_only=True)
class PlateColumn:
    """A plate's head in the comparison."""

    key: str
    name: str
    role: str
    material: str
    form: str
    mounting: str
    verdict: Verdict
    reason: str
    findings: tuple[Finding, ...]
    picked: bool
    in_hand: bool
    fields: tuple[FieldView, ...]
    gates: tuple[Gate, ...]
    bought: tuple[str, ...]


@dataclass(frozen=True)
class QuantityRow:
    """One quantity over all plates; ``group`` gathers rows.

    ``best`` and ``worst`` name the plates, stock apart; empty where nothing is better.
    """

    key: str
    group: str
    label: str
    cells: tuple[Figure, ...]
    best: tuple[str, ...] = ()
    worst: tuple[str, ...] = ()


@dataclass(frozen=True)
class WeighupView:
    """Plates in columns, quantities in rows, and what the plate in hand leaves bare."""

    columns: tuple[PlateColumn, ...]
    rows: tuple[QuantityRow, ...]
    creeper: Drawing
    bare: tuple[str, ...]
    pick_reason: FieldView
    use: tuple[FieldView, ...]


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
    started: bool
    reading: Figure | None
    history: tuple[Record, ...]
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
    creeper: Drawing
    cards: tuple[CardView, ...]
    gates: tuple[GateState, ...]
    steps: tuple[StepView, ...]
    at: int
    minutes: float
    wrench: tuple[FieldView, ...]


@dataclass(frozen=True)
class KeepJoint:
    """A joint at the re-check."""

    joint: FittedJoint
    target: Figure
    found: Figure | None
    verdict: Verdict
    words: str


@dataclass(frozen=True, kw_only=True)
class KeepView:
    """What is due, and every joint's found torque."""

    plate: str
    due: DueState
    joints: tuple[KeepJoint, ...]
    odometer: FieldView
    km: Figure
    records: tuple[Record, ...]
    cautions: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class Write:
    """What every write carries: the version it is based on and a key of its own."""

    version: int
    key: IdempotencyKey


@dataclass(frozen=True, kw_only=True)
class FieldWrite(Write):
    """New text for one field, in the system the person works in."""

    path: Text
    text: Text
    system: System = "metric"
    instrument: Text = ""
    resolution: float | None = None
    at: Text = ""


@dataclass(frozen=True, kw_only=True)
class PickWrite(Write):
    """A plate to pick or to put in the ledger; an empty plate takes the pick back."""

    plate: Annotated[str, StringConstraints(pattern=r"^[A-Za-z0-9_-]{0,60}$")] = ""
    reason: Text = ""


@dataclass(frozen=True, kw_only=True)
class BundleWrite(Write):
    """A plate to weigh with something it needs, or (``drop``) without it again."""

    plate: Key
    needs: Literal["bars", "isolators"]
    drop: bool = False


@dataclass(frozen=True, kw_only=True)
class ReadingWrite(Write):
    """A torque reading on a joint; ``override`` gives the reason to pass the gate."""

    joint: Key
    text: Text = ""
    system: System = "metric"
    override: Text = ""


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
class KmWrite(Write):
    """The bike's counter now."""

    text: Text = ""
    system: System = "metric"


@dataclass(frozen=True, kw_only=True)
class CalcAnswer:
    """The answer of a computation."""

    result: Any
    verdict: Verdict
    findings: tuple[Finding, ...] = ()
    reasons: tuple[str, ...] = ()
    assumptions: tuple[str, ...] = ()
    warnings: tuple[str, ...] = ()
    sources: tuple[Any, ...] = field(default_factory=tuple)
