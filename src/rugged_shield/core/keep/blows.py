"""A blow that was felt or left a dent: its energy, what is left behind the plate, what to do."""

from __future__ import annotations

from dataclasses import dataclass, replace

from rugged_shield.core.amounts import amount, amount_range
from rugged_shield.core.event import Happened, of_kind
from rugged_shield.core.figures import NO_VALUE
from rugged_shield.core.keep.events import LookedOver, PartReplaced, PlateStruck
from rugged_shield.core.result import Finding, Verdict, finding, verdict_of, worst
from rugged_shield.core.tables.dues import AFTER_A_BLOW
from rugged_shield.core.tables.profiles import ENERGY_CLASSES

HARD_J = 40.0
"""A blow that carries this much is a hard one: it is looked at before the next ride."""
STRAIGHTEN_SHARE = 0.5
"""A dent that has taken this share of the room is straightened; one that took all, at once."""


@dataclass(frozen=True, kw_only=True)
class Blow:
    """A blow as judged: energy band J (None: not known), room before and left mm, what to do.

    ``mended``: what was done to the plate since; its dent is then no more what it was.
    """

    least_j: float | None
    most_j: float | None
    energy: str
    is_hard: bool
    room_mm: float | None
    left_mm: float | None
    near: str
    act: str
    verdict: Verdict
    findings: tuple[Finding, ...]
    mended: str = ""


def is_plate(what: str) -> bool:
    """Whether a part that was replaced, straightened or turned is the plate itself."""
    return "plate" in what.casefold().split()


def mended_since(struck: PlateStruck, lines: tuple[Happened, ...]) -> str:
    """What was last done to the plate itself after a blow; empty: nothing."""
    done = [e.done for e in of_kind(lines, PartReplaced) if e.seq > struck.seq and is_plate(e.what)]
    return done[-1] if done else ""


def was_looked_after(struck: PlateStruck, lines: tuple[Happened, ...]) -> bool:
    """Whether all that a hard blow can harm was looked at since, and nothing was found then.

    What is found later, on another look, is another matter.
    """
    seen: set[str] = set()
    for look in of_kind(lines, LookedOver):
        if look.seq > struck.seq:
            seen |= set(look.looked)
            if seen >= set(AFTER_A_BLOW) and not look.found:
                return True
    return False


def as_mended(blow: Blow, done: str) -> Blow:
    """A blow on a plate that was mended since: a new one is sound, metal bent back is minded."""
    return replace(
        blow,
        left_mm=None,
        act=f"the plate was {done} since",
        verdict=verdict_of(None if done == "replaced" else "mended, not new"),
        findings=(),
        mended=done,
    )


def felt_band_j(felt: str) -> tuple[float, float] | None:
    """The energies that such a blow usually carries, J; None for one that was not felt."""
    for known in ENERGY_CLASSES:
        if known.words == felt:
            return known.least_j, known.most_j
    return None


def judge_blow(
    struck: PlateStruck,
    dent_band_j: tuple[float, float] | None,
    room_mm: float | None,
    near: str,
    wanted_mm: float,
) -> Blow:
    """What a blow means. The dent tells its energy better than the feeling does.

    ``room_mm`` is the distance from the plate to what lies behind it there, None where nothing
    does or nobody knows; ``wanted_mm`` is what should be left.
    """
    band = dent_band_j or felt_band_j(struck.felt)
    dent = struck.dent_mm
    left = None if room_mm is None or dent is None else room_mm - dent
    is_hard = band is None or band[1] >= HARD_J or bool(dent)
    found: list[Finding] = []
    act = "look at it at the next wash"
    if is_hard:
        act = "look at brackets, bosses and heads before the next ride"
    if left is not None and room_mm is not None and dent:
        act = _act_on(left, room_mm, dent, near, wanted_mm, found) or act
    elif dent is None and is_hard:
        found.append(
            finding("dent not known", "Whether it left a dent was not said: measure its depth.")
        )
    words = NO_VALUE if band is None else amount_range(band[0], band[1], "J")
    return Blow(
        least_j=band[0] if band else None,
        most_j=band[1] if band else None,
        energy=words,
        is_hard=is_hard,
        room_mm=room_mm,
        left_mm=left,
        near=near,
        act=act,
        verdict=worst(f.verdict for f in found)
        if found
        else verdict_of("hard blow" if is_hard else None),
        findings=tuple(found),
    )


def _act_on(
    left: float, room: float, dent: float, near: str, wanted: float, found: list[Finding]
) -> str:
    """What a dent asks for, by the room that it leaves."""
    if left <= 0.0:
        found.append(
            finding("touches vital", f"The dent has taken all the room to the {near}: off with it.")
        )
        return "do not ride: take the plate off, look at what lies behind, straighten or replace it"
    if left < wanted or dent >= STRAIGHTEN_SHARE * room:
        text = (
            f"{amount(left, 'mm', 1)} left to the {near} behind the dent: "
            f"{amount(wanted, 'mm', 0)} wanted."
        )
        found.append(finding("standoff small", text))
        return "straighten it, or turn or replace the plate, before hard riding"
    return ""
