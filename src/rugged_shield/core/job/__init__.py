"""The model of a job: its facts, its record, what each version was."""

from rugged_shield.core.job.model import Candidate, Extra, Job, KitCount, Priorities, Use, place_of

__all__ = ["Candidate", "Extra", "Job", "KitCount", "Priorities", "Use", "place_of"]
