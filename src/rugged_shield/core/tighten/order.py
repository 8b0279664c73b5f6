"""In which order joints are tightened: worked out, a school's, chosen; what speaks against it."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

from rugged_shield.core.amounts import amount
from rugged_shield.core.fitup.joint import BENCH, Stage

STAGE_ORDER: tuple[Stage, ...] = (
    "bench",
    "locate",
    "pull up",
    "stiff",
    "isolators",
    "front",
    "adjustable bracket",
    "bracket",
)
"""Brackets stand on the bike loosely before the plate hangs, and follow it once it sits."""
AFTER_THE_BENCH = STAGE_ORDER[1:]
STAGE_LABELS: dict[str, str] = {
    "bench": "On the bench",
    "bracket": "Brackets on the bike",
    "locate": "Points that locate the plate",
    "pull up": "Points that draw it home",
    "stiff": "Stiff points",
    "isolators": "Rubber isolators",
    "front": "Front edge",
    "adjustable bracket": "Adjustable brackets",
}
STAGE_REASONS: dict[str, str] = {
    "bench": "put together before anything hangs",
    "bracket": "it followed the plate loosely, and is tight once that sits",
    "locate": "it locates the plate, and the rest follows it",
    "pull up": "it draws the plate home while stiff points are loose",
    "stiff": "nothing gives here: it follows what draws the plate home",
    "isolators": "rubber shifts until the metal is tight",
    "front": "the front edge closes once the plate sits",
    "adjustable bracket": "its slots follow a plate that sits",
}
"""Why a stage stands where it stands; practice of fitters, medium confidence."""


@dataclass(frozen=True, kw_only=True)
class PlanNut:
    """A nut beyond a joint's first thread: what to turn, to what torque N·m, with what on it."""

    key: str
    name: str
    tool: str
    hardware: str
    treatment: str
    torque_nm: float
    setting_nm: float
    caution: str


