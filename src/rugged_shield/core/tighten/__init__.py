"""Tighten: torque limits and sources, wrench settings, order of work, all started."""

from rugged_shield.core.tighten.all_started import (
    JointState,
    StartedCheck,
    joint_states,
    started_check,
    started_refusal,
)
from rugged_shield.core.tighten.curing import (
    LockerClock,
    far_nut_clocks,
    has_passed,
    locker_clocks,
)
from rugged_shield.core.tighten.events import (
    BikeJointClosed,
    BikeJointOpened,
    Loosened,
    Reading,
    RiddenAnyway,
    StageReopened,
    Started,
    StepDone,
    StepReopened,
    TakenBack,
)
from rugged_shield.core.tighten.faces import drive_tool, nut_tool, weakest_face
from rugged_shield.core.tighten.limits import (
    LimitInput,
    LimitResult,
    LubricantInput,
    LubricantResult,
    lubricant_change,
    torque_limit,
)
from rugged_shield.core.tighten.order import (
    PLATE_STAGES,
    STAGE_LABELS,
    STAGE_ORDER,
    PlanJoint,
    PlanNut,
    TighteningSchool,
    against_order,
    chosen_sequence,
    schools_of,
)
from rugged_shield.core.tighten.plan import (
    Plan,
    PlanAround,
    PlanTask,
    Step,
    make_plan,
)
from rugged_shield.core.tighten.preload_loss import (
    PreloadLossInput,
    PreloadLossResult,
    PressedLayer,
    preload_loss,
)
from rugged_shield.core.tighten.register import KNOWN_LOOSENED, open_on_bike
from rugged_shield.core.tighten.taken import minutes_taken
from rugged_shield.core.tighten.tools import ToolUse, held_side, turned_side
from rugged_shield.core.tighten.torque import TorqueCard, WrenchTool, torque_card
from rugged_shield.core.tighten.wrench import (
    LEAST_SHARE,
    WrenchInput,
    WrenchResult,
    check_setting,
    wrench_setting,
)

__all__ = [
    "KNOWN_LOOSENED",
    "LEAST_SHARE",
    "PLATE_STAGES",
    "STAGE_LABELS",
    "STAGE_ORDER",
    "BikeJointClosed",
    "BikeJointOpened",
    "JointState",
    "LimitInput",
    "LimitResult",
    "LockerClock",
    "Loosened",
    "LubricantInput",
    "LubricantResult",
    "Plan",
    "PlanAround",
    "PlanJoint",
    "PlanNut",
    "PlanTask",
    "PreloadLossInput",
    "PreloadLossResult",
    "PressedLayer",
    "Reading",
    "RiddenAnyway",
    "StageReopened",
    "Started",
    "StartedCheck",
    "Step",
    "StepDone",
    "StepReopened",
    "TakenBack",
    "TighteningSchool",
    "ToolUse",
    "TorqueCard",
    "WrenchInput",
    "WrenchResult",
    "WrenchTool",
    "against_order",
    "check_setting",
    "chosen_sequence",
    "drive_tool",
    "far_nut_clocks",
    "has_passed",
    "held_side",
    "joint_states",
    "locker_clocks",
    "lubricant_change",
    "make_plan",
    "minutes_taken",
    "nut_tool",
    "open_on_bike",
    "preload_loss",
    "schools_of",
    "started_check",
    "started_refusal",
    "torque_card",
    "torque_limit",
    "turned_side",
    "weakest_face",
    "wrench_setting",
]
