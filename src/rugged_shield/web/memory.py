"""Memory of large requests goes back to the system when they are answered."""

from __future__ import annotations

import ctypes
from functools import lru_cache
from typing import Any

from flask import Response, request

LARGE_BYTES = 200_000
_ARENA_MAX = -8


@lru_cache(maxsize=1)
def _library() -> Any:
    """The C library if it is glibc, whose allocator can be told what to do; None for another."""
    library = ctypes.CDLL(None)
    return library if hasattr(library, "malloc_trim") else None


def one_arena() -> None:
    """All threads take their memory from one place: what is free in it can be used by all."""
    library = _library()
    if library is not None:
        library.mallopt(_ARENA_MAX, 1)


def give_back_after(answer: Response) -> Response:
    """After a large request: what it took is free, but the allocator would keep it for the next."""
    library = _library()
    if (request.content_length or 0) > LARGE_BYTES and library is not None:
        answer.call_on_close(lambda: library.malloc_trim(0))
    return answer
