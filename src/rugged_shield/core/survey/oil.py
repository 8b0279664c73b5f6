"""An oil change with a plate on: what is in the way, what has to come off, where the oil lands."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from rugged_shield.core.mechanics.frames import down_of
from rugged_shield.core.survey.bike import Part
from rugged_shield.core.survey.geometry import FoldedPlate, fold
from rugged_shield.core.survey.plate import Plate
from rugged_shield.core.survey.pose import Pose
from rugged_shield.core.survey.rays import blocked
from rugged_shield.core.survey.standoff import Array, box_of
from rugged_shield.core.survey.water import POSTURES

Way = Literal["open holes", "closed doors", "removable pieces", "plate off"]
OIL_STREAM_MM = 10.0
SOCKET_RADIUS_MM = 15.0
TOOL_AROUND_MM = 8.0
TOOL_BEYOND_MM = 45.0
_OUT: dict[str, tuple[int, float]] = {
    "down": (2, -1.0),
    "forward": (0, -1.0),
    "rearward": (0, 1.0),
    "left": (1, -1.0),
    "right": (1, 1.0),
}


@dataclass(frozen=True)
class OilPath:
    """Whether oil from a drain or filter falls clear, in one posture."""

    part: str
    posture: str
    clear: bool


@dataclass(frozen=True)
class FilterReach:
    """Whether a filter comes out its way with its tool, once what must come off is off."""

    part: str
    comes_out: bool
    way: str


@dataclass(frozen=True)
class OilAccess:
    """The least that comes off for an oil change.

    ``behind``: the parts that cannot be reached while everything is on; ``off``: what is taken
    off for them (doors, wings, pieces) by ``screws``. When that does not reach them the plate
    itself comes off, by the screws of its joints: ``screws`` is None then, and no oil runs on it.
    """

    way: Way
    behind: tuple[str, ...]
    off: tuple[str, ...]
    screws: int | None
    paths: tuple[OilPath, ...]
    filters: tuple[FilterReach, ...]

    @property
    def catches(self) -> bool:
        """Whether oil lands on what stays on."""
        return bool(self.landing())

    def landing(self) -> dict[str, list[str]]:
        """Parts whose oil lands on what stays on, each with the postures in which it does."""
        found: dict[str, list[str]] = {}
        for path in self.paths:
            if not path.clear:
                found.setdefault(path.part, []).append(path.posture)
        return found


def _disc(count: int, axis: int = 2) -> Array:
    """Points of a circle of radius 1 across an axis, (count, 3)."""
    turns = np.arange(count) * 2 * math.pi / count
    return np.insert(np.column_stack([np.cos(turns), np.sin(turns)]), axis, 0.0, axis=1)


def _passes(part: Part, folded: FoldedPlate, axis: int, sign: float, radius_mm: float) -> bool:
    """Whether something round passes between the part and the outside along an axis.

    From below, all the way to the ground; sideways, as far as a filter and its tool go.
    """
    rim = radius_mm * _disc(16, axis)
    points = np.array(part.centre_mm) + np.vstack([rim, rim / 2, np.zeros((1, 3))])
    low, high = box_of(part)
    size = float(high[axis] - low[axis])
    toward = np.zeros(3)
    toward[axis] = sign
    far = math.inf if axis == 2 else size / 2 + size + TOOL_BEYOND_MM
    return not bool(blocked(points, toward, folded, 0.0, far).any())


def _reached(part: Part, folded: FoldedPlate) -> bool:
    """A drain straight from below; a filter, which is round, along its own way with its tool."""
    if part.serviced == "drain":
        return _passes(part, folded, *_OUT["down"], SOCKET_RADIUS_MM)
    axis, sign = _OUT[part.comes_out]
    low, high = box_of(part)
    widest = float(np.delete(high - low, axis).max())
    return _passes(part, folded, axis, sign, widest / 2 + TOOL_AROUND_MM)


def _runs_from(part: Part) -> Array:
    """Where oil leaves a part: the drain's middle, or all along the bottom of a filter; (n, 3)."""
    x, y, _ = part.centre_mm
    if part.serviced == "drain":
        return np.array([[x, y, part.z_min_mm]])
    low, high = box_of(part)
    across = [np.linspace(low[axis], high[axis], 5) for axis in (0, 1)]
    along = [[a, y] for a in across[0]] + [[x, b] for b in across[1]]
    return np.array([[*at, part.z_min_mm] for at in along])


