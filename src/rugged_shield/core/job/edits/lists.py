"""Things a rider adds: defaults to start from, copies, mirror images, in any list of the job."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any

from rugged_shield.core.errors import InputError, choose
from rugged_shield.core.job.edits.keys import free_key
from rugged_shield.core.job.edits.path import Change, set_item, unset_item, value_at
from rugged_shield.core.job.model import Job
from rugged_shield.core.survey.bike import (
    AddedMass,
    Bike,
    BikeJoint,
    Mount,
    OwnTool,
    Part,
    ToolPlace,
)
from rugged_shield.core.survey.found import Fault, Scar, StripItem
from rugged_shield.core.survey.neighbours import Neighbour
from rugged_shield.core.survey.weighings import Weighing
from rugged_shield.core.text import check_text

_SWAP = (("left", "right"), ("right", "left"))


def _part(job: Job, key: str) -> Part:
    front = job.bike.wheelbase_mm * 0.45
    return Part(
        key=key,
        name="new part",
        kind="vital",
        shape="case",
        x_min_mm=front,
        x_max_mm=front + 80,
        y_min_mm=-40,
        y_max_mm=40,
        z_min_mm=320,
        z_max_mm=380,
        known="assumed",
    )


def _mount(job: Job, key: str) -> Mount:
    number = max([m.number for m in job.bike.mounts], default=0) + 1
    return Mount(
        key=key,
        number=number,
        name=f"mount {number}",
        x_mm=job.bike.wheelbase_mm * 0.45,
        y_mm=0,
        z_mm=310,
        kind="frame tab",
        thread="M8",
        female_kind="through_tapped",
        material="S235 steel",
        thread_start_mm=1.0,
        thread_end_mm=10.0,
        overall_height_mm=10.0,
        free_space_mm=30.0,
    )


def _scar(job: Job, key: str) -> Scar:
    length = job.stock.plate.belly.length_mm
    return Scar(key=key, kind="dent", panel="belly", u_mm=length / 2, v_mm=0.0, depth_mm=2.0)


def _weighing(job: Job, key: str) -> Weighing:
    return Weighing(
        key=key, plate=job.in_hand.key, holder="a person on a bathroom scale", resolution_kg=0.1
    )


_NEW: dict[str, Callable[[Job, str], Any]] = {
    "bike.parts": _part,
    "bike.mounts": _mount,
    "bike.tools": lambda job, key: OwnTool(key=key, tool="13 mm spanner", place="trail roll"),
    "bike.joints": lambda job, key: BikeJoint(key, "new bike joint", "M8"),
    "bike.neighbours": lambda job, key: Neighbour(key=key, name="neighbour"),
    "bike.added": lambda job, key: AddedMass(
        key, "something added", 1.0, job.bike.wheelbase_mm / 2
    ),
    "scars": _scar,
    "faults": lambda job, key: Fault(key=key, name="fault"),
    "strip": lambda job, key: StripItem(key=key, kind="screw that holds the plate", name="screw"),
    "weighings": _weighing,
}
LISTS: tuple[str, ...] = tuple(_NEW)
_NAMES = {
    "bike.parts": "part",
    "bike.mounts": "mount",
    "bike.joints": "bike joint",
    "bike.tools": "tool",
    "bike.added": "added mass",
    "bike.neighbours": "neighbour",
    "scars": "scar",
    "faults": "fault",
    "strip": "strip item",
    "weighings": "weighing",
}


def _keys(job: Job) -> set[str]:
    lists = (job.scars, job.faults, job.strip, job.weighings)
    return set(job.bike.own_keys()) | {item.key for items in lists for item in items}


def _mirrored(item: Any) -> Any:
    """The item on the other side: y turned about the centre line, left and right swapped."""
    if not isinstance(item, Part | Mount):
        raise InputError("mirror", type(item).__name__.lower(), "a part or a mount")
    name = item.name
    for side, other in _SWAP:
        if side in name:
            name = name.replace(side, other)
            break
    if isinstance(item, Part):
        return replace(item, name=name, y_min_mm=-item.y_max_mm, y_max_mm=-item.y_min_mm)
    return replace(item, name=name, y_mm=-item.y_mm)


def add_item(job: Job, where: str, like: str = "", mirror: bool = False) -> Change:
    """A new item in a list: from nothing, a copy of ``like``, or its mirror image.

    Raises InputError for a list or item that is not there.
    """
    choose("where", where, LISTS, "list of things")
    noun = _NAMES[where]
    key = free_key(noun.replace(" ", "-"), _keys(job))
    if not like:
        return set_item(job, where, _NEW[where](job, key), f"{noun} added")
    original = value_at(job, f"{where}.{like}")
    item = _mirrored(original) if mirror else original
    item = replace(item, key=key)
    if isinstance(item, Mount):
        item = replace(item, number=max(m.number for m in job.bike.mounts) + 1)
    named = getattr(original, "name", noun)
    words = f"{named} {'mirrored' if mirror else 'copied'}"
    return set_item(job, where, item, words)


def add_tool(job: Job, tool: str, place: ToolPlace) -> Change:
    """A tool by its words, in the garage or in the trail roll; one that lies there stays as it is.

    Raises InputError where it has no words, or lies there already.
    """
    item = _new_tool(job.bike, tool, place, _keys(job))
    return set_item(job, "bike.tools", item, f"{item.tool} is in the {place}")


def _new_tool(bike: Bike, tool: str, place: ToolPlace, taken: set[str]) -> OwnTool:
    words = " ".join(tool.split())
    check_text("tool", words)
    if not words:
        raise InputError("tool", tool, "a tool", "the tool needs a name")
    if any(t.tool.casefold() == words.casefold() and t.place == place for t in bike.tools):
        raise InputError("tool", words, "a tool that is not there yet", f"{words} lies there")
    return OwnTool(key=free_key("tool", taken), tool=words, place=place)


def with_roll_tool(bike: Bike, tool: str) -> Bike:
    """A bike of the shelf with one more tool in its trail roll."""
    keys = set(bike.own_keys())
    return replace(bike, tools=(*bike.tools, _new_tool(bike, tool, "trail roll", keys)))


def without_tool(bike: Bike, key: str) -> Bike:
    """The bike without a tool. Raises InputError for one that it does not have."""
    choose("key", key, [t.key for t in bike.tools], "tool of this bike")
    return replace(bike, tools=tuple(t for t in bike.tools if t.key != key))


def add_fault_at(job: Job, x_mm: float, y_mm: float) -> Change:
    """A fault where somebody pointed, seen from below: on the lowest part there, if there is one.

    Raises InputError for a place that is not on the bike.
    """
    under = [
        p
        for p in job.bike.parts
        if p.x_min_mm <= x_mm <= p.x_max_mm and p.y_min_mm <= y_mm <= p.y_max_mm
    ]
    part = min(under, key=lambda p: p.z_min_mm, default=None)
    fault = Fault(
        key=free_key("fault", _keys(job)),
        name="fault" if part is None else f"fault at the {part.name}",
        part="" if part is None else part.key,
        x_mm=round(x_mm, 1),
        y_mm=round(y_mm, 1),
    )
    return set_item(job, "faults", fault, f"{fault.name} added")


def remove_item(job: Job, where: str, key: str) -> Change:
    """Take an item out of a list; refuses a mount that joints still hang on."""
    choose("where", where, LISTS, "list of things")
    item = value_at(job, f"{where}.{key}")
    if isinstance(item, Mount):
        for candidate in (job.stock, *job.candidates):
            numbers = [str(j.number) for j in candidate.joints if j.mount == key]
            if numbers:
                raise InputError(
                    "key",
                    key,
                    "a mount that no joint hangs on",
                    f"joints {', '.join(numbers)} of the {candidate.plate.name} hang on "
                    f"mount {item.number}",
                    "Take those joints out first.",
                )
    return unset_item(job, f"{where}.{key}", f"{getattr(item, 'name', _NAMES[where])} taken out")
