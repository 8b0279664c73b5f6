"""Changing one fact of a job by its path: parse, check, rebuild, say it in words.

A path names fields and keys from the job down, for example
``candidates.alu4.joints.j3.layers.spacer.thickness_mm``. The new job is built
through every constructor on the way up, so physics and ranges are checked.
"""

from __future__ import annotations

import re
import types
from dataclasses import dataclass, fields, is_dataclass, replace
from typing import Annotated, Any, Literal, Union, get_args, get_origin

from rugged_shield.core.amounts import System, entered
from rugged_shield.core.errors import InputError
from rugged_shield.core.fitup.joint import Joint
from rugged_shield.core.fitup.layer import Layer
from rugged_shield.core.fitup.presets import with_nut
from rugged_shield.core.job.model import Job
from rugged_shield.core.judgement.known import BANDS, Fact, Known, banded, fact_of, with_fact
from rugged_shield.core.mechanics.female import BLIND_KINDS, Female
from rugged_shield.core.quantity import Range, check_number, hints_of, parse, ranges_of
from rugged_shield.core.survey.bike import Mount
from rugged_shield.core.survey.mount_kinds import with_kind
from rugged_shield.core.survey.plate import Belly, Plate
from rugged_shield.core.survey.tyres import tyre_radius_mm
from rugged_shield.core.tables.heads import STUD
from rugged_shield.core.text import check_text

_UNITS = re.compile(r"_(n_per_mm|mm2|mm|kg|nm|deg|km|c|j)$")
_SAID = {
    "x": "behind the front axle, x",
    "y": "to the rider's right, y",
    "z": "above ground, z",
    "x min": "front edge, x",
    "x max": "rear edge, x",
    "y min": "left edge, y",
    "y max": "right edge, y",
    "z min": "underside, z",
    "z max": "top, z",
    "known": "how it is known",
    "surface": "surface temperature",
    "thread start": "lead before the thread",
    "thread end": "depth of full thread",
    "female kind": "what it threads into",
    "overall height": "height of the nut or wall",
    "free space": "free space beyond",
    "manual torque": "torque in the bike's manual",
    "spring": "stiffness along the screw",
    "spring across": "stiffness across the screw",
    "scale max": "top of its scale",
    "angle": "angle of the extension",
    "has bars": "has lower crash bars",
    "has upper bars": "has upper crash bars",
    "bars": "lower crash bars",
    "upper bars": "upper crash bars",
    "with change": "fits others with this change",
    "tol": "tolerance, ±",
    "outer": "outer size",
    "end below": "nut and end hang under the plate",
    "drops for oil": "comes off for an oil change",
    "stage": "when it is tightened",
    "female material": "material of the thread",
    "start x": "front edge behind the front axle, x",
    "z front": "lower face at the front edge, above ground",
    "z rear": "lower face at the rear edge, above ground",
    "wear piece": "mass of its wear piece",
    "brackets mass": "mass of its brackets",
    "second drive": "second drive on the same head",
    "undone": "off",
    "turn": "comes off as number",
    "why": "because",
    "room": "room around the head",
    "room deep": "how deep the head lies in it",
    "hole": "hole",
    "right": "to the rider's right",
    "forward": "forward",
    "off u": "give or take, u",
    "gap": "gap, held up lightly",
    "gap u": "give or take, u",
    "slot half travel": "slot, half its play",
    "slot angle": "slot, from the right to the front",
    "nut gives": "clip or cage nut gives",
    "bracket": "bracket that can be loosened",
    "bracket half travel": "bracket moves, either way",
    "bracket angle": "bracket moves, from the right to the front",
    "bracket loose": "bracket is loose now",
    "boot": "with the rider's boot on",
    "least": "least gap it wants",
    "turns about": "turns about an axis",
    "from": "from",
    "to": "to",
    "half thick": "half its thickness",
    "garage": "how warm it is where you work",
    "orientation": "what makes it unmistakable",
    "front bend": "front edge: bent part, along the sheet",
    "front bend angle": "front edge: bent up by (below zero: down)",
    "rear bend": "rear edge: bent part, along the sheet",
    "rear bend angle": "rear edge: bent up by (below zero: down)",
    "left bend": "left edge: bent part, along the sheet",
    "left bend angle": "left edge: bent up by (below zero: down)",
    "right bend": "right edge: bent part, along the sheet",
    "right bend angle": "right edge: bent up by (below zero: down)",
    "floats": "located here, not clamped",
    "passes": "passes beside something hot",
    "passes gap": "room to it, cold",
    "seated": "sits in the bike",
    "hole set": "set of holes",
    "through first": "goes through its openings first",
    "order": "turn in hanging",
    "since": "on since",
    "held loose": "held loose until the rest is tight",
    "glove": "worked by hand, in a glove",
    "span": "free length of the bracket",
    "runs": "which way it runs: 0 ahead, 90 to the right",
    "glove finger": "a finger in the rider's glove, thick",
    "boot toe": "height of the boot over its toe",
}
"""Field names that a person says otherwise."""


