"""What is due on a fitted plate, from the record alone; who asks says what day it is."""

from __future__ import annotations

from dataclasses import dataclass, replace

from rugged_shield.core.amounts import amount
from rugged_shield.core.assess.fitup.joints import assess_joint
from rugged_shield.core.assess.keep.blows import blows_of
from rugged_shield.core.assess.keep.wear import wear_dues
from rugged_shield.core.assess.kit.debts import debts_of
from rugged_shield.core.assess.tighten.cards import card_of
from rugged_shield.core.assess.tighten.clocks import clocks_of
from rugged_shield.core.assess.tighten.plan import done_steps, plan_of
from rugged_shield.core.assess.tighten.settling import settled_figure
from rugged_shield.core.event import Happened, PlateRecord, of_kind, of_plate
from rugged_shield.core.figures import figure
from rugged_shield.core.fitup.joint import clamped
from rugged_shield.core.job.events import Record
from rugged_shield.core.job.model import Job, MountedJoint, mounted
from rugged_shield.core.keep.blows import was_looked_after
from rugged_shield.core.keep.distance import Odometer, odometer
from rugged_shield.core.keep.due import (
    DueState,
    FittedJoint,
    due_state,
    found_finding,
    is_lost,
    settles,
)
from rugged_shield.core.keep.dues import DAY_S, Due, Gone, State, due_by_rule, in_order, put_off
from rugged_shield.core.keep.events import (
    DidNotMove,
    FoundTorque,
    LookedOver,
    Snoozed,
    counting,
    last_found,
)
from rugged_shield.core.moments import minute_words, seconds_of
from rugged_shield.core.result import Figure, Input, Verdict, verdict_of, worst
from rugged_shield.core.tables.dues import FIRST_RECHECK, LOOK, PRACTICE, RECHECK, RUBBER
from rugged_shield.core.tables.friction import CONDITIONS
from rugged_shield.core.tighten.all_started import joint_states
from rugged_shield.core.tighten.curing import has_passed
from rugged_shield.core.tighten.events import Reading, RiddenAnyway


@dataclass(frozen=True)
class Kept:
    """A plate in Keep: its joints as fitted, how far it went, everything that is due.

    ``fitted_at`` is the line of the record that closed its plan; None while steps are open.
    """

    joints: tuple[FittedJoint, ...]
    odometer: Odometer
    fitted_at: Happened | None
    dues: tuple[Due, ...]
    state: DueState


def _share_left(at: MountedJoint, preload_n: float) -> float | None:
    left = settled_figure(at.joint, at.mount, preload_n).value
    return None if left is None or preload_n <= 0.0 else left / preload_n


def joints_found(job: Job, lines: PlateRecord) -> tuple[FittedJoint, ...]:
    """Every joint of the plate in hand as it was torqued and as it was found last."""
    states = joint_states(lines, plan_of(job, job.in_hand.key).built)
    found, fitted = last_found(lines), []
    for at in mounted(job.bike, job.in_hand):
        joint, state = at.joint, states[at.joint.key]
        layers = clamped(assess_joint(joint, at.mount).joint)
        card = card_of(joint, at.mount, job.wrench).result
        last = found.get(joint.key)
        if last is not None and state.reading is not None and last.seq < state.reading.seq:
            last = None  # torqued anew since
        fitted.append(
            FittedJoint(
                key=joint.key,
                number=joint.number,
                name=joint.name,
                target_nm=card.target_nm,
                recorded_nm=state.reading.torque_nm if state.reading else None,
                found_nm=last.torque_nm if last else None,
                tightened_nm=getattr(last, "tightened_nm", None),
                did_not_move=last is not None and last.kind == "did not move",
                has_plastic=any(layer.is_plastic for layer in layers),
                has_rubber=any(layer.is_soft for layer in layers),
                greased=CONDITIONS[joint.treatment].is_lubricant,
                left_share=_share_left(at, card.preload_min_n),
            )
        )
    return tuple(fitted)


def _off_again(job: Job, lines: PlateRecord) -> tuple[str, ...]:
    """Joints that were torqued once and are loose again: off for the oil, or their thread hurt."""
    states = joint_states(lines, plan_of(job, job.in_hand.key).built)
    return tuple(
        key
        for key, state in states.items()
        if state.reading is None and state.loosened is not None and state.since_renewed
    )


def _open_steps(job: Job, lines: PlateRecord) -> int | None:
    """Steps of the plan that are open; None when it is fitted, 0 when no plate is picked.

    Who rode though something was missing has a fitted plate all the same; so has who took some of
    its screws out again for the oil.
    """
    plan = plan_of(job, job.in_hand.key)
    if not job.picked or not plan.steps:
        return 0
    done = done_steps(plan, lines)
    again = _off_again(job, lines)
    left = [s for s in plan.steps if s.key not in done and s.joint not in again]
    ridden = bool(of_kind(lines, RiddenAnyway))
    if ridden and not any(s.kind == "full" for s in left):
        return None
    return len(left) or None


