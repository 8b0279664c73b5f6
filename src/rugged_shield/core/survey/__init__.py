"""Survey: the bike and its plates as measured, folded and drawn."""

from rugged_shield.core.survey.bike import (
    AddedMass,
    AlongBike,
    Baseline,
    Bike,
    BikeJoint,
    Mount,
    Part,
    SagReadings,
    Spring,
)
from rugged_shield.core.survey.clearance import (
    CLEARANCE_SOURCE,
    LowPoint,
    governing_breakover,
    low_points,
    lowest,
)
from rugged_shield.core.survey.conditions import (
    CONDITION_WORDS,
    Traits,
    applies,
    check_condition,
    traits_of,
)
from rugged_shield.core.survey.drawings import (
    OrderMark,
    part_letters,
    profile_drawing,
    underside_drawing,
)
from rugged_shield.core.survey.flat import FlatPattern, flat_drawing, flat_pattern
from rugged_shield.core.survey.found import Scar, StripItem, StripKind
from rugged_shield.core.survey.geometry import FoldedPlate, fold, sheet_normal_point, sheet_point
from rugged_shield.core.survey.known import (
    BANDS,
    Fact,
    band_of,
    banded,
    fact_of,
    overall,
    with_fact,
)
from rugged_shield.core.survey.layouts import (
    LAYOUTS,
    LayoutRequest,
    bike_from_layout,
    stock_plate,
)
from rugged_shield.core.survey.mass import (
    MASS_SOURCE,
    PlateMassInput,
    PlateMassResult,
    ThicknessInput,
    ThicknessResult,
    plate_mass,
    thickness_compare,
)
from rugged_shield.core.survey.measures import (
    PlateGeometryInput,
    PlateGeometryResult,
    geometry_findings,
    piece_gaps,
    plate_geometry,
)
from rugged_shield.core.survey.panels import DRAWN, Panel, Pose
from rugged_shield.core.survey.plate import (
    Apron,
    Belly,
    Cutout,
    Needs,
    Piece,
    Plate,
    Tail,
    Wing,
)
from rugged_shield.core.survey.plate_drawings import plate_drawing, scar_paths
from rugged_shield.core.survey.rampover import (
    BudgetInput,
    ClearanceInput,
    clearance,
    clearance_budget,
)
from rugged_shield.core.survey.rays import blocked
from rugged_shield.core.survey.ride import ride_of
from rugged_shield.core.survey.sag import Ride, SagInput, sag, wheel_rate
from rugged_shield.core.survey.shapes import DrawnBox, draw_part
from rugged_shield.core.survey.sketches import PLACE_AXES, Sketch, tape_sketch
from rugged_shield.core.survey.standoff import (
    STANDOFF_SOURCE,
    Standoff,
    StandoffInput,
    box_of,
    standoff,
    standoff_finding,
    standoffs,
)
from rugged_shield.core.survey.tyres import tyre_radius_mm
from rugged_shield.core.survey.underside import Underside, filter_reach, oil_paths, underside
from rugged_shield.core.survey.weighing import WeighInput, WeighResult, weigh_difference
from rugged_shield.core.survey.weighings import Pair, Weighing, weighing_result

__all__ = [
    "BANDS",
    "CLEARANCE_SOURCE",
    "CONDITION_WORDS",
    "DRAWN",
    "LAYOUTS",
    "MASS_SOURCE",
    "PLACE_AXES",
    "STANDOFF_SOURCE",
    "AddedMass",
    "AlongBike",
    "Apron",
    "Baseline",
    "Belly",
    "Bike",
    "BikeJoint",
    "BudgetInput",
    "ClearanceInput",
    "Cutout",
    "DrawnBox",
    "Fact",
    "FlatPattern",
    "FoldedPlate",
    "LayoutRequest",
    "LowPoint",
    "Mount",
    "Needs",
    "OrderMark",
    "Pair",
    "Panel",
    "Part",
    "Piece",
    "Plate",
    "PlateGeometryInput",
    "PlateGeometryResult",
    "PlateMassInput",
    "PlateMassResult",
    "Pose",
    "Ride",
    "SagInput",
    "SagReadings",
    "Scar",
    "Sketch",
    "Spring",
    "Standoff",
    "StandoffInput",
    "StripItem",
    "StripKind",
    "Tail",
    "ThicknessInput",
    "ThicknessResult",
    "Traits",
    "Underside",
    "WeighInput",
    "WeighResult",
    "Weighing",
    "Wing",
    "applies",
    "band_of",
    "banded",
    "bike_from_layout",
    "blocked",
    "box_of",
    "check_condition",
    "clearance",
    "clearance_budget",
    "draw_part",
    "fact_of",
    "filter_reach",
    "flat_drawing",
    "flat_pattern",
    "fold",
    "geometry_findings",
    "governing_breakover",
    "low_points",
    "lowest",
    "oil_paths",
    "overall",
    "part_letters",
    "piece_gaps",
    "plate_drawing",
    "plate_geometry",
    "plate_mass",
    "profile_drawing",
    "ride_of",
    "sag",
    "scar_paths",
    "sheet_normal_point",
    "sheet_point",
    "standoff",
    "standoff_finding",
    "standoffs",
    "stock_plate",
    "tape_sketch",
    "thickness_compare",
    "traits_of",
    "tyre_radius_mm",
    "underside",
    "underside_drawing",
    "weigh_difference",
    "weighing_result",
    "wheel_rate",
    "with_fact",
]
