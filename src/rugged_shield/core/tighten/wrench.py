"""Wrench settings: extensions, scatter and the preload that comes out."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated

from rugged_shield.core.amounts import entered
from rugged_shield.core.computation import computation
from rugged_shield.core.errors import InputError
from rugged_shield.core.mechanics import threads
from rugged_shield.core.mechanics.preload import (
    PRELOAD_SOURCE,
    Diameter,
    Friction,
    check_ring,
    torque_per_preload_mm,
)
from rugged_shield.core.quantity import Range, Ranged
from rugged_shield.core.result import Input, Outcome
from rugged_shield.core.tables.friction import WRENCH_SOURCE

LEAST_SHARE = 0.2
"""Of its scale: below it a wrench only pretends to read (ISO 6789-1:2017, 20 to 100 %)."""


@dataclass(frozen=True, kw_only=True)
class WrenchInput(Ranged):
    """A torque wanted at the screw, the wrench and its extension.

    ``wrench_length_mm`` runs from the drive's centre to the middle of the
    grip; at 90° an extension leaves the setting unchanged.
    """

    torque_wanted_nm: Annotated[float, Range(0.05, 2000.0, "N·m")]
    wrench_length_mm: Annotated[float, Range(50.0, 2000.0, "mm")]
    thread: str
    head_bearing_diameter_mm: Diameter
    head_bearing_hole_mm: Diameter
    mu_min: Friction
    mu_max: Friction
    extension_mm: Annotated[float, Range(0.0, 1000.0, "mm")] = 0.0
    extension_angle_deg: Annotated[float, Range(-180.0, 180.0, "°")] = 0.0
    wrench_relative_error: Annotated[float, Range(0.0, 0.5)] = 0.04

    def __post_init__(self) -> None:
        super().__post_init__()
        check_ring(self.head_bearing_diameter_mm, self.head_bearing_hole_mm, "head_bearing_hole_mm")
        if self.mu_min > self.mu_max:
            raise InputError("mu_min", self.mu_min, f"a friction up to mu_max, {self.mu_max:g}")


@dataclass(frozen=True)
class WrenchResult:
    """Setting N·m; least and most preload N for the torque at the screw."""

    wrench_setting_nm: float
    preload_min_n: float
    preload_max_n: float
    scatter_ratio: float


def setting_nm(
    torque_nm: float, wrench_length_mm: float, extension_mm: float, angle_deg: float
) -> float:
    """M_set = M·L/(L + E·cos θ). Raises InputError when the extension folds back past the grip."""
    lever = wrench_length_mm + extension_mm * math.cos(math.radians(angle_deg))
    if lever <= 0:
        raise InputError(
            "extension_mm",
            extension_mm,
            f"less than {entered(wrench_length_mm, 'mm')} when folded back",
            "this extension would leave no lever",
        )
    return torque_nm * wrench_length_mm / lever


@computation("wrench-setting", page="preload-and-torque", check="torque-07")
def wrench_setting(given: WrenchInput) -> Outcome[WrenchResult]:
    """Wrench setting with an extension, and the band of preload it gives.

    Least preload: wrench low, friction high; most: wrench high, friction low.
    """
    geo = threads.geometry_of(given.thread)
    d_km = (given.head_bearing_diameter_mm + given.head_bearing_hole_mm) / 2
    k_low = torque_per_preload_mm(geo, d_km, given.mu_min, given.mu_min)
    k_high = torque_per_preload_mm(geo, d_km, given.mu_max, given.mu_max)
    torque_nmm, error = given.torque_wanted_nm * 1000, given.wrench_relative_error
    most, least = torque_nmm * (1 + error) / k_low, torque_nmm * (1 - error) / k_high
    setting = setting_nm(
        given.torque_wanted_nm,
        given.wrench_length_mm,
        given.extension_mm,
        given.extension_angle_deg,
    )
    return Outcome(
        result=WrenchResult(setting, least, most, most / least),
        inputs=(
            Input("Torque wanted at the screw", given.torque_wanted_nm, "N·m"),
            Input("Wrench, drive to grip", given.wrench_length_mm, "mm"),
            Input("Extension", given.extension_mm, "mm"),
            Input("Angle of the extension", given.extension_angle_deg, "°"),
            Input("Friction, least", given.mu_min),
            Input("Friction, most", given.mu_max),
            Input("Wrench error", given.wrench_relative_error * 100, "%"),
        ),
        reasons=("Setting = torque × wrench length / (wrench length + extension × cos angle).",),
        assumptions=("The hand pulls at the middle of the grip.",),
        sources=(WRENCH_SOURCE, PRELOAD_SOURCE),
    )


def check_setting(setting_nm: float, scale_max_nm: float) -> None:
    """Refuses a click at a setting that a wrench cannot be trusted at."""
    least = LEAST_SHARE * scale_max_nm
    if not least <= setting_nm <= scale_max_nm:
        raise InputError(
            "torque_nm",
            entered(setting_nm, "N·m"),
            f"from {entered(least, 'N·m')} to {entered(scale_max_nm, 'N·m')}",
            "this wrench cannot be trusted at that setting",
            "Take another wrench and enter what it read.",
        )
