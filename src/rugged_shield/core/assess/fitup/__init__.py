"""Fit-up applied to a job: the pose of a plate, every joint judged."""

from rugged_shield.core.assess.fitup.joints import (
    JointAssessment,
    LengthMark,
    Span,
    assess_joint,
    assess_joints,
)
from rugged_shield.core.assess.fitup.metals import metal_pairs
from rugged_shield.core.assess.fitup.pose import (
    PlatePose,
    fitted_joints,
    hardware_mass_kg,
    open_airs,
    plate_pose,
)

__all__ = [
    "JointAssessment",
    "LengthMark",
    "PlatePose",
    "Span",
    "assess_joint",
    "assess_joints",
    "fitted_joints",
    "hardware_mass_kg",
    "metal_pairs",
    "open_airs",
    "plate_pose",
]
