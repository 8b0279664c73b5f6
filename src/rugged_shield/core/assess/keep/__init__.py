"""Keep applied to a job: what is due."""

from rugged_shield.core.assess.keep.due import Recheck, due_of, rechecks
from rugged_shield.core.assess.keep.log import note_counter, note_found

__all__ = ["Recheck", "due_of", "note_counter", "note_found", "rechecks"]