_KINDS = {"SeenHole": "as seen", "Stud": "stud"}
"""Kinds of things that a person says otherwise than the program."""
_TYRES = {"front_tyre": "front_wheel_radius_mm", "rear_tyre": "rear_wheel_radius_mm"}


@dataclass(frozen=True)
class Change:
    """An edit carried out: the new job and what happened, in words."""

    job: Job
    words: str


def label_of(name: str) -> str:
    """A field's name as a person says it."""
    bare = _UNITS.sub("", name).replace("_", " ")
    return _SAID.get(bare, bare)


def _named(item: Any) -> str:
    number = getattr(item, "number", None)
    kind = _KINDS.get(type(item).__name__, type(item).__name__.lower())
    if number is not None:
        return f"{kind} {number}"
    plate = getattr(item, "plate", None)
    return str(getattr(plate or item, "name", "") or getattr(item, "key", "") or kind)


def child(owner: Any, name: str, path: str) -> Any:
    """What a dataclass or a keyed list holds under a name; raises InputError naming the path."""
    if isinstance(owner, tuple):
        for item in owner:
            if getattr(item, "key", None) == name:
                return item
        keys = ", ".join(str(getattr(i, "key", "")) for i in owner)
        raise InputError(path, name, f"one of {keys}", f"there is no “{name}” here")
    if is_dataclass(owner) and name in {f.name for f in fields(owner)}:
        return getattr(owner, name)
    raise InputError(path, name, "a field of the job", f"“{name}” is no field here")


def value_at(job: Job, path: str) -> Any:
    """What stands at a path."""
    at: Any = job
    for name in path.split("."):
        at = child(at, name, path)
    return at


def number_words(job: Job, path: str) -> str:
    """Whose a number is and what it is called: “pivot, low edge”; raises InputError if nobody's."""
    owner, _, name = path.rpartition(".")
    return f"{_named(value_at(job, owner))}, {label_of(name)}"


def _changed(job: Job, names: list[str], value: Any, path: str) -> Job:
    """The job with the value at ``names`` exchanged."""
    new: Job = rebuilt(job, names, value, path)
    return new


def rebuilt(owner: Any, names: list[str], value: Any, path: str) -> Any:
    """The owner with one value exchanged, built through every constructor on the way up."""
    head, rest = names[0], names[1:]
    new = value if not rest else rebuilt(child(owner, head, path), rest, value, path)
    if isinstance(owner, tuple):
        return tuple(new if getattr(i, "key", None) == head else i for i in owner)
    try:
        return replace(owner, **{head: new})
    except InputError as error:
        if rest or error.field == path:
            raise
        here = error.seen_from(head)
        raise InputError(path, here.value, here.allowed, here.message, here.remedy) from error


def _choices(hint: Any) -> tuple[str, ...] | None:
    if get_origin(hint) is Literal:
        return tuple(str(a) for a in get_args(hint))
    return None


