"""A sheet that was revised: which lines it changes, adds and no longer lists."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import Any, Literal

from rugged_shield.core.amounts import entered
from rugged_shield.core.kit.hardware import KitLine

_OF_THE_SHEET = (
    "name",
    "thread",
    "length_mm",
    "head",
    "grade",
    "count",
    "already_fitted",
    "drive",
    "fitted_to",
    "treatment",
    "when",
    "part_number",
)
"""What a sheet says of a line; the bag it lies in and how it came are found on the bench."""


@dataclass(frozen=True)
class LineChange:
    """One line that the revision alters: as it is (None: new), as it becomes (None: gone)."""

    kind: Literal["changed", "added", "gone"]
    old: KitLine | None
    new: KitLine | None
    words: str

    @property
    def key(self) -> str:
        """By which one change is taken or refused."""
        line = self.old or self.new
        assert line is not None
        return f"{self.kind}:{line.key}"


def _said(value: Any, field: str) -> str:
    if value in (None, ""):
        return "nothing"
    return entered(value, "mm") if field.endswith("_mm") else str(value)


def _changed_fields(old: KitLine, new: KitLine) -> tuple[str, ...]:
    """What the new sheet says otherwise; what it leaves out stays as it is."""
    return tuple(
        name
        for name in _OF_THE_SHEET
        if getattr(new, name) not in (None, "") and getattr(new, name) != getattr(old, name)
    )


def _likeness(old: KitLine, new: KitLine) -> int:
    """How many of the things that name a line agree; 0 where it is another kind."""
    if old.kind != new.kind:
        return 0
    if old.part_number and old.part_number == new.part_number:
        return 100
    score = 1
    for name, weight in (("name", 6), ("thread", 3), ("length_mm", 4), ("head", 2)):
        said = getattr(new, name)
        score += weight if said not in (None, "") and said == getattr(old, name) else 0
    return score


_SAME_LINE = 5
"""From here on two lines are one that was revised; less, and one went and another came."""


def _pairs(old: list[KitLine], new: list[KitLine]) -> list[tuple[KitLine, KitLine]]:
    """Old and new lines that are the same one, the likest first."""
    ranked = sorted(
        ((_likeness(a, b), -i, -j) for i, a in enumerate(old) for j, b in enumerate(new)),
        reverse=True,
    )
    taken_old: set[int] = set()
    taken_new: set[int] = set()
    found = []
    for score, i, j in ranked:
        if score < _SAME_LINE or -i in taken_old or -j in taken_new:
            continue
        taken_old.add(-i)
        taken_new.add(-j)
        found.append((old[-i], new[-j]))
    return found


def differences(old: Iterable[KitLine], new: Iterable[KitLine]) -> tuple[LineChange, ...]:
    """What a revised list alters, each a change that can be taken or refused on its own.

    A line is the same by its part number, else by name and size. Lines that say the same are left
    out.
    """
    before, after = list(old), list(new)
    pairs = _pairs(before, after)
    out = []
    for a, b in pairs:
        names = _changed_fields(a, b)
        if names:
            became = replace(a, **{name: getattr(b, name) for name in names})
            words = "; ".join(
                f"{name.removesuffix('_mm').replace('_', ' ')} from "
                f"{_said(getattr(a, name), name)} to {_said(getattr(b, name), name)}"
                for name in names
            )
            out.append(LineChange("changed", a, became, words))
    kept = {id(a) for a, _ in pairs} | {id(b) for _, b in pairs}
    out += [
        LineChange("added", None, b, "listed from this revision on")
        for b in after
        if id(b) not in kept
    ]
    out += [LineChange("gone", a, None, "no longer listed") for a in before if id(a) not in kept]
    return tuple(out)
