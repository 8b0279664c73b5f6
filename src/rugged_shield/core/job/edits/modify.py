"""Commands: a plate changed on the bench, ticked as carried out, and taken back."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from shapely import Point, box

from rugged_shield.core.errors import InputError
from rugged_shield.core.fitup.modification import (
    UNDONE_BY_HAND,
    ChangeKind,
    Modification,
    UncutMass,
    change_words,
)
from rugged_shield.core.job.edits.asked import CHANGE_KEY, Made, Modify, named, taken_keys
from rugged_shield.core.job.edits.cuts import opening, trim, vents
from rugged_shield.core.job.edits.keys import free_key
from rugged_shield.core.job.edits.path import Change
from rugged_shield.core.job.edits.plates import unweighed
from rugged_shield.core.job.edits.reshape import (
    WINGS,
    bend,
    other_side,
    sleeve_cut,
    spacer,
    with_sides_changed,
    without_altered,
)
from rugged_shield.core.job.model import Candidate, Job
from rugged_shield.core.mechanics.frames import Vec2
from rugged_shield.core.survey.bike import Bike
from rugged_shield.core.survey.flat import flat_places
from rugged_shield.core.survey.geometry import fold
from rugged_shield.core.survey.plate import Plate

NEAR_MM = 60.0
"""What lies as near as this behind a cut is named in its caution."""
CUTS: tuple[ChangeKind, ...] = ("trim", "hole", "slot", "vent field")


def _words_only(job: Job, candidate: Candidate, asked: Modify) -> Made:
    del job
    return Made(candidate, named(asked.kind, what=" ".join(asked.what.split())))


_MAKERS: dict[ChangeKind, Callable[[Job, Candidate, Modify], Made]] = {
    "trim": trim,
    "hole": opening,
    "slot": opening,
    "vent field": vents,
    "spacer": spacer,
    "sleeve cut": sleeve_cut,
    "bend": bend,
    "other side": other_side,
    "neighbour trimmed": _words_only,
}


def _near(bike: Bike, plate: Plate, places: tuple[Vec2, ...]) -> tuple[str, ...]:
    """Parts that lie behind or beside the places of a cut, seen from below."""
    spots = []
    frames = flat_places(plate)
    for at in places:
        for panel in fold(plate).panels:
            own = frames.get(panel.name)
            if own is not None and panel.outline.buffer(1.0).covers(Point(own.back(at))):
                spots.append(panel.to_bike(own.back(at)))
    found = []
    for part in bike.parts:
        shape = box(part.x_min_mm, part.y_min_mm, part.x_max_mm, part.y_max_mm)
        if part.kind != "low" and any(shape.distance(Point(s[:2])) <= NEAR_MM for s in spots):
            found.append(part.name)
    return tuple(found)


def changed(job: Job, plate: str, asked: Modify) -> tuple[Candidate, Modification]:
    """The candidate with a change made to it, and the change; nothing of the job is touched.

    Raises InputError for a cut that leaves no one sheet, takes a screw's place away or meets none.
    """
    candidate = job.as_entered(plate)
    made = _MAKERS[asked.kind](job, candidate, asked)
    change = replace(
        made.change,
        key=free_key(CHANGE_KEY, taken_keys(made.candidate)),
        why=" ".join(asked.why.split()),
        near=_near(job.bike, candidate.plate, made.places),
    )
    if change.kind not in CUTS:
        return replace(made.candidate, changes=(*candidate.changes, change)), change
    whole, change = _weighing_less(candidate, made.candidate, change)
    return replace(whole, changes=(*candidate.changes, change)), change


def _weighing_less(
    uncut: Candidate, cut: Candidate, change: Modification
) -> tuple[Candidate, Modification]:
    """What scale and sheet said was of the uncut plate: from here it is computed, as much off."""
    was = uncut.plate
    if was.claimed_mass_kg is None and was.weighed_mass_kg is None:
        return cut, change
    known = UncutMass(
        claimed_mass_kg=was.claimed_mass_kg,
        weighed_mass_kg=was.weighed_mass_kg,
        mass_ratio=was.mass_ratio,
    )
    return replace(cut, plate=unweighed(cut.plate, was)), replace(change, uncut=known)


def _with_uncut(plate: Plate, left: tuple[Modification, ...], gone: Modification) -> Plate:
    """The plate's mass as it was known, once its last cut is taken back and nobody weighed it."""
    known = gone.uncut
    unweighed = plate.claimed_mass_kg is None and plate.weighed_mass_kg is None
    if known is None or not unweighed or any(c.kind in CUTS for c in left):
        return plate
    return replace(
        plate,
        claimed_mass_kg=known.claimed_mass_kg,
        weighed_mass_kg=known.weighed_mass_kg,
        mass_ratio=known.mass_ratio,
    )