def _last(lines: PlateRecord, *kinds: type[Happened]) -> Happened | None:
    return next(reversed(of_kind(lines, *kinds)), None)


def _days_between(then: str, now: str) -> float | None:
    a, b = seconds_of(then), seconds_of(now)
    return None if a is None or b is None else max(0.0, (b - a) / DAY_S)


def _fitted_line(job: Job, lines: PlateRecord) -> Reading | None:
    """The oldest reading that still stands: a joint that was torqued anew makes no new fitting."""
    states = joint_states(lines, plan_of(job, job.in_hand.key).built)
    standing = [s.reading for s in states.values() if s.reading is not None]
    standing += [s.since_renewed[-1] for s in states.values() if s.loosened and s.since_renewed]
    return min(standing, key=lambda e: e.seq, default=None)


@dataclass(frozen=True)
class _Clock:
    """What has gone by since a line of the record, on the day that was said."""

    odometer: Odometer
    now: str

    def gone(self, since: Happened) -> Gone:
        km, hours = self.odometer.since(since.seq)
        return Gone(km=km, hours=hours, days=_days_between(since.at, self.now))

    def km_per_day(self, fitted: Happened) -> float | None:
        """How much is ridden; None before a week is over or a ride is told."""
        gone = self.gone(fitted)
        if gone.days is None or gone.days < 7.0 or gone.km <= 0.0:
            return None
        return gone.km / gone.days


def _recheck_due(
    joints: tuple[FittedJoint, ...], lines: PlateRecord, fitted: Happened, clock: _Clock
) -> Due:
    """The first re-check until every joint was looked at, then the next."""
    rate = clock.km_per_day(fitted)
    if any(j.found_nm is None for j in joints):
        gone = clock.gone(fitted)
        due = due_by_rule(FIRST_RECHECK, gone, settles(joints), rate)
        if due.state != "now" and (gone.km > 0.0 or gone.hours > 0.0):
            ridden = amount(gone.km, "km", 0) if gone.km else amount(gone.hours, "h", 1)
            reasons = (f"The first ride is over: {ridden}.", *due.reasons)
            return _now(due, reasons)
        return due
    oldest = min(last_found(lines).values(), key=lambda e: e.seq)
    due = due_by_rule(RECHECK, clock.gone(oldest), settles(joints), rate)
    loose = [str(j.number) for j in joints if is_lost(j) and j.tightened_nm is None]
    if loose:
        return _now(due, (f"Joint {', '.join(loose)} was found loose and not tightened.",))
    return due


def _now(due: Due, reasons: tuple[str, ...]) -> Due:
    return replace(
        due, state="now", verdict=verdict_of("due now"), left="now", share=1.0, reasons=reasons
    )


def _blow_dues(job: Job, lines: PlateRecord) -> list[Due]:
    """Blows that nobody looked after; one that left no room until the plate itself is mended."""
    out = []
    for struck, blow in blows_of(job, lines):
        is_open = blow.is_hard and not was_looked_after(struck, lines)
        if blow.verdict == "blocked" or is_open:
            due = _event(f"blow:{struck.seq}", "Look after a blow", blow.act, "now", blow.energy)
            out.append(replace(due, verdict=worst((blow.verdict, verdict_of("due now")))))
    return out


def _events_due(job: Job, lines: PlateRecord, now: str) -> list[Due]:
    """What came off and is not torqued, debts, and locker that does not hold yet."""
    out = []
    again = _off_again(job, lines)
    if again:
        numbers = ", ".join(str(j.number) for j in job.in_hand.joints if j.key in again)
        words = f"joint {numbers} came off and is not torqued since"
        out.append(_event("torque again", "Torque again", words, "now", "Not before it is ridden."))
    for debt in debts_of(job):
        if debt.owed and not debt.paid:
            words = f"joint {debt.joint}: {debt.instead_of} instead of {debt.used}"
            until = f" ({debt.replace_by})" if debt.replace_by else ""
            out.append(_event(f"debt:{debt.key}", "Debt", words + until, "soon", debt.note))
    for clock in clocks_of(job, lines):
        if clock.kind == "cure" and not (clock.until and has_passed(clock.until, now)):
            words = f"the locker of joint {clock.number} does not hold yet"
            until = minute_words(clock.until)
            out.append(_event(f"locker:{clock.joint}", "Locker", words, "now", until))
    return out


def _event(key: str, label: str, words: str, state: State, why: str) -> Due:
    return Due(
        key=key,
        label=label,
        words=words,
        state=state,
        verdict=verdict_of("due now"),
        left="now" if state == "now" else "when you can",
        share=1.0 if state == "now" else 0.9,
        km_left=None,
        in_days=None,
        is_forecast=False,
        reasons=(why,) if why else (),
        source=PRACTICE,
        may_put_off=False,
    )


