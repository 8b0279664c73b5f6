"""Fit-up applied to a job: the pose of a plate, every joint judged."""

from rugged_shield.core.assess.fitup.assumed import compared, has_assumed_joints
from rugged_shield.core.assess.fitup.growing import FloatHole
from rugged_shield.core.assess.fitup.holes import (
    HoleJudged,
    HolesJudged,
    Remedy,
    holes_judged,
)
from rugged_shield.core.assess.fitup.joints import (
    FarNut,
    JointAssessment,
    LengthMark,
    Span,
    assess_joint,
    assess_joints,
    section_of,
    stack_words,
)
from rugged_shield.core.assess.fitup.metals import metal_pairs
from rugged_shield.core.assess.fitup.neighbours import NeighbourJudged, neighbours_judged
from rugged_shield.core.assess.fitup.pairs import Pair, opposite, pair_of
from rugged_shield.core.assess.fitup.pieces import (
    HoleSet,
    PiecesJudged,
    SharedScrew,
    every_set,
    pieces_drawing,
    pieces_judged,
)
from rugged_shield.core.assess.fitup.pose import (
    PlatePose,
    fitted_joints,
    hardware_mass_kg,
    hung_sheet,
    open_airs,
    plate_pose,
)
from rugged_shield.core.assess.fitup.template import (
    OUTLINE_ASSUMED,
    ScrewPlace,
    Template,
    outline_assumed,
    template_of,
)

__all__ = [
    "OUTLINE_ASSUMED",
    "FarNut",
    "FloatHole",
    "HoleJudged",
    "HoleSet",
    "HolesJudged",
    "JointAssessment",
    "LengthMark",
    "NeighbourJudged",
    "Pair",
    "PiecesJudged",
    "PlatePose",
    "Remedy",
    "ScrewPlace",
    "SharedScrew",
    "Span",
    "Template",
    "assess_joint",
    "assess_joints",
    "compared",
    "every_set",
    "fitted_joints",
    "hardware_mass_kg",
    "has_assumed_joints",
    "holes_judged",
    "hung_sheet",
    "metal_pairs",
    "neighbours_judged",
    "open_airs",
    "opposite",
    "outline_assumed",
    "pair_of",
    "pieces_drawing",
    "pieces_judged",
    "plate_pose",
    "section_of",
    "stack_words",
    "template_of",
]