def _handed_on(left: tuple[Modification, ...], gone: Modification) -> tuple[Modification, ...]:
    """Another cut keeps what was known of the uncut plate when the one that did is taken back."""
    heir = next((c.key for c in left if c.kind in CUTS), "")
    if gone.uncut is None or not heir:
        return left
    return tuple(replace(c, uncut=gone.uncut) if c.key == heir else c for c in left)


def modify(job: Job, plate: str, asked: Modify) -> Change:
    """A change becomes a fact of the plate, a step of its plan and a deviation from its sheet."""
    candidate, change = changed(job, plate, asked)
    return Change(job.with_candidate(candidate), f"{candidate.plate.name}: {change_words(change)}")


def tried_on(job: Job, plate: str, asked: Modify) -> tuple[Job, Modification]:
    """The job with the change made, never saved."""
    candidate, change = changed(job, plate, asked)
    return job.with_candidate(candidate), change


def _change_of(candidate: Candidate, key: str) -> Modification:
    for change in candidate.changes:
        if change.key == key:
            return change
    raise InputError("key", key, "a change of this plate")


def _built_on(candidate: Candidate, change: Modification) -> Modification | None:
    """The latest change that alters what this one altered or made, or turned it over."""
    paths = {one.path for one in change.altered}
    made = {f"joints.{key.replace('/', '.layers.')}" for key in change.made if "/" in key}
    later = candidate.changes[candidate.changes.index(change) + 1 :]
    for other in reversed(later):
        theirs = {one.path for one in other.altered}
        # A screw that was chosen anew for one spacer serves the next one in its joint as it is.
        theirs |= {f"joints.{k.split('/')[0]}.length_mm" for k in other.made if "/" in k}
        if paths & theirs or any(p.startswith(f"{m}.") for p in theirs for m in made):
            return other
        if _turns(other, paths) or _turns(change, theirs):
            return other
    return None


def _turns(change: Modification, paths: set[str]) -> bool:
    """Whether a change turned over the piece, or swapped the wings, that such numbers are of."""
    if change.kind != "other side" or not change.made:
        return False
    turned = change.made[0]
    places = [f"plate.{w.replace(' ', '_')}." for w in WINGS] if turned in WINGS else []
    places = places or [f"plate.pieces.{turned}."]
    return any(path.startswith(place) for path in paths for place in places)


def unmake(job: Job, plate: str, key: str) -> Change:
    """Takes a change back with all that it brought. Raises InputError where it is carried out."""
    candidate = job.as_entered(plate)
    change = _change_of(candidate, key)
    if change.done and change.kind not in UNDONE_BY_HAND:
        raise InputError(
            "key",
            change.kind,
            "a change that is not carried out yet",
            "what is cut or bent is not taken back",
            "Untick it first if it was ticked by mistake.",
        )
    after = _built_on(candidate, change)
    if after is not None:
        raise InputError(
            "key",
            change.kind,
            "the later change first",
            f"a later change builds on it: {change_words(after)}",
            "Take that one back first.",
        )
    gone = set(change.made)
    own = candidate.plate
    joints = tuple(
        replace(j, layers=tuple(k for k in j.layers if f"{j.key}/{k.key}" not in gone))
        for j in candidate.joints
    )
    plain = replace(
        own,
        cutouts=tuple(c for c in own.cutouts if c.key not in gone),
        trims=tuple(t for t in own.trims if t.key not in gone),
    )
    left = tuple(c for c in candidate.changes if c.key != key)
    plain = _with_uncut(plain, left, change)
    back = replace(candidate, plate=plain, joints=joints, changes=_handed_on(left, change))
    back = without_altered(back, change.altered)
    if change.kind == "other side" and change.made:
        back = with_sides_changed(back, change.made[0])
    return Change(job.with_candidate(back), f"taken back: {change_words(change)}")


def tick_change(job: Job, plate: str, key: str, done: bool) -> Change:
    """A change is carried out, or is not after all."""
    candidate = job.as_entered(plate)
    change = _change_of(candidate, key)
    changes = tuple(replace(c, done=done) if c.key == key else c for c in candidate.changes)
    words = f"{'carried out' if done else 'still to do'}: {change_words(change)}"
    return Change(job.with_candidate(replace(candidate, changes=changes)), words)
