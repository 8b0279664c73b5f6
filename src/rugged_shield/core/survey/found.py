"""What is found on the old plate and on the bike: scars, faults, the list of stripping."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.survey.plate import Offset

ScarKind = Literal["dent", "scrape"]
StripKind = Literal[
    "screw that holds the plate",
    "screw between its own pieces",
    "hidden screw",
    "hose or clip",
    "other",
]
Keeping = Literal[
    "not decided",
    "kept for the new plate",
    "moves over, cleaned first",
    "stays on the bike",
    "into the stock bag",
    "goes back",
    "worn out",
]
FaultKind = Literal[
    "", "leak", "chafe", "stone", "a screw was missing", "put together wrongly before", "other"
]


@dataclass(frozen=True, kw_only=True)
class Scar(Ranged):
    """A dent or scrape on a panel of the old plate: its middle in the panel's u, v; mm.

    ``depth_mm`` of a dent below the sheet around it; a scrape has none.
    """

    key: str
    kind: ScarKind
    panel: str
    u_mm: Offset
    v_mm: Offset
    length_mm: Annotated[float, Range(2.0, 600.0, "mm")] = 40.0
    width_mm: Annotated[float, Range(2.0, 600.0, "mm")] = 20.0
    depth_mm: Annotated[float, Range(0.0, 80.0, "mm")] = 0.0
    note: str = ""


@dataclass(frozen=True, kw_only=True)
class StripItem(Ranged):
    """One thing to undo when the stock plate comes off, what becomes of it, what was found.

    ``photo`` is the key of a picture kept beside the job. ``turn``: when it comes off, 1 first
    (None: when it is reached), and ``why`` it waits until then, such as spacers that fall.
    """

    key: str
    kind: StripKind
    name: str
    count: Annotated[int, Range(1, 60)] = 1
    thread: str = ""
    where: str = ""
    keeping: Keeping = "not decided"
    undone: bool = False
    fault: FaultKind = ""
    note: str = ""
    photo: str = ""
    turn: Annotated[int | None, Range(1, 60)] = None
    why: str = ""


@dataclass(frozen=True, kw_only=True)
class Fault(Ranged):
    """Something wrong that was found under the bike: on a part, or at a place in mm.

    ``part`` is the key of a part, empty where it is on none; ``photo`` the key of a picture kept
    beside the job.
    """

    key: str
    name: str
    kind: FaultKind = "other"
    part: str = ""
    x_mm: Annotated[float | None, Range(-600.0, 2600.0, "mm")] = None
    y_mm: Annotated[float | None, Range(-700.0, 700.0, "mm")] = None
    note: str = ""
    photo: str = ""
    mended: bool = False
