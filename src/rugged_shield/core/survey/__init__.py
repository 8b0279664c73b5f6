"""Survey: the bike and its plates as measured, folded and drawn."""

from rugged_shield.core.survey.bike import Bike, Mount, Part
from rugged_shield.core.survey.clearance import (
    CLEARANCE_SOURCE,
    LowPoint,
    governing_breakover,
    low_points,
    lowest,
)
from rugged_shield.core.survey.geometry import FoldedPlate, Panel, Pose, fold, sheet_point
from rugged_shield.core.survey.mass import (
    MASS_SOURCE,
    PlateMassInput,
    PlateMassResult,
    ThicknessInput,
    ThicknessResult,
    plate_mass,
    thickness_compare,
)
from rugged_shield.core.survey.plate import Cutout, Plate
from rugged_shield.core.survey.standoff import Standoff, standoffs
from rugged_shield.core.survey.views import OrderMark, creeper_view, part_letters, profile_view

__all__ = [
    "CLEARANCE_SOURCE",
    "MASS_SOURCE",
    "Bike",
    "Cutout",
    "FoldedPlate",
    "LowPoint",
    "Mount",
    "OrderMark",
    "Panel",
    "Part",
    "Plate",
    "PlateMassInput",
    "PlateMassResult",
    "Pose",
    "Standoff",
    "ThicknessInput",
    "ThicknessResult",
    "creeper_view",
    "fold",
    "governing_breakover",
    "low_points",
    "lowest",
    "part_letters",
    "plate_mass",
    "profile_view",
    "sheet_point",
    "standoffs",
    "thickness_compare",
]
