"""What a mount is like by its kind: what is assumed of it until someone measures it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any

from rugged_shield.core.mechanics.female import FemaleKind
from rugged_shield.core.survey.bike import Mount, MountKind
from rugged_shield.core.tables.threads import THREADS

_FREE_MM = 30.0


def _through(kind: FemaleKind, lead_mm: float, height_mm: float) -> dict[str, Any]:
    return {
        "female_kind": kind,
        "material": "S235 steel",
        "thread_start_mm": lead_mm,
        "thread_end_mm": height_mm,
        "overall_height_mm": height_mm,
        "free_space_mm": _FREE_MM,
    }


def _boss(d: float) -> dict[str, Any]:
    return {
        "female_kind": "blind_tapped",
        "material": "AlSi9Cu3 die cast",
        "thread_start_mm": 1.0,
        "thread_end_mm": round(2.5 * d, 1),
        "overall_height_mm": None,
        "free_space_mm": None,
    }


KINDS: dict[MountKind, Callable[[float], dict[str, Any]]] = {
    "frame tab": lambda _d: _through("through_tapped", 1.0, 10.0),
    "engine boss": _boss,
    # a nut of 0.8 d welded behind a strap of 4 mm, whose hole is no thread
    "crash-bar tab": lambda d: _through("weld_nut", 4.0, round(4.0 + 0.8 * d, 1)),
    "foot-peg bolt": lambda d: _through("through_tapped", 1.0, round(1.6 * d, 1)),
    "accessory": lambda d: _through("rivet_nut", 0.5, round(1.2 * d, 1)),
}
"""Typical sizes from the kind and the thread's diameter: low confidence, all assumed."""
FOLLOWING = ("female_kind", "material", "thread_start_mm", "thread_end_mm", "overall_height_mm")


def with_kind(mount: Mount, kind: MountKind, thread: str) -> Mount:
    """The mount as one of that kind and thread; a number that somebody entered stays.

    Raises InputError where what stays and what follows cannot be one mount.
    """
    typical = KINDS[kind](THREADS[thread].d_mm)
    entered = {fact.key for fact in mount.facts if fact.known != "assumed"}
    if mount.known != "assumed" or entered & set(FOLLOWING):
        # depths belong together: where one was read the others are not guessed anew
        typical = {}
    return replace(mount, kind=kind, thread=thread, **typical)
