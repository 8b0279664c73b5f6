"""What people entered, recorded and decided, kept in SQLite."""

from rugged_shield.store.database import Database, default_folder
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
    "add_job",
    "append_record",
    "default_folder",
    "edit_job",
    "history",
    "last_edit",
    "list_jobs",
    "load_job",
    "step_back",
    "step_forward",
]
