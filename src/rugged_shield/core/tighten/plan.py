"""The order of work: a precedence graph over tasks and joints, walked into steps."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace
from graphlib import TopologicalSorter
from typing import Literal

from rugged_shield.core.errors import InputError
from rugged_shield.core.fitup import Stage

STAGE_ORDER: tuple[Stage, ...] = (
    "bracket",
    "locate",
    "pull up",
    "stiff",
    "isolators",
    "front",
    "adjustable bracket",
)
PLATE_STAGES = STAGE_ORDER[1:]
STAGE_LABELS: dict[str, str] = {
    "bracket": "Brackets on the bike",
    "locate": "Points that locate the plate",
    "pull up": "Points that draw it home",
    "stiff": "Stiff points",
    "isolators": "Rubber isolators",
    "front": "Front edge",
    "adjustable bracket": "Adjustable brackets",
}

StepKind = Literal["task", "start", "half", "full", "verify"]


@dataclass(frozen=True, kw_only=True)
class PlanJoint:
    """What the plan needs of a joint: place mm, tools, hardware, torque N·m and its band.

    ``least_setting_nm``: below it the wrench says nothing.
    ``rank``: its place in an order that was chosen, within its stage.
    ``held_loose``: it is torqued after every other joint.
    ``as_built``: what it is made of, by which a reading is known to be of this joint as it is.
    """

    key: str
    number: int
    name: str
    stage: Stage
    x_mm: float
    y_mm: float
    where: str
    tool: str
    hardware: str
    treatment: str
    torque_nm: float | None
    setting_nm: float | None
    caution: str = ""
    as_built: str = ""
    band_nm: tuple[float, float] = (0.0, math.inf)
    rank: int | None = None
    least_setting_nm: float = 0.0
    held_loose: bool = False


@dataclass(frozen=True, kw_only=True)
class Step:
    """One step: what, where, with what, what to mind, and what must come before."""

    key: str
    number: int
    kind: StepKind
    title: str
    text: str
    stage: str
    joint: str
    where: str
    tool: str
    hardware: str
    treatment: str
    torque_nm: float | None
    setting_nm: float | None
    caution: str
    minutes: float
    after: tuple[str, ...]


@dataclass(frozen=True)
class Plan:
    """Steps in a lawful order; ``joint_order`` is the order of final torques.

    ``built`` and ``bands_nm``: by joint, what it is made of and the band of its torque.
    """

    steps: tuple[Step, ...]
    joint_order: tuple[str, ...]
    minutes: float
    built: Mapping[str, str]
    bands_nm: Mapping[str, tuple[float, float]]


@dataclass(frozen=True, kw_only=True)
class PlanTask:
    """Work on the plate before it hangs: a change to carry out, a piece's way to look at."""

    key: str
    title: str
    text: str
    caution: str
    minutes: float


_PREPARE = (
    (
        "prepare",
        "Support the bike",
        "On a lift or paddock stand, strapped so that it cannot fall.",
        "Never rely on a stand with one of its bolts out. Let the exhaust cool.",
        8.0,
    ),
    (
        "strip",
        "Take off the stock plate",
        "Crack all screws loose first, then take them out. Bag and label them.",
        "The last bolt drops the plate: keep fingers clear.",
        12.0,
    ),
    (
        "clean",
        "Clean and look underneath",
        "Leaks, chafe, stones, damaged threads. Run a tap only by hand.",
        "No swarf into openings. Eye protection when blowing out.",
        10.0,
    ),
)
_HANG = (
    "hang",
    "Hang the plate",
    "Support it from below on its two easiest screws and line up the rest.",
    "New edges cut: wear gloves.",
    5.0,
)
_AFTER = (
    (
        "sweep",
        "Sweep for clearance",
        "Front wheel at full travel, stand through its arc, brake pedal and gear lever with a "
        "boot on, hoses.",
        "Pedal and stand must move freely through their whole travel before riding.",
        8.0,
    ),
    (
        "weigh",
        "Weigh and note",
        "What the bike gained, what differs from the sheet and why.",
        "",
        4.0,
    ),
    ("bag", "Bag the stock parts", "Label the bag with bike, plate and date.", "", 4.0),
)


