"""What screens are told: dataclasses made of the core's own results."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from rugged_shield.core.amounts import System, show
from rugged_shield.core.assess.frame.ledger import LedgerLine
from rugged_shield.core.assess.frame.next_act import NextAct
from rugged_shield.core.assess.frame.stations import StationState
from rugged_shield.core.figures import figure
from rugged_shield.core.judgement.known import Known
from rugged_shield.core.kit.read_list import MAX_LETTERS
from rugged_shield.core.mechanics.drawing import Drawing
from rugged_shield.core.result import Figure
from rugged_shield.core.survey.lens import LensSeen
from rugged_shield.core.survey.photo_outline import SeenFrom

Key = Annotated[str, StringConstraints(pattern=r"^[A-Za-z0-9_:-]{1,80}$")]
PastedText = Annotated[str, StringConstraints(max_length=MAX_LETTERS)]
"""A list or table as somebody pasted it."""
Text = Annotated[str, StringConstraints(max_length=400)]
Pixel = tuple[float, float]
"""A place in a picture, right and down from its top left."""
IdempotencyKey = Annotated[str, StringConstraints(pattern=r"^[A-Za-z0-9-]{8,64}$")]
LATEST_S = 30 * 24 * 3600


@dataclass(frozen=True, kw_only=True)
class FieldView:
    """One editable field: where it is, what it shows in both systems, what is allowed.

    ``known`` and the notes say how a number is known and within which band;
    ``takes`` is the unit in which it can take a reading of an instrument, ``axis`` the
    bike's axis that a place is measured along, or "depth" into a thread.
    """

    path: str
    name: str
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
    axis: Literal["", "x", "y", "z", "depth"] = ""


@dataclass(frozen=True)
class ItemView:
    """A thing in one of the job's lists, with its fields; ``where`` names the list."""

    key: str
    where: str
    name: str
    note: str
    fields: tuple[FieldView, ...]


@dataclass(frozen=True)
class PlateName:
    """A plate that can be taken in hand."""

    key: str
    name: str


@dataclass(frozen=True, kw_only=True)
class Frame:
    """What every screen of a job shows: version, ledger, stations, the last act."""

    id: str
    version: int
    title: str
    bike: str
    plate: str
    plate_key: str
    plates: tuple[PlateName, ...]
    picked: bool
    ledger: tuple[LedgerLine, ...]
    stations: tuple[StationState, ...]
    last_act: str
    undo: str
    redo: str
    open_on_bike: tuple[str, ...]
    next: NextAct


@dataclass(frozen=True)
class SavedView:
    """The answer to every write: what was done, and the frame after it."""

    version: int
    words: str
    frame: Frame


@dataclass(frozen=True, kw_only=True)
class Write:
    """What every write carries: the version it is based on and a key of its own."""

    version: int
    key: IdempotencyKey
    late_s: Annotated[int, Field(ge=0, le=LATEST_S)] = 0
    """How long ago it was done: a phone without a link sends it later."""


@dataclass(frozen=True, kw_only=True)
class FieldWrite(Write):
    """New text for one field, in the system the person works in.

    ``known``: how the person says the number is known; None: as its section has it.
    """

    path: Text
    text: Text
    system: System = "metric"
    instrument: Text = ""
    resolution: float | None = None
    at: Text = ""
    known: Known | None = None


@dataclass(frozen=True)
class CsvText:
    """A pasted list."""

    text: PastedText = ""
    system: System = "metric"


@dataclass(frozen=True)
class CsvLineView:
    """One line of a pasted list: what is understood of it, or what is wrong.

    ``sure`` False: how many is not said, or a number could be two things.
    """

    row: int
    words: str
    trouble: str
    assumed: str
    sure: bool = True


@dataclass(frozen=True)
class CsvPreview:
    """What a pasted list would become."""

    lines: tuple[CsvLineView, ...]
    good: int
    bad: int
    columns: dict[str, str]
    separator: str


@dataclass(frozen=True)
class PhotoKept:
    """A picture kept beside the job."""

    id: str


@dataclass(frozen=True, kw_only=True)
class SheetTaps:
    """Taps in a photograph: which sheet lies in it, its corners clockwise from its top left.

    ``click_u_px``: how far a tap may be off, in pixels of the picture; ``picture``: its size;
    ``edges``: a tap on each edge of the sheet, none where they were left out.
    """

    sheet: Text
    corners: Annotated[tuple[Pixel, ...], Field(max_length=4)]
    edges: Annotated[tuple[Pixel, ...], Field(max_length=4)] = ()
    picture: Pixel | None = None
    seen_from: SeenFrom = "below"
    click_u_px: float = 2.0

    def lens(self) -> LensSeen | None:
        """What was seen of the lens; None where not even the picture's size is told."""
        if self.picture is None:
            return None
        return LensSeen(picture_px=self.picture, edges_px=self.edges)


@dataclass(frozen=True)
class SizeAsk:
    """A size to ask for: its field, what it is, what is taken where nobody knows it, a sketch."""

    key: str
    label: str
    usual: Figure
    sketch: Drawing | None = None


def size_figure(key: str, value_mm: float) -> Figure:
    """A usual size, mm, as what it is: assumed."""
    usual = figure(key, "as usual", value_mm, "mm", assumptions=("usual for it; not measured",))
    return replace(usual, metric=show(value_mm, "mm", decimals=0 if value_mm > 30.0 else 1))
