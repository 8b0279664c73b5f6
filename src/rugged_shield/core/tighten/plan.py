"""The order of work: a precedence graph over tasks and joints, walked into steps."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from graphlib import TopologicalSorter
from typing import Literal

from rugged_shield.core.errors import InputError
from rugged_shield.core.tighten.order import (
    PLATE_STAGES,
    PlanJoint,
    chosen_sequence,
    crisscross_sequence,
    keeps_stages,
    place_reasons,
    start_sequence,
)
from rugged_shield.core.tighten.turn_angle import QUARTER_DEG, QUARTER_WITHIN

StepKind = Literal["task", "start", "half", "full", "verify"]


@dataclass(frozen=True, kw_only=True)
class Step:
    """One step: what, where, with what, what to mind, and what must come before.

    ``piece``: the further piece that it hangs, by key. ``shows_way``: how the plate lies in space
    is looked at with it.
    """

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
    piece: str = ""
    shows_way: bool = False


@dataclass(frozen=True, kw_only=True)
class Plan:
    """Steps in a lawful order; ``joint_order`` is the order of final torques.

    ``built`` and ``bands_nm``: by joint, what it is made of and the band of its torque;
    ``reasons``: why it is torqued at its turn. ``carried_out``: steps that are done because their
    change of the plate is.
    """

    steps: tuple[Step, ...]
    joint_order: tuple[str, ...]
    minutes: float
    built: Mapping[str, str]
    bands_nm: Mapping[str, tuple[float, float]]
    reasons: Mapping[str, str]
    carried_out: frozenset[str]


@dataclass(frozen=True, kw_only=True)
class PlanTask:
    """Work beside the joints: a change to carry out, a way to look at, a joint of the bike."""

    key: str
    title: str
    text: str
    caution: str
    minutes: float
    shows_way: bool = False


@dataclass(frozen=True, kw_only=True)
class PlanPiece:
    """A further piece of the plate as the plan hangs it; ``order`` below zero: before the main."""

    key: str
    name: str
    order: int
    text: str


@dataclass(frozen=True, kw_only=True)
class PlanAround:
    """Work around the joints: ``tasks`` before the plate hangs, ``closing`` when it is tight.

    ``over_stock``: the stock plate stays on. ``hang``: what holds the plate and goes in first.
    ``carried_out``: keys of tasks that are done already. ``pieces``: what is hung beside the main
    piece, each at its turn.
    """

    tasks: tuple[PlanTask, ...] = ()
    closing: tuple[PlanTask, ...] = ()
    over_stock: bool = False
    hang: str = ""
    pieces: tuple[PlanPiece, ...] = ()
    carried_out: frozenset[str] = frozenset()


_EDGES = "New edges cut: wear gloves."
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
    _EDGES,
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


def _of_task(task: PlanTask, after: tuple[str, ...]) -> Step:
    step = _task(task.key, task.title, task.text, task.caution, task.minutes, after)
    return replace(step, shows_way=task.shows_way)


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


def _by_angle(deg: float | None) -> str:
    """How far to turn by feel; a quarter turn is only said where it is one (``turn-angle``)."""
    if deg is None:
        return "Snug with a short key, no more"
    if abs(deg - QUARTER_DEG) <= QUARTER_WITHIN * QUARTER_DEG:
        return "Snug by hand, then a quarter turn"
    return f"Snug by hand, then about {max(5, 5 * round(deg / 5))}° more"


def _joint_step(kind: StepKind, joint: PlanJoint, after: tuple[str, ...]) -> Step:
    title, text, minutes = _KIND_WORDS[kind]
    if kind == "start" and joint.is_lockered:
        text = (
            "Old residue out of both threads, dry; shake the bottle, a drop on the screw. "
            f"{text} Too much: wipe it off."
        )
    if kind == "start" and joint.on_stud:
        text = f"Its nut on the stud. {text}"
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
        text = f"{_by_angle(joint.half_turn_deg)}: half the torque is too little for your wrench."
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


def _far_nuts(joint: PlanJoint, last: tuple[str, ...]) -> list[Step]:
    """Each nut on the end of a torqued screw, the head held so that it does not turn."""
    steps: list[Step] = []
    for nut in joint.far:
        steps.append(
            Step(
                key=f"far:{joint.key}:{nut.key}",
                number=0,
                kind="task",
                title=f"Tighten the {nut.name} of joint {joint.number}",
                text="Hold the nut before it, so that neither it nor the stud turns."
                if joint.on_stud
                else "Hold the head, so that the screw does not turn in its first thread.",
                stage=joint.stage,
                joint="",
                where=joint.where,
                tool=nut.tool,
                hardware=nut.hardware,
                treatment=nut.treatment,
                torque_nm=nut.torque_nm,
                setting_nm=nut.setting_nm,
                caution=nut.caution,
                minutes=2.0,
                after=last,
            )
        )
        last = (steps[-1].key,)
    return steps


def _tightening(ordered: tuple[PlanJoint, ...], before: tuple[str, ...]) -> list[Step]:
    """Half and full passes over joints in their order, each after the one before.

    A joint that is held loose has its half pass here and its full one at the end.
    """
    steps: list[Step] = []
    firm = tuple(j for j in ordered if not j.held_loose)
    half = ordered if len(ordered) > 1 else tuple(j for j in ordered if j.held_loose)
    passes: tuple[tuple[StepKind, tuple[PlanJoint, ...]], ...] = (("half", half), ("full", firm))
    last = before
    for kind, joints in passes:
        for joint in joints:
            steps.append(_joint_step(kind, joint, last))
            if kind == "full":
                steps += _far_nuts(joint, (steps[-1].key,))
            last = (steps[-1].key,)
    return steps


def _groups(plate: tuple[PlanJoint, ...]) -> list[tuple[PlanJoint, ...]]:
    """Joints that share a half and a full pass: each stage, or all where stages are mixed."""
    if not keeps_stages(plate):
        return [plate]
    by_stage = (tuple(j for j in plate if j.stage == stage) for stage in PLATE_STAGES)
    return [group for group in by_stage if group]


_RUBBER = (
    " Every isolator round, not twisted, not pinched: a deformed one means plate off, lay it anew, "
    "and no riding on it."
)
_STAYS_LOOSE = "What hangs already stays loose until this one is in."
_OF_STOCK = ("strip", "bag")
"""Tasks that fall away where the stock plate stays on."""


def _of_piece(piece: PlanPiece, after: tuple[str, ...]) -> Step:
    text = f"{piece.text} {_STAYS_LOOSE}".strip()
    step = _task(f"hang:{piece.key}", f"Hang the {piece.name}", text, _EDGES, 3.0, after)
    return replace(step, piece=piece.key, shows_way=True)


def _hanging(
    starts: tuple[PlanJoint, ...], around: PlanAround, last: tuple[str, ...]
) -> tuple[list[Step], tuple[str, ...]]:
    """The pieces hung in their order, each with the screws that can then be started.

    A screw through several sheets waits for the last of them; what was hung before stays loose.
    """
    key, title, text, caution, minutes = _HANG
    main = _task(key, title, f"{text} {around.hang}".strip(), caution, minutes, ())
    main = replace(main, shows_way=True)
    pieces = sorted(around.pieces, key=lambda p: p.order)
    before = [p for p in pieces if p.order < 0]
    turns = [*before, None, *pieces[len(before) :]]
    place = {"" if p is None else p.key: i for i, p in enumerate(turns)}
    steps: list[Step] = []
    for i, piece in enumerate(turns):
        steps.append(replace(main, after=last) if piece is None else _of_piece(piece, last))
        own = steps[-1].key
        ready = [
            j
            for j in starts
            if i == max((place[s] for s in j.sheets if s in place), default=place[""])
        ]
        steps += [_joint_step("start", j, (own,)) for j in ready]
        last = tuple(f"start:{j.key}" for j in ready) or (own,)
    return steps, tuple(dict.fromkeys((*(f"start:{j.key}" for j in starts), *last)))


def _graph(joints: tuple[PlanJoint, ...], around: PlanAround) -> list[Step]:
    over_stock = around.over_stock
    steps: list[Step] = []
    last: tuple[str, ...] = ()
    for key, title, text, caution, minutes in _PREPARE:
        if over_stock and key in _OF_STOCK:
            continue
        steps.append(_task(key, title, text, caution, minutes, last))
        last = (key,)
    for task in around.tasks:
        steps.append(_of_task(task, last))
        last = (task.key,)
    brackets = chosen_sequence(tuple(j for j in joints if j.stage == "bracket"))
    for joint in brackets:
        steps.append(_joint_step("start", joint, last))
    if brackets:
        steps += _tightening(brackets, tuple(f"start:{j.key}" for j in brackets))
        last = (steps[-1].key,)
    on_plate = tuple(j for j in joints if j.stage != "bracket")
    plate = chosen_sequence(on_plate)
    hung, last = _hanging(start_sequence(on_plate), around, last)
    steps += hung
    for group in _groups(plate):
        steps += _tightening(group, last)
        last = (steps[-1].key,)
    held = tuple(j for j in (*brackets, *plate) if j.held_loose)
    for joint in crisscross_sequence(held):
        steps.append(_joint_step("full", joint, last))
        steps += _far_nuts(joint, (steps[-1].key,))
        last = (steps[-1].key,)
    for joint in plate:
        steps.append(_joint_step("verify", joint, last))
        last = (steps[-1].key,)
    for task in around.closing:
        steps.append(_of_task(task, last))
        last = (task.key,)
    for key, title, text, caution, minutes in _AFTER:
        if over_stock and key in _OF_STOCK:
            continue
        if key == "sweep" and any(j.stage == "isolators" for j in plate):
            text += _RUBBER
        steps.append(_task(key, title, text, caution, minutes, last))
        last = (key,)
    return steps


def make_plan(joints: tuple[PlanJoint, ...], around: PlanAround = PlanAround()) -> Plan:
    """Walk the precedence graph into one lawful order of steps.

    Edges: prepare → strip → clean → tasks → brackets → hang and start, piece by piece → stages in
    ``STAGE_ORDER`` (half, then full, crossing; where a chosen order mixes stages, all joints half
    and then full in that order) → joints held loose → once round → closing tasks →
    sweep → weigh → bag.

    Raises InputError for a joint listed twice.
    """
    keys = [j.key for j in joints]
    if len(set(keys)) != len(keys):
        raise InputError("joints", ", ".join(keys), "each joint once")
    drafted = _graph(joints, around)
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
        steps=tuple(ordered),
        joint_order=finals,
        minutes=sum(s.minutes for s in ordered),
        built={key: own[key].as_built for key in finals},
        bands_nm={key: own[key].band_nm for key in finals},
        reasons=place_reasons(tuple(own[key] for key in finals)),
        carried_out=around.carried_out,
    )
