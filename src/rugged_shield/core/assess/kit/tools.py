"""Tools of all joints of a plate, against what lies in the garage and in the trail roll."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from rugged_shield.core.fitup.beyond import far_joints
from rugged_shield.core.job.model import Job, MountedJoint, mounted
from rugged_shield.core.result import Source
from rugged_shield.core.survey.bike import OwnTool
from rugged_shield.core.tables.friction import CONDITIONS
from rugged_shield.core.tables.sockets import SOCKET_SOURCE
from rugged_shield.core.tighten.tools import ToolUse, held_side, turned_side


@dataclass(frozen=True, kw_only=True)
class JointTools:
    """Both sides of one joint, or of a nut beyond its first thread; what special tool it wants."""

    joint: int
    key: str
    name: str
    turned: ToolUse
    held: ToolUse | None
    special: str
    is_far: bool = False


@dataclass(frozen=True, kw_only=True)
class ToolSum:
    """One tool: the joints it is for, and where it lies. ``instead``: others that do the same."""

    tool: str
    joints: tuple[int, ...]
    instead: tuple[str, ...]
    in_garage: bool
    in_roll: bool
    for_trail: bool


@dataclass(frozen=True)
class Tools:
    """Tools by joint and in sum: all that is needed, what is lacking, what the roll lacks."""

    by_joint: tuple[JointTools, ...]
    needed: tuple[ToolSum, ...]
    lacking: tuple[str, ...]
    roll_lacks: tuple[str, ...]
    sources: tuple[Source, ...] = (SOCKET_SOURCE,)


def _plain(tool: str) -> str:
    return " ".join(tool.casefold().split())


def _have(own: Iterable[OwnTool], tool: str, instead: tuple[str, ...], place: str) -> bool:
    words = {_plain(tool), *map(_plain, instead)}
    return any(t.place == place and _plain(t.tool) in words for t in own)


def _sides(joint: JointTools) -> list[tuple[str, ...]]:
    """For each side the tools of which one is enough, the first of them to be taken."""
    sides = [joint.turned.fits, joint.held.tools if joint.held else ()]
    if joint.special:
        sides.append((joint.special,))
    return [side for side in sides if side]


def _of_joint(m: MountedJoint) -> tuple[JointTools, ...]:
    """The tools of a joint, then of each nut beyond its first thread."""
    own = JointTools(
        joint=m.joint.number,
        key=m.joint.key,
        name=m.joint.name,
        turned=turned_side(m.joint),
        held=held_side(m.joint),
        special=m.joint.special_tool,
    )
    beyond = (
        JointTools(
            joint=m.joint.number,
            key=m.joint.key,
            name=f"{m.joint.name}, {far.name}",
            turned=turned_side(nut),
            held=held_side(nut),
            special="",
            is_far=True,
        )
        for far, _, nut in far_joints(m.joint, m.mount)
    )
    return (own, *beyond)


def tools_of(job: Job) -> Tools:
    """The tools of the plate in hand, both sides of every joint and of the nuts beyond it."""
    joints = mounted(job.bike, job.in_hand)
    by_joint = tuple(tools for m in joints for tools in _of_joint(m))
    drops = {m.joint.number for m in joints if m.joint.hangs_plate}
    wanted: dict[tuple[str, ...], list[int]] = {}
    for tools in by_joint:
        for side in _sides(tools):
            wanted.setdefault(side, []).append(tools.joint)
    for joint in job.in_hand.joints:
        for treatment in (joint.treatment, *(far.treatment for far in joint.beyond)):
            if _is_bottle(treatment):
                wanted.setdefault((treatment,), []).append(joint.number)
    needed = tuple(
        ToolSum(
            tool=side[0],
            joints=tuple(dict.fromkeys(numbers)),
            instead=side[1:],
            in_garage=_have(job.bike.tools, side[0], side[1:], "garage"),
            in_roll=_have(job.bike.tools, side[0], side[1:], "trail roll"),
            for_trail=any(n in drops for n in numbers),
        )
        for side, numbers in wanted.items()
    )
    return Tools(
        by_joint=by_joint,
        needed=needed,
        lacking=tuple(t.tool for t in needed if not (t.in_garage or t.in_roll)),
        roll_lacks=tuple(t.tool for t in needed if t.for_trail and not t.in_roll),
    )


def _is_bottle(treatment: str) -> bool:
    return CONDITIONS[treatment].is_locker or CONDITIONS[treatment].is_lubricant
