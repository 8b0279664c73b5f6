"""What Kit is told, and what it sends."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from pydantic import StringConstraints

from rugged_shield.core.amounts import System
from rugged_shield.core.assess.kit.buying import ToBuy
from rugged_shield.core.assess.kit.carry import LoosePart
from rugged_shield.core.assess.kit.debts import Debt
from rugged_shield.core.assess.kit.tools import ToolSum
from rugged_shield.core.kit.hardware import LineState
from rugged_shield.core.mechanics.drawing import Drawing
from rugged_shield.core.result import Source, Verdict
from rugged_shield.web.views import FieldView, ItemView, Key, PastedText, Text, Write


@dataclass(frozen=True, kw_only=True)
class CsvWrite(Write):
    """A pasted list to take in, all lines that are understood."""

    text: PastedText = ""
    system: System = "metric"


@dataclass(frozen=True, kw_only=True)
class KitLineView:
    """One line of the kit: as listed, as counted."""

    key: str
    kind: str
    name: str
    size: str
    head: str
    grade: str
    count: int
    already_fitted: int
    state: LineState
    fields: tuple[FieldView, ...]
    more: tuple[FieldView, ...]
    applies: bool
    when: str
    bag: str
    came: str
    alike: tuple[Alike, ...]
    drawing: Drawing | None


@dataclass(frozen=True)
class Alike:
    """Another line that this one must not be swapped with, and what tells them apart."""

    key: str
    name: str
    words: str


@dataclass(frozen=True, kw_only=True)
class PlaceView:
    """A place of a joint: what it asks for, which line gives it, which lines could go there.

    ``debt``: the substitute that stands in it.
    """

    part: str
    what: str
    kind: str
    line: str
    could: tuple[str, ...]
    debt: str
    drawing: Drawing | None


@dataclass(frozen=True, kw_only=True)
class KitJointView:
    """A joint as Kit sees it: its places, its verdict, whether it is only proposed."""

    key: str
    number: int
    name: str
    side: str
    proposed: bool
    verdict: Verdict
    words: tuple[str, ...]
    places: tuple[PlaceView, ...]


@dataclass(frozen=True, kw_only=True)
class SheetView:
    """The plate's sheet: its fields, and its pages as pictures."""

    fields: tuple[FieldView, ...]
    pages: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class KitView:
    """The kit of the plate in hand, joint by joint, and what has to be bought."""

    plate: str
    cautions: tuple[str, ...]
    lines: tuple[KitLineView, ...]
    joints: tuple[KitJointView, ...]
    uncounted: int
    free_mounts: int
    debts: tuple[Debt, ...]
    buy: tuple[ToBuy, ...]
    sheet: SheetView
    layer_materials: tuple[str, ...]
    nuts: tuple[str, ...]
    kinds: tuple[str, ...]
    threads: tuple[str, ...]
    heads: tuple[str, ...]
    grades: tuple[str, ...]
    head_forms: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class CountWrite(Write):
    """A count for one line of the kit; empty text takes the count back."""

    line: Key
    text: Text


@dataclass(frozen=True, kw_only=True)
class LineWrite(Write):
    """A new line of the kit, as typed."""

    kind: Text = ""
    name: Text = ""
    thread: Text = ""
    length: Text = ""
    head: Text = ""
    grade: Text = ""
    count: Text = "1"
    drive: Text = ""
    when: Text = ""
    system: System = "metric"


@dataclass(frozen=True, kw_only=True)
class CountAllWrite(Write):
    """Lines that are all there; none named: every line that is not counted yet."""

    lines: tuple[Key, ...] = ()


@dataclass(frozen=True, kw_only=True)
class PutWrite(Write):
    """A line that a place of a joint takes."""

    line: Key
    joint: Key
    part: Key = "screw"


@dataclass(frozen=True, kw_only=True)
class LookedAtWrite(Write):
    """A joint that was looked at; none named: all that were proposed."""

    joint: Annotated[str, StringConstraints(pattern=r"^[A-Za-z0-9_:-]{0,80}$")] = ""


@dataclass(frozen=True, kw_only=True)
class SubstituteWrite(Write):
    """A part that stands in for a joint's own, as typed; empty: as it was."""

    joint: Key
    part: Key = "screw"
    name: Text = ""
    length: Text = ""
    head: Text = ""
    grade: Text = ""
    nut: Text = ""
    material: Text = ""
    thickness: Text = ""
    outer: Text = ""
    hole: Text = ""
    for_good: bool = False
    replace_by: Text = ""
    note: Text = ""
    system: System = "metric"


@dataclass(frozen=True)
class ChangeView:
    """One change of a revised sheet: which, in words, and the joints that its line serves."""

    key: str
    kind: str
    name: str
    words: str
    joints: tuple[int, ...]


@dataclass(frozen=True)
class RevisionView:
    """What a revised list would alter; ``bad`` rows are not understood and stay out."""

    changes: tuple[ChangeView, ...]
    same: int
    bad: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class RevisionWrite(Write):
    """A revised list, and the changes of it that are taken."""

    text: PastedText = ""
    take: tuple[Annotated[str, StringConstraints(max_length=120)], ...] = ()
    system: System = "metric"


@dataclass(frozen=True)
class PagesKept:
    """Ids of the pages that were kept beside the job."""

    ids: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class ToolWrite(Write):
    """A tool that one has, and where it lies."""

    tool: Text
    place: Text = "garage"


@dataclass(frozen=True, kw_only=True)
class PageWrite(Write):
    """A page of the sheet: a picture that is kept beside the job."""

    photo: Annotated[str, StringConstraints(pattern=r"^[0-9a-f]{20}$")]


@dataclass(frozen=True, kw_only=True)
class SideView:
    """One side of a joint: its tools, those that get in, and what keeps others out."""

    tools: tuple[str, ...]
    fits: tuple[str, ...]
    words: str
    known: bool


@dataclass(frozen=True, kw_only=True)
class JointToolsView:
    """The tools of one joint, and the fields that decide which get in."""

    joint: int
    name: str
    turned: SideView
    held: SideView | None
    special: str
    fields: tuple[FieldView, ...]


@dataclass(frozen=True, kw_only=True)
class SpareView:
    """A screw to carry: what, how many, for which joints, drawn to scale."""

    what: str
    drive: str
    count: int
    joints: tuple[int, ...]
    drawing: Drawing | None


@dataclass(frozen=True, kw_only=True)
class ToolsView:
    """Tools of the plate in hand against what one has."""

    plate: str
    by_joint: tuple[JointToolsView, ...]
    needed: tuple[ToolSum, ...]
    lacking: tuple[str, ...]
    roll_lacks: tuple[str, ...]
    own: tuple[ItemView, ...]
    spares: tuple[SpareView, ...]
    loose: tuple[LoosePart, ...]
    no_spare: tuple[int, ...]
    sources: tuple[Source, ...]
