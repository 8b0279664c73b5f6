"""What a plate bears: the share of its struck sheet that reaches nothing behind it."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from rugged_shield.core.errors import choose
from rugged_shield.core.remembered import Remembered
from rugged_shield.core.result import Input, Outcome
from rugged_shield.core.shell import SHELL_SOURCE, areas_of
from rugged_shield.core.weighup.coverage import DIRECTIONS
from rugged_shield.core.weighup.impact import gives_mm
from rugged_shield.core.weighup.place_form import FORM_SOURCE
from rugged_shield.core.weighup.response import Array
from rugged_shield.core.weighup.strike_field import (
    StrikeMapInput,
    Struck,
    inner_points,
    standoffs,
    struck_field,
    struck_of,
)

COARSE_MESH_MM = 25.0
"""A share over the whole sheet needs no finer mesh: within 0.06 of that at 12 mm."""


@dataclass(frozen=True)
class WithstoodResult:
    """Share (0 to 1) of the struck sheet that bears the energy; the part reached most, or ""."""

    share: float
    struck_mm2: float
    reached: str


Gives = tuple[Array, Array, Array]
"""Inner points (n, 3) of a struck sheet, how far each gives (n,) and its area (n,)."""


def _solved(struck: Struck) -> Gives:
    linear, field = struck_field(struck)
    mesh = linear.mesh
    faces = np.isin(mesh.panel_of, np.unique(field.panel))
    area = np.zeros(len(mesh.nodes))
    np.add.at(area, mesh.triangles[faces].ravel(), np.repeat(areas_of(mesh)[faces] / 3, 3))
    points = inner_points(linear, struck, field.nodes, field.panel)
    return points, gives_mm(field.forms, field.places, field.energy_j), area[field.nodes]


sheet_gives = Remembered(_solved, 48)
"""How a struck sheet gives, whatever is behind: a part that moves asks for no new shell.

About 60 kB each at the coarse mesh.
"""


def sheet_struck(given: StrikeMapInput) -> Struck:
    """What ``withstood_share`` asks of the shell: no limit of a mount enters it."""
    struck = struck_of(given)
    return replace(struck, laws=tuple(law.unlimited() for law in struck.laws))


def share_bounds(given: StrikeMapInput, thicker_mm: float) -> tuple[float, float]:
    """Least and most that ``withstood_share`` could say of a sheet so much thicker or thinner.

    No shell of that sheet is solved: nothing that holds it gains or loses more than its bending,
    which goes with the cube of the thickness, and the room behind changes by no more than the
    thickness does. ``thicker_mm`` below zero is thinner, by less than the thickness. Raises
    InputError as ``withstood_share`` does.
    """
    points, gives, area = sheet_gives(sheet_struck(given))
    room, _ = standoffs(given.pose.lifted(points), given.parts)
    thick = given.plate.thickness_mm
    cube, by = (thick / (thick + thicker_mm)) ** 3, abs(thicker_mm)

    def holds(gives_more: float, room_more: float) -> float:
        return float(area[gives * gives_more < room + room_more].sum() / area.sum())

    return holds(max(1.0, cube), -by), holds(min(1.0, cube), by)


@lru_cache(maxsize=256)
def withstood_share(given: StrikeMapInput) -> Outcome[WithstoodResult]:
    """Share of the struck sheet, by area, that takes the energy within its standoff.

    As a strike map with ``given.mesh_mm``; raises InputError where that has no answer.
    """
    choose("direction", given.direction, DIRECTIONS, "strike direction")
    points, gives, area = sheet_gives(sheet_struck(given))
    room, near = standoffs(given.pose.lifted(points), given.parts)
    reaches = gives >= room
    by_part = np.bincount(near[reaches], area[reaches], minlength=max(len(given.parts), 1))
    most = given.parts[int(by_part.argmax())].name if reaches.any() else ""
    share = 1.0 - float(area[reaches].sum() / area.sum())
    return Outcome(
        result=WithstoodResult(share, float(area.sum()), most),
        inputs=(
            Input("Direction", given.direction),
            Input("Energy", given.energy_j, "J"),
            Input("Radius of the stone", given.contact_radius_mm, "mm"),
            Input("Struck sheet", round(float(area.sum())), "mm²"),
            Input("Reached over most of the rest", most or "nothing"),
        ),
        reasons=(
            "Struck at every place with this energy: the area where the sheet and its mounts "
            "give less than the room behind them, over all that is struck.",
        ),
        assumptions=(
            "Parts are boxes; every place is struck equally often.",
            "Quasi-static: no fracture, no friction. An estimate for comparing plates.",
        ),
        sources=(SHELL_SOURCE, FORM_SOURCE),
    )
