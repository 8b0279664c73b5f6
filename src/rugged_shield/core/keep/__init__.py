"""Keep: what happens to a fitted plate, what is due, and what a re-check found."""

from rugged_shield.core.keep.due import DueState, FittedJoint, first_check
from rugged_shield.core.keep.events import CounterRead, FoundTorque, last_counter_km, last_found
from rugged_shield.core.keep.spares import Spare, SpareJoint, SparesInput, SparesResult, spares
from rugged_shield.core.keep.wear_left import WearLeftInput, WearLeftResult, wear_left

__all__ = [
    "CounterRead",
    "DueState",
    "FittedJoint",
    "FoundTorque",
    "Spare",
    "SpareJoint",
    "SparesInput",
    "SparesResult",
    "WearLeftInput",
    "WearLeftResult",
    "first_check",
    "last_counter_km",
    "last_found",
    "spares",
    "wear_left",
]
