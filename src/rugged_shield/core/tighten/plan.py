"""The order of work: a precedence graph over tasks and joints, walked into steps."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from graphlib import TopologicalSorter

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
from rugged_shield.core.tighten.steps import (
    AFTER,
    EDGES,
    HANG,
    PREPARE,
    PlanTask,
    Step,
    StepKind,
    far_nut_steps,
    joint_step,
    of_task,
    task_step,
)


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
            steps.append(joint_step(kind, joint, last))
            if kind == "full":
                steps += far_nut_steps(joint, (steps[-1].key,))
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
    step = task_step(f"hang:{piece.key}", f"Hang the {piece.name}", text, EDGES, 3.0, after)
    return replace(step, piece=piece.key, shows_way=True)


def _hanging(
    starts: tuple[PlanJoint, ...], around: PlanAround, last: tuple[str, ...]
) -> tuple[list[Step], tuple[str, ...]]:
    """The pieces hung in their order, each with the screws that can then be started.

    A screw through several sheets waits for the last of them; what was hung before stays loose,
    but for what the next one covers: that is tight before.
    """
    key, title, text, caution, minutes = HANG
    main = task_step(key, title, f"{text} {around.hang}".strip(), caution, minutes, ())
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
        steps += [joint_step("start", j, (own,)) for j in ready]
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
    started = [joint_step("start", j, last) for j in bench]
    return [*started, *_tightening(bench, tuple(s.key for s in started))]


def _stood_up(brackets: tuple[PlanJoint, ...], last: tuple[str, ...]) -> list[Step]:
    """Brackets on the bike: those that will be covered are tight at once, the others stay loose."""
    covered = tuple(j for j in brackets if j.hidden)
    steps = _put_together(covered, last)
    last = (steps[-1].key,) if steps else last
    for joint in brackets:
        if not joint.hidden:
            loose = joint_step("start", joint, last)
            steps.append(replace(loose, text=f"{loose.text} {_FOLLOWS}"))
    return steps


def _prepared(around: PlanAround) -> list[Step]:
    """Support, strip, clean, then the bike's own joints and changes of the plate."""
    steps: list[Step] = []
    last: tuple[str, ...] = ()
    for key, title, text, caution, minutes in PREPARE:
        if around.over_stock and key in _OF_STOCK:
            continue
        steps.append(task_step(key, title, text, caution, minutes, last))
        last = (key,)
    return [*steps, *_tasks(around.changes, last)]


def _tasks(tasks: tuple[PlanTask, ...], last: tuple[str, ...]) -> list[Step]:
    """Tasks one after another."""
    steps: list[Step] = []
    for task in tasks:
        steps.append(of_task(task, last))
        last = (task.key,)
    return steps


def _in_the_end(
    round_of: tuple[PlanJoint, ...], around: PlanAround, last: tuple[str, ...]
) -> list[Step]:
    """Once round over everything that can still be reached, the bike's own joints, the looks."""
    steps: list[Step] = []
    for joint in round_of:
        steps.append(joint_step("verify", joint, last))
        last = (steps[-1].key,)
    steps += _tasks(around.closing, last)
    last = (steps[-1].key,) if steps else last
    for key, title, text, caution, minutes in AFTER:
        if around.over_stock and key in _OF_STOCK:
            continue
        if key == "sweep" and any(j.stage == "isolators" for j in round_of):
            text += _RUBBER
        steps.append(task_step(key, title, text, caution, minutes, last))
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
        steps.append(joint_step("full", joint, after))
        steps += far_nut_steps(joint, last())
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
