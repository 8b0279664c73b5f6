"""Work on a plate before it hangs: changes to carry out, and which way each piece goes."""

from __future__ import annotations

from functools import lru_cache

from rugged_shield.core.amounts import amount
from rugged_shield.core.assess.fitup.covered import put_on
from rugged_shield.core.fitup.modification import ChangeKind, Modification, change_words
from rugged_shield.core.job.model import Candidate
from rugged_shield.core.survey.bike import Bike, BikeJoint
from rugged_shield.core.survey.mass import PlateMassInput, plate_mass
from rugged_shield.core.survey.plate import Piece
from rugged_shield.core.tables.cautions import CHANGE_CAUTIONS, NEAR_CAUTION
from rugged_shield.core.tighten.plan import PlanAround, PlanPiece
from rugged_shield.core.tighten.steps import PlanTask

_MINUTES: dict[ChangeKind, float] = {
    "trim": 15.0,
    "hole": 8.0,
    "slot": 12.0,
    "vent field": 20.0,
    "spacer": 2.0,
    "bend": 10.0,
    "other side": 5.0,
    "sleeve cut": 8.0,
    "neighbour trimmed": 15.0,
}
"""Bench time at a home workshop, medium confidence; of a vent field to start with."""
_VENT_MINUTES = 0.7


def change_caution(change: Modification) -> str:
    """What to mind with a change: its tool, and what lies near its place."""
    words = CHANGE_CAUTIONS.get(change.kind, "")
    if change.near and change.kind in ("trim", "hole", "slot", "vent field"):
        words = f"{words} {NEAR_CAUTION.format(near=', '.join(change.near))}"
    return words.strip()


def _change_task(change: Modification) -> PlanTask:
    minutes = _MINUTES[change.kind]
    if change.kind == "vent field":
        minutes += _VENT_MINUTES * change.count
    words = change_words(change)
    return PlanTask(
        key=f"{CHANGES}:{change.key}",
        title=f"{words[:1].upper()}{words[1:]}",
        text=f"With the 1:1 template. {change.why}".strip(),
        caution=change_caution(change),
        minutes=minutes,
    )


def _way_task(candidate: Candidate) -> list[PlanTask]:
    """One look before it hangs: what makes each piece unmistakable."""
    words = [f"{way}." for way in candidate.plate.ways]
    words += [f"Joint {j.number}: {j.orientation}." for j in candidate.joints if j.orientation]
    if not words:
        return []
    return [
        PlanTask(
            key="way",
            title="Look which way each piece goes",
            text=" ".join(words),
            caution="",
            minutes=1.0,
            shows_way=True,
        )
    ]


OPENS, CLOSES, CHANGES = "loosen", "close", "change"
"""What a step's key begins with: it opens, or closes, a joint of the bike; it changes the plate."""
_BIKE_JOINT_MINUTES = 4.0


def _opening(joint: BikeJoint) -> PlanTask:
    note = f"{joint.note[:1].upper()}{joint.note[1:]}. " if joint.note else ""
    return PlanTask(
        key=f"{OPENS}:{joint.key}",
        title=f"Loosen the {joint.name}",
        text=f"{note}It stands in the register as open until it has its torque again.",
        caution="Before a bolt that a stand hangs on: the bike stands otherwise, strapped.",
        minutes=_BIKE_JOINT_MINUTES,
    )


def _closing(joint: BikeJoint) -> PlanTask:
    torque = "look its torque up in the bike's manual"
    if joint.manual_torque_nm is not None:
        torque = f"{amount(joint.manual_torque_nm, 'N·m')} by the bike's manual"
    return PlanTask(
        key=f"{CLOSES}:{joint.key}",
        title=f"Close the {joint.name}",
        text=f"{joint.thread}, {torque}. Its reading goes into the register below.",
        caution="Try what hangs on it: stand, peg, pedal, through its whole travel.",
        minutes=_BIKE_JOINT_MINUTES,
    )


def _dry_fit(candidate: Candidate) -> list[PlanTask]:
    if not candidate.dry_fit:
        return []
    return [
        PlanTask(
            key="dry fit",
            title="Hang it once, dry",
            text="No locker, screws by hand: each starts, nothing touches, nothing pulls. "
            "Tighten what the plate will hide; then off with it again.",
            caution="Support it: the last screw drops the plate.",
            minutes=10.0,
        )
    ]


def _hang_words(candidate: Candidate) -> str:
    """What holds the plate, what it goes over, and what goes through it first."""
    plate = candidate.plate
    kilograms = plate_mass(PlateMassInput(plate=plate)).result.held_mass_kg
    words = [
        f"It weighs {amount(kilograms, 'kg', 1)}: a floor jack with wood, a strap, a knee or a "
        "second person holds it until two screws stand. Screws and tools within reach."
    ]
    studs = sorted(j.number for j in candidate.joints if j.is_stud and j.hangs_plate)
    if studs:
        numbers = ", ".join(map(str, studs))
        words.append(
            f"Over the stud{'s' if len(studs) > 1 else ''} of joint {numbers} first: "
            f"{'they carry' if len(studs) > 1 else 'it carries'} while the rest is lined up."
        )
    on_it = [p.name for p in plate.pieces if p.key in put_on(candidate.plate, candidate.joints)]
    if on_it:
        words.append(f"With what was screwed to it: {', '.join(on_it)}.")
    if plate.through_first:
        words.append(_first_through(plate.through_first))
    return " ".join(words)


def _first_through(what: str) -> str:
    return f"Through its openings first: {what}."


def _piece(piece: Piece) -> PlanPiece:
    """A further piece at its turn: which way it goes, and what goes through it first."""
    way = piece.orientation
    words = [f"{way[:1].upper()}{way[1:]}."] if way else []
    if piece.through_first:
        words.append(_first_through(piece.through_first))
    return PlanPiece(key=piece.key, name=piece.name, order=piece.order, text=" ".join(words))


@lru_cache(maxsize=256)
def plan_around(bike: Bike, candidate: Candidate) -> PlanAround:
    """Work around a plate's joints: the bike's own joints, changes, a dry fit, which way, support.

    Changes come in their order; the look at which way the pieces go after them.
    """
    changes = (_change_task(c) for c in candidate.changes)
    on_it = put_on(candidate.plate, candidate.joints)
    return PlanAround(
        changes=(*(_opening(j) for j in bike.joints), *changes),
        tasks=tuple(_way_task(candidate)),
        dry=tuple(_dry_fit(candidate)),
        closing=tuple(_closing(j) for j in bike.joints),
        over_stock=candidate.plate.over_stock,
        hang=_hang_words(candidate),
        pieces=tuple(_piece(p) for p in candidate.plate.pieces if p.key not in on_it),
        carried_out=frozenset(f"{CHANGES}:{c.key}" for c in candidate.changes if c.done),
    )
