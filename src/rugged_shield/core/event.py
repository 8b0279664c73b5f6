"""Something that happened: what every line of a job's record begins with."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from rugged_shield.core.quantity import Range, Ranged


@dataclass(frozen=True, kw_only=True)
class Happened(Ranged):
    """A line of the record: its number, and when, as ISO 8601 text.

    Both are set where the line is stored; before that the number is 0 and the time empty.
    """

    seq: Annotated[int, Range(0, 10_000_000)] = 0
    at: str = ""
