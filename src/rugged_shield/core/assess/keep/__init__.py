"""Keep applied to a job: what is due."""

from rugged_shield.core.assess.keep.due import due_of

__all__ = ["due_of"]
