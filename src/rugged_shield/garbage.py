"""How often what is held is looked through for what nobody holds any more."""

from __future__ import annotations

import gc

_YOUNG, _MIDDLE, _OLD = 50_000, 20, 50


def collect_seldom() -> None:
    """What is loaded and remembered is large and lives long: little of it is ever garbage.

    Python by itself looks after every 700 new objects, a seventh of the processor of a start.
    """
    gc.set_threshold(_YOUNG, _MIDDLE, _OLD)
