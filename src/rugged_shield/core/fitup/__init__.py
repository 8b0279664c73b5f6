"""Fit-up: each screw's stack, its lengths, and its section to scale."""

from rugged_shield.core.fitup.beyond import far_joints
from rugged_shield.core.fitup.bracket_bend import BracketBendInput, BracketBendResult, bracket_bend
from rugged_shield.core.fitup.closing import Contact, Rest, rest
from rugged_shield.core.fitup.draw_up import (
    MAX_MOUNTS,
    DrawnMount,
    DrawUpInput,
    DrawUpResult,
    draw_up,
)
from rugged_shield.core.fitup.engagement import MAX_BEYOND, Engagement, Nut
from rugged_shield.core.fitup.film import film_strip
from rugged_shield.core.fitup.gap_seen import PENCIL_MM, GapSeen, LookedWith
from rugged_shield.core.fitup.hole_fit import (
    Growth,
    HoleFitInput,
    HoleFitResult,
    PlateHole,
    hole_fit,
)
from rugged_shield.core.fitup.hole_map import MappedHole, hole_map
from rugged_shield.core.fitup.hole_pattern import PatternInput, PatternResult, hole_pattern
from rugged_shield.core.fitup.joint import (
    Joint,
    Stage,
    above_plate_mm,
    as_built,
    below_plate_mm,
    clamped,
    clearance_hole_mm,
    female_of,
    place_above_plate,
    screw_mass_kg,
    stack_input,
    under_plate,
    with_pieces,
    with_plate,
)
from rugged_shield.core.fitup.layer import Layer, LayerKind
from rugged_shield.core.fitup.modification import (
    MAX_CHANGES,
    UNDONE_BY_HAND,
    WORDS_ONLY,
    Altered,
    ChangeKind,
    Modification,
    UncutMass,
    change_words,
)
from rugged_shield.core.fitup.presets import (
    FIRST_LAYER,
    PRESETS,
    PresetRequest,
    joint_from_preset,
    nut_by_name,
    nut_female,
    standard_washer,
    with_nut,
)
from rugged_shield.core.fitup.seat import Seat, seat_of
from rugged_shield.core.fitup.section import FarSection, section_drawing
from rugged_shield.core.fitup.seen import NOT_SEEN, SeenHole
from rugged_shield.core.fitup.stack import consequence, joint_stack
from rugged_shield.core.fitup.stack_model import (
    Countersink,
    Evaluation,
    Sleeve,
    StackInput,
    StackLayer,
    StackResult,
)
from rugged_shield.core.fitup.stud import Stud, StudSeat
from rugged_shield.core.fitup.substitute import MAX_SUBSTITUTES, Substitute, with_substitute
from rugged_shield.core.fitup.sweep import (
    Capsule,
    FixedThing,
    Motion,
    SweepInput,
    SweepResult,
    placed,
    sweep,
)
from rugged_shield.core.fitup.vent_field import Rim, VentFieldInput, VentFieldResult, vent_field

__all__ = [
    "FIRST_LAYER",
    "MAX_BEYOND",
    "MAX_CHANGES",
    "MAX_MOUNTS",
    "MAX_SUBSTITUTES",
    "NOT_SEEN",
    "PENCIL_MM",
    "PRESETS",
    "UNDONE_BY_HAND",
    "WORDS_ONLY",
    "Altered",
    "BracketBendInput",
    "BracketBendResult",
    "Capsule",
    "ChangeKind",
    "Contact",
    "Countersink",
    "DrawUpInput",
    "DrawUpResult",
    "DrawnMount",
    "Engagement",
    "Evaluation",
    "FarSection",
    "FixedThing",
    "GapSeen",
    "Growth",
    "HoleFitInput",
    "HoleFitResult",
    "Joint",
    "Layer",
    "LayerKind",
    "LookedWith",
    "MappedHole",
    "Modification",
    "Motion",
    "Nut",
    "PatternInput",
    "PatternResult",
    "PlateHole",
    "PresetRequest",
    "Rest",
    "Rim",
    "Seat",
    "SeenHole",
    "Sleeve",
    "StackInput",
    "StackLayer",
    "StackResult",
    "Stage",
    "Stud",
    "StudSeat",
    "Substitute",
    "SweepInput",
    "SweepResult",
    "UncutMass",
    "VentFieldInput",
    "VentFieldResult",
    "above_plate_mm",
    "as_built",
    "below_plate_mm",
    "bracket_bend",
    "change_words",
    "clamped",
    "clearance_hole_mm",
    "consequence",
    "draw_up",
    "far_joints",
    "female_of",
    "film_strip",
    "hole_fit",
    "hole_map",
    "hole_pattern",
    "joint_from_preset",
    "joint_stack",
    "nut_by_name",
    "nut_female",
    "place_above_plate",
    "placed",
    "rest",
    "screw_mass_kg",
    "seat_of",
    "section_drawing",
    "stack_input",
    "standard_washer",
    "sweep",
    "under_plate",
    "vent_field",
    "with_nut",
    "with_pieces",
    "with_plate",
    "with_substitute",
]
