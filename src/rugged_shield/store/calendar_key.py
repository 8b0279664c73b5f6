"""The key that private calendar addresses are made with: random, in a file beside the database."""

from __future__ import annotations

import hashlib
import hmac
import os
import secrets
from pathlib import Path

from rugged_shield.store.database import Database

FILE_NAME = "calendar.key"
KEY_BYTES = 32
TOKEN_LETTERS = 40


def _key(path: Path) -> bytes:
    """The key, made where there is none yet; only its owner reads it."""
    try:
        made = os.open(path, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
    except FileExistsError:
        return path.read_bytes()
    with os.fdopen(made, "wb") as file:
        file.write(secrets.token_bytes(KEY_BYTES))
    return path.read_bytes()


def calendar_token(db: Database, job_id: str) -> str:
    """What stands in a job's private calendar address: nobody makes it without the key."""
    key = _key(db.folder / FILE_NAME)
    return hmac.new(key, job_id.encode(), hashlib.sha256).hexdigest()[:TOKEN_LETTERS]


def is_calendar_token(db: Database, job_id: str, token: str) -> bool:
    """Whether a token is the job's, compared in constant time."""
    return hmac.compare_digest(calendar_token(db, job_id).encode(), token.encode())


def renew_calendars(db: Database) -> None:
    """A new key: every private calendar address given out before leads nowhere."""
    (db.folder / FILE_NAME).unlink(missing_ok=True)
