"""A stud that stands in the bike: how it is held there, and what its own seat bears."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from rugged_shield.core.errors import choose
from rugged_shield.core.hashing import remember_hash
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.tables.friction import CONDITIONS

StudSeat = Literal["screwed in", "welded or pressed in"]


@remember_hash
@dataclass(frozen=True, kw_only=True)
class Stud(Ranged):
    """A stud's seat in the bike and the thread of its free end; lengths mm.

    ``seated_mm``: how deep it is screwed in; None: not measured. ``thread_mm``: thread from its
    free end on; None: threaded down to the bike. ``treatment`` is the seat's own: locker in the
    bike and anti-seize under the nut go together.
    """

    seat: StudSeat = "screwed in"
    seated_mm: Annotated[float | None, Range(1.0, 100.0, "mm")] = None
    thread_mm: Annotated[float | None, Range(3.0, 180.0, "mm")] = None
    treatment: str = "dry zinc"

    def __post_init__(self) -> None:
        super().__post_init__()
        choose("treatment", self.treatment, CONDITIONS, "treatment")

    @property
    def is_screwed_in(self) -> bool:
        """Whether a thread of the bike holds it."""
        return self.seat == "screwed in"


PLAIN_STUD = Stud()
