"""Whether a joint's verdict stands on what is only assumed or guessed of it.

Each such number has a band. A verdict stands when it is the same at both ends of every band, one
at a time and all together at their bad ends; where it turns, it is not known, and the number that
turns it first is named.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from functools import lru_cache

from rugged_shield.core.amounts import amount, entered
from rugged_shield.core.assess.fitup.joints import JointAssessment, assess_joint
from rugged_shield.core.errors import InputError
from rugged_shield.core.fitup.joint import Joint
from rugged_shield.core.job.model import MountedJoint
from rugged_shield.core.judgement.known import (
    ENTERED,
    LAYER_BAND_MM,
    Known,
    band_of,
    doubted,
    fact_of,
    typical_band,
)
from rugged_shield.core.result import Decider, Finding, FindingCode, from_table, verdict_of
from rugged_shield.core.survey.bike import Mount

DEPTHS = ("thread_start_mm", "thread_end_mm", "overall_height_mm", "free_space_mm")
_SAID = {
    "thread_start_mm": "lead before the thread",
    "thread_end_mm": "depth of thread",
    "overall_height_mm": "height of nut or wall",
    "free_space_mm": "room behind the thread",
    "z_mm": "height of its face",
}
Moved = Callable[[Joint, "Mount | None", float], "tuple[Joint, Mount | None]"]
"""Joint and mount with one number put elsewhere."""
_SHALLOW = {"thread_start_mm": 1.0, "thread_end_mm": -1.0, "overall_height_mm": -1.0}
"""Which way each depth goes when a thread is worse to meet; room behind it is worse when less."""


@dataclass(frozen=True, kw_only=True)
class DoubtedNumber:
    """A number of a joint that nobody entered: what it is called, its value and band, mm.

    ``moved`` gives joint and mount with it put elsewhere; ``stacks``: a layer's thickness.
    """

    decider: Decider
    name: str
    stacks: bool
    way: float
    moved: Moved


def _of_mount(field: str) -> Moved:
    def moved(joint: Joint, mount: Mount | None, to: float) -> tuple[Joint, Mount | None]:
        assert mount is not None
        changes: dict[str, float] = {field: to}
        return joint, replace(mount, **changes)  # type: ignore[arg-type]

    return moved


def _of_female(field: str) -> Moved:
    def moved(joint: Joint, mount: Mount | None, to: float) -> tuple[Joint, Mount | None]:
        assert joint.female is not None
        changes: dict[str, float] = {field: to}
        return replace(joint, female=replace(joint.female, **changes)), mount  # type: ignore[arg-type]

    return moved


def _of_layer(key: str) -> Moved:
    def moved(joint: Joint, mount: Mount | None, to: float) -> tuple[Joint, Mount | None]:
        layers = tuple(
            replace(layer, thickness_mm=to) if layer.key == key else layer for layer in joint.layers
        )
        return replace(joint, layers=layers), mount

    return moved


def _numbers(joint: Joint, mount: Mount | None) -> Iterator[DoubtedNumber]:
    """Every assumed or guessed number of a joint's own stack."""
    if joint.known == "tried":
        return  # on the bike it ran in to its head and did not bottom
    if joint.female is not None and joint.female_known not in ENTERED:
        for field in DEPTHS:
            value = getattr(joint.female, field)
            if value is not None:
                yield _number(
                    f"joints.{joint.key}.female.{field}", joint.female_known, field, value, "",
                    typical_band(field, joint.female_known), _of_female(field),
                )  # fmt: skip
    elif joint.female is None and mount is not None:
        for field in doubted(mount, *DEPTHS):
            yield _number(
                f"bike.mounts.{mount.key}.{field}", fact_of(mount, field).known, field,
                getattr(mount, field), f"{mount.name}, ", band_of(mount, field), _of_mount(field),
            )  # fmt: skip
    for layer in joint.present():
        band = LAYER_BAND_MM[layer.known]
        if band and not layer.clamps_plate:
            yield DoubtedNumber(
                decider=Decider(
                    path=f"joints.{joint.key}.layers.{layer.key}.thickness_mm",
                    known=layer.known,
                    value=layer.thickness_mm,
                    band=band,
                ),
                name=f"thickness of {layer.name}",
                stacks=True,
                way=1.0,
                moved=_of_layer(layer.key),
            )


def _number(
    path: str,
    known: Known,
    field: str,
    value: float,
    of: str,
    band: float,
    moved: Moved,
) -> DoubtedNumber:
    return DoubtedNumber(
        decider=Decider(path=path, known=known, value=value, band=band),
        name=f"{of}{_SAID[field]}",
        stacks=False,
        way=_SHALLOW.get(field, -1.0),
        moved=moved,
    )


def _blocked(joint: Joint, mount: Mount | None) -> dict[FindingCode, str] | None:
    """What blocks a joint there, in words; None where no such joint can be."""
    try:
        judged = assess_joint(joint, mount)
    except InputError:
        return None
    return {f.code: f.text for f in judged.findings if f.verdict == "blocked"}


@dataclass(frozen=True)
class _End:
    """Numbers put to ends of their bands, the first of them named, and what blocks there."""

    number: DoubtedNumber
    at: float
    blocked: dict[FindingCode, str]


