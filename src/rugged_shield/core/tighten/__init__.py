"""Tighten: torque limits and sources, wrench settings, order of work, all started."""

from rugged_shield.core.tighten.all_started import (
    JointState,
    StartedCheck,
    joint_states,
    started_check,
    started_refusal,
)
from rugged_shield.core.tighten.events import Reading, Started, StepDone, StepReopened, TakenBack
from rugged_shield.core.tighten.faces import drive_tool, weakest_face
from rugged_shield.core.tighten.limits import (
    LimitInput,
    LimitResult,
    LubricantInput,
    LubricantResult,
    lubricant_change,
    torque_limit,
)
from rugged_shield.core.tighten.plan import (
    PLATE_STAGES,
    STAGE_LABELS,
    STAGE_ORDER,
    Plan,
    PlanJoint,
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
from rugged_shield.core.tighten.tools import ToolUse, held_side, turned_side
from rugged_shield.core.tighten.torque import TorqueCard, WrenchTool, torque_card
from rugged_shield.core.tighten.wrench import WrenchInput, WrenchResult, wrench_setting

__all__ = [
    "PLATE_STAGES",
    "STAGE_LABELS",
    "STAGE_ORDER",
    "JointState",
    "LimitInput",
    "LimitResult",
    "LubricantInput",
    "LubricantResult",
    "Plan",
    "PlanJoint",
    "PlanTask",
    "PreloadLossInput",
    "PreloadLossResult",
    "PressedLayer",
    "Reading",
    "Started",
    "StartedCheck",
    "Step",
    "StepDone",
    "StepReopened",
    "TakenBack",
    "ToolUse",
    "TorqueCard",
    "WrenchInput",
    "WrenchResult",
    "WrenchTool",
    "drive_tool",
    "held_side",
    "joint_states",
    "lubricant_change",
    "make_plan",
    "preload_loss",
    "started_check",
    "started_refusal",
    "torque_card",
    "torque_limit",
    "turned_side",
    "weakest_face",
    "wrench_setting",
]
