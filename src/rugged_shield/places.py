"""Where an unforeseen error happened, for the log: never what was typed, which is in messages."""

from __future__ import annotations

import traceback
from pathlib import PurePath

_MOST = 12


def places_of(error: BaseException) -> str:
    """Its kind and the places it came through, the innermost first; in a fork too."""
    frames = reversed(traceback.extract_tb(error.__traceback__)[-_MOST:])
    where = [f"{PurePath(f.filename).name}:{f.lineno} {f.name}" for f in frames]
    where += [f"a fork, {there}" for there in (vars(error).get("elsewhere"),) if there]
    return f"{type(error).__name__} at {' < '.join(where)}"


def keep_places(error: BaseException) -> None:
    """Write its places down: they are lost when it is handed over to another process."""
    vars(error)["elsewhere"] = places_of(error)
