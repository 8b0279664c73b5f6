"""All that is found about the plate that is on: its fit, its joints, its work, what befell it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from rugged_shield.core.amounts import amount
from rugged_shield.core.assess.fitup.pose import fitted_joints, plate_pose
from rugged_shield.core.assess.gate.fit import fit_seen
from rugged_shield.core.assess.keep.blows import blows_of
from rugged_shield.core.assess.keep.due import joints_found
from rugged_shield.core.assess.kit.debts import debts_of
from rugged_shield.core.assess.tighten.cards import (
    card_of,
    far_cards,
    reading_figure,
    state_findings,
)
from rugged_shield.core.assess.tighten.clocks import clocks_of
from rugged_shield.core.assess.tighten.near_heat import heat_at_joints
from rugged_shield.core.assess.tighten.plan import done_steps, plan_of
from rugged_shield.core.assess.weighup.scorecard import weigh
from rugged_shield.core.event import PlateRecord, of_plate
from rugged_shield.core.fitup.joint import Joint
from rugged_shield.core.job.edits.clearances import usual_left
from rugged_shield.core.job.events import Record
from rugged_shield.core.job.model import Job, mounted
from rugged_shield.core.keep.blows import was_looked_after
from rugged_shield.core.keep.due import found_finding
from rugged_shield.core.keep.events import counting, last_oil
from rugged_shield.core.mechanics import threads
from rugged_shield.core.moments import minute_words
from rugged_shield.core.result import Finding, from_table
from rugged_shield.core.survey.measures import geometry_findings, piece_gaps
from rugged_shield.core.tables.hardware import LOCKING_NUTS
from rugged_shield.core.tighten.all_started import joint_states
from rugged_shield.core.tighten.curing import has_passed, lies_ahead
from rugged_shield.core.tighten.register import open_on_bike

LEAST_SCREW_MM = 6.0
HARD_STRIKE_J = 60.0
"""From here on a screw under M6 that holds the plate is minded."""


def judged(job: Job, record: Record, now: str = "") -> tuple[Finding, ...]:
    """Every finding about the plate in hand, each once; ``now`` as ISO text, as late as the last
    line of the record where it is not given.
    """
    lines = of_plate(record, job.in_hand.key)
    at = now or (record[-1].at if record else "")
    found = [
        *_plate(job),
        *_joints(job, lines),
        *_strength(job),
        *_fit(job),
        *_work(job, record, lines, at),
        *_befell(job, record, lines),
    ]
    return tuple(dict.fromkeys(found))


def _plate(job: Job) -> Iterator[Finding]:
    """What the weighing says of the plate; its joints speak for themselves."""
    if not job.picked:
        yield from_table("no plate picked")
    for found in weigh(job, job.in_hand.key).findings:
        if found.code != "joint blocked":
            yield found
    folded = plate_pose(job.bike, job.in_hand).folded
    if job.in_hand.plate.pieces:
        yield from geometry_findings(folded, piece_gaps(folded))


def _about(found: Finding, key: str) -> Finding:
    return found if found.where == key else replace(found, where=key)


def _of_joint(found: Finding, joint: Joint) -> Finding:
    """A finding of a joint as it stands among those of others: one that is about the joint names
    it already.
    """
    if found.where == joint.key:
        return found
    return replace(found, where=joint.key, text=f"Joint {joint.number}: {found.text}")


def _joints(job: Job, lines: PlateRecord) -> Iterator[Finding]:
    """Stack, thread, torque and record of every joint."""
    places = mounted(job.bike, job.in_hand)
    if not places:
        yield from_table("no joints entered", job.in_hand.key)
    states = joint_states(lines, plan_of(job, job.in_hand.key).built)
    for at, fitted in zip(places, fitted_joints(job.in_hand.plate, places), strict=True):
        key = at.joint.key
        card = card_of(at.joint, at.mount, job.wrench)
        shown = reading_figure(states[key], card.result)
        of_joint = [
            *fitted.findings,
            *card.findings,
            *(f for far, far_card in far_cards(at.joint, at.mount, job.wrench)
              for f in (*far.findings, *far_card.findings)),
            *state_findings(states[key], card.result),
            *(shown.findings if shown is not None else ()),
            *_lock_nut(at.joint.nut, key, at.joint.number, lines),
        ]  # fmt: skip
        yield from (_of_joint(f, at.joint) for f in of_joint)


def _lock_nut(nut: str, key: str, number: int, lines: PlateRecord) -> tuple[Finding, ...]:
    """A lock nut that came off for the oil: new, used again, or nobody said."""
    oil = last_oil(lines, key)
    if nut not in LOCKING_NUTS or oil is None or oil.nuts == "new":
        return ()
    if oil.nuts == "used again":
        return (from_table("lock nut used again", key, number=str(number)),)
    return (from_table("lock nut not known", key, number=str(number)),)


def _strength(job: Job) -> Iterator[Finding]:
    """What heat does to lockers, and a strike to small screws."""
    yield from heat_at_joints(job)
    for joint in job.in_hand.settled_joints():
        small = threads.row_of(joint.thread).d_mm < LEAST_SCREW_MM
        if small and joint.hangs_plate and job.use.energy_j >= HARD_STRIKE_J:
            yield from_table(
                "screws small for the strike",
                joint.key,
                thread=f"Joint {joint.number}: {joint.thread}",
                energy=amount(job.use.energy_j, "J", 0),
            )


def _fit(job: Job) -> Iterator[Finding]:
    """Holes, gaps, pieces and neighbours as they were looked at, and what was not."""
    for findings in fit_seen(job).values():
        yield from findings
    left = usual_left(job.bike)
    if left:
        names = ", ".join(n.name for n in left)
        yield from_table("nothing near it looked at", names=names)


def _work(job: Job, record: Record, lines: PlateRecord, now: str) -> Iterator[Finding]:
    """Steps, the bike's own joints, lockers, substitutes."""
    plan = plan_of(job, job.in_hand.key)
    done = done_steps(plan, lines)
    for step in plan.steps:
        if not step.joint and step.key not in done:
            yield from_table("step open", step.key, title=step.title)
    for one in open_on_bike(record):
        yield from_table("open on the bike", one.joint, name=one.name)
    for clock in clocks_of(job, lines):
        number = str(clock.number)
        if clock.set_before:
            yield from_table("locker had set", clock.joint, number=number)
        if lies_ahead(clock.since, now):
            since = minute_words(clock.since)
            yield from_table("time lies ahead", clock.joint, number=number, since=since)
            continue
        if clock.kind != "cure" or has_passed(clock.until, now):
            continue
        if clock.until:
            until = minute_words(clock.until)
            yield from_table("locker cures", clock.joint, number=number, until=until)
        else:
            yield from_table("cure not known", clock.joint, number=number)
    for debt in debts_of(job):
        if debt.paid:
            continue
        if debt.verdict == "blocked":
            yield from_table(
                "may not stand in",
                debt.joint_key,
                number=str(debt.joint),
                used=debt.used,
                instead=debt.instead_of,
            )
        elif debt.owed:
            yield from (_about(f, debt.joint_key) for f in debt.findings if f.code == "owed")


def _befell(job: Job, record: Record, lines: PlateRecord) -> Iterator[Finding]:
    """Blows since, and what a re-check found loose."""
    counted = counting(lines)
    for struck, blow in blows_of(job, counted):
        day, about = struck.at[:10] or "a day that was not said", f"blow:{struck.seq}"
        if blow.left_mm is not None and blow.left_mm <= 0.0:
            yield from_table("dented to what lies behind", about, day=day, near=blow.near)
        elif any(f.code == "standoff small" for f in blow.findings):
            left = amount(blow.left_mm or 0.0, "mm", 1)
            yield from_table(
                "short of room behind a dent", about, day=day, near=blow.near, left=left
            )
        elif blow.is_hard and not blow.mended and not was_looked_after(struck, counted):
            yield from_table("blow not looked at", about, day=day)
    for joint in joints_found(job, counted):
        lost = found_finding(joint)
        if lost is not None and joint.tightened_nm is None:
            yield _about(lost, joint.key)
