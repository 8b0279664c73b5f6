"""What people entered, recorded and decided, kept in SQLite."""

from rugged_shield.store.database import Database, default_folder
from rugged_shield.store.repository import (
    JobRow,
    NotFoundError,
    Saved,
    StaleError,
    add_job,
    append_record,
    edit_job,
    last_edit,
    list_jobs,
    load_job,
)

__all__ = [
    "Database",
    "JobRow",
    "NotFoundError",
    "Saved",
    "StaleError",
    "add_job",
    "append_record",
    "default_folder",
    "edit_job",
    "last_edit",
    "list_jobs",
    "load_job",
]
