"""What turns a joint, what holds its other side, and which of them its recess lets in."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass

from rugged_shield.core.amounts import amount
from rugged_shield.core.fitup.joint import Joint
from rugged_shield.core.tables.sockets import (
    BIT_LONG_MM,
    BIT_SOCKET_MM,
    KEY_ROOM_MM,
    SOCKET_OUTER_MM,
    socket_outer_mm,
)
from rugged_shield.core.tighten.faces import drives, nut_tool

_NUMBER = re.compile(r"(\d+(?:\.\d+)?)(?:/(\d+))?")
INCH_MM = 25.4
_SIX_LOBE_MM = {
    "T20": 3.95,
    "T25": 4.5,
    "T27": 5.1,
    "T30": 5.6,
    "T40": 6.75,
    "T45": 7.9,
    "T50": 8.95,
    "T55": 11.35,
}
"""Size over the lobes, ISO 10664, mm."""


@dataclass(frozen=True, kw_only=True)
class ToolUse:
    """One side of a joint: the tools that do it, which of them get in, and why the others not.

    ``known``: whether the room around it was entered where it decides.
    """

    side: str
    tools: tuple[str, ...]
    fits: tuple[str, ...]
    words: str
    known: bool


def _size_mm(tool: str) -> float | None:
    """The size that a drive's words say, mm: its flats, or a six-lobe over its lobes."""
    lobes = next((mm for name, mm in _SIX_LOBE_MM.items() if name in tool.split()), None)
    if lobes is not None:
        return lobes
    found = _NUMBER.search(tool)
    if found is None or (found[2] and not int(found[2])):
        return None
    size = float(found[1]) / float(found[2]) if found[2] else float(found[1])
    return size * INCH_MM if found[2] or " in" in tool else size


def _is_outer(tool: str) -> bool:
    """Whether the tool grips around the head: a socket or spanner, not a key or bit inside it."""
    words = tool.casefold()
    return any(w in words for w in ("socket", "spanner")) and "key" not in words


def _needs_mm(tool: str, deep_mm: float) -> float | None:
    """Room across that a tool needs, mm; None where its size is not said or beyond the table.

    A bit as long as the head lies deep brings its body down into the hole.
    """
    size = _size_mm(tool)
    if size is None or (_is_outer(tool) and size > max(SOCKET_OUTER_MM)):
        return None
    if _is_outer(tool):
        return socket_outer_mm(size)
    if deep_mm > BIT_LONG_MM:
        return BIT_SOCKET_MM
    corners = size if "six-lobe" in tool else 2 * size / math.sqrt(3)
    return corners + KEY_ROOM_MM


def turned_side(joint: Joint) -> ToolUse:
    """What turns: every drive of the head (or the nut), and which of them its room lets in."""
    if joint.turns_nut:
        own = (nut_tool(joint),)
        return ToolUse(side="turned", tools=own, fits=own, words="", known=True)
    tools = drives(joint)
    if joint.room_mm is None:
        one = len(tools) < 2
        words = "" if one else "the room around the head is not entered: try which gets in"
        return ToolUse(side="turned", tools=tools, fits=tools, words=words, known=one)
    deep = joint.room_deep_mm or 0.0
    needs = {tool: _needs_mm(tool, deep) for tool in tools}
    unknown = [tool for tool, need in needs.items() if need is None]
    fits = tuple(t for t, need in needs.items() if need is not None and need <= joint.room_mm)
    out = [t for t in tools if t not in fits and t not in unknown]
    words = "; ".join(_stays_out(tool, needs[tool], joint.room_mm) for tool in out)
    if unknown:
        words = "; ".join(w for w in (words, f"size of {', '.join(unknown)} not said: try it") if w)
    return ToolUse(side="turned", tools=tools, fits=fits, words=words, known=not unknown)


def reaches(joint: Joint) -> tuple[bool, bool]:
    """Whether a tool gets at what turns, and whether that is known: its room was entered."""
    known = joint.room_mm is not None and not joint.turns_nut
    return bool(turned_side(joint).fits), known


def _stays_out(tool: str, needs_mm: float | None, room_mm: float) -> str:
    need = amount(needs_mm or 0.0, "mm", 1)
    return f"{tool} stays out: it needs {need}, there are {amount(room_mm, 'mm', 1)}"


def held_side(joint: Joint) -> ToolUse | None:
    """What holds the other side; None where the bike's own thread does."""
    if not joint.nut:
        return None
    if joint.is_stud:
        return ToolUse(side="held", tools=(), fits=(), words="its seat holds the stud", known=True)
    tools = drives(joint) if joint.turns_nut else (nut_tool(joint),)
    words = "" if tools else "the neck holds it"
    return ToolUse(side="held", tools=tools, fits=tools, words=words, known=True)
