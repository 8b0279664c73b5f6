"""Fit-up: each screw's stack, its lengths, and its section to scale."""

from rugged_shield.core.fitup.closing import Contact, Rest, rest
from rugged_shield.core.fitup.joint import (
    Joint,
    Layer,
    LayerKind,
    Nut,
    Stage,
    as_built,
    behind_plate_mm,
    clamped,
    clearance_hole_mm,
    female_of,
    in_front_mm,
    screw_mass_kg,
    stack_input,
    with_plate,
)
from rugged_shield.core.fitup.presets import (
    FIRST_LAYER,
    PRESETS,
    PresetRequest,
    joint_from_preset,
    standard_washer,
    with_nut,
)
from rugged_shield.core.fitup.section import section_drawing
from rugged_shield.core.fitup.stack import consequence, joint_stack
from rugged_shield.core.fitup.stack_model import (
    Countersink,
    Evaluation,
    Sleeve,
    StackInput,
    StackLayer,
    StackResult,
)
from rugged_shield.core.fitup.substitute import MAX_SUBSTITUTES, Substitute, with_substitute

__all__ = [
    "FIRST_LAYER",
    "MAX_SUBSTITUTES",
    "PRESETS",
    "Contact",
    "Countersink",
    "Evaluation",
    "Joint",
    "Layer",
    "LayerKind",
    "Nut",
    "PresetRequest",
    "Rest",
    "Sleeve",
    "StackInput",
    "StackLayer",
    "StackResult",
    "Stage",
    "Substitute",
    "as_built",
    "behind_plate_mm",
    "clamped",
    "clearance_hole_mm",
    "consequence",
    "female_of",
    "in_front_mm",
    "joint_from_preset",
    "joint_stack",
    "rest",
    "screw_mass_kg",
    "section_drawing",
    "stack_input",
    "standard_washer",
    "with_nut",
    "with_plate",
    "with_substitute",
]
