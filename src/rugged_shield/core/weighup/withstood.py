"""What a plate bears: the share of its struck sheet that reaches nothing behind it."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np
import numpy.typing as npt

from rugged_shield.core.computation import computation
from rugged_shield.core.errors import InputError, choose
from rugged_shield.core.remembered import Remembered
from rugged_shield.core.result import Input, Outcome
from rugged_shield.core.shell.mesh import areas_of
from rugged_shield.core.shell.solve import SHELL_SOURCE
from rugged_shield.core.weighup.coverage import DIRECTIONS
from rugged_shield.core.weighup.impact import FARTHEST_MM
from rugged_shield.core.weighup.place_form import FORM_SOURCE
from rugged_shield.core.weighup.response import Array, Index
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
    """Shares (0 to 1) of the struck sheet that bear the energy; the part reached most, or "".

    ``share``: it reaches nothing behind it; ``held_share``: nor does the stone punch through, nor
    a mount give way, nor the sheet fold away beyond what the form tells.
    """

    share: float
    held_share: float
    struck_mm2: float
    reached: str


@dataclass(frozen=True, eq=False, kw_only=True)
class Gives:
    """A struck sheet at its places (n,), whatever is behind and whatever its mounts bear.

    Inner points (n, 3) mm, how far each gives mm, its area mm², force over what punches through,
    the force along and across every mount's screw, each (n, m) N, and what turns it, N·mm;
    by how much each may be wrong (n,).
    """

    points: Array
    gives: Array
    area: Array
    punch: Array
    normal_n: Array
    shear_n: Array
    moment_nmm: Array
    deflection_band: Array
    force_band: Array
    mount_band: Array


def _solved(struck: Struck) -> Gives:
    linear, field = struck_field(struck)
    mesh = linear.mesh
    faces = np.isin(mesh.panel_of, np.unique(field.panel))
    area = np.zeros(len(mesh.nodes))
    np.add.at(area, mesh.triangles[faces].ravel(), np.repeat(areas_of(mesh)[faces] / 3, 3))
    return Gives(
        points=inner_points(linear, struck, field.nodes, field.panel),
        gives=field.impact.total_mm,
        area=area[field.nodes],
        punch=field.punch_share,
        normal_n=field.impact.normal_n,
        shear_n=field.impact.shear_n,
        moment_nmm=field.impact.moment_nmm,
        deflection_band=field.forms.deflection_band,
        force_band=field.forms.force_band,
        mount_band=field.forms.mount_band,
    )


def _all_solved(strucks: tuple[Struck, ...]) -> tuple[Gives | None, ...]:
    """A sheet struck from several sides; None where no panel looks that way."""
    out: list[Gives | None] = []
    refused: list[InputError] = []
    for struck in strucks:
        try:
            out.append(_solved(struck))
        except InputError as error:
            refused.append(error)
            out.append(None)
    if len(refused) == len(strucks):
        raise refused[0]
    return tuple(out)


sheet_gives = Remembered(_all_solved, 48)
"""How a struck sheet gives, whatever is behind: a part that moves asks for no new shell.

