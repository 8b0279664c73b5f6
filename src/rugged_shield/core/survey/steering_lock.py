"""Room between a plate and the front wheel turned to its stop, through the fork's travel."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from rugged_shield.core.survey.bike import Bike
from rugged_shield.core.survey.front_wheel import away_mm, sheet_places, travel_of
from rugged_shield.core.survey.geometry import FoldedPlate

USUAL_LOCK_DEG = 35.0
PLAUSIBLE_LOCKS_DEG = (25.0, USUAL_LOCK_DEG, 45.0)
"""How far off-road bikes turn; own estimate, low confidence."""
FORK_OFFSET_MM = 35.0
"""How far the axle stands ahead of the steering axis; own estimate, within 10 mm."""
HALF_WIDTH_MM = 55.0
"""Half of a front tyre's width with its knobs, mm."""

Points = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True)
class LockGap:
    """Least room mm with the wheel turned to the stop either way, and the panel that is nearest.

    None: no sheet stands where the wheel turns. ``least_mm`` and ``most_mm``: over every stop that
    one nobody measured may be; the same as ``room_mm`` where it is measured.
    """

    room_mm: float | None
    least_mm: float | None
    most_mm: float | None
    panel: str
    lock_deg: float
    assumed: bool


def _turned(points: Points, axle: tuple[float, float], rake_deg: float, deg: float) -> Points:
    """Places (n, 3) as the wheel sees them that is turned so far about the steering axis."""
    rake, turn = math.radians(rake_deg), math.radians(deg)
    axis = np.array([math.sin(rake), 0.0, math.cos(rake)])
    behind = FORK_OFFSET_MM * np.array([math.cos(rake), 0.0, -math.sin(rake)])
    at = np.array([axle[0], 0.0, axle[1]]) + behind
    arm = points - at
    along = np.outer(arm @ axis, axis)
    across = np.cross(axis, arm)
    return np.asarray(at + along + math.cos(turn) * (arm - along) + math.sin(turn) * across)


@lru_cache(maxsize=1024)
def _room_at(
    fork: tuple[float, float], radius_mm: float, lock_deg: float, folded: FoldedPlate
) -> tuple[float, str] | None:
    """Least room over travel and both stops, mm, and its panel; ``fork``: travel and rake."""
    travel_mm, rake_deg = fork
    rake = math.radians(rake_deg)
    rest = (0.0, radius_mm)
    pressed = (travel_mm * math.sin(rake), radius_mm + travel_mm * math.cos(rake))
    found: list[tuple[float, str]] = []
    for panel in folded.panels:
        places = sheet_places(panel)
        near = places[places[:, 0] < pressed[0] + radius_mm + 2 * FORK_OFFSET_MM]
        for deg in (lock_deg, -lock_deg) if len(near) else ():
            seen = _turned(near, rest, rake_deg, deg)
            track = seen[np.abs(seen[:, 1]) <= HALF_WIDTH_MM][:, [0, 2]]
            if len(track):
                found.append((float(away_mm(track, rest, pressed).min()) - radius_mm, panel.name))
    return min(found, default=None)


def lock_gap(bike: Bike, folded: FoldedPlate) -> LockGap:
    """Least room between the tyre at its stops and the plate; the fork as the wheel gap has it."""
    travel, rake, _ = travel_of(bike)
    given = bike.steering_lock_deg
    lock = USUAL_LOCK_DEG if given is None else given
    rooms = {
        deg: _room_at((travel, rake), bike.front_wheel_radius_mm, deg, folded)
        for deg in ({*PLAUSIBLE_LOCKS_DEG} if given is None else {lock})
    }
    here = rooms[lock]
    left = [room[0] for room in rooms.values() if room is not None]
    nearest = here or min((r for r in rooms.values() if r is not None), default=None)
    return LockGap(
        room_mm=None if here is None else here[0],
        least_mm=min(left, default=None),
        # a stop at which no sheet stands in the way leaves all the room there is
        most_mm=None if len(left) < len(rooms) else max(left),
        panel="" if nearest is None else nearest[1],
        lock_deg=lock,
        assumed=given is None,
    )
