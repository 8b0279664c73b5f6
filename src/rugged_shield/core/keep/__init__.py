"""Keep: what is due, and what a re-check found."""

from rugged_shield.core.keep.due import DueState, FittedJoint, first_check

__all__ = ["DueState", "FittedJoint", "first_check"]