def _put(joint: Joint, mount: Mount | None, ends: list[tuple[DoubtedNumber, float]]) -> _End | None:
    for number, at in ends:
        try:
            joint, mount = number.moved(joint, mount, at)
        except InputError:
            return None  # a size that cannot be: this end of its band is no possible number
    blocked = _blocked(joint, mount)
    return None if blocked is None else _End(ends[0][0], ends[0][1], blocked)


def _ends(joint: Joint, mount: Mount | None, numbers: list[DoubtedNumber]) -> Iterator[_End]:
    """Each number alone at both ends, then all together: stacks thick or thin, threads shallow
    or deep.
    """
    asked = [[(n, _at(n, sign))] for n in numbers for sign in (-1.0, 1.0)]
    if len(numbers) > 1:
        for stack in (1.0, -1.0):
            for thread in (1.0, -1.0):
                asked.append([(n, _at(n, stack if n.stacks else thread)) for n in numbers])
    for ends in asked:
        found = _put(joint, mount, ends)
        if found is not None:
            yield found


def _at(number: DoubtedNumber, sign: float) -> float:
    value, band = number.decider.value, number.decider.band
    assert isinstance(value, float | int)
    return max(0.1 if number.stacks else 0.0, round(value + sign * number.way * band, 3))


def _turned(number: DoubtedNumber, at: float, what: str, then: str) -> Finding:
    value = number.decider.value
    assert isinstance(value, float | int)
    return from_table(
        "turns within its band",
        decided_by=(number.decider,),
        what=what,
        name=number.name,
        known=number.decider.known,
        value=entered(value, "mm"),
        band=entered(number.decider.band, "mm"),
        at=amount(at, "mm", 1),
        then=then,
    )


def _under_doubt(
    base: JointAssessment, mount: Mount | None, numbers: list[DoubtedNumber]
) -> tuple[Finding, ...]:
    """The joint's own findings with those that turn within a band said as not known."""
    own = {f.code for f in base.findings if f.verdict == "blocked"}
    # The same screw is held against every end: another length chosen there would hide the doubt.
    joint = replace(base.joint, length_mm=base.length_mm)
    gone: dict[FindingCode, Finding] = {}
    come: dict[FindingCode, Finding] = {}
    for end in _ends(joint, mount, numbers):
        for code in own - end.blocked.keys() - gone.keys():
            gone[code] = _turned(end.number, end.at, f"“{code}”", "it does not hold.")
        for code in end.blocked.keys() - own - come.keys():
            come[code] = _turned(end.number, end.at, "The verdict", end.blocked[code])
    kept = tuple(gone.get(f.code, f) for f in base.findings)
    return (*kept, *come.values())


@lru_cache(maxsize=2048)
def doubted_joint(at: MountedJoint) -> JointAssessment:
    """A joint judged with what is only assumed of it: sound on assumed numbers, or not known."""
    joint, mount = at.joint, at.mount
    base = assess_joint(joint, mount)
    numbers = list(_numbers(joint, mount))
    found = _under_doubt(base, mount, numbers) if numbers else base.findings
    found = (*found, *_assumed_mount(joint, mount))
    names = [n.name for n in numbers]
    deciders = [n.decider for n in numbers]
    if mount is not None and joint.clamps_plate and not _height_seen(joint, mount):
        names.append(f"{mount.name}, {_SAID['z_mm']}")
        deciders.append(
            Decider(
                path=f"bike.mounts.{mount.key}.z_mm",
                known=fact_of(mount, "z_mm").known,
                value=mount.z_mm,
                band=band_of(mount, "z_mm"),
            )
        )
    if not names:
        return replace(base, findings=found)
    told = from_table(
        "on assumed numbers",
        decided_by=tuple(deciders),
        count=str(len(names)),
        names="; ".join(names),
    )
    # A length that fits does so on the same numbers.
    lengths = tuple(
        replace(x, verdict=told.verdict) if x.verdict == verdict_of(None) else x
        for x in base.lengths
    )
    return replace(base, findings=(*found, told), lengths=lengths)


def _height_seen(joint: Joint, mount: Mount) -> bool:
    """Whether the height of the mount's face is entered, or the gap there was seen with it on."""
    return not doubted(mount, "z_mm") or joint.seen.gap_mm is not None


def _assumed_mount(joint: Joint, mount: Mount | None) -> tuple[Finding, ...]:
    """A mount of whose thread nobody measured or read anything, and no screw was tried in it."""
    if mount is None or joint.female is not None or joint.known == "tried":
        return ()
    there = [name for name in DEPTHS[:3] if getattr(mount, name) is not None]
    if len(doubted(mount, *there)) < len(there):
        return ()
    found = from_table("mount only assumed", number=str(joint.number), mount=mount.name)
    deciders = tuple(
        Decider(
            path=f"bike.mounts.{mount.key}.{name}",
            known=fact_of(mount, name).known,
            value=getattr(mount, name),
            band=band_of(mount, name),
        )
        for name in there
    )
    return (replace(found, decided_by=deciders),)
