"""When a fitted plate is due again, and what a found torque means."""

from __future__ import annotations

from dataclasses import dataclass

from rugged_shield.core.amounts import amount, entered
from rugged_shield.core.result import Finding, Source, Verdict, finding, worst

FIRST_CHECK_KM = 100.0
LOSS_SHARE = 0.80
KEEP_SOURCE = Source("workshop practice: first ride or 100 km, sooner for soft layers", "medium")


@dataclass(frozen=True, kw_only=True)
class FittedJoint:
    """A joint as fitted: target N·m, found N·m when re-checked, what settles in it."""

    key: str
    number: int
    name: str
    target_nm: float
    found_nm: float | None
    has_plastic: bool
    has_rubber: bool
    greased: bool


@dataclass(frozen=True, kw_only=True)
class DueState:
    """What is due, in words and in km; ``checks_left`` are joints not yet re-checked."""

    state: str
    words: str
    short: str
    due_at_km: float | None
    km_left: float | None
    checks_left: tuple[str, ...]
    verdict: Verdict
    findings: tuple[Finding, ...]
    reasons: tuple[str, ...]
    sources: tuple[Source, ...]


def found_finding(joint: FittedJoint) -> Finding | None:
    """A loss when the found torque is below 80 % of the target."""
    if joint.found_nm is None or joint.found_nm >= LOSS_SHARE * joint.target_nm:
        return None
    return finding(
        "loss found",
        f"Joint {joint.number} was found at {amount(joint.found_nm, 'N·m')} of "
        f"{amount(joint.target_nm, 'N·m')}: "
        f"less than {LOSS_SHARE:.0%}. Tighten it again and look at it after the next ride.",
        joint.key,
    )


def _why(joints: tuple[FittedJoint, ...]) -> tuple[str, ...]:
    reasons = [
        f"Coatings, gaskets and new faces settle in the first {entered(FIRST_CHECK_KM, 'km')}."
    ]
    for flag, words in (
        ("has_plastic", "plastic under the clamp creeps"),
        ("has_rubber", "rubber sets"),
        ("greased", "greased threads let go sooner"),
    ):
        numbers = ", ".join(str(j.number) for j in joints if getattr(j, flag))
        if numbers:
            reasons.append(f"Look at {numbers} first: {words}.")
    return tuple(reasons)


def first_check(
    joints: tuple[FittedJoint, ...], fitted_at_km: float | None, now_km: float | None, done: bool
) -> DueState:
    """The first re-check: 100 km after fitting or after the first ride, whichever is first.

    ``done`` tells that the fitting's steps are all done; km on the bike's own
    counter. A first ride is any distance ridden since.
    """
    losses = tuple(f for f in (found_finding(j) for j in joints) if f)
    left = tuple(j.key for j in joints if j.found_nm is None)
    reasons, sources = _why(joints), (KEEP_SOURCE,)
    if not done or fitted_at_km is None:
        return DueState(
            state="not fitted",
            words="Nothing is due: the plate is not fitted yet.",
            short="not fitted yet",
            due_at_km=None,
            km_left=None,
            checks_left=left,
            verdict="not known",
            findings=losses,
            reasons=reasons,
            sources=sources,
        )
    due_km = fitted_at_km + FIRST_CHECK_KM
    ridden = max(0.0, (now_km if now_km is not None else fitted_at_km) - fitted_at_km)
    if not left:
        state, words = "checked", "First re-check done on every joint."
        short = "first re-check done"
        found: tuple[Finding, ...] = losses
    elif ridden > 0:
        state, short = "due", "first re-check due now"
        words = f"First re-check is due now: {amount(ridden, 'km', 0)} ridden since fitting."
        found = (finding("due now", words), *losses)
    else:
        state, short = "waiting", f"re-check by {amount(due_km, 'km', 0)}"
        words = f"First re-check after the first ride, at {amount(due_km, 'km', 0)} at the latest."
        found = losses
    return DueState(
        state=state,
        words=words,
        short=short,
        due_at_km=due_km,
        km_left=max(0.0, FIRST_CHECK_KM - ridden),
        checks_left=left,
        verdict=worst(f.verdict for f in found),
        findings=found,
        reasons=reasons,
        sources=sources,
    )