_DOES: dict[str, tuple[type[Happened], ...]] = {
    FIRST_RECHECK.key: (FoundTorque, DidNotMove),
    RECHECK.key: (FoundTorque, DidNotMove),
    LOOK.key: (LookedOver,),
    RUBBER.key: (LookedOver,),
}
"""What does a due thing: it ends what was put off before it."""


def put_off_stands(off: Snoozed, lines: PlateRecord, counter_km: float | None, now: str) -> bool:
    """Whether something is still put off: neither its counter nor its day has come."""
    done = any(e.seq > off.seq for e in of_kind(lines, *_DOES.get(off.due, ())))
    has_km = off.until_km is not None and counter_km is not None
    late_km = has_km and (counter_km or 0.0) >= (off.until_km or 0.0)
    # ``now`` bears the rider's own offset: his day has come with his midnight.
    late = bool(off.until) and now[:10] >= off.until
    return not (done or late_km or late)


def _put_off(dues: list[Due], lines: PlateRecord, counter_km: float | None, now: str) -> list[Due]:
    """Dues with what was put off marked; one whose time has come is urged again."""
    told = {e.due: e for e in of_kind(lines, Snoozed)}
    out = []
    for due in dues:
        off = told.get(due.key)
        is_off = off is not None and due.may_put_off and due.state == "now"
        if off is not None and is_off and put_off_stands(off, lines, counter_km, now):
            out.append(put_off(due, off.reason))
        else:
            out.append(due)
    return out


def kept(job: Job, record: Record, now: str = "") -> Kept:
    """The plate in hand in Keep. ``now`` as ISO text; without it nothing is due by its age."""
    lines = counting(of_plate(record, job.in_hand.key))
    axis, joints = odometer(lines, job.odometer_km), joints_found(job, lines)
    left = _open_steps(job, lines)
    fitted = None if left is not None else _fitted_line(job, lines)
    dues: list[Due] = []
    if fitted is not None and joints:
        clock = _Clock(axis, now)
        rate = clock.km_per_day(fitted)
        looked = _last(lines, LookedOver) or fitted
        dues = [
            _recheck_due(joints, lines, fitted, clock),
            due_by_rule(LOOK, clock.gone(looked), (), rate),
        ]
        if any(j.has_rubber for j in joints):
            dues.append(due_by_rule(RUBBER, clock.gone(looked), (), rate))
        dues += wear_dues(job, lines, axis, rate)
        dues += _blow_dues(job, lines) + _events_due(job, lines, now)
        dues = _put_off(dues, lines, axis.counter_km, now)
    ordered = in_order(dues)
    state = due_state(joints, ordered, None if dues else left or 0)
    return Kept(joints, axis, fitted, ordered, state)


def due_of(job: Job, record: Record, now: str = "") -> DueState:
    """What is due on the picked plate, in one sentence."""
    return kept(job, record, now).state


@dataclass(frozen=True)
class Recheck:
    """A joint at the re-check: what it should hold, how it was found, and what that means."""

    joint: FittedJoint
    target: Figure
    recorded: Figure
    found: Figure | None
    verdict: Verdict
    words: str


def _recheck(at: MountedJoint, joint: FittedJoint, job: Job) -> Recheck:
    card = card_of(at.joint, at.mount, job.wrench)
    target = figure(
        "target",
        "Target",
        joint.target_nm,
        "N·m",
        inputs=card.inputs,
        reasons=card.reasons,
        assumptions=card.assumptions,
        sources=card.sources,
    )
    recorded = figure("recorded", "Recorded when fitted", joint.recorded_nm, "N·m")
    if joint.found_nm is None:
        return Recheck(
            joint, target, recorded, None, verdict_of("not re-checked"), "not re-checked yet"
        )
    found = figure(
        "found",
        "Held at the re-check" if joint.did_not_move else "Found at the re-check",
        joint.found_nm,
        "N·m",
        inputs=(
            Input("Target", joint.target_nm, "N·m"),
            Input("Recorded when fitted", joint.recorded_nm, "N·m"),
        ),
        reasons=("A loss is what is found below 80 % of the target or of what was recorded.",),
    )
    loss = found_finding(joint)
    if loss is not None:
        return Recheck(joint, target, recorded, found, loss.verdict, loss.text)
    words = "did not move" if joint.did_not_move else "holds"
    return Recheck(joint, target, recorded, found, verdict_of(None), words)


def rechecks(job: Job, joints: tuple[FittedJoint, ...]) -> tuple[Recheck, ...]:
    """Every joint of the plate in hand as the last re-check left it."""
    places = mounted(job.bike, job.in_hand)
    return tuple(_recheck(at, joint, job) for at, joint in zip(places, joints, strict=True))
