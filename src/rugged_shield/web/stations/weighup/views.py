"""What the maps and the choice of Weigh-up are told, and what they send."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from rugged_shield.core.amounts import System
from rugged_shield.core.assess.frame.ledger import LedgerLine
from rugged_shield.core.assess.weighup.answer import Answer, Blocked
from rugged_shield.core.assess.weighup.effect import WhatIfRow
from rugged_shield.core.assess.weighup.gates import Gate
from rugged_shield.core.assess.weighup.schools import School
from rugged_shield.core.assess.weighup.table import QuantityRow
from rugged_shield.core.job.edits.whatif import MountChange
from rugged_shield.core.mechanics.drawing import Drawing
from rugged_shield.core.result import Figure, Finding, Verdict
from rugged_shield.core.tables.profiles import EnergyClass
from rugged_shield.web.views import FieldView, Key, Text, Write

PlateKey = Annotated[str, StringConstraints(pattern=r"^[A-Za-z0-9_-]{0,60}$")]


@dataclass(frozen=True, kw_only=True)
class StrikeAsk:
    """A strike map asked for: plate (the one in hand unless told), direction, energy, stone.

    Left empty, energy and stone are those of the rider's use.
    """

    plate: PlateKey = ""
    direction: Text = "from below"
    energy: Text = ""
    radius: Text = ""
    system: System = "metric"
    shading: Text = "touches"
    warm: Text = "23"


@dataclass(frozen=True, kw_only=True)
class DifferenceAsk(StrikeAsk):
    """Two plates to hold against each other."""

    other: PlateKey = ""


@dataclass(frozen=True, kw_only=True)
class PointAsk(StrikeAsk):
    """A place on the map, mm: behind the front axle and to the rider's right.

    With a height, the place is meant as seen from ahead, and how far behind is not asked.
    """

    x_mm: Annotated[float, Field(ge=-3000, le=3000)] = 0.0
    y_mm: Annotated[float, Field(ge=-3000, le=3000)] = 0.0
    z_mm: Annotated[float, Field(ge=-3000, le=3000)] | None = None


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
class ScarView:
    """A scar of the old plate and the energy that its dent means."""

    words: str
    energy: Figure | None
    why_not: str


@dataclass(frozen=True, kw_only=True)
class StrikeView:
    """The map of one plate, what it reaches first, what its mounts take.

    ``front``: the same from ahead, for stones that come from there; ``flat``: on the flat pattern.
    """

    plate: str
    plate_key: str
    drawing: Drawing
    front: Drawing | None
    flat: Drawing
    shades: tuple[Shade, ...]
    shaded_by: str
    energy: str
    radius: str
    softens: bool
    shadings: dict[str, str]
    directions: tuple[str, ...]
    plates: dict[str, str]
    figures: tuple[Figure, ...]
    reaches: tuple[ReachRow, ...]
    scars: tuple[ScarView, ...]
    energy_classes: tuple[EnergyClass, ...]
    findings: tuple[Finding, ...]
    verdict: Verdict


@dataclass(frozen=True, kw_only=True)
class DifferenceView:
    """One plate's map against another's."""

    plate: str
    other: str
    drawing: Drawing
    front: Drawing | None
    shades: tuple[Shade, ...]
    figures: tuple[Figure, ...]
    words: str


@dataclass(frozen=True, kw_only=True)
class LoadView:
    """What one mount takes of a blow, beside its least limit."""

    name: str
    casting: bool
    pressed: Figure
    sheared: Figure
    turned: Figure
    share: Figure
    fails: str


@dataclass(frozen=True)
class PointView:
    """One struck place in full."""

    where: str
    figures: tuple[Figure, ...]
    curve: Drawing
    arrows: Drawing
    loads: tuple[LoadView, ...]
    findings: tuple[Finding, ...]


@dataclass(frozen=True)
class CoverAsk:
    """Coverage asked for: a plate (else the one in hand), a direction or the mix, a stone."""

    plate: PlateKey = ""
    direction: Text = ""
    stone: Literal["point", "20 mm stone"] = "point"


@dataclass(frozen=True)
class BareRow:
    """One vital and the share of it that is shielded."""

    part: str
    letter: str
    shielded: Figure


@dataclass(frozen=True, kw_only=True)
class CoverView:
    """Coverage of one plate from one direction or for the profile's mix."""

    plate: str
    plate_key: str
    plates: dict[str, str]
    direction: str
    directions: tuple[str, ...]
    profile: FieldView
    below: Drawing
    ahead: Drawing
    shades: tuple[Shade, ...]
    whole: Figure
    stock: Figure
    vitals: tuple[BareRow, ...]
    bare: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class WhatIfAsk:
    """What is tried on a copy of a plate, as typed; empty leaves it as it is."""

    plate: PlateKey = ""
    thickness: Text = ""
    material: Text = ""
    slider: Text = ""
    slider_thickness: Text = ""
    mount_change: MountChange = ""
    joints: tuple[PlateKey, ...] = ()
    isolator_height: Text = ""
    spring: Text = ""
    wing_longer: Text = ""
    cutout: PlateKey = ""
    heat_foil: bool = False
    system: System = "metric"


