"""Keep: what happens to a fitted plate, what is due, and what a re-check found."""

from rugged_shield.core.keep.due import DueState, FittedJoint, first_check
from rugged_shield.core.keep.events import CounterRead, FoundTorque, last_counter_km, last_found

__all__ = [
    "CounterRead",
    "DueState",
    "FittedJoint",
    "FoundTorque",
    "first_check",
    "last_counter_km",
    "last_found",
]