def crisscross_sequence(joints: tuple[PlanJoint, ...]) -> tuple[PlanJoint, ...]:
    """Alternate across the plate: lowest number first, then always the farthest left.

    Farthest from the one just done; ties go to the lower number.
    """
    left = sorted(joints, key=lambda j: j.number)
    order: list[PlanJoint] = []
    while left:
        if not order:
            order.append(left.pop(0))
            continue
        last = order[-1]
        nxt = max(
            left,
            key=lambda j: (round(math.hypot(j.x_mm - last.x_mm, j.y_mm - last.y_mm), 3), -j.number),
        )
        left.remove(nxt)
        order.append(nxt)
    return tuple(order)


def drawn_sequence(joints: tuple[PlanJoint, ...]) -> tuple[PlanJoint, ...]:
    """In the order that was chosen; what it does not name comes after, crossing over."""
    ranked = [j for j in joints if j.rank is not None]
    ranked.sort(key=lambda j: (j.rank or 0, j.number))
    rest = crisscross_sequence(tuple(j for j in joints if j.rank is None))
    return (*ranked, *rest)


def _task(
    key: str, title: str, text: str, caution: str, minutes: float, after: tuple[str, ...]
) -> Step:
    return Step(
        key=key,
        number=0,
        kind="task",
        title=title,
        text=text,
        stage="",
        joint="",
        where="",
        tool="",
        hardware="",
        treatment="",
        torque_nm=None,
        setting_nm=None,
        caution=caution,
        minutes=minutes,
        after=after,
    )


_KIND_WORDS: dict[str, tuple[str, str, float]] = {
    "start": ("Start joint {n} by hand", "A few threads with the fingers; tighten nothing.", 1.0),
    "half": ("Draw joint {n} to half", "Half the torque, to draw the plate home evenly.", 1.0),
    "full": ("Torque joint {n}", "To the set torque; stop at the wrench's first click.", 1.5),
    "verify": (
        "Check joint {n} once round",
        "Same setting once more: it should click at once.",
        0.7,
    ),
}


def _joint_step(kind: StepKind, joint: PlanJoint, after: tuple[str, ...]) -> Step:
    title, text, minutes = _KIND_WORDS[kind]
    if joint.stage == "isolators" and kind in ("half", "full"):
        text = (
            "By hand, the stud held: stop when the rubber begins to twist. A twisted or pinched "
            "one: plate off, lay it anew."
        )
    share = {"start": None, "half": 0.5, "full": 1.0, "verify": 1.0}[kind]
    torque = setting = None
    if share is not None and joint.torque_nm is not None and joint.setting_nm is not None:
        torque, setting = joint.torque_nm * share, joint.setting_nm * share
    if kind == "half" and joint.held_loose:
        torque = setting = None
        text = "Until it just sits, then half a turn back: it stays loose until the rest is tight."
    elif kind == "half" and setting is not None and setting < joint.least_setting_nm:
        # a wrench below a fifth of its scale only pretends to read
        torque = setting = None
        text = "Snug by hand, then a quarter turn: half the torque is too little for your wrench."
    return Step(
        key=f"{kind}:{joint.key}",
        number=0,
        kind=kind,
        title=f"{title.format(n=joint.number)}",
        text=text,
        stage=joint.stage,
        joint=joint.key,
        where=joint.where,
        tool=joint.tool,
        hardware=joint.hardware,
        treatment=joint.treatment if kind in ("start", "full") else "",
        torque_nm=torque,
        setting_nm=setting,
        caution=joint.caution,
        minutes=minutes,
        after=after,
    )


def _tightening(stage_joints: tuple[PlanJoint, ...], before: tuple[str, ...]) -> list[Step]:
    """Half and full passes of one stage in their order, each after the one before.

    A joint that is held loose has its half pass here and its full one at the end.
    """
    ordered = drawn_sequence(stage_joints)
    steps: list[Step] = []
    firm = tuple(j for j in ordered if not j.held_loose)
    half = ordered if len(ordered) > 1 else tuple(j for j in ordered if j.held_loose)
    passes: tuple[tuple[StepKind, tuple[PlanJoint, ...]], ...] = (("half", half), ("full", firm))
    last = before
    for kind, joints in passes:
        for joint in joints:
            steps.append(_joint_step(kind, joint, last))
            last = (steps[-1].key,)
    return steps


