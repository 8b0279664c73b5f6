"""One list of all that is to buy, grouped by size, with what else the joints would take."""

from __future__ import annotations

from dataclasses import dataclass

from rugged_shield.core.assess.fitup.joints import assess_joints
from rugged_shield.core.assess.kit.debts import owed, own_joints
from rugged_shield.core.assess.kit.lines import KitCheck, need_words, needs_of
from rugged_shield.core.job.model import Candidate, Job
from rugged_shield.core.kit.hardware import KitLine
from rugged_shield.core.kit.needs import Need
from rugged_shield.core.mechanics.threads import screw_size
from rugged_shield.core.tables.friction import CONDITIONS


@dataclass(frozen=True, kw_only=True)
class ToBuy:
    """One line of the shopping list; ``or_else``: other sizes that all of its joints take."""

    kind: str
    what: str
    count: int
    joints: tuple[int, ...]
    why: str
    or_else: tuple[str, ...] = ()


def _alternatives(needs: tuple[Need, ...]) -> tuple[float, ...]:
    """Lengths besides their own that all of these joints take, mm."""
    if not needs or needs[0].kind != "screw":
        return ()
    common = set(needs[0].also_mm)
    for need in needs[1:]:
        common &= set(need.also_mm)
    return tuple(sorted(common))


def _sizes(needs: tuple[Need, ...]) -> tuple[str, ...]:
    return tuple(screw_size(needs[0].thread, mm) for mm in _alternatives(needs))


def _line(needs: tuple[Need, ...], why: str) -> ToBuy:
    return ToBuy(
        kind=needs[0].kind,
        what=need_words(needs[0]),
        count=len(needs),
        joints=tuple(n.joint for n in needs),
        why=why,
        or_else=_sizes(needs),
    )


def _unlisted(unmet: tuple[Need, ...]) -> list[ToBuy]:
    """What joints ask for and no line holds, one line for each size."""
    groups: dict[tuple[object, ...], list[Need]] = {}
    for n in unmet:
        size = (n.kind, n.thread, n.length_mm, n.head, n.grade, n.outer_mm, n.name)
        groups.setdefault(size, []).append(n)
    return [_line(tuple(group), "asked for by a joint, in no line") for group in groups.values()]


def _listed_as(line: KitLine) -> str:
    """A line as a shop is asked for it."""
    parts = [line.name, line.size, line.head, line.grade]
    if line.part_number:
        parts.append(f"part {line.part_number}")
    return " ".join(p for p in parts if p)


def _short(lines: tuple[KitLine, ...], check: KitCheck) -> list[ToBuy]:
    out = []
    for line in lines:
        state = check.lines[line.key]
        if not state.missing:
            continue
        met = check.shared.by_line.get(line.key, ())
        out.append(
            ToBuy(
                kind=line.kind,
                what=_listed_as(line),
                count=state.missing,
                joints=tuple(n.joint for n in met),
                why="short in the kit",
                or_else=_sizes(met),
            )
        )
    return out


def _debts(job: Job) -> list[ToBuy]:
    """The parts that substitutes stand for: what would pay the debt."""
    debts = owed(job)
    if not debts:
        return []
    own = (n for a in assess_joints(own_joints(job)) for n in needs_of(a))
    needs = {(n.joint_key, n.part): n for n in own}
    found = (needs.get((s.joint, s.part)) for s in debts)
    return [_line((need,), "to pay a debt") for need in found if need is not None]


def _consumables(plate: Candidate) -> list[ToBuy]:
    out = []
    for treatment, condition in CONDITIONS.items():
        if not (condition.is_locker or condition.is_lubricant):
            continue
        joints = tuple(sorted(j.number for j in plate.joints if j.treatment == treatment))
        if joints:
            cure = "; let it cure before riding" if condition.is_locker else ""
            out.append(
                ToBuy(
                    kind="consumable",
                    what=treatment,
                    count=1,
                    joints=joints,
                    why=f"goes on the thread{cure}",
                )
            )
    return out


def _wears(plate: Candidate) -> list[ToBuy]:
    """What is worn down by use: pads, strips, rubber, prevailing nuts, and the wear piece."""
    groups: dict[str, list[int]] = {}
    for joint in plate.joints:
        for layer in joint.present():
            if layer.kind in ("pad", "strip", "isolator"):
                groups.setdefault(f"{layer.name} {joint.thread}", []).append(joint.number)
        if joint.nut in ("ISO 7040", "ISO 7042"):
            groups.setdefault(f"nut {joint.nut} {joint.thread}", []).append(joint.number)
    out = [
        ToBuy(
            kind="wear part",
            what=what,
            count=len(joints),
            joints=tuple(joints),
            why="wears: one of each to have when it comes off again",
        )
        for what, joints in groups.items()
    ]
    if plate.plate.wear_piece_kg:
        why = "worn down by rock, changed when it is thin"
        out.append(ToBuy(kind="wear part", what="wear piece", count=1, joints=(), why=why))
    return out


_ORDER = ("screw", "nut", "clip nut", "washer", "spacer", "sleeve", "bracket", "isolator")


def to_buy(job: Job, check: KitCheck) -> tuple[ToBuy, ...]:
    """All that is to buy for the plate in hand, screws first, each kind by its size."""
    plate = job.in_hand
    parts = [*_short(plate.kit, check), *_unlisted(check.shared.unmet), *_debts(job)]
    parts.sort(key=lambda b: (_ORDER.index(b.kind) if b.kind in _ORDER else len(_ORDER), b.what))
    return (*parts, *_consumables(plate), *_wears(plate))
