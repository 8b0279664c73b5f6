"""What is due on a fitted plate, in one sentence, and what a found torque means."""

from __future__ import annotations

from dataclasses import dataclass

from rugged_shield.core.amounts import amount, percent
from rugged_shield.core.keep.dues import Due
from rugged_shield.core.result import Finding, Source, Verdict, finding, verdict_of, worst
from rugged_shield.core.tables.dues import FIRST_RECHECK

LOSS_SHARE = 0.80
KEEP_SOURCE = Source("workshop practice: first ride or 100 km, sooner for soft layers", "medium")


@dataclass(frozen=True, kw_only=True)
class FittedJoint:
    """A joint as fitted: target and recorded N·m, how it was found, what settles in it.

    ``found_nm`` None: not re-checked. A joint that ``did_not_move`` holds at least that much.
    ``left_share`` is the preload left after settling; None where it is not known.
    """

    key: str
    number: int
    name: str
    target_nm: float
    recorded_nm: float | None
    found_nm: float | None
    tightened_nm: float | None = None
    did_not_move: bool = False
    has_plastic: bool
    has_rubber: bool
    greased: bool
    left_share: float | None = None


@dataclass(frozen=True, kw_only=True)
class DueState:
    """What is due, in words; ``checks_left`` are joints not yet re-checked since fitting."""

    state: str
    words: str
    short: str
    verdict: Verdict
    checks_left: tuple[str, ...]
    findings: tuple[Finding, ...]
    reasons: tuple[str, ...]
    sources: tuple[Source, ...]


def is_lost(joint: FittedJoint) -> bool:
    """Found below 80 % of its target, or of what was recorded when it was fitted."""
    if joint.found_nm is None or joint.did_not_move:
        return False
    held = [n for n in (joint.target_nm, joint.recorded_nm) if n is not None]
    return joint.found_nm < LOSS_SHARE * max(held)


def found_finding(joint: FittedJoint) -> Finding | None:
    """A loss when the found torque is below 80 % of the target or of what was recorded."""
    if not is_lost(joint):
        return None
    against = f"{amount(joint.target_nm, 'N·m')} wanted"
    if joint.recorded_nm is not None and joint.recorded_nm > joint.target_nm:
        against = f"{amount(joint.recorded_nm, 'N·m')} recorded"
    then = (
        "Tighten it again and look at it after the next ride."
        if joint.tightened_nm is None
        else f"Tightened to {amount(joint.tightened_nm, 'N·m')}: look at it after the next ride."
    )
    return finding(
        "loss found",
        f"Joint {joint.number} was found at {amount(joint.found_nm or 0.0, 'N·m')}, {against}: "
        f"less than {percent(LOSS_SHARE)}. {then}",
        joint.key,
    )


def settles(joints: tuple[FittedJoint, ...]) -> tuple[str, ...]:
    """Why these joints are looked at sooner: what creeps, sets, lets go, or was found loose."""
    reasons = []
    for holds, words in (
        (lambda j: j.has_plastic, "plastic under the clamp creeps"),
        (lambda j: j.has_rubber, "rubber sets"),
        (lambda j: j.greased, "greased threads let go sooner"),
        (lambda j: j.left_share is not None and j.left_share < 0.75, "little preload is left"),
        (is_lost, "found loose at the last re-check"),
    ):
        numbers = ", ".join(str(j.number) for j in joints if holds(j))
        if numbers:
            reasons.append(f"Look at {numbers} first: {words}.")
    return tuple(reasons)


def due_state(
    joints: tuple[FittedJoint, ...], dues: tuple[Due, ...], open_steps: int | None
) -> DueState:
    """What is due in one sentence: the first of the dues. ``open_steps`` None: it is fitted."""
    losses = tuple(f for f in (found_finding(j) for j in joints) if f)
    left = tuple(j.key for j in joints if j.found_nm is None)
    reasons = (
        f"Coatings, gaskets and new faces settle in the first "
        f"{amount(FIRST_RECHECK.every_km or 0.0, 'km', 0)}.",
        *settles(joints),
    )

    def said(
        state: str, words: str, short: str, verdict: Verdict, found: tuple[Finding, ...]
    ) -> DueState:
        return DueState(
            state=state,
            words=words,
            short=short,
            verdict=verdict,
            checks_left=left,
            findings=found,
            reasons=reasons,
            sources=(KEEP_SOURCE,),
        )

    if open_steps is not None:
        steps = "no plate is fitted yet" if open_steps == 0 else _steps(open_steps)
        words = f"Nothing is due: {steps}."
        return said("not fitted", words, "not fitted yet", verdict_of("nothing told"), losses)
    first = dues[0]
    verdict = worst([*(d.verdict for d in dues), *(f.verdict for f in losses)])
    if first.state == "now":
        came_round = first.km_left is not None or first.in_days is not None
        when = f" is due {first.left}" if came_round else ""
        words = f"{first.label}{when}: {first.words}."
        now = (finding("due now", words), *losses)
        short = f"{first.label.lower()} due {first.left}" if came_round else first.label.lower()
        return said("due", words, short, verdict, now)
    coming = next((d for d in dues if d.state in ("soon", "later")), first)
    words = f"Nothing is due now; next: {coming.label.lower()} {coming.left}."
    return said("waiting", words, f"{coming.label.lower()} {coming.left}", verdict, losses)


def _steps(count: int) -> str:
    return f"{count} steps of the plan are open" if count > 1 else "1 step of the plan is open"
