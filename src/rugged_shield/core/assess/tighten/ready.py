"""Whether a plate can be ridden: what the record still lacks, and what it contradicts."""

from __future__ import annotations

from dataclasses import dataclass

from rugged_shield.core.assess.fitup import fitted_joints, neighbours_judged
from rugged_shield.core.assess.kit import debts_of
from rugged_shield.core.assess.tighten.cards import card_of, reading_figure
from rugged_shield.core.assess.tighten.plan import done_steps, plan_of
from rugged_shield.core.event import PlateRecord, of_plate
from rugged_shield.core.job import Job, Record, mounted
from rugged_shield.core.result import Verdict, worst
from rugged_shield.core.tables.friction import CONDITIONS
from rugged_shield.core.tables.lockers import ASSUMED_C
from rugged_shield.core.tighten import (
    LockerClock,
    far_nut_clocks,
    has_passed,
    joint_states,
    locker_clocks,
    open_on_bike,
)


@dataclass(frozen=True)
class Ready:
    """Sound only when nothing is missing and no reading speaks against it."""

    verdict: Verdict
    missing: tuple[str, ...]


def clocks_of(job: Job, lines: PlateRecord) -> tuple[LockerClock, ...]:
    """Clocks of every joint of the plate in hand that has locker on its thread."""
    plan = plan_of(job, job.in_hand.key)
    lockered = {j.key: j.number for j in job.in_hand.joints if CONDITIONS[j.treatment].is_locker}
    celsius = ASSUMED_C if job.use.garage_c is None else job.use.garage_c
    done = done_steps(plan, lines)
    far = {
        f"far:{j.key}:{e.key}": (j.key, j.number)
        for j in job.in_hand.joints
        for e in j.beyond
        if CONDITIONS[e.treatment].is_locker
    }
    return (
        *locker_clocks(lines, plan.built, lockered, celsius),
        *far_nut_clocks(lines, {k: v for k, v in far.items() if k in done}, celsius),
    )


def _curing(job: Job, lines: PlateRecord, now: str) -> list[str]:
    """Lockers that do not hold yet, or of which it is not known."""
    out = []
    for clock in clocks_of(job, lines):
        if clock.set_before:
            out.append(f"the locker of joint {clock.number} had set before it was torqued")
        if clock.kind != "cure" or has_passed(clock.until, now):
            continue
        if clock.until:
            out.append(f"the locker of joint {clock.number} cures until {clock.until[:16]}")
        else:
            out.append(
                f"the locker of joint {clock.number}: too cold to cure, or when is not known"
            )
    return out


def _not_to_ride_on(job: Job) -> list[str]:
    """Joints that Fit-up blocks, and substitutes that their joint does not bear."""
    fitted = fitted_joints(job.in_hand.plate, mounted(job.bike, job.in_hand))
    out = [f"joint {a.joint.number} is blocked in Fit-up" for a in fitted if a.verdict == "blocked"]
    out += [
        f"joint {d.joint}: {d.used} may not stand in for {d.instead_of}"
        for d in debts_of(job)
        if d.verdict == "blocked" and not d.paid
    ]
    return out


def ready_of(job: Job, record: Record, now: str = "") -> Ready:
    """What is missing before the first ride: a pick, joints, readings, open steps, what is open.

    ``now`` is an ISO time; without one it is as late as the last line of the record.
    """
    missing = [] if job.picked else ["no plate is picked"]
    joints = mounted(job.bike, job.in_hand)
    if not joints:
        missing.append("the plate has no joints")
    plan = plan_of(job, job.in_hand.key)
    lines = of_plate(record, job.in_hand.key)
    states = joint_states(lines, plan.built)
    verdicts: list[Verdict] = []
    for at in joints:
        state = states[at.joint.key]
        shown = reading_figure(state, card_of(at.joint, at.mount, job.wrench).result)
        if shown is None:
            missing.append(f"joint {at.joint.number} is not torqued")
        elif state.before_change is not None:
            missing.append(f"joint {at.joint.number} was changed since it was torqued")
        else:
            verdicts.append(shown.verdict)
    done = done_steps(plan, lines)
    missing += _not_to_ride_on(job)
    missing += [f"{o.name} is open on the bike" for o in open_on_bike(record)]
    missing += _curing(job, lines, now or (record[-1].at if record else ""))
    missing += [f"open: {s.title}" for s in plan.steps if not s.joint and s.key not in done]
    near = neighbours_judged(job, job.in_hand) if job.bike.neighbours else ()
    missing += [f"{n.name}, {n.state}: {n.how}" for n in near if n.verdict not in ("sound", "mind")]
    found = worst([*verdicts, *(n.verdict for n in near)])
    return Ready(worst((found, "not known")) if missing else found, tuple(missing))
