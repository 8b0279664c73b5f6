"""Which line of the kit serves which place of a joint, and which lines must not be swapped."""

from __future__ import annotations

import itertools
from collections.abc import Iterable
from dataclasses import dataclass

from rugged_shield.core.amounts import amount
from rugged_shield.core.kit.hardware import KitLine
from rugged_shield.core.kit.needs import Need
from rugged_shield.core.mechanics import threads
from rugged_shield.core.tables.grades import NOT_READ
from rugged_shield.core.tables.hardware import WASHERS

SAME_THICKNESS_MM = 0.15
SAME_WASHER_MM = 0.35
SAME_OUTER_MM = 0.6
LOOKS_LIKE_MM = 5.0
"""Two screws that differ by no more than this in length are taken for each other in a bag."""
SPACER_LOOKS_LIKE_MM = 2.0


def _same_thread(line: KitLine, need: Need) -> bool:
    if not line.thread or not need.thread:
        return line.kind in ("bracket", "isolator", "pad", "other")
    return threads.nominal_size(line.thread) == threads.nominal_size(need.thread)


def _serves_screw(line: KitLine, need: Need) -> bool:
    grades = {line.grade, need.grade} - {"", NOT_READ}
    return (line.thread, line.length_mm, line.head) == (
        need.thread,
        need.length_mm,
        need.head,
    ) and len(grades) <= 1


def _washer_outer_mm(line: KitLine) -> float | None:
    """The outer size of a listed washer: its own, else that of the standard its name says."""
    if line.outer_mm is not None or not line.thread:
        return line.outer_mm
    standard = "ISO 7093-1" if "large" in line.name.casefold() else "ISO 7089"
    if threads.is_inch(line.thread):
        standard = "ASME B18.21.1"
    row = WASHERS[standard].get(threads.nominal_size(line.thread))
    return row.outer_mm if row else None


def serves(line: KitLine, need: Need) -> bool:
    """Whether a line is exactly what the place asks for; what it leaves open does not speak
    against it, except the length and head of a screw."""
    if line.kind != need.kind:
        return False
    if line.kind == "screw":
        return _serves_screw(line, need)
    if not _same_thread(line, need):
        return False
    if line.kind in ("nut", "clip nut"):
        return line.thread == need.thread
    band = SAME_WASHER_MM if line.kind == "washer" else SAME_THICKNESS_MM
    if line.length_mm is not None and need.length_mm is not None:
        if abs(line.length_mm - need.length_mm) > band:
            return False
    elif line.kind in ("spacer", "sleeve"):
        return False
    outer = _washer_outer_mm(line) if line.kind == "washer" else line.outer_mm
    if outer is None or need.outer_mm is None:
        return True
    return abs(outer - need.outer_mm) <= SAME_OUTER_MM


@dataclass(frozen=True)
class Shared:
    """The kit shared out: what each line gives, and the needs that none meets."""

    by_line: dict[str, tuple[Need, ...]]
    unmet: tuple[Need, ...]

    def line_of(self, joint_key: str, part: str) -> str:
        """The line that serves a place of a joint; empty where none does."""
        for key, needs in self.by_line.items():
            if any((n.joint_key, n.part) == (joint_key, part) for n in needs):
                return key
        return ""


def share_out(lines: tuple[KitLine, ...], needs: Iterable[Need]) -> Shared:
    """Each need onto the first line that serves it and has one left; the rest is unmet.

    A line that says all of its size goes before one that leaves something open.
    """
    ranked = sorted(lines, key=lambda line: (line.length_mm is None) + (line.outer_mm is None))
    left = {line.key: line.count for line in lines}
    given: dict[str, list[Need]] = {line.key: [] for line in lines}
    unmet = []
    for need in needs:
        line = next((k for k in ranked if left[k.key] > 0 and serves(k, need)), None)
        if line is None:
            unmet.append(need)
            continue
        left[line.key] -= 1
        given[line.key].append(need)
    return Shared({key: tuple(needs) for key, needs in given.items()}, tuple(unmet))


@dataclass(frozen=True)
class LookAlike:
    """Two lines that are taken for each other and must not be, and what tells them apart."""

    one: str
    other: str
    words: str


def _screws_alike(a: KitLine, b: KitLine) -> str:
    if threads.nominal_size(a.thread) != threads.nominal_size(b.thread):
        one, two = threads.row_of(a.thread), threads.row_of(b.thread)
        if threads.is_inch(a.thread) == threads.is_inch(b.thread):
            return ""
        # an inch screw starts in a metric thread of about its diameter, and spoils it
        return f"{a.thread} beside {b.thread}" if abs(one.d_mm - two.d_mm) < 0.6 else ""
    if a.thread != b.thread:
        return f"another pitch: {a.thread} beside {b.thread}"
    if a.length_mm is None or b.length_mm is None:
        return ""
    apart = abs(a.length_mm - b.length_mm)
    if 0 < apart <= LOOKS_LIKE_MM and (not a.head or not b.head or a.head == b.head):
        return f"the same screw, {amount(apart, 'mm', 1)} apart in length"
    if apart == 0 and a.grade != b.grade and a.grade and b.grade:
        return f"the same size, {a.grade} beside {b.grade}: read the mark on the head"
    return ""


def _alike(a: KitLine, b: KitLine) -> str:
    """What tells two lines apart that could be swapped; empty when nobody would."""
    if a.kind != b.kind:
        return ""
    if a.kind == "screw":
        return _screws_alike(a, b)
    if a.kind in ("spacer", "sleeve", "washer") and a.thread == b.thread:
        if a.length_mm is None or b.length_mm is None:
            return ""
        apart = abs(a.length_mm - b.length_mm)
        if 0 < apart <= SPACER_LOOKS_LIKE_MM:
            return f"{amount(apart, 'mm', 1)} apart in thickness"
    return ""


def look_alikes(lines: Iterable[KitLine]) -> tuple[LookAlike, ...]:
    """Every two lines that look alike and must not be swapped."""
    pairs = itertools.combinations(lines, 2)
    found = ((a, b, _alike(a, b)) for a, b in pairs)
    return tuple(LookAlike(a.key, b.key, words) for a, b, words in found if words)
