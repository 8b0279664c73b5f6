"""What people entered, recorded and decided, kept in SQLite."""

from rugged_shield.store.care import backup, check, owned, plain_words, restore
from rugged_shield.store.database import Database, StoreTroubleError, default_folder
from rugged_shield.store.repository import (
    History,
    JobRow,
    NotFoundError,
    Saved,
    StaleError,
    add_job,
    append_record,
    edit_job,
    history,
    last_edit,
    list_jobs,
    load_job,
    step_back,
    step_forward,
)

__all__ = [
    "Database",
    "History",
    "JobRow",
    "NotFoundError",
    "Saved",
    "StaleError",
    "StoreTroubleError",
    "add_job",
    "append_record",
    "backup",
    "check",
    "default_folder",
    "edit_job",
    "history",
    "last_edit",
    "list_jobs",
    "load_job",
    "owned",
    "plain_words",
    "restore",
    "step_back",
    "step_forward",
]