@dataclass(frozen=True, kw_only=True)
class PlanJoint:
    """What the plan needs of a joint: place mm, tools, hardware, torque N·m and its band.

    ``least_setting_nm``: below it the wrench says nothing; ``half_turn_deg``: from snug to half.
    ``rank``: its place in an order that was chosen; ``start_rank``: in an order of starting.
    ``held_loose``: it is torqued after every other joint. ``screw_mm``: its screw's length.
    ``far``: nuts on its end, tightened once it is torqued. ``is_lockered``: a locker goes on it.
    ``sheets``: pieces of the plate that it goes through by key, empty for the main one.
    ``as_built``: what it is made of, by which a reading is known to be of this joint as it is.
    ``hidden``: what is hung later covers it, so that it is tight before.
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
    start_rank: int | None = None
    least_setting_nm: float = 0.0
    half_turn_deg: float | None = None
    held_loose: bool = False
    screw_mm: float = 0.0
    far: tuple[PlanNut, ...] = ()
    is_lockered: bool = False
    on_stud: bool = False
    sheets: tuple[str, ...] = ("",)
    hidden: bool = False

    @property
    def turn(self) -> int:
        """When its stage has its turn, 0 first: the bench, what will be covered, stage by stage."""
        if self.stage == BENCH:
            return 0
        return 1 if self.hidden else 1 + STAGE_ORDER.index(self.stage)

    @property
    def is_on_bracket(self) -> bool:
        """Whether it holds a bracket to the bike and no sheet: started before the plate hangs."""
        return self.stage == "bracket" and not self.sheets


HIDDEN_REASON = "the plate will cover it: tight before that"


def _apart_mm(a: PlanJoint, b: PlanJoint) -> float:
    return round(math.hypot(a.x_mm - b.x_mm, a.y_mm - b.y_mm), 3)


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
        nxt = max(left, key=lambda j: (_apart_mm(j, last), -j.number))
        left.remove(nxt)
        order.append(nxt)
    return tuple(order)


def computed_sequence(joints: tuple[PlanJoint, ...]) -> tuple[PlanJoint, ...]:
    """Stage after stage, crossing over within each."""
    return tuple(
        joint
        for turn in range(len(STAGE_ORDER) + 1)
        for joint in crisscross_sequence(tuple(j for j in joints if j.turn == turn))
    )


def _with_the_rest(chosen: list[PlanJoint], joints: tuple[PlanJoint, ...]) -> tuple[PlanJoint, ...]:
    """What an order does not name goes behind the last of its own stage or an earlier one."""
    order = list(chosen)
    named = {j.key for j in chosen}
    for joint in computed_sequence(tuple(j for j in joints if j.key not in named)):
        before = [i for i, j in enumerate(order) if j.turn <= joint.turn]
        order.insert(max(before, default=-1) + 1, joint)
    return tuple(order)


def chosen_sequence(joints: tuple[PlanJoint, ...]) -> tuple[PlanJoint, ...]:
    """The order of the final torques: as chosen, else as computed."""
    ranked = sorted((j for j in joints if j.rank is not None), key=lambda j: (j.rank, j.number))
    return _with_the_rest(ranked, joints) if ranked else computed_sequence(joints)


def start_sequence(joints: tuple[PlanJoint, ...]) -> tuple[PlanJoint, ...]:
    """The order in which screws are started: their own where one was chosen, else as torqued."""
    ranked = [j for j in joints if j.start_rank is not None]
    ranked.sort(key=lambda j: (j.start_rank, j.number))
    return _with_the_rest(ranked, joints) if ranked else chosen_sequence(joints)


def keeps_stages(ordered: tuple[PlanJoint, ...]) -> bool:
    """Whether no joint comes before one of an earlier stage."""
    places = [j.turn for j in ordered]
    return places == sorted(places)


def _numbers(joints: list[PlanJoint]) -> str:
    word = "joint" if len(joints) == 1 else "joints"
    return f"{word} {', '.join(str(j.number) for j in joints)}"


def against_order(ordered: tuple[PlanJoint, ...]) -> tuple[str, ...]:
    """What speaks against an order, in words: who comes too early, before whom, and why.

    Joints that are held loose are last whatever the order, and are not held against it.
    """
    firm = [j for j in ordered if not j.held_loose]
    words = []
    for i, joint in enumerate(firm):
        late = [j for j in firm[i + 1 :] if j.turn < joint.turn]
        for stage in STAGE_ORDER:
            of_stage = [j for j in late if j.stage == stage]
            if of_stage:
                words.append(
                    f"Joint {joint.number} comes before {_numbers(of_stage)} "
                    f"({STAGE_LABELS[stage].lower()}): {STAGE_REASONS[stage]}."
                )
    return tuple(words)


def place_reasons(ordered: tuple[PlanJoint, ...]) -> dict[str, str]:
    """Why each joint is torqued at its turn, by key."""
    reasons = {}
    last: PlanJoint | None = None
    for joint in ordered:
        if joint.held_loose:
            reasons[joint.key] = "held loose until every other joint is tight"
            continue
        if joint.rank is not None:
            reasons[joint.key] = "its place in the order chosen"
        elif joint.hidden:
            reasons[joint.key] = HIDDEN_REASON
        elif last is None or last.stage != joint.stage:
            reasons[joint.key] = STAGE_REASONS[joint.stage]
        else:
            far = amount(_apart_mm(joint, last), "mm", 0)
            reasons[joint.key] = f"across from joint {last.number}, the farthest left: {far}"
        last = joint
    return reasons


SchoolKey = Literal["computed", "front", "rear", "middle", "pivot"]


@dataclass(frozen=True, kw_only=True)
class TighteningSchool:
    """An order that people use: joints by key as torqued, and as started; why they use it."""

    key: SchoolKey
    label: str
    reason: str
    order: tuple[str, ...]
    starts: tuple[str, ...] = ()


def _from_the_middle(joints: list[PlanJoint]) -> list[PlanJoint]:
    """The longest screw of the middle half of the plate first, then outward from it."""
    front, rear = min(j.x_mm for j in joints), max(j.x_mm for j in joints)
    quarter = (rear - front) / 4
    middle = [j for j in joints if front + quarter <= j.x_mm <= rear - quarter] or joints
    first = max(middle, key=lambda j: (j.screw_mm, -j.number))
    return sorted(joints, key=lambda j: (_apart_mm(j, first), j.number))


def schools_of(joints: tuple[PlanJoint, ...]) -> tuple[TighteningSchool, ...]:
    """The orders of the main schools for the joints of one plate; brackets follow it.

    ``computed`` has no order of its own: the plan is let to work it out.
    """
    early = tuple(j for j in joints if j.turn <= 1)
    plate = [j for j in joints if j.turn > 1 and not j.is_on_bracket]
    if not plate:
        return ()
    before = tuple(j.key for j in computed_sequence(early))
    after = tuple(
        j.key for j in computed_sequence(tuple(j for j in joints if j.turn > 1 and j.is_on_bracket))
    )
    front = tuple(j.key for j in sorted(plate, key=lambda j: (j.x_mm, j.number)))
    rear = tuple(j.key for j in sorted(plate, key=lambda j: (-j.x_mm, j.number)))
    middle = tuple(j.key for j in _from_the_middle(plate))
    return (
        TighteningSchool(
            key="computed",
            label="as worked out",
            reason="What locates first, then what draws it home, stiff and soft; crossing over.",
            order=(),
        ),
        TighteningSchool(
            key="front",
            label="front first",
            reason="The front edge is set to the wheel and frame, the rest follows rearward.",
            order=before + front + after,
        ),
        TighteningSchool(
            key="rear",
            label="rear first",
            reason="The rear bears most; the front edge is left to find its place.",
            order=before + rear + after,
        ),
        TighteningSchool(
            key="middle",
            label="middle long one first",
            reason="The longest screw near the middle lifts the weight; then outward.",
            order=before + middle + after,
        ),
        TighteningSchool(
            key="pivot",
            label="pivot the rear up",
            reason="Front screws hold it as a hinge, the rear swings up and is torqued first.",
            order=before + rear + after,
            starts=before + after + front,
        ),
    )
