"""What the Survey's screens are told, and what they send."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from rugged_shield.core.amounts import System
from rugged_shield.core.assess.survey.measure_next import NumberToMeasure
from rugged_shield.core.assess.weighup.mass_budget import BudgetLine
from rugged_shield.core.mechanics.drawing import Drawing
from rugged_shield.core.result import Figure, Finding, FindingCode, Verdict
from rugged_shield.core.survey.underside import Underside
from rugged_shield.web.views import FieldView, ItemView, Key, Pixel, SheetTaps, Text, Write

FileText = Annotated[str, StringConstraints(max_length=4_200_000)]


@dataclass(frozen=True)
class BudgetView:
    """Everything added to the bike, and how far it sinks."""

    lines: tuple[BudgetLine, ...]
    masses: tuple[Figure, ...]
    total: Figure
    front_sag: Figure
    rear_sag: Figure


@dataclass(frozen=True)
class PlateHead:
    """A plate of the job in a list."""

    key: str
    name: str
    role: str
    in_hand: bool


@dataclass(frozen=True)
class TouchRow:
    """Something that touches, front to rear, with the plate in hand."""

    name: str
    x: Figure
    height: Figure
    breakover: Figure


@dataclass(frozen=True, kw_only=True)
class SurveyView:
    """The bike from below and from the side, and every number behind it."""

    underside: Drawing
    profile: Drawing
    parts: tuple[PartView, ...]
    mounts: tuple[PartView, ...]
    bike: tuple[FieldView, ...]
    more: tuple[FieldView, ...]
    baseline: tuple[FieldView, ...]
    joints: tuple[ItemView, ...]
    low: Figure
    breakover: Figure
    plates: tuple[PlateHead, ...]
    stock_key: str


@dataclass(frozen=True, kw_only=True)
class UndersideView:
    """What the underside does, scars of the old plate, sag and what was added."""

    plate: str
    touches: tuple[TouchRow, ...]
    underside: Underside
    oil: Figure
    names: dict[str, str]
    findings: tuple[Finding, ...]
    below: Drawing
    stock_below: Drawing
    scars: tuple[ItemView, ...]
    faults: tuple[ItemView, ...]
    photo_of: dict[str, str]
    sag: tuple[FieldView, ...]
    added: tuple[ItemView, ...]
    budget: BudgetView


@dataclass(frozen=True)
class HeldNumber:
    """A number that the gate waits for: where it stands, in words, and how it is known now."""

    path: str
    words: str
    known: str


@dataclass(frozen=True)
class HeldFinding:
    """What holds from riding until a number is known better, and which would settle it."""

    code: FindingCode
    about: str
    words: str
    remedy: str
    numbers: tuple[HeldNumber, ...]


@dataclass(frozen=True)
class MeasureNextView:
    """What to measure next: what holds from riding, then what could overturn, gravest first."""

    holds: tuple[HeldFinding, ...]
    numbers: tuple[NumberToMeasure, ...]
    uncertain: int
    unknown: tuple[Finding, ...]


@dataclass(frozen=True)
class SketchView:
    """From where to where to hold the tape, and the same in words."""

    drawing: Drawing
    words: str


@dataclass(frozen=True)
class FieldGroup:
    """Fields of a plate that belong together; a removable one can be taken off."""

    key: str
    title: str
    fields: tuple[FieldView, ...]
    removable: bool


@dataclass(frozen=True, kw_only=True)
class PlateView:
    """A plate as entered: fields, drawings, measures and what speaks against it."""

    key: str
    name: str
    role: str
    picked: bool
    groups: tuple[FieldGroup, ...]
    cutouts: tuple[ItemView, ...]
    pieces: tuple[ItemView, ...]
    panels: tuple[str, ...]
    reusable: dict[str, str]
    can_add: dict[str, str]
    flat: Drawing
    views: tuple[Drawing, ...]
    measures: tuple[Figure, ...]
    findings: tuple[Finding, ...]
    verdict: Verdict
    notes: tuple[str, ...]
    joints: int
    lines: int


@dataclass(frozen=True)
class CompareView:
    """Two plates in plain quantities: each with its ratio, its base and what it means."""

    first: str
    second: str
    rows: tuple[Figure, ...]
    sentences: tuple[str, ...]


@dataclass(frozen=True)
class PairView:
    """A pair of readings as shown."""

    key: str
    with_plate: Figure
    without_plate: Figure
    difference: Figure
    instrument: str


@dataclass(frozen=True, kw_only=True)
class WeighingItem:
    """One weighing: its setting, its pairs, and what they say."""

    key: str
    name: str
    fields: tuple[FieldView, ...]
    pairs: tuple[PairView, ...]
    figures: tuple[Figure, ...]
    findings: tuple[Finding, ...]
    warnings: tuple[str, ...]
    verdict: Verdict
    words: str


@dataclass(frozen=True)
class WeighingsView:
    """All weighings of the job, and the plates that can be weighed."""

    weighings: tuple[WeighingItem, ...]
    plates: tuple[PlateHead, ...]


@dataclass(frozen=True, kw_only=True)
class StripView:
    """The list of stripping: what to undo, what was found, which photos there are."""

    plate: str
    cautions: tuple[str, ...]
    items: tuple[ItemView, ...]
    kinds: tuple[str, ...]
    done: int
    to_bag: int
    photo_of: dict[str, str]
    photos: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class FaultWrite(Write):
    """A tap on the underside, in the drawing's own mm."""

    x_drawn: float
    y_drawn: float