_RUBBER = (
    " Every isolator round, not twisted, not pinched: a deformed one means plate off, lay it anew, "
    "and no riding on it."
)
_OF_STOCK = ("strip", "bag")
"""Tasks that fall away where the stock plate stays on."""


def _graph(
    joints: tuple[PlanJoint, ...], tasks: tuple[PlanTask, ...], over_stock: bool
) -> list[Step]:
    steps: list[Step] = []
    last: tuple[str, ...] = ()
    for key, title, text, caution, minutes in _PREPARE:
        if over_stock and key in _OF_STOCK:
            continue
        steps.append(_task(key, title, text, caution, minutes, last))
        last = (key,)
    for task in tasks:
        steps.append(_task(task.key, task.title, task.text, task.caution, task.minutes, last))
        last = (task.key,)
    by_stage = {s: tuple(j for j in joints if j.stage == s) for s in STAGE_ORDER}
    for joint in crisscross_sequence(by_stage["bracket"]):
        steps.append(_joint_step("start", joint, last))
    if by_stage["bracket"]:
        starts = tuple(f"start:{j.key}" for j in by_stage["bracket"])
        steps += _tightening(by_stage["bracket"], starts)
        last = (steps[-1].key,)
    steps.append(_task(*_HANG, last))
    plate = tuple(j for s in PLATE_STAGES for j in crisscross_sequence(by_stage[s]))
    for joint in plate:
        steps.append(_joint_step("start", joint, ("hang",)))
    last = tuple(f"start:{j.key}" for j in plate) or ("hang",)
    for stage in PLATE_STAGES:
        if by_stage[stage]:
            steps += _tightening(by_stage[stage], last)
            last = (steps[-1].key,)
    held = tuple(j for j in (*by_stage["bracket"], *plate) if j.held_loose)
    for joint in crisscross_sequence(held):
        steps.append(_joint_step("full", joint, last))
        last = (steps[-1].key,)
    for joint in plate:
        steps.append(_joint_step("verify", joint, last))
        last = (steps[-1].key,)
    for key, title, text, caution, minutes in _AFTER:
        if over_stock and key in _OF_STOCK:
            continue
        if key == "sweep" and by_stage["isolators"]:
            text += _RUBBER
        steps.append(_task(key, title, text, caution, minutes, last))
        last = (key,)
    return steps


def make_plan(
    joints: tuple[PlanJoint, ...], tasks: tuple[PlanTask, ...] = (), over_stock: bool = False
) -> Plan:
    """Walk the precedence graph into one lawful order of steps.

    Edges: prepare → strip → clean → tasks → brackets → hang → start all → stages in
    ``STAGE_ORDER`` (half, then full, crossing or as chosen) → joints held loose → once round →
    sweep → weigh → bag. ``over_stock``: the stock plate stays on.

    Raises InputError for a joint listed twice.
    """
    keys = [j.key for j in joints]
    if len(set(keys)) != len(keys):
        raise InputError("joints", ", ".join(keys), "each joint once")
    drafted = _graph(joints, tasks, over_stock)
    rank = {step.key: i for i, step in enumerate(drafted)}
    by_key = {step.key: step for step in drafted}
    sorter = TopologicalSorter({step.key: step.after for step in drafted})
    sorter.prepare()
    ready: list[str] = []
    ordered: list[Step] = []
    while sorter.is_active():
        ready += sorter.get_ready()
        ready.sort(key=rank.__getitem__)
        key = ready.pop(0)
        step = by_key[key]
        ordered.append(replace(step, number=len(ordered) + 1))
        sorter.done(key)
    finals = tuple(s.joint for s in ordered if s.kind == "full")
    own = {j.key: j for j in joints}
    return Plan(
        tuple(ordered),
        finals,
        sum(s.minutes for s in ordered),
        {key: own[key].as_built for key in finals},
        {key: own[key].band_nm for key in finals},
    )