@dataclass(frozen=True, kw_only=True)
class WhatIfWrite(Write):
    """The same, to be kept as a candidate."""

    asked: WhatIfAsk


@dataclass(frozen=True, kw_only=True)
class WhatIfView:
    """A copy with what is tried on it, against the plate it was copied from."""

    plate: str
    plate_key: str
    words: str
    rows: tuple[WhatIfRow, ...]
    ledger: tuple[LedgerLine, ...]
    gates: tuple[Gate, ...]
    findings: tuple[Finding, ...]
    verdict: Verdict
    plates: dict[str, str]
    sliders: tuple[str, ...]
    materials: tuple[str, ...]
    joints: dict[str, str]
    cutouts: tuple[str, ...]
    wings: bool


@dataclass(frozen=True)
class WhatIfStrikeView:
    """The maps of original and copy: figures before and after, and the copy's map."""

    drawing: Drawing
    shades: tuple[Shade, ...]
    rows: tuple[WhatIfRow, ...]
    trouble: str


@dataclass(frozen=True)
class SchoolsView:
    """The questions riders answer differently, priced for this bike."""

    schools: tuple[School, ...]


@dataclass(frozen=True, kw_only=True)
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
    verdict: Verdict
    reason: str


@dataclass(frozen=True)
class ToStrike:
    """Plates that are struck before there is an answer."""

    plates: int


@dataclass(frozen=True, kw_only=True)
class AnswerView:
    """Which plate, and what is behind it; ``taken``: the plate that was picked, by key and name.

    ``made_of``: its material and thickness in words.
    """

    answer: Answer
    taken: str
    taken_name: str
    made_of: str
    picture: Drawing | None


@dataclass(frozen=True, kw_only=True)
class DecideView:
    """The ranking under this rider's priorities, and what would change the pick.

    ``same``: where every ranked plate stands alike, said once; ``missing_of_all`` likewise.
    """

    ranking: tuple[RankedView, ...]
    same: tuple[Figure, ...]
    missing_of_all: tuple[str, ...]
    priorities: tuple[FieldView, ...]
    scales: tuple[str, ...]
    shut_out: tuple[Blocked, ...]
    reasons: tuple[str, ...]
    findings: tuple[Finding, ...]


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
    picture: Drawing


@dataclass(frozen=True, kw_only=True)
class WeighupView:
    """Plates in columns, quantities in rows, and what the plate in hand leaves bare.

    ``shared``: what is found of every candidate alike; its columns do not say it again.
    """

    columns: tuple[PlateColumn, ...]
    shared: tuple[Finding, ...]
    rows: tuple[QuantityRow, ...]
    underside: Drawing
    bare: tuple[str, ...]
    pick_reason: FieldView
    use: tuple[FieldView, ...]


@dataclass(frozen=True, kw_only=True)
class PickWrite(Write):
    """A plate to pick or to put in the ledger; an empty plate takes the pick back."""

    plate: Annotated[str, StringConstraints(pattern=r"^[A-Za-z0-9_-]{0,60}$")] = ""
    reason: Text = ""


@dataclass(frozen=True, kw_only=True)
class BundleWrite(Write):
    """A plate to weigh with something it needs, or (not ``add``) without it again."""

    plate: Key
    needs: Literal["bars", "upper bars", "isolators"]
    add: bool = True
