"""Commands: neighbours of a bike to look at, gaps as seen, the order a plate is drawn home in."""

from __future__ import annotations

from dataclasses import dataclass, replace

from rugged_shield.core.amounts import entered
from rugged_shield.core.errors import InputError, choose
from rugged_shield.core.fitup.gap_seen import GapSeen
from rugged_shield.core.fitup.seen import SeenHole
from rugged_shield.core.job.edits.keys import free_key
from rugged_shield.core.job.edits.path import Change
from rugged_shield.core.job.model import Job
from rugged_shield.core.survey.bike import Bike, Part
from rugged_shield.core.survey.neighbours import Neighbour


def _usual(bike: Bike) -> tuple[Neighbour, ...]:
    """What everybody looks at before the first ride, and what this bike has near its plate."""
    found = [
        Neighbour(key="wheel-lock", name="front wheel", state="full lock", kind="moving"),
        Neighbour(
            key="gear-lever",
            name="gear lever",
            state="through its travel",
            kind="moving",
            boot=True,
        ),
        Neighbour(
            key="brake-pedal",
            name="brake pedal",
            state="through its travel",
            kind="moving",
            boot=True,
        ),
    ]
    stands = (
        ("side-stand", "side stand", bike.has_side_stand),
        ("centre-stand", "centre stand", bike.has_centre_stand),
    )
    found += [
        Neighbour(key=key, name=name, state="through its travel", kind="moving")
        for key, name, there in stands
        if there
    ]
    return (*found, *(n for part in bike.parts if (n := _of_part(part)) is not None))


def _of_part(part: Part) -> Neighbour | None:
    """A hot part when it has moved, a hose when it bends; others stand still where drawn."""
    key = f"near-{part.key}"[:60]
    if part.surface_c is not None and part.is_exhaust:
        return Neighbour(
            key=key,
            name=part.name,
            state="hot and moved",
            kind="hot",
            least_mm=max(part.required_gap_mm, 10.0),
        )
    if part.shape == "hose":
        return Neighbour(key=key, name=part.name, state="bent", kind="hose")
    return None


def usual_left(bike: Bike) -> tuple[Neighbour, ...]:
    """What is always looked at and does not stand on the list of this bike yet."""
    there = {n.key for n in bike.neighbours}
    names = {n.name.casefold() for n in bike.neighbours}
    return tuple(n for n in _usual(bike) if n.key not in there and n.name.casefold() not in names)


def usual_neighbours(job: Job) -> Change:
    """Puts on the list what is always looked at. Raises InputError where all of it is there."""
    new = usual_left(job.bike)
    if not new:
        listed = len(job.bike.neighbours)
        raise InputError("neighbours", listed, "things not on the list yet", "all are on it")
    bike = replace(job.bike, neighbours=(*job.bike.neighbours, *_own_keys(job.bike, new)))
    return Change(replace(job, bike=bike), f"{len(new)} neighbours to look at")


def _own_keys(bike: Bike, new: tuple[Neighbour, ...]) -> tuple[Neighbour, ...]:
    """The same with keys that nothing else of the bike has."""
    taken = set(bike.own_keys())
    out = []
    for one in new:
        key = free_key(one.key, taken)
        taken.add(key)
        out.append(replace(one, key=key))
    return tuple(out)


@dataclass(frozen=True)
class SeenPlace:
    """Where a joint's thread stands from the middle of its hole, mm, from a photograph."""

    joint: str
    right_mm: float
    forward_mm: float
    u_mm: float


def note_holes(job: Job, plate: str, seen: tuple[SeenPlace, ...]) -> Change:
    """What a photograph says of several holes, in one act. Raises InputError for other joints."""
    candidate = job.as_entered(plate)
    by_key = {s.joint: s for s in seen}
    for key in by_key:
        choose("joint", key, [j.key for j in candidate.joints], "joint of this plate")
    joints = tuple(
        replace(j, seen=_from_photo(j.seen, by_key[j.key])) if j.key in by_key else j
        for j in candidate.joints
    )
    many = "s" if len(by_key) > 1 else ""
    words = f"{len(by_key)} hole{many} read from a photograph"
    return Change(job.with_candidate(replace(candidate, joints=joints)), words)


def _from_photo(was: SeenHole, found: SeenPlace) -> SeenHole:
    return replace(
        was,
        right_mm=round(found.right_mm, 2),
        forward_mm=round(found.forward_mm, 2),
        off_u_mm=round(found.u_mm, 2),
        seen_by="photograph",
    )


def note_gap(job: Job, plate: str, seen: GapSeen) -> Change:
    """Notes how close a neighbour comes to a plate; a later look takes the place of the earlier.

    Raises InputError for a neighbour that the bike does not have.
    """
    choose("key", seen.key, [n.key for n in job.bike.neighbours], "neighbour of this bike")
    name = next(n.name for n in job.bike.neighbours if n.key == seen.key)
    candidate = job.as_entered(plate)
    gaps = (*(g for g in candidate.gaps if g.key != seen.key), seen)
    found: str = seen.looked_with
    if seen.looked_with == "feeler or rule":
        found = entered(seen.gap_mm, "mm")
    return Change(job.with_candidate(replace(candidate, gaps=gaps)), f"{name}: {found}")


def forget_gap(job: Job, plate: str, key: str) -> Change:
    """Takes a look back, as if nobody had looked."""
    candidate = job.as_entered(plate)
    if all(g.key != key for g in candidate.gaps):
        raise InputError("key", key, "a neighbour that was looked at")
    gaps = tuple(g for g in candidate.gaps if g.key != key)
    return Change(job.with_candidate(replace(candidate, gaps=gaps)), "a look taken back")


def take_order(
    job: Job, plate: str, order: tuple[str, ...], starts: tuple[str, ...] = ()
) -> Change:
    """The order in which the joints of a plate are torqued, and started; empty: as worked out.

    An order that a stage speaks against is taken: the plan says so in words.
    Raises InputError for a joint that the plate does not have.
    """
    candidate = job.as_entered(plate)
    known = [j.key for j in candidate.joints]
    for name, keys in (("order", order), ("starts", starts)):
        for key in keys:
            choose(name, key, known, "joint of this plate")
    words = "tightened in the order chosen" if order else "tightened in the order worked out"
    changed = replace(candidate, order=order, starts=starts)
    return Change(job.with_candidate(changed), words)
