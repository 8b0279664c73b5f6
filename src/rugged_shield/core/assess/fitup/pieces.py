"""A plate of several pieces: which screws go through two sheets, and which set of holes to take."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace

from rugged_shield.core.amounts import entered
from rugged_shield.core.assess.fitup.covered import covered_by
from rugged_shield.core.assess.fitup.pose import below_sheet
from rugged_shield.core.figures import figure, figure_of
from rugged_shield.core.fitup.hole_pattern import PatternInput, hole_pattern
from rugged_shield.core.fitup.joint import Joint
from rugged_shield.core.job.model import Candidate, Job, MountedJoint, mounted, on_bike
from rugged_shield.core.mechanics.drawing import Drawing, Mark
from rugged_shield.core.mechanics.frames import Vec2, from_below
from rugged_shield.core.result import Figure, Finding, finding
from rugged_shield.core.survey.geometry import FoldedPlate, fold, sheets_over
from rugged_shield.core.survey.plate import Plate
from rugged_shield.core.survey.plate_drawings import plate_drawing

PULL_N = 100.0
"""The pull at the worst corner that sets of holes are compared at, N."""
_NEAR_MM = 10.0
"""Sheets lie in one stack when they are no farther apart than it is thick and this."""

Reaches = Callable[[Joint], tuple[bool, bool]]
"""Whether a tool gets at a joint, and whether that is known."""


@dataclass(frozen=True, kw_only=True)
class SharedScrew:
    """A screw that goes through several sheets, or should: its pieces by key, lowest first.

    ``lacking``: pieces that lie there and are no layer of its stack; ``absent``: the other way.
    ``tight``: of the lacking ones those that hang later under its head, without room for it.
    """

    key: str
    number: int
    name: str
    sheets: tuple[str, ...]
    lacking: tuple[str, ...]
    absent: tuple[str, ...]
    tight: tuple[str, ...] = ()


@dataclass(frozen=True, kw_only=True)
class HoleSet:
    """One of several sets of holes: how wide it stands, what its worst screw takes, reach."""

    name: str
    joints: tuple[int, ...]
    is_used: bool
    spread: Figure
    worst: Figure
    reach_words: str
    out_of_reach: tuple[int, ...]
    reach_not_known: tuple[int, ...]


@dataclass(frozen=True, kw_only=True)
class PiecesJudged:
    """Screws through several sheets, sets of holes with the one that holds best, what is wrong."""

    shared: tuple[SharedScrew, ...]
    sets: tuple[HoleSet, ...]
    best: str
    why: str
    chosen: str
    findings: tuple[Finding, ...]


def _stacked(joint: Joint, heights: dict[str, float]) -> tuple[str, ...]:
    """Pieces near enough to the joint's own sheet to lie in its stack, lowest first."""
    own = [s for s in joint.sheets if s in heights]
    if not own:
        return ()
    around = heights[own[0]]
    room = sum(layer.thickness_mm for layer in joint.present()) + _NEAR_MM
    near = [s for s, z in heights.items() if abs(z - around) <= room]
    return tuple(sorted(near, key=lambda s: heights[s]))


def _room_mm(plate: Plate, joint: Joint, over: dict[str, float], sheet: str) -> float:
    """From the lower face of what a joint holds down to a sheet under it, mm."""
    own = min((over[s] for s in joint.sheets if s in over), default=math.inf)
    return own - over[sheet] - plate.sheet(sheet)[0]


def _through(
    at: MountedJoint, plate: Plate, folded: FoldedPlate, under: tuple[str, ...]
) -> SharedScrew:
    """The sheets that a screw goes through, by its stack and by where they lie.

    One that is hung ``under`` it later, with room for its head between, it does not go through.
    """
    joint, over = at.joint, sheets_over(folded, at.x_mm, at.y_mm)
    head = below_sheet(joint, at.mount)[1] if under else 0.0
    clear = {s for s in under if _room_mm(plate, joint, over, s) >= head}
    there = tuple(s for s in _stacked(joint, over) if s not in clear)
    lacking = tuple(s for s in there if s not in joint.sheets)
    return SharedScrew(
        key=joint.key,
        number=joint.number,
        name=joint.name,
        sheets=tuple(dict.fromkeys((*there, *joint.sheets))),
        lacking=lacking,
        tight=tuple(s for s in lacking if s in under),
        absent=tuple(s for s in joint.sheets if s and s not in over),
    )


def _stack_findings(screws: tuple[SharedScrew, ...], names: dict[str, str]) -> list[Finding]:
    """Where a stack and the sheets that lie at its place contradict each other."""
    found = []
    for screw in screws:
        for sheet in screw.lacking:
            text = (
                f"Joint {screw.number} goes through the {names[sheet]} too: its stack has no layer "
                "for it, and the screw that is asked for comes short by as much."
            )
            if sheet in screw.tight:
                text += " Or its head lies under that sheet, and has no room there."
            found.append(finding("sheet not in the stack", text, screw.key))
        for sheet in screw.absent:
            name = names.get(sheet, f"piece {sheet}")
            text = f"Joint {screw.number} counts on the {name}, which is not where it stands."
            found.append(finding("not through that sheet", text, screw.key))
    return found


def _corners(folded: FoldedPlate) -> tuple[Vec2, ...]:
    """Every corner of every sheet, seen from above: where a stone can hook and pull."""
    return tuple((x, y) for panel in folded.panels for x, y, _ in panel.corners())


