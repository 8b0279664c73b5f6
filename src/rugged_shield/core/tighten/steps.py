"""Single steps of the order of work: a task, a joint started or tightened, a nut beyond it."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from rugged_shield.core.tighten.order import PlanJoint
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
class PlanTask:
    """Work beside the joints: a change to carry out, a way to look at, a joint of the bike."""

    key: str
    title: str
    text: str
    caution: str
    minutes: float
    shows_way: bool = False


EDGES = "New edges cut: wear gloves."
PREPARE = (
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
HANG = (
    "hang",
    "Hang the plate",
    "Support it from below on its two easiest screws and line up the rest.",
    EDGES,
    5.0,
)
AFTER = (
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


def task_step(
    key: str, title: str, text: str, caution: str, minutes: float, after: tuple[str, ...]
) -> Step:
    """Work that is no joint's, not yet numbered; ``minutes`` for one person."""
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


def of_task(task: PlanTask, after: tuple[str, ...]) -> Step:
    """The step of a task around the joints."""
    step = task_step(task.key, task.title, task.text, task.caution, task.minutes, after)
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


def joint_step(kind: StepKind, joint: PlanJoint, after: tuple[str, ...]) -> Step:
    """A joint started, drawn to half, torqued or checked once round, with what to mind."""
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


def far_nut_steps(joint: PlanJoint, last: tuple[str, ...]) -> list[Step]:
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
