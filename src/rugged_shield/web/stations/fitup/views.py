"""What Kit and Fit-up are told, and what they send."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from pydantic import Field

from rugged_shield.core.amounts import System
from rugged_shield.core.assess.fitup.joints import LengthMark, Span
from rugged_shield.core.assess.fitup.pairs import Pair
from rugged_shield.core.assess.weighup.effect import WhatIfRow
from rugged_shield.core.fitup.gap_seen import LookedWith
from rugged_shield.core.fitup.modification import ChangeKind
from rugged_shield.core.mechanics.drawing import Drawing
from rugged_shield.core.result import Figure, Finding, Verdict
from rugged_shield.web.stations.fitup.far import FarNutView
from rugged_shield.web.views import FieldView, Key, Pixel, SheetTaps, Text, Write


@dataclass(frozen=True, kw_only=True)
class JointSummary:
    """A joint in the list of Fit-up."""

    key: str
    number: int
    name: str
    side: str
    screw: str
    verdict: Verdict
    reason: str


@dataclass(frozen=True, kw_only=True)
class LayerView:
    """A layer with its fields; ``left_out`` ones stay listed."""

    key: str
    kind: str
    name: str
    material: str
    thickness: Figure
    left_out: bool
    fixed: bool
    removable: bool
    fields: tuple[FieldView, ...]


@dataclass(frozen=True, kw_only=True)
class JointDetail:
    """A joint's section, window and layers."""

    key: str
    number: int
    name: str
    verdict: Verdict
    findings: tuple[Finding, ...]
    section: Drawing
    length_mm: float
    length_is: str
    is_stud: bool
    chosen_mm: float | None
    needed_mm: float | None
    allowed_mm: float | None
    shaded_mm: tuple[Span, ...]
    lengths: tuple[LengthMark, ...]
    figures: tuple[Figure, ...]
    layers: tuple[LayerView, ...]
    placing: tuple[FieldView, ...]
    fields: tuple[FieldView, ...]
    stands_in: tuple[str, ...]
    layer_places: dict[str, str]
    layer_place: str
    threads_into: str
    female: tuple[FieldView, ...]
    far: tuple[FarNutView, ...]
    wants_sink: bool
    sink: tuple[FieldView, ...]
    pair: Pair | None


@dataclass(frozen=True)
class JointNotHere:
    """A joint whose condition does not hold on this bike."""

    key: str
    number: int
    name: str
    when: FieldView


@dataclass(frozen=True, kw_only=True)
class FitupView:
    """All joints of the plate in hand, and what a new one can start from."""

    plate: str
    joints: tuple[JointSummary, ...]
    not_here: tuple[JointNotHere, ...]
    mounts: dict[str, str]
    presets: dict[str, str]
    threads: tuple[str, ...]
    stages: dict[str, str]
    pieces: dict[str, str]
    treatments: dict[str, str]
    layer_kinds: tuple[str, ...]
    layer_materials: tuple[str, ...]
    first_layer: FieldView


@dataclass(frozen=True, kw_only=True)
class JointWrite(Write):
    """A joint of one's own from a starting point."""

    preset: Text = ""
    mount: Text = ""
    thread: Text = "M8"
    stage: Text = "stiff"
    x: Text = ""
    y: Text = ""
    joins: Text = ""
    system: System = "metric"


@dataclass(frozen=True, kw_only=True)
class AllJointsWrite(Write):
    """What the sheet says once for all joints: a treatment, torques by size; empty: nothing."""

    treatment: Text = ""
    torques: Text = ""
    system: System = "metric"


@dataclass(frozen=True, kw_only=True)
class LayerWrite(Write):
    """A layer to add behind another one."""

    kind: Text = "spacer"
    material: Text = "steel"
    thickness: Text = ""
    after: Text = ""
    system: System = "metric"


@dataclass(frozen=True, kw_only=True)
class HoleRowView:
    """One hole: its room, what was measured there, what gives."""

    key: str
    number: int
    name: str
    verdict: Verdict
    words: str
    clearance: Figure
    moved: Figure
    seen: bool
    measured: tuple[FieldView, ...]
    gives: tuple[FieldView, ...]


@dataclass(frozen=True)
class RemedyView:
    """One way to let all screws start."""

    kind: str
    joints: tuple[str, ...]
    words: str


@dataclass(frozen=True, kw_only=True)
class FloatView:
    """A hole of a plate that grows."""

    number: int
    cold: Figure
    hot: Figure
    needed: Figure
    now: Figure
    floats: bool


@dataclass(frozen=True, kw_only=True)
class HolesView:
    """All holes of the plate in hand, the move that helps, what to loosen or open."""

    plate: str
    material: str
    drawing: Drawing
    rows: tuple[HoleRowView, ...]
    verdict: Verdict
    findings: tuple[Finding, ...]
    margin: Figure
    unsure: Figure
    move: str
    remedies: tuple[RemedyView, ...]
    located: int | None
    growing: tuple[FloatView, ...]
    sheets: tuple[str, ...]
    cautions: tuple[str, ...]


@dataclass(frozen=True)
class PhotoPair:
    """Two taps at one joint: the middle of its hole, and of the thread behind it."""

    joint: Key
    hole: Pixel
    thread: Pixel