def _reach_words(out: tuple[int, ...], unknown: tuple[int, ...], all_of_it: int) -> str:
    if out:
        return f"no tool gets in at {', '.join(map(str, out))}"
    if unknown:
        return f"room at {', '.join(map(str, unknown))} not entered"
    return f"every one of {all_of_it} can be reached"


def _set_of(
    name: str, joints: tuple[MountedJoint, ...], folded: FoldedPlate, used: str, reaches: Reaches
) -> HoleSet:
    """A set with the joints that are used with every set."""
    given = PatternInput(tuple((m.x_mm, m.y_mm) for m in joints), _corners(folded), PULL_N)
    outcome = hole_pattern(given)
    result = outcome.result
    own = [m.joint for m in joints if m.joint.hole_set == name]
    looks = {j.number: reaches(j) for j in own}
    out = tuple(n for n, (gets_in, known) in looks.items() if known and not gets_in)
    unknown = tuple(n for n, (_, known) in looks.items() if not known)
    label = f"Worst screw, {entered(PULL_N, 'N')} at the worst corner"
    if result.worst_n is None or result.worst_screw is None:
        words = "not held: its screws stand on one line, the sheet tilts about it"
        worst = figure("worst", label, None, "N", text=words)
    else:
        number = joints[result.worst_screw].joint.number
        reasons = (f"It is screw {number}.",)
        worst = figure_of(outcome, "worst", label, result.worst_n, "N", reasons=reasons)
    return HoleSet(
        name=name,
        joints=tuple(j.number for j in own),
        is_used=name == used,
        spread=figure_of(outcome, "spread", "Spread, its narrow way", result.spread_mm, "mm"),
        worst=worst,
        reach_words=_reach_words(out, unknown, len(own)),
        out_of_reach=out,
        reach_not_known=unknown,
    )


def _best(sets: tuple[HoleSet, ...]) -> tuple[str, str]:
    """The set that holds best among those that can be reached, and why."""
    held = [s for s in sets if s.worst.value is not None]
    if len(sets) < 2 or not held:
        return "", ""
    reached = [s for s in held if not s.out_of_reach] or held
    best = min(reached, key=lambda s: (s.worst.value or 0.0, s.name))
    beaten = [s for s in held if (s.worst.value or 0.0) < (best.worst.value or 0.0)]
    if beaten:
        return best.name, f"“{beaten[0].name}” would hold better, but {beaten[0].reach_words}."
    return best.name, "Its worst screw takes least of a pull at the worst corner."


def _set_findings(sets: tuple[HoleSet, ...], used: str) -> list[Finding]:
    if len(sets) > 1 and not used:
        names = ", ".join(f"“{s.name}”" for s in sets)
        return [finding("hole set not chosen", f"Sets of holes {names}: choose one.")]
    found = []
    for one in sets:
        if one.name != used:
            continue
        if one.worst.value is None:
            text = f"The screws of “{one.name}” stand on one line: the sheet tilts about it."
            found.append(finding("hole set tilts", text))
        if one.out_of_reach:
            text = f"Set “{one.name}”: {one.reach_words}."
            found.append(finding("tool does not get in", text))
    return found


def every_set(job: Job, plate: str) -> Candidate:
    """A plate as it stands, with the joints of every set of holes."""
    return on_bike(replace(job.as_entered(plate), hole_set=""), job.bike)


def pieces_drawing(plate: Plate, joints: tuple[MountedJoint, ...]) -> Drawing:
    """The plate from below with its pieces as they overlap, every screw by its number."""
    folded = fold(plate)
    drawn = plate_drawing(folded, "from below")
    places = [(m.joint, from_below(m.x_mm, m.y_mm)) for m in joints if m.is_placed]
    marks = tuple(Mark(*at, str(joint.number), "mount", joint.key) for joint, at in places)
    return replace(drawn, marks=(*drawn.marks, *marks))


def pieces_judged(job: Job, plate: str, reaches: Reaches) -> PiecesJudged:
    """Screws of a plate that its sheets share, and each of its sets of holes.

    A set is judged with the joints that are used whichever is chosen. ``reaches`` says whether
    a tool gets at a joint, and whether that is known.
    """
    candidate, chosen = every_set(job, plate), job.as_entered(plate).hole_set
    folded = fold(candidate.plate)
    used = chosen if chosen in candidate.hole_sets else ""
    everything = mounted(job.bike, candidate)
    sets = tuple(
        _set_of(
            name,
            tuple(m for m in everything if m.joint.is_to_bike and m.joint.hole_set in ("", name)),
            folded,
            used,
            reaches,
        )
        for name in candidate.hole_sets
    )
    fitted = mounted(job.bike, job.candidate(plate))
    under = covered_by(candidate.plate, fitted)
    screws = tuple(
        _through(m, candidate.plate, folded, under.get(m.joint.key, ()))
        for m in fitted
        if m.is_placed
    )
    best, why = _best(sets)
    stacks = _stack_findings(screws, candidate.plate.sheet_names)
    return PiecesJudged(
        shared=tuple(screw for screw in screws if len(screw.sheets) > 1),
        sets=sets,
        best=best,
        why=why,
        chosen=used,
        findings=(*stacks, *_set_findings(sets, used)),
    )
