"""Whether a stud holds in the bike: the thread that its seated end has, against what it wants."""

from __future__ import annotations

from dataclasses import dataclass, replace

from rugged_shield.core.amounts import amount, entered
from rugged_shield.core.fitup.joint import Joint, wanted_engagement_mm
from rugged_shield.core.mechanics import threads
from rugged_shield.core.mechanics.female import Female
from rugged_shield.core.result import Finding, finding
from rugged_shield.core.survey.bike import Mount
from rugged_shield.core.tables.friction import CONDITIONS

TURNS_WITH_IT = ("ISO 7040", "ISO 7042")
"""Nuts that brake on the thread: they turn a stud that nothing holds."""


@dataclass(frozen=True, kw_only=True)
class Seat:
    """A stud's seat; lengths mm.

    ``held_mm``: thread held in the bike at worst; None: not known, or no thread holds it.
    """

    female: Female | None
    material: str
    held_mm: float | None
    wanted_mm: float
    findings: tuple[Finding, ...]


def _held_mm(female: Female, seated_mm: float, pitch_mm: float) -> float:
    """Thread held by the seated end, worst case: its first pitch carries nothing."""
    end = min(seated_mm - pitch_mm, female.thread_end_mm - female.thread_end_tol_mm)
    return max(0.0, end - female.thread_start_mm - female.thread_start_tol_mm)


def _not_known(text: str) -> tuple[Finding, ...]:
    return (finding("stud's seat not known", text),)


def _without_thread(findings: tuple[Finding, ...] = ()) -> Seat:
    return Seat(female=None, material="", held_mm=None, wanted_mm=0.0, findings=findings)


def _judged(joint: Joint, mount: Mount) -> Seat:
    female, material = mount.female(), mount.material
    row, seated = threads.row_of(joint.thread), joint.stud.seated_mm
    wanted = wanted_engagement_mm(female, material, row.d_mm)
    held, found = None, tuple[Finding, ...]()
    depth = None if female.is_through else female.overall_height_mm
    if mount.thread != joint.thread:
        found = _not_known(
            f"The stud is {joint.thread}, its mount {mount.number} has {mount.thread}: a stud with "
            "two threads is not judged here."
        )
    elif seated is None:
        found = _not_known(
            "How deep the stud sits in the bike is not entered: its whole length less what stands "
            "out, or a rod into the hole when it is out."
        )
    elif depth is not None and seated > depth:
        found = _not_known(
            f"It cannot sit {entered(seated, 'mm')} deep in a hole of {entered(depth, 'mm')}: "
            "measure both again."
        )
    else:
        held = _held_mm(female, seated, row.pitch_mm)
        if held < wanted - 1e-9:
            text = (
                f"{amount(held, 'mm', 1)} of thread is held in {material} at worst, "
                f"{amount(wanted, 'mm', 1)} is wanted: the stud can pull out when its nut is "
                "torqued. Seat it deeper or put in a longer one."
            )
            found = (finding("stud sits too shallow", text),)
    return Seat(female=female, material=material, held_mm=held, wanted_mm=wanted, findings=found)


def seat_of(joint: Joint, mount: Mount | None) -> Seat | None:
    """How a stud is held in the bike; None for a screw.

    The seated end is judged like a screw in that thread: worst case, one pitch lost, against the
    engagement that the bike's material wants. Welds and press fits are not judged.
    """
    if not joint.is_stud:
        return None
    if not joint.stud.is_screwed_in:
        return _without_thread()
    if mount is None:
        text = "Choose the mount where the stud stands: its seat cannot be judged without."
        return _without_thread(_not_known(text))
    seat = _judged(joint, mount)
    if joint.nut in TURNS_WITH_IT and not CONDITIONS[joint.stud.treatment].is_locker:
        text = (
            "Its nut brakes on the thread and can turn the stud, in or out: locker in its seat, "
            "or hold it by two nuts jammed on its end."
        )
        return replace(seat, findings=(*seat.findings, finding("stud may turn", text)))
    return seat