About 130 kB for each direction at the coarse mesh.
"""


def sheet_struck(given: StrikeMapInput) -> Struck:
    """What ``withstood_share`` asks of the shell: no limit of a mount enters it."""
    struck = struck_of(given)
    return replace(
        struck,
        laws=tuple(law.unlimited() for law in struck.laws),
        far=struck.far.unlimited(),
    )


@dataclass(frozen=True)
class Factors:
    """By what a doubt may move what a sheet does: way, room mm, load of a mount, punching.

    One for all places, or one for each (n,).
    """

    gives: Array | float = 1.0
    room_mm: float = 0.0
    force: Array | float = 1.0
    punch: Array | float = 1.0


AS_IT_IS = Factors()


def _free(given: StrikeMapInput, of: Gives, by: Factors) -> tuple[npt.NDArray[np.bool_], Index]:
    """Which places reach nothing behind, and which part is nearest to each."""
    room, near = standoffs(given.pose.lifted(of.points), given.parts)
    return of.gives * by.gives < room + by.room_mm, near


def _bears(given: StrikeMapInput, of: Gives, by: Factors) -> npt.NDArray[np.bool_]:
    """Which places neither punch nor overload a mount, and stay within the form."""
    bears = (of.punch * by.punch < 1.0) & (of.gives * by.gives <= FARTHEST_MM)
    for i, law in enumerate(given.judged):
        loads = (of.normal_n[:, i], of.shear_n[:, i], of.moment_nmm[:, i])
        share = law.share(*(load * by.force for load in loads))
        bears &= share <= 1.0
    return np.asarray(bears)


def held_share(given: StrikeMapInput, of: Gives, by: Factors = AS_IT_IS) -> float:
    """Share of the struck sheet, by area, that holds in every way that is known."""
    free, _ = _free(given, of, by)
    return float(of.area[free & _bears(given, of, by)].sum() / of.area.sum())


@dataclass(frozen=True, kw_only=True)
class GivesWay:
    """Shares (0 to 1) of the struck sheet that do not hold, and how.

    ``part`` is what is reached over most of it, ``mount`` what is overloaded over most; "" none.
    """

    share: float
    reaches: float
    part: str
    punched: float
    overloads: float
    mount: str
    folds: float


def gives_way(given: StrikeMapInput, of: Gives) -> GivesWay:
    """Where a struck sheet does not hold, by what gives way there; a place may in several ways."""
    whole = float(of.area.sum())
    free, near = _free(given, of, AS_IT_IS)

    def part_of(places: npt.NDArray[np.bool_]) -> float:
        return float(of.area[places].sum()) / whole

    reached = np.bincount(near[~free], of.area[~free], minlength=max(len(given.parts), 1))
    over = [
        law.share(of.normal_n[:, i], of.shear_n[:, i], of.moment_nmm[:, i]) > 1.0
        for i, law in enumerate(given.judged)
    ]
    shares = [part_of(o) for o in over]
    worst = max(range(len(shares)), key=shares.__getitem__) if any(shares) else None
    return GivesWay(
        share=1.0 - held_share(given, of),
        reaches=part_of(~free),
        part="" if free.all() else given.parts[int(reached.argmax())].name,
        punched=part_of(of.punch >= 1.0),
        overloads=part_of(np.any(over, axis=0)) if over else 0.0,
        mount="" if worst is None else given.judged[worst].name,
        folds=part_of(of.gives > FARTHEST_MM),
    )


def held_bounds(given: StrikeMapInput, of: Gives, thicker_mm: float) -> tuple[float, float]:
    """Least and most that ``held_share`` could be of a sheet so much thicker or thinner.

    No shell of that sheet is solved: nothing that holds it gains or loses more than its bending,
    which goes with the cube r³ of the thickness, and the room behind changes by no more than the
    thickness does; at one energy a force goes with the root of a stiffness at most. ``thicker_mm``
    below zero is thinner, by less than the thickness.
    """
    thick = given.plate.thickness_mm
    r, by = (thick + thicker_mm) / thick, abs(thicker_mm)
    way, force = r**-3, r**1.5
    worst = Factors(max(1.0, way), -by, max(1.0, force), max(1.0, force / r, 1 / r))
    best = Factors(min(1.0, way), by, min(1.0, force), min(1.0, force / r, 1 / r))
    return held_share(given, of, worst), held_share(given, of, best)


def share_bounds(given: StrikeMapInput, thicker_mm: float) -> tuple[float, float]:
    """Least and most that ``withstood_share`` could hold of a sheet so much thicker or thinner.

    Raises InputError as ``withstood_share`` does.
    """
    (of,) = sheet_gives((sheet_struck(given),))
    assert of is not None, "one direction is refused, not left out"
    return held_bounds(given, of, thicker_mm)


@lru_cache(maxsize=256)
@computation(
    "strike-held",
    page="strike",
    check="test_it_is_the_share_of_the_map_that_touches_nothing",
)
def withstood_share(given: StrikeMapInput) -> Outcome[WithstoodResult]:
    """Share of the struck sheet, by area, that takes the energy within its standoff.

    As a strike map with ``given.mesh_mm``; raises InputError where that has no answer.
    """
    choose("direction", given.direction, DIRECTIONS, "strike direction")
    (of,) = sheet_gives((sheet_struck(given),))
    assert of is not None, "one direction is refused, not left out"
    free, near = _free(given, of, AS_IT_IS)
    by_part = np.bincount(near[~free], of.area[~free], minlength=max(len(given.parts), 1))
    most = "" if free.all() else given.parts[int(by_part.argmax())].name
    struck_mm2 = float(of.area.sum())
    held = held_share(given, of)
    return Outcome(
        result=WithstoodResult(float(of.area[free].sum()) / struck_mm2, held, struck_mm2, most),
        inputs=(
            Input("Direction", given.direction),
            Input("Energy", given.energy_j, "J"),
            Input("Radius of the stone", given.contact_radius_mm, "mm"),
            Input("Struck sheet", round(struck_mm2), "mm²"),
            Input("Reached over most of the rest", most or "nothing"),
            Input("Holds in every way", round(100 * held), "%"),
        ),
        reasons=(
            "Struck at every place with this energy: the area where the sheet and its mounts "
            "give less than the room behind them, over all that is struck. What holds in every "
            "way is not punched through either, no mount gives way, and the sheet does not fold "
            "away.",
        ),
        assumptions=(
            "Parts are boxes; every place is struck equally often.",
            "Quasi-static: no fracture, no friction. An estimate for comparing plates.",
        ),
        sources=(SHELL_SOURCE, FORM_SOURCE),
    )
