"""Room between a plate and the wheels: at rest, and through the fork's whole travel."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
import shapely
from numpy.typing import NDArray

from rugged_shield.core.result import Source
from rugged_shield.core.survey.bike import Bike
from rugged_shield.core.survey.geometry import FoldedPlate
from rugged_shield.core.survey.panels import Panel

WHEEL_SOURCE = Source("own geometry: a tyre as a disc, moved along the fork", "medium")
ASSUMED_TRAVEL_MM = 200.0
ASSUMED_RAKE_DEG = 27.0
MOST_TRAVEL_MM = 320.0
PLAUSIBLE_RAKES_DEG = (22.0, 27.0, 32.0)
"""What an off-road fork that nobody measured may have: travel at most, rake between these."""
HALF_TYRE_MM = 70.0
"""Half the tyre's width and what it takes turned a little, mm."""
LEAST_GAP_MM = 10.0
"""Mud and a tyre that grows want so much."""
LOW_MUDGUARD_MM = 30.0
"""What a mudguard low on the wheel takes at most, tread to outside; for one nobody measured."""
_SPACING_MM = 6.0

Points = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True)
class WheelGap:
    """Least room mm at rest and over the travel, each with the panel that is nearest.

    Below 0 the tyre reaches the plate. None: no sheet stands in the wheel's track.
    ``travel_mm`` and ``rake_deg`` are those it was reckoned with, ``assumed`` if nobody measured.
    ``mudguard_mm`` is what a mudguard on the wheel takes of the room; None: not entered.
    ``longest_mm``: the room over the travel with the longest and worst raked fork that an
    unmeasured one may be, reckoned where it matters; else the same as ``in_travel_mm``.
    """

    at_rest_mm: float | None
    in_travel_mm: float | None
    panel: str
    travel_mm: float
    rake_deg: float
    assumed: bool
    mudguard_mm: float | None = None
    longest_mm: float | None = None

    @property
    def left_mm(self) -> float | None:
        """Room over the travel, less what a mudguard takes of it, mm."""
        moving = self.in_travel_mm
        return None if moving is None else moving - (self.mudguard_mm or 0.0)

    @property
    def inside_at_rest_mm(self) -> float:
        """How far the plate stands inside the tyre whatever the fork is, mm; else 0."""
        return max(0.0, -(self.at_rest_mm or 0.0))

    @property
    def fork_decides(self) -> bool:
        """Whether a fork that nobody measured may bring the wheel, or its mudguard, too near."""
        longest, guard = self.longest_mm, self.mudguard_mm or 0.0
        return self.assumed and longest is not None and longest - guard < LEAST_GAP_MM

    @property
    def mudguard_decides(self) -> bool:
        """Whether there is too little for a mudguard low on the wheel, and none was entered."""
        moving = self.in_travel_mm
        low = moving is not None and moving < LEAST_GAP_MM + LOW_MUDGUARD_MM
        return low and self.mudguard_mm is None


def travel_of(bike: Bike) -> tuple[float, float, bool]:
    """Fork travel mm and rake in degrees from the vertical; whether either is assumed."""
    travel, rake = bike.front_travel_mm, bike.rake_deg
    return (
        ASSUMED_TRAVEL_MM if travel is None else travel,
        ASSUMED_RAKE_DEG if rake is None else rake,
        travel is None or rake is None,
    )


def axle_at(bike: Bike, pressed_mm: float, rake_deg: float) -> tuple[float, float]:
    """Where the front axle stands in the bike frame with the fork pressed in so far, (x, z) mm."""
    rake = math.radians(rake_deg)
    return pressed_mm * math.sin(rake), bike.front_wheel_radius_mm + pressed_mm * math.cos(rake)


@lru_cache(maxsize=256)
def sheet_places(panel: Panel) -> Points:
    """Places of a panel's sheet on the bike, (n, 3) mm: its rim, and every 6 mm within.

    Remembered: both wheels ask for them, and so does every number of the bike that is tried.
    """
    u0, v0, u1, v1 = panel.outline.bounds
    us = np.linspace(u0, u1, max(2, math.ceil((u1 - u0) / _SPACING_MM) + 1))
    vs = np.linspace(v0, v1, max(2, math.ceil((v1 - v0) / _SPACING_MM) + 1))
    u, v = (a.ravel() for a in np.meshgrid(us, vs))
    ring = np.array(panel.outline.exterior.coords)
    inside = shapely.contains_xy(panel.outline.buffer(1e-6), u, v)
    flat = np.concatenate([np.column_stack([u, v])[inside], ring])
    return np.asarray(
        np.array(panel.origin) + flat[:, :1] * np.array(panel.u) + flat[:, 1:] * np.array(panel.v)
    )