def _plain(hint: Any) -> tuple[Any, bool]:
    """The hint without Annotated and Optional, and whether None is allowed."""
    if get_origin(hint) is Annotated:
        hint = get_args(hint)[0]
    optional = False
    if get_origin(hint) in (Union, types.UnionType):
        options = [a for a in get_args(hint) if a is not type(None)]
        optional = len(options) < len(get_args(hint))
        hint = options[0]
        if get_origin(hint) is Annotated:
            hint = get_args(hint)[0]
    return hint, optional


def _number(text: str, allowed: Range, path: str, system: System, whole: bool) -> float | int:
    try:
        number = parse(text, allowed.unit, path, system)
    except InputError as error:
        raise InputError(path, error.value, allowed.words(system), error.message) from error
    if whole and number != int(number):
        raise InputError(
            path, text, allowed.words(system), f"“{text.strip()}” is not a whole number"
        )
    value = int(number) if whole else number
    check_number(path, value, allowed, system)
    return value


def read_field(owner: Any, name: str, text: str, path: str, system: System) -> Any:
    """Read typed text as the value of a dataclass's field."""
    hint, optional = _plain(hints_of(owner)[name])
    allowed = ranges_of(owner).get(name)
    if optional and not text.strip():
        return None
    if allowed is not None:
        return _number(text, allowed, path, system, whole=hint is int)
    choices = _choices(hint)
    if choices is not None:
        if text not in choices:
            raise InputError(path, text, "one of " + ", ".join(c or "none" for c in choices))
        return text
    if hint is bool:
        if text not in ("true", "false"):
            raise InputError(path, text, "true or false")
        return text == "true"
    if hint is str:
        clean = " ".join(text.split())
        check_text(path, clean)
        return clean
    raise InputError(path, text, "a field that can be typed", "this is not a single field")


def _shown(value: Any, allowed: Range | None) -> str:
    if value is None or value == "":
        return "nothing"
    if isinstance(value, bool):
        return "yes" if value else "no"
    if allowed is not None:
        return entered(float(value), allowed.unit).strip()
    return str(value)


@dataclass(frozen=True)
class Taken:
    """Where a reading came from: the instrument, its step in the field's unit, the time."""

    instrument: str
    resolution: float | None
    at: str


def set_text(
    job: Job,
    path: str,
    text: str,
    system: System = "metric",
    taken: Taken | None = None,
    known: Known | None = None,
) -> Change:
    """Set one field from typed text; raises InputError and leaves everything as it was.

    ``taken`` is given when the text is a reading of an instrument, ``known`` when the person says
    how the number is known; else it is known as what its section asks for.
    """
    names = path.split(".")
    if len(names) > 12 or not all(re.fullmatch(r"[A-Za-z0-9_-]{1,60}", n) for n in names):
        raise InputError("path", path, "field names and keys separated by dots")
    owner: Any = job
    trail = []
    for name in names[:-1]:
        owner = child(owner, name, path)
        if not isinstance(owner, tuple) and _named(owner) not in trail:
            trail.append(_named(owner))
    name = names[-1]
    old = child(owner, name, path)
    if not is_dataclass(owner) or is_dataclass(old) or isinstance(old, tuple) or name == "key":
        raise InputError(path, name, "a single field", "this cannot be typed over")
    new = read_field(type(owner), name, text, path, system)
    if isinstance(owner, Joint) and name == "head" and STUD in (old, new) and old != new:
        raise InputError(
            path,
            text,
            "a head of its own kind",
            "a stud's layers run from the bike on: start it anew",
            "take this joint out and add one from the other starting point",
        )
    allowed = ranges_of(type(owner)).get(name)
    if name == "female_kind" and (old in BLIND_KINDS) != (new in BLIND_KINDS):
        # the height of a wall is no depth of a hole: what there is now was not measured yet
        job = rebuilt(job, [*names[:-1], "overall_height_mm"], None, path)
    job = rebuilt(job, names, new, path)
    if name in _TYRES and new:
        # the radius follows the code that stands on the tyre
        job = rebuilt(job, [*names[:-1], _TYRES[name]], tyre_radius_mm(new, path), path)
    if isinstance(owner, Mount) and name in ("kind", "thread"):
        job = rebuilt(job, names[:-1], _as_kind(owner, name, new), path)
    if isinstance(owner, Joint) and name == "nut":
        job = rebuilt(job, names[:-1], with_nut(owner, new), path)
    subject = ", ".join(trail[-2:])
    words = (
        f"{subject + ': ' if subject else ''}{label_of(name)} from "
        f"{_shown(old, allowed)} to {_shown(new, allowed)}"
    )
    if old == new and taken is None and known is None:
        return Change(job, words)
    if known is not None:
        words += f", {known}"
    return Change(_with_knowledge(job, names, name, taken, known), words)


