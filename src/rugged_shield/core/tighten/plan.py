"""The order of work: a precedence graph over tasks and joints, walked into steps."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from graphlib import TopologicalSorter
from typing import Literal

from rugged_shield.core.errors import InputError
from rugged_shield.core.fitup.joint import BENCH
from rugged_shield.core.tighten.order import (
    AFTER_THE_BENCH,
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
    """Work around the joints: ``changes`` before anything is put together, ``tasks`` before the
    plate hangs, ``dry`` when all that it hangs on is there, ``closing`` when it is tight.

    ``over_stock``: the stock plate stays on. ``hang``: what holds the plate and goes in first.
    ``carried_out``: keys of tasks that are done already. ``pieces``: what is hung beside the main
    piece, each at its turn.
    """

    changes: tuple[PlanTask, ...] = ()
    tasks: tuple[PlanTask, ...] = ()
    dry: tuple[PlanTask, ...] = ()
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
    by_stage = (tuple(j for j in plate if j.stage == stage) for stage in AFTER_THE_BENCH)
    return [group for group in by_stage if group]


_RUBBER = (
    " Every isolator round, not twisted, not pinched: a deformed one means plate off, lay it anew, "
    "and no riding on it."
)
_STAYS_LOOSE = "What hangs already stays loose until this one is in."
_FOLLOWS = "Its bracket stays loose and follows the plate."
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

    A screw through several sheets waits for the last of them; what was hung before stays loose,
    but for what the next one covers: that is tight before.
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
        covered = tuple(j for j in ready if j.hidden)
        if covered:
            steps += _tightening(covered, last)
            last = (steps[-1].key,)
    return steps, tuple(dict.fromkeys((*(f"start:{j.key}" for j in starts), *last)))


def _put_together(bench: tuple[PlanJoint, ...], last: tuple[str, ...]) -> list[Step]:
    """What is joined before anything hangs, all of it started and then tight."""
    if not bench:
        return []
    started = [_joint_step("start", j, last) for j in bench]
    return [*started, *_tightening(bench, tuple(s.key for s in started))]


def _stood_up(brackets: tuple[PlanJoint, ...], last: tuple[str, ...]) -> list[Step]:
    """Brackets on the bike: those that will be covered are tight at once, the others stay loose."""
    covered = tuple(j for j in brackets if j.hidden)
    steps = _put_together(covered, last)
    last = (steps[-1].key,) if steps else last
    for joint in brackets:
        if not joint.hidden:
            loose = _joint_step("start", joint, last)
            steps.append(replace(loose, text=f"{loose.text} {_FOLLOWS}"))
    return steps


def _prepared(around: PlanAround) -> list[Step]:
    """Support, strip, clean, then the bike's own joints and changes of the plate."""
    steps: list[Step] = []
    last: tuple[str, ...] = ()
    for key, title, text, caution, minutes in _PREPARE:
        if around.over_stock and key in _OF_STOCK:
            continue
        steps.append(_task(key, title, text, caution, minutes, last))
        last = (key,)
    return [*steps, *_tasks(around.changes, last)]


def _tasks(tasks: tuple[PlanTask, ...], last: tuple[str, ...]) -> list[Step]:
    """Tasks one after another."""
    steps: list[Step] = []
    for task in tasks:
        steps.append(_of_task(task, last))
        last = (task.key,)
    return steps


def _in_the_end(
    round_of: tuple[PlanJoint, ...], around: PlanAround, last: tuple[str, ...]
) -> list[Step]:
    """Once round over everything that can still be reached, the bike's own joints, the looks."""
    steps: list[Step] = []
    for joint in round_of:
        steps.append(_joint_step("verify", joint, last))
        last = (steps[-1].key,)
    steps += _tasks(around.closing, last)
    last = (steps[-1].key,) if steps else last
    for key, title, text, caution, minutes in _AFTER:
        if around.over_stock and key in _OF_STOCK:
            continue
        if key == "sweep" and any(j.stage == "isolators" for j in round_of):
            text += _RUBBER
        steps.append(_task(key, title, text, caution, minutes, last))
        last = (key,)
    return steps


def _graph(joints: tuple[PlanJoint, ...], around: PlanAround) -> list[Step]:
    """All steps, each with what comes before it; nothing hangs on what is not there yet."""
    ordered = chosen_sequence(joints)
    bench = tuple(j for j in ordered if j.stage == BENCH)
    brackets = tuple(j for j in ordered if j.is_on_bracket)
    hung_on = tuple(j for j in joints if j not in bench and j not in brackets)
    steps = _prepared(around)

    def last() -> tuple[str, ...]:
        return (steps[-1].key,)

    steps += _put_together(bench, last())
    steps += _tasks(around.tasks, last())
    stood = _stood_up(brackets, last())
    steps += stood
    before = tuple(s.key for s in stood) or last()
    dry = _tasks(around.dry, before)
    steps += dry
    hung, hanging = _hanging(start_sequence(hung_on), around, (dry[-1].key,) if dry else before)
    steps += hung
    rest = tuple(j for j in ordered if j.stage != BENCH and not j.hidden)
    after = hanging
    for group in _groups(rest):
        steps += _tightening(group, after)
        after = last()
    for joint in crisscross_sequence(tuple(j for j in ordered if j.held_loose)):
        steps.append(_joint_step("full", joint, after))
        steps += _far_nuts(joint, last())
        after = last()
    steps += _in_the_end(rest, around, after)
    return steps


def make_plan(joints: tuple[PlanJoint, ...], around: PlanAround = PlanAround()) -> Plan:
    """Walk the precedence graph into one lawful order of steps.

    Edges: prepare → strip → clean → changes → bench → tasks → brackets, loose (tight where the
    plate will cover them) → dry fit → hang and start, piece by piece, what the next one covers
    tight before → stages in ``STAGE_ORDER`` (half, then full, crossing; where a chosen order mixes
    stages, all joints half and then full in that order), brackets last → joints held loose → once
    round over all that can be reached → closing tasks → sweep → weigh → bag.

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
