"""The model of a job: its facts, its record, what each version was."""

from rugged_shield.core.job.events import Entry, Event, Record, check_record, spent_keys
from rugged_shield.core.job.model import (
    MAX_PLATES,
    Candidate,
    Extra,
    Job,
    KitCount,
    MountedJoint,
    Priorities,
    Use,
    mounted,
    on_bike,
    place_of,
)
from rugged_shield.core.job.upgrade import VERSION, upgrade

__all__ = [
    "MAX_PLATES",
    "VERSION",
    "Candidate",
    "Entry",
    "Event",
    "Extra",
    "Job",
    "KitCount",
    "MountedJoint",
    "Priorities",
    "Record",
    "Use",
    "check_record",
    "mounted",
    "on_bike",
    "place_of",
    "spent_keys",
    "upgrade",
]