def _as_kind(mount: Mount, name: str, new: Any) -> Mount:
    """A mount of another kind or thread: what was only assumed of it follows."""
    kind, thread = (new, mount.thread) if name == "kind" else (mount.kind, new)
    return with_kind(mount, kind, thread)


_HEIGHTS = ("z_front_mm", "z_rear_mm")
_SCREW = ("length_mm", "thread", "head", "grade")


def _section(owner: Any, name: str) -> Known:
    """How a number is known that is typed where it stands: by tape, from a sheet, or by eye.

    Places, depths and wheels come with a sketch of the tape; a plate and a joint are typed from
    their sheet or their parts; of the rest typing alone says nothing.
    """
    if isinstance(owner, Plate | Joint | Layer | Female):
        return "printed"
    return "guessed" if name == "surface_c" else "measured"


def _with_knowledge(
    job: Job, names: list[str], name: str, taken: Taken | None, known: Known | None
) -> Job:
    """The job with how a typed number is known; a word for the whole thing holds for all of it."""
    at = names[:-1]
    owner = value_at(job, ".".join(at)) if at else job
    if name == "known":
        if not hasattr(owner, "facts"):
            return job
        return _changed(job, [*at, "facts"], (), ".".join(names))
    grade = "measured" if taken is not None else known or _section(owner, name)
    if isinstance(owner, Belly) and name in _HEIGHTS:
        at, owner = at[:-1], value_at(job, ".".join(at[:-1]))
        grade = "measured" if taken is not None else known or "guessed"
    if isinstance(owner, Layer) and name == "thickness_mm":
        return _changed(job, [*at, "known"], grade, ".".join(names))
    if isinstance(owner, Female):
        return _changed(job, [*at[:-1], "female_known"], grade, ".".join(names))
    if isinstance(owner, Joint) and name in _SCREW:
        return _changed(job, [*at, "known"], grade, ".".join(names))
    if not hasattr(owner, "facts") or name not in BANDS:
        return job
    fact = Fact(name, grade)
    if taken is not None:
        fact = replace(fact, instrument=taken.instrument, resolution=taken.resolution, at=taken.at)
    owner = with_fact(owner, fact)
    job = _changed(job, [*at, "facts"], owner.facts, ".".join(names))
    if all(fact_of(owner, number).known == "measured" for number in banded(owner)):
        # every number of it was entered: so is the whole
        return _changed(job, [*at, "known"], "measured", ".".join(names))
    return job


def set_item(job: Job, path: str, item: Any, words: str) -> Change:
    """Add an item to the list at a path, or exchange the one with its key."""
    items = value_at(job, path)
    key = item.key
    known = any(i.key == key for i in items)
    new = tuple(item if i.key == key else i for i in items) if known else (*items, item)
    return Change(rebuilt(job, path.split("."), new, path), words)


def unset_item(job: Job, path: str, words: str) -> Change:
    """Take the item at a path out of its list."""
    *up, key = path.split(".")
    parent = ".".join(up)
    items = value_at(job, parent)
    child(items, key, path)
    left = tuple(i for i in items if i.key != key)
    return Change(rebuilt(job, up, left, parent), words)
