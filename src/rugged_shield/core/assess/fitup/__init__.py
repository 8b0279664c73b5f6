"""Fit-up applied to a job: the pose of a plate, every joint judged."""

from rugged_shield.core.assess.fitup.joints import (
    JointAssessment,
    LengthMark,
    assess_joint,
    assess_joints,
)
from rugged_shield.core.assess.fitup.pose import Hang, hang, hardware_mass_kg

__all__ = [
    "Hang",
    "JointAssessment",
    "LengthMark",
    "assess_joint",
    "assess_joints",
    "hang",
    "hardware_mass_kg",
]
