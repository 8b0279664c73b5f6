"""A plate at 1:1: what to cut, drill and bend, and what the sheet of paper says of itself."""

from __future__ import annotations

from dataclasses import dataclass

from rugged_shield.core.amounts import entered
from rugged_shield.core.assess.fitup.hole_input import hole_mm
from rugged_shield.core.job.model import Job, mounted
from rugged_shield.core.judgement.known import ENTERED
from rugged_shield.core.mechanics.frames import Vec2
from rugged_shield.core.survey.flat import FlatPattern, flat_pattern, flat_place
from rugged_shield.core.survey.plate import Plate

CROSS_MM = 6.0
"""Half a centre mark: it stands out of every hole, mm."""


OUTLINE_ASSUMED = "Outline assumed, nobody measured it: do not cut or drill by this sheet."


def outline_assumed(plate: Plate) -> bool:
    """Whether the plate's shape is what the program put there, or by eye."""
    return plate.known not in ENTERED


@dataclass(frozen=True)
class ScrewPlace:
    """A screw's hole in the flat: number, middle, diameter, mm."""

    number: int
    at_mm: Vec2
    hole_mm: float

    @property
    def cross_mm(self) -> tuple[tuple[Vec2, Vec2], tuple[Vec2, Vec2]]:
        """The two strokes that mark its middle, level and upright, from end to end."""
        x, y = self.at_mm
        return (
            ((x - CROSS_MM, y), (x + CROSS_MM, y)),
            ((x, y - CROSS_MM), (x, y + CROSS_MM)),
        )


@dataclass(frozen=True, kw_only=True)
class Template:
    """The flat pattern with its screws' holes, and the lines of text that go with it."""

    title: str
    pattern: FlatPattern
    screws: tuple[ScrewPlace, ...]
    lines: tuple[str, ...]


def template_of(job: Job, key: str) -> Template:
    """The template of one plate: x rearward, y to the rider's right, outer face up."""
    candidate = job.candidate(key)
    plate = candidate.plate
    screws = []
    for at in mounted(job.bike, candidate):
        place = flat_place(plate, at.x_mm, at.y_mm) if at.is_in_sheet else None
        if place is not None:
            screws.append(ScrewPlace(at.joint.number, place, hole_mm(at.joint)))
    doubt = (OUTLINE_ASSUMED,) if outline_assumed(plate) else ()
    return Template(
        title=plate.name,
        pattern=flat_pattern(plate),
        screws=tuple(screws),
        lines=(
            *doubt,
            f"{job.bike.name}: {plate.name}, {plate.material}, {entered(plate.thickness_mm, 'mm')}",
            "Outer face up, the side that looks at the ground. Front of the bike to the left.",
            "Bends are sharp lines: no allowance is in them. Print at 100 %, measure the bar.",
        ),
    )
