"""The bike's own two wheels as springs, from the rider's sag readings."""

from __future__ import annotations

from rugged_shield.core.survey.bike import Bike
from rugged_shield.core.survey.sag import Ride, wheel_rate


def _rate(bike: Bike, end: str, share: float) -> float | None:
    readings = bike.sag
    given = getattr(readings, f"{end}_wheel_rate_n_per_mm")
    if given is not None:
        return float(given)
    with_mm = getattr(readings, f"{end}_with_rider_mm")
    without_mm = getattr(readings, f"{end}_without_rider_mm")
    if readings.rider_mass_kg is None or with_mm is None or without_mm is None:
        return None
    return wheel_rate(readings.rider_mass_kg, share, with_mm, without_mm, f"bike.sag.{end}")


def ride_of(bike: Bike) -> Ride | None:
    """Wheel rates given or from the readings; None while either wheel's is not known.

    Raises InputError when a wheel sank by less than 1 mm under the rider.
    """
    share = bike.sag.rider_front_share
    front, rear = _rate(bike, "front", share), _rate(bike, "rear", 1 - share)
    if front is None or rear is None:
        return None
    return Ride(bike.wheelbase_mm, front, rear)
