"""The order of the final torques as Tighten shows it: schools, moves, what speaks against it."""

from __future__ import annotations

from dataclasses import dataclass

from rugged_shield.core.assess.fitup.covered import covered_by
from rugged_shield.core.assess.tighten.plan import plan_joints
from rugged_shield.core.job.edits.plates import plate_path
from rugged_shield.core.job.model import Candidate, Job, mounted, place_of
from rugged_shield.core.survey.drawings import OrderMark
from rugged_shield.core.tighten.order import PlanJoint, TighteningSchool, against_order, schools_of
from rugged_shield.core.tighten.plan import Plan
from rugged_shield.web.fields import field_view
from rugged_shield.web.views import FieldView


@dataclass(frozen=True, kw_only=True)
class SchoolChoice:
    """An order that people use, and whether the plan follows it now."""

    school: TighteningSchool
    taken: bool


@dataclass(frozen=True, kw_only=True)
class TurnInOrder:
    """A joint at its turn: why there, and what the order is when it moves one place."""

    joint: str
    reason: str
    earlier: tuple[str, ...]
    later: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class OrderChoice:
    """The order of the final torques, what speaks against it, and other orders."""

    turns: tuple[TurnInOrder, ...]
    against: tuple[str, ...]
    schools: tuple[SchoolChoice, ...]
    starts: tuple[str, ...]
    dry_fit: FieldView
    by_hand: bool


def _swapped(
    order: tuple[str, ...], joints: dict[str, PlanJoint], i: int, j: int
) -> tuple[str, ...]:
    """The order with two neighbours exchanged; empty where no order can do that."""
    if min(i, j) < 0 or max(i, j) >= len(order):
        return ()
    a, b = joints[order[i]], joints[order[j]]
    if a.held_loose or b.held_loose or (a.turn <= 1) != (b.turn <= 1):
        return ()
    moved = list(order)
    moved[i], moved[j] = moved[j], moved[i]
    return tuple(moved)


def _is_taken(school: TighteningSchool, candidate: Candidate) -> bool:
    return (school.order, school.starts) == (candidate.order, candidate.starts)


def order_choice(job: Job, plan: Plan) -> OrderChoice:
    """The order of the plate in hand, its schools, and each joint's moves."""
    candidate = job.in_hand
    own = mounted(job.bike, candidate)
    joints = {
        j.key: j for j in plan_joints(own, job.wrench, frozenset(covered_by(candidate.plate, own)))
    }
    order = plan.joint_order
    schools = tuple(
        SchoolChoice(school=s, taken=_is_taken(s, candidate))
        for s in schools_of(tuple(joints.values()))
    )
    return OrderChoice(
        turns=tuple(
            TurnInOrder(
                joint=key,
                reason=plan.reasons[key],
                earlier=_swapped(order, joints, i, i - 1),
                later=_swapped(order, joints, i, i + 1),
            )
            for i, key in enumerate(order)
        ),
        against=against_order(tuple(joints[key] for key in order)),
        schools=schools,
        starts=candidate.starts,
        dry_fit=field_view(
            candidate,
            "dry_fit",
            plate_path(job, candidate.key),
            label="hang it once, dry, before it is hung for good",
        ),
        by_hand=bool(candidate.order) and not any(s.taken for s in schools),
    )


def order_marks(job: Job, plan: Plan) -> tuple[OrderMark, ...]:
    """Each joint with its turn, for a drawing from below."""
    joints = {j.key: j for j in job.in_hand.joints}
    marks = []
    for place, key in enumerate(plan.joint_order, 1):
        at = place_of(job.bike, joints[key])
        if at is not None:
            marks.append(OrderMark(*at, str(place), key, str(joints[key].number)))
    return tuple(marks)