@dataclass(frozen=True, kw_only=True)
class AddWrite(Write):
    """A new item in a list: from nothing, a copy of ``like``, or its mirror image."""

    where: Text
    like: Annotated[str, StringConstraints(pattern=r"^[A-Za-z0-9_-]{0,60}$")] = ""
    mirror: bool = False


@dataclass(frozen=True, kw_only=True)
class NameWrite(Write):
    """A name for something new."""

    name: Text = ""


@dataclass(frozen=True, kw_only=True)
class PanelWrite(Write):
    """A panel or slider to put on a plate or to take off."""

    panel: Text
    there: bool = True


@dataclass(frozen=True, kw_only=True)
class ReuseWrite(Write):
    """What of the stock plate goes on with this one."""

    item: Text


@dataclass(frozen=True, kw_only=True)
class OutlineWrite(Write):
    """A traced outline as the text of a DXF or SVG file, and how it is to be read."""

    kind: Literal["dxf", "svg"]
    text: FileText
    unit: Literal["", "mm", "cm", "m", "in"] = ""
    front: Literal["top", "bottom", "left", "right"] = "top"
    seen: Literal["from below", "from above"] = "from below"
    becomes: Literal["belly", "piece"] = "belly"


@dataclass(frozen=True, kw_only=True)
class PairWrite(Write):
    """A pair of readings as typed or taken."""

    with_text: Text = ""
    without_text: Text = ""
    system: System = "metric"
    instrument: Text = ""
    at: Text = ""


@dataclass(frozen=True)
class WhatIf:
    """A field as it is being typed: shown, not saved."""

    path: Text
    text: Text
    system: System = "metric"


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
    rest: tuple[FieldView, ...] = ()
    decides: str = ""


@dataclass(frozen=True)
class HoleTap:
    """Two taps at a round hole: its middle, a point of its rim."""

    middle: Pixel
    rim: Pixel


@dataclass(frozen=True, kw_only=True)
class PhotoOutlineAsk(SheetTaps):
    """Taps in a photograph: the sheet's corners clockwise from its top left, plate, holes."""

    outline: Annotated[tuple[Pixel, ...], Field(max_length=200)]
    holes: Annotated[tuple[HoleTap, ...], Field(max_length=60)] = ()


@dataclass(frozen=True, kw_only=True)
class PhotoOutlineWrite(Write):
    """The same, to become the belly or a further piece."""

    asked: PhotoOutlineAsk
    becomes: Literal["belly", "piece"] = "belly"


@dataclass(frozen=True, kw_only=True)
class PhotoOutlineView:
    """What a photograph says of a plate: drawn, with its sizes and how sure they are."""

    drawing: Drawing
    figures: tuple[Figure, ...]


@dataclass(frozen=True)
class MountTap:
    """A mount and where it was tapped."""

    mount: Key
    at: Pixel


@dataclass(frozen=True, kw_only=True)
class PhotoMountsAsk(SheetTaps):
    """Taps in a photograph of the underside: the sheet, a mount that is known, others."""

    known: MountTap
    mounts: Annotated[tuple[MountTap, ...], Field(max_length=60)]


@dataclass(frozen=True, kw_only=True)
class PhotoMountsWrite(Write):
    """The same, to be kept."""

    asked: PhotoMountsAsk


@dataclass(frozen=True)
class PhotoMount:
    """Where a photograph has a mount."""

    mount: str
    number: int
    x: Figure
    y: Figure
    unsure: Figure


@dataclass(frozen=True)
class PhotoMountsView:
    """What a photograph says of the mounts."""

    places: tuple[PhotoMount, ...]


@dataclass(frozen=True)
class PhotoSheets:
    """The sheets that may lie in a photograph, and the mounts that can be tapped."""

    sheets: tuple[str, ...]
    mounts: dict[str, str]