@dataclass(frozen=True, kw_only=True)
class PhotoAsk(SheetTaps):
    """Taps in a photograph: the sheet's corners clockwise from its top left, then the holes."""

    pairs: Annotated[tuple[PhotoPair, ...], Field(max_length=40)]


@dataclass(frozen=True)
class PhotoPlace:
    """Where one thread stands from the middle of its hole."""

    joint: str
    right: Figure
    forward: Figure
    unsure: Figure


@dataclass(frozen=True)
class PhotoView:
    """What the photograph says."""

    places: tuple[PhotoPlace, ...]


@dataclass(frozen=True, kw_only=True)
class PhotoWrite(Write):
    """The same, to be kept."""

    asked: PhotoAsk


@dataclass(frozen=True, kw_only=True)
class GapView:
    """The gap at one joint, and what closing it eats."""

    key: str
    number: int
    name: str
    gap: Figure
    reach: Figure
    words: str
    eaten: Figure
    fields: tuple[FieldView, ...]


@dataclass(frozen=True)
class TurnView:
    """One screw at its turn."""

    number: int
    starts: bool
    gap: Figure
    words: str


@dataclass(frozen=True, kw_only=True)
class SchoolView:
    """An order of drawing the plate home."""

    key: str
    label: str
    order: tuple[str, ...]
    all_start: bool
    is_plan: bool
    against: tuple[str, ...]
    most: Figure
    turns: tuple[TurnView, ...]


@dataclass(frozen=True, kw_only=True)
class OrderView:
    """Gaps, orders, what helps."""

    plate: str
    gaps: tuple[GapView, ...]
    schools: tuple[SchoolView, ...]
    cures: tuple[str, ...]
    findings: tuple[Finding, ...]
    verdict: Verdict
    not_known: str
    chosen: bool


@dataclass(frozen=True, kw_only=True)
class OrderWrite(Write):
    """Joints in the order in which they are torqued, and in which they are started."""

    order: Annotated[tuple[Key, ...], Field(max_length=60)] = ()
    starts: Annotated[tuple[Key, ...], Field(max_length=60)] = ()


@dataclass(frozen=True, kw_only=True)
class NeighbourView:
    """A neighbour: its gap, what it wants, a strip of its motion."""

    key: str
    name: str
    state: str
    gap: Figure
    wanted: Figure
    how: str
    verdict: Verdict
    findings: tuple[Finding, ...]
    film: Drawing | None
    looked: bool
    fields: tuple[FieldView, ...]


@dataclass(frozen=True, kw_only=True)
class NeighboursView:
    """All neighbours of the plate in hand."""

    plate: str
    rows: tuple[NeighbourView, ...]
    listed: int
    more_usual: bool
    verdict: Verdict
    boot: FieldView
    glove: FieldView
    cautions: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class LookWrite(Write):
    """How close a neighbour comes, as looked at."""

    looked_with: LookedWith
    text: Text = ""
    system: System = "metric"


@dataclass(frozen=True)
class TypedPlace:
    """A place in the flat pattern as typed: rearward, and to the rider's right."""

    x: Text
    y: Text


@dataclass(frozen=True, kw_only=True)
class ChangeAsk:
    """A change of the plate, as typed."""

    kind: ChangeKind
    panel: Text = ""
    points: Annotated[tuple[TypedPlace, ...], Field(max_length=60)] = ()
    wide: Text = ""
    long: Text = ""
    lengthwise: bool = True
    pitch: Text = ""
    staggered: bool = True
    thick: Text = ""
    turn: Text = ""
    joints: Annotated[tuple[Key, ...], Field(max_length=60)] = ()
    what: Text = ""
    why: Text = ""
    system: System = "metric"


@dataclass(frozen=True, kw_only=True)
class ChangeWrite(Write):
    """The same, to be made."""

    asked: ChangeAsk


@dataclass(frozen=True, kw_only=True)
class DoneWrite(Write):
    """Whether a change is carried out."""

    done: bool


@dataclass(frozen=True)
class ChangeLine:
    """A change of the plate: what, why, what to mind, done or not."""

    key: str
    words: str
    why: str
    caution: str
    done: bool


@dataclass(frozen=True, kw_only=True)
class ChangesView:
    """The flat plate and its changes; ``outline``: what is to be doubted of its shape."""

    plate: str
    drawing: Drawing
    panels: tuple[str, ...]
    joints: dict[str, str]
    bends: dict[str, str]
    sides: dict[str, str]
    sleeves: dict[str, str]
    changes: tuple[ChangeLine, ...]
    words_only: tuple[str, ...]
    law: str
    outline: str


@dataclass(frozen=True)
class PlaceAsk:
    """A tap on the flat drawing, in the drawing's own mm."""

    x_drawn: float
    y_drawn: float


@dataclass(frozen=True)
class FlatPlaceView:
    """The same place as it is typed."""

    x_metric: str
    y_metric: str
    x_us: str
    y_us: str


@dataclass(frozen=True, kw_only=True)
class EffectView:
    """A change before it is taken: what it does to the plate, its joints, the verdict."""

    words: str
    drawing: Drawing
    rows: tuple[WhatIfRow, ...]
    joints: tuple[str, ...]
    findings: tuple[Finding, ...]
    caution: str
    law: str
    verdict: Verdict


@dataclass(frozen=True)
class EffectStrikeView:
    """A blow before and after the change."""

    rows: tuple[WhatIfRow, ...]
    trouble: str