def oil_paths(parts: Iterable[Part], folded: FoldedPlate) -> tuple[OilPath, ...]:
    """Whether a stream of oil from each drain and filter misses every panel, in each posture."""
    stream = np.vstack([np.zeros((1, 3)), OIL_STREAM_MM * _disc(8)])
    found = []
    for part in parts:
        start = (_runs_from(part)[:, None, :] + stream[None, :, :]).reshape(-1, 3)
        for posture, nose_up in POSTURES.items():
            hit = blocked(start, down_of(nose_up), folded, 0.0)
            found.append(OilPath(part.key, posture, not bool(hit.any())))
    return tuple(found)


def _removable(plate: Plate) -> dict[str, int]:
    """What comes off with the plate left on, with its screws: doors, wings and pieces."""
    found = {f"door {c.key}": c.door_screws for c in plate.cutouts if c.closed_door}
    for name, wing in (("wing left", plate.wing_left), ("wing right", plate.wing_right)):
        if wing is not None and wing.own_screws:
            found[name] = wing.own_screws
    return {**found, **{p.key: p.own_screws for p in plate.pieces if p.own_screws}}


def _without(plate: Plate, off: Iterable[str]) -> Plate:
    """The plate with these doors, wings and pieces taken off, and what is cut into them."""
    off = set(off)
    panels = {name for p in plate.pieces if p.key in off for name in p.panel_names} | off
    return replace(
        plate,
        wing_left=None if "wing left" in off else plate.wing_left,
        wing_right=None if "wing right" in off else plate.wing_right,
        pieces=tuple(p for p in plate.pieces if p.key not in off),
        cutouts=tuple(
            replace(c, closed_door=c.closed_door and f"door {c.key}" not in off)
            for c in plate.cutouts
            if c.panel not in panels
        ),
    )


def _least_off(
    parts: tuple[Part, ...], plate: Plate, pose: Pose, can: dict[str, int]
) -> tuple[str, ...] | None:
    """What to take off to reach all parts; None when all of it is not enough.

    From all off, what has most screws is put back first as long as everything is still
    reached: nothing that is left off could stay on.
    """

    def reaches(off: Iterable[str]) -> bool:
        folded = fold(_without(plate, off), pose)
        return all(_reached(part, folded) for part in parts)

    if not can or not reaches(can):
        return None
    off = dict(can)
    for name in sorted(can, key=lambda n: -can[n]):
        fewer = {n: s for n, s in off.items() if n != name}
        if reaches(fewer):
            off = fewer
    return tuple(off)


def oil_access(parts: Iterable[Part], plate: Plate, pose: Pose) -> OilAccess:
    """How drains and filters among ``parts`` are reached with a plate as it hangs."""
    serviced = tuple(p for p in parts if p.serviced)
    folded = fold(plate, pose)
    behind = tuple(p.key for p in serviced if not _reached(p, folded))
    can = _removable(plate)
    off = _least_off(serviced, plate, pose, can) if behind else ()
    if off is None:
        filters = _filters(serviced, fold(_without(plate, can), pose))
        return OilAccess("plate off", behind, (), None, (), filters)
    opened = fold(_without(plate, off), pose)
    doors = all(name.startswith("door ") for name in off)
    way: Way = "open holes" if not off else "closed doors" if doors else "removable pieces"
    return OilAccess(
        way,
        behind,
        off,
        sum(can[name] for name in off),
        oil_paths(serviced, opened),
        _filters(serviced, opened),
    )


def _filters(parts: tuple[Part, ...], folded: FoldedPlate) -> tuple[FilterReach, ...]:
    return tuple(
        FilterReach(p.key, _reached(p, folded), p.comes_out)
        for p in parts
        if p.serviced == "filter"
    )
