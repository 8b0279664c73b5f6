"""The part a screw threads into, as a mount or a kit nut brings it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from rugged_shield.core.errors import InputError
from rugged_shield.core.quantity import Range, Ranged, check_order

FemaleKind = Literal[
    "blind_tapped",
    "through_tapped",
    "nut",
    "prevailing_nut",
    "clip_nut",
    "cage_nut",
    "weld_nut",
    "rivet_nut",
    "domed_nut",
    "plain_nut",
    "loose_nut",
    "blind_insert",
]
BLIND_KINDS = ("blind_tapped", "domed_nut", "blind_insert")

Thickness = Annotated[float, Range(0.0, 500.0, "mm")]
Tolerance = Annotated[float, Range(0.0, 20.0, "mm")]


@dataclass(frozen=True, kw_only=True)
class Female(Ranged):
    """The female part, measured from its face: lead, end of full thread, height, mm.

    ``overall_height_mm`` of a blind part is the depth of its hole, where it is known;
    ``free_space_mm`` (beyond its outer end) belongs to through parts.
    """

    kind: FemaleKind
    thread_start_mm: Thickness
    thread_end_mm: Annotated[float, Range(0.1, 500.0, "mm")]
    thread_start_tol_mm: Tolerance = 0.0
    thread_end_tol_mm: Tolerance = 0.0
    overall_height_mm: Annotated[float | None, Range(0.1, 500.0, "mm")] = None
    overall_height_tol_mm: Tolerance = 0.0
    free_space_mm: Annotated[float | None, Range(0.0, 1000.0, "mm")] = None
    free_space_tol_mm: Tolerance = 0.0

    def __post_init__(self) -> None:
        super().__post_init__()
        start = ("thread_start_mm", self.thread_start_mm)
        end = ("thread_end_mm", self.thread_end_mm)
        check_order(start, end, "mm", "the full thread would end before it starts")
        depth = self.overall_height_mm
        if not self.is_through and depth is not None:
            hole = ("overall_height_mm", depth)
            check_order(end, hole, "mm", "the thread would be deeper than its hole", touching=True)
        if self.is_through and self.overall_height_mm is None:
            raise InputError(
                "overall_height_mm", None, "the height of the part", "a through part needs a height"
            )

    @property
    def is_through(self) -> bool:
        """Whether the screw can come out at the far end."""
        return self.kind not in BLIND_KINDS