@lru_cache(maxsize=256)
def _in_track(panel: Panel) -> Points:
    """Places within the track of a wheel that points ahead, (n, 2) in x and z, mm."""
    at = sheet_places(panel)
    return np.asarray(at[np.abs(at[:, 1]) <= HALF_TYRE_MM][:, [0, 2]])


def away_mm(points: Points, axle: tuple[float, float], pressed: tuple[float, float]) -> Points:
    """Distance of points to the line that the axle runs along, mm."""
    a, b = np.array(axle), np.array(pressed)
    along = b - a
    length = float(along @ along)
    share = (
        np.clip((points - a) @ along / length, 0.0, 1.0) if length > 0 else np.zeros(len(points))
    )
    return np.asarray(np.linalg.norm(points - a - share[:, None] * along, axis=1))


def rear_wheel_gap(bike: Bike, folded: FoldedPlate) -> tuple[float, str] | None:
    """Least room mm between plate and rear tyre with the bike at rest, and the nearest panel.

    The wheel rises away from a plate under the engine as its springs are pressed in: rest is the
    worst. None where no sheet stands in its track.
    """
    axle = (bike.wheelbase_mm, bike.rear_wheel_radius_mm)
    room = _room(axle, axle, bike.rear_wheel_radius_mm, folded)
    return None if room is None else (room[1], room[2])


@lru_cache(maxsize=1024)
def _room(
    rest: tuple[float, float], pressed: tuple[float, float], radius_mm: float, folded: FoldedPlate
) -> tuple[float, float, str] | None:
    """Room over the travel and at rest, mm, and the panel that is nearest over the travel.

    ``rest`` and ``pressed``: where the axle is, (x, z). None where no sheet is in the track.
    """
    found: list[tuple[float, float, str]] = []
    for panel in folded.panels:
        points = _in_track(panel)
        if len(points):
            at_rest = float(away_mm(points, rest, rest).min()) - radius_mm
            moving = float(away_mm(points, rest, pressed).min()) - radius_mm
            found.append((moving, at_rest, panel.name))
    if not found:
        return None
    moving, _, name = min(found)
    return moving, min(at_rest for _, at_rest, _ in found), name


def _fork_room(
    bike: Bike, folded: FoldedPlate, travel_mm: float, rake_deg: float
) -> tuple[float, float, str] | None:
    """The room that the front wheel has with a fork of this travel and rake."""
    rest, pressed = axle_at(bike, 0.0, rake_deg), axle_at(bike, travel_mm, rake_deg)
    return _room(rest, pressed, bike.front_wheel_radius_mm, folded)


def _longest_fork_mm(bike: Bike, folded: FoldedPlate) -> float:
    """Least room over the travel with every fork that an unmeasured one may be, mm."""
    travel = MOST_TRAVEL_MM if bike.front_travel_mm is None else bike.front_travel_mm
    rakes = PLAUSIBLE_RAKES_DEG if bike.rake_deg is None else (bike.rake_deg,)
    rooms = (_fork_room(bike, folded, travel, rake) for rake in rakes)
    return min(room[0] for room in rooms if room is not None)


def wheel_gap(bike: Bike, folded: FoldedPlate) -> WheelGap:
    """Least room between the tyre and the plate's outer face.

    The plate hangs where it is drawn, the bike stands on its springs as surveyed; the travel
    counts from there, which is to the safe side by what the fork has given already.
    """
    travel, rake, assumed = travel_of(bike)
    room = _fork_room(bike, folded, travel, rake)
    moving, at_rest, panel = (None, None, "") if room is None else room
    doubtful = assumed and moving is not None and moving >= LEAST_GAP_MM
    return WheelGap(
        at_rest_mm=at_rest,
        in_travel_mm=moving,
        panel=panel,
        travel_mm=travel,
        rake_deg=rake,
        assumed=assumed,
        mudguard_mm=bike.front_mudguard_mm,
        longest_mm=_longest_fork_mm(bike, folded) if doubtful else moving,
    )
